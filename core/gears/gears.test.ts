import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  acrossAxis,
  basePitch,
  inv,
  inverseInv,
  isoProfile,
  leastShift,
  overPins,
  pointedAt,
  rootOf,
  roundest,
  spanOver,
  type Teeth,
  teethSpanned,
  toothSizes,
} from './index.ts'

const rad = (degrees: number) => (degrees * Math.PI) / 180
const gear = (change: Partial<Parameters<typeof acrossAxis>[0]> = {}): Teeth =>
  acrossAxis({ count: 24, module: 1.5, pressure: 20, helix: 0, shift: 0, thinner: 0, ...isoProfile, ...change })

const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)
/** Any gear that a maker may ask for; its cutter has room for its tip. */
const gears = fc
  .record({
    count: fc.integer({ min: 6, max: 90 }),
    module: between(0.4, 6.35),
    pressure: between(14.5, 27.3),
    helix: between(0, 31.7),
    shift: between(-0.4, 0.8),
    addendum: fc.constant(1),
    dedendum: between(1.1, 1.4),
    fillet: between(0, 0.38),
    thinner: between(0, 0.2),
  })
  .map((sizes) => acrossAxis(sizes))
  .filter((teeth) => roundest(teeth) > 0)

describe('the involute function', () => {
  it('is undone by its inverse', () => {
    fc.assert(
      fc.property(between(0.001, 1.45), (alpha) => {
        expect(inverseInv(inv(alpha))).toBeCloseTo(alpha, 12)
      }),
    )
  })
  it('of 20° is that of the tables', () => expect(inv(rad(20))).toBeCloseTo(0.0149044, 7))
  it('is of no angle below 0', () => expect(() => inverseInv(-1e-9)).toThrow())
})

describe('sizes of teeth', () => {
  it('are those of a worked example: 24 teeth, module 1.5', () => {
    const { pitch, base, tip, root, thickness } = toothSizes(gear())
    expect([2 * pitch, 2 * tip, 2 * root]).toEqual([36, 39, 32.25])
    expect(2 * base).toBeCloseTo(36 * Math.cos(rad(20)), 12)
    expect(thickness).toBeCloseTo((Math.PI * 1.5) / 2, 12)
  })
  it('aslant are as they are across the teeth', () => {
    fc.assert(
      fc.property(between(5, 40), between(0.5, 4), between(-0.3, 0.6), (helix, module, shift) => {
        const teeth = gear({ helix, module, shift, count: 31 })
        const { pitch, base, thickness } = toothSizes(teeth)
        const across = Math.cos(rad(helix))
        expect(2 * pitch).toBeCloseTo((31 * module) / across, 9)
        // The base pitch across the teeth is that of the straight cutter.
        const baseHelix = Math.atan((base / pitch) * Math.tan(rad(helix)))
        expect(basePitch(teeth) * Math.cos(baseHelix)).toBeCloseTo(Math.PI * module * Math.cos(rad(20)), 9)
        expect(thickness * across).toBeCloseTo(module * (Math.PI / 2 + 2 * shift * Math.tan(rad(20))), 9)
      }),
    )
  })
  it('over teeth and over pins come to their closed forms', () => {
    fc.assert(
      fc.property(fc.integer({ min: 12, max: 80 }), between(0.5, 4), between(-0.2, 0.6), (count, module, shift) => {
        const teeth = gear({ count, module, shift })
        const k = teethSpanned(teeth)
        const alpha = rad(20)
        const span =
          module * Math.cos(alpha) * ((k - 0.5) * Math.PI + count * inv(alpha)) + 2 * shift * module * Math.sin(alpha)
        expect(spanOver(teeth, k)).toBeCloseTo(span, 9)
        const pin = 1.728 * module
        const away = inverseInv(
          pin / (module * count * Math.cos(alpha)) +
            inv(alpha) +
            (2 * shift * Math.tan(alpha)) / count -
            Math.PI / (2 * count),
        )
        const odd = count % 2 === 0 ? 1 : Math.cos(Math.PI / (2 * count))
        expect(overPins(teeth, pin)).toBeCloseTo(((module * count * Math.cos(alpha)) / Math.cos(away)) * odd + pin, 9)
      }),
    )
  })
  it('spanned are touched between the root and the tip', () => {
    fc.assert(
      fc.property(gears, (teeth) => {
        const { base, tip } = toothSizes(teeth)
        const k = teethSpanned(teeth)
        if (k < 2 || k > teeth.count / 2) return
        const touched = Math.hypot(base, spanOver(teeth, k) / 2)
        expect(touched).toBeLessThan(tip + 0.5 * teeth.module)
        expect(touched).toBeGreaterThan(tip - 2.6 * teeth.module)
      }),
    )
  })
  it('come to a point where both flanks meet', () => {
    const teeth = gear({ shift: 0.9, count: 9 })
    const { halfAngle, tip } = toothSizes(teeth)
    expect(halfAngle(pointedAt(teeth))).toBeCloseTo(0, 9)
    expect(pointedAt(teeth)).toBeLessThan(tip)
    expect(pointedAt(gear())).toBeGreaterThan(toothSizes(gear()).tip)
  })
  it('stand back at the tip as they are told to, and nowhere below', () => {
    const plain = gear()
    const { base, tip, pitch, halfAngle } = toothSizes({ ...plain, relief: { amount: 0.03, from: 18.3 } })
    const before = toothSizes(plain).halfAngle
    expect((before(tip) - halfAngle(tip)) * base).toBeCloseTo(0.03, 12)
    expect(halfAngle(pitch)).toBe(before(pitch))
  })
})

