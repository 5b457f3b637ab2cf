import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compensationFor } from '../compensation/index.ts'
import { newPiece, onBed, type Part } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import { defaultFields } from '../fields/index.ts'
import type { Solid } from '../kernel/index.ts'
import { turnedZ, world } from '../place/index.ts'
import { proofOf, swingAt } from '../proof/index.ts'
import { asPrinted } from '../solids/index.ts'
import { builtTwice, partOf, step, testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { clickingAt } from './clicking.ts'
import { jointOf } from './index.ts'

const kernel = await testKernel()
const up = [0, 0, 1] as const
const share = real(0, 1)

const common = { bar: 7.3, hold: 1.1, height: 5.3, thick: 1.1, gap: 0.3, upward: 0.4 }
const ratchet = { ...common, outside: 31.7, arm: 21.3, teeth: 17, depth: 1.7 }
const detent = { ...common, outside: 23.9, arm: 18.1, clicks: 11, lift: 1 / 3 }

/** What a wheel at an angle shares with the arm, which is lifted so far from its rim; mm³. */
function shared(kind: string, values: AnyValues, angle: number, lift = 0): number {
  const definition = jointOf(kind)!
  return kernel.scope((scope) => {
    const context = { scope, fineness: 0.01, up }
    const { adds } = definition.solids(values, context)
    const arm = scope.intersection([adds[0][0]!, definition.bends!(values, context)[0][0]!])
    const lifted = scope.placed(arm, { ...world, origin: [0, lift, 0] })
    return scope.intersection([lifted, scope.placed(adds[1][0]!, turnedZ(angle))]).volume()
  })
}
const liftOf = (kind: string, values: AnyValues) => jointOf(kind)!.spring!(values, { stiffness: 2000 })!.travel

describe('a ratchet', () => {
  it('turns back no farther than its play, wherever a tooth stands, and forth with its pawl lifted', () => {
    const pitch = 360 / ratchet.teeth
    // The gap at the foot of a tooth.
    const play = (Math.asin(0.3 / (31.7 / 2 - 1.7)) * 180) / Math.PI
    for (const tooth of [0, 1, 5]) {
      expect(shared('ratchet', ratchet, -tooth * pitch + 0.8 * play)).toBeLessThan(1e-6)
      expect(shared('ratchet', ratchet, -tooth * pitch + play + 1)).toBeGreaterThan(0.1)
    }
    expect(shared('ratchet', ratchet, -pitch / 2)).toBeGreaterThan(0.1)
    fc.assert(
      fc.property(share, (s) => {
        const lift = liftOf('ratchet', ratchet)
        expect(shared('ratchet', ratchet, -360 * s, lift + 0.01)).toBeLessThan(1e-6)
      }),
      { numRuns: runs(20), seed: 3 },
    )
  })
  it('tells what its teeth cannot be', () => {
    const told = (change: object) => jointOf('ratchet')!.impossible!({ ...ratchet, ...change } as never)?.field
    expect(told({})).toBeUndefined()
    expect(told({ depth: 0.5 })).toBe('depth')
    expect(told({ teeth: 40, depth: 2 })).toBe('depth')
    expect(told({ outside: 13 })).toBe('outside')
    expect(told({ height: 1.3 })).toBe('height')
    expect(told({ arm: 4.3 })).toBe('arm')
  })
})

describe('a detent', () => {
  it('clicks at each of its places, with its play, and passes between them with its arm lifted', () => {
    for (const place of [0, 1, 7]) expect(shared('detent', detent, (360 * place) / 11)).toBeLessThan(1e-6)
    expect(shared('detent', detent, 360 / 22)).toBeGreaterThan(0.1)
    expect(shared('detent', detent, 360 / 22, liftOf('detent', detent) - 0.05)).toBeGreaterThan(0.01)
    fc.assert(
      fc.property(share, (s) => {
        expect(shared('detent', detent, 360 * s, liftOf('detent', detent) + 0.01)).toBeLessThan(1e-6)
      }),
      { numRuns: runs(20), seed: 4 },
    )
  })
  it('tells what its notches cannot be', () => {
    const told = (change: object) => jointOf('detent')!.impossible!({ ...detent, ...change } as never)?.field
    expect([told({}), told({ clicks: 60 }), told({ lift: 7, clicks: 2 })]).toEqual([undefined, 'clicks', 'outside'])
  })
})

const withJoint = (kind: string, values: Readonly<Record<string, number>>): Part => {
  const part = partOf([step('base', 'plate', { width: '61.9', depth: '53', height: '2.35' })])
  return {
    ...part,
    pieces: [part.pieces[0]!, newPiece('p2', 'Wheel', 'sand')],
    joints: [
      {
        ...{ id: 'j', name: '', kind, pieces: ['p1', 'p2'], place: { ...onBed, lift: '2.35' } },
        fields: {
          ...defaultFields(jointOf(kind)!.fields),
          ...Object.fromEntries(Object.entries(values).map(([field, value]) => [field, String(value)])),
        },
      },
    ],
  }
}

it('makes room behind its arm, as far as that is bent', () => {
  const v = { ...detent, lift: 2.3, thick: 0.9, clicks: 3 }
  kernel.scope((scope) => {
    const context = { scope, fineness: 0.02, up }
    const { cuts } = jointOf('detent')!.solids(v as never, context)
    const arm = scope.extrude(
      [
        [
          [-v.arm + 1, 23.9 / 2 + 0.3],
          [0, 23.9 / 2 + 0.3],
          [0, 23.9 / 2 + 0.3 + 0.9],
          [-v.arm + 1, 23.9 / 2 + 0.3 + 0.9],
        ],
      ],
      5,
    )
    const bent = scope.placed(arm, { ...world, origin: [0, 2.3, 0] })
    expect(scope.difference(bent, cuts[0]).volume()).toBeLessThan(1e-6)
  })
})

it('calls what holds its wheel the head, out to its rim, and what lies beyond that its arm', () => {
  const names = clickingAt({ ...detent, bar: 7.3 } as never, 0, () => 'rim')
  const inner = 7.3 / 2 + 0.3
  fc.assert(
    fc.property(share, real(0, 360), real(0.1, 5), (s, angle, z) => {
      const [x, y] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)]
      const at = (wide: number) => names([x * wide, y * wide, z], [x, y, 0])
      expect(at(inner - 1 + 2 * s)).toBe(inner - 1 + 2 * s > 7.3 / 2 + 0.01 ? 'head' : 'bar')
      expect(at(inner + 1.11 + 5 * s)).toBe('arm')
    }),
    { numRuns: runs(300) },
  )
})

