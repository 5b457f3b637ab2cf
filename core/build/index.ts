export {
  BuildAborted,
  Builder,
  type BuildOptions,
  type Built,
  type BuiltJoint,
  type BuiltPiece,
  jointMotion,
  type Owner,
} from './builder.ts'
export { SolidCache } from './cache.ts'
export { sinkOntoRound } from './contact.ts'
export { type CutPlane, cutawayOf } from './cutaway.ts'
export { type Drawing, drawingOf, type FaceRef, namedEdges } from './drawing.ts'
export { dissolvedPlaces, heldPlaces, movedBetween, withAdded } from './held.ts'
export { figuresOf, Measurer, measuringFineness, type PieceFigures, type TwiceBuilt } from './measurer.ts'
export { drawnEdges, type TakenOffer, takenOffers } from './offers.ts'
export type { ResolvedOutline } from './outlines.ts'
export { type Body, bedSeating, heldFrameOf, type Operand, type Plan, planPart, type StepGeometry } from './plan.ts'
export { type ReadRow, readRow, readSolids, type SolidReadings, type WorkedPart, workOut } from './readings.ts'
export { solidsToRead } from './readSolid.ts'
export {
  fieldKindOf,
  type ResolvedJoint,
  type ResolvedPart,
  type ResolvedStep,
  resolvePart,
} from './resolve.ts'
export { scaleFields, scaleSentence } from './scaling.ts'
export { type BrokenMeasures, brokenMeasures, rootProblems, withStandIns } from './standIn.ts'
export { planeOf } from './taken.ts'
