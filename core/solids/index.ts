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
export { type Drawing, drawingOf, type FaceRef, namedEdges } from './drawing.ts'
export { figuresOf, Measurer, measuringFineness, type PieceFigures, type TwiceBuilt } from './measurer.ts'
export { solidsToRead } from './readSolid.ts'
