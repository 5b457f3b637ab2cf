import { describe, expect, it } from 'vitest'
import { bent, meshOf } from '../../flex/index.ts'
import type { Ring } from '../../kernel/index.ts'
import type { Vec2 } from '../../plane/index.ts'
import { proofOf } from '../../proof/index.ts'
import { built, partOf, step, testKernel } from '../../testing/index.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'

const kernel = await testKernel()
const stuff = { stiffness: 2100 }

/** The outline of a flat shape, from the section half way up. */
function outlineOf(kind: string, values: Record<string, number>, height: number): Ring {
  return kernel.scope((scope) => {
    const solid = shapeOf(kind)!.solid(values, { scope, fineness: 0.01 } as never)
    return scope.slice(solid, height / 2).rings[0]!
  })
}
/** Bent by a flex test: what is at one end held, and pushed at the other. */
function tested(
  ring: Ring,
  size: number,
  tagOf: (a: Vec2, b: Vec2) => number,
  way: Vec2,
  thickness: number,
  by: number,
) {
  const points = ring.map(([x, y]): Vec2 => [x, y])
  const tags = points.map((p, i) => tagOf(p, points[(i + 1) % points.length]!))
  const mesh = meshOf([{ points, tags }], size)!
  return bent(mesh, { ...stuff, poisson: 0, thickness }, { held: [1], pushed: [2], way, by: 'distance', amount: by })!
}

