import {
  at,
  beside,
  both,
  type ConstraintDefinition,
  lineVars,
  type PointRef,
  type Ref,
  radiusOf,
  roundVars,
  single,
} from './define.ts'

export const onCurve: ConstraintDefinition = {
  kind: 'on',
  label: 'on curve',
  meaning: 'A point lies on a line, on the whole circle of an arc, or on a curve.',
  sign: 'M1 10 L11 2 M6 4.2 A1.8 1.8 0 1 1 5.99 4.2',
  takes: [
    ['point', 'line'],
    ['point', 'round'],
    ['point', 'bent'],
  ],
  equation(refs) {
    const [{ p }, curve] = refs as readonly [PointRef, Ref]
    switch (curve.kind) {
      case 'line':
        return single([...both(p), ...lineVars(curve)], (x) => beside(x, curve, p))
      case 'round':
        // Its own middle never lies on it.
        if (p === curve.c) return undefined
        return single([...both(p), ...roundVars(curve)], (x) => {
          const c = at(x, curve.c)
          return Math.hypot(x[p]! - c[0], x[p + 1]! - c[1]) - radiusOf(x, curve)
        })
      case 'bent':
        // Its own points lie on it already, or never: an ellipse's middle.
        if (curve.vars.includes(p)) return undefined
        return {
          ...single([...both(p), ...curve.vars], (x) => curve.apart(x, at(x, p))),
          residualNear(x) {
            const apart = curve.apartNear(x, at(x, p))
            return (nearby, out, from) => {
              out[from] = apart(nearby, at(nearby, p))
            }
          },
        }
      default:
        return undefined
    }
  },
}
