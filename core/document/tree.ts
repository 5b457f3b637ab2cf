import { bundleKind, type Part, type Piece, type Place, type Seat, type Step, sameKind } from './types.ts'

/** Finding and changing steps in the tree of pieces and bundles. All functions are pure. */

/** These steps and what their bundles hold, in the order of the sheet. */
export function flattened(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) => (step.steps ? [step, ...flattened(step.steps)] : [step]))
}

/** All steps of a part, those in bundles too, in the order of the sheet. */
export function allSteps(part: Part): Step[] {
  return part.pieces.flatMap((piece) => flattened(piece.steps))
}

export interface FoundStep {
  readonly piece: Piece
  readonly step: Step
  /** the list it stands in: its piece's or its bundle's */
  readonly siblings: readonly Step[]
  readonly index: number
  /** the bundles it lies in, the outermost first */
  readonly bundles: readonly Step[]
}

export function findStep(part: Part, id: string): FoundStep | undefined {
  const within = (piece: Piece, siblings: readonly Step[], bundles: readonly Step[]): FoundStep | undefined => {
    for (const [index, step] of siblings.entries()) {
      if (step.id === id) return { piece, step, siblings, index, bundles }
      const inner = step.steps && within(piece, step.steps, [...bundles, step])
      if (inner) return inner
    }
    return undefined
  }
  for (const piece of part.pieces) {
    const found = within(piece, piece.steps, [])
    if (found) return found
  }
  return undefined
}

/** Ids of the steps outside of `ids` whose place hangs on one of them. Members of bundles go with their bundle. */
export function placedBy(part: Part, ids: ReadonlySet<string>): string[] {
  const going = withContents(part, ids)
  return allSteps(part)
    .filter(({ id, place }) => !going.has(id) && referencesOf(place).some((step) => going.has(step)))
    .map((step) => step.id)
}

const references = new WeakMap<Place, readonly string[]>()

/** Ids of the steps that a place is told by. Asked of every step with each keystroke, so what is known is kept. */
export function referencesOf(place: Place): readonly string[] {
  const known = references.get(place)
  if (known) return known
  const ids: string[] = []
  mapReferences(place, (id) => {
    ids.push(id)
    return id
  })
  references.set(place, ids)
  return ids
}

/** A place with each step that it is told by put through `change`; what answers `undefined` is left out of it. */
export function mapReferences(place: Place, change: (id: string) => string | undefined): Place {
  const { across, along, level, pivot, until, on, ...rest } = place
  const offset = (given: Place['across']): Place['across'] => {
    if (!given.of) return given
    const { of, ...plain } = given
    const next = change(of)
    return next === undefined ? plain : { of: next, ...plain }
  }
  const seat = (): Seat => {
    if (on.kind !== 'face') return on
    const step = change(on.step)
    return step === undefined ? { kind: 'bed' } : { ...on, step }
  }
  const leveller = level && change(level.of)
  const pivoted = pivot && (pivot.of === '' ? '' : change(pivot.of))
  const end = until && change(until.step)
  return {
    on: seat(),
    across: offset(across),
    along: offset(along),
    ...rest,
    ...(level && leveller !== undefined ? { level: { ...level, of: leveller } } : {}),
    ...(pivot && pivoted !== undefined ? { pivot: { ...pivot, of: pivoted } } : {}),
    ...(until && end !== undefined ? { until: { ...until, step: end } } : {}),
  }
}

/** `ids` and the ids of all that these steps hold. */
export function withContents(part: Part, ids: ReadonlySet<string>): ReadonlySet<string> {
  return new Set(allSteps(part).flatMap((step) => (ids.has(step.id) ? flattened([step]).map(({ id }) => id) : [])))
}

/** The part with the list that holds step `id` changed; the same part where there is none. */
export function withSiblings(
  part: Part,
  id: string,
  change: (siblings: readonly Step[], index: number) => readonly Step[],
): Part {
  const within = (steps: readonly Step[]): readonly Step[] => {
    const index = steps.findIndex((step) => step.id === id)
    if (index >= 0) return change(steps, index)
    for (const [i, step] of steps.entries()) {
      const inner = step.steps && within(step.steps)
      if (inner && inner !== step.steps) return steps.with(i, { ...step, steps: inner })
    }
    return steps
  }
  return withStepLists(part, within)
}

/** The part with the list of steps of each piece put through `change`. */
export function withStepLists(part: Part, change: (steps: readonly Step[], piece: Piece) => readonly Step[]): Part {
  let same = true
  const pieces = part.pieces.map((piece) => {
    const steps = change(piece.steps, piece)
    if (steps === piece.steps) return piece
    same = false
    return { ...piece, steps }
  })
  return same ? part : { ...part, pieces }
}

/** Every step put through `change`, what a bundle holds before the bundle itself. */
export function mapSteps(steps: readonly Step[], change: (step: Step) => Step): readonly Step[] {
  return steps.map((step) => change(step.steps ? { ...step, steps: mapSteps(step.steps, change) } : step))
}

/** A step under a new id, what it holds under ids made from that one; references among them follow. */
export function renewed(step: Step, id: string): Step {
  const ids = new Map(flattened([step]).map((each, i) => [each.id, i === 0 ? id : `${id.slice(0, 56)}-${i}`]))
  const [out] = mapSteps([step], (each) => ({
    ...each,
    id: ids.get(each.id)!,
    place: mapReferences(each.place, (other) => ids.get(other) ?? other),
    ...(each.shape === sameKind ? { fields: { ...each.fields, of: ids.get(each.fields.of!) ?? each.fields.of! } } : {}),
  }))
  return out!
}

/** `part` without the steps `ids`. Steps that had the shape of one of them get that shape for their own. */
export function withoutSteps(part: Part, ids: ReadonlySet<string>): Part {
  const going = withContents(part, ids)
  if (going.size === 0) return part
  const originals = new Map(allSteps(part).map((step) => [step.id, step]))
  const own = (step: Step): Step => {
    if (step.shape !== sameKind || !going.has(step.fields.of!)) return step
    // Past other references that go as well, to a step that stays or to the shape itself.
    let original = originals.get(step.fields.of!)!
    const passed = new Set<string>()
    while (original.shape === sameKind && going.has(original.id)) {
      const next = originals.get(original.fields.of!)
      if (!next || passed.has(original.id)) return step
      passed.add(original.id)
      original = next
    }
    if (!going.has(original.id)) return { ...step, fields: { of: original.id } }
    const copy = renewed({ ...original, id: step.id }, step.id)
    return { ...step, shape: copy.shape, fields: copy.fields, ...(copy.steps ? { steps: copy.steps } : {}) }
  }
  const kept = (steps: readonly Step[]): readonly Step[] =>
    steps
      .filter((step) => !going.has(step.id))
      .map((step) => own(step.shape === bundleKind ? { ...step, steps: kept(step.steps ?? []) } : step))
  return withStepLists(part, (steps) =>
    flattened(steps).some((step) => going.has(step.id) || own(step) !== step) ? kept(steps) : steps,
  )
}
