import { type ClosedSurface, directionOf, type Surface, stripOf } from '../edges/index.ts'
import { nextHalfEdge, TriangleTree } from '../mesh/index.ts'
import { add, cross, dot, norm, perpendicular, scaled, subtract, type Vec3 } from '../place/index.ts'
import { type Going, leastWay, onePlane } from './leastWay.ts'

/** What lies within a wall's thickness of one smooth stretch of the surface. */
export interface Slab extends ClosedSurface {
  /** places in the list of faces, whatever it is of */
  readonly faces: readonly number[]
  /**
   * folded: of one face that folds up under its wall, as deep as it can be; fin: a thin one over a seam beside what is folded; hull:
   * the hull of its points, under one triangle or along the line that a face folds up in
   */
  readonly kind?: 'folded' | 'hull' | 'fin'
}

/**
 * Bodies that hold all that lies less than its thickness under each face, and as much as `clear` above it: one for all faces of one
 * thickness that run on smoothly into each other. Faces of thickness 0 have none.
 */
export function slabsOf(surface: Surface, thick: (face: number) => number, clear: number, way: 1 | -1 = 1): Slab[] {
  return patchesOf(surface, thick).flatMap((patch) => {
    const size = thick(surface.face(3 * patch[0]!))
    const ends = endsOf(surface, patch, size, clear, way)
    const faces = byFace(surface, patch).map((part) => ({ part, folding: foldingOf(surface, part, size, way) }))
    if (faces.every(({ folding }) => folding === 'none')) {
      const whole = slabOf(surface, patch, ends, way)
      if (!crossesItself(whole)) return [whole]
    }
    // What folds up goes straight down where it begins: so does what runs into it.
    const rest = faces.flatMap(({ part, folding }) => (folding === 'even' ? [] : part))
    const under = endsOf(surface, rest, size, clear, way)
    const slabs = faces.flatMap(({ part, folding }): Slab[] => {
      if (folding === 'even') {
        const stopped = endsOf(surface, part, size, clear, way, true)
        return [{ ...slabOf(surface, part, stopped, way), kind: 'folded' }, ...coresOf(surface, part, stopped, size)]
      }
      // With all that it runs into: it ends where these begin.
      const own = slabOf(surface, part, under, way)
      const isPlain = folding === 'none' && (part.length > mostApart || !crossesItself(own))
      return isPlain ? [own] : part.map((t) => prismOf(surface, t, under))
    })
    const even = faces.flatMap(({ part, folding }) => (folding === 'even' ? part : []))
    return [...slabs, ...finsOf(surface, even, patch, size, clear, way)]
  })
}

/** Whether a body passes through itself, as where its faces run on round a corner: the library cannot cut with it then. */
function crossesItself({ points, triangles }: Slab): boolean {
  const mesh = { positions: Float64Array.from(points.flat()), triangles: Uint32Array.from(triangles.flat()) }
  return new TriangleTree(mesh).crossesItself(shallow)
}

/** What runs through itself by less has only been rounded, mm. */
const shallow = 1e-4

/**
 * Whether the triangles of a face fold up under its wall: a round or a ball does so evenly, and nothing lies deeper. Where a ball went
 * round an edge some do so at once and others deep down; what lies under one passes through what lies under others there.
 */
function foldingOf(surface: Surface, face: readonly number[], thick: number, way: 1 | -1): 'none' | 'even' | 'uneven' {
  const folds = face.map((t) => foldsAt(surface, t, way)).filter((deep) => deep < thick)
  if (folds.length === 0) return 'none'
  const [least, most] = folds.reduce(([low, high], deep) => [Math.min(low, deep), Math.max(high, deep)], [thick, 0])
  return most < unevenFold * least || face.length > mostApart ? 'even' : 'uneven'
}

/** How many times deeper than others some triangles fold up where a face does so unevenly. */
const unevenFold = 4
/** More triangles than these would take too long one by one. */
const mostApart = 3000
/** How far what lies under one triangle goes beyond its sides, mm, so that it overlaps what lies beside it. */
const overlap = 0.02

