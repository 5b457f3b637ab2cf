import type { Step } from '@makrel/core/document'
import { operationOf } from '@makrel/core/operations'

/** Whether a step puts material there. */
export function addsMaterial(step: Step | undefined): boolean {
  return operationOf(step?.operation ?? '')?.material === 'more'
}

/** Whether an operation takes material away. */
export function takesAway(operation: string): boolean {
  return operationOf(operation)?.material === 'less'
}
