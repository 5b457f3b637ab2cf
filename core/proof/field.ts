import type { SurfaceValues } from '../mesh/index.ts'
import type { ProofContext, ProofPiece } from './define.ts'

/** A value all over the surfaces of pieces, to be looked at on the drawing. */
export interface SurfaceField {
  /** what the value is, as a scale is headed */
  readonly label: string
  readonly unit: 'mm' | 'degrees'
  /** the ends of its scale */
  readonly from: number
  readonly to: number
  /** what the value should keep to, and on which side of it that is broken */
  readonly limit: number
  readonly broken: 'below' | 'above'
  /** `limits`: what it should keep to at each corner, where that is not the same everywhere */
  readonly surfaces: readonly (SurfaceValues & { readonly piece: string; readonly limits?: Float32Array })[]
}

/** A kind of field: worked out when a finding that has it is looked at, not in each proof. */
export interface FieldKind {
  readonly id: string
  of(context: ProofContext, pieces: readonly ProofPiece[]): Promise<SurfaceField>
}
