import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { add, type Frame, pointOut, turnedAbout, type Vec3 } from '../place/index.ts'
import { edgeFigures } from './measure.ts'

const number = (low: number, high: number) =>
  fc.integer({ min: 0, max: 10_000 }).map((share) => low + ((high - low) * share) / 10_000)
const placed = fc
  .tuple(number(-180, 180), number(-180, 180), fc.tuple(number(-80, 80), number(-80, 80), number(-80, 80)))
  .map(([a, b, at]) => {
    const turned = turnedAbout([0, 0, 0], [1, 0, 0], a)
    const other = turnedAbout([0, 0, 0], [0, 1, 0], b)
    return (p: Vec3): Vec3 => add(pointOut(turned as Frame, pointOut(other as Frame, p)), at as Vec3)
  })
const figuresOf = (points: readonly Vec3[], closed: boolean, bend = 90) =>
  edgeFigures({ points: Float32Array.from(points.flat()), closed, bend })
const onCircle = (r: number, degrees: number, up = 0): Vec3 => {
  const rad = (degrees * Math.PI) / 180
  return [r * Math.cos(rad), r * Math.sin(rad), up]
}

describe('what an edge measures', () => {
  it('of a circle, however small, large and turned: its radius and its round length', () => {
    fc.assert(
      fc.property(number(0.3, 900), fc.integer({ min: 8, max: 120 }), placed, (r, count, at) => {
        const points = Array.from({ length: count }, (_, i) => at(onCircle(r, (360 * i) / count)))
        const { radius, length } = figuresOf(points, true)
        expect(radius! / r).toBeCloseTo(1, 3)
        expect(length / (2 * Math.PI * r)).toBeCloseTo(1, 3)
      }),
    )
  })
  it('of an arc: as much of them as it turns', () => {
    fc.assert(
      fc.property(number(1, 300), number(40, 340), placed, (r, turn, at) => {
        const points = Array.from({ length: 25 }, (_, i) => at(onCircle(r, (turn * i) / 24)))
        const { radius, length } = figuresOf(points, false)
        expect(radius! / r).toBeCloseTo(1, 3)
        expect(length / ((r * turn * Math.PI) / 180)).toBeCloseTo(1, 3)
      }),
    )
  })
  it('of what waves over its plane, or leaves its circle, by a hundredth: no radius, and the way along it', () => {
    fc.assert(
      fc.property(number(0.4, 400), fc.boolean(), placed, (r, up, at) => {
        const points = Array.from({ length: 60 }, (_, i) => {
          const wave = 0.01 * r * Math.cos((6 * Math.PI * i) / 60)
          return at(up ? onCircle(r, 6 * i, wave) : onCircle(r + wave, 6 * i))
        })
        const { radius, length } = figuresOf(points, true)
        expect(radius).toBeUndefined()
        const chords = points.reduce(
          (sum, p, i) => sum + Math.hypot(...p.map((x, k) => points[(i + 1) % 60]![k]! - x)),
          0,
        )
        expect(length / chords).toBeCloseTo(1, 4)
      }),
    )
  })
  it('of a straight one, and of one with three corners: no radius', () => {
    const straight = [0, 1, 2, 3, 5].map((i): Vec3 => [15.3 + 2 * i, 1 / 3 + i, -i])
    expect(figuresOf(straight, false)).toEqual({
      length: expect.closeTo(5 * Math.sqrt(6), 4),
      radius: undefined,
      angle: 90,
    })
    expect(
      figuresOf(
        [0, 1, 2].map((i) => onCircle(5, 120 * i)),
        true,
      ).radius,
    ).toBeUndefined()
  })
  it('through the material is less than straight on outside, more inside', () => {
    expect(
      figuresOf(
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
        false,
        37.3,
      ).angle,
    ).toBeCloseTo(142.7, 9)
    expect(
      figuresOf(
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
        false,
        -90,
      ).angle,
    ).toBe(270)
  })
})
