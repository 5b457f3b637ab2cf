import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ringArea } from '../plane/index.ts'
import { runs } from '../testing/sample.ts'
import {
  acrossAxis,
  closeInside,
  gearRing,
  innerRadius,
  insideAt,
  isoProfile,
  openingOf,
  openingRing,
  outerRadius,
  rackReach,
  rackRing,
  rootOf,
  type Teeth,
  tipCorner,
  toothSizes,
} from './index.ts'

const teeth = (change: Partial<Parameters<typeof acrossAxis>[0]> = {}): Teeth =>
  acrossAxis({ count: 24, module: 1.27, pressure: 20, helix: 0, shift: 0, thinner: 0, ...isoProfile, ...change })
const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)
const polar = ([x, y]: readonly [number, number]) => ({ radius: Math.hypot(x, y), angle: Math.atan2(y, x) })
/** How far a point lies outside of the flanks of a gear, along their normal, mm: less than 0 within a tooth. */
function overFlank(of: Teeth, p: readonly [number, number]): number {
  const { base, halfAngle } = toothSizes(of)
  const { radius, angle } = polar(p)
  const pitch = (2 * Math.PI) / of.count
  return (Math.abs(angle - pitch * Math.round(angle / pitch)) - halfAngle(radius)) * base
}
const middles = (ring: readonly (readonly [number, number])[]) =>
  ring.map(([x, y], i) => {
    const [x2, y2] = ring[(i + 1) % ring.length]!
    return [(x + x2) / 2, (y + y2) / 2] as const
  })

describe('rounded tips', () => {
  it('touch the tip circle and the flanks, and lie within the sharp tooth', () => {
    fc.assert(
      fc.property(fc.integer({ min: 9, max: 70 }), between(0.05, 0.5), between(-0.2, 0.6), (count, share, shift) => {
        const sharp = teeth({ count, shift })
        const round = { ...sharp, round: share * sharp.module }
        const { tip } = toothSizes(sharp)
        const corner = tipCorner(round)
        expect(corner.round).toBeLessThanOrEqual(share * sharp.module)
        expect(corner.radius + corner.round).toBeCloseTo(tip, 9)
        // The middle lies so far within the flank.
        const middle = [corner.radius * Math.cos(corner.beside), corner.radius * Math.sin(corner.beside)] as const
        expect(overFlank(sharp, middle)).toBeCloseTo(-corner.round, 9)
        let far = -1
        for (const p of gearRing(round, 0.002))
          if (polar(p).radius > toothSizes(sharp).pitch) far = Math.max(far, overFlank(sharp, p))
        expect(far).toBeLessThan(1e-9)
        const [cut, whole] = [ringArea(gearRing(round, 0.001)), ringArea(gearRing(sharp, 0.001))]
        expect(cut).toBeLessThan(whole)
        expect(whole - cut).toBeLessThan(2 * count * corner.round ** 2)
      }),
      { numRuns: runs(60) },
    )
  })
  it('of a low tooth leave a flank below them, however large they are asked for', () => {
    const low = { count: fc.integer({ min: 9, max: 70 }), addendum: between(0.2, 0.5), share: between(0.3, 1.5) }
    fc.assert(
      fc.property(fc.record(low), ({ count, addendum, share }) => {
        const sharp = teeth({ count, addendum })
        const { tip, base } = toothSizes(sharp)
        const corner = tipCorner({ ...sharp, round: share * sharp.module })
        expect(corner.radius + corner.round).toBeCloseTo(tip, 9)
        expect(corner.radius).toBeGreaterThan(base - 1e-9)
      }),
      { numRuns: runs(300) },
    )
  })
})

