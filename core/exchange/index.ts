export { type BroughtIn, bringIn, type OpenedMesh, openMesh } from './bringIn.ts'
export { type MeshFormat, mostMeshBytes, type ReadPiece, type WrittenPiece } from './define.ts'
export * from './drawings/index.ts'
export { type FileUnit, type FileUnitTried, fileUnits, inEachUnit } from './fileUnits.ts'
export {
  differs,
  fileName,
  type HandOff,
  type HandOffOptions,
  handOff,
  handOffTolerance,
  type Leaving,
  type MadeUp,
  madeUp,
  type Receipt,
  type StayedIn,
} from './handOff.ts'
export { formatOf, formats } from './registry.ts'
export { archiveOf, handOffVariants, inVariant, type Standing, type StandingPart } from './variants.ts'
