import type { Built, BuiltPiece } from '../build/index.ts'
import type { MeshFigures } from '../mesh/index.ts'

/** What a finding says about the part. A fault must be mended before printing; a pass says what was found sound. */
export type FindingRank = 'pass' | 'advice' | 'warning' | 'fault'

export interface Finding {
  readonly check: string
  readonly rank: FindingRank
  readonly text: string
  /** what it is about, to be selected: pieces, steps or joints by id */
  readonly about: readonly { readonly kind: 'piece' | 'step' | 'joint'; readonly id: string }[]
}

export interface ProofPiece {
  readonly built: BuiltPiece
  /** undefined where the piece has no material */
  readonly figures: MeshFigures | undefined
}

export interface ProofContext {
  readonly built: Built
  readonly pieces: readonly ProofPiece[]
}

export interface Check {
  readonly id: string
  readonly label: string
  /** what it looks at, in a sentence */
  readonly meaning: string
  run(context: ProofContext): readonly Finding[]
}

/** "A", "A and B", "A, B and C" */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
}

export function millimetres(value: number): string {
  return `${Math.round(value * 1000) / 1000} mm`
}
