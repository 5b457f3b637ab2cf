import { newPiece } from '@makrel/core/document'
import { joints } from '@makrel/core/joints'
import { upgraded, workOut } from '@makrel/core/planning'
import { partOf, step } from '@makrel/core/testing'
import { expect, it } from 'vitest'
import { newJoint } from './newJoint.ts'

it.each(joints.map(({ kind }) => kind))('a new %s is the same when its part is opened again', (kind) => {
  const definition = joints.find((each) => each.kind === kind)!
  const part = partOf([step('a', 'gear', { teeth: '17' })])
  const second = { ...newPiece('q', 'Second', 'sand'), steps: [step('b', 'gear', { teeth: '23' })] }
  const two = { ...part, pieces: [part.pieces[0]!, second] }
  const joint = newJoint(two, definition, 'j')
  expect(upgraded({ ...two, joints: [joint] }).joints).toEqual([joint])
})

it('a new link begins at the right side of what it goes on from', () => {
  const part = partOf([
    step('low', 'plate', { width: '31.7', depth: '20.3', height: '4' }),
    step('a', 'plate', { width: '47.3', depth: '20.3', height: '15.3' }),
  ])
  const two = { ...part, pieces: [part.pieces[0]!, { ...newPiece('q', 'Second', 'sand'), steps: [] }] }
  const [link] = joints.filter(({ kind }) => kind === 'link')
  const joint = newJoint(two, link!, 'j', undefined, workOut(two).plan)
  const { plan, problems } = workOut({ ...two, joints: [joint] })
  expect(problems).toEqual([])
  // Its cheeks reach 12 mm to the left of its axis: to the side of the wider plate.
  expect(plan.joints.get('j')!.frame.origin).toEqual([expect.closeTo(47.3 / 2 + 12, 9), 0, 0])
})
