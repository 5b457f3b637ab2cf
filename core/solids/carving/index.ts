export { type Carving, carved, carvingsOf, mostInSpace } from './carve.ts'
export type { CarvedRegion, RegionSource } from './carvedRegion.ts'
