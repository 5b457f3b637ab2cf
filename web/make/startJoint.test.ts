import { applyEdit } from '@makrel/core/document'
import { jointOf } from '@makrel/core/joints'
import { fieldKindOf } from '@makrel/core/planning'
import { proofOf } from '@makrel/core/proof'
import { built, partOf, step, testKernel } from '@makrel/core/testing'
import { expect, it } from 'vitest'
import { secondEdits } from './startJoint.ts'

const kernel = await testKernel()

it.each([
  ['mm', 'pin-hinge', 'plate'],
  ['in', 'pin-hinge', 'plate'],
  ['in', 'pin-hinge', 'copy'],
  ['mm', 'piano-hinge', 'plate'],
  ['in', 'piano-hinge', 'copy'],
  ['mm', 'link', 'plate'],
  ['in', 'link', 'copy'],
] as const)('in %s a %s with %s for its second piece hangs on both, without a fault', async (unit, kind, of) => {
  const sizes = unit === 'mm' ? ['61.3', '43.7', '4.1'] : ['2-3/8', '1-5/8', '5/32']
  const [width, depth, height] = sizes as [string, string, string]
  const part = partOf([step('a', 'plate', { width, depth, height })], { unit })
  const { edits, joint } = secondEdits(part, jointOf(kind)!, of)
  const both = edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
  expect([both.pieces.length, both.joints.map(({ id }) => id)]).toEqual([2, [joint]])
  const made = await built(kernel, both, 0.03)
  expect(made.problems).toEqual([])
  const findings = await proofOf(kernel, made)
  expect(findings.filter(({ rank }) => rank === 'fault').map(({ text }) => text)).toEqual([])
  expect(findings.filter(({ code }) => code === 'bodies-one').length).toBe(2)
})

it('by a joint that stands by itself the second piece stands clear of the first', async () => {
  const part = partOf([step('a', 'plate', { width: '61.3', depth: '43.7', height: '4.1' })])
  const { edits } = secondEdits(part, jointOf('slide')!, 'plate')
  const both = edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
  const { plan } = await built(kernel, both, 0.03)
  const [one, two] = plan.pieces.map(({ operands }) => operands[0]!.box!)
  expect(two!.min[0] - one!.max[0]).toBeCloseTo(10, 9)
})
