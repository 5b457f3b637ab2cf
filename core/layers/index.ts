import type { Kernel, PlaneSection, Solid } from '../kernel/index.ts'
import { type LayerHeights, layerMiddle } from './heights.ts'

export { type Pause, pauseFor } from './closedIn.ts'
export { carriedOver, type HangingRegion, hangingRegions } from './hanging.ts'
export { type LayerHeights, layerAt, layerBottom, layerCount, layerMiddle } from './heights.ts'
export { type LaidPlace, laidGroups } from './laid.ts'
export { type Risen, risingOf, type SharpCorner, sharpCorners } from './rising.ts'
export { KnownSections, Sections } from './sections.ts'
export type { SpannedLine } from './spans.ts'

/** The section of a solid at height `z` above the bed; empty where it has no material there. */
export function sectionAt(kernel: Kernel, solid: Solid | undefined, z: number): PlaneSection {
  if (!solid) return { rings: [], area: 0 }
  return kernel.scope((scope) => scope.slice(solid, z))
}

/** Filled area of each layer, mm². */
export function layerAreas(kernel: Kernel, solid: Solid | undefined, heights: LayerHeights, count: number): number[] {
  return Array.from({ length: count }, (_, i) => sectionAt(kernel, solid, layerMiddle(i, heights)).area)
}
