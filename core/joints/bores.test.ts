import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dot, subtract, type Vec3 } from '../place/index.ts'
import { facetsOf } from '../testing/facets.ts'
import { testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { jointOf } from './index.ts'

const kernel = await testKernel()
const fineness = 0.02
const hinge = { length: 41.3, count: 5, each: 8.3, knuckle: 9.7, pin: 4.1, leaf: 4, gap: 0.35, travel: 180, seat: 0.05 }
const rest = { mouth: 3.5, stop: 'none', feel: 'free', clicks: 90, ridge: 0.15, made: 'printed', bores: 'teardrop' }
const kinds = {
  'pin-hinge': { ...hinge, ...rest, round: hinge.knuckle / 2 },
  'piano-hinge': { ...hinge, ...rest, round: hinge.knuckle / 2 },
  link: {
    ...{ eye: 10.3, width: 5.3, pin: 3.9, cheek: 2.4, reach: 12, gap: 0.35, from: -90, to: 90, bores: 'teardrop' },
    round: 10.3 / 2,
  },
}
type Kind = keyof typeof kinds
const radians = (degrees: number) => (degrees * Math.PI) / 180
/** Up across the axis, so far from x towards z. */
const upAt = (degrees: number): Vec3 => [Math.cos(radians(degrees)), 0, Math.sin(radians(degrees))]

/** The facets of one side that look to the axis from no farther than the wall: how far each, which way, and its area. */
function bored(kind: Kind, change: object, up: Vec3, side: 0 | 1 = 1) {
  const v = { ...kinds[kind], ...change }
  const joint = jointOf(kind)!
  const axis: Vec3 = [0, 0, v.round]
  return kernel.scope((scope) => {
    const { adds } = joint.solids(v as never, { scope, fineness, up })
    const names = joint.surfaces(v as never, side)
    return facetsOf(scope.union(adds[side]).mesh()).flatMap(({ middle, normal, area }) => {
      const [x, , z] = subtract(middle, axis)
      const away = -(x * normal[0] + z * normal[2])
      if (Math.abs(normal[1]) > 0.5 || away < 0.5 * v.pin || Math.hypot(x, z) > v.round) return []
      return [{ away, lean: dot(normal, up), area, name: names.at(middle, normal) }]
    })
  })
}
const areaOf = (facets: readonly { readonly area: number }[]) => facets.reduce((sum, { area }) => sum + area, 0)
const steep = (facets: ReturnType<typeof bored>) => facets.filter(({ lean }) => lean < -Math.SQRT1_2 - 1e-6)

describe.each(Object.keys(kinds) as Kind[])('the bores of a %s', (kind) => {
  it('hang over by 45° at most, whichever way is up', () => {
    fc.assert(
      fc.property(real(-180, 180), (degrees) => {
        const facets = bored(kind, {}, upAt(degrees))
        expect(steep(facets)).toEqual([])
        // A roof there is: what looks down at 45° is as wide as both its flanks.
        const r = kinds[kind].pin / 2 + kinds[kind].gap
        const flanks = areaOf(facets.filter(({ lean }) => Math.abs(lean + Math.SQRT1_2) < 1e-6))
        const long = areaOf(facets.filter(({ lean }) => lean > 0)) / (Math.PI * r)
        expect(flanks / long).toBeGreaterThan(2 * r)
        expect(Math.min(...facets.map(({ away }) => away))).toBeGreaterThan(r - 1e-6)
        expect(facets.every(({ name }) => name === 'bore')).toBe(true)
      }),
      { numRuns: runs(8), seed: 5 },
    )
  })
  it('hang over where they are round, which is told as advice', () => {
    const v = { ...kinds[kind], bores: 'round' }
    expect(areaOf(steep(bored(kind, v, upAt(37.3))))).toBeGreaterThan(1)
    const told = (up: Vec3) => jointOf(kind)!.judged!(v as never, up).faults.map(({ rank }) => rank)
    expect(told(upAt(37.3))).toEqual(['advice'])
    expect(told([0, -1, 0])).toEqual([])
  })
  it('are round where their axis stands upright', () => {
    const [drop, round] = ['teardrop', 'round'].map((bores) => areaOf(bored(kind, { bores }, [0, 1, 0])))
    expect(drop).toBeCloseTo(round!, 9)
    expect(jointOf(kind)!.judged!(kinds[kind] as never, [0, 1, 0]).facts.at(-1)!.text).toContain('stands upright')
  })
  it('are cut flat where a point would leave too thin a wall, and say how wide', () => {
    const round = kinds[kind].round
    const change = { pin: 2 * (round - 1.3) }
    const up = upAt(115.3)
    const { facts, faults } = jointOf(kind)!.judged!({ ...kinds[kind], ...change } as never, up)
    const [, wide, wall] = /cut flat, ([\d.]+) mm wide, ([\d.]+) mm/.exec(facts.at(-1)!.text)!.map(Number)
    expect([faults, wall]).toEqual([[], 0.8])
    const facets = bored(kind, change, up)
    const flat = steep(facets)
    expect(
      flat.every(({ lean, away, name }) => lean < -0.999 && Math.abs(round - 0.8 - away) < 1e-6 && name === 'bore'),
    )
      // All that hangs over more is that flat.
      .toBe(true)
    const long = areaOf(facets.filter(({ lean }) => lean > 0)) / (Math.PI * (change.pin / 2 + kinds[kind].gap))
    expect(areaOf(flat) / long).toBeCloseTo(wide!, 1)
  })
  it('stay round in parts of before', () => {
    const { version, upgrades } = jointOf(kind)!
    expect([version, upgrades!.map((upgrade) => upgrade({ pin: '4' }))]).toEqual([2, [{ pin: '4', bores: 'round' }]])
  })
})

it('the outer bores about a pin of metal have a roof too', () => {
  const at = (bores: string) => bored('pin-hinge', { made: 'separate', bores }, upAt(90), 0)
  expect(steep(at('teardrop'))).toEqual([])
  expect(areaOf(steep(at('round')))).toBeGreaterThan(1)
})

describe('a hinge that clicks', () => {
  const v = { ...kinds['pin-hinge'], feel: 'clicks', clicks: 61.9, ridge: 0.2, travel: 183.7 }
  const joint = jointOf('pin-hinge')!

  it('clicks beside the roofs of its bores as it does without them, whichever way is up', () => {
    for (const degrees of [90, 0, 180, -90, 37.3]) {
      kernel.scope((scope) => {
        const shared = (bores: string) => {
          const { adds } = joint.solids({ ...v, bores } as never, { scope, fineness, up: upAt(degrees) })
          return (angle: number) =>
            scope.intersection([adds[0][0]!, scope.placed(adds[1][0]!, joint.motion(v as never, [angle]))]).volume()
        }
        const [drop, round] = [shared('teardrop'), shared('round')]
        for (const at of [0, 61.9, 123.8]) expect(drop(at)).toBeLessThan(1e-6)
        for (const at of [31, 91, 155, 183.7]) expect(drop(at)).toBeGreaterThan(0.9 * round(at))
      })
    }
  })
  it('is refused where its ridge would come to the roof', () => {
    const refused = (change: object) => joint.impossible!({ ...v, ...change } as never)
    expect(refused({ travel: 215.3, clicks: 90 })).toMatchObject({ field: 'bores' })
    expect(refused({ travel: 215.3, clicks: 90, bores: 'round' })).toBeUndefined()
    const most = Number(/fold (\d+)°/.exec(refused({ travel: 215.3, clicks: 90 })!.detail)![1])
    expect(refused({ travel: most, clicks: 90 })).toBeUndefined()
  })
})

describe('a round slide', () => {
  const joint = jointOf('slide')!
  const v = {
    ...{ length: 20, width: 24, thick: 3, neck: 7.3, wide: 13.1, depth: 5, from: -5, to: 5 },
    ...{ ends: 'open', gap: 0.35, upward: 0.4 },
  }
  /** How far the groove hangs over at the most, degrees from upright: of what is cut, what looks up below the face. */
  const hangs = (change: object) =>
    kernel.scope((scope) => {
      const { cuts } = joint.solids({ ...v, ...change } as never, { scope, fineness, up: upAt(90) })
      const facets = facetsOf(cuts[0][0]!.mesh()).filter(({ middle }) => middle[2] < -0.01)
      return Math.max(...facets.map(({ normal }) => (Math.asin(normal[2]) * 180) / Math.PI))
    })

  it('hangs over beside its neck, which is told, where it is not a teardrop', () => {
    const told = (change: object, up = upAt(90)) => joint.judged!({ ...v, ...change } as never, up).faults
    const [{ detail } = { detail: '' }] = told({ form: 'round' })
    expect(Number(/by ([\d.]+)°/.exec(detail)![1])).toBeGreaterThan(50)
    expect(hangs({ form: 'round' })).toBeGreaterThan(50)
    expect(hangs({ form: 'drop' })).toBeLessThan(45 + 1e-3)
    expect([told({ form: 'drop' }), told({ form: 'round' }, upAt(0)), told({ form: 'round', neck: 9.4 })]).toEqual([
      [],
      [],
      [],
    ])
  })
  it('needs no roof below a wide neck', () => {
    const volume = (form: string) =>
      kernel.scope((scope) =>
        joint.solids({ ...v, form, neck: 10.3 } as never, { scope, fineness, up: upAt(90) }).adds[1][0]!.volume(),
      )
    expect(volume('drop')).toBeCloseTo(volume('round'), 9)
  })
})
