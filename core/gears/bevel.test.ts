import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Bevel, bevelContact, bevelRing, bevelRoot, bevelSizes, mateOf, sphericalInv, unwound } from './bevel.ts'
import { inv, pressureAt } from './involute.ts'
import { pairAt } from './pair.ts'
import { isoProfile } from './teeth.ts'

const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)
const anyAtAll = fc.record({
  count: fc.integer({ min: 10, max: 50 }),
  mate: fc.integer({ min: 10, max: 50 }),
  axes: between(50, 120),
  module: between(0.7, 3),
  pressure: between(17, 25),
  thinner: between(0, 0.1),
})
const bevel = (change: Partial<Bevel>): Bevel => ({
  ...{ count: 20, mate: 31, axes: 90, module: 1.3, pressure: 20, thinner: 0 },
  addendum: change.module ?? 1.3,
  dedendum: 1.25 * (change.module ?? 1.3),
  ...change,
})
const deg = 180 / Math.PI
/** A pitch cone that opens to a plane or beyond is no bevel gear's: the shape refuses it before. */
const any = anyAtAll.filter((change) =>
  [bevel(change), mateOf(bevel(change))].every((each) => bevelSizes(each).pitch * deg < 85),
)

describe('the cones of a bevel gear', () => {
  it('share their apex with those of its mate: pitch cones fill the angle of the axes, at one distance', () => {
    fc.assert(
      fc.property(any, (change) => {
        const [a, b] = [bevelSizes(bevel(change)), bevelSizes(mateOf(bevel(change)))]
        expect((a.pitch + b.pitch) * deg).toBeCloseTo(change.axes, 9)
        expect(a.distance).toBeCloseTo(b.distance, 9)
        expect(Math.sin(a.pitch) / Math.sin(b.pitch)).toBeCloseTo(change.count / change.mate, 9)
        expect(2 * a.distance * Math.sin(a.pitch)).toBeCloseTo(change.count * change.module, 9)
      }),
    )
  })
  it('of a mitre pair are of 45°, and of a pair at a right angle of atan of the ratio', () => {
    expect(bevelSizes(bevel({ count: 24, mate: 24 })).pitch * deg).toBeCloseTo(45, 12)
    expect(Math.tan(bevelSizes(bevel({ count: 15, mate: 40 })).pitch)).toBeCloseTo(15 / 40, 12)
  })
})

describe('a spherical involute', () => {
  it('is that of a circle where the sphere is large', () => {
    // A circle of 17.3 on a sphere of 10,000.
    const [r, far] = [17.3, 10_000]
    const base = Math.asin((r * Math.cos(20 / deg)) / far)
    for (const at of [17, 17.3, 18.9, 21.2])
      expect(sphericalInv(base, Math.asin(at / far))).toBeCloseTo(inv(pressureAt(r * Math.cos(20 / deg), at)), 5)
  })
  it('is drawn by a point of a great circle that rolls on the base cone', () => {
    for (const base of [0.3, 0.71, 1.2])
      for (const roll of [0.1, 0.35, 0.6]) {
        // The tangent point has gone round by the roll; the point lies as far along the great circle as it has rolled off.
        const s = roll * Math.sin(base)
        const touch = [Math.sin(base) * Math.cos(roll), Math.sin(base) * Math.sin(roll), Math.cos(base)]
        const back = [Math.sin(roll), -Math.cos(roll), 0]
        const p = touch.map((x, k) => x * Math.cos(s) + back[k]! * Math.sin(s))
        const angle = Math.acos(p[2]!)
        expect(unwound(base, angle)).toBeCloseTo(s, 9)
        expect(Math.atan2(p[1]!, p[0]!)).toBeCloseTo(sphericalInv(base, angle), 9)
      }
  })
  it('meets that of the mate on one great circle, and touches it there, all along the mesh', () => {
    fc.assert(
      fc.property(any, between(-0.6, 0.6), ({ thinner: _, ...change }, share) => {
        const one = bevel(change)
        const [a, b] = [bevelSizes(one), bevelSizes(mateOf(one))]
        const [sa, sb] = [unwound(a.base, a.pitch), unwound(b.base, b.pitch)]
        // So far along the great circle from the pitch point, towards the tip of the first.
        const along = share * Math.min(sa, sb)
        const at = (base: number, s: number) => Math.acos(Math.cos(base) * Math.cos(s))
        const [oneAt, otherAt] = [at(a.base, sa + along), at(b.base, sb - along)]
        // What each turns by from where they touch at the pitch point: by as much of its base cone as has unwound.
        const turnOne = along / Math.sin(a.base)
        const turnOther = along / Math.sin(b.base)
        expect(turnOne / turnOther).toBeCloseTo(change.mate / change.count, 9)
        const axes = change.axes / deg
        // The point of the first flank, turned, and that of the second, in one frame.
        const psi = turnOne - (sphericalInv(a.base, oneAt) - sphericalInv(a.base, a.pitch))
        const other = turnOther + (sphericalInv(b.base, otherAt) - sphericalInv(b.base, b.pitch))
        const p = [Math.sin(oneAt) * Math.cos(psi), Math.sin(oneAt) * Math.sin(psi), Math.cos(oneAt)]
        const [x, y, z] = [Math.sin(otherAt) * Math.cos(other), Math.sin(otherAt) * Math.sin(other), Math.cos(otherAt)]
        const q = [-Math.cos(axes) * x + Math.sin(axes) * z, y, Math.sin(axes) * x + Math.cos(axes) * z]
        for (const k of [0, 1, 2]) expect(Math.abs(p[k]! - q[k]!)).toBeLessThan(1e-9)
      }),
    )
  })
})

