import { registered } from '../fields/index.ts'
import { add } from './add.ts'
import { bevel } from './bevel.ts'
import { cut } from './cut.ts'
import type { BodyOperation, OperationDefinition, Treatment } from './define.ts'
import { hollow } from './hollow.ts'
import { keep } from './keep.ts'
import { round } from './round.ts'
import { shift } from './shift.ts'
import { split } from './split.ts'
import { splitAlong } from './splitAlong.ts'

/** All that a step can do to its piece, in the order in which it is offered. */
export const operations: readonly OperationDefinition[] = [
  add,
  cut,
  keep,
  round,
  bevel,
  hollow,
  shift,
  split,
  splitAlong,
]

export const operationOf = registered(operations)

/** What acts with a body; undefined where the kind is not known, or acts alone. */
export function bodyOperationOf(kind: string): BodyOperation | undefined {
  const found = operationOf(kind)
  return found?.acts === 'with-body' ? found : undefined
}

/** What works on what stands; undefined where the kind is not known, or acts with a body. */
export function treatmentOf(kind: string): Treatment | undefined {
  const found = operationOf(kind)
  return found?.acts === 'alone' ? found : undefined
}

/** Whether a new body of this operation stands on its seat or lies in it. */
export function restFor(kind: string): 'on' | 'in' {
  return bodyOperationOf(kind)?.rest ?? 'on'
}
