import { bordersOf, nextHalfEdge } from '../mesh/index.ts'
import { cross, dot, norm, perpendicular, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Ring } from '../plane/index.ts'
import { previous, type Surface } from './surface.ts'

/** What takes the place of edges that go round: across them at each station, from where it meets the left face to the right. */
export interface Strip {
  /** half-edges that run along them, each from where the one before ends, the left face on their own side */
  readonly halfEdges: readonly number[]
  /** the number of its stretch and the share of that, ascending from 0: at every vertex one at least, and maybe some between */
  readonly gone: readonly number[]
  /** as many points each */
  readonly arcs: readonly (readonly Vec3[])[]
  /** the edges that what lies between each arc and the next is of, by their places in the list of all */
  readonly edges: readonly (readonly number[])[]
}

/** A closed surface in which strips have taken the place of edges. */
export interface Sewn {
  /** x, y, z of each */
  readonly points: Float64Array
  readonly triangles: Uint32Array
  /** for each triangle the one of the old surface that it comes from; below 0: of part −1 − from */
  readonly from: Int32Array
  /** the parts of strips, by the edges that they are of */
  readonly parts: readonly (readonly number[])[]
  /** strips that were sewn in */
  readonly strips: readonly Strip[]
}

/** Fills the region between rings, by the places of their points in order. */
export type Filling = (rings: readonly Ring[]) => readonly (readonly [number, number, number])[]

/**
 * A surface with strips sewn in along closed courses: without a boolean, so at no more than the cost of its triangles. Faces beside them
 * end where the strips begin. That can be done where each corner of an edge slides along an edge of the mesh, so that all triangles
 * stay in their planes, or where the face is flat and is filled anew; strips of which neither is so on both sides are left out.
 * Undefined where none is left.
 */
export function sewnIn(surface: Surface, strips: readonly Strip[], filling: Filling): Sewn | undefined {
  const taken = new Set<number>()
  const seams = strips.flatMap((strip) => {
    const seam = seamOf(surface, strip)
    const { halfEdges } = strip
    if (!seam || halfEdges.some((h) => taken.has(surface.from(h)))) return []
    for (const h of halfEdges) taken.add(surface.from(h))
    return [seam]
  })
  let all = seams
  while (all.length > 0) {
    const made = sewnAll(surface, all, filling)
    if (!('faults' in made)) return made
    // What goes with a face that cannot be filled, or a triangle that turns over, goes by a boolean.
    const left = all.filter((seam) => !made.faults.has(seam))
    all = left.length < all.length ? left : []
  }
  return undefined
}

type Side = 'left' | 'right'

/** A strip with how the surface on either side gives way to it. */
interface Seam {
  readonly strip: Strip
  /** how many stations there are up to each vertex, and at its end */
  readonly first: readonly number[]
  /** the flat face that is filled anew; undefined where corners slide */
  readonly flat: Readonly<Record<Side, number | undefined>>
}

function seamOf(surface: Surface, strip: Strip): Seam | undefined {
  const { halfEdges, gone, arcs } = strip
  const count = halfEdges.length
  if (count < 3) return undefined
  const first: number[] = []
  gone.forEach((each, k) => {
    if (each === first.length) first.push(k)
  })
  if (first.length !== count) return undefined
  first.push(gone.length)
  const flat: { [side in Side]?: number | undefined } = {}
  for (const side of ['left', 'right'] as const) {
    const line = arcs.map((arc) => (side === 'left' ? arc[0]! : arc.at(-1)!))
    const steps = line.map((p, k) => norm(subtract(line[(k + 1) % line.length]!, p)))
    if (steps.some((step) => step > samePlace && step < shortest)) return undefined
    if (slides(surface, halfEdges, side, line, first)) continue
    const face = flatBeside(surface, halfEdges, side)
    if (face === undefined) return undefined
    flat[side] = face
  }
  return { strip, first, flat: { left: flat.left, right: flat.right } }
}

/** Nearer to each other than this corners are one, mm, and nearer than the other they would fall together in single precision. */
const samePlace = 1e-9
const shortest = 1e-4
/** What is nearer to a line than this is on it, mm. */
const onLine = 1e-6

/** The corners round a vertex of a line on one of its sides, as half-edges that leave it. */
function cornersAt(surface: Surface, halfEdges: readonly number[], i: number, side: Side): number[] {
  const own = halfEdges[i]!
  const back = surface.twin(halfEdges[(i + halfEdges.length - 1) % halfEdges.length]!)
  const [from, to] = side === 'left' ? [own, back] : [back, own]
  const all: number[] = []
  for (let h = from; h !== to; h = surface.twin(previous(h))) {
    all.push(h)
    if (all.length > 10_000) break
  }
  return all
}

