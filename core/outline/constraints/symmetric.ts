import { distance2, dot2, minus, norm2, unit2, type Vec2 } from '../../plane/index.ts'
import {
  along,
  at,
  beside,
  both,
  type ConstraintDefinition,
  double,
  isLine,
  isPoint,
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
  spread(refs, x) {
    const mirror = refs.at(-1)!
    const points = refs.slice(0, -1)
    if (!isLine(mirror) || points.length % 2 === 1 || !points.every(isPoint)) return undefined
    // Each with the one that is nearest to its mirror image.
    const d = unit2(along(x, mirror))
    const imaged = points.map(({ p }): Vec2 => {
      const far = 2 * beside(x, mirror, p)
      return [x[p]! + d[1] * far, x[p + 1]! - d[0] * far]
    })
    const apart = points.flatMap((_, i) =>
      points.slice(i + 1).map((other, k) => ({ i, k: i + 1 + k, far: distance2(imaged[i]!, at(x, other.p)) })),
    )
    const pairs: number[][] = []
    const taken = new Set<number>()
    for (const { i, k } of apart.sort((a, b) => a.far - b.far)) {
      if (taken.has(i) || taken.has(k)) continue
      taken.add(i).add(k)
      pairs.push([i, k, refs.length - 1])
    }
    return pairs
  },
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
