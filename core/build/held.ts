import {
  allSteps,
  type HeldPlaces,
  type HeldStep,
  onBed,
  type Part,
  type Place,
  placedBy,
  referencesOf,
  type Seat,
  type Step,
  takenFrom,
  withContents,
} from '../document/index.ts'
import { composed, dot, inverse, type Seating, scaled, shifted, subtract, type Vec3 } from '../place/index.ts'
import { type Body, heldFrameOf, type Plan, type StepGeometry } from './plan.ts'
import { workOut } from './readings.ts'
import { takenPoints } from './taken.ts'

/**
 * The places that keep steps where they are when the steps `ids`, which they are placed by, are removed; of outlines, those
 * of what they took over.
 */
export function heldPlaces(part: Part, ids: ReadonlySet<string>): HeldPlaces {
  const { plan } = workOut(part)
  const going = withContents(part, ids)
  const taking = part.outlines.filter((outline) => takenFrom(outline).some((id) => going.has(id)))
  const taken = takenPoints({ ...part, outlines: taking }, plan)
  const steps = new Map(allSteps(part).map((step) => [step.id, step]))
  return Object.fromEntries([
    ...placedBy(part, ids).flatMap((id) => {
      const known = plan.geometry.get(id)
      return known ? [[id, heldPlace(steps.get(id)!, known, plan, going)] as const] : []
    }),
    ...[...taken].map(([id, own]) => [id, { taken: Object.fromEntries(own) }] as const),
  ])
}

function heldPlace(step: Step, known: StepGeometry, plan: Plan, going: ReadonlySet<string>): HeldStep {
  const { on, until } = step.place
  const fields = until && going.has(until.step) ? withDepth(step, plan) : step.fields
  const { until: _, ...place } = step.place
  const kept: Place = until && !going.has(until.step) ? step.place : place
  const seatGoes = on.kind === 'face' && going.has(on.step)
  const others = referencesOf({ ...kept, on: onBed.on }).filter((id) => going.has(id))
  const seat: Seat = seatGoes ? { kind: 'held', was: on.face, frame: heldFrameOf(known.seating) } : on
  const body = plan.operands.get(step.id)?.body
  return { place: others.length > 0 ? toldByNumbers(kept, seat, known, body) : { ...kept, on: seat }, fields }
}

/** What told it where to stand is gone: the numbers of where it stands take its place. */
function toldByNumbers(
  place: Place,
  on: Seat,
  { seating, stands, reach }: StepGeometry,
  body: Body | undefined,
): Place {
  const { level: _, pivot: __, ...plain } = place
  const across = acrossOf(seating, stands.origin)
  const { origin, u, v, n } = composed(inverse(shifted(seating, across)), stands)
  // Turned by z, then x, then y: u = zᵀ…, read off the matrix whose columns are u, v, n.
  const tilt = degrees(Math.asin(Math.max(-1, Math.min(1, v[2]))))
  const upright = Math.abs(v[2]) > 1 - 1e-12
  const turn = upright ? degrees(Math.atan2(u[1], u[0])) : degrees(Math.atan2(-v[0], v[1]))
  const lean = upright ? 0 : degrees(Math.atan2(-u[2], n[2]))
  const bundled = body?.kind === 'bundle'
  const stood = body?.kind === 'shape' && body.shape.seat === 'stands'
  const below = stood ? reach(scaled([u[2], v[2], n[2]], -1)) : 0
  const from = (mm: number) => ({ from: 'centre', to: bundled ? 'own' : 'centre', by: written(mm) }) as const
  return {
    ...plain,
    on,
    across: from(across),
    along: from(origin[1]),
    rest: stood ? 'on' : place.rest,
    lift: written(origin[2] - below),
    turn: written(turn, 'deg'),
    tilt: written(tilt, 'deg'),
    lean: written(lean, 'deg'),
    base: '',
  }
}

/** How far across its seat a point lies; round the axis on a round one. */
function acrossOf({ frame, round }: Seating, point: Vec3): number {
  const away = subtract(point, frame.origin)
  if (!round) return dot(away, frame.u)
  const out = Math.sign(round)
  const fromAxis = dot(away, frame.n) + round
  return round * Math.atan2(out * dot(away, frame.u), out * fromAxis)
}

function degrees(rad: number): number {
  return (rad * 180) / Math.PI
}

/** To a millionth, so that 30 is not written as 29.999999999999996. With its unit, whatever the part's is. */
function written(value: number, unit = 'mm'): string {
  const rounded = Math.round(value * 1e6) / 1e6
  return rounded === 0 ? '0' : `${rounded} ${unit}`
}

function withDepth({ id, fields }: Step, plan: Plan): Step['fields'] {
  const depth = plan.operands.get(id)?.copies[0]?.values.depth
  return typeof depth === 'number' ? { ...fields, reach: 'blind', depth: `${depth} mm` } : fields
}
