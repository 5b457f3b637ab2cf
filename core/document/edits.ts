import type { OutlineText } from '../fields/index.ts'
import { type Measure, mapCondition, withRenamed } from '../measures/index.ts'
import type { PartUnit } from '../units/index.ts'
import { mapExpressions } from './expressions.ts'
import { regionsChosen, withOutlines, withTakenHeld } from './outlines.ts'
import { allSteps, findStep, flattened, renewed, withoutSteps, withSiblings, withStepLists } from './tree.ts'
import {
  bundleKind,
  type Effect,
  type FieldKindOf,
  type FieldTexts,
  type Joint,
  type KeptView,
  type Offset,
  type Outline,
  type Part,
  type Piece,
  type Place,
  type Readout,
  type Repeat,
  type Step,
  type Variant,
} from './types.ts'
import { inUnitOf } from './unit.ts'

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
  | { readonly type: 'set-step-size'; readonly stepSize: string }
  | { readonly type: 'keep-view'; readonly view: KeptView }
  | { readonly type: 'drop-view'; readonly id: string }
  | { readonly type: 'add-measure'; readonly measure: Measure }
  | { readonly type: 'set-measure'; readonly id: string; readonly change: Partial<Omit<Measure, 'id' | 'name'>> }
  | { readonly type: 'rename-measure'; readonly id: string; readonly name: string }
  | { readonly type: 'remove-measure'; readonly id: string }
  | { readonly type: 'add-variant'; readonly variant: Variant }
  | { readonly type: 'rename-variant'; readonly id: string; readonly name: string }
  | { readonly type: 'remove-variant'; readonly id: string }
  /** an empty id: the measures as they are typed */
  | { readonly type: 'choose-variant'; readonly id: string }
  /** without an expression, the measure is in this variant what it is in all */
  | {
      readonly type: 'set-variant-value'
      readonly id: string
      readonly measure: string
      readonly expression: string | undefined
    }
  | { readonly type: 'add-outline'; readonly outline: Outline }
  /** `regions`: keys of regions that steps may have chosen, with what each has become by this change */
  | {
      readonly type: 'set-outline'
      readonly id: string
      readonly change: Partial<Omit<Outline, 'id'>>
      readonly regions?: Readonly<Record<string, readonly string[]>> | undefined
    }
  | { readonly type: 'remove-outline'; readonly id: string }
  | { readonly type: 'add-piece'; readonly piece: Piece }
  | { readonly type: 'set-piece'; readonly id: string; readonly change: Partial<Omit<Piece, 'id' | 'steps'>> }
  | { readonly type: 'remove-piece'; readonly id: string; readonly held: HeldPlaces }
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
  | { readonly type: 'omit-copy'; readonly id: string; readonly copy: number; readonly omitted: boolean }
  /** `to` is the place in its own list that the step has afterwards, from 0 */
  | { readonly type: 'move-step'; readonly id: string; readonly to: number }
  | { readonly type: 'remove-steps'; readonly ids: readonly string[]; readonly held: HeldPlaces }
  /** Steps that stand next to one another become what `bundle` holds, in its place. */
  | { readonly type: 'bundle-steps'; readonly ids: readonly string[]; readonly bundle: Step }
  | { readonly type: 'dissolve-bundle'; readonly id: string; readonly held: HeldPlaces }
  | { readonly type: 'add-joint'; readonly joint: Joint }
  | {
      readonly type: 'set-joint'
      readonly id: string
      readonly change: Partial<Omit<Joint, 'id' | 'fields' | 'place'>>
    }
  | { readonly type: 'remove-joint'; readonly id: string }
  | { readonly type: 'add-readout'; readonly readout: Readout }
  | { readonly type: 'set-readout'; readonly id: string; readonly change: Partial<Omit<Readout, 'id' | 'name'>> }
  | { readonly type: 'rename-readout'; readonly id: string; readonly name: string }
  | { readonly type: 'remove-readout'; readonly id: string }

type StepChange = {
  readonly name?: string
  readonly effect?: Effect
  readonly ghost?: boolean
  readonly mute?: boolean
  readonly when?: string
}

/**
 * For each step whose place hangs on something about to be removed: the place, and the fields, that keep it where it is. For
 * each outline that took points over from it: where these are, and as [size, 0] how large curves are, mm.
 */
