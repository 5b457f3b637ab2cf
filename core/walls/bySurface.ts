import { type ClosedSurface, Surface } from '../edges/index.ts'
import type { Solid } from '../kernel/index.ts'
import type { NamedSolid } from '../naming/index.ts'
import { add, dot, scaled, type Vec3 } from '../place/index.ts'
import { flatsRound } from '../plane/index.ts'
import { ProblemError, tried } from '../problems/index.ts'
import { beyond, type Fills, type WallSizes } from './construction.ts'
import { type Filled, filledIn } from './fills.ts'
import { movedBy } from './moved.ts'
import { patchesOf, type Slab, slabsOf, wedgesOf } from './slabs.ts'
import { type Thin, thinnest } from './thinnest.ts'
import { tubesAlong, tubesOf } from './tubes.ts'

/**
 * What lies deeper in a solid than its walls (`way` 1), or it with its walls round it (−1), by its surface alone: less or more the body
 * that each smooth stretch sweeps, and those round the edges between them.
 */
export function bySurface(walls: WallSizes, solid: Solid, way: 1 | -1, fills?: Fills): Solid {
  const { scope } = walls
  const named = walls.named(solid)
  const surface = new Surface(named, solid.corners())
  const own: Own = {
    ...{ walls, solid, named, surface },
    size: (face) => walls.size(named.faces[face]!.key),
    filled: way > 0 && fills ? filledIn(surface, fills, walls.fineness) : undefined,
  }
  const moved = movedWalls(own, way)
  if (moved) return moved
  const bodies = bodiesOf(own, way)
  return way > 0
    ? bodies.reduce((rest, each) => scope.difference(rest, each), solid)
    : bodies.reduce((rest, each) => scope.union([rest, ...each]), solid)
}

/** Where what was made of a solid comes nearer to it than its walls, by more than flats may: the least and what it should be. */
export function thinIn(walls: WallSizes, solid: Solid, made: Solid): Thin | undefined {
  const named = walls.named(solid)
  return thinnest(named, (face) => walls.size(named.faces[face]!.key), made.corners(), thinner + walls.fineness)
}

/** Walls may be thinner by so much and as much as the fineness, mm: their flats are. */
const thinner = 0.02

/** A solid that is to have walls, with what is asked of it. */
interface Own {
  readonly walls: WallSizes
  readonly solid: Solid
  readonly named: NamedSolid
  readonly surface: Surface
  /** how thick the wall of a face is, mm; 0 where it is open */
  size(face: number): number
  /** what of it is round because a ball rolled there, where that is known */
  readonly filled: Filled | undefined
}

/** The same without a cut, where moving the faces is all there is to it. */
function movedWalls({ walls, surface, named, size }: Own, way: 1 | -1): Solid | undefined {
  const { scope } = walls
  // Inside, what is open goes a little beyond its face: no skin is left there.
  const moved = movedBy(scope, surface, (face) => size(face) || (way > 0 ? -beyond : 0), way)
  if (!moved) return undefined
  const words: string[] = []
  for (const patch of patchesOf(surface, size)) {
    const word = calledOf(walls, named, [...new Set(patch.map((t) => surface.face(3 * t)))])
    for (const t of patch) words[t] = word
  }
  // Where some of its corners fall together it may be none.
  const made = tried(() => scope.surface(moved.points, moved.triangles))
  if (!made) return undefined
  const solid = walls.own(made, (p) => ({ face: words[moved.cameFrom(p)] ?? 'open' }))
  // Walls that have passed each other on all sides enclose something again, inside out.
  return thinnest(named, size, solid.corners(), thinner + walls.fineness) ? undefined : solid
}

function calledOf({ called }: WallSizes, named: NamedSolid, faces: readonly number[]): string {
  return called(faces.map((face) => named.faces[face]!.key))
}

/**
 * All that lies nearer to the surface than its wall, inside of it (1) or outside; in groups that are each one operation.
 * Where walls fold up to a line many of their corners nearly fall together, which leads the library astray where the thin bodies
 * over seams pass through there: it loses corners of others then. One after the other they do no harm.
 */
function bodiesOf({ walls, surface, named, size, filled }: Own, way: 1 | -1): Solid[][] {
  const { scope, fineness } = walls
  const flats = (radius: number) => flatsRound(radius, fineness, true)
  const made = (solid: Solid, face: string) => walls.own(solid, () => ({ face }))
  const bodyOf = ({ points, triangles }: ClosedSurface) =>
    triangles.length > 0 ? scope.surface(points, triangles) : scope.hull(points)
  const slabbed = (face: number) => (filled?.faces.has(face) ? 0 : size(face))
  const slabs = [...slabsOf(surface, slabbed, clearance, way), ...wedgesOf(surface, slabbed, clearance, way)]
  const apart = slabs.filter(({ kind }) => kind === 'hull').length
  walls.folds(apart)
  if (apart > mostApart) throw new ProblemError('hollow-folds', { count: apart })
  const round = (filled?.ways ?? []).flatMap(({ stops, radius, face }) =>
    tubesAlong(stops, radius + size(face), flats).map((body) => made(bodyOf(body), calledOf(walls, named, [face]))),
  )
  const tubes = tubesOf(surface, way > 0 ? -1 : 1, thickerBeside(named, size), flats)
  const isFlat = ({ faces }: Slab) => faces.every((face) => surface.flatFace(face) !== undefined)
  const [flat, bent] = [slabs.filter(isFlat), slabs.filter((slab) => !isFlat(slab))]
  const ofKind = (all: readonly Slab[], kind: Slab['kind']) =>
    all.filter((slab) => slab.kind === kind).map((slab) => made(bodyOf(slab), calledOf(walls, named, slab.faces)))
  return [
    // Under flats alone there is least to be cut, and what is left is smaller.
    ofKind(flat, undefined),
    [...ofKind(bent, undefined), ...round, ...tubes.map((tube) => made(bodyOf(tube), walls.edges))],
    ofKind(slabs, 'folded'),
    ofKind(slabs, 'hull'),
    ofKind(slabs, 'fin'),
  ].filter((group) => group.length > 0)
}

/** What folds up under its wall is cut out triangle by triangle; more of them than these take minutes. */
const mostApart = 1500
/** How far slabs go beyond the surface that they lie under, mm. */
const clearance = 0.01

/** The thicker one of the walls beside an edge. */
function thickerBeside({ edges }: NamedSolid, thick: (face: number) => number): (edge: number) => number {
  return (edge) => Math.max(...edges[edge]!.faces.map(thick))
}

/** What lies deep in a solid, a little beyond its open faces where it reaches them: these are told by their keys, on both. */
export function openedAt(walls: WallSizes, deep: Solid, open: ReadonlySet<string>): Solid {
  if (open.size === 0) return deep
  const now = walls.named(deep)
  const isOpen = now.faces.map(({ key }) => open.has(key))
  if (!isOpen.includes(true)) return deep
  const surface = new Surface(now, deep.corners())
  const moved = new Map<number, Vec3[]>()
  now.faceOf.forEach((face, t) => {
    if (!isOpen[face]) return
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const vertex = surface.from(h)
      const normal = surface.normal(h)
      const all = moved.get(vertex)
      if (!all) moved.set(vertex, [normal])
      else if (!all.some((n) => dot(n, normal) > 1 - 1e-6)) all.push(normal)
    }
  })
  const by = new Map([...moved].map(([vertex, normals]) => [vertex, scaled(normals.reduce(add), beyond)] as const))
  return walls.scope.shifted(deep, by)
}
