import type { Kernel, Solid } from '../kernel/index.ts'
import { ringArea } from '../plane/index.ts'
import { type Sheet, sheetOfRings } from '../shapes/index.ts'

/** A piece is a prism where its sections, and all of it, differ by no more than this, as a share. */
const alike = 1e-4
/** Where it is looked at, by its height. */
const heights = [0.03, 0.27, 0.5, 0.73, 0.97]

/** What a solid fills in the plane of the bed, where it is upright all round and level above and below; undefined where it is not. */
export function sheetOfSolid(kernel: Kernel, solid: Solid): Sheet | undefined {
  const bounds = solid.bounds()
  if (!bounds) return undefined
  const [low, high] = [bounds.min[2], bounds.max[2]]
  const tall = high - low
  return kernel.scope((scope) => {
    const sections = heights.map((share) => scope.slice(solid, low + share * tall))
    const { area, rings } = sections[2]!
    const isPrism =
      sections.every((section) => Math.abs(section.area - area) <= alike * area) &&
      Math.abs(solid.volume() - area * tall) <= alike * area * tall
    // The largest one goes round all others.
    const sorted = [...rings].sort((p, q) => Math.abs(ringArea(q)) - Math.abs(ringArea(p)))
    return isPrism ? sheetOfRings(sorted, tall) : undefined
  })
}
