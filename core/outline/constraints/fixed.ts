import { at, both, type ConstraintDefinition, double, type PointRef } from './define.ts'

export const fixed: ConstraintDefinition = {
  kind: 'fixed',
  label: 'fixed',
  meaning: 'A point stays where it is.',
  sign: 'M6 1 V7 M2 7 H10 M3 7 L1 11 M6 7 L4 11 M9 7 L7 11',
  takes: [['point']],
  equation(refs, { start }) {
    const { p } = refs[0] as PointRef
    const there = at(start, p)
    return double(both(p), (x) => [x[p]! - there[0], x[p + 1]! - there[1]], true)
  },
}
