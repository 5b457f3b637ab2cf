import { chosenEdges, Surface } from '../edges/index.ts'
import type { EdgeRule } from '../fields/index.ts'
import type { Scope, Solid } from '../kernel/index.ts'
import { TriangleTree } from '../mesh/index.ts'
import type { NamedSolid, SurfaceTelling } from '../naming/index.ts'
import { add, dot, type Frame, scaled, type Vec3 } from '../place/index.ts'
import { deeperInConvex, goesIn, isConvex, roundConvex } from './convex.ts'
import { deeperInPrism, prismOf } from './prisms.ts'
import { deeperInRounded } from './rounds.ts'
import { patchesOf } from './slabs.ts'

/**
 * How a solid came to be, as far as that tells what lies deep in it. Deeper than t in
 *
 *     A less B         is what lies deeper than t in A, less all within t of B
 *     A and B in common   is what lies deeper than t in both
 *     A, eased by a ball of radius R ≤ t along outer edges, is what lies deeper than t in A: no ball that large reached them
 *     A, rounded by R > t along outer edges, is what lies deeper than t in A, rounded by R − t along what became of these
 *
 * and all within t of bodies that were added to each other is all within t of each of them; deep in them, it is not so simple.
 *
 * (Serra, Image Analysis and Mathematical Morphology, 1982, II.C: erosion and dilation are dual; an opening by a smaller ball
 * changes no erosion). Of all else only the surface is known.
 */
export type Construction = { readonly solid: Solid } & (
  | { readonly kind: 'surface' }
  | { readonly kind: 'sum'; readonly bodies: () => readonly Placed[] }
  | { readonly kind: 'less' | 'common'; readonly of: () => Construction; readonly bodies: () => readonly Placed[] }
  | {
      readonly kind: 'eased'
      readonly of: () => Construction
      readonly eased: Eased
      /** the same with its inner edges filled alone */
      readonly filled: () => Solid
      /** whether it was done along all of these edges */
      readonly whole: boolean
      /** whether a face was made by it, by its key */
      readonly made: (key: string) => boolean
    }
)

/** A body, and the motions that take it to where its copies stand. */
export interface Placed {
  readonly solid: Solid
  /** the same key means the same solid */
  readonly key: string
  readonly at: readonly Frame[]
}

/** Edges along which material was taken away from outer ones and filled into inner ones. */
export interface Eased {
  readonly edges: readonly EdgeRule[]
  /** mm, of the ball that rolled along them, where it was the same all along */
  readonly radius?: number
  /** the radius of a ball that leaves no more than that at an edge over which the surface turns by `bend` degrees */
  ball(bend: number): number
}

/** Faces that are round because a ball rolled along inner edges. */
export interface Fills {
  /** mm */
  readonly radius: number
  /** by their keys */
  readonly made: (key: string) => boolean
}

/** What walls are made with, and how thick they are. */
export interface WallSizes {
  readonly scope: Scope
  /** chord tolerance, mm */
  readonly fineness: number
  /** unit, away from the bed, as the solids stand */
  readonly up: Vec3
  named(solid: Solid): NamedSolid
  /** Makes a solid's surfaces those of the step that asks for walls; `tell` names them. */
  own(solid: Solid, tell: SurfaceTelling): Solid
  /** how thick the wall of a face is, by its key, mm; 0 where it is open */
  size(key: string): number
  /** the same means the same sizes of all faces */
  readonly sizes: string
  /** What `make` makes, kept for the next time where the same key means the same solids; at least one. */
  kept(key: string, make: () => readonly Solid[]): readonly Solid[]
  /** what the inner side of faces is called, by their keys */
  called(keys: readonly string[]): string
  /** what edges leave, where it is round */
  readonly edges: string
  /** Says how many flats are cut out one by one, as they fold up under their wall: that takes long. */
  folds(count: number): void
}

/** The same, for solids of which it is known how they came to be. */
export interface Walls extends WallSizes {
  /** Says that many bodies made it: what comes out is looked over. */
  looksOver(): void
  /**
   * The same by the surface alone, where no construction serves; `fills`: what of it is round because a ball rolled there; `key`: where
   * it stays from one edit to the next, what the solid is kept for.
   */
  bySurface(solid: Solid, way: 1 | -1, also?: { readonly fills?: Fills | undefined; readonly key?: string }): Solid
}

/** How far what is open goes beyond its face, mm: no skin is left there. */
export const beyond = 2e-3

