export { alikeIn, isAlike } from './alike.ts'
export { asPrinted, type Printed } from './asPrinted.ts'
export { Builder, type Built, type BuiltPiece } from './builder.ts'
export { SolidCache } from './cache.ts'
export { BuildAborted, type BuildOptions } from './combining.ts'
export { copiesOf } from './copies.ts'
export { type CutPlane, cutawayOf } from './cutaway.ts'
export {
  drawingOf,
  keptDrawing,
  keptKey,
  mostTrianglesKept,
  type PartDrawing,
  type PieceDrawing,
} from './drawing.ts'
export { itemSolid, tubeBelow, wayIn } from './itemSolids.ts'
export {
  type FiguresWay,
  figuresOf,
  Measurer,
  measuringFineness,
  type PieceFigures,
  type TwiceBuilt,
} from './measurer.ts'
export { type FaceRef, faceKey, namedSolid, type Owner } from './named.ts'
export {
  type BuiltAndTwice,
  flatsOf,
  inPose,
  laidTogether,
  leaving,
  motionOf,
  motionsIn,
  movedBy,
  type Posed,
  spreadOut,
  turnFor,
} from './posed.ts'
export { facesOf, namedBorders, namedEdges, solidsToRead, trianglesOf } from './readSolid.ts'
export { type RenderMesh, renderMeshOf } from './renderMesh.ts'
