import { apart, fromWall, ontoWall, type TriangleTree, type TrueWall, valuesOver, wallAt } from '../mesh/index.ts'
import { cross, dot, meeting, norm, subtract, type Vec3 } from '../place/index.ts'
import type { ProofContext, ProofPiece } from './define.ts'
import type { FieldKind, SurfaceField } from './field.ts'

/** The gap between two pieces, on both of them where they face each other. */
export const gapField: FieldKind = {
  id: 'gap',
  async of(context, [one, two]) {
    const { printer } = context.built.resolved
    const limit = printer.leastGap
    const field = { label: 'Gap', unit: 'mm', from: 0, limit, broken: 'below' } as const
    const [a, b] = [one!, two!].map((piece) => ({ piece, tree: context.tree(piece) }))
    const least = apart(a!.tree, b!.tree)?.distance ?? 0
    // Where they are far apart what is nearest is seen as well.
    const to = Math.max(3 * limit, 2 * least)
    const side = sideFor(a!.piece, b!.piece, to)
    const surfaces = [await gapOn(context, a!, b!.tree, { to, side }), await gapOn(context, b!, a!.tree, { to, side })]
    return { ...field, to, surfaces } satisfies SurfaceField
  },
}

/** A share of what two pieces have before them of each other: a picture shows no more. */
const share = 1 / 24

/** Whatever comes nearer than `within` is so within a side of this. */
function sideFor(a: ProofPiece, b: ProofPiece, within: number): number {
  const both = meeting(a.built.solid!.bounds()!, b.built.solid!.bounds()!, within)
  return Math.max(within, both ? norm(subtract(both.max, both.min)) * share : 0)
}

async function gapOn(
  { pause }: ProofContext,
  { piece, tree }: { readonly piece: ProofPiece; readonly tree: TriangleTree },
  other: TriangleTree,
  { to, side }: { readonly to: number; readonly side: number },
): Promise<SurfaceField['surfaces'][number]> {
  const { mesh } = tree.nodes
  const [wall, otherWall] = [wallsOf(tree), wallsOf(other)]
  const found = await valuesOver(mesh, (place) => other.nearest(place)!.distance, {
    ...{ below: to, side, pause },
    // Not through the material: a thin plate has the other piece before its face, not behind its back.
    isTold: (place, t) => {
      const { to, distance } = other.nearest(place)!
      const normal = normalAt(mesh, t)
      return distance < touching || dot(subtract(to, place), normal) > facing * distance * norm(normal)
    },
    // Between the true walls: flats of rounds lie beside these.
    told: (place, t) => {
      const at = ontoWall(place, wall(t))
      const near = other.nearest(at)!
      return fromWall(at, otherWall(near.triangle), near.distance)
    },
  })
  return { ...found, piece: piece.built.piece.id }
}
/** A wall that runs straight away from the other piece, to 3°, does not face it; as the sine. */
const facing = 0.05
/** Nearer than this surfaces meet, and which way the other one lies is not told, mm. */
const touching = 1e-6

/** The walls of a surface, each found when it is first asked for. */
function wallsOf(tree: TriangleTree): (triangle: number) => TrueWall | undefined {
  const { mesh } = tree.nodes
  const known = new Map<number, TrueWall | undefined>()
  return (triangle) => {
    if (!known.has(triangle)) known.set(triangle, wallAt(mesh, triangle))
    return known.get(triangle)
  }
}

function normalAt({ positions, triangles }: TriangleTree['nodes']['mesh'], t: number): Vec3 {
  const at = (c: number): Vec3 => {
    const v = 3 * triangles[3 * t + c]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  return cross(subtract(at(1), at(0)), subtract(at(2), at(0)))
}
