import type { ConstraintDefinition } from './define.ts'
import { betweenDirections, facing } from './directions.ts'

export const perpendicular: ConstraintDefinition = {
  kind: 'perpendicular',
  label: 'perpendicular',
  meaning: 'Two lines stand square to each other.',
  sign: 'M1 11 H11 M6 11 V1 M6 8 H9 V11',
  takes: [['line', 'line']],
  equation: (refs) => betweenDirections(refs, facing),
}
