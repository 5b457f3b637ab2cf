import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece, onBed, type Part } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { norm, pointOut, subtract, type Vec3 } from '../place/index.ts'
import { poseOf, workOut } from '../planning/index.ts'
import { Swing } from '../proof/index.ts'
import { renderMeshOf } from '../solids/index.ts'
import { facetsOf } from '../testing/facets.ts'
import { builtTwice, inTurn, partOf, step, testKernel } from '../testing/index.ts'
import { itInTurn } from '../testing/turns.ts'
import { jointOf } from './index.ts'

const kernel = await testKernel()
const definition = jointOf('ball-socket')!

/** A plate with the socket on it, and a knob on the neck; both are as large as the joint has them. */
function mount(fields: Record<string, string> = {}, lift = '28'): Part {
  const part = partOf([step('base', 'plate', { width: '40', depth: '40', height: '3.1' }, { place: onBed })])
  const knob = step('knob', 'bar', { diameter: '12', height: '5' }, { place: { ...onBed, lift } })
  return {
    ...part,
    pieces: [part.pieces[0]!, { ...newPiece('p2', 'Arm', 'sand'), steps: [knob] }],
    joints: [
      {
        ...{ id: 'j', name: '', kind: 'ball-socket', pieces: ['p1', 'p2'] as const },
        fields: { ...defaultFields(definition.fields), ...fields },
        place: {
          ...onBed,
          on: { kind: 'face', step: 'base', face: 'top' },
          across: { from: 'centre', to: 'centre', by: '0' },
        },
      },
    ],
  } as Part
}
const gap = 0.35

