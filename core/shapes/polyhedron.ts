import { boxOf, cross, dot, levelSides, norm, scaled, subtract, uprightSides, type Vec3 } from '../place/index.ts'
import { defineShape } from './define.ts'
import { type NamedFace, plainSurfaces, surfacesOf } from './surfaces.ts'

/** The convex solid that a list of corners spans. The corners stand as they are typed, measured from its own origin. */
export const polyhedron = defineShape({
  kind: 'polyhedron',
  label: 'free polyhedron',
  words: ['rock', 'corners', 'convex', 'hull', 'tetrahedron', 'crystal', 'gem', 'irregular block'],
  shelf: 'solids',
  icon: 'M4 15 L13 3 L27 9 L22 20 Z M4 15 L27 9 M13 3 L22 20',
  operation: 'add',
  seat: 'stands',
  fields: {
    corners: {
      kind: 'corners',
      label: 'Corners',
      default: '-10, -10, 0; 10, -10, 0; 0, 10, 0; 0, 0, 15',
      least: 4,
      most: 400,
      meaning:
        'Three distances for each corner, to the right, to the back and up; corners are separated by semicolons.',
    },
  },
  quick: [],
  sentence: () => ['free polyhedron with its corners at', { field: 'corners' }],
  impossible: (v) =>
    spansVolume(v.corners)
      ? undefined
      : { field: 'corners', detail: 'These corners all lie in one plane; one must lie outside of it.' },
  box: (v) => boxOf(v.corners)!,
  reach: (v, d) => Math.max(...v.corners.map((corner) => dot(corner, d))),
  surfaces: (v) => surfacesOf(v.corners.length <= mostFaceted ? facets(v.corners) : plainSurfaces('side')),
  dimensions: () => [],
  solid: (v, { scope }) => scope.hull(v.corners),
})

/** Whether some four corners are not in one plane, to a millionth of the size of all. */
function spansVolume(corners: readonly (readonly [number, number, number])[]): boolean {
  const [first, ...rest] = corners
  if (!first) return false
  const away = rest.map((p) => [p[0] - first[0], p[1] - first[1], p[2] - first[2]] as const)
  const cross = (a: readonly number[], b: readonly number[]) =>
    [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!] as const
  const size = (a: readonly number[]) => Math.hypot(...a)
  const far = away.reduce((a, b) => (size(b) > size(a) ? b : a), [0, 0, 0] as const)
  const plane = away.map((p) => cross(far, p)).reduce((a, b) => (size(b) > size(a) ? b : a), [0, 0, 0] as const)
  const out = Math.max(...away.map((p) => Math.abs(p[0] * plane[0] + p[1] * plane[1] + p[2] * plane[2])))
  return out > 1e-6 * size(far) * size(plane) && size(plane) > 0
}

/** Of more corners than this, facets are not named: they are found by trying each three corners. */
const mostFaceted = 24

/** Each plane through three corners that has all others on one side, in the order of its first corner. */
function facets(corners: readonly Vec3[]): NamedFace[] {
  const out: NamedFace[] = []
  const size = Math.max(...corners.flatMap((a) => corners.map((b) => norm(subtract(a, b)))))
  for (let i = 0; i < corners.length; i++)
    for (let j = i + 1; j < corners.length; j++)
      for (let k = j + 1; k < corners.length; k++) {
        const across = cross(subtract(corners[j]!, corners[i]!), subtract(corners[k]!, corners[i]!))
        if (norm(across) < 1e-9 * size * size) continue
        const plane = scaled(across, 1 / norm(across))
        const heights = corners.map((corner) => dot(subtract(corner, corners[i]!), plane))
        const above = Math.max(...heights) > 1e-7 * size
        if (above && Math.min(...heights) < -1e-7 * size) continue
        const n = above ? scaled(plane, -1) : plane
        const at = dot(corners[i]!, n)
        const known = out.some(
          ({ frame }) => dot(frame.n, n) > 1 - 1e-9 && Math.abs(dot(frame.origin, frame.n) - at) < 1e-7 * size,
        )
        if (!known)
          out.push(
            facet(
              `facet ${out.length + 1}`,
              corners.filter((_, c) => Math.abs(heights[c]!) <= 1e-7 * size),
              n,
            ),
          )
      }
  return out
}

/** In the middle of the rectangle that holds its corners; upright ones have their u level. */
function facet(name: string, corners: readonly Vec3[], n: Vec3): NamedFace {
  const flat = Math.hypot(n[0], n[1])
  const u: Vec3 = flat < 1e-9 ? [n[2], 0, 0] : [-n[1] / flat, n[0] / flat, 0]
  const v = cross(n, u)
  const range = (d: Vec3) => {
    const at = corners.map((corner) => dot(corner, d))
    return [Math.min(...at), Math.max(...at)] as const
  }
  const [across, along] = [range(u), range(v)]
  const middle = ([low, high]: readonly [number, number], d: Vec3) => scaled(d, (low + high) / 2)
  const origin = [middle(across, u), middle(along, v), scaled(n, dot(corners[0]!, n))].reduce((a, b) => [
    a[0] + b[0],
    a[1] + b[1],
    a[2] + b[2],
  ])
  return {
    name,
    frame: { origin, u, v, n },
    size: [across[1] - across[0], along[1] - along[0]],
    sides: flat < 1e-9 ? levelSides : uprightSides,
  }
}
