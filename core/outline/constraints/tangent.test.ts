import { expect, it } from 'vitest'
import type { BentRef, ConstraintContext, RoundRef } from './define.ts'
import { tangent } from './tangent.ts'

const start = Float64Array.from([0, 0, 5, 20, 0, 0, 0, 0])
const context = { start, joined: () => false, same: () => false } as unknown as ConstraintContext
const circle: RoundRef = { kind: 'round', c: 0, r: 2, s: undefined, e: undefined }
const spline: BentRef = {
  ...{ kind: 'bent', vars: [3, 4], ends: undefined },
  apart: () => 0,
  apartNear: () => () => 0,
  direction: () => [1, 0],
}

it('a circle and a curve that share no end have no way to be tangent, whichever comes first', () => {
  expect(tangent.equation([circle, spline], context)).toBeUndefined()
  expect(tangent.equation([spline, circle], context)).toBeUndefined()
  expect(tangent.equation([circle, { ...circle, c: 3, r: 5 }], context)).toMatchObject({ count: 1 })
})
