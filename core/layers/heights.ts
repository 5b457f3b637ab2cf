/** How thick the layers are that a printer lays, mm: the one on the bed, and all others. */
export interface LayerHeights {
  readonly firstLayer: number
  readonly layerHeight: number
  /** From these heights on layers are of another height, lowest first: from the first layer that begins there or above. */
  readonly changes?: readonly { readonly from: number; readonly layerHeight: number }[]
}

/** Layers of one height, one above the other. */
interface Stretch {
  /** of its lowest layer */
  readonly index: number
  readonly bottom: number
  readonly height: number
}

/** Layers that a height takes, mm: the last one may be only partly filled. */
export function layerCount(height: number, heights: LayerHeights): number {
  if (!(height > sameHeight)) return 0
  const { index, bottom, height: each } = stretchAt(heights, ({ bottom: from }) => from < height)
  // A height that is a whole number of layers but for rounding does not get one more.
  return index + Math.max(1, Math.ceil((height - bottom) / each - sameHeight))
}

/** Nothing is printed of so little, mm, or of such a share of a layer. */
const sameHeight = 1e-6

/** The height at which layer `index` (from 0) begins, mm. */
export function layerBottom(index: number, heights: LayerHeights): number {
  const own = stretchAt(heights, (stretch) => stretch.index <= index)
  return own.bottom + (index - own.index) * own.height
}

/** The height at which layer `index` (from 0) is cut, mm: its middle. As a slicer has it, the layer is filled where the solid is there. */
export function layerMiddle(index: number, heights: LayerHeights): number {
  return (layerBottom(index, heights) + layerBottom(index + 1, heights)) / 2
}

/** The layer (from 0) that a height lies in, mm; the first one for what is below the bed. */
export function layerAt(height: number, heights: LayerHeights): number {
  const { index, bottom, height: each } = stretchAt(heights, ({ bottom: from }) => from <= height)
  return index + Math.max(0, Math.floor((height - bottom) / each))
}

/** The last stretch of layers that something holds for; the lowest one where it holds for none. */
function stretchAt(
  { firstLayer, layerHeight, changes = [] }: LayerHeights,
  holds: (stretch: Stretch) => boolean,
): Stretch {
  let own: Stretch = { index: 0, bottom: 0, height: firstLayer }
  let above: Stretch = { index: 1, bottom: firstLayer, height: layerHeight }
  for (const change of [...changes, undefined]) {
    if (!holds(above)) return own
    own = above
    if (!change) return own
    const layers = Math.max(0, Math.ceil((change.from - own.bottom) / own.height - sameHeight))
    above = {
      index: own.index + layers,
      bottom: own.bottom + layers * own.height,
      height: change.layerHeight,
    }
  }
  return own
}