/** All that lies under one triangle, as if there were nothing else; its corners may pass each other. */
function prismOf(surface: Surface, t: number, ends: Ends): Slab {
  const flat = surface.flat(t)
  const along = scaled(perpendicular(flat), overlap)
  const beside = cross(flat, along)
  const ways = [along, beside, scaled(along, -1), scaled(beside, -1)]
  const points = [3 * t, 3 * t + 1, 3 * t + 2].flatMap((h) => {
    const { clear, deep } = ends(h)
    return ways.flatMap((by) => [add(clear, by), add(deep, by)])
  })
  return { points, triangles: [], faces: [surface.face(3 * t)], kind: 'hull' }
}

/** Cores are as thick as this at most, mm, and as far from each other at least. */
const coreWidth = 0.05

/** Thin bodies along the line that a face folds up in, where its triangles do not all quite get to. */
function coresOf(surface: Surface, part: readonly number[], ends: Ends, thick: number): Slab[] {
  const cores = new Map<string, Slab>()
  const cell = (p: Vec3) => p.map((x) => Math.round(x / coreWidth)).join(' ')
  for (const t of part)
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const both = [h, nextHalfEdge(h)].map((corner) => {
        const { deep } = ends(corner)
        return { deep, far: norm(subtract(deep, surface.at(surface.from(corner)))) }
      })
      const room = (thick - Math.max(...both.map(({ far }) => far))) / Math.sqrt(3)
      const key = both
        .map(({ deep }) => cell(deep))
        .sort()
        .join(' ')
      if (room <= 0 || cores.has(key)) continue
      const half = Math.min(room, coreWidth / 2)
      const points = both.flatMap(({ deep }) =>
        [-half, half].flatMap((x) =>
          [-half, half].flatMap((y) => [-half, half].map((z): Vec3 => add(deep, [x, y, z]))),
        ),
      )
      cores.set(key, { points, triangles: [], faces: [surface.face(h)], kind: 'hull' })
    }
  return [...cores.values()]
}

/** How far fins stand out to both sides of the seam that they close, mm. */
const finWidth = 0.005

/** Thin bodies over the seams of the folded triangles of a patch: walls that are as deep as they can be do not quite meet there. */
function finsOf(
  surface: Surface,
  folded: readonly number[],
  patch: readonly number[],
  thick: number,
  clear: number,
  way: 1 | -1,
): Slab[] {
  const [own, folds] = [new Set(patch), new Set(folded)]
  const within = (h: number) => {
    const twin = surface.twin(h)
    const [t, u] = [(h / 3) | 0, (twin / 3) | 0]
    const isSeam = surface.face(h) < surface.face(twin) && own.has(u) && runsOn(surface, h)
    return isSeam && (folds.has(t) || folds.has(u))
  }
  const deep = depths(surface, patch, thick, way)
  return seamsOf(surface, patch.flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2]).filter(within)).map((seam) => ({
    ...wedgeOver(surface, seam, (vertex) => deep(vertex), clear, way),
    kind: 'fin' as const,
  }))
}

/** An edge that turns by less leaves so little between the walls of its two faces that a wedge fills it, degrees. */
export const hardlyTurned = 6

/** Wedges between the walls of faces that meet in an edge which hardly turns inwards (outwards, for walls outside). */
export function wedgesOf(surface: Surface, thick: (face: number) => number, clear: number, way: 1 | -1): Slab[] {
  const { edges, chains } = surface.solid
  const all = edges.flatMap(({ bend, faces }, i) => {
    const isMeant = way * bend < 0 && Math.abs(bend) < hardlyTurned && faces.every((face) => thick(face) > 0)
    return isMeant ? chains[i]!.halfEdges.filter((h) => !runsOn(surface, h)) : []
  })
  const triangles = Array.from({ length: surface.solid.triangles.length / 3 }, (_, t) => t)
  const most = Math.max(0, ...surface.solid.faces.map((_, face) => thick(face)))
  const deep = all.length > 0 ? depths(surface, triangles, most, way) : () => most
  const one = all.map((h) => (surface.face(h) <= surface.face(surface.twin(h)) ? h : surface.twin(h)))
  return seamsOf(surface, one).map((seam) =>
    wedgeOver(surface, seam, (vertex, face) => Math.min(deep(vertex), thick(face)), clear, way),
  )
}

