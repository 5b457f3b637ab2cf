import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import { threadAt, toothSizes, type Worm, wormPitch, wormProfile, wormRise } from '../../gears/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { dot, type Vec3 } from '../../place/index.ts'
import { testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'
import { teethOf } from './teeth.ts'
import { asTeeth, leadOf } from './worm.ts'

const kernel = await testKernel()
const worm = shapeOf('worm')!
const values = (change: AnyValues) => ({ ...defaults('worm'), bore: 'none', ...change }) as never
const context = { cuts: false, through: 20, overlap: 0.005, up: [0, 0, 1] as Vec3 }
const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 500 }).map((k) => low + ((high - low) * k) / 500)
const anyWorm = fc.record({
  starts: fc.integer({ min: 1, max: 4 }),
  module: between(0.8, 2.1),
  diameter: between(14, 24),
  height: between(24, 34),
  hand: fc.constantFrom('right', 'left'),
  pressure: between(14.5, 25),
  play: between(0, 0.3),
  root: between(0, 0.4),
})

function measured(change: AnyValues, fineness = 0.02) {
  return kernel.scope((scope) => {
    const solid = worm.solid(values(change), { scope, fineness, ...context })
    const { positions } = solid.mesh()
    return { volume: solid.volume(), figures: meshFigures(solid.mesh()), positions }
  })
}
const wormOf = (v: never): Worm => ({ teeth: teethOf(asTeeth(v)), lead: leadOf(v), fillet: 0.38 * 1.5 })

