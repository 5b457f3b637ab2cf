export { clipOf, pasteEdits } from './clip.ts'
export { colourHex, pieceTints } from './colours.ts'
export { applyEdit, copiedStep, type Edit, type HeldPlaces, type HeldStep } from './edits.ts'
export { measuresInForce, usersOf, usesOfNames } from './expressions.ts'
export { checkedPart, readPartFile, writePartFile } from './file.ts'
export { migrations } from './migrations.ts'
export { newPart, newPiece, onBed, restFor } from './new.ts'
export { outlinesOf, regionsChosen, takenFrom } from './outlines.ts'
export { documentLimits, partSchema } from './schema.ts'
export {
  allSteps,
  type FoundStep,
  findStep,
  flattened,
  mapReferences,
  placedBy,
  referencesOf,
  withContents,
} from './tree.ts'
export * from './types.ts'
export { inUnitOf, type UnitFault } from './unit.ts'
