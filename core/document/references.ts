import { type FieldReferences, fieldKind } from '../fields/index.ts'
import type {
  BodyStep,
  FieldKindOf,
  FieldOwner,
  FieldTexts,
  Outline,
  Part,
  Place,
  Readout,
  SameStep,
  Seat,
  Step,
  TakenPoint,
} from './format.ts'
import { onBed } from './new.ts'
import { allSteps, contentOf, flattened, hasBody, isBundle, mapSteps, withContents, withStepLists } from './tree.ts'

/**
 * What one thing of a part says of another: the steps that a place is told by or that a field names, the outlines that
 * fields are made from. Each is named here once; renaming, removing, copying, the order of working out and "used by" go
 * through these functions.
 */
export type References = FieldReferences

/** What has fields: what a step's own fields belong to. */
export function ownerOf(step: Step): FieldOwner {
  if (step.kind === 'shape') return { shape: step.shape }
  return step.kind === 'treatment' ? { treatment: step.operation } : { made: true }
}

/** Where in a place another step is named. */
export type ReferenceAt = 'on' | 'across' | 'along' | 'level' | 'pivot' | 'until'

/** A place with each step that it is told by put through `change`; what answers `undefined` is left out of it. */
export function mapReferences(place: Place, change: (id: string, at: ReferenceAt) => string | undefined): Place {
  const { across, along, level, pivot, until, on, ...rest } = place
  const offset = (at: 'across' | 'along'): Place['across'] => {
    const { of, ...plain } = place[at]
    const next = of ? change(of, at) : undefined
    return next === undefined ? (of ? plain : place[at]) : { of: next, ...plain }
  }
  const leveller = level && change(level.of, 'level')
  const pivoted = pivot && (pivot.of === '' ? '' : change(pivot.of, 'pivot'))
  const end = until && change(until.step, 'until')
  return {
    on: mapSeat(on, (id) => change(id, 'on')),
    across: offset('across'),
    along: offset('along'),
    ...rest,
    ...(level && leveller !== undefined ? { level: { ...level, of: leveller } } : {}),
    ...(pivot && pivoted !== undefined ? { pivot: { ...pivot, of: pivoted } } : {}),
    ...(until && end !== undefined ? { until: { ...until, step: end } } : {}),
  }
}

function mapSeat(on: Seat, change: (id: string) => string | undefined): Seat {
  if (on.kind !== 'face') return on
  const step = change(on.step)
  return step === undefined ? { kind: 'bed' } : { ...on, step }
}

/** Fields with what they refer to put through `references`. */
export function mapFields(
  owner: FieldOwner,
  fields: FieldTexts,
  references: References,
  kindOf: FieldKindOf,
): FieldTexts {
  return Object.fromEntries(
    Object.entries(fields).map(([field, text]) => [
      field,
      fieldKind(kindOf(owner, field))?.mapReferences(text, references) ?? text,
    ]),
  )
}

/** A step, and what it holds, with all that they refer to put through `references`. */
export function mapStep(step: Step, references: References, kindOf: FieldKindOf): Step {
  const own = { ...step, fields: mapFields(ownerOf(step), step.fields, references, kindOf) }
  if (!hasBody(own)) return own
  const { step: change } = references
  const body: BodyStep = {
    ...own,
    place: change ? mapReferences(own.place, change) : own.place,
    repeats: own.repeats.map(({ kind, fields }) => ({
      kind,
      fields: mapFields({ repeat: kind }, fields, references, kindOf),
    })),
  }
  if (body.kind === 'same') return { ...body, of: change?.(body.of) ?? body.of }
  return isBundle(body) ? { ...body, steps: body.steps.map((inner) => mapStep(inner, references, kindOf)) } : body
}

/** An outline with the steps that it stands on and has picked up from put through `change`. */
export function mapOutline(outline: Outline, change: (step: string) => string | undefined): Outline {
  const edge = <E extends { readonly step: string }>(taken: E): E => ({
    ...taken,
    step: change(taken.step) ?? taken.step,
  })
  const moved = (taken: TakenPoint): TakenPoint =>
    'edges' in taken ? { ...taken, edges: [edge(taken.edges[0]), edge(taken.edges[1])] } : edge(taken)
  return {
    ...outline,
    on: mapSeat(outline.on, change),
    points: outline.points.map((point) => (point.taken ? { ...point, taken: moved(point.taken) } : point)),
    curves: outline.curves.map((curve) => (curve.taken ? { ...curve, taken: edge(curve.taken) } : curve)),
  }
}

/** A read-out of other steps. */
export function mapReadout(readout: Readout, change: (step: string) => string | undefined): Readout {
  return { ...readout, of: readout.of.map((point) => ({ ...point, step: change(point.step) ?? point.step })) }
}

