import { type Body, Surface } from '../edges/index.ts'
import { size } from '../fields/index.ts'
import type { Solid } from '../kernel/index.ts'
import type { NamedSolid } from '../naming/index.ts'
import { add, dot, scaled, type Vec3 } from '../place/index.ts'
import { flatsRound } from '../plane/index.ts'
import { tried } from '../problems/index.ts'
import { movedBy, patchesOf, type Slab, slabsOf, type Thin, thinnest, tubesOf, wedgesOf } from '../walls/index.ts'
import { defineTreatment, type TreatmentWork } from './define.ts'
import { facesCalled, listed, shortName } from './faceWords.ts'

/** What stands becomes a wall round a cavity. */
export const hollow = defineTreatment({
  kind: 'hollow',
  label: 'Hollow',
  hint: 'to a wall, closed or open',
  look: 'changed',
  material: 'less',
  acts: 'alone',
  words: ['shell', 'hollow out', 'wall thickness', 'thin wall', 'case', 'cavity', 'empty'],
  offer: (face) => `Hollow, open at its ${face}`,
  quick: ['thick'],
  icon: 'M4 4V20H28V4M8 4V16H24V4M4 4H8M24 4H28',
  leader: { field: 'thick', form: 'leader' },
  fields: {
    thick: size('Wall', '2', 'How thick the wall is everywhere.'),
    side: {
      kind: 'choice',
      label: 'Where the wall lies',
      default: 'in',
      choices: { in: 'inside', out: 'outside', half: 'half inside, half outside' },
      meaning:
        'Inside what stands, so that its outside stays; around it, so that the cavity is as it was; or half and half.',
      rare: true,
    },
    open: {
      kind: 'faces',
      label: 'Open at',
      default: '',
      meaning: 'Faces that have no wall: the cavity is open there.',
    },
    other: {
      kind: 'faceSizes',
      label: 'Other walls',
      default: '',
      meaning: 'Faces whose wall has another thickness.',
      rare: true,
    },
  },
  sentence: () => [
    'to a wall of',
    { field: 'thick' },
    { field: 'side' },
    ', open at',
    { field: 'open' },
    ', but',
    { field: 'other' },
  ],
  apply({ thick, side, open, other }, work) {
    const { scope, solid, miss, advise } = work
    const named = work.named(solid)
    for (const name of [...open, ...other.map(({ face }) => face)])
      if (facesCalled(named, name).length === 0) miss('face-not-here', { where: name.face ?? 'This step' })
    const opened = new Set(open.flatMap((name) => facesCalled(named, name)))
    const own = new Map(other.flatMap(({ face, size: mm }) => facesCalled(named, face).map((at) => [at, mm] as const)))
    const inner = side === 'in' ? 1 : side === 'half' ? 0.5 : 0
    const walls = wallsOf(work, named, (face) => (opened.has(face) ? 0 : (own.get(face) ?? thick)))
    const cavity = inner > 0 ? cavityIn(walls, inner, inner * thick) : { solid, thin: undefined, isOpen: false }
    if (cavity.solid.isEmpty()) {
      advise('hollow-none', { thick })
      return [solid]
    }
    const outside = inner < 1 ? grownBy(walls, 1 - inner, (1 - inner) * thick) : { solid, thin: undefined }
    // What is open ends at the rim of its wall, which lies on the solid itself.
    const thin = cavity.thin ?? (opened.size === 0 ? outside.thin : undefined)
    if (thin) advise('wall-thin', thin)
    const openKeys = new Set([...opened].map((face) => named.faces[face]!.key))
    const through = cavity.isOpen ? cavity.solid : openedAt(work, cavity.solid, openKeys)
    return [scope.difference(outside.solid, [through])]
  },
})

/** A solid that is to have walls. */
interface Walls {
  readonly work: TreatmentWork
  readonly named: NamedSolid
  readonly surface: Surface
  /** how thick the wall of a face is, mm; 0 where it is open */
  thick(face: number): number
}

function wallsOf(work: TreatmentWork, named: NamedSolid, thick: (face: number) => number): Walls {
  return { work, named, thick, surface: new Surface(named, work.solid.corners()) }
}

interface Walled {
  readonly solid: Solid
  /** where a wall came out thinner than it should be */
  readonly thin: Thin | undefined
}

/** What lies nowhere nearer to the surface than a share of its wall, and whether it goes on through what is open. */
function cavityIn(walls: Walls, share: number, wall: number): Walled & { readonly isOpen: boolean } {
  const moved = movedWalls(walls, share, 1)
  if (moved) return { solid: moved, thin: undefined, isOpen: true }
  const { scope, solid } = walls.work
  const cavity = bodiesOf(walls, share, 1).reduce((rest, own) => scope.difference(rest, own), solid)
  const whole = scope.withoutCrumbs(cavity, scope.union([]), crumb * wall ** 3)
  return { solid: whole, thin: thinIn(walls, share, whole), isOpen: false }
}

