import { at, both, type ConstraintDefinition, pairOf, single } from './define.ts'

export const distanceY: ConstraintDefinition = {
  kind: 'distance-y',
  label: 'distance up',
  meaning: 'How far two points are apart from bottom to top.',
  sign: 'M2 1 H10 M2 11 H10 M6 2 V10',
  takes: [['point', 'point'], ['line']],
  value: 'length',
  equation(refs, { value, start }) {
    const [a, b] = pairOf(refs)
    const side = start[b + 1]! < start[a + 1]! ? -1 : 1
    return single(both(a, b), (x) => side * (x[b + 1]! - x[a + 1]!) - value, true)
  },
  measured(refs, x) {
    const [a, b] = pairOf(refs)
    return { kind: 'length', from: at(x, a), to: at(x, b), along: [0, 1] }
  },
}
