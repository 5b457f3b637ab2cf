export { type Cells, cellsOf, middleOf, sizeOfCells, stridesOf } from './cells.ts'
export { type Bounds, type Neck, type NeckSearch, type Necks, necksOf } from './necks.ts'
export {
  Cutter,
  laidIn,
  liftedFrom,
  type Moments,
  momentsOf,
  type Plane,
  planeThrough,
  sectionFigures,
} from './section.ts'
export { placesIn, shutsOf } from './shuts.ts'