describe('an opening', () => {
  it('keeps its clearance from a gear of the same teeth, and no more than the fineness beyond it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 34, max: 90 }),
        between(0.1, 0.6),
        between(-0.3, 0.3),
        between(0.003, 0.02),
        (count, wider, shift, fineness) => {
          const gear = teeth({ count, shift })
          const opening = openingOf(gear, wider)
          const { pitch, base, pressure } = toothSizes(gear)
          const clear = (wider / 2) * Math.cos(pressure)
          const inner = Math.max(innerRadius(opening), base) + 0.3 * gear.module
          let [least, most] = [Infinity, 0]
          const ring = openingRing(opening, fineness)
          for (const p of [...ring, ...middles(ring)]) {
            const { radius } = polar(p)
            if (radius < inner || radius > pitch + gear.shift + 0.5 * gear.module) continue
            const over = overFlank(gear, p)
            least = Math.min(least, over)
            most = Math.max(most, over)
          }
          expect(least).toBeGreaterThan(clear - 1e-6)
          expect(most).toBeLessThan(clear + fineness + 1e-6)
        },
      ),
      { numRuns: runs(40) },
    )
  })
  it('has no relief, whatever the tips of its cutter have', () => {
    const gear = teeth({ count: 40 })
    const relieved = { ...gear, relief: { amount: 0.2, from: toothSizes(gear).pitch } }
    expect(openingRing(openingOf(relieved, 0.1), 0.01)).toEqual(openingRing(openingOf(gear, 0.1), 0.01))
  })
  it('reaches in by four fifths of what teeth reach out, and out as far as roots', () => {
    const opening = openingOf(teeth({ count: 60 }), 0)
    const { pitch } = toothSizes(teeth({ count: 60 }))
    expect(innerRadius(opening)).toBeCloseTo(pitch - 0.8 * 1.27, 12)
    expect(outerRadius(opening)).toBeCloseTo(pitch + 1.25 * 1.27, 12)
    const radii = openingRing(opening, 0.004).map((p) => polar(p).radius)
    expect(Math.min(...radii)).toBeGreaterThanOrEqual(pitch - 0.8 * 1.27)
    expect(Math.min(...radii)).toBeLessThan(pitch - 0.8 * 1.27 + 0.0041)
    expect(Math.max(...radii)).toBeLessThan(pitch + 1.25 * 1.27 + 0.0041)
    // With few teeth the flanks would end before: no tip reaches below the base circle.
    const few = openingOf(teeth({ count: 20 }), 0)
    expect(innerRadius(few)).toBeCloseTo(toothSizes(few).base, 6)
  })
})

describe('a gear in a ring', () => {
  const pair = (a: number, b: number, thinner = 0.1) => {
    const gear = teeth({ count: a, thinner })
    const opening = openingOf(teeth({ count: b }), thinner)
    return { gear, opening, distance: closeInside(gear, opening) }
  }
  it('stands half the difference of the pitch diameters off, with the play that both have', () => {
    const { gear, opening, distance } = pair(25, 62, 0.13)
    expect(distance).toBeCloseTo(((62 - 25) * 1.27) / 2, 12)
    const { backlash, ratio, contact, interferes, hunting } = insideAt(gear, opening, distance)
    expect(backlash).toBeCloseTo(0.26, 9)
    expect(ratio).toBeCloseTo(62 / 25, 12)
    expect(contact).toBeGreaterThan(1.5)
    expect(interferes).toEqual([false, false])
    expect(hunting).toBe(true)
    // Tips of the ring reach below the flanks of small gears.
    const small = pair(13, 62)
    expect(insideAt(small.gear, small.opening, small.distance).interferes).toEqual([false, true])
  })
  it('touches as many pairs of teeth as its path of contact holds base pitches', () => {
    const { gear, opening, distance } = pair(24, 72, 0)
    const [a, b] = [toothSizes(gear), toothSizes(opening)]
    // The path from where the tip circle of the ring crosses the line of action to where that of the gear does.
    const sine = Math.sin((20 * Math.PI) / 180)
    const from = Math.sqrt(innerRadius(opening) ** 2 - b.base ** 2) - distance * sine
    const to = Math.sqrt(a.tip ** 2 - a.base ** 2)
    expect(insideAt(gear, opening, distance).contact).toBeCloseTo(
      (to - from) / (Math.PI * 1.27 * Math.cos((20 * Math.PI) / 180)),
      12,
    )
  })
  it('goes in nowhere where the ring has no more teeth, or the axes are too near', () => {
    expect(() => pair(24, 24)).toThrow()
    const { gear, opening } = pair(24, 60)
    expect(() => insideAt(gear, opening, 5)).toThrow()
  })
})

describe('a rack', () => {
  it('has the area of its closed form, its tooth half a pitch thick at the pitch line', () => {
    const area = (change: Parameters<typeof teeth>[0], count: number) =>
      ringArea(rackRing({ teeth: { ...teeth(change), count }, back: 3.3 }, 1e-5))
    const module = 1.27
    const pitch = Math.PI * module
    // Sharp: a trapezium for each tooth on a bar.
    const tan = Math.tan((20 * Math.PI) / 180)
    const tooth = 2.25 * module * (pitch / 2) + (1.25 ** 2 - 1) * module ** 2 * tan
    expect(area({ fillet: 0 }, 7)).toBeCloseTo(7 * (tooth + 3.3 * pitch), 9)
    expect(area({ fillet: 0, thinner: 0.2 }, 7)).toBeCloseTo(7 * (tooth - 0.2 * 2.25 * module + 3.3 * pitch), 9)
    // A round of r in a corner that is open by 90° + 20° fills r² (cot(55°) − 35° of arc).
    const r = 0.38 * module
    const fills = r ** 2 * (1 / Math.tan((55 * Math.PI) / 180) - (35 * Math.PI) / 180)
    expect(area({}, 3)).toBeCloseTo(3 * (tooth + 3.3 * pitch + 2 * fills), 4)
  })
  it('reaches as far as its outline does', () => {
    fc.assert(
      fc.property(between(0, 2 * Math.PI), between(0, 0.3), fc.integer({ min: 1, max: 12 }), (angle, round, count) => {
        const given = { teeth: { ...teeth(), count, round }, back: 2.7 }
        const d = [Math.cos(angle), Math.sin(angle)] as const
        const far = Math.max(...rackRing(given, 1e-4).map(([x, y]) => x * d[0] + y * d[1]))
        expect(Math.abs(rackReach(given, d) - far)).toBeLessThan(1e-3)
      }),
    )
  })
})

