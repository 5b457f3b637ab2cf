import { ballForm, chosenEdges, deeperBall, edgeBodies, Surface } from '../edges/index.ts'
import type { EdgeRule } from '../fields/index.ts'
import type { Solid } from '../kernel/index.ts'
import type { NamedSolid } from '../naming/index.ts'
import { flatsRound } from '../plane/index.ts'
import type { Walls } from './construction.ts'
import { tubesOf } from './tubes.ts'

/** A solid whose outer edges were rounded. */
export interface Rounded {
  readonly before: Solid
  /** which of its edges were to be */
  readonly rules: readonly EdgeRule[]
  /** mm */
  readonly radius: number
  /** whether all of them could be */
  readonly whole: boolean
  readonly after: Solid
  /** whether a face was made by that, by its key */
  readonly made: (key: string) => boolean
}

/**
 * What lies deeper in a solid whose outer edges were rounded by more than the walls beside them are thick: less what the same ball would
 * have cut off were it smaller by the wall, on the same way; round the inner edges that rounds left where they meet goes a tube.
 * `deep` makes what lies deeper in the solid with sharp edges. Undefined where walls differ, or a round ends inside of something.
 */
export function deeperInRounded(
  walls: Walls,
  { before, rules, radius, whole, after, made }: Rounded,
  deep: () => Solid,
): Solid | undefined {
  const { scope, fineness, up } = walls
  const named = walls.named(before)
  const surface = new Surface(named, before.corners())
  const all = chosenEdges(named, rules, up).edges
  const left = whole ? [] : edgeBodies(surface, all, ballForm(radius), up, fineness).refused
  const sharp = new Set(left.flatMap(({ edges }) => edges))
  const chosen = all.filter((edge) => !sharp.has(edge))
  const thick = evenWall(walls, named, chosen)
  if (thick === undefined) return undefined
  // Less than can be seen is left of it.
  if (radius - thick < fineness / 2) return deep()
  const form = deeperBall(radius, thick)
  const { bodies, refused } = edgeBodies(surface, chosen, form, up, fineness)
  if (refused.length > 0) return undefined
  walls.looksOver()
  const cut = bodies.map(({ points, triangles, edges }) => {
    const faces = edges.flatMap((edge) => named.edges[edge]!.faces)
    const face = walls.called([...new Set(faces.map((each) => named.faces[each]!.key))])
    return walls.own(scope.surface(points, triangles), () => ({ face }))
  })
  return scope.difference(deep(), [...cut, ...tubesBeside(walls, after, made, thick)])
}

/** How thick the walls of all faces beside edges are, where they are alike and none is open. */
function evenWall(walls: Walls, { edges, faces }: NamedSolid, chosen: readonly number[]): number | undefined {
  const sizes = chosen.flatMap((edge) => edges[edge]!.faces.map((face) => walls.size(faces[face]!.key)))
  const [least, most] = [Math.min(...sizes), Math.max(...sizes)]
  return least > 0 && most - least < hardly ? most : undefined
}

/** Walls that differ by less are alike, mm. */
const hardly = 2e-3

/** All within a wall of inner edges beside faces that were made. */
function tubesBeside(walls: Walls, solid: Solid, made: Rounded['made'], thick: number): Solid[] {
  const { scope, fineness } = walls
  const named = walls.named(solid)
  const isMade = named.faces.map(({ key }) => made(key))
  const sizes = named.edges.map(({ faces: [a, b] }) => (isMade[a] || isMade[b] ? thick : 0))
  const flats = (size: number) => flatsRound(size, fineness, true)
  const surface = new Surface(named, solid.corners())
  return tubesOf(surface, -1, (edge) => sizes[edge]!, flats).map(({ points, triangles }) =>
    walls.own(triangles.length > 0 ? scope.surface(points, triangles) : scope.hull(points), () => ({
      face: walls.edges,
    })),
  )
}