/** What lies between the walls on both sides of a seam, and a little of these. */
function wedgeOver(
  surface: Surface,
  { halfEdges, closed }: Seam,
  deep: (vertex: number, face: number) => number,
  clear: number,
  way: 1 | -1,
): Slab {
  const last = halfEdges.length - 1
  const ends = closed ? halfEdges : [...halfEdges, -1]
  const profiles = ends.map((_, i) => {
    const before = halfEdges[closed ? (i + last) % (last + 1) : Math.max(0, i - 1)]!
    const after = halfEdges[Math.min(i, last)]!
    // On the left the vertex is left along the seam, on the right against it.
    const left = i <= last ? after : nextHalfEdge(before)
    const right = i === 0 && !closed ? nextHalfEdge(surface.twin(after)) : surface.twin(before)
    const vertex = surface.from(left)
    const at = surface.at(vertex)
    const [m, n] = [scaled(surface.normal(left), way), scaled(surface.normal(right), way)]
    const up = scaled(add(m, n), 1 / norm(add(m, n)))
    const across = cross(up, add(directionOf(surface, before), directionOf(surface, after)))
    const beside = scaled(across, finWidth / (norm(across) || 1))
    const top = add(at, scaled(up, clear))
    const low = (corner: number, normal: Vec3) => subtract(at, scaled(normal, deep(vertex, surface.face(corner))))
    // Seen from within, left and right change places.
    const [here, there] = way > 0 ? [low(left, m), low(right, n)] : [low(right, n), low(left, m)]
    // Counter-clockwise as one looks along it.
    return [add(here, beside), subtract(there, beside), subtract(top, beside), add(top, beside)]
  })
  const faces = [surface.face(halfEdges[0]!), surface.face(surface.twin(halfEdges[0]!))]
  return { ...stripOf(profiles, closed, 1, 0), faces }
}

interface Seam {
  /** one after the other */
  readonly halfEdges: readonly number[]
  readonly closed: boolean
}

/** Where a seam turns by more than this it is begun anew, as a cosine. */
const sharpestTurn = 0.5

/** Half-edges between the same two faces, as far as they go on. */
function seamsOf(surface: Surface, seams: readonly number[]): Seam[] {
  /** by the two faces and the vertex that it leaves */
  const leaving = new Map<string, number>()
  const keyOf = (h: number, vertex: number) => `${surface.face(h)} ${surface.face(surface.twin(h))} ${vertex}`
  for (const h of seams) leaving.set(keyOf(h, surface.from(h)), h)
  const arriving = new Map(seams.map((h) => [keyOf(h, surface.from(nextHalfEdge(h))), h]))
  const goesOn = (h: number, next: number | undefined): next is number =>
    next !== undefined && dot(directionOf(surface, h), directionOf(surface, next)) > sharpestTurn
  const after = (h: number) => {
    const next = leaving.get(keyOf(h, surface.from(nextHalfEdge(h))))
    return goesOn(h, next) ? next : undefined
  }
  const isFirst = (h: number) => {
    const before = arriving.get(keyOf(h, surface.from(h)))
    return before === undefined || after(before) !== h
  }
  const done = new Set<number>()
  const follow = (first: number): Seam => {
    const halfEdges: number[] = []
    let h: number | undefined = first
    for (; h !== undefined && !done.has(h); h = after(h)) {
      done.add(h)
      halfEdges.push(h)
    }
    return { halfEdges, closed: h === first && halfEdges.length > 2 }
  }
  const open = seams.filter(isFirst).map(follow)
  return [...open, ...seams.flatMap((h) => (done.has(h) ? [] : [follow(h)]))]
}

