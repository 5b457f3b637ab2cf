import { describe, expect, it } from 'vitest'
import { meshFigures, welded } from './index.ts'

const corners = [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1]
const tetra = { positions: new Float64Array(corners), triangles: new Uint32Array([0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]) }
const far = (by: number) => ({ ...tetra, positions: tetra.positions.map((x) => x + by) })

describe('figures of a mesh', () => {
  it('of a tetrahedron: a sixth, wherever it stands', () => {
    const figures = meshFigures(far(1000))
    expect(figures).toMatchObject({
      closed: true,
      oriented: true,
      solids: 1,
      openEdges: 0,
      flippedEdges: 0,
      triangles: 4,
    })
    expect(figures.volume).toBeCloseTo(1 / 6, 10)
    expect(figures.area).toBeCloseTo(1.5 + Math.sqrt(3) / 2, 10)
    expect(figures.max).toEqual([1001, 1001, 1001])
  })
  it('of an open one', () => {
    const figures = meshFigures({ ...tetra, triangles: tetra.triangles.subarray(3) })
    expect(figures).toMatchObject({ closed: false, oriented: false, openEdges: 3 })
  })
  it('of one with a triangle turned over', () => {
    const triangles = Uint32Array.from(tetra.triangles)
    triangles.set([0, 1, 2], 0)
    expect(meshFigures({ ...tetra, triangles })).toMatchObject({ closed: true, oriented: false, flippedEdges: 3 })
  })
  it('of one that is inside out', () => {
    const figures = meshFigures({ ...tetra, triangles: Uint32Array.from(tetra.triangles).reverse() })
    expect(figures).toMatchObject({ closed: true, oriented: false })
    expect(figures.volume).toBeCloseTo(-1 / 6, 10)
  })
  it('of two', () => {
    const positions = new Float64Array([...tetra.positions, ...far(5).positions])
    const triangles = new Uint32Array([...tetra.triangles, ...tetra.triangles.map((v) => v + 4)])
    expect(meshFigures({ positions, triangles })).toMatchObject({ solids: 2, oriented: true })
  })
  it('of none', () => {
    expect(meshFigures({ positions: new Float64Array(), triangles: new Uint32Array() })).toMatchObject({
      closed: false,
      oriented: false,
      solids: 0,
      volume: 0,
      min: [0, 0, 0],
    })
  })
})

it('welds equal corners and drops what collapses', () => {
  const loose = {
    positions: new Float64Array([...tetra.triangles].flatMap((v) => corners.slice(3 * v, 3 * v + 3))),
    triangles: Uint32Array.from({ length: 12 }, (_, i) => i),
  }
  expect(meshFigures(loose).closed).toBe(false)
  expect(meshFigures(welded(loose)).oriented).toBe(true)
  const collapsed = { positions: new Float64Array([0, 0, 0, -0, 0, 0, 1, 1, 1]), triangles: new Uint32Array([0, 1, 2]) }
  expect(welded(collapsed).triangles).toHaveLength(0)
})
