import { at, both, type ConstraintDefinition, double, type LineRef, type PointRef } from './define.ts'

export const midpoint: ConstraintDefinition = {
  kind: 'midpoint',
  label: 'midpoint',
  meaning: 'A point lies in the middle of a line.',
  sign: 'M1 9 H11 M6 9 L4 4 H8 Z',
  takes: [['point', 'line']],
  // The middles of several lines may be one point; several points in the middle of one line would be one.
  shared: 'point',
  equation(refs) {
    const [{ p }, { a, b }] = refs as readonly [PointRef, LineRef]
    return double(
      both(p, a, b),
      (x) => {
        const [m, s, e] = [at(x, p), at(x, a), at(x, b)]
        return [m[0] - (s[0] + e[0]) / 2, m[1] - (s[1] + e[1]) / 2]
      },
      true,
    )
  },
}
