import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import { closeInside, openingOf, toothSizes } from '../../gears/index.ts'
import type { Solid } from '../../kernel/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import type { Frame } from '../../place/index.ts'
import { testKernel } from '../../testing/index.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'
import { teethOf } from './teeth.ts'

const kernel = await testKernel()
const made = { fineness: 0.01, cuts: false, through: 20, overlap: 0.005, up: [0, 0, 1] as const }
const valuesOf = (kind: string, change: AnyValues) => ({ ...defaults(kind), ...change }) as never
const turned = (degrees: number, x = 0, y = 0): Frame => {
  const rad = (degrees * Math.PI) / 180
  const [c, s] = [Math.cos(rad), Math.sin(rad)]
  return { origin: [x, y, 0], u: [c, s, 0], v: [-s, c, 0], n: [0, 0, 1] }
}

/** What two solids share at so many places over a pitch of the first, mm³, and how near they come. */
function run(
  one: readonly [string, AnyValues],
  two: readonly [string, AnyValues],
  places: number,
  at: (share: number) => readonly [Frame, Frame],
) {
  return kernel.scope((scope) => {
    const [a, b] = [one, two].map(([kind, change]) =>
      shapeOf(kind)!.solid(valuesOf(kind, change), { scope, ...made }),
    ) as [Solid, Solid]
    for (const each of [a, b])
      expect(meshFigures(each.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
    let [overlap, least, most] = [0, Number.POSITIVE_INFINITY, 0]
    for (let i = 0; i < places; i++) {
      kernel.scope((inner) => {
        const [frameA, frameB] = at(i / places)
        const [p, q] = [inner.placed(a, frameA), inner.placed(b, frameB)]
        overlap = Math.max(overlap, inner.intersection([p, q]).volume())
        const gap = p.gapTo(q, 1)
        least = Math.min(least, gap)
        most = Math.max(most, gap)
      })
    }
    return { overlap, least, most }
  })
}

const teeth = { module: 1.27, play: 0.15, height: 2.3 }

describe('a gear in a ring gear', () => {
  it.each([
    ['straight', 24, 61],
    ['helical', 25, 62],
    ['herringbone', 23, 60],
  ])('runs without touching, and never farther off than their play: %s', (way, a, b) => {
    const own = { ...teeth, run: way, helix: 17.3 }
    const [gear, ring] = [
      { ...own, teeth: a, bore: 'none' },
      { ...own, teeth: b },
    ]
    const inside = teethOf(valuesOf('gear', { ...gear, play: 0 }))
    const outside = teethOf(valuesOf('gear', { ...ring, play: 0 }))
    const distance = closeInside(inside, openingOf(outside, 0))
    const pitch = 360 / a
    const { overlap, least, most } = run(['gear', gear], ['ring-gear', ring], 24, (share) => [
      turned(pitch * share, distance),
      turned((pitch * share * a) / b),
    ])
    expect(overlap).toBe(0)
    expect(least).toBeGreaterThan(0.1)
    expect(most).toBeLessThan(0.155)
  })
})

describe('a gear on a rack', () => {
  it.each(['straight', 'helical', 'herringbone'])(
    'runs without touching, and no farther off than their play: %s',
    (way) => {
      const own = { ...teeth, run: way, helix: 15.3 }
      const gear = { ...own, teeth: 19, bore: 'none' }
      const rack = { ...own, teeth: 5, hand: 'left' }
      const { pitch } = toothSizes(teethOf(valuesOf('gear', gear)))
      const step = (2 * Math.PI * pitch) / 19
      // A tooth of the gear to the front meets a space of the rack, whose middle is a tooth.
      const { overlap, least, most } = run(['gear', gear], ['rack', rack], 24, (share) => [
        turned(-90 + (360 / 19) * share, 0, pitch),
        turned(0, (share - 0.5) * step),
      ])
      expect(overlap).toBe(0)
      expect(least).toBeGreaterThan(0.1)
      expect(most).toBeLessThan(0.155)
    },
  )
})
