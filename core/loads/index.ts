import { shellsOf, type TriangleMesh, type TriangleTree } from '../mesh/index.ts'
import { type Cells, cellsOf, middleOf, placesIn, shutsOf, sizeOfCells } from '../necks/index.ts'
import { cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { type Flow, flowBetween } from './flow.ts'
import { cellsAt, type LoadedSections, loadedSections, type Strength } from './sections.ts'

export type { Loaded, LoadedSections, Strength } from './sections.ts'

/** A force on some triangles of a closed mesh, while others are held; N. */
export interface Loading {
  readonly held: readonly number[]
  readonly at: readonly number[]
  readonly force: Vec3
}

/** Why there is nothing to reckon. */
export type NotLoaded = 'apart' | 'beside'

export interface LoadSearch {
  readonly strength: Strength
  /** unit: the way its layers are laid on each other; upwards where it is left out */
  readonly up?: Vec3
  readonly tree: TriangleTree
  /** into about so many cells the box round it is cut; none is smaller than `least`, mm */
  readonly cells: number
  readonly least: number
  pause?(): Promise<void>
}

/** The middle of some triangles, by their areas. */
export function middleOfTriangles({ positions, triangles }: TriangleMesh, which: readonly number[]): Vec3 {
  const sum = [0, 0, 0]
  let whole = 0
  for (const t of which) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const v = 3 * triangles[3 * t + k]!
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!] as const
    }) as [Vec3, Vec3, Vec3]
    const area = norm(cross(subtract(b, a), subtract(c, a)))
    whole += area
    for (let k = 0; k < 3; k++) sum[k]! += (area * (a[k]! + b[k]! + c[k]!)) / 3
  }
  return sum.map((x) => x / whole) as unknown as Vec3
}

/** A round wall is pressed where what goes through it lies against it: where it faces the force by more than this, as a cosine. */
const facesIt = 0.2

/** Where a force of what lies in a round or against a face is taken up; all of it, where it pulls at a face. */
function pressedBy(tree: TriangleTree, which: readonly number[], force: Vec3): readonly number[] {
  const way = scaled(force, 1 / norm(force))
  const facing = which.map((t) => dot(tree.normal(t), way))
  const isRound = facing.some((cosine) => cosine > facesIt) && facing.some((cosine) => cosine < -facesIt)
  return isRound ? which.filter((_, i) => facing[i]! < -facesIt) : which
}

/** A force is taken up about the middle of where it is, as far round as this share of it, or so many cells. */
const [patch, patchCells] = [0.15, 2]

/**
 * Of the cells at a face those about its middle: a force that is spread over a face asks of the sections beyond as if it were there, and what flows
 * from all of a face flows square to that, not along what bears it.
 */
function aroundMiddle(cells: Cells, all: readonly number[], middle: Vec3): readonly number[] {
  const away = (cell: number, from: Vec3) => norm(subtract(middleOf(cells, cell), from))
  const nearest = all.reduce((best, cell) => (away(cell, middle) < away(best, middle) ? cell : best))
  const from = middleOf(cells, nearest)
  const far = all.reduce((most, cell) => Math.max(most, away(cell, from)), 0)
  const within = Math.max(patchCells * cells.size, patch * far)
  return all.filter((cell) => away(cell, from) <= within)
}

/** What is not known, or narrower than so many cells, is looked at with cells of half their size. */
const fewest = 1.5

/**
 * What a load asks of the sections between where it is and where the solid is held. Cells are halved once where they do not tell that it hangs
 * together; what hangs together by less than that has no section that could be measured.
 */
export async function loadedSolid(
  mesh: TriangleMesh,
  { held, at, force }: Loading,
  { strength, up = [0, 0, 1], tree, cells: count, least, pause }: LoadSearch,
): Promise<LoadedSections | NotLoaded> {
  const { shellOf } = shellsOf(mesh)
  const bodies = new Set(held.map((t) => shellOf[t]))
  if (!at.some((t) => bodies.has(shellOf[t]))) return 'apart'
  const pressed = pressedBy(tree, at, force)
  const middle = middleOfTriangles(mesh, at)
  const size = sizeOfCells(mesh, count)
  let before: Flow | undefined
  for (const own of [size, size / 2]) {
    const cells = cellsOf(mesh, Math.max(least, own))
    const shut = await shutsOf(cells, placesIn(cells, tree), tree, pause)
    const heldCells = cellsAt(cells, mesh, held)
    const isHeld = new Set(heldCells)
    const all = cellsAt(cells, mesh, pressed).filter((cell) => !isHeld.has(cell))
    if (all.length === 0) return 'beside'
    const loaded = aroundMiddle(cells, all, middleOfTriangles(mesh, pressed))
    const flow: Flow | undefined = await flowBetween(cells, shut, heldCells, loaded, pause, before)
    before = flow
    if (!flow) continue
    const found = await loadedSections(mesh, flow, { force, at: middle }, { ...strength, up }, pause)
    const isKnown = found.worst && !found.unmeasured && found.worst.across > fewest * cells.size
    const isClose = own < size || cells.size <= least || isKnown
    if (isClose) return found
  }
  return { worst: undefined, shared: undefined, count: 0, unmeasured: middle }
}
