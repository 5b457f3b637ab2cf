/** How thick the layers are that a printer lays, mm: the one on the bed, and all others. */
export interface LayerHeights {
  readonly firstLayer: number
  readonly layerHeight: number
}

/** Layers that a height takes, mm: the last one may be only partly filled. */
export function layerCount(height: number, { firstLayer, layerHeight }: LayerHeights): number {
  if (!(height > sameHeight)) return 0
  // A height that is a whole number of layers but for rounding does not get one more.
  return 1 + Math.max(0, Math.ceil((height - firstLayer) / layerHeight - sameHeight))
}

/** Nothing is printed of so little, mm, or of such a share of a layer. */
const sameHeight = 1e-6

/** The height at which layer `index` (from 0) begins, mm. */
export function layerBottom(index: number, { firstLayer, layerHeight }: LayerHeights): number {
  return index === 0 ? 0 : firstLayer + (index - 1) * layerHeight
}

/** The height at which layer `index` (from 0) is cut, mm: its middle. As a slicer has it, the layer is filled where the solid is there. */
export function layerMiddle(index: number, heights: LayerHeights): number {
  return (layerBottom(index, heights) + layerBottom(index + 1, heights)) / 2
}

/** The layer (from 0) that a height lies in, mm; the first one for what is below the bed. */
export function layerAt(height: number, { firstLayer, layerHeight }: LayerHeights): number {
  return height < firstLayer ? 0 : 1 + Math.floor((height - firstLayer) / layerHeight)
}
