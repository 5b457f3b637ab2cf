import {
  adds,
  type BodyStep,
  type BundleStep,
  cuts,
  type FieldKindOf,
  type FieldTexts,
  type Joint,
  type Offset,
  type Part,
  type Piece,
  type Place,
  type Repeat,
  type Step,
} from '../format.ts'
import { withoutSteps } from '../references.ts'
import { findStep, hasBody, isBundle, pieceOfBody, withSiblings, withStepLists } from '../tree.ts'
import { type HeldPlaces, withPlacesHeld } from './held.ts'
import { withItemAdded, withItemChanged, withItemRemoved, withPlaced, withStep } from './lists.ts'

interface Id {
  readonly id: string
}
interface StepChange {
  readonly name?: string
  readonly operation?: string
  readonly ghost?: boolean
  readonly mute?: boolean
  readonly when?: string
}

/** Pieces, their steps, and the joints between them. */
export const stepEdits = {
  'add-piece': (part: Part, { piece }: { readonly piece: Piece }): Part => withItemAdded(part, 'pieces', piece),
  'set-piece': (part: Part, { id, change }: Id & { readonly change: Partial<Omit<Piece, 'id' | 'steps'>> }): Part =>
    withItemChanged(part, 'pieces', id, (piece) => ({ ...piece, ...change })),
  'remove-piece': (part: Part, { id, held }: Id & { readonly held: HeldPlaces }): Part =>
    part.pieces.length === 1
      ? part
      : withPlacesHeld(
          withPosesLeft({
            ...withItemRemoved(part, 'pieces', id),
            joints: part.joints.filter((joint) => !joint.pieces.includes(id)),
          }),
          held,
        ),

  'add-step': (
    part: Part,
    { piece, step, after }: { readonly piece: string; readonly step: Step; readonly after?: string | undefined },
  ): Part => withStepAdded(part, piece, step, after),
  'set-step': (part: Part, { id, change }: Id & { readonly change: StepChange }): Part =>
    withStep(part, id, (step) => ({ ...step, ...change })),
  /** Another shape in its place, with fields of its own; what refers to faces that this has not is left without them. */
  'set-shape': (
    part: Part,
    { id, shape, fields }: Id & { readonly shape: string; readonly fields: FieldTexts },
  ): Part =>
    withStep(part, id, (step) => {
      if (step.kind !== 'shape') return step
      const { version: _, ...rest } = step
      return { ...rest, shape, fields }
    }),
  /** `to` is the place in its own list that the step has afterwards, from 0 */
  'move-step': (part: Part, { id, to }: Id & { readonly to: number }): Part =>
    withSiblings(part, id, (steps, index) =>
      to === index || to < 0 || to >= steps.length ? steps : steps.toSpliced(index, 1).toSpliced(to, 0, steps[index]!),
    ),
  'remove-steps': (
    part: Part,
    { ids, held }: { readonly ids: readonly string[]; readonly held: HeldPlaces },
    kindOf: FieldKindOf,
  ): Part => withPlacesHeld(withoutSteps(part, new Set(ids), kindOf), held),
  /** Steps that stand next to one another become what `bundle` holds, in its place. */
  'bundle-steps': (
    part: Part,
    { ids, bundle }: { readonly ids: readonly string[]; readonly bundle: BundleStep },
  ): Part => withBundle(part, ids, bundle),
  'dissolve-bundle': (part: Part, { id, held }: Id & { readonly held: HeldPlaces }): Part =>
    withPlacesHeld(
      withSiblings(part, id, (steps, index) => steps.toSpliced(index, 1, ...dissolved(steps[index]!))),
      held,
    ),

  /** Steps that their pieces hold themselves become the last ones of another piece, where they stand. */
  'move-to-piece': (part: Part, { ids, piece }: { readonly ids: readonly string[]; readonly piece: string }): Part =>
    withMoved(part, new Set(ids), piece),

  /** of a step or a joint */
  'set-field': (part: Part, { id, field, text }: Id & { readonly field: string; readonly text: string }): Part => {
    const change = <T extends Pick<Step, 'fields'>>(owner: T): T => ({
      ...owner,
      fields: { ...owner.fields, [field]: text },
    })
    return part.joints.some((joint) => joint.id === id)
      ? withItemChanged(part, 'joints', id, change)
      : withStep(part, id, change)
  },
  /** The step whose shape a step has. */
  'set-same': (part: Part, { id, of }: Id & { readonly of: string }): Part =>
    withStep(part, id, (step) => (step.kind === 'same' ? { ...step, of } : step)),
  'set-offset': (
    part: Part,
    { id, axis, change }: Id & { readonly axis: 'across' | 'along'; readonly change: Partial<Offset> },
  ): Part =>
    withPlaced(part, id, (owner) => ({
      ...owner,
      place: { ...owner.place, [axis]: { ...owner.place[axis], ...change } },
    })),
  'set-place': (part: Part, { id, change }: Id & { readonly change: Partial<Place> }): Part =>
    withPlaced(part, id, (owner) => ({ ...owner, place: { ...owner.place, ...change } })),
  'set-repeat': (
    part: Part,
    { id, index, repeat }: Id & { readonly index: number; readonly repeat: Repeat | undefined },
  ): Part => withBody(part, id, (step) => ({ ...step, repeats: withItem(step.repeats, index, repeat) })),
  'omit-copy': (part: Part, { id, copy, omitted }: Id & { readonly copy: number; readonly omitted: boolean }): Part =>
    withBody(part, id, (step) => ({ ...step, omit: withOmitted(step.omit, copy, omitted) })),

  'add-joint': (part: Part, { joint }: { readonly joint: Joint }): Part => withItemAdded(part, 'joints', joint),
  'set-joint': (
    part: Part,
    { id, change }: Id & { readonly change: Partial<Omit<Joint, 'id' | 'fields' | 'place'>> },
  ): Part => withItemChanged(part, 'joints', id, (joint) => ({ ...joint, ...change })),
  'remove-joint': (part: Part, { id }: Id): Part => withPosesLeft(withItemRemoved(part, 'joints', id)),
}

