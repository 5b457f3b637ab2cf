export { type BroughtIn, bringIn, type OpenedMesh, openMesh } from './bringIn.ts'
export { type MeshFormat, mostMeshBytes, type ReadPiece, unitText, type WrittenPiece } from './define.ts'
export * from './drawings/index.ts'
export { drawnFineness, type FileSize, sizedWays } from './fileSize.ts'
export { type FileUnit, type FileUnitTried, fileUnits, inEachUnit, unitNamed } from './fileUnits.ts'
export { type UsualFineness, usualFineness } from './fineness.ts'
export {
  type CompensatedPart,
  differs,
  fileName,
  type HandOff,
  type HandOffOptions,
  handOff,
  type Leaving,
  type Receipt,
  type StayedIn,
  volumeTolerance,
  withCompensation,
} from './handOff.ts'
export { type BoughtLine, boughtCsv, boughtLines, type PauseLine } from './hardware.ts'
export { formatOf, formats } from './registry.ts'
export { archiveOf, handOffVariants, inVariant, type StandingPart, type StoodFor } from './variants.ts'
