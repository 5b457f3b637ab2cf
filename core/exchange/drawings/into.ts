import type { Outline } from '../../document/index.ts'
import { drawnSegment, Ends, Sketch } from '../../outline/index.ts'
import { boxAround, boxOfSegment, carried, minus, norm2, plus, type Segment, stay, times } from '../../plane/index.ts'
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
  const ends = new Ends(sketch, sameWithin)
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
    notes: [`It lay ${rounded(far)} mm away from the origin of its file, and was moved to the origin here.`],
  }
}
