import {
  arcBetween,
  cross2,
  crossings,
  type DrawnCurve,
  directionAt,
  distance2,
  dot2,
  endOf,
  joinWithin,
  lengthOf,
  line,
  nearestOn,
  parallel,
  pointAt,
  reversed,
  type Segment,
  startOf,
  stretch,
  type Vec2,
} from '../../plane/index.ts'
import { toDecimals } from '../../units/index.ts'
import { defineDerived } from './define.ts'

/** Corners rounded or bevelled; what was measured to the corner still is. */
export const corner = defineDerived({
  kind: 'corner',
  label: 'corner',
  meaning: 'Rounds or bevels corners; dimensions to the corner stay as they are.',
  icon: 'M2 14 V7 A5 5 0 0 1 7 2 H14',
  takes: 'points at which two curves meet',
  fits: ({ points, curves }) => points > 0 && curves === 0,
  fields: {
    form: {
      kind: 'choice',
      label: 'Form',
      default: 'round',
      choices: { round: 'round', bevel: 'bevel' },
      meaning: 'An arc that runs smoothly into both sides, or a straight cut.',
    },
    size: {
      kind: 'length',
      label: 'Size',
      default: '3',
      above: 0,
      most: 10_000,
      meaning: 'Radius of the arc, or how much of each side a bevel takes.',
    },
  },
  sentence: () => [{ field: 'form' }, 'the corner by', { field: 'size' }],
  apply({ form, size }, { id, of, curves, point }) {
    let all: readonly DrawnCurve[] = curves
    for (const [i, name] of of.entries()) {
      const at = point(name)
      if (!at) return { detail: 'one of its points is gone' }
      const made = cornered(all, at, form, size, `${id}.${i + 1}`)
      if ('detail' in made) return made
      all = made
    }
    return all
  },
})

interface End {
  readonly curve: number
  readonly last: boolean
}

function cornered(
  curves: readonly DrawnCurve[],
  at: Vec2,
  form: 'round' | 'bevel',
  size: number,
  id: string,
): readonly DrawnCurve[] | { readonly detail: string } {
  const ends = curves.flatMap(({ segments }, curve): End[] => {
    if (segments.length === 0) return []
    const here = (p: Vec2) => distance2(p, at) <= joinWithin
    return [
      ...(here(startOf(segments[0]!)) ? [{ curve, last: false }] : []),
      ...(here(endOf(segments.at(-1)!)) ? [{ curve, last: true }] : []),
    ]
  })
  if (ends.length !== 2) return { detail: `${ends.length} curves end at this corner, and two are needed` }
  const [one, two] = ends as [End, End]
  const segmentAt = ({ curve, last }: End) => (last ? curves[curve]!.segments.at(-1)! : curves[curve]!.segments[0]!)
  // Along the first one to the corner, and away from it along the second.
  const into = one.last ? segmentAt(one) : reversed(segmentAt(one))
  const away = two.last ? reversed(segmentAt(two)) : segmentAt(two)
  const cut = form === 'round' ? rounded(into, away, size) : bevelled(into, away, size)
  if ('detail' in cut) return cut
  const trimmed = curves.map((curve) => curve)
  const replace = (end: End, segment: Segment) => {
    const { segments } = trimmed[end.curve]!
    const own = end.last ? [...segments.slice(0, -1), segment] : [segment, ...segments.slice(1)]
    trimmed[end.curve] = { ...trimmed[end.curve]!, segments: own }
  }
  replace(one, one.last ? cut.into : reversed(cut.into))
  // A curve that is closed by this corner alone has lost its end already.
  const rest = one.curve === two.curve && trimmed[one.curve]!.segments.length === 1 ? undefined : cut.away
  if (!rest) return { detail: 'both sides of this corner are one curve' }
  replace(two, two.last ? reversed(rest) : rest)
  return [...trimmed, { id, segments: [cut.joint] }]
}

interface Cut {
  readonly into: Segment
  readonly away: Segment
  readonly joint: Segment
}

/** The arc that touches both: its middle lies where their parallels cross, nearest to the corner. */
function rounded(into: Segment, away: Segment, radius: number): Cut | { readonly detail: string } {
  const [d, e] = [directionAt(into, 1), directionAt(away, 0)]
  const turn = cross2(d, e)
  if (Math.abs(turn) < 1e-6)
    return {
      detail:
        dot2(d, e) > 0 ? 'there is no corner here: both sides run on in one line' : 'both sides lie on each other',
    }
  const by = turn > 0 ? radius : -radius
  const corner = endOf(into)
  const middles = parallel(into, by).flatMap((a) =>
    parallel(away, by).flatMap((b) => crossings(a, b, 1e-7).map(({ at }) => at)),
  )
  const [centre] = middles.sort((a, b) => distance2(a, corner) - distance2(b, corner))
  if (!centre) return { detail: `a radius of ${toDecimals(radius, 3)} mm does not fit between its sides` }
  const [t, u] = [nearestOn(into, centre).t, nearestOn(away, centre).t]
  if (t <= 1e-9 || u >= 1 - 1e-9) return { detail: `a radius of ${toDecimals(radius, 3)} mm uses up one of its sides` }
  const [from, to] = [pointAt(into, t), pointAt(away, u)]
  return {
    into: stretch(into, 0, t),
    away: stretch(away, u, 1),
    joint: arcBetween(centre, from, to, turn > 0),
  }
}

function bevelled(into: Segment, away: Segment, size: number): Cut | { readonly detail: string } {
  const [t, u] = [1 - size / lengthOf(into), size / lengthOf(away)]
  if (t <= 1e-9 || u >= 1 - 1e-9) return { detail: `a bevel of ${toDecimals(size, 3)} mm uses up one of its sides` }
  return { into: stretch(into, 0, t), away: stretch(away, u, 1), joint: line(pointAt(into, t), pointAt(away, u)) }
}
