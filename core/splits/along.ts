import {
  type Chain,
  crossings,
  type Drawn,
  directionAt,
  distance2,
  endOf,
  line,
  minus,
  plus,
  type Segment,
  startOf,
  times,
  type Vec2,
} from '../plane/index.ts'

/**
 * The closed loops that a drawing parts the plane along: its own, or what lies to the left of its open line, which goes on
 * straight at both ends; undefined where it runs into itself there. `far`: how far it must reach, mm.
 */
export function partingLoops({ loops, open }: Drawn, far: number): readonly Chain[] | undefined {
  const [only] = open
  if (loops.length > 0 || !only) return loops
  const { segments, curves } = only
  const [first, last] = [segments[0]!, segments.at(-1)!]
  const [from, to] = [startOf(first), endOf(last)]
  const reach = 4 * (far + Math.max(...segments.flatMap((s) => [...startOf(s), ...endOf(s)]).map(Math.abs)) + 1)
  const begin = onCircle(from, times(directionAt(first, 0), -1), reach)
  const end = onCircle(to, directionAt(last, 1), reach)
  const [a, b] = [Math.atan2(end[1], end[0]), Math.atan2(begin[1], begin[0])]
  const turn = (b - a + 2 * Math.PI) % (2 * Math.PI)
  const round: Vec2[] = Array.from({ length: corners + 1 }, (_, i) => {
    const rad = a + (turn * i) / corners
    return [reach * Math.cos(rad), reach * Math.sin(rad)]
  })
  round[0] = end
  round[corners] = begin
  const closing = round.slice(1).map((p, i): Segment => line(round[i]!, p))
  const all = [line(begin, from), ...segments, line(to, end), ...closing]
  if (meetsItself(line(begin, from), line(to, end), segments)) return undefined
  const named = [curves[0]!, ...curves, ...Array.from({ length: corners + 1 }, () => curves.at(-1)!)]
  return [{ segments: all, curves: named, closed: true }]
}

/** Whether what a line goes on as at its ends crosses it, or each other, other than where they go on into it. */
function meetsItself(before: Segment, after: Segment, segments: readonly Segment[]): boolean {
  const meets = (a: Segment, b: Segment, joint: Vec2) =>
    crossings(a, b, touching).some(({ at }) => distance2(at, joint) > 10 * touching)
  return (
    crossings(before, after, touching).length > 0 ||
    segments.some((s) => meets(before, s, endOf(before)) || meets(after, s, startOf(after)))
  )
}
const touching = 1e-6

/** Corners of the way round behind the solid. */
const corners = 12

/** Where a ray from a point within it leaves a circle about the origin. */
function onCircle(from: Vec2, direction: Vec2, radius: number): Vec2 {
  const along = from[0] * direction[0] + from[1] * direction[1]
  const left = minus(from, times(direction, along))
  return plus(left, times(direction, Math.sqrt(Math.max(0, radius ** 2 - left[0] ** 2 - left[1] ** 2))))
}
