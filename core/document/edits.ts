import { printerFor } from '../fits/index.ts'
import { computeMeasures, type Measure, type ValueKind, withRenamed, withWrittenUnits } from '../measures/index.ts'
import type { PartUnit } from '../units/index.ts'
import type { Effect, FieldTexts, HeldFrame, Joint, Offset, Part, Piece, Place, Repeat, Seat, Step } from './types.ts'

/**
 * Everything that can be done to a part, as data. `applyEdit` gives the edited part; the part before it is the inverse,
 * since parts are immutable and share what did not change.
 */
export type Edit =
  | { readonly type: 'rename'; readonly name: string }
  | { readonly type: 'describe'; readonly note: string }
  | { readonly type: 'set-unit'; readonly unit: PartUnit }
  | { readonly type: 'set-printer'; readonly printer: string }
  | { readonly type: 'set-material'; readonly material: string }
  | { readonly type: 'add-measure'; readonly measure: Measure }
  | { readonly type: 'set-measure'; readonly id: string; readonly change: Partial<Omit<Measure, 'id' | 'name'>> }
  | { readonly type: 'rename-measure'; readonly id: string; readonly name: string }
  | { readonly type: 'remove-measure'; readonly id: string }
  | { readonly type: 'add-piece'; readonly piece: Piece }
  | { readonly type: 'set-piece'; readonly id: string; readonly change: Partial<Omit<Piece, 'id' | 'steps'>> }
  | { readonly type: 'remove-piece'; readonly id: string; readonly held: HeldSeats }
  | { readonly type: 'add-step'; readonly piece: string; readonly step: Step; readonly after?: string | undefined }
  | { readonly type: 'set-field'; readonly id: string; readonly field: string; readonly text: string }
  | { readonly type: 'set-step'; readonly id: string; readonly change: StepChange }
  | {
      readonly type: 'set-offset'
      readonly id: string
      readonly axis: 'across' | 'along'
      readonly change: Partial<Offset>
    }
  | { readonly type: 'set-place'; readonly id: string; readonly change: Partial<Place> }
  | { readonly type: 'set-repeat'; readonly id: string; readonly index: number; readonly repeat: Repeat | undefined }
  | { readonly type: 'move-step'; readonly id: string; readonly by: -1 | 1 }
  | { readonly type: 'remove-step'; readonly id: string; readonly held: HeldSeats }
  | { readonly type: 'add-joint'; readonly joint: Joint }
  | {
      readonly type: 'set-joint'
      readonly id: string
      readonly change: Partial<Omit<Joint, 'id' | 'fields' | 'place'>>
    }
  | { readonly type: 'remove-joint'; readonly id: string }

type StepChange = {
  readonly name?: string
  readonly effect?: Effect
  readonly ghost?: boolean
  readonly mute?: boolean
}

/** For each step that stands on something about to be removed: the frame it keeps. */
export type HeldSeats = Readonly<Record<string, { readonly was: string; readonly frame: HeldFrame }>>

/** The kind of value a field of a shape or joint holds, or undefined where it holds a choice or is not known. */
export type FieldKindOf = (owner: { shape: string } | { joint: string }, field: string) => ValueKind | undefined

/**
 * The part after `edit`. An edit that names something that is not there leaves the part as it is.
 * `kindOf` tells which fields hold expressions; it comes from the registries of shapes and joints.
 */
