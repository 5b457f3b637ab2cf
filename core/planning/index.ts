export { sinkOntoRound } from './contact.ts'
export { dissolvedPlaces, heldPlaces, movedBetween, withAdded } from './held.ts'
export { drawnEdges, type TakenOffer, takenOffers } from './offers.ts'
export type { ResolvedOutline } from './outlines.ts'
export {
  type Body,
  bedSeating,
  boxOfCopies,
  type Copy,
  cutOverlap,
  heldFrameOf,
  type Operand,
  type Plan,
  planPart,
  type StepGeometry,
} from './plan.ts'
export {
  type ReadRow,
  readRow,
  readSolids,
  readsSolids,
  type SolidReadings,
  toldIn,
  usesSolids,
  type WorkedPart,
  workOut,
} from './readings.ts'
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
