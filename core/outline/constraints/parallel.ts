import type { ConstraintDefinition } from './define.ts'
import { askew, betweenDirections } from './directions.ts'

export const parallel: ConstraintDefinition = {
  kind: 'parallel',
  label: 'parallel',
  meaning: 'Two lines are parallel.',
  sign: 'M2 11 L6 1 M6 11 L10 1',
  takes: [['line', 'line']],
  equation: (refs) => betweenDirections(refs, askew),
}
