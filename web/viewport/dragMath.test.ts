import type { Offset } from '@makrel/core/document'
import { levelSides, type Vec3, world } from '@makrel/core/place'
import { Matrix4, PerspectiveCamera } from 'three'
import { describe, expect, it } from 'vitest'
import { alongLine, movedOffset, movedText, onPlane, rayAt, snapLines, snapped, turnedText } from './dragMath.ts'
import { project } from './view.ts'

function view(eye: Vec3) {
  const camera = new PerspectiveCamera(22, 800 / 600, 1, 5000)
  camera.up.set(0, 0, 1)
  camera.position.set(...eye)
  camera.lookAt(0, 0, 0)
  camera.updateMatrixWorld()
  const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
  const inverse = matrix.clone().invert()
  return { matrix: matrix.elements, inverse: inverse.elements, eye, width: 800, height: 600, pixelsPerMm: 1 }
}

describe('rays', () => {
  const from = view([200, -300, 200])
  it('through the pixel of a point meet the planes and lines it lies on', () => {
    const p: Vec3 = [12, -7, 5]
    const [x, y] = project(from, p)!
    const ray = rayAt(from, x, y)
    const met = onPlane(ray, [0, 0, 5], [0, 0, 1])!
    for (const i of [0, 1, 2] as const) expect(met[i]).toBeCloseTo(p[i], 3)
    expect(alongLine(ray, [12, -7, 0], [0, 0, 1])).toBeCloseTo(5, 3)
  })
  it('along a plane or a line meet neither', () => {
    const ray = { from: [0, 0, 0], direction: [1, 0, 0] } as const
    expect(onPlane(ray, [0, 0, 5], [0, 0, 1])).toBeUndefined()
    expect(alongLine(ray, [0, 1, 0], [1, 0, 0])).toBeUndefined()
  })
})

describe('snapping', () => {
  const centred = { from: 'centre', to: 'centre', by: 0 } as const
  const geometry = {
    seating: { frame: world, size: [60, 40], sides: levelSides },
    frame: world,
    stands: world,
    reach: () => 0,
    place: { across: centred, along: centred, rest: 'on', lift: 0, turn: 0, tilt: 0, lean: 0 },
    faces: [],
    frames: [],
    made: [],
    extent: [
      [-5, 5],
      [-2, 8],
    ],
  } as const
  const across = snapLines(0, geometry, [{ origin: [13, 4, 0], label: '3, peg' }])
  it.each([
    [0.8, 0, 'centred left to right'],
    [24.4, 25, 'flush with the right edge'],
    [-25.7, -25, 'flush with the left edge'],
    [29.4, 30, 'centre on the right edge'],
    [12.2, 13, 'in line with 3, peg'],
  ])('from %d to %d: %s', (at, to, reason) => expect(snapped(at, across, 1, 1, -30)).toEqual({ at: to, reason }))
  it('takes the true edges of a shape that is not about its middle', () =>
    expect(snapped(11.7, snapLines(1, geometry, []), 1, 1, -20).at).toBe(12))
  it('else goes by the step size, counted from where it is measured', () => {
    expect(snapped(7.3, across, 1, 0.5, -29.8).at).toBeCloseTo(7.2, 9)
    expect(snapped(7.3, [], 1, 1, 0)).toEqual({ at: 7 })
  })
})

describe('what a drag writes', () => {
  const offset = (from: Offset['from'], by: string): Offset => ({ from, to: 'centre', by })
  it('is a number where a number was, in the part’s unit', () => {
    expect(movedOffset(offset('low', '12'), 12, 3.5, 'mm')).toBe('15.5')
    expect(movedOffset(offset('high', '12'), 12, 3.5, 'mm')).toBe('8.5')
    expect(movedText('1/4 in', 6.35, 6.35, 'in')).toBe('1/4 in + 0.25')
    expect(movedText('0.25', 6.35, 6.35, 'in')).toBe('0.5')
  })
  it('keeps an expression and adds to it, once', () => {
    expect(movedText('wall * 2', 12, 3, 'mm')).toBe('wall * 2 + 3')
    expect(movedText('wall * 2 + 3', 15, -5, 'mm')).toBe('wall * 2 - 2')
    expect(movedText('wall * 2 + 3', 15, -3, 'mm')).toBe('wall * 2')
  })
  it('turns likewise', () => {
    expect(turnedText('15', 15, 30)).toBe('45')
    expect(turnedText('tilt', 10, -15)).toBe('tilt - 15')
  })
})
