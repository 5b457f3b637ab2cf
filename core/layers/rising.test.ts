import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Ring } from '../kernel/index.ts'
import { atOnce } from '../pacing/index.ts'
import { insideRings, type Vec2 } from '../plane/index.ts'
import { runs } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { risingOf, sharpCorners } from './index.ts'

type Setting = readonly [turn: number, x: number, y: number]
const setting = fc.tuple(real(-Math.PI, Math.PI), real(-60, 60), real(-60, 60))
const put = ([turn, dx, dy]: Setting, [x, y]: Vec2): Vec2 => [
  dx + Math.cos(turn) * x - Math.sin(turn) * y,
  dy + Math.sin(turn) * x + Math.cos(turn) * y,
]
const box = (own: Setting, [x, y]: Vec2, w: number, d: number): Ring =>
  [
    [-w / 2, -d / 2],
    [w / 2, -d / 2],
    [w / 2, d / 2],
    [-w / 2, d / 2],
  ].map(([u, v]) => put(own, [x + u!, y + v!]))
const degrees = (rad: number) => (rad * 180) / Math.PI

describe('what a tilt topples', () => {
  it('is a block as it is high and wide, the higher the sooner, whatever its layers', () => {
    fc.assert(
      fc.property(setting, real(2, 30), real(2, 30), real(3, 60), real(0.08, 0.4), (own, w, d, tall, layerHeight) => {
        const rings = [box(own, [0, 0], w, d)]
        const rising = atOnce(risingOf({ at: () => rings }, { firstLayer: 0.24, layerHeight }, tall))
        const { height, tips } = rising.at(-1)!
        expect(height).toBeCloseTo(tall, 9)
        expect(tips).toBeCloseTo(degrees(Math.atan2(Math.min(w, d) / 2, tall / 2)), 6)
        for (const [i, each] of rising.entries()) if (i > 0) expect(each.tips).toBeLessThan(rising[i - 1]!.tips)
      }),
      { numRuns: runs(60) },
    )
  })
  it('is what leans by itself, from the height on at which its middle lies beyond its foot', () => {
    fc.assert(
      fc.property(setting, real(2, 9), real(30, 70), (own, wide, lean) => {
        const slope = Math.tan((lean * Math.PI) / 180)
        const [layerHeight, firstLayer] = [0.1, 0.1]
        const at = (z: number) => [box(own, [(z - firstLayer / 2) * slope, 0], wide, 5)]
        const falls = atOnce(risingOf({ at }, { firstLayer, layerHeight }, 40)).find(({ tips }) => tips < 0)
        // Its middle lies half as far out as its top.
        expect(Math.abs(falls!.height - wide / slope)).toBeLessThan(0.3)
      }),
      { numRuns: runs(60) },
    )
  })
  it('counts holes off, and a foot by its hull: legs stand as wide as they are apart', () => {
    fc.assert(
      fc.property(setting, real(10, 30), real(2, 4), real(5, 40), (own, apart, leg, tall) => {
        const legs = [1, -1].flatMap((x) => [1, -1].map((y) => box(own, [(x * apart) / 2, (y * apart) / 2], leg, leg)))
        const last = atOnce(risingOf({ at: () => legs }, { firstLayer: 0.2, layerHeight: 0.2 }, tall)).at(-1)!
        expect(last.tips).toBeCloseTo(degrees(Math.atan2((apart + leg) / 2, tall / 2)), 6)
        const [outer, hole] = [box(own, [0, 0], apart, apart), box(own, [apart / 5, 0], leg, leg).toReversed()]
        const holed = atOnce(risingOf({ at: () => [outer, hole] }, { firstLayer: 0.2, layerHeight: 0.2 }, tall)).at(-1)!
        const middle = (-(apart / 5) * leg * leg) / (apart * apart - leg * leg)
        expect(holed.tips).toBeCloseTo(degrees(Math.atan2(apart / 2 + middle, tall / 2)), 6)
      }),
      { numRuns: runs(60) },
    )
  })
  it('is told of nothing where nothing is laid first', () => {
    expect(atOnce(risingOf({ at: () => [] }, { firstLayer: 0.2, layerHeight: 0.2 }, 9))).toEqual([])
  })
})

describe('sharp corners', () => {
  it('are those that turn outwards within a little, however they are broken; a round, a notch or a hole has none', () => {
    fc.assert(
      fc.property(setting, real(12, 90), real(12, 90), real(0.05, 1), real(4.5, 6), (own, w, d, small, large) => {
        const rounded = (radius: number): Ring =>
          [0, 1, 2, 3].flatMap((corner) =>
            Array.from({ length: 25 }, (_, i) => {
              const turn = (corner * Math.PI) / 2 + (i * Math.PI) / 48
              const [sx, sy] = [
                [1, 1],
                [-1, 1],
                [-1, -1],
                [1, -1],
              ][corner]!
              return put(own, [
                sx! * (w / 2 - radius) + radius * Math.cos(turn),
                sy! * (d / 2 - radius) + radius * Math.sin(turn),
              ])
            }),
          )
        const square = sharpCorners([box(own, [0, 0], w, d)])
        expect(square.length).toBe(4)
        for (const { far } of square) expect(far).toBeCloseTo(Math.hypot(w, d) / 2, 6)
        const hole = rounded(small).map(([x, y]): Vec2 => [own[1] + (x - own[1]) / 2, own[2] + (y - own[2]) / 2])
        const found = sharpCorners([rounded(small), hole.toReversed()])
        expect(found.length).toBeGreaterThanOrEqual(4)
        expect(found.every(({ at }) => !insideRings([hole], at))).toBe(true)
        expect(sharpCorners([rounded(large)])).toEqual([])
      }),
      { numRuns: runs(60) },
    )
  })
})
