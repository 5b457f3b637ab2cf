import {
  beside,
  both,
  type ConstraintDefinition,
  isLine,
  isPoint,
  type LineRef,
  lineVars,
  pairOf,
  type Ref,
  single,
} from './define.ts'

/** The length of a line, the distance of two points, or of a point or parallel line from a line. */
export const distance: ConstraintDefinition = {
  kind: 'distance',
  label: 'distance',
  meaning: 'How long a line is, or how far two points, a point and a line, or two parallel lines are apart.',
  sign: 'M1 2 V10 M11 2 V10 M1 6 H11 M3 4.5 L1 6 L3 7.5 M9 4.5 L11 6 L9 7.5',
  takes: [['line'], ['point', 'point'], ['point', 'line'], ['line', 'line']],
  value: 'length',
  above: 0,
  equation(refs, { value, start }) {
    const off = fromLine(refs)
    if (off) {
      const side = beside(start, off.line, off.p) < 0 ? -1 : 1
      return single([...both(off.p), ...lineVars(off.line)], (x) => side * beside(x, off.line, off.p) - value)
    }
    const [a, b] = pairOf(refs)
    return single(both(a, b), (x) => Math.hypot(x[b]! - x[a]!, x[b + 1]! - x[a + 1]!) - value)
  },
  measured(refs, x) {
    const off = fromLine(refs)
    if (off) return Math.abs(beside(x, off.line, off.p))
    const [a, b] = pairOf(refs)
    return Math.hypot(x[b]! - x[a]!, x[b + 1]! - x[a + 1]!)
  },
}

/** The point and the line where something is measured from a line; of two lines, the first end of the second one. */
function fromLine(refs: readonly Ref[]): { readonly p: number; readonly line: LineRef } | undefined {
  const [one, two] = refs
  if (!two || !one) return undefined
  if (isLine(one) && isLine(two)) return { p: two.a, line: one }
  return isPoint(one) && isLine(two) ? { p: one.p, line: two } : undefined
}