/** Whether every corner of a line slides along an edge of the mesh to where a strip begins, and what lies between is straight. */
function slides(
  surface: Surface,
  halfEdges: readonly number[],
  side: Side,
  line: readonly Vec3[],
  first: readonly number[],
): boolean {
  const count = halfEdges.length
  for (let i = 0; i < count; i++) {
    const vertex = surface.at(surface.from(halfEdges[i]!))
    const to = line[first[i]!]!
    const away = subtract(to, vertex)
    const [, ...inner] = cornersAt(surface, halfEdges, i, side)
    const isOn = inner.some((h) => {
      const along = subtract(surface.at(surface.from(nextHalfEdge(h))), vertex)
      const share = dot(away, along) / dot(along, along)
      return share > 0 && share < 1 && norm(subtract(away, scaled(along, share))) < onLine
    })
    if (!isOn) return false
    const [next, last] = [line[first[i + 1]! % line.length]!, first[i + 1]!]
    const straight = subtract(next, to)
    for (let k = first[i]! + 1; k < last; k++) {
      const p = subtract(line[k]!, to)
      if (norm(p) <= samePlace) continue
      const share = dot(p, straight) / dot(straight, straight)
      if (share <= 0 || share >= 1 || norm(subtract(p, scaled(straight, share))) > onLine) return false
    }
  }
  return true
}

/** The one flat face on a side of a line. */
function flatBeside(surface: Surface, halfEdges: readonly number[], side: Side): number | undefined {
  const face = surface.face(side === 'left' ? halfEdges[0]! : surface.twin(halfEdges[0]!))
  if (!surface.flatFace(face)) return undefined
  const isOne = halfEdges.every((_, i) => cornersAt(surface, halfEdges, i, side).every((h) => surface.face(h) === face))
  return isOne ? face : undefined
}

/** A half-edge that a strip takes the place of, with where that begins beside it. */
interface Border {
  readonly seam: number
  readonly side: Side
  /** the places of the strip's points along it, from its beginning; without its end */
  readonly points: readonly number[]
}

/** All seams at once, or those that cannot be. */
function sewnAll(
  surface: Surface,
  seams: readonly Seam[],
  filling: Filling,
): Sewn | { readonly faults: ReadonlySet<Seam> } {
  const { triangles: old, positions } = surface.solid
  const points: number[] = []
  for (let vertex = 0; vertex < positions.length / 3; vertex++) points.push(...surface.at(vertex))
  const at = (p: number): Vec3 => [points[3 * p]!, points[3 * p + 1]!, points[3 * p + 2]!]
  const put = ([x, y, z]: Vec3) => points.push(x, y, z) / 3 - 1
  /** where each corner of the old surface is now */
  const corners = Uint32Array.from(old)
  const borders = new Map<number, Border>()
  const owners = new Map<number, number>()
  const strips = seams.map((seam, number) => {
    const { halfEdges, arcs } = seam.strip
    const rows = arcs.map((arc) => arc.map(put))
    joinEnds(rows, arcs)
    halfEdges.forEach((h, i) => {
      for (const side of ['left', 'right'] as const) {
        const end = (k: number) => (side === 'left' ? rows[k]![0]! : rows[k]!.at(-1)!)
        const [from, to] = [seam.first[i]!, seam.first[i + 1]!]
        for (const corner of cornersAt(surface, halfEdges, i, side)) {
          corners[corner] = end(from)
          owners.set((corner / 3) | 0, number)
        }
        const next = end(to % rows.length)
        const along = [...new Set(Array.from({ length: to - from }, (_, k) => end(from + k)))].filter(
          (place) => place !== next,
        )
        const back = [next, ...along.slice(1).reverse()]
        borders.set(side === 'left' ? h : surface.twin(h), {
          seam: number,
          side,
          points: side === 'left' ? along : back,
        })
      }
    })
    return rows
  })
  const faults = new Set<number>()
  const triangles: number[] = []
  const from: number[] = []
  const add = (a: number, b: number, c: number, of: number) => {
    triangles.push(a, b, c)
    from.push(of)
  }
  const filled = new Map<number, Set<number>>()
  seams.forEach(({ flat }, number) => {
    for (const face of [flat.left, flat.right]) {
      if (face === undefined) continue
      const known = filled.get(face) ?? new Set()
      filled.set(face, known.add(number))
    }
  })
  for (let t = 0; t < old.length / 3; t++) {
    if (filled.has(surface.face(3 * t))) continue
    const owner = owners.get(t)
    if (owner === undefined) {
      add(old[3 * t]!, old[3 * t + 1]!, old[3 * t + 2]!, t)
      continue
    }
    const split = [3 * t, 3 * t + 1, 3 * t + 2].filter((h) => (borders.get(h)?.points.length ?? 0) > 1)
    const h = split[0] ?? 3 * t
    const rim = [...(borders.get(h)?.points ?? [corners[h]!]), corners[nextHalfEdge(h)]!]
    const tip = corners[previous(h)]!
    for (let k = 0; k + 1 < rim.length; k++) {
      if (split.length > 1 || !looksAlike(at(rim[k]!), at(rim[k + 1]!), at(tip), surface.flat(t))) faults.add(owner)
      add(rim[k]!, rim[k + 1]!, tip, t)
    }
  }
  for (const [face, own] of filled) {
    const made = filledAnew(surface, face, corners, borders, at, filling)
    if (!made) for (const number of own) faults.add(number)
    for (const [a, b, c] of made ?? []) add(a, b, c, surface.trianglesOf(face)[0]!)
  }
  if (faults.size > 0) return { faults: new Set([...faults].map((number) => seams[number]!)) }
  const parts = new Map<readonly number[], number>()
  seams.forEach(({ strip }, number) => {
    const rows = strips[number]!
    rows.forEach((row, k) => {
      const own = strip.edges[k]!
      const part = -1 - (parts.get(own) ?? parts.size)
      parts.set(own, -1 - part)
      const next = rows[(k + 1) % rows.length]!
      for (let j = 0; j + 1 < row.length; j++) {
        const [a, b, c, d] = [next[j]!, row[j]!, row[j + 1]!, next[j + 1]!]
        // It goes round a corner of the face on this side.
        if (a === b) add(a, c, d, part)
        if (c === d) add(a, b, c, part)
        if (a === b || c === d) continue
        // Diagonals take turns, or the volume would lean to one side.
        if ((j + k) % 2 === 0) {
          add(a, b, c, part)
          add(a, c, d, part)
        } else {
          add(a, b, d, part)
          add(b, c, d, part)
        }
      }
    })
  })
  return {
    points: Float64Array.from(points),
    triangles: Uint32Array.from(triangles),
    from: Int32Array.from(from),
    parts: [...parts.keys()],
    strips: seams.map(({ strip }) => strip),
  }
}

