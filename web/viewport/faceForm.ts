import { cross, dot, type Vec3 } from '@makrel/core/place'
import type { RenderMesh } from '@makrel/core/solids'

/** A face of a drawing all of which looks one way. */
export interface FlatOnDrawing {
  readonly name: string
  /** unit, out of the material */
  readonly n: Vec3
  /** the middle of its largest triangle: a place that is on it, whatever its outline */
  readonly at: Vec3
}

/** The flat faces that a step has on a drawing, in the order in which they are there. */
export function flatFaces(mesh: RenderMesh, step: string): readonly FlatOnDrawing[] {
  const all = known.get(mesh) ?? readFlats(mesh)
  known.set(mesh, all)
  return all.get(step) ?? []
}
const known = new WeakMap<RenderMesh, ReadonlyMap<string, readonly FlatOnDrawing[]>>()

export function isFlatFace(mesh: RenderMesh, step: string, name: string): boolean {
  return flatFaces(mesh, step).some((face) => face.name === name)
}

function readFlats({ faces, faceOf, positions }: RenderMesh): ReadonlyMap<string, readonly FlatOnDrawing[]> {
  interface Reading extends FlatOnDrawing {
    step: string
    isFlat: boolean
    area: number
    at: Vec3
  }
  const readings = new Map<string, Reading>()
  for (let t = 0; t < faceOf.length; t++) {
    const { owner, face: name } = faces[faceOf[t]!]!
    if (owner.kind !== 'step') continue
    const { n, area } = lookOf(positions, t)
    // Slivers look anywhere.
    if (!n) continue
    const key = `${owner.id}/${name}`
    const read = readings.get(key)
    if (!read) readings.set(key, { step: owner.id, name, n, area, at: middleOf(positions, t), isFlat: true })
    else {
      if (n.reduce((sum, x, i) => sum + x * read.n[i]!, 0) < 0.9999) read.isFlat = false
      if (area > read.area) Object.assign(read, { area, at: middleOf(positions, t) })
    }
  }
  const flats = new Map<string, FlatOnDrawing[]>()
  for (const { step, name, n, at, isFlat } of readings.values())
    if (isFlat) flats.set(step, [...(flats.get(step) ?? []), { name, n, at }])
  return flats
}

/** Whether nothing of the drawing stands over a place, all the way out along this direction. */
export function isOpenTo({ positions }: RenderMesh, from: Vec3, way: Vec3): boolean {
  for (let c = 0; c < positions.length; c += 9) {
    const p = (corner: number, i: 0 | 1 | 2) => positions[c + 3 * corner + i]!
    const side = (corner: number): Vec3 => [p(corner, 0) - p(0, 0), p(corner, 1) - p(0, 1), p(corner, 2) - p(0, 2)]
    const [a, b] = [side(1), side(2)]
    // Möller and Trumbore 1997.
    const across = cross(way, b)
    const turn = dot(a, across)
    if (Math.abs(turn) < 1e-9) continue
    const to: Vec3 = [from[0] - p(0, 0), from[1] - p(0, 1), from[2] - p(0, 2)]
    const share = dot(to, across) / turn
    if (share < 0 || share > 1) continue
    const off = cross(to, a)
    const other = dot(way, off) / turn
    if (other < 0 || share + other > 1) continue
    if (dot(b, off) / turn > onIt) return false
  }
  return true
}
/** What is nearer to the place itself than this is the face that it is on, mm. */
const onIt = 1e-3

/** Which way a triangle looks, and twice its area, mm²; `n` is undefined where it has next to none. */
function lookOf(positions: Float32Array, t: number): { readonly n: Vec3 | undefined; readonly area: number } {
  const p = (corner: number, i: number) => positions[9 * t + 3 * corner + i]!
  const side = (corner: number) => [0, 1, 2].map((i) => p(corner, i) - p(0, i)) as unknown as Vec3
  const n = cross(side(1), side(2))
  const area = Math.hypot(...n)
  return { n: area < 1e-5 ? undefined : [n[0] / area, n[1] / area, n[2] / area], area }
}

function middleOf(positions: Float32Array, t: number): Vec3 {
  const of = (i: number) => (positions[9 * t + i]! + positions[9 * t + 3 + i]! + positions[9 * t + 6 + i]!) / 3
  return [of(0), of(1), of(2)]
}
