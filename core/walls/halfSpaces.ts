import type { Scope, Solid } from '../kernel/index.ts'
import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** All points p with `normal` · p ≤ `offset`; the normal is unit, the offset in mm. */
export interface HalfSpace {
  readonly normal: Vec3
  readonly offset: number
}

/** Nearer to each other than this corners are one, mm. */
const oneCorner = 1e-6
/** What is nowhere deeper than this is nothing, mm. */
const leastDepth = 1e-4

/**
 * The solid that half-spaces have in common, which must be bounded; undefined where that is nothing.
 *
 * Seen from a point within, a plane n · p = d is the point n / d of the dual space; the hull of all of them has a triangle for
 * each corner of the solid: where the planes of its three points meet (de Berg et al., Computational Geometry, 3rd ed., 11.4).
 */
export function commonOf(scope: Scope, spaces: readonly HalfSpace[]): Solid | undefined {
  const inner = deepest(spaces)
  if (!inner || inner.depth < leastDepth) return undefined
  const { point } = inner
  const depths = spaces.map(({ normal, offset }) => offset - dot(normal, point))
  const duals = spaces.map(({ normal }, i) => scaled(normal, 1 / depths[i]!))
  const dual = scope.hull(duals)
  const corners = dual.corners()
  const { triangles } = dual.mesh()
  const at = (i: number): Vec3 => [
    corners[3 * triangles[i]!]!,
    corners[3 * triangles[i]! + 1]!,
    corners[3 * triangles[i]! + 2]!,
  ]
  const found = new Distinct(oneCorner)
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(t), at(t + 1), at(t + 2)]
    const [u, v] = [subtract(b, a), subtract(c, a)]
    const across = cross(u, v)
    const longest = Math.max(norm(u), norm(v), norm(subtract(c, b)))
    // Where more than three planes meet, the hull has a flat there, and may fill it with slivers that know nothing.
    if (norm(across) < 1e-9 * longest * longest) continue
    const far = dot(across, a)
    if (!(far > 0)) continue
    const corner = scaled(across, 1 / far)
    if (spaces.every(({ normal }, i) => dot(normal, corner) - depths[i]! < oneCorner)) found.add(add(corner, point))
  }
  return found.points.length < 4 ? undefined : scope.hull(found.points)
}

/** Points, each place once. */
class Distinct {
  readonly points: Vec3[] = []
  readonly #cells = new Map<string, Vec3[]>()
  readonly #within: number

  constructor(within: number) {
    this.#within = within
  }

  add(p: Vec3): void {
    const size = 4 * this.#within
    const [x, y, z] = p.map((each) => Math.floor(each / size)) as [number, number, number]
    for (let i = x - 1; i <= x + 1; i++)
      for (let j = y - 1; j <= y + 1; j++)
        for (let k = z - 1; k <= z + 1; k++)
          if (this.#cells.get(`${i} ${j} ${k}`)?.some((known) => norm(subtract(known, p)) < this.#within)) return
    const key = `${x} ${y} ${z}`
    this.#cells.set(key, [...(this.#cells.get(key) ?? []), p])
    this.points.push(p)
  }
}

/**
 * The point that lies deepest in all half-spaces, and how deep, mm; undefined where they have no bound. A linear program in four
 * unknowns: solved over a few of them, to which the one that is missed most is added until none is.
 */
export function deepest(spaces: readonly HalfSpace[]): { readonly point: Vec3; readonly depth: number } | undefined {
  const working = new Set<HalfSpace>()
  for (const way of ways) {
    // The tightest one of those that look about this way.
    let best: { readonly space: HalfSpace; readonly like: number } | undefined
    for (const space of spaces) {
      const like = dot(space.normal, way)
      if (!best || like > best.like + 1e-9 || (like > best.like - 1e-9 && space.offset < best.space.offset))
        best = { space, like }
    }
    if (best) working.add(best.space)
  }
  for (let turn = 0; turn < mostTurns; turn++) {
    const best = deepestOf([...working])
    if (!best) return undefined
    const { point, depth } = best
    let worst: HalfSpace | undefined
    let missed = solvedWithin
    for (const space of spaces) {
      const by = dot(space.normal, point) + depth - space.offset
      if (by > missed) [worst, missed] = [space, by]
    }
    if (!worst) return best
    for (const space of working)
      if (working.size > mostWorking && dot(space.normal, point) + depth - space.offset < -solvedWithin)
        working.delete(space)
    working.add(worst)
  }
  return undefined
}

const ways: readonly Vec3[] = [
  ...([-1, 1] as const).flatMap((s): Vec3[] => [
    [s, 0, 0],
    [0, s, 0],
    [0, 0, s],
  ]),
]
const mostTurns = 200
/** Half-spaces that are solved for at once. */
const mostWorking = 12
/** mm */
const solvedWithin = 1e-9

/** The same of so few half-spaces that all fours of them can be tried. */
function deepestOf(spaces: readonly HalfSpace[]): { readonly point: Vec3; readonly depth: number } | undefined {
  let best: { readonly point: Vec3; readonly depth: number } | undefined
  const n = spaces.length
  for (let a = 0; a < n; a++)
    for (let b = a + 1; b < n; b++)
      for (let c = b + 1; c < n; c++)
        for (let d = c + 1; d < n; d++) {
          const met = meetingOf([spaces[a]!, spaces[b]!, spaces[c]!, spaces[d]!])
          if (!met || (best && met.depth <= best.depth)) continue
          const { point, depth } = met
          if (spaces.every(({ normal, offset }) => dot(normal, point) + depth - offset < solvedWithin)) best = met
        }
  return best
}

/**
 * Where four planes lie equally deep: normal · p + depth = offset. Only where that is as deep as can be: where no way leads out of all
 * of them, which is so if the origin lies in the hull of their normals (all four shares of one sign).
 */
function meetingOf(four: readonly HalfSpace[]): { readonly point: Vec3; readonly depth: number } | undefined {
  const [p, q, r, s] = four as [HalfSpace, HalfSpace, HalfSpace, HalfSpace]
  // Without the depth: three equations between the first and each of the others.
  const [u, v, w] = [subtract(q.normal, p.normal), subtract(r.normal, p.normal), subtract(s.normal, p.normal)]
  const whole = dot(u, cross(v, w))
  if (Math.abs(whole) < 1e-12) return undefined
  const right = [q.offset - p.offset, r.offset - p.offset, s.offset - p.offset] as const
  const sum = add(add(scaled(cross(v, w), right[0]), scaled(cross(w, u), right[1])), scaled(cross(u, v), right[2]))
  const point = scaled(sum, 1 / whole)
  // Barycentric places of the origin among the four normals.
  const away = scaled(p.normal, -1)
  const [b, c, d] = [dot(away, cross(v, w)) / whole, dot(cross(w, u), away) / whole, dot(cross(u, v), away) / whole]
  if (Math.min(b, c, d, 1 - b - c - d) < -1e-9) return undefined
  return { point, depth: p.offset - dot(p.normal, point) }
}
