/** How flat springs bend in their plane. */
export { type Bent, bendingTouching, bent, type Load, type Stuff } from './bending.ts'
export { crosses } from './contact.ts'
export { sheetOfSolid } from './piece.ts'
export { type FlexMesh, meshOf, type Rim } from './region.ts'
export {
  type EdgeStretch,
  edgesOf,
  type FlexFound,
  type FlexResult,
  flexTesting,
  isOfPiece,
  type PieceSheet,
  sheetOf,
} from './tested.ts'
