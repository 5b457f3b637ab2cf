export { type Moved, movedBy } from './moved.ts'
export { type Shift, shiftOf } from './shifted.ts'
export { patchesOf, type Slab, slabsOf, wedgesOf } from './slabs.ts'
export { tubesOf } from './tubes.ts'
