import { cross2, dot2, minus, norm2, plus, times, type Vec2 } from '../../plane/index.ts'
import {
  along,
  at,
  type ConstraintContext,
  type ConstraintDefinition,
  type LineRef,
  lineVars,
  single,
} from './define.ts'

export const angle: ConstraintDefinition = {
  kind: 'angle',
  label: 'angle',
  meaning: 'The angle between two lines, at the corner that they share.',
  sign: 'M1 11 H11 M1 11 L8 2 M7 11 A6 6 0 0 0 4.7 6.3',
  takes: [['line', 'line']],
  value: 'angle',
  equation(refs, context) {
    const [one, two] = refs as readonly [LineRef, LineRef]
    const legs = legsOf(one, two, context)
    const [d0, e0] = legs(context.start)
    const side = cross2(d0, e0) < 0 ? -1 : 1
    return single([...lineVars(one), ...lineVars(two)], (x) => {
      const [d, e] = legs(x)
      const scale = Math.sqrt(norm2(d) * norm2(e))
      if (scale < 1e-12) return 0
      const off = Math.atan2(side * cross2(d, e), dot2(d, e)) - (context.value * Math.PI) / 180
      // The shorter way round.
      return scale * Math.atan2(Math.sin(off), Math.cos(off))
    })
  },
  measured(refs, x, context) {
    const [one, two] = refs as readonly [LineRef, LineRef]
    const legs = legsOf(one, two, context)(x)
    return { kind: 'angle', corner: cornerOf(x, one, two), legs }
  },
}

/** Where two lines meet, or would. */
function cornerOf(x: Float64Array, one: LineRef, two: LineRef): Vec2 | undefined {
  const [u, v] = [along(x, one), along(x, two)]
  const turn = cross2(u, v)
  if (Math.abs(turn) < 1e-9) return undefined
  const t = cross2(minus(at(x, two.a), at(x, one.a)), v) / turn
  return plus(at(x, one.a), times(u, t))
}

/** The directions of two lines, away from the point that they share. */
function legsOf(
  one: LineRef,
  two: LineRef,
  { same }: Pick<ConstraintContext, 'same'>,
): (x: Float64Array) => readonly [Vec2, Vec2] {
  const turned = (ref: LineRef, other: LineRef) => (same(ref.b, other.a) || same(ref.b, other.b) ? -1 : 1)
  const [s, t] = [turned(one, two), turned(two, one)]
  return (x) => [times(along(x, one), s), times(along(x, two), t)]
}
