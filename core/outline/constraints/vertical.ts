import { both, type ConstraintDefinition, pairOf, single } from './define.ts'

export const vertical: ConstraintDefinition = {
  kind: 'vertical',
  label: 'vertical',
  meaning: 'A line runs up, or two points lie one above the other.',
  sign: 'M6 1 V11 M4 1 H8 M4 11 H8',
  takes: [['line'], ['point', 'point']],
  equation(refs) {
    const [a, b] = pairOf(refs)
    return single(both(a, b), (x) => x[b]! - x[a]!, true)
  },
}