export function applyEdit(part: Part, edit: Edit, kindOf: FieldKindOf): Part {
  switch (edit.type) {
    case 'rename':
      return edit.name.trim() === '' || edit.name === part.name ? part : { ...part, name: edit.name.trim() }
    case 'describe':
      return { ...part, note: edit.note }
    case 'set-unit':
      return withUnit(part, edit.unit, kindOf)
    case 'set-printer':
      return { ...part, printer: edit.printer }
    case 'set-material':
      return { ...part, material: edit.material }
    case 'add-measure':
      return { ...part, measures: [...part.measures, edit.measure] }
    case 'set-measure':
      return withList(
        part,
        'measures',
        changed(part.measures, edit.id, (measure) => ({ ...measure, ...edit.change })),
      )
    case 'rename-measure':
      return withMeasureRenamed(part, edit.id, edit.name, kindOf)
    case 'remove-measure':
      return { ...part, measures: part.measures.filter((measure) => measure.id !== edit.id) }
    case 'add-piece':
      return { ...part, pieces: [...part.pieces, edit.piece] }
    case 'set-piece':
      return withList(
        part,
        'pieces',
        changed(part.pieces, edit.id, (piece) => ({ ...piece, ...edit.change })),
      )
    case 'remove-piece':
      return part.pieces.length === 1
        ? part
        : withSeatsHeld(
            {
              ...part,
              pieces: part.pieces.filter((piece) => piece.id !== edit.id),
              joints: part.joints.filter((joint) => !joint.pieces.includes(edit.id)),
            },
            edit.held,
          )
    case 'add-step':
      return withStepAdded(part, edit.piece, edit.step, edit.after)
    case 'set-field':
      return withPlaced(part, edit.id, (owner) => ({ ...owner, fields: { ...owner.fields, [edit.field]: edit.text } }))
    case 'set-step':
      return withStep(part, edit.id, (step) => ({ ...step, ...edit.change }))
    case 'set-offset':
      return withPlaced(part, edit.id, (owner) => ({
        ...owner,
        place: { ...owner.place, [edit.axis]: { ...owner.place[edit.axis], ...edit.change } },
      }))
    case 'set-place':
      return withPlaced(part, edit.id, (owner) => ({ ...owner, place: { ...owner.place, ...edit.change } }))
    case 'set-repeat':
      return withStep(part, edit.id, (step) => ({ ...step, repeats: withItem(step.repeats, edit.index, edit.repeat) }))
    case 'move-step':
      return withStepMoved(part, edit.id, edit.by)
    case 'remove-step':
      return withSeatsHeld(
        {
          ...part,
          pieces: part.pieces.map((piece) => {
            const steps = piece.steps.filter((step) => step.id !== edit.id)
            return steps.length === piece.steps.length ? piece : { ...piece, steps }
          }),
        },
        edit.held,
      )
    case 'add-joint':
      return { ...part, joints: [...part.joints, edit.joint] }
    case 'set-joint':
      return withList(
        part,
        'joints',
        changed(part.joints, edit.id, (joint) => ({ ...joint, ...edit.change })),
      )
    case 'remove-joint':
      return { ...part, joints: part.joints.filter((joint) => joint.id !== edit.id) }
  }
}

export function findStep(part: Part, id: string): { piece: Piece; step: Step; index: number } | undefined {
  for (const piece of part.pieces) {
    const index = piece.steps.findIndex((step) => step.id === id)
    if (index >= 0) return { piece, step: piece.steps[index]!, index }
  }
  return undefined
}

/** Ids of the steps that stand on a face of one of `ids`. */
export function standingOn(part: Part, ids: ReadonlySet<string>): string[] {
  return part.pieces
    .flatMap((piece) => piece.steps)
    .filter((step) => step.place.on.kind === 'face' && ids.has(step.place.on.step))
    .map((step) => step.id)
}

/** A copy of a step under a new id; it stands where the original does, until it is moved. */
export function copiedStep(step: Step, id: string): Step {
  return { ...step, id, name: step.name && `${step.name} copy` }
}

/** The list with one item changed; the same list where the change comes to nothing. */
function changed<T extends { readonly id: string }>(
  items: readonly T[],
  id: string,
  change: (item: T) => T,
): readonly T[] {
  const index = items.findIndex((item) => item.id === id)
  const item = items[index]
  if (!item) return items
  const next = change(item)
  return next === item || JSON.stringify(next) === JSON.stringify(item) ? items : items.with(index, next)
}

/** `part` with another list under `key`; the same part where the list is the same. */
function withList<K extends 'measures' | 'pieces' | 'joints'>(part: Part, key: K, items: Part[K]): Part {
  return items === part[key] ? part : { ...part, [key]: items }
}

/** The piece that holds a step, with its steps changed. */
function withSteps(part: Part, pieceId: string, change: (steps: readonly Step[]) => readonly Step[]): Part {
  const index = part.pieces.findIndex((piece) => piece.id === pieceId)
  const piece = part.pieces[index]
  if (!piece) return part
  const steps = change(piece.steps)
  return steps === piece.steps ? part : { ...part, pieces: part.pieces.with(index, { ...piece, steps }) }
}

function withItem<T>(items: readonly T[], index: number, item: T | undefined): readonly T[] {
  if (item === undefined) return items.filter((_, i) => i !== index)
  return index >= items.length ? [...items, item] : items.map((old, i) => (i === index ? item : old))
}

function withStep(part: Part, id: string, change: (step: Step) => Step): Part {
  const found = findStep(part, id)
  return found ? withSteps(part, found.piece.id, (steps) => changed(steps, id, change)) : part
}

/** Changes the step or joint `id`: both have fields and a place. */
function withPlaced(
  part: Part,
  id: string,
  change: <T extends { readonly fields: FieldTexts; readonly place: Place }>(owner: T) => T,
): Part {
  if (part.joints.some((joint) => joint.id === id))
    return withList(
      part,
      'joints',
      changed(part.joints, id, (joint) => change(joint)),
    )
  return withStep(part, id, (step) => change(step))
}

function withStepAdded(part: Part, pieceId: string, step: Step, after: string | undefined): Part {
  return withSteps(part, pieceId, (steps) => {
    const at = after === undefined ? -1 : steps.findIndex((other) => other.id === after)
    return steps.toSpliced(at < 0 ? steps.length : at + 1, 0, step)
  })
}