describe('how many teeth of a pair touch at once', () => {
  it('is how far a tooth turns from where its mate first reaches it to where it leaves it, in pitches', () => {
    fc.assert(
      fc.property(any, (change) => {
        const [one, two] = [bevel(change), mateOf(bevel(change))]
        const [a, b] = [bevelSizes(one), bevelSizes(two)]
        /** How far along the great circle from the pitch point the tip of a gear reaches, by looking for it. */
        const reach = ({ base, pitch, tip }: typeof a) => {
          let [low, high] = [unwound(base, pitch), Math.PI]
          for (let i = 0; i < 60; i++) {
            const middle = (low + high) / 2
            if (Math.acos(Math.cos(base) * Math.cos(middle)) < tip) low = middle
            else high = middle
          }
          return low - unwound(base, pitch)
        }
        const turns = (reach(a) + reach(b)) / Math.sin(a.base)
        expect(bevelContact(one, two)).toBeCloseTo((turns * one.count) / (2 * Math.PI), 7)
        expect(bevelContact(two, one)).toBeCloseTo(bevelContact(one, two), 9)
      }),
    )
  })
  it('is that of plain gears where the axes are next to parallel', () => {
    fc.assert(
      fc.property(fc.integer({ min: 18, max: 50 }), fc.integer({ min: 18, max: 50 }), (count, mate) => {
        const flat = bevel({ count, mate, axes: 0.1, module: 1 })
        const teeth = (count: number) => ({
          ...{ count, module: 1, pressure: 20, shift: 0, addendum: 1, dedendum: 1.25, fillet: isoProfile.fillet },
          thinner: 0,
        })
        const { contact } = pairAt(teeth(count), teeth(mate), (count + mate) / 2)
        expect(bevelContact(flat, mateOf(flat))).toBeCloseTo(contact, 3)
      }),
    )
  })
})

describe('the section of a bevel gear', () => {
  it('has flanks on the true curve, and is as large at any depth as its rays', () => {
    fc.assert(
      fc.property(any, fc.constantFrom(0.05, 0.01), between(0.3, 1.4), (change, fineness, share) => {
        const own = bevel(change)
        const { distance, pitch, tip, root, halfAngle } = bevelSizes(own)
        const { form } = bevelRoot(own)
        if (halfAngle(tip) <= 0 || tip > 1.4) return
        const whole = distance * Math.cos(pitch)
        const ring = bevelRing(own, whole, fineness)
        const step = (2 * Math.PI) / own.count
        let off = 0
        for (const [x, y] of ring) {
          const angle = Math.atan(Math.hypot(x, y) / whole)
          const rad = Math.atan2(y, x)
          const beside = Math.abs(rad - step * Math.round(rad / step))
          expect(angle).toBeGreaterThan(root - 1e-9)
          expect(angle).toBeLessThan(tip + 1e-9)
          if (angle > form + 1e-9 && angle < tip - 1e-9) off = Math.max(off, Math.abs(beside - halfAngle(angle)))
        }
        expect(off * distance).toBeLessThan(1e-9)
        const part = bevelRing(own, share * whole, fineness)
        expect(part.length).toBe(ring.length)
        expect(part[7]![0]).toBeCloseTo(share * ring[7]![0], 9)
      }),
      { numRuns: 60 },
    )
  })
  it('goes from its root to its flank without a step, also where that is undercut', () => {
    let undercut = 0
    fc.assert(
      fc.property(any, (change) => {
        const own = bevel(change)
        const { root, halfAngle, tip } = bevelSizes(own)
        const { at, form, undercut: cut } = bevelRoot(own)
        if (cut) undercut++
        const space = (angle: number) => Math.PI / own.count - halfAngle(angle)
        expect(Math.abs(at(1).beside - space(form))).toBeLessThan(1e-7)
        expect(form).toBeLessThan(tip)
        expect(at(0).angle).toBeGreaterThan(root - 1e-9)
        expect(at(0).beside).toBeGreaterThanOrEqual(-1e-12)
        // It only rises, and leaves a tooth all along.
        let before = at(0).angle
        for (let i = 1; i <= 40; i++) {
          const { angle, beside } = at(i / 40)
          expect(angle).toBeGreaterThan(before - 1e-12)
          expect(beside).toBeLessThan(Math.PI / own.count)
          before = angle
        }
      }),
      { numRuns: 200 },
    )
    expect(undercut).toBeGreaterThan(10)
  })
})