function withMoved(part: Part, ids: ReadonlySet<string>, to: string): Part {
  const moved = part.pieces.flatMap(({ id, steps }) => (id === to ? [] : steps.filter((step) => ids.has(step.id))))
  if (moved.length === 0 || !part.pieces.some(({ id }) => id === to)) return part
  const goes = new Set(moved.map(({ id }) => id))
  return withStepLists(part, (steps, { id }) =>
    id === to
      ? [...steps, ...moved]
      : steps.some((step) => goes.has(step.id))
        ? steps.filter((step) => !goes.has(step.id))
        : steps,
  )
}

/** The part with poses that tell nothing of joints and pieces that are gone. */
function withPosesLeft(part: Part): Part {
  return part.poses.reduce((left, { id }) => {
    return withItemChanged(left, 'poses', id, (pose) => ({
      ...pose,
      set: pose.set.filter(({ joint }) => part.joints.some((each) => each.id === joint)),
      laid: pose.laid.filter(({ piece }) => pieceOfBody(part, piece) !== undefined),
    }))
  }, part)
}

function withBody(part: Part, id: string, change: <S extends BodyStep>(step: S) => S): Part {
  return withStep(part, id, (step) => (hasBody(step) ? change(step) : step))
}

function withItem<T>(items: readonly T[], index: number, item: T | undefined): readonly T[] {
  if (item === undefined) return items.filter((_, i) => i !== index)
  return index >= items.length ? [...items, item] : items.map((old, i) => (i === index ? item : old))
}

function withOmitted(omit: readonly number[], copy: number, omitted: boolean): readonly number[] {
  const rest = omit.filter((other) => other !== copy)
  return omitted ? [...rest, copy].sort((a, b) => a - b) : rest
}

function withStepAdded(part: Part, pieceId: string, step: Step, after: string | undefined): Part {
  if (after !== undefined && findStep(part, after)?.piece.id === pieceId)
    return withSiblings(part, after, (steps, index) => steps.toSpliced(index + 1, 0, step))
  return withStepLists(part, (steps, piece) => (piece.id === pieceId ? [...steps, step] : steps))
}

/** What a bundle holds, for itself: what was put together to be cut away cuts by itself. */
function dissolved(bundle: Step): readonly Step[] {
  if (!isBundle(bundle)) return [bundle]
  const { operation, steps } = bundle
  return operation === adds ? steps : steps.map((step) => (step.operation === adds ? { ...step, operation } : step))
}

/** Where the steps do not stand next to one another in one list, nothing is done: their order would change. */
function withBundle(part: Part, ids: readonly string[], bundle: BundleStep): Part {
  const wanted = new Set(ids)
  const first = ids.map((id) => findStep(part, id)).reduce((a, b) => (a && b && a.index < b.index ? a : b), undefined)
  if (!first) return part
  const content = first.siblings.slice(first.index, first.index + wanted.size)
  if (!content.every((step) => wanted.has(step.id))) return part
  // What is cut away together is first put together.
  const cutting = content.every((step) => step.operation === cuts)
  const steps = cutting ? content.map((step) => ({ ...step, operation: adds })) : content
  const whole: BundleStep = { ...bundle, operation: cutting ? cuts : bundle.operation, steps }
  return withSiblings(part, first.step.id, (siblings, index) => siblings.toSpliced(index, content.length, whole))
}