describe('springs do as their formulas have it', () => {
  it('a snap arm, as a flex test has it', () => {
    for (const [length, thick, width, hook] of [
      [30, 2, 6.1, 1.3],
      [41.7, 1.7, 8.1, 1 / 3],
    ] as const) {
      const values = { length, thick, width, hook, flat: 1, angle: 37.3 }
      const facts = shapeOf('snap-arm')!.spring!(values, stuff)
      // Pushed at the face of its hook, to the left.
      const tag = (a: Vec2, b: Vec2) =>
        Math.max(Math.abs(a[1]), Math.abs(b[1])) < 1e-6
          ? 1
          : Math.min(a[1], b[1]) > length - 1e-6 && a[0] > thick / 2 && b[0] > thick / 2
            ? 2
            : 0
      const found = tested(outlineOf('snap-arm', values, width), thick / 2, tag, [-1, 0], width, hook)
      expect(found.force / facts.force).toBeGreaterThan(0.88)
      expect(found.force / facts.force).toBeLessThan(1.03)
      expect(Math.abs(found.strain) / facts.strain).toBeGreaterThan(0.9)
      expect(Math.abs(found.strain) / facts.strain).toBeLessThan(1.15)
    }
    const text = (angle: number) =>
      shapeOf('snap-arm')!.spring!({ length: 20, thick: 2, width: 6, hook: 1, flat: 1, angle } as never, stuff)
        .more![0]!.text
    expect(text(75)).toMatch(/sticks/)
    // 3 E I h / L³ times (0.3 + tan 30°) / (1 − 0.3 tan 30°).
    const push = ((2100 * 6 * 8) / (4 * 8000)) * ((0.3 + Math.tan(Math.PI / 6)) / (1 - 0.3 * Math.tan(Math.PI / 6)))
    expect(Number.parseFloat(text(30))).toBeCloseTo(push, 1)
  })
  it('a serpentine spring, as a flex test has it', () => {
    for (const values of [
      { bends: 4, legs: 17, pitch: 5.1, wide: 1.1, height: 6.3, travel: 0.15 },
      { bends: 6, legs: 11.3, pitch: 6, wide: 1.3, height: 4, travel: 0.2 },
    ]) {
      const facts = shapeOf('serpentine')!.spring!(values, stuff)
      const end = values.bends * values.pitch
      const tag = (a: Vec2, b: Vec2) => {
        if (Math.max(Math.abs(a[1]), Math.abs(b[1])) > 1e-6) return 0
        const x = (a[0] + b[0]) / 2
        return Math.abs(x) < values.wide ? 1 : Math.abs(x - end) < values.wide ? 2 : 0
      }
      const found = tested(
        outlineOf('serpentine', values, values.height),
        values.wide / 2,
        tag,
        [-1, 0],
        values.height,
        values.travel,
      )
      expect(found.stiffness / facts.rate).toBeCloseTo(1, 1.7)
      expect(Math.abs(found.strain) / facts.strain).toBeGreaterThan(0.85)
      expect(Math.abs(found.strain) / facts.strain).toBeLessThan(1.1)
    }
  })
  it('a flat spiral, by the length of its strip', () => {
    const values = { inner: 9.1, outer: 31.7, turns: 3, wide: 1.3, height: 5, wound: 10 }
    const facts = shapeOf('flat-spiral')!.spring!(values, stuff)
    const ring = outlineOf('flat-spiral', values, values.height)
    // With both ends clamped it is bent evenly: the moment over its angle is E I / L, here by its volume and its strip alone.
    const area = Math.abs(
      ring.reduce((sum, [x, y], i) => {
        const [nextX, nextY] = ring[(i + 1) % ring.length]!
        return sum + (x * nextY - nextX * y) / 2
      }, 0),
    )
    const long = area / values.wide
    expect(facts.rate / (((stuff.stiffness * 5 * 1.3 ** 3) / 12 / long) * (Math.PI / 180))).toBeCloseTo(1, 2)
    expect(facts.strain / ((10 * (Math.PI / 180) * 1.3) / 2 / long)).toBeCloseTo(1, 2)
    expect(facts.force).toBeCloseTo(10 * facts.rate, 12)
  })
  it('a leaf, however it is held, as a flex test has it', () => {
    const values = { length: 41.7, thick: 1.3, width: 6.1, travel: 0.4 }
    const [x, y] = [values.length / 2, values.thick / 2]
    // Half way along it there is a corner to push at, in the middle of a short stretch.
    const ring: Ring = [
      [-x, -y],
      [-0.4, -y],
      [0.4, -y],
      [x, -y],
      [x, y],
      [-x, y],
    ]
    for (const held of ['one', 'both']) {
      const facts = shapeOf('leaf-spring')!.spring!({ ...values, held } as never, stuff)
      const tag = (a: Vec2, b: Vec2) => {
        if (a[0] < -x + 1e-6 && b[0] < -x + 1e-6) return 1
        if (a[0] > x - 1e-6 && b[0] > x - 1e-6) return held === 'one' ? 2 : 1
        return held === 'both' && Math.max(Math.abs(a[0]), Math.abs(b[0])) < 0.5 ? 2 : 0
      }
      const found = tested(ring, 0.6, tag, [0, 1], values.width, 0.05)
      expect(found.stiffness / facts.rate).toBeGreaterThan(0.97)
      expect(found.stiffness / facts.rate).toBeLessThan(1.03)
      const share = 0.05 / values.travel
      expect(Math.abs(found.strain) / (facts.strain * share)).toBeGreaterThan(0.9)
      expect(Math.abs(found.strain) / (facts.strain * share)).toBeLessThan(1.1)
    }
    // Lying on both ends it gives four times as much as held there, and is bent as far as from one end of half its length.
    const rate = (held: string, length: number) =>
      shapeOf('leaf-spring')!.spring!({ ...values, length, held } as never, stuff).rate
    expect(rate('both', 41.7) / rate('lying', 41.7)).toBeCloseTo(4, 12)
    expect(rate('lying', 41.7) / (2 * rate('one', 41.7 / 2))).toBeCloseTo(1, 12)
  })
  it('a curved leaf, as a flex test has it, whether it goes less far round than a quarter or more', () => {
    for (const span of [61.9, 137.3]) {
      const values = { radius: 23.7, span, thick: 0.9, width: 6.1, travel: 0.1 }
      const facts = shapeOf('curved-leaf')!.spring!(values, stuff)
      const ring = outlineOf('curved-leaf', values, values.width)
      // It begins at the left end of its arc about the back, where it is held, and is pushed at its right one.
      const [left, right] = [1, -1].map((side) => ((90 + (side * span) / 2) * Math.PI) / 180) as [number, number]
      const isAt = (angle: number, p: Vec2) => Math.abs(Math.atan2(p[1], p[0]) - angle) < 1e-3
      const tag = (a: Vec2, b: Vec2) => (isAt(left, a) && isAt(left, b) ? 1 : isAt(right, a) && isAt(right, b) ? 2 : 0)
      const way: Vec2 = [-Math.cos(right), -Math.sin(right)]
      const found = tested(ring, 0.45, tag, way, values.width, values.travel)
      expect(found.stiffness / facts.rate).toBeGreaterThan(0.96)
      expect(found.stiffness / facts.rate).toBeLessThan(1.03)
      expect(Math.abs(found.strain) / facts.strain).toBeGreaterThan(0.9)
      expect(Math.abs(found.strain) / facts.strain).toBeLessThan(1.1)
    }
  })
  it('a folded leaf, as a flex test has it: one leg held in the middle of its bend would be half of it', () => {
    const values = { legs: 23.7, apart: 9.1, thick: 1.1, width: 6.1, travel: 0.3 }
    const facts = shapeOf('folded-leaf')!.spring!(values, stuff)
    // Half of it, cut in the middle of its bend and held there.
    const whole = outlineOf('folded-leaf', values, values.width)
    const half = kernel.scope((scope) => {
      const above: Ring = [
        [-1, 0],
        [60, 0],
        [60, 30],
        [-1, 30],
      ]
      return scope.commonRegions([whole], [above])[0]!
    })
    const y = values.apart / 2
    const tag = (a: Vec2, b: Vec2) => {
      if (Math.max(Math.abs(a[1]), Math.abs(b[1])) < 1e-6) return 1
      return Math.max(Math.abs(a[0]), Math.abs(b[0])) < 1e-6 && a[1] > y - 1 && b[1] > y - 1 ? 2 : 0
    }
    const found = tested(half, 0.5, tag, [0, -1], values.width, values.travel / 2)
    expect(found.force / facts.force).toBeGreaterThan(0.96)
    expect(found.force / facts.force).toBeLessThan(1.03)
    expect(Math.abs(found.strain) / facts.strain).toBeGreaterThan(0.9)
    expect(Math.abs(found.strain) / facts.strain).toBeLessThan(1.1)
  })
  it('a ring washer as the tables of EN 16984 have it, but for the ratio of Poisson', () => {
    // Group 2, series A, 50 mm of steel: 12 000 N at three quarters of its rise.
    const values = { outer: 50, inner: 25.4, thick: 3, rise: 1.1, travel: 0.825 }
    const { force } = shapeOf('disc-spring')!.spring!(values, { stiffness: 206_000 })
    const asSteel = (force * (1 - 0.36 ** 2)) / (1 - 0.3 ** 2)
    expect(asSteel / 12_000).toBeCloseTo(1, 1.5)
  })
  it('a wave washer about as beams from crest to trough do', () => {
    const values = { outer: 31.7, inner: 24.1, thick: 1.1, rise: 2, waves: 3, travel: 0.7 }
    const facts = shapeOf('wave-washer')!.spring!(values, stuff)
    const [middle, wide] = [(31.7 + 24.1) / 2, (31.7 - 24.1) / 2]
    const beam = (Math.PI * middle) / 6
    // Two for each crest, guided at both ends.
    const rate = (6 * 12 * stuff.stiffness * ((wide * 1.1 ** 3) / 12)) / beam ** 3
    expect(facts.rate / rate).toBeGreaterThan(0.7)
    expect(facts.rate / rate).toBeLessThan(1.3)
    // The moment at a crest, of a quarter of each crest's force.
    const strain = ((facts.force / 6) * beam * 6) / 2 / (wide * 1.1 ** 2) / stuff.stiffness
    expect(facts.strain / strain).toBeGreaterThan(0.7)
    expect(facts.strain / strain).toBeLessThan(1.6)
  })
  it('a coil spring as a bar that is twisted: all of its wire by one angle', () => {
    const values = { works: 'pressed', diameter: 21.3, wire: 1.3, pitch: 5, turns: 4.7, travel: 3 }
    const facts = shapeOf('coil-spring')!.spring!(values, stuff)
    const shear = stuff.stiffness / 2.72
    const long = Math.PI * 21.3 * 4.7
    // A force F twists it by F D / 2 over its length, and goes D / 2 times the angle.
    const twisted = ((facts.force * 21.3) / 2) * (long / (shear * ((Math.PI * 1.3 ** 4) / 32)))
    expect((twisted * 21.3) / 2).toBeCloseTo(3, 9)
    // With a thin wire the shear is that of the bar, with a thick one more on the inside.
    const shearOf = (wire: number) => {
      const { force, strain } = shapeOf('coil-spring')!.spring!({ ...values, wire } as never, stuff)
      return (strain * stuff.stiffness) / Math.sqrt(3) / ((force * 21.3 * 8) / (Math.PI * wire ** 3))
    }
    expect(shearOf(0.1)).toBeCloseTo(1, 1)
    expect(shearOf(4)).toBeGreaterThan(1.25)
  })
  it.each([
    ['curved-leaf', { thick: 9 }, 'thick'],
    ['folded-leaf', { thick: 8 }, 'thick'],
    ['folded-leaf', { travel: 7 }, 'travel'],
    ['disc-spring', { inner: 29 }, 'inner'],
    ['disc-spring', { rise: 7 }, 'rise'],
    ['disc-spring', { travel: 1.6 }, 'travel'],
    ['wave-washer', { inner: 29 }, 'inner'],
    ['wave-washer', { rise: 9 }, 'rise'],
    ['wave-washer', { travel: 2.1 }, 'travel'],
    ['coil-spring', { wire: 6 }, 'wire'],
    ['coil-spring', { pitch: 2.5 }, 'pitch'],
    ['coil-spring', { pitch: 17 }, 'pitch'],
    ['coil-spring', { travel: 14 }, 'travel'],
  ])('%s refuses %o', (kind, change, field) => {
    const shape = shapeOf(kind)!
    expect(shape.impossible!(defaults(kind) as never)).toBeUndefined()
    expect(shape.impossible!({ ...defaults(kind), ...change } as never)!.field).toBe(field)
  })
  it('a living hinge: bent evenly, its strain is half its thickness to the radius that it is folded round', () => {
    const values = { web: 5.3, thin: 0.7, land: 6, thick: 3, width: 15.3, fold: 61.9 }
    const facts = shapeOf('living-hinge')!.spring!(values, stuff)
    const radius = values.web / ((values.fold * Math.PI) / 180)
    expect(facts.strain).toBeCloseTo(0.35 / radius, 12)
    expect(facts.force).toBeCloseTo((stuff.stiffness * (15.3 * 0.7 ** 3)) / 12 / radius, 9)
    expect(Number.parseFloat(facts.more![0]!.text.slice('a radius of '.length))).toBeCloseTo(radius, 1)
  })
  it('are findings: within what the material takes, again and again or once, or beyond', async () => {
    const rankOf = async (percent: number) => {
      // 1.5 t h / L²
      const hook = ((percent / 100) * 30 ** 2) / (1.5 * 2)
      const arm = step('a', 'snap-arm', { length: '30', thick: '2', hook: String(hook) })
      const findings = await proofOf(kernel, await built(kernel, partOf([arm])), { only: ['springs'] })
      return findings.map(({ rank }) => rank)
    }
    const { strainOften, strainOnce } = partOf([]).material
    expect(await rankOf(0.9 * strainOften)).toEqual(['pass'])
    expect(await rankOf((strainOften + strainOnce) / 2)).toEqual(['warning'])
    expect(await rankOf(1.1 * strainOnce)).toEqual(['fault'])
  })
})