describe('a worm', () => {
  it('goes on by its starts times the pitch of its teeth for each turn', () => {
    fc.assert(
      fc.property(anyWorm, (change) => {
        const own = wormOf(values(change))
        const lead = (own.lead * Math.PI) / 180
        expect(Math.sin(lead)).toBeCloseTo((change.starts * change.module) / change.diameter, 12)
        expect(wormPitch(own)).toBeCloseTo((Math.PI * change.module) / Math.cos(lead), 9)
        expect(2 * Math.PI * wormRise(own)).toBeCloseTo(change.starts * wormPitch(own), 9)
        const { pitch, tip, root } = toothSizes(own.teeth)
        expect(2 * pitch).toBeCloseTo(change.diameter, 9)
        expect(tip - pitch).toBeCloseTo(change.module, 9)
        expect(pitch - root).toBeCloseTo(1.25 * change.module, 9)
      }),
    )
  })
  it('has threads as thick along the axis as half their pitch, less their play', () => {
    fc.assert(
      fc.property(anyWorm, (change) => {
        const own = wormOf(values(change))
        const { pitch, halfAngle } = toothSizes(own.teeth)
        expect(2 * halfAngle(pitch) * wormRise(own)).toBeCloseTo(wormPitch(own) / 2 - change.play, 9)
      }),
    )
  })
  it('has a round between two threads, and nothing else, where one as large as was asked for has no room', () => {
    fc.assert(
      fc.property(anyWorm, (change) => {
        const v = values(change)
        if (worm.impossible!(v)) return
        const own = { ...wormOf(v), fillet: 85.1 * change.module }
        const profile = wormProfile(own, 0.01)
        const { root } = toothSizes(own.teeth)
        // Rounds of two threads meet in the middle of the root.
        expect(profile.filter(({ radius }) => radius < root + 1e-9)).toHaveLength(2)
        expect(profile[0]!.radius).toBeCloseTo(root, 9)
        // And they lean into the flanks: none comes back out of the other thread.
        for (let i = 1; i < profile.length / 2; i++)
          expect(profile[i]!.along).toBeGreaterThan(profile[i - 1]!.along - 1e-9)
      }),
    )
  })
  it('has a section along its axis whose corners lie on the true flank, and whose flats lie by it', () => {
    fc.assert(
      fc.property(anyWorm, fc.constantFrom(0.05, 0.01), (change, fineness) => {
        const v = values(change)
        if (worm.impossible!(v)) return
        const own = { ...wormOf(v), fillet: change.root * change.module }
        const profile = wormProfile(own, fineness)
        const { root, tip } = toothSizes(own.teeth)
        const radii = profile.map(({ radius }) => radius)
        expect(Math.min(...radii)).toBeCloseTo(root, 9)
        expect(Math.max(...radii)).toBeCloseTo(tip, 9)
        expect(profile.at(-1)!.along - profile[0]!.along).toBeCloseTo(wormPitch(own), 9)
        let [off, between] = [0, 0]
        for (const [i, { radius, along }] of profile.entries()) {
          // Above the round of the root.
          if (radius <= root + own.fillet + 1e-9) continue
          off = Math.max(off, Math.abs(Math.abs(along) - threadAt(own, radius)))
          const next = profile[i + 1]
          if (!next || next.radius === radius || next.radius < root + own.fillet) continue
          const middle = Math.abs(along + next.along) / 2
          between = Math.max(between, Math.abs(middle - threadAt(own, (radius + next.radius) / 2)))
        }
        expect(off).toBeLessThan(1e-9)
        expect(between).toBeLessThan(fineness / 4)
      }),
      { numRuns: runs(40) },
    )
  })
  it('is one sound body with the volume of its section all along, and reaches as far as it says', () => {
    const direction = fc.tuple(between(-1, 1), between(-1, 1), between(-1, 1)).filter((d) => Math.hypot(...d) > 0.2)
    fc.assert(
      fc.property(anyWorm, direction, (change, way) => {
        const v = values(change)
        if (worm.impossible!(v)) return
        const { volume, figures, positions } = measured(change)
        expect(figures).toMatchObject({ closed: true, oriented: true, solids: 1, cavities: [] })
        const own = { ...wormOf(v), fillet: change.root * change.module }
        // Its section along the axis, turned: what a pitch of it takes.
        const profile = wormProfile(own, 0.002)
        const pitch = profile.slice(1).reduce((sum, { radius, along }, i) => {
          const before = profile[i]!
          const squares = (radius ** 2 + radius * before.radius + before.radius ** 2) / 3
          return sum + Math.PI * squares * (along - before.along)
        }, 0)
        expect(Math.abs(volume / ((pitch / wormPitch(own)) * change.height) - 1)).toBeLessThan(1e-2)
        const d = way.map((x) => x / Math.hypot(...way)) as unknown as Vec3
        let far = -Infinity
        for (let i = 0; i < positions.length; i += 3)
          far = Math.max(far, dot(d, [positions[i]!, positions[i + 1]!, positions[i + 2]!]))
        expect(Math.abs(worm.reach!(v, d) - far)).toBeLessThan(0.05)
      }),
      { numRuns: runs(12) },
    )
  })
  it.each([
    ['right', 1],
    ['left', -1],
  ])('of the %s hand winds that way as it rises', (hand, sign) => {
    const at = worm.surfaces(values({ hand, starts: 2, module: 1.5, diameter: 16 })).at
    const rise = wormRise(wormOf(values({ hand, starts: 2 })))
    for (const z of [3.1, 11.7, 23.9]) {
      const turn = (sign * z) / rise
      expect(at([8 * Math.cos(turn), 8 * Math.sin(turn), z], [1, 0, 0])).toBe('thread 1')
      expect(at([-8 * Math.cos(turn), -8 * Math.sin(turn), z], [-1, 0, 0])).toBe('thread 2')
    }
    const { positions } = measured({ hand, starts: 2 })
    // The tips at half of the height stand where the threads have come to.
    const { tip } = toothSizes(wormOf(values({ starts: 2 })).teeth)
    const middle = (sign * 30) / rise
    const tops = Array.from(
      { length: positions.length / 3 },
      (_, i) => [...positions.slice(3 * i, 3 * i + 3)] as number[],
    )
      .filter(([x, y, z]) => Math.abs(z! - 30) < 1e-4 && Math.hypot(x!, y!) > tip - 1e-3)
      .map(([x, y]) => Math.cos(2 * (Math.atan2(y!, x!) - middle)))
    expect(tops.length).toBeGreaterThan(2)
    expect(Math.min(...tops)).toBeGreaterThan(0.5)
  })
  it.each([
    [{ diameter: 4 }, 'diameter', /4\.75 mm or more/],
    [{ starts: 8, diameter: 16 }, 'diameter', /steeper than 45°: 16\.98/],
    [{ play: 2.2 }, 'play', /next to nothing/],
    [{ height: 4 }, 'height', /4\.74 mm, or longer/],
    [{ bore: 'round', hole: 14 }, 'hole', /roots are at ⌀ 12\.25/],
    [{ bore: 'keyed', hole: 5, keyWidth: 6 }, 'keyWidth', /narrower/],
  ] as [AnyValues, string, RegExp][])(
    'that cannot be is told at its value, with what can: %o',
    (change, field, text) => {
      const told = worm.impossible!(values(change))
      expect([told?.field, told?.detail]).toEqual([field, expect.stringMatching(text)])
      if (told?.nearest)
        expect(worm.impossible!(values({ ...change, [told.nearest.field]: told.nearest.value }))).toBeUndefined()
      expect(told?.nearest !== undefined || field === 'keyWidth').toBe(true)
    },
  )
})
