import type { Outline } from '../../document/index.ts'
import { flattestArc, Sketch } from '../../outline/index.ts'
import {
  asCubics,
  boxAround,
  boxOfSegment,
  carried,
  distance2,
  endOf,
  minus,
  norm2,
  plus,
  type Segment,
  startOf,
  stay,
  times,
  type Vec2,
} from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import type { ReadDrawing } from './define.ts'

/** Ends nearer than this are one point: files round their numbers, mm. */
const sameWithin = 5e-4

/** A drawing that is larger than this is none of a part, mm. */
const largest = 100_000

/** What lies farther from its origin than this, and than ten times its own size, is brought to it, mm. */
const farOff = 2000

/**
 * The outline with what was read drawn into it, each curve as what it is: lines, arcs and circles, ellipses, and cubics as
 * curves near their four points. Nothing is held; `ids` are those of the new curves, `notes` what was done to it.
 * @throws ProblemError drawing-too-large
 */
export function drawnInto(
  outline: Outline,
  { chains }: ReadDrawing,
): { readonly outline: Outline; readonly ids: readonly string[]; readonly notes: readonly string[] } {
  const sketch = new Sketch(outline)
  const ends = new Ends(sketch)
  const { segments, notes } = nearOrigin(chains.flat())
  const ids = segments.flatMap((s): string[] => drawnSegment(sketch, ends, s))
  return { outline: sketch.outline, ids, notes }
}

/** Drawings of whole sites have their origin kilometres away; a part is drawn about its own. */
function nearOrigin(segments: readonly Segment[]): { segments: readonly Segment[]; notes: readonly string[] } {
  const box = boxAround(segments.map(boxOfSegment))
  if (!box) return { segments, notes: [] }
  const [width, height] = minus(box.max, box.min)
  const middle = times(plus(box.min, box.max), 0.5)
  const rounded = (mm: number) => Math.round(mm).toLocaleString('en')
  if (!(Math.max(width, height) <= largest))
    throw new ProblemError('drawing-too-large', { size: `${rounded(width)} × ${rounded(height)} mm` })
  const far = norm2(middle)
  if (far < farOff || far < 10 * Math.max(width, height)) return { segments, notes: [] }
  const motion = { ...stay, origin: times(middle, -1) }
  return {
    segments: segments.map((s) => carried(s, motion)),
    notes: [`It lay ${rounded(far)} mm away from the origin of its file, and was brought to the origin here.`],
  }
}

/** Points by place, so that ends that meet are one. */
class Ends {
  private readonly cells = new Map<string, { readonly at: Vec2; readonly id: string }[]>()
  private readonly sketch: Sketch

  constructor(sketch: Sketch) {
    this.sketch = sketch
  }

  at(p: Vec2): string {
    const [x, y] = [Math.floor(p[0] / sameWithin), Math.floor(p[1] / sameWithin)]
    for (const i of [-1, 0, 1])
      for (const k of [-1, 0, 1])
        for (const known of this.cells.get(`${x + i},${y + k}`) ?? [])
          if (distance2(known.at, p) <= sameWithin) return known.id
    const id = this.sketch.point({ at: p })
    const key = `${x},${y}`
    this.cells.set(key, [...(this.cells.get(key) ?? []), { at: p, id }])
    return id
  }
}

function drawnSegment(sketch: Sketch, ends: Ends, s: Segment): string[] {
  const whole = s.kind !== 'line' && s.kind !== 'cubic' && Math.abs(Math.abs(s.sweepRad) - 2 * Math.PI) < 1e-9
  switch (s.kind) {
    case 'line': {
      const [a, b] = [ends.at(s.from), ends.at(s.to)]
      return a === b ? [] : [sketch.curve('line', [a, b])]
    }
    case 'arc': {
      if (whole) return [sketch.curve('circle', [ends.at(s.centre)], { size: s.radius })]
      const [a, b] = [ends.at(startOf(s)), ends.at(endOf(s))]
      if (a === b) return []
      if (s.radius > flattestArc) return [sketch.curve('line', [a, b])]
      return [sketch.curve('arc', [sketch.point({ at: s.centre }), ...(s.sweepRad > 0 ? [a, b] : [b, a])])]
    }
    case 'ellipse':
      if (whole)
        return [
          sketch.curve('ellipse', [ends.at(s.centre), sketch.point({ at: plus(s.centre, times(s.major, 1)) })], {
            size: norm2(s.minor),
          }),
        ]
      return asCubics(s).flatMap((each) => drawnSegment(sketch, ends, each))
    case 'cubic': {
      const [a, b, c, d] = s.points
      return [sketch.curve('near', [ends.at(a), sketch.point({ at: b }), sketch.point({ at: c }), ends.at(d)])]
    }
  }
}
