import { expect, it, vi } from 'vitest'
import { applyEdit, newPiece, onBed, type Part } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { pointOut } from '../place/index.ts'
import { fieldKindOf, heldPlaces, poseOf, workOut } from '../planning/index.ts'
import { swingAt } from '../proof/index.ts'
import { renderMeshOf } from '../solids/index.ts'
import { built, builtTwice, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { jointOf } from './index.ts'

// A joint of another kind is its file and one line of the registry.
vi.mock('./registry.ts', async (original) => {
  const plain = await original<typeof import('./registry.ts')>()
  const { slidingPin } = await import('../testing/joints.ts')
  return {
    joints: [...plain.joints, slidingPin],
    jointOf: (kind: string) => (kind === slidingPin.kind ? slidingPin : plain.jointOf(kind)),
  }
})

const kernel = await testKernel()

const base = step('base', 'plate', { width: '60', depth: '40', height: '6.35' }, { place: { turn: '37.3' } })
const cap = step('cap', 'plate', { width: '20', depth: '20', height: '5' }, { place: { lift: '12.7' } })
const joint = (kind: string, place: Part['joints'][number]['place']): Part['joints'][number] => ({
  ...{ id: 'j', name: '', kind, pieces: ['p1', 'p2'] as const, place },
  fields: defaultFields(jointOf(kind)!.fields),
})
const withJoint = (place: Partial<Part['joints'][number]['place']> = onFace('base', 'top')): Part => {
  const part = partOf([base])
  return {
    ...part,
    pieces: [part.pieces[0]!, { ...newPiece('p2', 'Cap', 'sand'), steps: [cap] }],
    joints: [joint('sliding-pin', { ...onBed, ...place })],
  }
}

it('stands on any face, cuts into one piece and adds to the other', async () => {
  const done = await built(kernel, withJoint(), 0.002)
  expect(done.problems).toEqual([])
  const [one, two] = done.pieces.map(({ solid }) => solid!.volume())
  expect(one).toBeCloseTo(60 * 40 * 6.35 - Math.PI * 9 * 3, 0)
  // What of the pin lies in the cap is the cap's already.
  expect(two).toBeCloseTo(20 * 20 * 5 + Math.PI * 4 * (12.7 - 6.35 + 2), 0)
  expect(done.plan.joints.get('j')!.frame.origin[2]).toBeCloseTo(6.35, 9)
  const names = renderMeshOf(done, done.pieces[0]!)!.faces.filter(({ owner }) => owner.kind === 'joint')
  expect(names.map(({ face }) => face).sort()).toEqual(['bore', 'floor'])
})
it('has two freedoms, each with its travel, and gaps at every place', async () => {
  const done = await builtTwice(kernel, withJoint())
  const { motions, positions } = poseOf(done.fine, { j: [1, 90] })
  expect(positions).toEqual({ j: [1, 90] })
  const seat = done.fine.plan.joints.get('j')!.frame
  // Round the joint's own axis, and up along it.
  expect(pointOut(motions.get('p2')!, seat.origin)[2]).toBeCloseTo(7.35, 9)
  const near = swingAt(kernel, done, { j: [0, 0] })
  const up = swingAt(kernel, done, { j: [1.5, 15.3] })
  expect([near.collisions, up.collisions]).toEqual([[], []])
  expect(near.gap).toBeCloseTo(1, 2)
  expect(up.gap).toBeCloseTo(1, 2)
})
it('stays where it was when what it stood on is removed, and tells what it cannot stand on', () => {
  const part = withJoint()
  const before = workOut(part).plan.joints.get('j')!.frame
  const held = heldPlaces(part, new Set(['base']))
  const after = applyEdit(part, { type: 'remove-steps', ids: ['base'], held }, fieldKindOf)
  const now = workOut(after)
  expect(now.plan.joints.get('j')!.frame).toEqual(before)
  expect(after.joints[0]!.place.on).toMatchObject({ kind: 'held', was: 'top' })
  const codes = (place: Partial<Part['joints'][number]['place']>) =>
    workOut(withJoint(place)).problems.map(({ code, path }) => [code, ...path])
  expect(codes(onFace('gone', 'top'))).toEqual([['reference-missing', 'joints', 'j', 'place', 'on']])
  expect(codes(onFace('base', 'nose'))).toEqual([['face-missing', 'joints', 'j', 'place', 'on']])
})
