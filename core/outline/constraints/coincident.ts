import { at, both, type ConstraintDefinition, double, type PointRef } from './define.ts'

export const coincident: ConstraintDefinition = {
  kind: 'coincident',
  label: 'coincident',
  meaning: 'Two points coincide.',
  sign: 'M6 3.5 A2.5 2.5 0 1 1 5.99 3.5 M6 5.5 V6.5',
  takes: [['point', 'point']],
  equation(refs) {
    const [{ p }, { p: q }] = refs as readonly [PointRef, PointRef]
    return double(
      both(p, q),
      (x) => {
        const [a, b] = [at(x, p), at(x, q)]
        return [a[0] - b[0], a[1] - b[1]]
      },
      true,
    )
  },
}
