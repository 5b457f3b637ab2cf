import type { TriangleMesh } from './define.ts'
import { Groups } from './groups.ts'
import { apexOf, endOf, forEachEdge, isSliver, pairedAt, shellsOf } from './shells.ts'
import { subMesh } from './subMesh.ts'

/** A triangle lower than this has no area to speak of, mm: less than a coordinate of a large part is rounded by in a file. */
const flatness = 1e-5

/**
 * The mesh as it can be written to any file: corners that single precision makes one are one vertex, no triangle is without
 * area, and no shell without volume. What holds on to closed edges stays closed: a triangle whose corner lies on its opposite side gives that
 * corner to the neighbour behind it.
 *
 *          d                  d
 *        /   \              / | \
 *       /     \     →      /  |  \
 *      a---c---b          a---c---b
 */
export function tidied(mesh: TriangleMesh): TriangleMesh {
  return fanned(withoutSlivers(flipped(welded32(mesh))))
}

/**
 * Bodies that touch in an edge or a corner only, and a body that touches itself so, share no vertex there: every edge has two
 * triangles, as programs that read meshes want it. A vertex becomes one for each fan of triangles that edges join.
 */
function fanned(mesh: TriangleMesh): TriangleMesh {
  const { positions, triangles } = mesh
  const fans = new Groups(triangles.length)
  const next = (h: number) => (h % 3 === 2 ? h - 2 : h + 1)
  forEachEdge(mesh, (halves) => {
    for (const [h, k] of pairedAt(mesh, halves)) {
      const same = triangles[h] === triangles[k]
      fans.join(h, same ? k : next(k))
      fans.join(next(h), same ? next(k) : k)
    }
  })
  // The number of each fan, at its root; and a corner of each.
  const numbers = new Int32Array(triangles.length).fill(-1)
  const corners: number[] = []
  const renumbered = triangles.map((_, corner) => {
    const fan = fans.of(corner)
    if (numbers[fan] === -1) numbers[fan] = corners.push(fan) - 1
    return numbers[fan]!
  })
  if (corners.length === positions.length / 3) return mesh
  const out = new Float64Array(3 * corners.length)
  for (const [at, corner] of corners.entries())
    for (let i = 0; i < 3; i++) out[3 * at + i] = positions[3 * triangles[corner]! + i]!
  return { positions: out, triangles: renumbered }
}

/** Shells without volume are no bodies, and are left out. */
function withoutSlivers(mesh: TriangleMesh): TriangleMesh {
  const { shells, shellOf } = shellsOf(mesh)
  if (!shells.some(isSliver)) return mesh
  return subMesh(mesh, (t) => !isSliver(shells[shellOf[t]!]!))
}

/** Equal in single precision is equal; triangles that thereby fall together, and pairs of them back to back, are left out. */
function welded32({ positions, triangles }: TriangleMesh): TriangleMesh {
  const index = new Map<string, number>()
  const kept: number[] = []
  const map = new Uint32Array(positions.length / 3)
  for (let v = 0; v < map.length; v++) {
    const [x, y, z] = [0, 1, 2].map((i) => Math.fround(positions[3 * v + i]!) + 0) as [number, number, number]
    const key = `${x},${y},${z}`
    let at = index.get(key)
    if (at === undefined) {
      at = index.size
      index.set(key, at)
      kept.push(x, y, z)
    }
    map[v] = at
  }
  const out = new Map<string, [number, number, number]>()
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [map[triangles[i]!]!, map[triangles[i + 1]!]!, map[triangles[i + 2]!]!]
    if (a === b || b === c || c === a) continue
    const back = keyOf(a, c, b)
    if (out.has(back)) out.delete(back)
    else out.set(keyOf(a, b, c), [a, b, c])
  }
  const all = { positions: Float64Array.from(kept), triangles: Uint32Array.from([...out.values()].flat()) }
  return subMesh(all, () => true)
}

/** The same for all turns of a triangle. */
function keyOf(a: number, b: number, c: number): string {
  if (a < b && a < c) return `${a} ${b} ${c}`
  return b < c ? `${b} ${c} ${a}` : `${c} ${a} ${b}`
}

/** Edges of triangles without area turned over, round after round, until there are none or nothing helps. */
function flipped({ positions, triangles }: TriangleMesh): TriangleMesh {
  const corners = Uint32Array.from(triangles)
  const mesh = { positions, triangles: corners }
  for (let round = 0; round < 20; round++) {
    const flat: number[] = []
    for (let t = 0; t < corners.length / 3; t++) if (heightOf(mesh, t).height < flatness) flat.push(t)
    if (flat.length === 0) break
    const { twin, edges } = neighbours(mesh)
    const touched = new Set<number>()
    let turned = 0
    for (const t of flat) {
      const h = heightOf(mesh, t).longest
      const back = twin.get(h)
      if (back === undefined) continue
      const other = Math.floor(back / 3)
      if (touched.has(t) || touched.has(other)) continue
      const [a, b] = [corners[h]!, endOf(corners, h)]
      const [c, d] = [apexOf(corners, h), apexOf(corners, back)]
      // The edge that would take its place must not be there already.
      if (c === d || edges.has(edgeKey(c, d))) continue
      corners.set([a, d, c], 3 * t)
      corners.set([d, b, c], 3 * other)
      edges.add(edgeKey(c, d))
      touched.add(t).add(other)
      turned++
    }
    if (turned === 0) break
  }
  return mesh
}

function edgeKey(a: number, b: number): string {
  return a < b ? `${a} ${b}` : `${b} ${a}`
}

/** For each half-edge of an edge with two triangles the other one, and all edges. */
function neighbours(mesh: TriangleMesh) {
  const twin = new Map<number, number>()
  const edges = new Set<string>()
  forEachEdge(mesh, (halves) => {
    const [h, k] = halves as [number, number]
    edges.add(edgeKey(mesh.triangles[h]!, endOf(mesh.triangles, h)))
    if (halves.length === 2) twin.set(h, k).set(k, h)
  })
  return { twin, edges }
}

/** The least height of a triangle, mm, and the half-edge of the side that it stands on, the longest one. */
function heightOf({ positions, triangles }: TriangleMesh, t: number): { height: number; longest: number } {
  const at = (corner: number, i: number) => positions[3 * triangles[3 * t + corner]! + i]!
  let [longest, most] = [3 * t, -1]
  for (let corner = 0; corner < 3; corner++) {
    const next = (corner + 1) % 3
    const long = Math.hypot(at(next, 0) - at(corner, 0), at(next, 1) - at(corner, 1), at(next, 2) - at(corner, 2))
    if (long > most) {
      most = long
      longest = 3 * t + corner
    }
  }
  const [ux, uy, uz] = [at(1, 0) - at(0, 0), at(1, 1) - at(0, 1), at(1, 2) - at(0, 2)]
  const [vx, vy, vz] = [at(2, 0) - at(0, 0), at(2, 1) - at(0, 1), at(2, 2) - at(0, 2)]
  const doubled = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
  return { height: most === 0 ? 0 : doubled / most, longest }
}