export type HeldPlaces = Readonly<Record<string, HeldStep | HeldOutline>>
export interface HeldStep {
  readonly place: Place
  readonly fields?: FieldTexts
}
export interface HeldOutline {
  readonly taken: Readonly<Record<string, readonly [number, number]>>
}

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
    case 'set-step-size':
      return edit.stepSize === part.stepSize ? part : { ...part, stepSize: edit.stepSize }
    case 'keep-view':
      return { ...part, views: [...part.views.filter(({ name }) => name !== edit.view.name), edit.view] }
    case 'drop-view':
      return withList(
        part,
        'views',
        part.views.filter(({ id }) => id !== edit.id),
      )
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
      return {
        ...part,
        measures: part.measures.filter((measure) => measure.id !== edit.id),
        variants: part.variants.map((variant) => ({ ...variant, values: without(variant.values, edit.id) })),
      }
    case 'add-variant':
      return { ...part, variants: [...part.variants, edit.variant], variant: edit.variant.id }
    case 'rename-variant':
      return withList(
        part,
        'variants',
        changed(part.variants, edit.id, (variant) => ({ ...variant, name: edit.name })),
      )
    case 'remove-variant':
      return {
        ...part,
        variants: part.variants.filter((variant) => variant.id !== edit.id),
        variant: part.variant === edit.id ? '' : part.variant,
      }
    case 'choose-variant':
      return part.variant === edit.id ? part : { ...part, variant: edit.id }
    case 'set-variant-value': {
      const { measure, expression } = edit
      return withList(
        part,
        'variants',
        changed(part.variants, edit.id, (variant) => ({
          ...variant,
          values:
            expression === undefined ? without(variant.values, measure) : { ...variant.values, [measure]: expression },
        })),
      )
    }
    case 'add-outline':
      return { ...part, outlines: [...part.outlines, edit.outline] }
    case 'set-outline':
      return withList(
        edit.regions ? withRegionsRenamed(part, edit.id, edit.regions, kindOf) : part,
        'outlines',
        changed(part.outlines, edit.id, (outline) => ({ ...outline, ...edit.change })),
      )
    case 'remove-outline':
      return { ...part, outlines: part.outlines.filter((outline) => outline.id !== edit.id) }
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
        : withPlacesHeld(
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
    case 'omit-copy':
      return withStep(part, edit.id, (step) => ({ ...step, omit: withOmitted(step.omit, edit.copy, edit.omitted) }))
    case 'move-step':
      return withSiblings(part, edit.id, (steps, index) =>
        edit.to === index || edit.to < 0 || edit.to >= steps.length
          ? steps
          : steps.toSpliced(index, 1).toSpliced(edit.to, 0, steps[index]!),
      )
    case 'remove-steps':
      return withPlacesHeld(withoutSteps(part, new Set(edit.ids)), edit.held)
    case 'bundle-steps':
      return withBundle(part, edit.ids, edit.bundle)
    case 'dissolve-bundle':
      return withPlacesHeld(
        withSiblings(part, edit.id, (steps, index) => steps.toSpliced(index, 1, ...dissolved(steps[index]!))),
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
    case 'add-readout':
      return { ...part, readouts: [...part.readouts, edit.readout] }
    case 'set-readout':
      return withList(
        part,
        'readouts',
        changed(part.readouts, edit.id, (readout) => ({ ...readout, ...edit.change })),
      )
    case 'rename-readout':
      return withReadoutRenamed(part, edit.id, edit.name, kindOf)
    case 'remove-readout':
      return { ...part, readouts: part.readouts.filter((readout) => readout.id !== edit.id) }
  }
}

