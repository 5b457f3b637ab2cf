export { type Shift, shiftOf } from './shifted.ts'
export { type Slab, slabsOf, wedgesOf } from './slabs.ts'
export { tubesOf } from './tubes.ts'
