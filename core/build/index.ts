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
export { type CutPlane, cutawayOf } from './cutaway.ts'
export { type Drawing, drawingOf, type FaceRef } from './drawing.ts'
export { type Body, bedSeating, heldFrameOf, type Operand, type Plan, planPart, type StepGeometry } from './plan.ts'
export {
  fieldKindOf,
  type ResolvedJoint,
  type ResolvedPart,
  type ResolvedStep,
  resolvePart,
} from './resolve.ts'
