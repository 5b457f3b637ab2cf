import { bottle } from './bottle.ts'
import { buttress } from './buttress.ts'
import type { ThreadForm } from './define.ts'
import { metric } from './metric.ts'
import { round } from './round.ts'
import { trapezoidal } from './trapezoidal.ts'
import { taperedWhitworth, whitworth } from './whitworth.ts'

/** Every form of thread. A new one is its file and its line here. */
export const threadForms: readonly ThreadForm[] = [
  metric,
  whitworth,
  taperedWhitworth,
  trapezoidal,
  buttress,
  round,
  bottle,
]

export type { ThreadForm, ThreadHalf, ThreadSizes } from './define.ts'
export { bottle, buttress, metric, round, taperedWhitworth, trapezoidal, whitworth }
