import { boxOf, dot } from '../place/index.ts'
import { defineShape } from './define.ts'

/** The convex solid that a list of corners spans. The corners stand as they are typed, measured from its own origin. */
export const polyhedron = defineShape({
  kind: 'polyhedron',
  label: 'free polyhedron',
  words: ['corners', 'convex', 'hull', 'facets', 'tetrahedron', 'crystal'],
  shelf: 'solids',
  drawing: 'M4 15 L13 3 L27 9 L22 20 Z M4 15 L27 9 M13 3 L22 20',
  effect: 'add',
  seat: 'stands',
  fields: {
    corners: {
      kind: 'corners',
      label: 'Corners',
      default: '-10, -10, 0; 10, -10, 0; 0, 10, 0; 0, 0, 15',
      least: 4,
      most: 400,
      meaning: 'Three distances for each corner, to the right, to the back and up; corners are parted by semicolons.',
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
  faces: () => [],
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
