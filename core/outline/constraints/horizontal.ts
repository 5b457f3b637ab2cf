import { both, type ConstraintDefinition, pairOf, single } from './define.ts'

export const horizontal: ConstraintDefinition = {
  kind: 'horizontal',
  label: 'horizontal',
  meaning: 'A line runs across, or two points lie level.',
  sign: 'M1 6 H11 M1 4 V8 M11 4 V8',
  takes: [['line'], ['point', 'point']],
  equation(refs) {
    const [a, b] = pairOf(refs)
    return single(both(a, b), (x) => x[b + 1]! - x[a + 1]!, true)
  },
}