/** What lies deeper in a solid than the walls of all its faces. It may be empty. */
export function deeperIn(walls: Walls, construction: Construction): Solid {
  const { scope } = walls
  const plain = convexBodies(walls, construction.solid)
  if (plain) return scope.union(plain.flatMap((surface) => deeperInOne(walls, surface) ?? []))
  switch (construction.kind) {
    case 'less': {
      const cut = construction.bodies()
      const straight = cut.every(({ solid }) => isPlain(walls, solid))
        ? undefined
        : deeperInStraight(walls, construction.solid)
      if (straight) return straight
      const round = cut.flatMap((body) => placedAt(scope, allAround(walls, body), body.at))
      return scope.difference(deeperIn(walls, construction.of()), round)
    }
    case 'common': {
      const deeper = construction
        .bodies()
        .map(({ solid, at }) => scope.union(placedAt(scope, [deeperIn(walls, { kind: 'surface', solid })], at)))
      return scope.intersection([deeperIn(walls, construction.of()), ...deeper])
    }
    case 'eased':
      return deeperInEased(walls, construction)
    case 'sum':
    case 'surface':
      return deeperInStraight(walls, construction.solid) ?? walls.bySurface(construction.solid, 1)
  }
}

/** A solid with its walls round it; its outer edges are rounded by as much. */
export function grownBy(walls: Walls, construction: Construction): Solid {
  const { scope } = walls
  const { solid } = construction
  const around = (each: Solid, plain = convexBodies(walls, each)) =>
    plain?.map((surface) => roundOne(walls, surface, 0))
  const round = around(solid)
  if (round) return scope.union([solid, ...round])
  const parts =
    construction.kind === 'sum' ? construction.bodies().map(({ solid: each, at }) => ({ round: around(each), at })) : []
  // What is made by its surface has its own way of meeting others.
  if (parts.length === 0 || parts.some((part) => !part.round)) return walls.bySurface(solid, -1)
  return scope.union([solid, ...parts.flatMap((part) => placedAt(scope, part.round!, part.at))])
}

/** All within its walls of a body that was cut out. */
function allAround(walls: Walls, { solid, key }: Placed): readonly Solid[] {
  if (!isPlain(walls, solid)) return [walls.bySurface(solid, -1, { key })]
  return walls.kept(`round ${walls.sizes} ${key}`, () =>
    convexBodies(walls, solid)!.map((surface) => roundOne(walls, surface)),
  )
}

/** The surfaces of the bodies that a solid falls into, where all of them are convex: balls in it lie in one of them. */
function convexBodies(walls: Walls, solid: Solid): Surface[] | undefined {
  const surfaceOf = (each: Solid) => new Surface(walls.named(each), each.corners())
  // Its names are dear: most are seen to go in somewhere without them.
  if (goesIn({ positions: solid.corners(), triangles: solid.mesh().triangles }, walls.fineness)) return undefined
  const whole = surfaceOf(solid)
  if (isConvex(whole, walls.fineness)) return [whole]
  const parts = walls.scope.parts(solid)
  if (parts.length < 2) return undefined
  const surfaces = parts.map(surfaceOf)
  return surfaces.every((surface) => isConvex(surface, walls.fineness)) ? surfaces : undefined
}

/** Solids that stay from one edit to the next, and whether they fall into convex ones. */
const knownPlain = new WeakMap<Solid, boolean>()

function isPlain(walls: Walls, solid: Solid): boolean {
  const known = knownPlain.get(solid) ?? convexBodies(walls, solid) !== undefined
  knownPlain.set(solid, known)
  return known
}

function deeperInOne(walls: Walls, surface: Surface): Solid | undefined {
  const size = sizeOf(walls, surface)
  const made = deeperInConvex(walls.scope, surface, size)
  return made && walls.own(made, tellingOf(walls, surface, size, 1))
}

/** The same of a prism, whatever its outline. */
function deeperInStraight(walls: Walls, solid: Solid): Solid | undefined {
  const surface = new Surface(walls.named(solid), solid.corners())
  const prism = prismOf(surface)
  if (!prism) return undefined
  const size = sizeOf(walls, surface)
  const made = deeperInPrism(walls.scope, prism, size, walls.fineness)
  return made && walls.own(made, tellingOf(walls, surface, size, 1))
}

function roundOne(walls: Walls, surface: Surface, open?: number): Solid {
  const size = sizeOf(walls, surface, open)
  const made = roundConvex(walls.scope, surface, size, walls.fineness)
  return walls.own(made, tellingOf(walls, surface, size, -1))
}

/** What is open has no wall, or is moved a little the other way. */
function sizeOf(walls: Walls, { solid }: Surface, open = -beyond): (face: number) => number {
  const sizes = solid.faces.map(({ key }) => walls.size(key) || open)
  return (face) => sizes[face]!
}

