import { at, both, type ConstraintDefinition, pairOf, single } from './define.ts'

export const distanceX: ConstraintDefinition = {
  kind: 'distance-x',
  label: 'distance across',
  meaning: 'How far two points are apart from left to right.',
  sign: 'M1 2 V10 M11 2 V10 M2 6 H10',
  takes: [['point', 'point'], ['line']],
  value: 'length',
  equation(refs, { value, start }) {
    const [a, b] = pairOf(refs)
    // The side that they are on is kept.
    const side = start[b]! < start[a]! ? -1 : 1
    return single(both(a, b), (x) => side * (x[b]! - x[a]!) - value, true)
  },
  measured(refs, x) {
    const [a, b] = pairOf(refs)
    return { kind: 'length', from: at(x, a), to: at(x, b), along: [1, 0] }
  },
}