function byFace(surface: Surface, patch: readonly number[]): readonly (readonly number[])[] {
  const faces = new Map<number, number[]>()
  for (const t of patch) {
    const face = surface.face(3 * t)
    const own = faces.get(face)
    if (own) own.push(t)
    else faces.set(face, [t])
  }
  return [...faces.values()]
}

/** Triangles that hang together smoothly and have one thickness. */
export function patchesOf(surface: Surface, thick: (face: number) => number): number[][] {
  const count = surface.solid.triangles.length / 3
  const done = new Uint8Array(count)
  const patches: number[][] = []
  for (let first = 0; first < count; first++) {
    const size = thick(surface.face(3 * first))
    if (done[first] || size <= 0) continue
    const patch = [first]
    done[first] = 1
    for (const t of patch)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const other = (surface.twin(h) / 3) | 0
        if (!runsOn(surface, h) || done[other] || thick(surface.face(3 * other)) !== size) continue
        done[other] = 1
        patch.push(other)
      }
    patches.push(patch)
  }
  return patches
}

/** Whether the surface goes on smoothly over a half-edge, with the same normals at both of its ends. */
export function runsOn(surface: Surface, h: number): boolean {
  if (!surface.isSmooth(h)) return false
  const twin = surface.twin(h)
  const same = (corner: number, other: number) => isSame(surface.normal(corner), surface.normal(other))
  return same(h, nextHalfEdge(twin)) && same(nextHalfEdge(h), twin)
}

/** Where a wall ends above and under the corner that a half-edge leaves, the same for all corners at one vertex and normal. */
type Ends = (corner: number) => { readonly clear: Vec3; readonly deep: Vec3 }

/** All corners of a patch at one vertex that look the same way. */
interface Corner {
  readonly normal: Vec3
  readonly planes: Going[]
  ends?: ReturnType<Ends>
}

/** The ends under a patch; no deeper than where it folds up, where that is said. */
function endsOf(
  surface: Surface,
  patch: readonly number[],
  thick: number,
  clear: number,
  way: 1 | -1,
  stops = false,
): Ends {
  const deep = depths(surface, patch, thick, stops ? way : undefined)
  const known = new Map<number, readonly Corner[]>()
  const at = (corner: number) => {
    const [vertex, normal] = [surface.from(corner), surface.normal(corner)]
    const all = known.get(vertex) ?? []
    const before = all.find((one) => isSame(one.normal, normal))
    if (before) return before
    const here: Corner = { normal, planes: [] }
    known.set(vertex, [...all, here])
    return here
  }
  for (const t of patch) for (let h = 3 * t; h < 3 * t + 3; h++) notePlane(at(h).planes, surface, h, thick)
  return (corner) => {
    const here = at(corner)
    if (here.ends) return here.ends
    const vertex = surface.from(corner)
    const plain = scaled(here.normal, deep(vertex))
    const under = stops ? plain : (leastWay(here.planes) ?? plain)
    const place = surface.at(vertex)
    here.ends = {
      clear: add(place, scaled(here.normal, way * clear)),
      deep: subtract(place, scaled(under, way)),
    }
    return here.ends
  }
}

/** Notes how a corner's flat is to move: a flat face just so far, so that its wall is as thick as asked; a flat of a round at least. */
function notePlane(planes: Going[], surface: Surface, h: number, by: number): void {
  const face = surface.flatFace(surface.face(h))
  const normal = face ?? surface.flat((h / 3) | 0)
  const known = planes.findIndex((plane) => dot(plane.normal, normal) > onePlane)
  if (known < 0) planes.push({ normal, by, exactly: face !== undefined })
  else if (face && !planes[known]!.exactly) planes[known] = { normal, by, exactly: true }
}

function isSame(a: Vec3, b: Vec3): boolean {
  return dot(a, b) > 1 - 1e-9
}

