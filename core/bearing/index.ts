import type { KeptLoad, LoadWay } from '../document/index.ts'
import { strengthOf } from '../fits/index.ts'
import { type LoadedSections, loadedSolid, middleOfTriangles, type NotLoaded } from '../loads/index.ts'
import { evaluate } from '../measures/index.ts'
import { TriangleTree } from '../mesh/index.ts'
import { add, directionOut, norm, scaled, unit, type Vec3 } from '../place/index.ts'
import { attempt } from '../problems/index.ts'
import { type Built, type BuiltPiece, motionOf, trianglesOf } from '../solids/index.ts'

/** Where a load is on a piece, and where that is held, as triangles of it: none of a face that nothing is left of. */
export interface Ends {
  readonly piece: BuiltPiece
  readonly held: readonly number[]
  readonly at: readonly number[]
}

/** The ends of a load on each piece that has material. */
export function endsOf({ pieces, plan }: Built, { held, at }: KeptLoad): readonly Ends[] {
  return pieces
    .filter(({ solid }) => solid)
    .map((piece) => ({ piece, held: trianglesOf(piece, plan, held), at: trianglesOf(piece, plan, at) }))
}

/** The force of a load, N, or why there is none. */
export function forceOf({ resolved }: Built, { force }: KeptLoad) {
  return attempt([], () => evaluate(force, 'ratio', resolved.measures.names).value)
}

const axes: Readonly<Record<Exclude<LoadWay, 'out' | 'in'>, Vec3>> = {
  up: [0, 0, 1],
  down: [0, 0, -1],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  front: [0, -1, 0],
  back: [0, 1, 0],
}

/** Which way a load goes, as the piece lies; square to what has no such way, as all round a hole, it hangs down. Unit. */
export function wayOf({ motions }: Built, { piece, at }: Ends, way: LoadWay, tree: TriangleTree): Vec3 {
  if (way === 'out' || way === 'in') {
    const sum = at.reduce<Vec3>((all, t) => add(all, tree.normal(t)), [0, 0, 0])
    if (norm(sum) > 0.5 * at.length) return scaled(unit(sum), way === 'out' ? 1 : -1)
  }
  const axis = way === 'out' || way === 'in' ? axes.down : axes[way]
  const motion = motionOf(motions, piece)
  return motion ? directionOut(motion, axis) : axis
}

export interface BearingOptions {
  readonly tree?: TriangleTree
  /** unit: the way its layers are laid on each other; upwards where it is left out */
  readonly up?: Vec3
  pause?(): Promise<void>
}

/** Into so many cells the box round a piece is cut; none is smaller than this share of a line. */
const [cells, leastCell] = [50_000, 0.5]

/** What a force, N, asks of a piece, and where it is. */
export async function askedOf(
  built: Built,
  ends: Ends,
  way: LoadWay,
  force: number,
  { tree = new TriangleTree(ends.piece.solid!.mesh()), up, pause }: BearingOptions,
): Promise<{ readonly found: LoadedSections | NotLoaded; readonly way: Vec3; readonly at: Vec3 }> {
  const { part, printer } = built.resolved
  const solid = ends.piece.solid!
  const mesh = { positions: solid.corners(), triangles: solid.mesh().triangles }
  const goes = wayOf(built, ends, way, tree)
  const found = await loadedSolid(
    mesh,
    { held: ends.held, at: ends.at, force: scaled(goes, force) },
    {
      ...{ strength: strengthOf(part.material), tree, cells, least: leastCell * printer.lineWidth },
      ...(up ? { up } : {}),
      ...(pause ? { pause } : {}),
    },
  )
  return { found, way: goes, at: middleOfTriangles(mesh, ends.at) }
}

/** The most that loads ask of what bears them, as a share of it, with layers laid this way; undefined where some is not known. */
export async function mostAsked(
  built: Built,
  pieces: readonly BuiltPiece[],
  options: BearingOptions,
): Promise<number | undefined> {
  let most = 0
  for (const load of built.resolved.part.loads) {
    const force = forceOf(built, load)
    for (const ends of endsOf(built, load)) {
      if (!pieces.includes(ends.piece) || ends.held.length === 0 || ends.at.length === 0) continue
      if (!force.ok || !(force.value > 0)) return undefined
      const { found } = await askedOf(built, ends, load.way, force.value, options)
      if (typeof found === 'string' || !found.worst || found.unmeasured) return undefined
      most = Math.max(most, found.worst.use, found.shared?.alone ?? 0)
    }
  }
  return most
}
