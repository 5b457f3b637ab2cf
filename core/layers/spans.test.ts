import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { Ring } from '../kernel/index.ts'
import { insideRings, type Vec2 } from '../plane/index.ts'
import { runs } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { sidesOf, spannedBest } from './spans.ts'

function bridged(region: readonly Ring[], beyond: readonly Ring[], isHeldAt: (place: Vec2) => boolean, line: number) {
  return spannedBest(sidesOf(region, isHeldAt), beyond, line)
}

const line = 0.44
const turned = ([x, y]: Vec2, turn: number): Vec2 => [
  Math.cos(turn) * x - Math.sin(turn) * y,
  Math.sin(turn) * x + Math.cos(turn) * y,
]
const box = (turn: number, left: number, right: number, low: number, high: number): Ring =>
  [
    [left, low],
    [right, low],
    [right, high],
    [left, high],
  ].map(([x, y]) => turned([x!, y!], turn))

const sizes = fc.tuple(real(1, 30), real(1, 30), real(-Math.PI, Math.PI))

it('runs from side to side where two of them hold, and their way is square to these', () => {
  fc.assert(
    fc.property(sizes, ([wide, deep, turn]) => {
      const region = box(turn, 0, wide, 0, deep)
      const isHeld = (p: Vec2) => Math.abs(turned(p, -turn)[0] - wide / 2) > wide / 2
      const { way, longest, freeArea, lines } = bridged([region], [region], isHeld, line)
      expect(freeArea).toBe(0)
      expect(longest).toBeCloseTo(wide, 6)
      expect(Math.abs(Math.sin((way * Math.PI) / 180 - turn))).toBeLessThan(1e-6)
      expect(lines.every((each) => each.isHeld)).toBe(true)
    }),
    { numRuns: runs(200) },
  )
})

it('runs the short way where all sides hold', () => {
  fc.assert(
    fc.property(sizes, ([wide, deep, turn]) => {
      const region = box(turn, 0, wide, 0, deep)
      const { longest, freeArea } = bridged([region], [region], () => true, line)
      expect([freeArea, longest]).toEqual([0, expect.closeTo(Math.min(wide, deep), 6)])
    }),
    { numRuns: runs(200) },
  )
})

it('is free all over where one side holds, or none, and where what is needed is less, only there', () => {
  fc.assert(
    fc.property(sizes, real(0.1, 0.9), fc.boolean(), ([wide, deep, turn], share, isOne) => {
      const region = box(turn, 0, wide, 0, deep)
      const isHeld = (p: Vec2) => isOne && turned(p, -turn)[0] < 0
      const far = box(turn, share * wide, wide, 0, deep)
      const all = bridged([region], [region], isHeld, line)
      expect([all.longest, all.freeArea / (wide * deep)]).toEqual([0, expect.closeTo(1, 1)])
      expect(bridged([region], [far], isHeld, line).freeArea / (wide * deep)).toBeCloseTo(1 - share, 1)
    }),
    { numRuns: runs(100) },
  )
})

it('goes by a hole where it can, and is free where it runs into it', () => {
  const hole = box(0, 4, 6, 2, 3).toReversed()
  const region = [box(0, 0, 10, 0, 9), hole]
  // The long sides hold: lines between them run into the hole over its width.
  const { freeArea, longest } = bridged(region, region, ([, y]) => y < 0 || y > 9, line)
  expect(longest).toBeCloseTo(9, 6)
  expect(Math.abs(freeArea / (2 * 8) - 1)).toBeLessThan(0.15)
  expect(bridged(region, region, (p) => !insideRings([region[0]!], p), line).freeArea).toBeLessThan(11)
})
