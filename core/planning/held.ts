import {
  allSteps,
  type BodyStep,
  type BundleStep,
  flattened,
  type HeldPlaces,
  type HeldStep,
  hasBody,
  mapReferences,
  type Offset,
  onBed,
  type Part,
  type Place,
  placedBy,
  referencesOf,
  type Seat,
  takenFrom,
  withContents,
} from '../document/index.ts'
import {
  anglesOf,
  compose,
  dot,
  type Frame,
  inverse,
  type Seating,
  scaled,
  shifted,
  subtract,
  type Vec3,
  world,
} from '../place/index.ts'
import type { PartUnit } from '../units/index.ts'
import { heldFrameOf, type StepGeometry } from './geometry.ts'
import type { PlacedJoint } from './jointPlaces.ts'
import type { BodyOperand } from './operand.ts'
import type { Plan } from './plan.ts'
import { noReadings, type SolidReadings, workOut } from './readings.ts'
import { takenPoints } from './taken.ts'

/**
 * The steps that an edit which was to leave them alone would move: of what both states have, those that do not stand where
 * they did, in any copy, or nowhere any more. A place by numbers is one for all copies; where each is told its own, it cannot be held.
 */
export function movedBetween(before: Part, after: Part, solids: SolidReadings = noReadings): string[] {
  const [was, now] = [workOut(before, solids).plan.geometry, workOut(after, solids).plan.geometry]
  const there = new Set(allSteps(after).map(({ id }) => id))
  return [...was].flatMap(([id, { frames }]) => {
    if (!there.has(id)) return []
    const others = now.get(id)?.frames
    return others?.length === frames.length && frames.every((frame, i) => isTheSame(frame, others[i]!)) ? [] : [id]
  })
}

function isTheSame(a: Frame, b: Frame): boolean {
  const [one, two] = [a, b].map(({ origin, u, v, n }) => [...origin, ...u, ...v, ...n]) as [number[], number[]]
  return one.every((value, i) => Math.abs(value - two[i]!) <= 1e-7 * Math.max(1, Math.abs(value)))
}

/**
 * The places that keep steps where they are when the steps `ids`, which they are placed by, are removed; of outlines, those
 * of what they took over.
 */
export function heldPlaces(part: Part, ids: ReadonlySet<string>, solids: SolidReadings = noReadings): HeldPlaces {
  const { plan } = workOut(part, solids)
  const going = withContents(part, ids)
  const taking = part.outlines.filter((outline) => takenFrom(outline).some((id) => going.has(id)))
  const taken = takenPoints({ ...part, outlines: taking }, plan)
  const steps = new Map(allSteps(part).map((step) => [step.id, step]))
  return Object.fromEntries([
    ...placedBy(part, ids).flatMap((id) => {
      const known = plan.geometry.get(id)
      const step = steps.get(id)
      return known && step && hasBody(step) ? [[id, heldPlace(step, known, plan, part.unit, going)] as const] : []
    }),
    ...part.joints.flatMap((joint) => {
      const known = plan.joints.get(joint.id)
      const goes = referencesOf(joint.place).some((id) => going.has(id))
      return known && goes ? [[joint.id, { place: heldJointPlace(joint.place, known, going) }] as const] : []
    }),
    ...[...taken].map(([id, own]) => [id, { taken: Object.fromEntries(own) }] as const),
  ])
}

/** The places that keep what a bundle holds where it is, once it stands for itself. */
export function dissolvedPlaces(part: Part, { id, steps }: BundleStep, solids: SolidReadings = noReadings): HeldPlaces {
  const { plan } = workOut(part, solids)
  const own = new Set(flattened(steps).map((step) => step.id))
  const motion = plan.operands.get(id)?.copies[0]?.frame
  if (!motion || isStill(motion)) return {}
  // A bundle that was moved leaves what its steps stood on and were told by; they keep the places that they have now.
  return Object.fromEntries(
    steps.flatMap((step) => {
      const known = plan.geometry.get(step.id)
      if (!hasBody(step)) return []
      const seat = step.place.on
      const outside = referencesOf({ ...step.place, on: onBed.on }).some((id) => !own.has(id))
      const stays = seat.kind === 'face' && own.has(seat.step)
      if (!known || (stays && !outside)) return []
      const was = seat.kind === 'face' ? seat.face : 'bed'
      const held: Seat = stays ? seat : { kind: 'held', was, frame: heldFrameOf(known.seating) }
      const operand = plan.operands.get(step.id)
      const kept = withoutTellers({ ...step.place, on: held }, known, operand, part.unit, (other) => !own.has(other))
      return [[step.id, { place: kept }] as const]
    }),
  )
}

function heldPlace(
  step: BodyStep,
  known: StepGeometry,
  plan: Plan,
  unit: PartUnit,
  going: ReadonlySet<string>,
): HeldStep {
  const { on, until } = step.place
  const fields = until && going.has(until.step) ? withDepth(step, plan) : step.fields
  const { until: _, ...place } = step.place
  const kept: Place = until && !going.has(until.step) ? step.place : place
  const seatGoes = on.kind === 'face' && going.has(on.step)
  const seat: Seat = seatGoes ? { kind: 'held', was: on.face, frame: heldFrameOf(known.seating) } : on
  const operand = plan.operands.get(step.id)
  return { place: withoutTellers({ ...kept, on: seat }, known, operand, unit, (id) => going.has(id)), fields }
}

