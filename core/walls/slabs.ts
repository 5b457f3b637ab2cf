import type { Body, Surface } from '../edges/index.ts'
import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** What lies within a wall's thickness of one smooth stretch of the surface. */
export interface Slab extends Body {
  /** places in the list of faces, whatever it is of */
  readonly faces: readonly number[]
}

/**
 * Bodies that hold all that lies less than its thickness under each face, and as much as `clear` above it: one for all faces of one
 * thickness that run on smoothly into each other. Faces of thickness 0 have none.
 */
export function slabsOf(surface: Surface, thick: (face: number) => number, clear: number, way: 1 | -1 = 1): Slab[] {
  return patchesOf(surface, thick).flatMap((patch) => {
    const size = thick(surface.face(3 * patch[0]!))
    // Where it would fold up, each face is as deep as it can be by itself.
    if (!patch.some((t) => foldsAt(surface, t, way) < size)) return [slabOf(surface, patch, size, clear, way)]
    const parts = byFace(surface, patch)
    return [
      ...parts.map((part) => slabOf(surface, part, size, clear, way)),
      ...finsOf(surface, patch, size, clear, way),
    ]
  })
}

/** How far fins stand out to both sides of the seam that they close, mm. */
const finWidth = 0.005

/** Thin bodies over the seams between the faces of a patch: walls that are as deep as they can be do not quite meet there. */
function finsOf(surface: Surface, patch: readonly number[], thick: number, clear: number, way: 1 | -1): Slab[] {
  const deep = depths(surface, patch, thick, way)
  const own = new Set(patch)
  return patch.flatMap((t) =>
    [3 * t, 3 * t + 1, 3 * t + 2].flatMap((h): Slab[] => {
      const twin = surface.twin(h)
      const other = (twin / 3) | 0
      if (twin < h || !own.has(other) || surface.face(h) === surface.face(twin) || !runsOn(surface, h)) return []
      const ends = [h, nextHalfEdge(h)].map((corner) => {
        const [at, normal] = [surface.at(surface.from(corner)), scaled(surface.normal(corner), way)]
        return {
          top: add(at, scaled(normal, clear)),
          low: subtract(at, scaled(normal, deep(surface.from(corner)))),
          normal,
        }
      })
      const [p, q] = ends as [(typeof ends)[0], (typeof ends)[0]]
      const across = cross(p.normal, subtract(q.top, p.top))
      const size = norm(across)
      if (size < 1e-9) return []
      const beside = scaled(across, finWidth / size)
      // Seen from above: left and right of the seam, then the same below.
      const corners = [p.top, q.top, p.low, q.low].flatMap((at) => [add(at, beside), subtract(at, beside)])
      return [{ points: corners, triangles: box, faces: [surface.face(h), surface.face(twin)] }]
    }),
  )
}

/** The faces of a box whose corners are: left and right of its first end above, of its second end above, and both below. */
const box: Slab['triangles'] = [
  [0, 1, 3],
  [0, 3, 2],
  [4, 7, 5],
  [4, 6, 7],
  [0, 5, 1],
  [0, 4, 5],
  [2, 3, 7],
  [2, 7, 6],
  [0, 2, 6],
  [0, 6, 4],
  [1, 5, 7],
  [1, 7, 3],
]

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
function patchesOf(surface: Surface, thick: (face: number) => number): number[][] {
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
  const same = (corner: number, other: number) => dot(surface.normal(corner), surface.normal(other)) > 1 - 1e-9
  return same(h, nextHalfEdge(twin)) && same(nextHalfEdge(h), twin)
}

function slabOf(surface: Surface, patch: readonly number[], thick: number, clear: number, way: 1 | -1): Slab {
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  const deep = depths(surface, patch, thick, way)
  /** by vertex and normal: where its two points stand in the list */
  const places = new Map<string, number>()
  const placeOf = (corner: number) => {
    const normal = surface.normal(corner)
    const key = `${surface.from(corner)} ${normal.map((x) => x.toFixed(7))}`
    const known = places.get(key)
    if (known !== undefined) return known
    const at = surface.at(surface.from(corner))
    const place =
      points.push(
        add(at, scaled(normal, way * clear)),
        subtract(at, scaled(normal, way * deep(surface.from(corner)))),
      ) - 2
    places.set(key, place)
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
      face(p, p + 1, q + 1)
      face(p, q + 1, q)
    }
  }
  return { points, triangles, faces: [...new Set(patch.map((t) => surface.face(3 * t)))] }
}

/**
 * How deep a wall goes under each vertex of a patch: no deeper than where the surface under it would fold up. What lies deeper is
 * nearer to something else.
 */
function depths(surface: Surface, patch: readonly number[], thick: number, way: 1 | -1): (vertex: number) => number {
  const least = new Map<number, number>()
  for (const t of patch) {
    const most = foldsAt(surface, t, way)
    if (most >= thick) continue
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const vertex = surface.from(h)
      least.set(vertex, Math.min(least.get(vertex) ?? thick, most * (1 - 1e-6)))
    }
  }
  return (vertex) => least.get(vertex) ?? thick
}

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
  const root = linear ** 2 - 4 * square * constant
  if (root < 0) return Number.POSITIVE_INFINITY
  // The form that loses no digits where the square is next to nothing.
  const half = -(linear + Math.sign(linear || 1) * Math.sqrt(root)) / 2
  const both = [half / square, constant / half].filter((x) => x > 0 && Number.isFinite(x))
  return both.length > 0 ? Math.min(...both) : Number.POSITIVE_INFINITY
}
