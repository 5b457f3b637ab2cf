import type { BodyStep, BundleStep, Part, Piece, Step } from './format.ts'

/** Finding and changing steps in the tree of pieces and bundles. All functions are pure. */

/** Whether a step acts with a body of its own, which stands somewhere. */
export function hasBody(step: Step): step is BodyStep {
  return step.kind !== 'treatment'
}

export function isBundle(step: Step): step is BundleStep {
  return step.kind === 'bundle'
}

/** What kind of thing a step is, in a word: the kind of its shape or treatment, "bundle", "same shape". */
export function kindWord(step: Step): string {
  if (step.kind === 'shape') return step.shape
  return step.kind === 'treatment' ? step.operation : step.kind === 'same' ? 'same shape' : 'bundle'
}

/** What a bundle holds; nothing for any other step. */
export function contentOf(step: Step): readonly Step[] {
  return isBundle(step) ? step.steps : []
}

/** The step with what it holds put through `change`; the same step where nothing changes. */
export function withContent(step: Step, change: (steps: readonly Step[]) => readonly Step[]): Step {
  if (!isBundle(step)) return step
  const steps = change(step.steps)
  return steps === step.steps ? step : { ...step, steps }
}

/** These steps and what their bundles hold, in the order of the sheet. */
export function flattened(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) => (isBundle(step) ? [step, ...flattened(step.steps)] : [step]))
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
  readonly bundles: readonly BundleStep[]
}

export function findStep(part: Part, id: string): FoundStep | undefined {
  const within = (piece: Piece, siblings: readonly Step[], bundles: readonly BundleStep[]): FoundStep | undefined => {
    for (const [index, step] of siblings.entries()) {
      if (step.id === id) return { piece, step, siblings, index, bundles }
      const inner = isBundle(step) && within(piece, step.steps, [...bundles, step])
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

/**
 * A finished body as a piece: itself, or one of those that a piece was parted into, which are called and named after it:
 * "p1.2", "Lid (2)".
 */
export function pieceOfBody(part: Part, id: string): Piece | undefined {
  for (const piece of part.pieces) {
    if (id === piece.id) return piece
    const number = id.startsWith(`${piece.id}.`) ? Number(id.slice(piece.id.length + 1)) : 0
    if (Number.isInteger(number) && number > 1) return furtherBody(piece, number)
  }
  return undefined
}

/** The piece that a finished body is, or was parted from, by their ids. */
export function partedFrom(body: string): string {
  return body.split('.')[0]!
}

/** A further body that a piece was parted into, from 2. */
export function furtherBody(piece: Piece, number: number): Piece {
  return { ...piece, id: `${piece.id}.${number}`, name: `${piece.name} (${number})` }
}

/** The step with this id, where it acts with a body. */
export function findBody(part: Part, id: string): BodyStep | undefined {
  const step = findStep(part, id)?.step
  return step && hasBody(step) ? step : undefined
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
      const changed = withContent(step, within)
      if (changed !== step) return steps.with(i, changed)
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
  const changed = steps.map((step) => change(withContent(step, (content) => mapSteps(content, change))))
  return changed.every((step, i) => step === steps[i]) ? steps : changed
}

/** "A", "A and B", "A, B and C" */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
}
