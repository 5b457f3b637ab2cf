export { type Picture, picture } from './raster.ts'
export { samplePart } from './sample.ts'