/** How near points of one come to the true flanks of the other over a tooth pitch, mm; less than 0 where they overlap. */
function nearestOver(places: number, offsAt: (share: number) => Iterable<number>): number {
  let nearest = Infinity
  for (let i = 0; i < places; i++) for (const off of offsAt(i / places)) nearest = Math.min(nearest, off)
  return nearest
}
const turned = ([x, y]: readonly [number, number], by: number) =>
  [x * Math.cos(by) - y * Math.sin(by), x * Math.sin(by) + y * Math.cos(by)] as const

describe('at any of 360 places over a tooth pitch', () => {
  it.each([
    [25, 62, 0.1],
    [31, 72, 0.04],
    [25, 62, 0],
  ])('a gear of %i teeth in a ring of %i with %f mm of play each does not overlap it', (a, b, play) => {
    const fineness = 0.01
    const gear = teeth({ count: a, thinner: play })
    const opening = openingOf(teeth({ count: b }), play)
    const distance = closeInside(gear, opening)
    const [small, large] = [gearRing(gear, fineness), openingRing(opening, fineness)]
    const [{ tip }, { form }] = [toothSizes(gear), rootOf(gear)]
    const inner = innerRadius(opening)
    const nearest = nearestOver(360, function* (share) {
      // A tooth of the gear in the middle of a space; both go round the same way.
      const [own, other] = [share * ((2 * Math.PI) / a), share * ((2 * Math.PI) / b)]
      for (const p of small) {
        const [x, y] = turned(p, own)
        const q = turned([x + distance, y], -other)
        if (x > 0.6 * tip && polar(q).radius > inner) yield -overFlank(opening, q)
      }
      for (const p of large) {
        const [x, y] = turned(p, other)
        const q = turned([x - distance, y], -own)
        const { radius } = polar(q)
        if (x > 0 && radius < tip && radius > form) yield overFlank(gear, q)
      }
    })
    expect(nearest).toBeGreaterThan(-1e-6)
    if (play > 0) expect(nearest).toBeGreaterThan(0.8 * play * Math.cos((20 * Math.PI) / 180))
    else expect(nearest).toBeLessThan(2 * fineness)
  })
  it.each([
    [19, 0.1],
    [30, 0.04],
    [19, 0],
  ])('a gear of %i teeth on a rack with %f mm of play each does not overlap it', (a, play) => {
    const fineness = 0.01
    const gear = teeth({ count: a, thinner: play })
    const { module, addendum, dedendum } = gear
    const { pitch: r, tip } = toothSizes(gear)
    const { form } = rootOf(gear)
    const pitch = Math.PI * module
    const rack = rackRing({ teeth: { ...teeth({ thinner: play }), count: 9 }, back: 3 }, fineness)
    /** How far a point lies beside the teeth of the rack, along the normal of their flanks. */
    const besideRack = ([x, y]: readonly [number, number]) => {
      const half = pitch / 4 - play / 2 - y * Math.tan((20 * Math.PI) / 180)
      return (Math.abs(x - pitch * Math.round(x / pitch)) - half) * Math.cos((20 * Math.PI) / 180)
    }
    const nearest = nearestOver(360, function* (share) {
      // A space of the gear looks down at a tooth of the rack below it, which goes on to the right as the gear turns.
      const own = -Math.PI / 2 + Math.PI / a + share * ((2 * Math.PI) / a)
      const along = share * pitch
      for (const p of gearRing(gear, fineness)) {
        const [x, y] = turned(p, own)
        const q = [x - along, y + r] as const
        if (y < 0 && q[1] < addendum && q[1] > -dedendum) yield besideRack(q)
      }
      for (const [x, y] of rack) {
        const q = turned([x + along, y - r], -own)
        const { radius } = polar(q)
        if (radius < tip && radius > form) yield overFlank(gear, q)
      }
    })
    expect(nearest).toBeGreaterThan(-1e-6)
    if (play > 0) expect(nearest).toBeGreaterThan(0.8 * play * Math.cos((20 * Math.PI) / 180))
    else expect(nearest).toBeLessThan(2 * fineness)
  })
})
