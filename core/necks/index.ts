export { type Bounds, type Neck, type NeckSearch, type Necks, necksOf } from './necks.ts'
export { liftedFrom, planeThrough } from './section.ts'