/** A copy of a step under a new id; it stands where the original does, until it is moved. */
export function copiedStep(step: Step, id: string): Step {
  return { ...renewed(step, id), name: step.name && `${step.name} copy` }
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
function withList<K extends 'outlines' | 'measures' | 'variants' | 'pieces' | 'joints' | 'readouts' | 'views'>(
  part: Part,
  key: K,
  items: Part[K],
): Part {
  return items === part[key] ? part : { ...part, [key]: items }
}

function without(values: Readonly<Record<string, string>>, key: string): Readonly<Record<string, string>> {
  const { [key]: _, ...rest } = values
  return rest
}

/** Steps that have chosen regions of an outline stay with them. */
function withRegionsRenamed(
  part: Part,
  id: string,
  names: Readonly<Record<string, readonly string[]>>,
  kindOf: FieldKindOf,
): Part {
  const renamed = (chosen: OutlineText): OutlineText =>
    chosen.outline === id && chosen.regions
      ? { ...chosen, regions: [...new Set(chosen.regions.flatMap((key) => names[key] ?? [key]))] }
      : chosen
  const users = new Set(allSteps(part).filter((step) => regionsChosen(step, id, kindOf).length > 0))
  if (users.size === 0) return part
  return withStepLists(part, (steps) =>
    steps.map((step) =>
      flattened([step]).some((each) => users.has(each)) ? withOutlines(step, renamed, kindOf) : step,
    ),
  )
}

function withItem<T>(items: readonly T[], index: number, item: T | undefined): readonly T[] {
  if (item === undefined) return items.filter((_, i) => i !== index)
  return index >= items.length ? [...items, item] : items.map((old, i) => (i === index ? item : old))
}

function withStep(part: Part, id: string, change: (step: Step) => Step): Part {
  return withSiblings(part, id, (steps) => changed(steps, id, change))
}

function withOmitted(omit: readonly number[], copy: number, omitted: boolean): readonly number[] {
  const rest = omit.filter((other) => other !== copy)
  return omitted ? [...rest, copy].sort((a, b) => a - b) : rest
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
  if (after !== undefined && findStep(part, after)?.piece.id === pieceId)
    return withSiblings(part, after, (steps, index) => steps.toSpliced(index + 1, 0, step))
  return withStepLists(part, (steps, piece) => (piece.id === pieceId ? [...steps, step] : steps))
}

/** What a bundle holds, for itself: what was put together to be cut away cuts by itself. */
function dissolved({ effect, steps = [] }: Step): readonly Step[] {
  return effect === 'add' ? steps : steps.map((step) => (step.effect === 'add' ? { ...step, effect } : step))
}

/** Where the steps do not stand next to one another in one list, nothing is done: their order would change. */
function withBundle(part: Part, ids: readonly string[], bundle: Step): Part {
  const wanted = new Set(ids)
  const first = ids.map((id) => findStep(part, id)).reduce((a, b) => (a && b && a.index < b.index ? a : b), undefined)
  if (!first) return part
  const content = first.siblings.slice(first.index, first.index + wanted.size)
  if (!content.every((step) => wanted.has(step.id))) return part
  // What is cut away together is first put together.
  const cutting = content.every((step) => step.effect === 'cut')
  const steps = cutting ? content.map((step) => ({ ...step, effect: 'add' as const })) : content
  const whole: Step = { ...bundle, shape: bundleKind, effect: cutting ? 'cut' : bundle.effect, steps }
  return withSiblings(part, first.step.id, (siblings, index) => siblings.toSpliced(index, content.length, whole))
}

function withPlacesHeld(part: Part, held: HeldPlaces): Part {
  return Object.entries(held).reduce((out, [id, kept]) => {
    if ('taken' in kept)
      return withList(
        out,
        'outlines',
        changed(out.outlines, id, (own) => withTakenHeld(own, kept.taken)),
      )
    return withStep(out, id, (step) => ({ ...step, place: kept.place, fields: kept.fields ?? step.fields }))
  }, part)
}

/** As it is where a size could not be kept; `inUnitOf` tells which. */
function withUnit(part: Part, unit: PartUnit, kindOf: FieldKindOf): Part {
  const { part: changed, faults } = inUnitOf(part, unit, kindOf)
  return faults.length > 0 ? part : changed
}

function withMeasureRenamed(part: Part, id: string, name: string, kindOf: FieldKindOf): Part {
  const measure = part.measures.find((other) => other.id === id)
  if (!measure || measure.name === name) return part
  const clash = part.measures.some((other) => other.name === name && other.id !== id)
  // Only a name that is in force is followed: renaming the second of two equal names must not take the first one's uses.
  const inForce = part.measures.find((other) => other.name === measure.name)?.id === id
  const followed = inForce && !clash ? withNameFollowed(part, measure.name, name, kindOf) : part
  return { ...followed, measures: changed(followed.measures, id, (other) => ({ ...other, name })) }
}

function withReadoutRenamed(part: Part, id: string, name: string, kindOf: FieldKindOf): Part {
  const readout = part.readouts.find((other) => other.id === id)
  if (!readout || readout.name === name) return part
  const taken = [...part.measures, ...part.readouts].some((other) => other.name === name)
  // Where a measure has its name, that is what is read.
  const inForce =
    !part.measures.some((measure) => measure.name === readout.name) &&
    part.readouts.find((other) => other.name === readout.name)?.id === id
  const followed = inForce && !taken ? withNameFollowed(part, readout.name, name, kindOf) : part
  return { ...followed, readouts: changed(followed.readouts, id, (other) => ({ ...other, name })) }
}

/** Every use of a name under its new name. A word of a choice that is called the same is no use of it. */
function withNameFollowed(part: Part, from: string, to: string, kindOf: FieldKindOf): Part {
  if (from === '' || to === '') return part
  const words = new Set(part.measures.flatMap(({ name, kind }) => (kind === 'choice' || kind === 'text' ? [name] : [])))
  return mapExpressions(part, kindOf, (text, kind) =>
    kind === 'switch'
      ? mapCondition(text, (value, other) =>
          other !== undefined && words.has(other) && !words.has(from) ? value : withRenamed(value, from, to),
        )
      : withRenamed(text, from, to),
  )
}