export interface PlaceReference {
  readonly id: string
  readonly at: ReferenceAt
}
const known = new WeakMap<Place, readonly PlaceReference[]>()

/** The steps that a place is told by, with where each is named. Asked of every step with each keystroke, so they are kept. */
export function placeReferences(place: Place): readonly PlaceReference[] {
  const before = known.get(place)
  if (before) return before
  const all: PlaceReference[] = []
  mapReferences(place, (id, at) => {
    all.push({ id, at })
    return id
  })
  known.set(place, all)
  return all
}

/** Ids of the steps that a place is told by. */
export function referencesOf(place: Place): readonly string[] {
  return placeReferences(place).map(({ id }) => id)
}

/** Ids of the steps that an outline has picked something up from. */
export function takenFrom(outline: Outline): string[] {
  const ids: string[] = []
  mapOutline({ ...outline, on: { kind: 'bed' } }, (id) => {
    ids.push(id)
    return id
  })
  return ids
}

/** Ids of the steps outside of `ids` whose place hangs on one of them. Members of bundles go with their bundle. */
export function placedBy(part: Part, ids: ReadonlySet<string>): string[] {
  const going = withContents(part, ids)
  return allSteps(part)
    .filter((step) => !going.has(step.id) && hasBody(step) && referencesOf(step.place).some((id) => going.has(id)))
    .map((step) => step.id)
}

/** A step under a new id, what it holds under ids made from that one; references among them follow, in places and fields. */
export function renewed(step: Step, id: string, kindOf: FieldKindOf): Step {
  const ids = new Map(flattened([step]).map((each, i) => [each.id, i === 0 ? id : `${id.slice(0, 56)}-${i}`]))
  const told = mapStep(step, { step: (given) => ids.get(given) ?? given }, kindOf)
  return mapSteps([told], (each) => ({ ...each, id: ids.get(each.id)! }))[0]!
}

/** `part` without the steps `ids`. Steps that had the shape of one of them get that shape for their own. */
export function withoutSteps(part: Part, ids: ReadonlySet<string>, kindOf: FieldKindOf): Part {
  const going = withContents(part, ids)
  if (going.size === 0) return part
  const originals = new Map(allSteps(part).map((step) => [step.id, step]))
  const own = (step: Step, passed: readonly string[] = []): Step => {
    if (step.kind !== 'same' || !going.has(step.of) || passed.includes(step.of)) return step
    // Past other references that go as well, to a step that stays or to the shape itself.
    const original = own(originals.get(step.of)!, [...passed, step.of])
    return original.kind === 'treatment' ? step : withShapeOf(step, original, kindOf)
  }
  const kept = (steps: readonly Step[]): readonly Step[] =>
    steps
      .filter((step) => !going.has(step.id))
      .map((step) => own(isBundle(step) ? { ...step, steps: kept(contentOf(step)) } : step))
  return withStepLists(part, (steps) =>
    flattened(steps).some((step) => going.has(step.id) || own(step) !== step) ? kept(steps) : steps,
  )
}

/** A step with the shape of another one for its own, which has just been found to be that of its original. */
function withShapeOf(step: SameStep, original: BodyStep, kindOf: FieldKindOf): BodyStep {
  if (isScaled(step) && (original.kind === 'shape' || isScaled(original))) return around(step, original, kindOf)
  if (original.kind === 'same')
    return { ...step, of: original.of, fields: isScaled(step) ? step.fields : original.fields }
  const { kind: _, of: __, ...plain } = step
  const copy = renewed({ ...original, id: step.id }, step.id, kindOf)
  if (copy.kind === 'shape') {
    const { shape, fields, version } = copy
    return { ...plain, kind: 'shape', shape, fields, ...(version === undefined ? {} : { version }) }
  }
  if (copy.kind !== 'bundle') return step
  return { ...plain, kind: 'bundle', steps: copy.steps, fields: isScaled(step) ? step.fields : copy.fields }
}

/** What is scaled is a bundle of what it is scaled from. */
function around(step: SameStep, original: BodyStep, kindOf: FieldKindOf): BodyStep {
  const { kind: _, of: __, ...plain } = step
  const content = renewed(
    { ...original, place: onBed, repeats: [], name: '', mute: false },
    `${step.id.slice(0, 58)}-own`,
    kindOf,
  )
  return { ...plain, kind: 'bundle', steps: [{ ...content, operation: 'add' }] }
}

function isScaled({ fields }: Pick<Step, 'fields'>): boolean {
  return (fields.scale ?? 'none') !== 'none'
}
