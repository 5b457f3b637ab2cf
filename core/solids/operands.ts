import { compose, type Frame } from '../place/index.ts'
import { adds, type Operand } from '../planning/index.ts'

/** What a bundle holds; nothing for any other operand. */
export function heldBy(operand: Operand): readonly Operand[] {
  return operand.kind === 'body' && operand.body.kind === 'bundle' ? operand.body.operands : []
}

/** These and all that their bundles hold. */
export function withHeld(operands: readonly Operand[]): Operand[] {
  return operands.flatMap((operand) => [operand, ...withHeld(heldBy(operand))])
}

/** The frame of an operand's first copy; of a bundle that of what comes first in it. */
export function standingOf(operand: Operand | undefined): Frame | undefined {
  if (operand?.kind !== 'body') return undefined
  const frame = operand.copies[0]?.frame
  if (!frame || operand.body.kind === 'shape') return frame
  const inner = standingOf(operand.body.operands[0])
  return inner && compose(frame, inner)
}

export function holdsStep(operands: readonly Operand[], id: string): boolean {
  return operands.some((operand) => operand.step.id === id || holdsStep(heldBy(operand), id))
}

/** A list that would begin with a cut begins with its first add. */
export function withoutStep(operands: readonly Operand[], id: string): readonly Operand[] {
  const rest = operands.flatMap((operand): readonly Operand[] => {
    if (operand.step.id === id) return []
    if (operand.kind !== 'body') return [operand]
    const { body } = operand
    if (body.kind !== 'bundle' || !holdsStep(body.operands, id)) return [operand]
    const inner = withoutStep(body.operands, id)
    return inner.length > 0 ? [{ ...operand, body: { ...body, operands: inner } }] : []
  })
  const first = rest.findIndex(adds)
  return first < 0 ? [] : rest.slice(first)
}

/** All that a step's solid depends on, as text. */
export function contentOf(operand: Operand, fineness: number): string {
  if (operand.kind === 'treatment')
    return JSON.stringify([operand.operation.kind, fineness, operand.values, operand.planes])
  const { body, cuts, through, flush, overlap, exact, mouth, copies } = operand
  if (body.kind === 'bundle') {
    const frames = copies.map(({ frame }) => frame)
    const content = body.operands.map((operand) => [operand.step.operation, contentOf(operand, fineness)])
    return JSON.stringify([frames, body.factors && [body.home, body.factors], content])
  }
  const { shape } = body
  const reaching = shape.seat === 'enters' ? [round(through), round(overlap)] : 0
  const placed = copies.map(({ frame, values, up }) => [frame, values, shape.knowsUp ? up : 0])
  return JSON.stringify([shape.kind, fineness, cuts, flush, reaching, exact ? mouth : 0, placed])
}

/** Depths are rounded up in the key, so that a through hole does not change with the last digit of what it passes. */
function round(mm: number): number {
  return Math.ceil(mm * 1e6) / 1e6
}