/** A joint stands as it stood: on the frame of the face that goes, or by the numbers that what goes has told. */
function heldJointPlace(place: Place, { seating }: PlacedJoint, going: ReadonlySet<string>): Place {
  const { on } = place
  const seat: Seat =
    on.kind === 'face' && going.has(on.step) ? { kind: 'held', was: on.face, frame: heldFrameOf(seating) } : on
  return mapReferences({ ...place, on: seat }, (id) => (going.has(id) ? undefined : id))
}

function isStill({ origin, u, v }: Frame): boolean {
  const there = [...origin, ...u, ...v]
  return [...world.origin, ...world.u, ...world.v].every((value, i) => Math.abs(value - there[i]!) < 1e-12)
}

/** A place that is no longer told by steps that go: what they said stands in it as numbers, what was typed stays. */
function withoutTellers(
  place: Place,
  known: StepGeometry,
  operand: BodyOperand | undefined,
  unit: PartUnit,
  goes: (id: string) => boolean,
): Place {
  const { level, pivot } = place
  // A height is kept by its foot or its head; its middle may be another one in each copy.
  const middle = level !== undefined && goes(level.of) && level.to === 'centre' && operand?.body.kind === 'shape'
  if ((pivot?.of && goes(pivot.of)) || middle) return toldByNumbers(place, place.on, known, operand)
  const axis = (own: Offset, i: 0 | 1): Offset => {
    const range = own.of && goes(own.of) ? known.place[i === 0 ? 'across' : 'along'].range : undefined
    if (!range) return own
    const half = known.seating.size[i] / 2
    const [low, high] = range
    const middle = (low + high) / 2
    const more = { low: low + half, centre: middle, axis: middle, high: half - high }[own.from]
    const { of: _, ...plain } = own
    // From the axis of what goes, and so from the middle of the face.
    const from = own.from === 'axis' ? 'centre' : own.from
    return { ...plain, from, by: withAdded(own.by, more, unit) }
  }
  const told = { ...place, across: axis(place.across, 0), along: axis(place.along, 1) }
  if (!level || !goes(level.of)) return told
  const { level: _, ...plain } = told
  const rest = level.to === 'high' ? 'in' : level.to === 'low' ? 'on' : place.rest
  return { ...plain, rest, lift: withAdded(place.lift, known.place.level!.at, unit) }
}

/** An expression of a length with some millimetres added. */
export function withAdded(typed: string, mm: number, unit: PartUnit): string {
  // By itself "1-1/4" is read as on a rule; beside something else it would be a difference.
  const text = unit === 'in' && /^\s*\d+-\d+\/\d+\s*$/.test(typed) ? `${typed.trim()} in` : typed
  const more = written(Math.abs(mm))
  if (more === '0') return text
  if (/^\s*0(\.0*)?\s*$/.test(text)) return mm < 0 ? `-${more}` : more
  return `${text} ${mm < 0 ? '-' : '+'} ${more}`
}

/** What told it where to stand is gone: the numbers of where it stands take its place. */
function toldByNumbers(
  place: Place,
  on: Seat,
  { seating, stands, reach }: StepGeometry,
  operand: BodyOperand | undefined,
): Place {
  const body = operand?.body
  const { level: _, pivot: __, ...plain } = place
  const across = acrossOf(seating, stands.origin)
  const { origin, u, v, n } = compose(inverse(shifted(seating, across)), stands)
  const { turn, tilt, lean } = anglesOf({ u, v, n })
  // What is drawn, or put together, has a point that it is drawn about; its middle is that of its extents.
  const ownPoint = body?.kind === 'bundle' || (body?.kind === 'shape' && body.shape.drawn === true)
  const stood =
    body?.kind === 'shape' && body.shape.seat === 'stands' && !body.shape.straddles?.(operand!.copies[0]?.values ?? {})
  const below = stood ? reach(scaled([u[2], v[2], n[2]], -1)) : 0
  const from = (mm: number) => ({ from: 'centre', to: ownPoint ? 'own' : 'centre', by: written(mm) }) as const
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

/** To ten places, so that 30 is not written as 29.999999999999996. With its unit, whatever the part's is. */
function written(value: number, unit = 'mm'): string {
  const rounded = Number(value.toFixed(10))
  return rounded === 0 ? '0' : `${rounded} ${unit}`
}

/** What went up to something that goes is as deep, or as high, as it was. */
function withDepth({ id, fields }: BodyStep, plan: Plan): BodyStep['fields'] {
  const { body, copies } = plan.operands.get(id) ?? {}
  if (body?.kind !== 'shape' || !body.shape.upTo || !copies) return fields
  const [reach, field] = body.shape.upTo.rises ? ['up', 'height'] : ['blind', 'depth']
  const deep = copies[0]?.values[field]
  return typeof deep === 'number' && body.shape.upTo.wanted(copies[0]!.values)
    ? { ...fields, reach, [field]: `${deep} mm` }
    : fields
}
