import { dot2, minus, norm2 } from '../../plane/index.ts'
import {
  along,
  at,
  beside,
  both,
  type ConstraintDefinition,
  double,
  type LineRef,
  lineVars,
  type PointRef,
} from './define.ts'

export const symmetric: ConstraintDefinition = {
  kind: 'symmetric',
  label: 'symmetric',
  meaning: 'Two points are each other’s mirror image in a line.',
  sign: 'M6 1 V11 M1 4 L4 6 L1 8 Z M11 4 L8 6 L11 8 Z',
  takes: [['point', 'point', 'line']],
  equation(refs) {
    const [{ p }, { p: q }, mirror] = refs as readonly [PointRef, PointRef, LineRef]
    return double([...both(p, q), ...lineVars(mirror)], (x) => {
      const d = along(x, mirror)
      const long = norm2(d)
      const level = long < 1e-12 ? 0 : dot2(minus(at(x, q), at(x, p)), d) / long
      return [beside(x, mirror, p) + beside(x, mirror, q), level]
    })
  },
}
