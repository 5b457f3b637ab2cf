import { newPiece } from '@makrel/core/document'
import { joints } from '@makrel/core/joints'
import { upgraded } from '@makrel/core/planning'
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
