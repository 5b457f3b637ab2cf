export { aloneStep } from './alone.ts'
export { scaledMotion } from './bundles.ts'
export { valuesChanged } from './changed.ts'
export { sinkOntoRound } from './contact.ts'
export { cutOverlap } from './cuts.ts'
export { bedSeating, heldFrameOf, type StepGeometry } from './geometry.ts'
export { dissolvedPlaces, heldPlaces, movedBetween, withAdded } from './held.ts'
export { type Bought, itemsIn, type StandingItem, toBuy } from './items.ts'
export type { PlacedJoint } from './jointPlaces.ts'
export { type MadeFaces, treatmentsStoodOn } from './made.ts'
export { drawnEdges, type TakenOffer, takenOffers } from './offers.ts'
export {
  adds,
  type Body,
  type BodyOperand,
  type Bundle,
  boxOfCopies,
  type Copy,
  type Operand,
  type TreatmentOperand,
} from './operand.ts'
export type { ResolvedOutline } from './outlines.ts'
export { type Plan, type PlannedPiece, planPart } from './plan.ts'
export { mobilityIn, poseOf, type StandingJoint } from './pose.ts'
export { poseToHandOff, printedAsOne, printedInside, printPoseOf, setIn, wantedIn } from './poses.ts'
export {
  noReadings,
  type ReadRow,
  readRow,
  readSolids,
  readsSolids,
  type SolidReadings,
  usesSolids,
  type WorkedPart,
  workOut,
} from './readings.ts'
export {
  fieldKindOf,
  pieceIsThere,
  type ResolvedJoint,
  type ResolvedPart,
  type ResolvedStep,
  resolvePart,
} from './resolve.ts'
export { scaleFields, scaleSentence } from './scaling.ts'
export { axisPlanes, faceCalled, outerSides } from './sides.ts'
export { type BrokenMeasures, brokenMeasures, rootProblems, withStandIns } from './standIn.ts'
export { planeOf } from './taken.ts'
export { tellingIn, toldIn } from './told.ts'
export { upgraded } from './upgrade.ts'
