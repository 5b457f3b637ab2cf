/** Why a wall stays as it is drawn. */
export type Kept =
  /** its gap was asked for: it is of a joint, a gear or a thread, or faces another body */
  | 'gap'
  /** it would be thinner than its lines */
  | 'thin'
  /** moving it folds something up */
  | 'folds'

/** A stretch of a surface that is smooth in itself and not level. */
export interface Wall {
  readonly triangles: readonly number[]
  /** how far it is to move into its material, sideways, mm */
  readonly by: number
  readonly kept?: Kept
}

export interface Walls {
  readonly walls: readonly Wall[]
  /** the wall that each triangle is of; −1 where it is level */
  readonly of: Int32Array
}
