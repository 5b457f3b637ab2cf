import { dot, type Frame, type SideNames, scaled, subtract, type Vec3 } from '../place/index.ts'

/** A flat or cylindrical surface of a shape, in the shape's own frame, that another step can stand on. */
export interface NamedFace {
  readonly name: string
  readonly frame: Frame
  readonly size: readonly [number, number]
  readonly sides: SideNames
  /** for a round face, as in `Seating`: the frame is that of the plane that touches it at the front */
  readonly round?: number
}

/** Any surface of a shape: one that nothing can stand on has a name alone. */
export type Surface = NamedFace | { readonly name: string }

/** All surfaces of a shape. */
export interface Surfaces {
  readonly all: readonly Surface[]
  /** those that steps can stand on */
  readonly faces: readonly NamedFace[]
  /** The name of the one that holds a point, where the solid's outward normal is `normal`; about as near as its flats are to a round. */
  at(point: Vec3, normal: Vec3): string
}

interface Telling {
  /** tells what planes and rounds alone do not; undefined where they do */
  readonly at?: (point: Vec3, normal: Vec3) => string | undefined
  /** of a shape that makes room: its faces look into that */
  readonly within?: boolean
}

/**
 * The surfaces of a shape. Which one a point is on is told by `at`; else by the flat face in whose plane it lies, by the
 * round face that looks its way, and else it is the first one without a frame.
 */
export function surfacesOf(all: readonly Surface[], { at, within }: Telling = {}): Surfaces {
  const faces = all.filter((surface): surface is NamedFace => 'frame' in surface)
  const other = all.find((surface) => !('frame' in surface)) ?? all[0]
  return {
    all,
    faces,
    at(point, normal) {
      const told = at?.(point, normal)
      if (told !== undefined) return told
      const out = within ? scaled(normal, -1) : normal
      return flatFaceAt(faces, point, out) ?? roundFaceAt(faces, point, out) ?? other?.name ?? 'surface'
    },
  }
}

/** The surfaces of a shape that has none to stand on. */
export function plainSurfaces(...names: readonly string[]): readonly Surface[] {
  return names.map((name) => ({ name }))
}

/** The flat face whose plane holds `point` and whose normal agrees, or undefined. */
export function flatFaceAt(faces: readonly NamedFace[], point: Vec3, normal: Vec3): string | undefined {
  let best: { name: string; distance: number } | undefined
  for (const { name, frame, round } of faces) {
    if (round !== undefined || dot(frame.n, normal) < 0.999) continue
    const distance = Math.abs(
      (point[0] - frame.origin[0]) * frame.n[0] +
        (point[1] - frame.origin[1]) * frame.n[1] +
        (point[2] - frame.origin[2]) * frame.n[2],
    )
    if (distance < 0.01 && (!best || distance < best.distance)) best = { name, distance }
  }
  return best?.name
}

/** The round face, of those that bend the way that `normal` says, whose radius is nearest to that of the point. */
function roundFaceAt(faces: readonly NamedFace[], point: Vec3, normal: Vec3): string | undefined {
  let best: { name: string; away: number } | undefined
  for (const { name, frame, round } of faces) {
    if (round === undefined || Math.abs(dot(frame.v, normal)) > 0.02) continue
    const axis = subtract(frame.origin, scaled(frame.n, round))
    const from = subtract(point, axis)
    const radial = subtract(from, scaled(frame.v, dot(from, frame.v)))
    if (dot(radial, normal) > 0 !== round > 0) continue
    const away = Math.abs(Math.hypot(...radial) - Math.abs(round))
    if (!best || away < best.away) best = { name, away }
  }
  return best?.name
}
