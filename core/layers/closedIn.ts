import { itemBodies } from '../hardware/index.ts'
import type { Frame } from '../place/index.ts'
import type { HeldItem } from '../shapes/index.ts'
import { type LayerHeights, layerBottom, layerCount, layerMiddle } from './heights.ts'

/** Where a print has to pause for what is closed in by the layers above it. */
export interface Pause {
  /** the first layer that closes over it, from 0: it is put in before that is laid */
  readonly layer: number
  /** where that layer begins above the bed, mm */
  readonly height: number
  /** by how much the item stands above the layers that are laid by then, mm: the nozzle would run into it */
  readonly proud: number
}

/** When an item that is closed in has to be put in; `frame`: where it lies on the bed; `scale`: how many times as large the file is. */
export function pauseFor(held: HeldItem, frame: Frame, heights: LayerHeights, scale = 1): Pause {
  const top = scale * highest(held, frame)
  // A layer is filled where its middle lies in material.
  const roof = top + scale * (held.room ?? 0)
  let layer = Math.max(0, layerCount(roof, heights) - 1)
  while (layerMiddle(layer, heights) <= roof + hardly) layer++
  while (layer > 0 && layerMiddle(layer - 1, heights) > roof + hardly) layer--
  const height = layerBottom(layer, heights)
  return { layer, height, proud: Math.max(0, top - height - hardly) }
}
const hardly = 1e-6

/** The height above the bed to which an item reaches, mm. */
function highest({ item, length }: HeldItem, { origin, u, v, n }: Frame): number {
  const level = Math.hypot(u[2], v[2])
  return Math.max(
    ...itemBodies(item, { length }).flatMap((body) =>
      body.kind === 'turned'
        ? body.profile.map(([r, z]) => origin[2] + n[2] * z + r * level)
        : body.ring.flatMap(([x, y]) => [body.low, body.high].map((z) => origin[2] + u[2] * x + v[2] * y + n[2] * z)),
    ),
  )
}
