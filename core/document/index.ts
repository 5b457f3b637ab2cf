export { clipOf, pasteEdits } from './clip.ts'
export { colourHex, pieceTints } from './colours.ts'
export { applyEdit, copiedStep, type Edit, type HeldPlaces, type HeldStep } from './edits.ts'
export { measuresInForce, usersOf, usesOfNames } from './expressions.ts'
export { checkedPart, keptText, readPartFile, SoundThings, writePartFile } from './file.ts'
export { checkKeepable } from './keepable.ts'
export { bytesOf, checkLimits, documentLimits } from './limits.ts'
export { migrations } from './migrations.ts'
export { newPart, newPiece, onBed, restFor } from './new.ts'
export { outlinesOf, regionsChosen, takenFrom } from './outlines.ts'
export { partSchema } from './schema.ts'
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