/** Whether a triangle still looks the way it did, as far as that can be told. */
function looksAlike(a: Vec3, b: Vec3, c: Vec3, normal: Vec3): boolean {
  const [u, v] = [subtract(b, a), subtract(c, a)]
  const n = cross(u, v)
  const longest = Math.max(norm(u), norm(v), norm(subtract(c, b)))
  return norm(n) < sliverHeight * longest || dot(n, normal) > 0.5 * norm(n)
}

/** Flatter than this a triangle may look anywhere, mm. */
const sliverHeight = 2e-4

/** The triangles of a flat face between what borders it now; undefined where these lines run into each other. */
function filledAnew(
  surface: Surface,
  face: number,
  corners: Uint32Array,
  borders: ReadonlyMap<number, Border>,
  at: (place: number) => Vec3,
  filling: Filling,
): readonly (readonly [number, number, number])[] | undefined {
  const n = surface.flatFace(face)!
  const rings = bordersOf(surface, surface.trianglesOf(face)).map((ring) =>
    ring.flatMap((h) => borders.get(h)?.points ?? [corners[h]!]),
  )
  const u = perpendicular(n)
  const v = cross(n, u)
  const flat = rings.map((ring) => ring.map((place): [number, number] => [dot(at(place), u), dot(at(place), v)]))
  const all = rings.flat()
  const seen = flat.flat()
  const triangles = filling(flat)
  let sum = 0
  for (const [a, b, c] of triangles) {
    const [[ax, ay], [bx, by], [cx, cy]] = [seen[a]!, seen[b]!, seen[c]!]
    const area = ((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2
    if (area < -1e-9) return undefined
    sum += area
  }
  const wanted = flat.reduce((total, ring) => total + areaOf(ring), 0)
  if (Math.abs(sum - wanted) > 1e-7 * (1 + Math.abs(wanted))) return undefined
  return triangles.map(([a, b, c]) => [all[a]!, all[b]!, all[c]!])
}

function areaOf(ring: Ring): number {
  return ring.reduce((sum, [x, y], i) => {
    const [p, q] = ring[(i + 1) % ring.length]!
    return sum + (x * q - p * y) / 2
  }, 0)
}

/** Makes ends of rows that are one place one point. */
function joinEnds(rows: number[][], arcs: readonly (readonly Vec3[])[]): void {
  const last = arcs[0]!.length - 1
  for (const j of [0, last])
    for (let k = 1; k < rows.length; k++)
      if (norm(subtract(arcs[k]![j]!, arcs[k - 1]![j]!)) <= samePlace) rows[k]![j] = rows[k - 1]![j]!
  for (const j of [0, last])
    if (norm(subtract(arcs[0]![j]!, arcs.at(-1)![j]!)) <= samePlace) {
      const [from, to] = [rows.at(-1)![j]!, rows[0]![j]!]
      for (const row of rows) if (row[j] === from) row[j] = to
    }
}
