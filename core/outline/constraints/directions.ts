import { cross2, dot2, norm2, type Vec2 } from '../../plane/index.ts'
import { along, type Equation, type LineRef, lineVars, type Ref, single } from './define.ts'

/**
 * An equation between the directions of two lines: `value`, a product of theirs, is to be zero; divided by the root of
 * their lengths it is a length, and does not shrink with one of them.
 */
export function betweenDirections(refs: readonly Ref[], value: (d: Vec2, e: Vec2) => number): Equation {
  const [one, two] = refs as readonly [LineRef, LineRef]
  return single([...lineVars(one), ...lineVars(two)], (x) => {
    const [d, e] = [along(x, one), along(x, two)]
    const scale = Math.sqrt(norm2(d) * norm2(e))
    return scale < 1e-12 ? 0 : value(d, e) / scale
  })
}

export const askew = (d: Vec2, e: Vec2): number => cross2(d, e)
export const facing = (d: Vec2, e: Vec2): number => dot2(d, e)
