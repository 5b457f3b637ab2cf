import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { insideRings, type Ring, ringArea } from '../plane/index.ts'
import { runs } from '../testing/sample.ts'
import {
  acrossAxis,
  closeDistance,
  gearRing,
  inv,
  isoProfile,
  pairAt,
  rootOf,
  type Teeth,
  tipRadius,
  toothSizes,
} from './index.ts'

const rad = (degrees: number) => (degrees * Math.PI) / 180
const gear = (count: number, shift = 0, change: Partial<Parameters<typeof acrossAxis>[0]> = {}): Teeth =>
  acrossAxis({ count, module: 1.5, pressure: 20, helix: 0, shift, thinner: 0, ...isoProfile, ...change })
const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)

/** How far points lie off the true flanks of a gear: above 0 outside of it, along the normal of a flank, mm. */
function offFlankOf(teeth: Teeth): (at: readonly [number, number]) => number {
  const { halfAngle, base } = toothSizes(teeth)
  const pitch = (2 * Math.PI) / teeth.count
  return ([x, y]) => {
    const angle = Math.atan2(y, x)
    const beside = Math.abs(angle - pitch * Math.round(angle / pitch))
    return (beside - halfAngle(Math.hypot(x, y))) * base
  }
}

describe('the outline of a gear', () => {
  const random = fc.record({
    count: fc.integer({ min: 6, max: 70 }),
    shift: between(-0.3, 0.7),
    module: between(0.5, 4),
    helix: between(0, 30),
    fineness: fc.constantFrom(0.002, 0.01, 0.05),
  })
  it('lies on the true curves with its corners, and no farther from them than the fineness with its flats', () => {
    fc.assert(
      fc.property(random, ({ count, shift, module, helix, fineness }) => {
        const teeth = gear(count, shift, { module, helix })
        const ring = gearRing(teeth, fineness)
        const { form } = rootOf(teeth)
        const offFlank = offFlankOf(teeth)
        const tip = tipRadius(teeth)
        let [looked, least, most] = [0, 0, 0]
        ring.forEach((p, i) => {
          const q = ring[(i + 1) % ring.length]!
          const [from, to] = [Math.hypot(...p), Math.hypot(...q)]
          if (Math.min(from, to) < form - 1e-9 || Math.abs(from - to) < 1e-9) return
          for (const share of [0, 0.2, 0.5, 0.8, 1]) {
            const at = [p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share] as const
            const off = offFlank(at)
            ;[least, most] = [Math.min(least, off), Math.max(most, off)]
            looked++
          }
        })
        expect(looked).toBeGreaterThanOrEqual(count * 10)
        // Chords of a flank lie within the tooth.
        expect(most).toBeLessThan(1e-6)
        expect(least).toBeGreaterThan(-fineness * 1.01 - 1e-9)
        const radii = ring.map((p) => Math.hypot(...p))
        expect(Math.max(...radii)).toBeLessThan(tip + 1e-9)
        expect(Math.min(...radii)).toBeGreaterThan(toothSizes(teeth).root - 1e-9)
      }),
      { numRuns: runs(40) },
    )
  })
  it('is counter-clockwise, and the same tooth after tooth', () => {
    const ring = gearRing(gear(17, 0.3), 0.01)
    expect(ring.length % 17).toBe(0)
    const [c, s] = [Math.cos((2 * Math.PI) / 17), Math.sin((2 * Math.PI) / 17)]
    const each = ring.length / 17
    for (let i = 0; i < each; i++) {
      const [x, y] = ring[i]!
      expect(ring[i + each]![0]).toBeCloseTo(x * c - y * s, 9)
      expect(ring[i + each]![1]).toBeCloseTo(x * s + y * c, 9)
    }
    const { root, tip } = toothSizes(gear(17, 0.3))
    expect(ringArea(ring)).toBeGreaterThan(Math.PI * root ** 2)
    expect(ringArea(ring)).toBeLessThan(Math.PI * tip ** 2)
    expect(insideRings([ring], [tip - 0.01, 0])).toBe(true)
    expect(insideRings([ring], [(tip - 0.01) * Math.cos(Math.PI / 17), (tip - 0.01) * Math.sin(Math.PI / 17)])).toBe(
      false,
    )
  })
  it('ends in a point where its flanks meet below the tip circle', () => {
    const teeth = gear(9, 0.9)
    const ring = gearRing(teeth, 0.01)
    expect(Math.max(...ring.map((p) => Math.hypot(...p)))).toBeCloseTo(tipRadius(teeth), 9)
    expect(tipRadius(teeth)).toBeLessThan(toothSizes(teeth).tip)
    expect(new Set(ring.map(([x, y]) => `${x.toFixed(7)} ${y.toFixed(7)}`)).size).toBe(ring.length)
  })
})

