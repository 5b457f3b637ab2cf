import type { TriangleTree } from '../mesh/index.ts'
import { dot, scaled, subtract, type Vec3 } from '../place/index.ts'
import { type Cells, middleOf, stridesOf, thin } from './cells.ts'

/**
 * Which cells that lie beside each other are parted all the same: bit k of a cell, where something lies between it and the next one along
 * axis k. Cells whose middles are inside have no gap between them; those of what is thin may be of one side of a gap, and their neighbours of
 * the other.
 */
export async function shutsOf(
  cells: Cells,
  placeOf: (cell: number) => Vec3,
  tree: TriangleTree,
  pause: (() => Promise<void>) | undefined,
): Promise<Uint8Array> {
  const { isInside } = cells
  const strides = stridesOf(cells)
  const shut = new Uint8Array(isInside.length)
  let asked = 0
  for (let cell = 0; cell < isInside.length; cell++) {
    if (!isInside[cell]) continue
    if (isInside[cell] === thin && ++asked % betweenTurns === 0) await pause?.()
    for (let axis = 0; axis < 3; axis++) {
      const next = cell + strides[axis]!
      const other = isInside[next]!
      if (!other || (isInside[cell] !== thin && other !== thin)) continue
      if (tree.first(placeOf(cell), placeOf(next), 0)) shut[cell]! |= 1 << axis
    }
  }
  return shut
}

/** So many cells are asked between two turns of others: some ten ms. */
const betweenTurns = 1000

/** Where a cell stands for the solid: its middle, or a place inside that is near to it. */
export function placesIn(cells: Cells, tree: TriangleTree): (cell: number) => Vec3 {
  const places = new Map<number, Vec3>()
  return (cell) => {
    const middle = middleOf(cells, cell)
    if (cells.isInside[cell] !== thin) return middle
    const place = places.get(cell) ?? insideNear(tree, middle, cells.size)
    places.set(cell, place)
    return place
  }
}

/** mm */
const hardlyAny = 1e-6

/** The place inside a solid that is nearest to one outside: half way through where it is thin. */
function insideNear(tree: TriangleTree, at: Vec3, cell: number): Vec3 {
  const { to, triangle } = tree.nearest(at)!
  const normal = tree.normal(triangle)
  if (dot(normal, subtract(at, to)) < 0) return at
  const through = tree.first(to, subtract(to, scaled(normal, cell)), hardlyAny)
  return subtract(to, scaled(normal, (through?.far ?? cell) / 2))
}