/** The solid with a share of its walls round it; its outer edges are rounded by as much. */
function grownBy(walls: Walls, share: number, wall: number): Walled {
  const moved = movedWalls(walls, share, -1)
  if (moved) return { solid: moved, thin: undefined }
  const { scope, solid } = walls.work
  const grown = bodiesOf(walls, share, -1).reduce((rest, own) => scope.union([rest, ...own]), solid)
  // Between bodies that nearly meet there may be next to nothing.
  const whole = scope.withoutCrumbs(grown, solid, crumb * wall ** 3)
  return { solid: whole, thin: thinIn(walls, share, whole) }
}

/** The same without a cut, where moving the faces is all there is to it. */
function movedWalls(walls: Walls, share: number, way: 1 | -1): Solid | undefined {
  const { surface, work } = walls
  const { scope, own } = work
  const size = (face: number) => share * walls.thick(face)
  // Inside, what is open goes a little beyond its face: no skin is left there.
  const moved = movedBy(scope, surface, (face) => size(face) || (way > 0 ? -beyond : 0), way)
  if (!moved) return undefined
  const words: string[] = []
  for (const patch of patchesOf(surface, size)) {
    const word = facesOf(walls, way, [...new Set(patch.map((t) => surface.face(3 * t)))])
    for (const t of patch) words[t] = word
  }
  // Where some of its corners fall together it may be none.
  const made = tried(() => scope.surface(moved.points, moved.triangles))
  if (!made) return undefined
  const solid = own(made, (p) => ({ face: words[moved.cameFrom(p)] ?? 'open' }))
  // Walls that have passed each other on all sides enclose something again, inside out.
  return thinIn(walls, share, solid) ? undefined : solid
}

function facesOf({ named }: Walls, way: 1 | -1, faces: readonly number[]): string {
  return `${way > 0 ? 'inside' : 'outside'} of ${wordsOf(named, faces)}`
}

/**
 * All that lies nearer to the surface than a share of its wall, inside of it (1) or outside; in groups that are each one operation.
 * Where walls fold up to a line many of their corners nearly fall together, which leads the library astray where the thin bodies
 * over seams pass through there: it loses corners of others then. One after the other they do no harm.
 */
function bodiesOf(walls: Walls, share: number, way: 1 | -1): Solid[][] {
  const { surface, named, thick } = walls
  const { scope, fineness, own } = walls.work
  const size = (face: number) => share * thick(face)
  const flats = (radius: number) => flatsRound(radius, fineness, true)
  const made = (solid: Solid, face: string) => own(solid, () => ({ face }))
  const bodyOf = ({ points, triangles }: Body) => scope.surface(points, triangles)
  const slabs = [...slabsOf(surface, size, clearance, way), ...wedgesOf(surface, size, clearance, way)]
  const tubes = tubesOf(surface, way > 0 ? -1 : 1, thickerBeside(named, size), flats)
  const isFlat = ({ faces }: Slab) => faces.every((face) => surface.flatFace(face) !== undefined)
  const [flat, round] = [slabs.filter(isFlat), slabs.filter((slab) => !isFlat(slab))]
  const ofKind = (all: readonly Slab[], kind: Slab['kind']) =>
    all
      .filter((slab) => slab.kind === kind)
      .map((slab) => made(kind === 'hull' ? scope.hull(slab.points) : bodyOf(slab), facesOf(walls, way, slab.faces)))
  const edges = `${way > 0 ? 'inside' : 'outside'} of edges`
  return [
    // Under flats alone there is least to be cut, and what is left is smaller.
    ofKind(flat, undefined),
    [...ofKind(round, undefined), ...tubes.map((tube) => made(bodyOf(tube), edges))],
    ofKind(slabs, 'folded'),
    ofKind(slabs, 'hull'),
    ofKind(slabs, 'fin'),
  ].filter((group) => group.length > 0)
}

/** Walls may be thinner by so much and as much as the fineness, mm: their flats are. */
const thinner = 0.02

/** Where a wall came out too thin: nothing is trusted that is made by hundreds of bodies. */
function thinIn({ work: { fineness }, named, thick }: Walls, share: number, made: Solid): Thin | undefined {
  return thinnest(named, (face) => share * thick(face), made.corners(), thinner + fineness)
}

/** How far slabs go beyond the surface that they lie under, mm. */
const clearance = 0.01
/** A cavity of less than this, as a share of the cube of the wall, is none, nor is a gap in it. */
const crumb = 0.05

/** The thicker one of the walls beside an edge. */
function thickerBeside({ edges }: NamedSolid, thick: (face: number) => number): (edge: number) => number {
  return (edge) => Math.max(...edges[edge]!.faces.map(thick))
}

/** Where the cavity reaches an open face, which is told by its key, it goes a little beyond it. */
function openedAt(work: TreatmentWork, cavity: Solid, opened: ReadonlySet<string>): Solid {
  if (opened.size === 0) return cavity
  const { scope } = work
  const now = work.named(cavity)
  const isOpen = now.faces.map(({ key }) => opened.has(key))
  if (!isOpen.includes(true)) return cavity
  const surface = new Surface(now, cavity.corners())
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
  return scope.shifted(cavity, by)
}

/** How far the cavity goes beyond an open face, mm: no skin is left there. */
const beyond = 2e-3

function wordsOf({ faces }: NamedSolid, of: readonly number[]): string {
  return listed([...new Set(of.map((face) => shortName(faces[face]!.key)))].sort())
}