describe('a pair', () => {
  it('of 20 and 60 teeth without shift is as the books have it', () => {
    const pair = pairAt(gear(20), gear(60), closeDistance(gear(20), gear(60)))
    expect(pair.distance).toBeCloseTo(60, 9)
    expect(pair.ratio).toBe(3)
    // Two halves of the path of contact, by the closed form.
    const path = (z: number) =>
      Math.sqrt((z / 2 + 1) ** 2 - ((z / 2) * Math.cos(rad(20))) ** 2) - (z / 2) * Math.sin(rad(20))
    expect(pair.contact).toBeCloseTo((path(20) + path(60)) / (Math.PI * Math.cos(rad(20))), 9)
    expect(pair.contact).toBeCloseTo(1.67, 2)
    expect(pair.backlash).toBeCloseTo(0, 9)
    expect(pair.clearance[0]).toBeCloseTo(0.375, 9)
    expect(pair.clearance[1]).toBeCloseTo(0.375, 9)
    expect([pair.interferes, pair.hunting]).toEqual([[false, false], false])
    expect(pairAt(gear(20), gear(61), 60.75).hunting).toBe(true)
  })
  it('runs without play at its close distance, and with what its teeth are thinner by', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 60 }),
        fc.integer({ min: 10, max: 60 }),
        between(0, 0.6),
        between(-0.1, 0.5),
        between(0, 0.2),
        (a, b, x, y, thinner) => {
          const [one, two] = [gear(a, x), gear(b, y)]
          const distance = closeDistance(one, two)
          expect(pairAt(one, two, distance).backlash).toBeCloseTo(0, 9)
          const thin = pairAt({ ...one, thinner }, two, distance)
          // Of a tooth that is thinner on the pitch circle, on the one that they run on.
          const run = toothSizes(one).base / Math.cos(thin.pressure)
          expect(thin.backlash).toBeCloseTo((thinner * run) / toothSizes(one).pitch, 9)
          const { pressure } = pairAt(one, two, distance)
          expect(inv(pressure)).toBeCloseTo(inv(rad(20)) + (2 * Math.tan(rad(20)) * (x + y)) / (a + b), 9)
        },
      ),
    )
  })
  it('says where a tip reaches below a flank', () => {
    // A pinion of few teeth is undercut; a wheel's tip then reaches below what is left of its flank.
    const [small, large] = [gear(9), gear(80)]
    expect(pairAt(small, large, closeDistance(small, large)).interferes).toEqual([false, true])
    const shifted = gear(9, 0.5)
    expect(pairAt(shifted, large, closeDistance(shifted, large)).interferes).toEqual([false, false])
  })
  it('cannot stand where the base circles meet', () => {
    expect(() => pairAt(gear(20), gear(30), 35)).toThrow()
  })
  it('with play does not overlap at any of 360 places over a tooth pitch, and without it stays near contact', () => {
    for (const [a, b, x, y, thinner] of [
      [17, 31, 0.2, -0.1, 0.1],
      [23, 23, 0, 0, 0.04],
      [8, 40, 0.55, 0, 0.06],
      [17, 31, 0.2, -0.1, 0],
    ] as const) {
      const [one, two] = [gear(a, x, { thinner }), gear(b, y)]
      const distance = closeDistance(gear(a, x), gear(b, y))
      const fineness = 0.01
      const [ringA, ringB] = [gearRing(one, fineness), gearRing(two, fineness)]
      const [offOne, offTwo] = [apartFrom(one), apartFrom(two)]
      let nearest = Infinity
      for (let i = 0; i < 360; i++) {
        const turn = ((2 * Math.PI) / a) * (i / 360)
        // A tooth of the first points at a space of the second; the play is parted evenly.
        const other = Math.PI + Math.PI / b - (turn * a) / b
        for (const p of near(ringA, turn, one)) {
          const at: [number, number] = [distance - p[0], -p[1]]
          nearest = Math.min(nearest, offTwo(at, other - Math.PI))
        }
        for (const p of near(ringB, Math.PI + other, two))
          nearest = Math.min(nearest, offOne([distance - p[0], -p[1]], turn))
      }
      expect(nearest).toBeGreaterThan(-1e-6)
      if (thinner === 0) expect(nearest).toBeLessThan(2 * fineness)
      else expect(nearest).toBeGreaterThan(0)
    }
  })
})

/** Corners of a ring that is turned, those on the side of the x axis. */
function near(ring: Ring, turn: number, teeth: Teeth): [number, number][] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const { root } = toothSizes(teeth)
  return ring.flatMap(([x, y]) => {
    const [u, v] = [x * c - y * s, x * s + y * c]
    return u > 0.7 * root ? [[u, v] as [number, number]] : []
  })
}

/** How far points seen from the axis lie outside of the true flanks of a gear that is turned; what is outside of its tip is far. */
function apartFrom(teeth: Teeth): (at: readonly [number, number], turn: number) => number {
  const [tip, { form }] = [tipRadius(teeth), rootOf(teeth)]
  const off = offFlankOf(teeth)
  return ([x, y], turn) => {
    const radius = Math.hypot(x, y)
    if (radius >= tip || radius < form) return Infinity
    const [c, s] = [Math.cos(-turn), Math.sin(-turn)]
    return off([x * c - y * s, x * s + y * c])
  }
}