/** What a place of a wall's other side is called: by the face that it lies under, on the same normal. */
function tellingOf(walls: Walls, surface: Surface, size: (face: number) => number, way: 1 | -1): SurfaceTelling {
  const { positions, triangles, faces, faceOf } = surface.solid
  const words: string[] = []
  for (const patch of patchesOf(surface, size)) {
    const keys = [...new Set(patch.map((t) => faces[faceOf[t]!]!.key))]
    const word = walls.called(keys)
    for (const t of patch) words[t] = word
  }
  const sizes = [...new Set(Array.from(faceOf, size))]
  let tree: TriangleTree | undefined
  /** what lies in each plane that the flats have moved to */
  let planes: Map<string, string> | undefined
  return (p, n) => {
    planes ??= movedPlanes(surface, size, way, words)
    const told = planes.get(planeKey(n, dot(n, p)))
    if (told !== undefined && told !== several) return { face: told }
    tree ??= new TriangleTree({ positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) })
    let best: { readonly t: number; readonly off: number } | undefined
    for (const mm of sizes) {
      const { triangle: t, distance } = tree.nearest(add(p, scaled(n, way * mm)))!
      if (size(faceOf[t]!) !== mm) continue
      const off = distance + (1 - dot(n, surface.flat(t)))
      if (!best || off < best.off) best = { t, off }
    }
    const like = best && surface.flatFace(faceOf[best.t]!) ? oneFlat : likeIts
    if (!best || dot(n, surface.flat(best.t)) < like) return { face: walls.edges }
    return { face: words[best.t] ?? 'open' }
  }
}

/** In one plane lie faces with several names: which of them it is, its place tells. */
const several = ''

function movedPlanes(
  surface: Surface,
  size: (face: number) => number,
  way: 1 | -1,
  words: readonly string[],
): Map<string, string> {
  const planes = new Map<string, string>()
  const { triangles, faceOf } = surface.solid
  for (let t = 0; t < triangles.length / 3; t++) {
    const n = surface.flat(t)
    const key = planeKey(n, dot(n, surface.at(surface.from(3 * t))) - way * size(faceOf[t]!))
    const word = words[t] ?? 'open'
    planes.set(key, (planes.get(key) ?? word) === word ? word : several)
  }
  return planes
}

/** The same for planes that are one but for rounding; those of few that are one it takes for two. */
function planeKey(n: Vec3, offset: number): string {
  return `${Math.round(n[0] * 1e4)} ${Math.round(n[1] * 1e4)} ${Math.round(n[2] * 1e4)} ${Math.round(offset * 1e3)}`
}

/** As cosines: what looks another way than the flat that it lies under by more lies under an edge; less of a flat face than of a round one. */
const likeIts = Math.cos((9 * Math.PI) / 180)
const oneFlat = 1 - 1e-5

/** Leaves inner edges as they are. */
const noInner: EdgeRule = { less: true, traits: ['inner'], where: { kind: 'all' } }

function deeperInEased(walls: Walls, construction: Extract<Construction, { readonly kind: 'eased' }>): Solid {
  const { solid: after, eased, made, whole } = construction
  const { edges: rules, radius, ball } = eased
  const before = construction.of()
  const named = walls.named(before.solid)
  const chosen = chosenEdges(named, rules, walls.up).edges
  const inner = new Set(chosen.filter((i) => named.edges[i]!.bend < 0))
  const outer = new Set(chosen.filter((i) => named.edges[i]!.bend > 0))
  // Where edges of both senses come together one round runs on into the other.
  const meets = named.vertices.some(
    ({ edges }) => edges.some((edge) => inner.has(edge)) && edges.some((edge) => outer.has(edge)),
  )
  if (meets) return walls.bySurface(after, 1)
  const fills = radius ? { radius, made } : undefined
  const filled = inner.size > 0 ? construction.filled() : undefined
  const deep = () => (filled ? walls.bySurface(filled, 1, { fills }) : deeperIn(walls, before))
  const wall = (edge: number) => Math.min(...named.edges[edge]!.faces.map((face) => walls.size(named.faces[face]!.key)))
  // All that was taken away lies within the walls of the faces beside it.
  if ([...outer].every((edge) => ball(named.edges[edge]!.bend) <= wall(edge) + 1e-9)) return deep()
  if (!radius) return walls.bySurface(after, 1)
  const rounded = { before: filled ?? before.solid, rules: [...rules, noInner], radius, whole, after, made }
  return deeperInRounded(walls, rounded, deep) ?? walls.bySurface(after, 1)
}

function placedAt(scope: Scope, solids: readonly Solid[], at: readonly Frame[]): Solid[] {
  return at.flatMap((frame) => solids.map((solid) => scope.placed(solid, frame)))
}