function withStepMoved(part: Part, id: string, by: -1 | 1): Part {
  const found = findStep(part, id)
  if (!found) return part
  const { piece, step, index } = found
  const to = index + by
  if (to < 0 || to >= piece.steps.length) return part
  return withSteps(part, piece.id, (steps) => steps.toSpliced(index, 1).toSpliced(to, 0, step))
}

function withSeatsHeld(part: Part, held: HeldSeats): Part {
  return Object.entries(held).reduce((out, [id, { was, frame }]) => {
    const on: Seat = { kind: 'held', was, frame }
    return withStep(out, id, (step) => ({ ...step, place: { ...step.place, on } }))
  }, part)
}

/** Every expression of the part put through `change`, with the kind of value it gives. */
function mapExpressions(part: Part, kindOf: FieldKindOf, change: (text: string, kind: ValueKind) => string): Part {
  const fieldsOf = (owner: { shape: string } | { joint: string }, fields: FieldTexts): FieldTexts =>
    Object.fromEntries(
      Object.entries(fields).map(([field, text]) => {
        const kind = kindOf(owner, field)
        return [field, kind ? change(text, kind) : text]
      }),
    )
  const placeOf = (place: Place): Place => ({
    ...place,
    across: { ...place.across, by: change(place.across.by, 'length') },
    along: { ...place.along, by: change(place.along.by, 'length') },
    lift: change(place.lift, 'length'),
    turn: change(place.turn, 'angle'),
    tilt: change(place.tilt, 'angle'),
  })
  const repeatOf = (repeat: Repeat): Repeat =>
    repeat.kind === 'row'
      ? { ...repeat, count: change(repeat.count, 'count'), spacing: change(repeat.spacing, 'length') }
      : { ...repeat, count: change(repeat.count, 'count'), sweep: change(repeat.sweep, 'angle') }
  return {
    ...part,
    measures: part.measures.map((measure) => ({ ...measure, expression: change(measure.expression, measure.kind) })),
    pieces: part.pieces.map((piece) => ({
      ...piece,
      steps: piece.steps.map((step) => ({
        ...step,
        fields: fieldsOf({ shape: step.shape }, step.fields),
        place: placeOf(step.place),
        repeats: step.repeats.map(repeatOf),
      })),
    })),
    joints: part.joints.map((joint) => ({
      ...joint,
      fields: fieldsOf({ joint: joint.kind }, joint.fields),
      place: placeOf(joint.place),
    })),
  }
}

/** Bare numbers get their old unit written behind them, so that no size changes with the unit. */
function withUnit(part: Part, unit: PartUnit, kindOf: FieldKindOf): Part {
  if (unit === part.unit) return part
  const { names } = computeMeasures(part.measures, part.unit, printerFor(part.printer).fits)
  return { ...mapExpressions(part, kindOf, (text, kind) => withWrittenUnits(text, kind, names, part.unit)), unit }
}

function withMeasureRenamed(part: Part, id: string, name: string, kindOf: FieldKindOf): Part {
  const measure = part.measures.find((other) => other.id === id)
  if (!measure || measure.name === name) return part
  const clash = part.measures.some((other) => other.name === name && other.id !== id)
  // Only a name that is in force is followed: renaming the second of two equal names must not take the first one's uses.
  const inForce = part.measures.find((other) => other.name === measure.name)?.id === id
  const followed =
    inForce && !clash && measure.name !== '' && name !== ''
      ? mapExpressions(part, kindOf, (text) => withRenamed(text, measure.name, name))
      : part
  return { ...followed, measures: changed(followed.measures, id, (other) => ({ ...other, name })) }
}

/** How often, and where, each name is read: name -> ids of measures, steps and joints. */
export function usesOfNames(part: Part): ReadonlyMap<string, readonly string[]> {
  const uses = new Map<string, string[]>()
  const note = (texts: readonly string[], id: string) => {
    for (const text of texts)
      for (const word of text.match(/[\p{L}_][\p{L}\p{N}_]*/gu) ?? []) {
        const users = uses.get(word) ?? []
        if (!users.includes(id)) uses.set(word, [...users, id])
      }
  }
  const placeTexts = (place: Place) => [place.across.by, place.along.by, place.lift, place.turn, place.tilt]
  for (const measure of part.measures) note([measure.expression], measure.id)
  for (const piece of part.pieces)
    for (const step of piece.steps)
      note(
        [
          ...Object.values(step.fields),
          ...placeTexts(step.place),
          ...step.repeats.flatMap((repeat) =>
            repeat.kind === 'row' ? [repeat.count, repeat.spacing] : [repeat.count, repeat.sweep],
          ),
        ],
        step.id,
      )
  for (const joint of part.joints) note([...Object.values(joint.fields), ...placeTexts(joint.place)], joint.id)
  return uses
}
