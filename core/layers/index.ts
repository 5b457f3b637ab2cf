import type { Kernel, PlaneSection, Solid } from '../kernel/index.ts'

/** Layers of `layerHeight` mm that a height takes: the last one may be only partly filled. */
export function layerCount(height: number, layerHeight: number): number {
  // A height that is a whole number of layers but for rounding does not get one more.
  return Math.max(0, Math.ceil(height / layerHeight - 1e-6))
}

/** The height at which layer `index` (from 0) is cut: its middle. */
export function layerMiddle(index: number, layerHeight: number): number {
  return (index + 0.5) * layerHeight
}

/** The section of a solid at height `z` above the bed; empty where it has no material there. */
export function sectionAt(kernel: Kernel, solid: Solid | undefined, z: number): PlaneSection {
  if (!solid) return { rings: [], area: 0 }
  return kernel.scope((scope) => scope.slice(solid, z))
}

/** Filled area of each layer, mm². */
export function layerAreas(kernel: Kernel, solid: Solid | undefined, layerHeight: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => sectionAt(kernel, solid, layerMiddle(i, layerHeight)).area)
}

export { Sections } from './sections.ts'