describe('a ball in a socket', () => {
  itInTurn(3, 'keeps its gap however it leans and turns, and never comes nearer', async () => {
    const made = await builtTwice(kernel, mount())
    expect(made.fine.problems).toEqual([])
    const swing = new Swing(kernel)
    for (const at of [
      [0, 0, 0],
      [19.9, 0, 37.3],
      [-11, 15.3, -85.1],
      [14, -14, 161],
      [0, -19.9, 5],
    ]) {
      const found = swing.at(made, { j: at })
      expect(found.collisions).toEqual([])
      expect(found.gap).toBeGreaterThan(gap - 0.012)
      expect(found.gap).toBeLessThan(gap + 0.02)
    }
  })
  itInTurn(3, 'goes all the way of its leaning without meeting anything', async () => {
    const made = await builtTwice(kernel, mount())
    const reach = await new Swing(kernel).reach(made, (at) => ({ j: [at, 0, 0] }), { from: 0, to: 20 })
    expect(reach).toBeUndefined()
  })
  it('leans towards where both of its leanings point, and turns about its own neck', () => {
    const part = mount()
    const { resolved, plan } = workOut(part)
    const { frame } = plan.joints.get('j')!
    const joints = [{ joint: part.joints[0]!, frame }]
    const middle: Vec3 = [frame.origin[0], frame.origin[1], frame.origin[2] + 8 + gap + 2.4]
    const any = fc.tuple(
      fc.integer({ min: -130, max: 130 }),
      fc.integer({ min: -130, max: 130 }),
      fc.integer({ min: -1700, max: 1700 }),
    )
    fc.assert(
      fc.property(any, ([right, back, turn]) => {
        const { motions } = poseOf({ resolved, joints }, { j: [right / 10, back / 10, turn / 10] })
        const moved = motions.get('p2')!
        expect(norm(subtract(pointOut(moved, middle), middle))).toBeLessThan(1e-9)
        const lean = (Math.hypot(right, back) / 10 / 180) * Math.PI
        const tip = subtract(pointOut(moved, [middle[0], middle[1], middle[2] + 1]), middle)
        expect(tip[2]).toBeCloseTo(Math.cos(lean), 9)
        if (lean > 1e-6) {
          const away = Math.hypot(right, back)
          expect(tip[0]).toBeCloseTo((Math.sin(lean) * right) / away, 9)
          expect(tip[1]).toBeCloseTo((Math.sin(lean) * back) / away, 9)
        }
        // Without leaning it only turns.
        const { motions: turned } = poseOf({ resolved, joints }, { j: [0, 0, turn / 10] })
        const side = subtract(pointOut(turned.get('p2')!, [middle[0] + 1, middle[1], middle[2]]), middle)
        expect(side[0]).toBeCloseTo(Math.cos((turn / 1800) * Math.PI), 9)
        expect(side[1]).toBeCloseTo(Math.sin((turn / 1800) * Math.PI), 9)
      }),
    )
  })
  it('is one closed solid on each side, whose every face has its name, with slits and without', async () => {
    const sets: readonly (readonly [Record<string, string>, string])[] = [
      [{}, '28'],
      [{ slits: '4', slit: '1.3' }, '28'],
      [{ ball: '21.3', neck: '9.7', lean: '15.3', reach: '22' }, '36.65'],
    ]
    for (const [fields, lift] of inTurn(3, sets)) {
      const { fine } = await builtTwice(kernel, mount(fields, lift))
      for (const piece of fine.pieces)
        expect(meshFigures(piece.solid!.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
      const faces = (i: number) =>
        renderMeshOf(fine, fine.pieces[i]!)!
          .faces.filter(({ owner }) => owner.kind === 'joint')
          .map(({ face }) => face)
          .sort()
      const slits = 'slits' in fields ? ['slit'] : []
      expect(faces(0)).toEqual(['mouth', 'outside', 'room', ...slits].sort())
      expect(faces(1)).toEqual(['ball', 'flat', 'neck'])
    }
  })
  itInTurn(3, 'has the volume of its ball, less what is flat of it', async () => {
    const { fine, coarse } = await builtTwice(kernel, mount())
    const volumes = [fine, coarse].map(({ pieces }) => pieces[1]!.solid!.volume())
    const R = 8
    const [cap, neckIn] = [0.2, Math.sqrt(R * R - 16)]
    const ball = (4 / 3) * Math.PI * R ** 3 - (Math.PI * cap ** 2 * (3 * R - cap)) / 3
    // The neck beyond the ball, up to its end; then the knob, which lies about that end.
    const round = (Math.PI * (R - neckIn) ** 2 * (3 * R - (R - neckIn))) / 3
    const neck = Math.PI * 16 * (16 - neckIn) - round
    const knob = Math.PI * 36 * 5
    const end = 3.1 + 10.75 + 16
    const both = Math.PI * 16 * Math.max(0, end - 28)
    const meant = (4 * volumes[0]! - volumes[1]!) / 3
    expect(meant / (ball + neck + knob - both)).toBeCloseTo(1, 3)
  })
  it('tells how it is held, and what does not hold', () => {
    const told = (fields: Record<string, string>) => {
      const { plan, problems } = workOut(mount(fields))
      return { facts: plan.joints.get('j')?.facts, problems: problems.map(({ path, text }) => [path.at(-1), text]) }
    }
    // Half the mouth's angle: 20° and what the neck and its gap take of the room.
    const alpha = (20 / 180) * Math.PI + Math.asin(4.35 / 8.35)
    const { facts, problems } = told({})
    expect(problems).toEqual([])
    expect(facts![0]!.text).toBe(
      `${Number((8 - 8.35 * Math.sin(alpha)).toFixed(2))} mm all round, at a mouth ⌀ ${Number((2 * 8.35 * Math.sin(alpha)).toFixed(2))}`,
    )
    expect(told({ lean: '43' }).problems[0]).toEqual([
      'lean',
      expect.stringMatching(
        /^The mouth would be wider than the ball, which comes out then: lean less than 3\d\.\d+°\.$/,
      ),
    ])
    expect(told({ neck: '15' }).problems[0]).toEqual([
      'neck',
      'The neck leaves next to nothing of the ball: at most 14.4.',
    ])
    expect(told({ reach: '5' }).problems[0]![0]).toBe('reach')
    expect(told({ slits: '12', slit: '3' }).problems[0]![0]).toBe('slit')
    expect(told({ lean: '38' }).problems[0]).toEqual([
      'j',
      expect.stringMatching(/^The mouth holds the ball by 0\.\d+ mm only: it may come out\./),
    ])
  })
})

itInTurn(
  3,
  'begins little more than its gap above the floor of its socket, however large the ball, and says how much',
  () => {
    for (const ball of [3.1, 15.3, 85.1]) {
      const v = { ball, neck: 0.5 * ball, reach: 1.2 * ball, wall: 2.4, gap: 0.35, lean: 15.3, slits: 0, slit: 1 }
      kernel.scope((scope) => {
        const { adds } = definition.solids(v as never, { scope, fineness: 0.005, up: [0, 0, 1] })
        const low = adds[1][0]!.bounds()!.min[2]
        // The socket stands on the bed, its floor as thick as its wall.
        const drop = low - 2.4
        expect(drop).toBeLessThan(0.35 + 0.2 + 1e-6)
        const text = definition.judged!(v as never, [0, 0, 1]).facts.find(({ label }) => label === 'Begins')!.text
        expect(Number.parseFloat(text)).toBeCloseTo(drop, 2)
        const foot = facetsOf(adds[1][0]!.mesh()).filter(({ middle }) => Math.abs(middle[2] - low) < 1e-4)
        const wide = 2 * Math.sqrt(foot.reduce((sum, { area }) => sum + area, 0) / Math.PI)
        expect(Number(/⌀ ([\d.]+)/.exec(text)![1]) / wide).toBeCloseTo(1, 1)
      })
    }
  },
)
