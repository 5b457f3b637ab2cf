import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type TriangleMesh, TriangleTree } from '../mesh/index.ts'
import { partOf } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { gapCheck } from './gap.ts'
import { springsCheck } from './springs.ts'
import { strainRank, strainText } from './strain.ts'

const { material } = partOf([])
const [often, once] = [material.strainOften / 100, material.strainOnce / 100]
const nothing = [Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]

describe('a strain', () => {
  it('is sound up to what is taken again and again, told up to what is taken once, and a fault beyond, either way', () => {
    fc.assert(
      fc.property(real(0, 3 * once), fc.boolean(), (size, back) => {
        const rank = strainRank(back ? -size : size, material)
        expect(rank).toBe(100 * size <= 100 * often ? 'pass' : 100 * size <= 100 * once ? 'warning' : 'fault')
      }),
    )
  })
  it.each(nothing)('of %d is nothing that passes', (strain) => {
    expect(strainRank(strain, material)).toBeUndefined()
  })
  it('is told on the side of the limit that it is on', () => {
    fc.assert(
      fc.property(real(0.9, 1.1), (share) => {
        const text = strainText((share * material.strainOften) / 100, material.strainOften)
        expect(Number(text) > material.strainOften).toBe(
          100 * ((share * material.strainOften) / 100) > material.strainOften,
        )
        expect(Math.abs(Number(text) - share * material.strainOften)).toBeLessThan(0.06)
      }),
    )
  })
})

describe('what gives no number passes nowhere', () => {
  it.each([...nothing, undefined])('a spring that is strained by %d', async (strain) => {
    const spring = () => {
      if (strain === undefined) throw new Error('no such spring')
      return { strain, travel: 1.5, per: 'mm', force: 3, rate: 2 }
    }
    const part = partOf([{ kind: 'shape', id: 'a', name: 'Arm' } as never])
    const steps = new Map([['a', { shape: { spring }, values: {}, present: true }]])
    const resolved = { part, steps, joints: new Map() }
    if (springsCheck.scope !== 'part') throw new Error('springs are of the part')
    const findings = await springsCheck.run({ built: { resolved } } as never)
    expect(findings.map(({ rank }) => rank)).toEqual(['warning'])
  })
  it.each([
    [Number.NaN, 'warning'],
    [partOf([]).printer.leastGap, 'pass'],
    [0, 'fault'],
  ])('a gap of %d', async (gap, rank) => {
    const part = partOf([])
    const solidAt = (z: number) => ({
      bounds: () => ({ min: [0, 0, z], max: [1, 1, z] }),
      mesh: () => ({
        positions: Float32Array.from([0, 0, z, 1, 0, z, 0, 1, z]),
        triangles: Uint32Array.from([0, 1, 2]),
      }),
      crossings: () => [],
    })
    const pieces = ['a', 'b'].map((id, i) => ({ built: { solid: solidAt(i * gap), of: id, piece: { id, name: id } } }))
    const shared = { volume: () => 0.5, mesh: () => ({ positions: new Float32Array(), triangles: new Uint32Array() }) }
    const kernel = { scope: (work: (scope: unknown) => unknown) => work({ intersection: () => shared }) }
    const surface = (solid: { mesh(): TriangleMesh }) => new TriangleTree(solid.mesh())
    const tree = () => surface(shared)
    const built = { resolved: { part, printer: part.printer } }
    const kept = (...[, , , find]: unknown[]) => (find as () => unknown)()
    if (gapCheck.scope !== 'part') throw new Error('gaps are of the part')
    const findings = await gapCheck.run({
      ...{ kernel, built, pieces, tree, surface, kept },
      pause: async () => undefined,
    } as never)
    expect(findings.map((each) => each.rank)).toEqual([rank])
  })
})