describe.each([
  ['ratchet', ratchet],
  ['detent', detent],
])('a part with a %s', (kind, values) => {
  it('is moved without its arm: nothing runs into anything, all the way round', async () => {
    const twice = await builtTwice(kernel, withJoint(kind, values))
    expect(twice.fine.problems).toEqual([])
    for (const angle of [0, 37.3, 85.1, 161.9]) {
      const { collisions, gap } = swingAt(kernel, twice, { j: [angle] })
      expect(collisions).toEqual([])
      expect(gap).toBeCloseTo(0.3, 1)
    }
    // The arm is in the piece that is printed, and in no other one.
    const [base] = twice.fine.pieces
    const volume = ({ solid, stiff }: { solid: Solid | undefined; stiff?: Solid | undefined }) => [
      solid!.volume(),
      stiff!.volume(),
    ]
    const [whole, stiff] = volume(base!)
    expect(whole! - stiff!).toBeGreaterThan(values.arm * values.thick * values.height)
    expect(twice.fine.pieces[1]!.stiff).toBeUndefined()
    // As it is printed it bends out of the way as well.
    const own = { ...compensationFor(twice.fine.resolved.part), walls: 0.03 }
    const printed = asPrinted(kernel, twice.fine, own)
    expect(printed.built.pieces[0]!.solid!.volume()).not.toBeCloseTo(base!.solid!.volume(), 3)
    expect(printed.built.pieces[0]!.stiff).toBe(base!.stiff)
    printed.release()
  })
  it('is judged by the strain of its arm', async () => {
    const twice = await builtTwice(kernel, withJoint(kind, values))
    const found = await proofOf(kernel, twice.fine, { only: ['springs', 'leaves'] })
    const [spring] = found.filter(({ check }) => check === 'springs')
    expect(spring!.about).toEqual([{ kind: 'joint', id: 'j' }])
    const strain = (150 * values.thick * liftOf(kind, values)) / values.arm ** 2
    expect(spring!.text).toContain(`strain ${Number(strain.toPrecision(2))} %`)
    expect(found.filter(({ check, rank }) => check === 'leaves' && rank !== 'pass')).toEqual([])
  })
})
