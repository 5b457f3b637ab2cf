import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { add, cross, dot, type Frame, norm, scaled, subtract, turnedAbout, type Vec3 } from '../place/index.ts'
import { crossedAxes, crossedDistance, crossedPair, type LeaningTeeth, leanFor, tracesApart } from './crossed.ts'
import { rootOf } from './index.ts'
import { tipRadius } from './profile.ts'
import { acrossAxis, isoProfile, toothSizes } from './teeth.ts'

const rad = (degrees: number) => (degrees * Math.PI) / 180
const own: Vec3 = [0, 0, 1]
function leaning(count: number, degrees: number, thinner = 0.1): LeaningTeeth {
  const sizes = { count, module: 1.27, pressure: 20, helix: Math.abs(degrees), shift: 0, thinner, ...isoProfile }
  return { teeth: acrossAxis(sizes), lean: rad(degrees), normal: rad(20), turnAt: () => 0 }
}
/** How far a point lies off an axis. */
const offAxis = (p: Vec3, at: Vec3, along: Vec3) => norm(cross(subtract(p, at), along))

describe('two crossed gears', () => {
  const any = fc.record({
    starts: fc.integer({ min: 1, max: 4 }),
    lead: fc.integer({ min: 30, max: 250 }).map((x) => x / 10),
    count: fc.integer({ min: 18, max: 60 }),
    hand: fc.constantFrom(1, -1),
  })
  it('touch along the normal of their teeth, between where the tips of each reach on it', () => {
    fc.assert(
      fc.property(any, ({ starts, lead, count, hand }) => {
        const [worm, gear] = [leaning(starts, hand * (90 - lead)), leaning(count, hand * lead)]
        const distance = crossedDistance(worm, gear)
        // The axis of the gear lies across the worm, beside it.
        const second: Frame = { ...turnedAbout([0, 0, 0], [1, 0, 0], 90), origin: [distance, 0, 0] }
        const axes = crossedAxes(second)!
        expect(axes.distance).toBeCloseTo(distance, 9)
        expect(axes.away).toEqual([1, 0, 0].map((x) => expect.closeTo(x, 12)))
        expect(tracesApart(worm, gear, second, axes)).toBeLessThan(1e-6)
        expect(leanFor(1, worm, gear, second, axes)).toBeCloseTo(rad(hand * lead), 9)
        expect(leanFor(0, worm, gear, second, axes)).toBeCloseTo(worm.lean, 9)
        // From where both pitch cylinders touch, along the normal of the teeth there, until it leaves the tips of each.
        const foot = scaled(axes.away, toothSizes(worm.teeth).pitch)
        const trace = add(scaled(own, Math.cos(worm.lean)), scaled(cross(own, axes.away), Math.sin(worm.lean)))
        const normal = add(scaled(cross(trace, axes.away), Math.cos(rad(20))), scaled(axes.away, Math.sin(rad(20))))
        const until = (way: 1 | -1, of: LeaningTeeth, at: Vec3, axis: Vec3) => {
          let [low, high] = [0, 40]
          for (let i = 0; i < 60; i++) {
            const middle = (low + high) / 2
            if (offAxis(add(foot, scaled(normal, way * middle)), at, axis) < tipRadius(of.teeth)) low = middle
            else high = middle
          }
          return low
        }
        const along = until(1, worm, [0, 0, 0], own) + until(-1, gear, second.origin, second.n)
        const { contact, backlash, clearance } = crossedPair(worm, gear, distance)
        expect(contact).toBeCloseTo(along / (Math.PI * 1.27 * Math.cos(rad(20))), 6)
        for (const mm of clearance) expect(mm).toBeCloseTo(0.25 * 1.27, 9)
        expect(backlash).toBeCloseTo(0.1 * (Math.cos(worm.lean) + Math.cos(gear.lean)), 9)
        // Farther apart there is more play: what a wedge of both flanks opens by.
        expect(crossedPair(worm, gear, distance + 0.3).backlash - backlash).toBeCloseTo(0.6 * Math.tan(rad(20)), 9)
      }),
    )
  })
  it('interfere where a tip reaches below the flank of the other, or past where its line of action begins', () => {
    const pairs = { one: fc.integer({ min: 5, max: 40 }), two: fc.integer({ min: 5, max: 40 }) }
    const seen = new Set<string>()
    fc.assert(
      fc.property(fc.record({ ...pairs, lean: fc.integer({ min: 300, max: 600 }) }), ({ one, two, lean }) => {
        const [a, b] = [leaning(one, 90 - lean / 10), leaning(two, lean / 10)]
        const distance = crossedDistance(a, b)
        const second: Frame = { ...turnedAbout([0, 0, 0], [1, 0, 0], 90), origin: [distance, 0, 0] }
        const { away } = crossedAxes(second)!
        const foot = scaled(away, toothSizes(a.teeth).pitch)
        const trace = add(scaled(own, Math.cos(a.lean)), scaled(cross(own, away), Math.sin(a.lean)))
        const normal = add(scaled(cross(trace, away), Math.cos(rad(20))), scaled(away, Math.sin(rad(20))))
        const axes: readonly (readonly [Vec3, Vec3])[] = [
          [[0, 0, 0], own],
          [second.origin, second.n],
        ]
        /** How far from the axis of one the place lies where the tip of the other leaves it, and whether it goes away from it there. */
        const met = (way: 1 | -1, by: LeaningTeeth, from: number, of: number) => {
          let [low, high] = [0, 60]
          for (let i = 0; i < 60; i++) {
            const middle = (low + high) / 2
            if (offAxis(add(foot, scaled(normal, way * middle)), ...axes[from]!) < tipRadius(by.teeth)) low = middle
            else high = middle
          }
          const off = (far: number) => offAxis(add(foot, scaled(normal, way * far)), ...axes[of]!)
          return { off: off(low), isPast: off(low + 1e-5) > off(low) }
        }
        const expected = [met(-1, b, 1, 0), met(1, a, 0, 1)].map(({ off, isPast }, i) => {
          const { form } = rootOf([a, b][i]!.teeth)
          seen.add(isPast ? 'past' : off < form ? 'below' : 'clear')
          return { isMet: isPast || off < form - 1e-9, isClose: Math.abs(off - form) < 1e-6 }
        })
        const { interferes } = crossedPair(a, b, distance)
        for (const [i, { isMet, isClose }] of expected.entries()) if (!isClose) expect(interferes[1 - i]).toBe(isMet)
      }),
    )
    expect([...seen].sort()).toEqual(['below', 'clear', 'past'])
  })
  it('are none where their axes are parallel, or meet', () => {
    expect(crossedAxes({ ...turnedAbout([0, 0, 0], own, 37.3), origin: [20, 0, 0] })).toBeUndefined()
    expect(crossedAxes({ ...turnedAbout([0, 0, 0], [1, 0, 0], 90), origin: [0, 0, 5] })).toBeUndefined()
    const { heights, away } = crossedAxes({ ...turnedAbout([0, 0, 0], [1, 0, 0], 60), origin: [-20, 3, 5] })!
    expect(away[0]).toBeCloseTo(-1, 12)
    // What joins both axes is square to both.
    const n: Vec3 = turnedAbout([0, 0, 0], [1, 0, 0], 60).n
    const joins = subtract(add([-20, 3, 5], scaled(n, heights[1])), scaled(own, heights[0]))
    expect(dot(joins, own)).toBeCloseTo(0, 9)
    expect(dot(joins, n)).toBeCloseTo(0, 9)
  })
})