function slabOf(surface: Surface, patch: readonly number[], ends: Ends, way: 1 | -1): Slab {
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  /** where its two points stand in the list */
  const places = new Map<ReturnType<Ends>, number>()
  const placeOf = (corner: number) => {
    const both = ends(corner)
    const known = places.get(both)
    if (known !== undefined) return known
    const place = points.push(both.clear, both.deep) - 2
    places.set(both, place)
    return place
  }
  const face = (a: number, b: number, c: number) => triangles.push(way > 0 ? [a, b, c] : [a, c, b])
  const own = new Set(patch)
  for (const t of patch) {
    const [a, b, c] = [placeOf(3 * t), placeOf(3 * t + 1), placeOf(3 * t + 2)]
    face(a, b, c)
    face(a + 1, c + 1, b + 1)
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const twin = surface.twin(h)
      if (own.has((twin / 3) | 0) && runsOn(surface, h)) continue
      const [p, q] = [placeOf(h), placeOf(nextHalfEdge(h))]
      // Both sides of a seam are cut the same way: where it is twisted they would leave a gap.
      if (surface.from(h) < surface.from(nextHalfEdge(h))) {
        face(p, p + 1, q + 1)
        face(p, q + 1, q)
      } else {
        face(p, p + 1, q)
        face(p + 1, q + 1, q)
      }
    }
  }
  return { points, triangles, faces: [...new Set(patch.map((t) => surface.face(3 * t)))] }
}

/**
 * How deep a wall goes under each vertex of a patch: so that its flats lie as deep as it is thick, and with a way no deeper than
 * where the surface would fold up under it. What lies deeper is nearer to something else.
 */
function depths(
  surface: Surface,
  patch: readonly number[],
  thick: number,
  way: 1 | -1 | undefined,
): (vertex: number) => number {
  const deepest = new Map<number, number>()
  const folds = new Map<number, number>()
  for (const t of patch) {
    const most = way === undefined ? thick : foldsAt(surface, t, way)
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const vertex = surface.from(h)
      deepest.set(vertex, Math.max(deepest.get(vertex) ?? thick, thick * stretchAt(surface, h)))
      if (most < thick) folds.set(vertex, Math.min(folds.get(vertex) ?? thick, most * (1 - 1e-6)))
    }
  }
  return (vertex) => folds.get(vertex) ?? deepest.get(vertex) ?? thick
}

/** No flat lies farther off the surface that it stands for, as a cosine. */
const leastCosine = 0.8

/** How many times as far the corner that half-edge `h` leaves goes along its normal as the flat that it is of. */
export function stretchAt(surface: Surface, h: number): number {
  return 1 / Math.max(leastCosine, dot(surface.normal(h), surface.flat((h / 3) | 0)))
}

/** Roots nearer to each other than this are one: the square of what they differ by, as a share of their sum's. */
const sameRoot = 1e-4

/** How deep under a triangle its corners can go along their normals before it turns over, mm. */
function foldsAt(surface: Surface, t: number, way: 1 | -1): number {
  const [a, b, c] = [0, 1, 2].map((i) => surface.at(surface.from(3 * t + i))) as [Vec3, Vec3, Vec3]
  const [p, q, r] = [0, 1, 2].map((i) => scaled(surface.normal(3 * t + i), way)) as [Vec3, Vec3, Vec3]
  const n = surface.flat(t)
  // Twice its area, seen along its normal, is a quadratic of the depth.
  const [u, v, du, dv] = [subtract(b, a), subtract(c, a), subtract(q, p), subtract(r, p)]
  const [constant, linear, square] = [
    dot(cross(u, v), n),
    -dot(add(cross(u, dv), cross(du, v)), n),
    dot(cross(du, dv), n),
  ]
  // On a ball both roots are one, and rounding may leave none.
  const apart = linear ** 2 - 4 * square * constant
  if (apart < -sameRoot * linear ** 2) return Number.POSITIVE_INFINITY
  const root = Math.max(0, apart)
  // The form that loses no digits where the square is next to nothing.
  const half = -(linear + Math.sign(linear || 1) * Math.sqrt(root)) / 2
  const both = [half / square, constant / half].filter((x) => x > 0 && Number.isFinite(x))
  return both.length > 0 ? Math.min(...both) : Number.POSITIVE_INFINITY
}