/** Half of a space at a radius, by a cutter that is rolled along the gear in so many steps. */
function rolled(teeth: Teeth, radius: number, steps: number): number {
  const { module, shift, dedendum, thinner } = teeth
  const alpha = rad(teeth.pressure)
  const fillet = Math.min(teeth.fillet, roundest(teeth))
  const pitch = (teeth.count * module) / 2
  const half = (depth: number) => {
    const round = depth - (dedendum - fillet)
    const wide = (Math.PI * module) / 4 + thinner / 2
    if (depth > dedendum) return -1
    if (depth <= dedendum - fillet * (1 - Math.sin(alpha))) return wide - depth * Math.tan(alpha)
    const out = wide - (dedendum - fillet) * Math.tan(alpha) - fillet / Math.cos(alpha)
    return out + Math.sqrt(Math.max(0, fillet ** 2 - round ** 2))
  }
  // As far as any flank or root is touched.
  const { tip, base } = toothSizes(teeth)
  const flanks = (Math.sqrt(tip ** 2 - base ** 2) - pitch * Math.sin(alpha)) / Math.cos(alpha)
  const far = 1.1 * (Math.max(flanks, (dedendum - shift) / Math.tan(alpha), module) + module)
  const isCut = (beside: number) => {
    for (let i = 0; i <= steps; i++) {
      const u = far * ((2 * i) / steps - 1)
      const angle = beside + u / pitch
      const [x, y] = [radius * Math.sin(angle), radius * Math.cos(angle)]
      if (Math.abs(x - u) < half(pitch - y + shift)) return true
    }
    return false
  }
  let [low, high] = [0, Math.PI / teeth.count]
  if (!isCut(low)) return 0
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (isCut(middle)) low = middle
    else high = middle
  }
  return low
}

/** Half of a space at a radius, as it is told. */
function told(teeth: Teeth, radius: number): number {
  const { halfAngle } = toothSizes(teeth)
  const root = rootOf(teeth)
  if (radius >= root.form) return Math.PI / teeth.count - halfAngle(radius)
  let [low, high] = [0, 1]
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2
    if (root.at(middle).radius < radius) low = middle
    else high = middle
  }
  return root.at(low).beside
}

describe('roots', () => {
  it('are as a cutter leaves them that is rolled in 4,000 steps, undercut or not', () => {
    let undercut = 0
    fc.assert(
      fc.property(gears, between(0.02, 0.98), (teeth, share) => {
        const { root, tip } = toothSizes(teeth)
        if (pointedAt(teeth) < tip) return
        if (rootOf(teeth).undercut) undercut++
        const radius = root + share * (tip - root)
        const difference = (told(teeth, radius) - rolled(teeth, radius, 4000)) * radius
        expect(Math.abs(difference), JSON.stringify(teeth)).toBeLessThan(1e-3 * teeth.module)
      }),
      { numRuns: 150 },
    )
    expect(undercut).toBeGreaterThan(5)
  })
  it('begin on the root circle, square to it, and go on into the flank', () => {
    fc.assert(
      fc.property(gears, (teeth) => {
        const { root, halfAngle } = toothSizes(teeth)
        const { at, floor, form } = rootOf(teeth)
        expect(at(0).radius).toBeCloseTo(root, 9)
        expect(at(0).beside).toBeCloseTo(floor, 9)
        expect(at(1).radius).toBe(form)
        expect(at(1).beside).toBeCloseTo(Math.PI / teeth.count - halfAngle(form), 6)
      }),
    )
  })
  it('are undercut where the shift is less than the least one, and not where it is more', () => {
    fc.assert(
      fc.property(fc.integer({ min: 6, max: 40 }), between(0.5, 3), between(0.001, 0.3), (count, module, off) => {
        const least = leastShift(gear({ count, module })) / module
        expect(rootOf(gear({ count, module, shift: least + off })).undercut).toBe(false)
        expect(rootOf(gear({ count, module, shift: least - off })).undercut).toBe(true)
      }),
    )
    // 17 teeth of 20° are the books' limit, of a cutter whose flank is straight one module deep.
    const sharp = { ...isoProfile, dedendum: 1, fillet: 0 }
    expect(leastShift(gear({ count: 17, ...sharp }))).toBeGreaterThan(0)
    expect(leastShift(gear({ count: 18, ...sharp }))).toBeLessThan(0)
  })
})
