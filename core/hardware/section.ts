import type { ThreadForm, ThreadHalf, ThreadSizes } from './forms/index.ts'

/** Which half of a thread, how far it is from its mate, and what a printer can lay of it. */
export interface SectionOptions {
  readonly side: 'outside' | 'inside'
  /** how far its surface lies off the form as the standard draws it: an outside thread thinner, an inside one wider; mm, square to the surface */
  readonly gap: number
  /** what is printed is at least so wide along the axis where it is narrowest, mm; 0 is the form as it is drawn */
  readonly crest: number
  /** how far rounded corners may be off their arcs, mm */
  readonly chord: number
}

/** One pitch of a thread, from between two ridges to between the next two; the middle of the ridge is at 0. */
export interface ThreadSection {
  /** corners in the order along the axis, mm */
  readonly points: readonly SectionPoint[]
  readonly pitch: number
  /** smallest and largest radius, mm */
  readonly inner: number
  readonly outer: number
  /** change of the radius along the axis, towards the end of a screw less, as a ratio */
  readonly slope: number
}

export interface SectionPoint {
  readonly along: number
  readonly radius: number
}

/** Ridges and roots are never narrower than this share of the pitch. */
const narrowest = 0.02

/**
 * The section of what an outside thread fills, or what an inside one leaves free, along its axis. Each line of the form is moved by the
 * gap, so that two threads with the gap between them are that far apart on their flanks as well.
 * Undefined where it no longer reaches into a mate without a gap.
 */
export function threadSection(
  form: ThreadForm,
  sizes: ThreadSizes,
  { side, gap, crest: least, chord }: SectionOptions,
): ThreadSection | undefined {
  const half = form[side](sizes)
  const { pitch } = sizes
  const by = side === 'outside' ? -gap : gap
  const [lower, upper] = form.flanks.map((degrees) => (degrees * Math.PI) / 180) as [number, number]
  const [tanLower, tanUpper] = [Math.tan(lower), Math.tan(upper)]
  const middle = form.pitchDiameter(sizes) / 2
  const ridge = (form.ridge ?? 0.5) * pitch
  // Where both flanks are at a radius, from the middle of the ridge at the pitch diameter.
  const low = (radius: number) => -ridge / 2 - by / Math.cos(lower) + (radius - middle) * tanLower
  const high = (radius: number) => ridge / 2 + by / Math.cos(upper) - (radius - middle) * tanUpper
  const width = (radius: number) => high(radius) - low(radius)
  const lean = tanLower + tanUpper
  const spare = narrowest * pitch
  // What is printed of an outside thread are its ridges, of an inside one what lies between those of the screw.
  const [ridgeLeast, rootLeast] = side === 'outside' ? [Math.max(least, spare), spare] : [spare, Math.max(least, spare)]
  const sharp = middle + width(middle) / lean
  const outer = Math.min(half.crest / 2 + by, sharp - ridgeLeast / lean)
  const inner = Math.max(half.root / 2 + by, middle - (pitch - rootLeast - width(middle)) / lean)
  // What its mate has at that side, as it is drawn: it must reach into that.
  const mate = side === 'outside' ? form.inside(sizes).root / 2 : form.outside(sizes).crest / 2
  const engaged = Math.min(outer - inner, side === 'outside' ? outer - mate : mate - inner)
  if (!(engaged > spare) || inner <= 0) return undefined
  const rounds = roundsOf(half, by, { flat: width(outer), root: pitch - width(inner), flanks: [lower, upper] })
  // Along a flank both arcs have room one above the other.
  const rounded = (rounds.crest + rounds.root) * (1 - Math.sin(Math.min(lower, upper)))
  const share = rounded > outer - inner ? (outer - inner) / rounded : 1
  const corner = (level: number, at: number, radius: number, flank: number, way: CornerWay) =>
    roundedCorner({ level, at, radius: share * radius, flank, chord, tangent: way.up === (side === 'outside'), ...way })
  const points = [
    ...corner(inner, low(inner), rounds.root, lower, { rises: true, up: true }),
    ...corner(outer, low(outer), rounds.crest, lower, { rises: true, up: false }),
    ...corner(outer, high(outer), rounds.crest, upper, { rises: false, up: false }),
    ...corner(inner, high(inner), rounds.root, upper, { rises: false, up: true }),
  ]
  return { points: apart(points, pitch), pitch, inner, outer, slope: (form.taper ?? 0) / 2 }
}

/** Moved inwards, a ridge is rounded less and a root more; neither by more than there is flat for. */
function roundsOf(
  { crestRound, rootRound }: ThreadHalf,
  by: number,
  { flat, root, flanks }: { readonly flat: number; readonly root: number; readonly flanks: readonly [number, number] },
) {
  const taken = flanks.reduce((sum, flank) => sum + Math.tan(Math.PI / 4 - flank / 2), 0)
  const moved = (radius: number, way: number) => (radius > 0 ? Math.max(0, radius + way * by) : 0)
  return { crest: Math.min(moved(crestRound, 1), flat / taken), root: Math.min(moved(rootRound, -1), root / taken) }
}

interface CornerWay {
  /** whether its flank rises along the axis */
  readonly rises: boolean
  /** whether the arc bends up from its level line: that of a root */
  readonly up: boolean
}

/**
 * The corner between a level line and a flank, as an arc in flats; in the order along the axis. They lie on the side of the arc that leaves
 * the mate its gap: on chords of it, or on tangents.
 */
function roundedCorner({
  level,
  at,
  radius,
  flank,
  chord,
  tangent,
  rises,
  up,
}: CornerWay & {
  readonly level: number
  readonly at: number
  readonly radius: number
  /** off a plane square to the axis, radians */
  readonly flank: number
  readonly chord: number
  readonly tangent: boolean
}): readonly SectionPoint[] {
  if (radius <= 1e-6) return [{ along: at, radius: level }]
  const turn = Math.PI / 2 - flank
  // On the flat, away from the flank.
  const flatWay = rises === up ? -1 : 1
  const centre = { along: at + flatWay * radius * Math.tan(turn / 2), radius: level + (up ? radius : -radius) }
  const most = 2 * Math.acos(tangent ? radius / (radius + chord) : Math.max(0, 1 - chord / radius))
  const steps = Math.max(1, Math.ceil(turn / most))
  const on = (rad: number, far: number) => ({
    along: centre.along - flatWay * far * Math.sin(rad),
    radius: centre.radius + (up ? -1 : 1) * far * Math.cos(rad),
  })
  const step = turn / steps
  const between = Array.from({ length: tangent ? steps : steps - 1 }, (_, i) =>
    tangent ? on((i + 0.5) * step, radius / Math.cos(step / 2)) : on((i + 1) * step, radius),
  )
  const points = [on(0, radius), ...between, on(turn, radius)]
  return flatWay < 0 ? points : points.toReversed()
}

/** Without corners that repeat the one before, or lie before it. */
function apart(points: readonly SectionPoint[], pitch: number): readonly SectionPoint[] {
  const least = 1e-4 * pitch
  const kept: SectionPoint[] = []
  for (const point of points) {
    const before = kept.at(-1)
    if (!before || point.along - before.along > least) kept.push(point)
  }
  while (kept.length > 1 && kept[0]!.along + pitch - kept.at(-1)!.along <= least) kept.pop()
  return kept
}
