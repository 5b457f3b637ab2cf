import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece, onBed, type Part } from '../document/index.ts'
import { formatOf, handOff } from '../exchange/index.ts'
import { defaultFields } from '../fields/index.ts'
import { bent, meshOf } from '../flex/index.ts'
import type { Freedom } from '../mechanism/index.ts'
import { meshFigures } from '../mesh/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { printedAsOne } from '../planning/index.ts'
import { proofOf } from '../proof/index.ts'
import { inPose } from '../solids/index.ts'
import { builtTwice, partOf, step, testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { jointOf } from './index.ts'

const kernel = await testKernel()
const up = [0, 0, 1] as const
const flexure = jointOf('flexure')!
const forms = ['web', 'cross', 'guide'] as const
const between = (low: number, high: number, share: number) => low + (high - low) * share
const shares = fc.array(real(0, 1), { minLength: 6, maxLength: 6 })
const valuesFor = (form: string, s: readonly number[]) => {
  const length = between(8, 31.7, s[0]!)
  const thin = between(0.5, 1.3, s[1]!)
  return {
    ...{ form, length, thin, height: between(3, 15.3, s[2]!), turn: between(1, 15, s[4]!), shift: 0.05 * length },
    wide: length / Math.SQRT2 + 2 * thin + between(0.5, 9, s[3]!),
  }
}

describe.each(forms)('a flexure with %s', (form) => {
  it('makes one closed body of both sides, and its blocks stay apart over its travel', () => {
    fc.assert(
      fc.property(shares, (s) => {
        const v = valuesFor(form, s)
        expect(flexure.impossible!(v as never)).toBeUndefined()
        kernel.scope((scope) => {
          const context = { scope, fineness: 0.02, up }
          const { adds } = flexure.solids(v as never, context)
          const [first, second] = [adds[0][0]!, adds[1][0]!]
          const whole = scope.union([first, second])
          expect(whole.bodies()).toBe(1)
          expect(meshFigures(whole.mesh())).toMatchObject({ closed: true, oriented: true })
          const stiff = scope.difference(first, flexure.bends!(v as never, context)[0])
          expect(stiff.bodies()).toBe(1)
          const [{ from, to }] = flexure.freedoms(v as never) as unknown as [Freedom]
          for (const at of [from, 0, to * s[5]!, to]) {
            const moved = scope.placed(second, flexure.motion(v as never, [at]))
            expect(stiff.gapTo(moved, 5)).toBeGreaterThan(0.5)
          }
        })
      }),
      { numRuns: runs(15), seed: 5 },
    )
  })
})

it('gives as a flex test has it, where it guides straight, and comes nearer as much', () => {
  const v = { form: 'guide', length: 41.7, thin: 0.7, height: 6.1, wide: 17.3, turn: 10, shift: 0.6 }
  const facts = flexure.spring!(v as never, { stiffness: 2100 })!
  // A frame of two webs, in the plane: both blocks as thick as they come.
  const [x, y] = [v.length / 2, v.wide / 2]
  const ring: Vec2[] = [
    [-x - 4, -y],
    [x + 4, -y],
    [x + 4, y],
    [-x - 4, y],
  ]
  const hole: Vec2[] = [
    [-x, -y + v.thin],
    [-x, y - v.thin],
    [x, y - v.thin],
    [x, -y + v.thin],
  ]
  const mesh = meshOf(
    [
      { points: ring, tags: [0, 2, 0, 1] },
      { points: hole, tags: [0, 0, 0, 0] },
    ],
    0.35,
  )!
  const how = { held: [1], pushed: [2], way: [0, 1] as Vec2, by: 'distance', amount: v.shift } as const
  const found = bent(mesh, { stiffness: 2100, poisson: 0, thickness: v.height }, how)!
  expect(found.stiffness / facts.rate).toBeGreaterThan(0.93)
  expect(found.stiffness / facts.rate).toBeLessThan(1.01)
  expect(Math.abs(found.strain) / facts.strain).toBeGreaterThan(0.85)
  // More, in the sharp corners at its ends.
  expect(Math.abs(found.strain) / facts.strain).toBeLessThan(1.8)
  const motion = flexure.motion(v as never, [v.shift])
  expect(motion.origin[0]).toBeCloseTo(-(0.6 * 0.36) / 41.7, 9)
})
it('turned, gives less the longer it is, in the third power of its thickness, and a cross of two less than twice as high', () => {
  const v = { form: 'web', length: 15.3, thin: 0.7, height: 10, wide: 14, turn: 10, shift: 1 }
  const rate = (change: object) => flexure.spring!({ ...v, ...change } as never, { stiffness: 2100 })!.rate
  // E I / L for each radian, by hand.
  expect(rate({})).toBeCloseTo(((2100 * 10 * 0.343) / 12 / 15.3) * (Math.PI / 180), 9)
  expect(rate({ length: 30.6 })).toBeCloseTo(rate({}) / 2, 9)
  expect(rate({ thin: 1.4 })).toBeCloseTo(8 * rate({}), 9)
  expect(rate({ form: 'cross', height: 20.6 })).toBeCloseTo(2 * rate({}), 9)
  expect(flexure.spring!(v as never, { stiffness: 2100 })!.strain).toBeCloseTo(
    (0.7 * 10 * Math.PI) / 180 / 2 / 15.3,
    12,
  )
})
it.each([
  [{ thin: 4 }, 'thin'],
  [{ wide: 0.5 }, 'wide'],
  [{ form: 'cross', wide: 8 }, 'wide'],
  [{ form: 'guide', shift: 9 }, 'shift'],
  [{ form: 'cross', height: 2.3 }, 'height'],
])('refuses %o', (change, field) => {
  const v = { form: 'web', length: 12, thin: 0.8, height: 10, wide: 14, turn: 10, shift: 1, ...change }
  expect(flexure.impossible!(v as never)?.field).toBe(field)
})

const withFlexure = (): Part => {
  const part = partOf([
    step(
      'a',
      'plate',
      { width: '20', depth: '15.3', height: '6' },
      { place: { across: { from: 'centre', to: 'centre', by: '-16' } } },
    ),
  ])
  const arm = step(
    'b',
    'plate',
    { width: '20', depth: '15.3', height: '6' },
    { place: { across: { from: 'centre', to: 'centre', by: '16' } } },
  )
  return {
    ...part,
    pieces: [
      { ...part.pieces[0]!, name: 'Base' },
      { ...newPiece('p2', 'Arm', 'sand'), steps: [arm] },
    ],
    joints: [
      {
        ...{ id: 'j', name: '', kind: 'flexure', pieces: ['p1', 'p2'], place: onBed },
        fields: { ...defaultFields(flexure.fields), height: '6', turn: '10' },
      },
    ],
  }
}

it('is printed and handed off as one piece, and moved as two', async () => {
  const part = withFlexure()
  expect(printedAsOne(part)).toEqual([['p1', 'p2']])
  const twice = await builtTwice(kernel, part)
  expect(twice.fine.problems).toEqual([])
  expect(twice.fine.pieces).toHaveLength(2)
  await inPose(kernel, undefined, { built: twice.fine, twice }, async ({ built }) => {
    expect(built.pieces.map(({ piece }) => piece.name)).toEqual(['Base and Arm'])
    // Two plates, with the blocks in them, and the web between.
    const web = 12 * 0.8 * 6
    expect(built.pieces[0]!.solid!.volume()).toBeCloseTo(2 * 20 * 15.3 * 6 + web, 0)
    const findings = await proofOf(kernel, built)
    expect(findings.filter(({ rank }) => rank === 'fault')).toEqual([])
    // Whichever of both is asked for.
    for (const piece of [undefined, 'p1', 'p2']) {
      const { receipt } = handOff(built, formatOf('stl')!, { fineness: 0.05, piece, twice })
      expect(receipt.pieces).toEqual(['Base and Arm'])
    }
  })
})

it('is left out with a piece of it whose steps are all left out, and the rest is handed off', async () => {
  const part = withFlexure()
  const [base, arm] = part.pieces
  const away = { ...part, pieces: [base!, { ...arm!, steps: arm!.steps.map((step) => ({ ...step, when: 'no' })) }] }
  const twice = await builtTwice(kernel, away)
  expect(twice.fine.problems).toEqual([])
  const findings = await proofOf(kernel, twice.fine)
  expect(findings.filter(({ rank }) => rank === 'fault' || rank === 'warning')).toEqual([])
  await inPose(kernel, undefined, { built: twice.fine, twice }, async ({ built }) => {
    const { receipt } = handOff(built, formatOf('stl')!, { fineness: 0.05, twice })
    expect(receipt.pieces).toEqual(['Base'])
  })
})
