import type { Built, BuiltPiece, ResolvedPart, TwiceBuilt } from '../build/index.ts'
import { findStep } from '../document/index.ts'
import type { MeshFigures } from '../mesh/index.ts'

/** What a finding says about the part. A fault must be mended before printing; a pass says what was found sound. */
export type FindingRank = 'pass' | 'advice' | 'warning' | 'fault'

export interface Finding {
  readonly check: string
  readonly rank: FindingRank
  readonly text: string
  /** what it is about, to be selected: pieces, steps, joints or measures by id */
  readonly about: readonly { readonly kind: 'piece' | 'step' | 'joint' | 'measure'; readonly id: string }[]
  /** it is about the chosen printer alone: the solid is sound, and another printer may take it */
  readonly ofPrinter?: true
}

export interface ProofPiece {
  readonly built: BuiltPiece
  /** undefined where the piece has no material */
  readonly figures: MeshFigures | undefined
}

export interface ProofContext {
  readonly built: Built
  readonly pieces: readonly ProofPiece[]
  /** the part at two finenesses, for what is measured as it is meant; without it, figures are those of the flats */
  readonly twice?: TwiceBuilt | undefined
}

export interface Check {
  readonly id: string
  readonly label: string
  /** what it looks at, in a sentence */
  readonly meaning: string
  run(context: ProofContext): readonly Finding[]
}

/** "Step 3 of Piece 1 (plate)"; what it is called where it has a name. */
export function stepName(resolved: ResolvedPart, id: string): string {
  const found = findStep(resolved.part, id)
  if (!found) return 'A step'
  const { piece, step, index, bundles } = found
  const place = bundles.length > 0 ? `${bundles.at(-1)!.name || 'a bundle'} in ${piece.name}` : piece.name
  return `Step ${index + 1} of ${place} (${step.name || (resolved.steps.get(id)?.shape?.label ?? step.shape)})`
}

/** "A", "A and B", "A, B and C" */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
}

export function millimetres(value: number): string {
  return `${Math.round(value * 1000) / 1000} mm`
}

export function cubicMillimetres(value: number): string {
  return `${Number(value.toPrecision(4)).toLocaleString('en', { maximumFractionDigits: 3 })} mm³`
}
