export { assetData, assetOf, assetsUsed, hashOfAsset } from './assets.ts'
export { clipOf, pasteEdits } from './clip.ts'
export { colourHex, pieceTints } from './colours.ts'
export { bodiesOf } from './comesTo.ts'
export { applyEdit, copiedStep, type Edit, type HeldPlaces, type HeldStep } from './edits/index.ts'
export { measuresInForce, usersOf, usesOfNames } from './expressions.ts'
export { checkedPart, keptText, readPartFile, SoundThings } from './file.ts'
export * from './format.ts'
export { checkKeepable, takeForKeepable } from './keepable.ts'
export { type RevisionEntry, type ShelfEntry, type ShelfOrder, type ShelfPage, shelfOrders } from './kept.ts'
export { bytesOf, checkLimits, documentLimits } from './limits.ts'
export { migrations } from './migrations.ts'
export { newPart, newPiece, onBed } from './new.ts'
export { outlinesOf, regionsChosen } from './outlines.ts'
export { type Patch, patchBetween, patched } from './patch.ts'
export { mapFields, mapReferences, ownerOf, placedBy, placeReferences, referencesOf, takenFrom } from './references.ts'
export { itemSchema } from './schemas.ts'
export {
  allSteps,
  contentOf,
  type FoundStep,
  findBody,
  findStep,
  flattened,
  furtherBody,
  hasBody,
  isBundle,
  kindWord,
  listed,
  mapSteps,
  partedFrom,
  pieceOfBody,
  withContents,
  withSiblings,
} from './tree.ts'
export { inUnitOf, type UnitFault } from './unit.ts'
export { type ReadThing, readThingFile, type ThingFault, thingFaults, writeThingFile } from './workshopFile.ts'
export { writePartFile } from './written.ts'
