export {
  applyEdit,
  copiedStep,
  type Edit,
  type FieldKindOf,
  findStep,
  type HeldSeats,
  standingOn,
  usesOfNames,
} from './edits.ts'
export { checkedPart, readPartFile, writePartFile } from './file.ts'
export { migrations } from './migrations.ts'
export { newPart, newPiece, onBed, restFor } from './new.ts'
export { documentLimits, partSchema } from './schema.ts'
export * from './types.ts'
