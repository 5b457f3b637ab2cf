import {
  applyEdit,
  type BundleStep,
  copiedStep,
  type Edit,
  findBody,
  findStep,
  flattened,
  hasBody,
  isBundle,
  mapFields,
  newPiece,
  type Offset,
  onBed,
  ownerOf,
  type Part,
  type Place,
  pieceColours,
  type Repeat,
  type Step,
} from '@makrel/core/document'
import { adds, dissolvedPlaces, fieldKindOf, heldPlaces, movedBetween, type Plan, workOut } from '@makrel/core/planning'
import { newId } from '../ids.ts'
import { useBuild } from '../state/build.ts'
import { sayDone } from '../state/done.ts'
import { selectedSteps, usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { movedOffset } from '../viewport/dragMath.ts'
import { addsMaterial, takesAway } from './operations.ts'
import { relationOf, relationText, stepNumber, stepTitle } from './words.ts'

/** What can be done to the selected steps, one or several at once, each as one edit. */

/** What was last read off the solids. */
const readings = () => useBuild.getState().readings

function chosen(): { readonly steps: readonly Step[]; readonly ids: readonly string[] } {
  const state = usePart.getState()
  const ids = selectedSteps(state)
  // What lies in a selected bundle goes with it.
  const tops = ids.filter((id) => !findStep(state.part!, id)!.bundles.some((bundle) => ids.includes(bundle.id)))
  return { ids: tops, steps: tops.map((id) => findStep(state.part!, id)!.step) }
}

/** Removes the selected steps; what stood on them keeps its place, and the next step is selected. */
export function removeSteps(): void {
  const { part, select } = usePart.getState()
  const { ids, steps } = chosen()
  if (!part || ids.length === 0) return
  const { siblings, index } = findStep(part, ids.at(-1)!)!
  const number = stepNumber(part, ids[0]!)
  const first = findStep(part, ids[0]!)!
  remove({ type: 'remove-steps', ids, held: heldPlaces(part, new Set(ids), readings()) }, () => {
    const next = siblings[index + 1] ?? first.siblings[first.index - 1]
    select(next && { kind: 'step', id: next.id })
    sayDone(ids.length === 1 ? `Step ${number}, ${stepTitle(steps[0]!)}, removed.` : `${ids.length} steps removed.`)
  })
}

export function removePiece(id: string): void {
  const { part } = usePart.getState()
  const piece = part?.pieces.find((candidate) => candidate.id === id)
  if (!part || !piece) return
  const ids = new Set(flattened(piece.steps).map((step) => step.id))
  remove({ type: 'remove-piece', id, held: heldPlaces(part, ids, readings()) }, () =>
    sayDone(`${piece.name} was removed.`),
  )
}

/** Removes what nothing else would be moved by; where something would, that is said first. */
function remove(edit: Edit, done: () => void): void {
  unlessMoved(edit, { refused: 'Nothing was removed', anyway: 'Remove all the same' }, done)
}

/** Makes an edit that is to leave all else where it is; where it cannot, that is said first. */
function unlessMoved(edit: Edit, { refused, anyway }: { refused: string; anyway: string }, done: () => void): void {
  const { part, edit: make } = usePart.getState()
  const moved = movedBetween(part!, applyEdit(part!, edit, fieldKindOf), readings())
  const made = () => {
    if (make(edit)) done()
  }
  if (moved.length === 0) {
    made()
    return
  }
  const [first, ...more] = moved.map((id) => stepNumber(part!, id))
  const steps = more.length > 0 ? `steps ${[first, ...more].join(', ')} are placed` : `step ${first} is placed`
  say({
    text: `${refused}: ${steps} by it, each copy in a place of its own that no number could keep.`,
    action: { label: anyway, run: made },
    fault: true,
  })
}

/** Copies the selected steps, each behind its original's group; the copies are selected. */
export function copySteps(): void {
  const { part, editAll, select, alsoSelect } = usePart.getState()
  const { steps, ids } = chosen()
  if (!part || steps.length === 0) return
  const { piece } = findStep(part, ids.at(-1)!)!
  let after = ids.at(-1)!
  // Copies stand on copies, where what they stand on is copied too.
  const names = new Map(ids.map((id) => [id, newId()]))
  const copied = (id: string) => names.get(id) ?? id
  const copies = steps.map((step) => {
    const copy = copiedStep(step, names.get(step.id)!, fieldKindOf)
    if (!hasBody(copy)) return { ...copy, fields: mapFields(ownerOf(copy), copy.fields, { step: copied }, fieldKindOf) }
    const { on } = copy.place
    const carried = on.kind === 'face' && names.has(on.step)
    const seat = carried ? { ...on, step: names.get(on.step)! } : on
    const place = { ...copy.place, on: seat }
    return { ...copy, place: carried ? place : besides(part, step.id, place) }
  })
  const done = editAll(
    copies.map((step): Edit => {
      const edit: Edit = { type: 'add-step', piece: piece.id, step, after }
      after = step.id
      return edit
    }),
  )
  if (!done) return
  select({ kind: 'step', id: copies[0]!.id }, copies.length === 1 ? 'across' : undefined)
  for (const copy of copies.slice(1)) alsoSelect(copy.id)
}

/** Between a copy and its original, mm. */
const copyGap = 2

/** The place beside a step, to the right on its seat, as far as it is wide: a copy is seen where it is made. */
export function besides(part: Part, id: string, place: Place): Place {
  const known = workOut(part, readings()).plan.geometry.get(id)
  if (!known) return place
  const [low, high] = known.extent[0]
  const mm = high - low + copyGap
  return { ...place, across: { ...place.across, by: movedOffset(place.across, known.place.across.by, mm, part.unit) } }
}

/** A further piece, empty and selected, in a colour of its own; its id. */
export function addPiece(): string | undefined {
  const { part, edit, select } = usePart.getState()
  if (!part) return undefined
  const colour = pieceColours[part.pieces.length % pieceColours.length]!
  const piece = newPiece(newId(), `Piece ${part.pieces.length + 1}`, colour)
  edit({ type: 'add-piece', piece })
  select({ kind: 'piece', id: piece.id })
  return piece.id
}

/** Room between pieces that stand on the bed side by side, as it is typed. */
const pieceGap = { mm: '10', in: '1/2' } as const

/** Where the first step of a further piece is measured from, so that it stands clear of the others: what reaches farthest right. */
export function besidePieces({ operands }: Plan, { pieces, unit }: Part, pieceId: string): Offset | undefined {
  const others = pieces.filter(({ id, steps }) => id !== pieceId && steps.length > 0)
  return besideSteps(
    { operands },
    others.flatMap(({ steps }) => steps),
    pieceGap[unit],
  )
}

/** So far beside the one of these steps that adds material farthest to the right; undefined where none does. */
export function besideSteps(
  { operands }: Pick<Plan, 'operands'>,
  steps: readonly Step[],
  gap: string,
): Offset | undefined {
  const solids = steps.flatMap(({ id }) => {
    const operand = operands.get(id)
    return operand && adds(operand) ? [operand] : []
  })
  if (solids.length === 0) return undefined
  const { step } = solids.reduce((a, b) => (b.box.max[0] > a.box.max[0] ? b : a))
  return { of: step.id, ...relationOf('beside-high', relationText('beside-high', gap)) }
}

/** All steps of the part, and not the text of the page. */
export function selectAllSteps(): void {
  const { part, select, alsoSelect } = usePart.getState()
  const [first, ...rest] = part ? part.pieces.flatMap(({ steps }) => steps) : []
  if (!first) return
  select({ kind: 'step', id: first.id })
  for (const { id } of rest) alsoSelect(id)
}

/** A new step with the shape of the selected one, wherever it is moved to. */
export function sameAgain(original: string): void {
  const { part, edit, select } = usePart.getState()
  const step = part && findBody(part, original)
  if (!step) return
  const id = newId()
  const { mute, when, operation, place, ghost } = step
  edit({
    type: 'add-step',
    piece: findStep(part!, step.id)!.piece.id,
    after: step.id,
    step: {
      kind: 'same',
      ...{ id, name: '', mute, when, operation, fields: {} },
      ...{ place, repeats: [], omit: [], ghost, of: step.id },
    },
  })
  select({ kind: 'step', id }, 'across')
}

/** The selected steps become a piece of their own, where they stand. */
export function toOwnPiece(): void {
  const { part, editAll } = usePart.getState()
  const { ids } = chosen()
  const own = ids.filter((id) => findStep(part!, id)?.bundles.length === 0)
  const from = own[0] && findStep(part!, own[0])?.piece
  if (!part || !from) return
  if (from.steps.every(({ id }) => own.includes(id))) {
    say({ text: `These steps are all of ${from.name}: it is a piece of its own already.` })
    return
  }
  const [first] = own.map((id) => findStep(part, id)!.step)
  const name = first!.name || freePieceName(part)
  const piece = newPiece(newId(), name, pieceColours[part.pieces.length % pieceColours.length]!)
  editAll([
    { type: 'add-piece', piece },
    { type: 'move-to-piece', ids: own, piece: piece.id },
  ])
  sayDone(`${name} is a piece of its own.`)
}

function freePieceName({ pieces }: Part): string {
  for (let number = pieces.length + 1; ; number++) {
    const name = `Piece ${number}`
    if (!pieces.some((piece) => piece.name === name)) return name
  }
}

export function setOfAll(change: { readonly mute?: boolean; readonly ghost?: boolean }): void {
  usePart.getState().editAll(chosen().ids.map((id): Edit => ({ type: 'set-step', id, change })))
}

export function repeatAll(repeat: Repeat, first: string): void {
  const { editAll, select } = usePart.getState()
  const steps = chosen().steps.filter(hasBody)
  const [step] = steps
  if (!step) return
  editAll(steps.map(({ id, repeats }): Edit => ({ type: 'set-repeat', id, index: repeats.length, repeat })))
  // After the menu has given the keyboard back.
  if (steps.length === 1)
    setTimeout(() => select({ kind: 'step', id: step.id }, `repeat${step.repeats.length}.${first}`), 60)
}

/** A bundle of these steps, which adds what they are together. */
export function newBundle(id: string, place: Place, steps: readonly Step[] = []): BundleStep {
  return {
    ...{ kind: 'bundle', id, name: '', mute: false, when: '', operation: 'add', fields: {} },
    ...{ place, repeats: [], omit: [], ghost: false, steps },
  }
}

/** The selected steps become one operand. */
export function bundleSteps(): void {
  const { part, edit, select } = usePart.getState()
  const { ids, steps } = chosen()
  const [first] = steps
  if (!part || !first) return
  if (!hasBody(first) || (!addsMaterial(first) && !steps.every((step) => takesAway(step.operation)))) {
    say({ text: 'A bundle begins with what it adds, or holds only cuts: select other steps, or move them first.' })
    return
  }
  const id = newId()
  const made = { from: 'centre', to: 'own', by: '0' } as const
  const place = { ...onBed, on: first.place.on, across: made, along: made }
  const bundle = newBundle(id, place)
  edit({ type: 'bundle-steps', ids, bundle })
  if (usePart.getState().part === part)
    say({ text: 'Only steps that stand next to one another in the sheet can be bundled: move them together first.' })
  else select({ kind: 'step', id })
}

/** Gives the selected steps a size: they become a bundle, which is scaled, unless they are one already. */
export function scaleSteps(): void {
  const before = chosen()
  const [only, ...more] = before.steps
  const scales = only && more.length === 0 && (only.kind === 'bundle' || only.kind === 'same')
  if (!scales) bundleSteps()
  const [step] = chosen().steps
  if (!step || (!scales && !isBundle(step))) return
  const { edit, select } = usePart.getState()
  edit({ type: 'set-field', id: step.id, field: 'scale', text: 'even' })
  // After the press has given the keyboard back.
  setTimeout(() => select({ kind: 'step', id: step.id }, 'factor'), 60)
}

/** What a bundle holds stands for itself again, where it stood. */
export function dissolveBundle(id: string): void {
  const { part, select } = usePart.getState()
  const bundle = part && findStep(part, id)?.step
  if (!bundle || !isBundle(bundle)) return
  if (!addsMaterial(bundle) && !bundle.steps.every(addsMaterial)) {
    say({
      text: 'Outside the bundle its steps would do something else: it cuts within a cut. Change what they do first.',
    })
    return
  }
  const held = dissolvedPlaces(part, bundle, readings())
  const edit: Edit = { type: 'dissolve-bundle', id: bundle.id, held }
  unlessMoved(edit, { refused: 'The bundle was left as it is', anyway: 'Dissolve all the same' }, () => {
    const [first] = bundle.steps
    select(first && { kind: 'step', id: first.id })
    sayDone(`The bundle was dissolved into ${bundle.steps.length} steps.`)
  })
}
