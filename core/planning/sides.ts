import { dot, type Frame, type SupportFunction, scaled, type Vec3 } from '../place/index.ts'
import { bottomFace, type NamedFace, sideFaces, topFace } from '../shapes/index.ts'

/** What is known of a step that sides can be found of. */
interface Reaching {
  readonly faces: readonly NamedFace[]
  readonly reach: SupportFunction
}

/** Two directions that differ by less than this are one, as a cosine. */
const sameWay = 0.999

/**
 * The sides of a step's block, in its own frame, as far as no face of its own looks that way, flat or round: what has nothing flat to stand on,
 * such as a ball, can be bored and built on from there. Each touches it at its outermost place. None where it reaches nowhere, as a datum.
 */
export function outerSides(of: Reaching): readonly NamedFace[] {
  const block = blockOf(of)
  if (!block) return []
  const named = block.faces.map((face) => ({ ...face, name: `${face.name} side` }))
  return named.filter(({ frame: { n } }) => !of.faces.some((face) => looks(face, n)))
}

/** The six faces of the block round a step, in its own frame, and how high its middle is; undefined where it reaches nowhere. */
function blockOf({ reach }: Reaching): { readonly faces: readonly NamedFace[]; readonly middle: number } | undefined {
  const range = (d: Vec3) => [-reach(scaled(d, -1)), reach(d)] as const
  const [x, y, z] = [range([1, 0, 0]), range([0, 1, 0]), range([0, 0, 1])]
  const [w, d, h] = [x[1] - x[0], y[1] - y[0], z[1] - z[0]]
  if (![w, d, h].every((mm) => mm > 1e-6 && Number.isFinite(mm))) return undefined
  const at = (face: NamedFace, up: number): NamedFace => {
    const [fx, fy, fz] = face.frame.origin
    const frame: Frame = { ...face.frame, origin: [fx + (x[0] + x[1]) / 2, fy + (y[0] + y[1]) / 2, fz + up] }
    return { ...face, frame }
  }
  const sides = sideFaces(w, d, h).map((face) => at(face, z[0]))
  return { faces: [at(topFace(z[1], w, d), 0), ...sides, at(bottomFace(z[0], w, d), 0)], middle: (z[0] + z[1]) / 2 }
}

/** What the axes of a step are called, and the face of its block that looks the same way. */
const axes = { 'height axis': 'top', 'width axis': 'right', 'depth axis': 'back' } as const

/**
 * Planes square to the axes of a step, through the middle of its own upright axis: what stands on one of them begins there, and goes both ways
 * where it is moved back by half. None where it reaches nowhere.
 */
export function axisPlanes(of: Reaching): readonly NamedFace[] {
  const block = blockOf(of)
  if (!block) return []
  return Object.entries(axes).flatMap(([name, like]) => {
    const face = block.faces.find((each) => each.name === like)
    return face ? [{ ...face, name, frame: { ...face.frame, origin: [0, 0, block.middle] as const } }] : []
  })
}

/** Whether some of a face looks along a direction. */
function looks({ frame, round }: NamedFace, way: Vec3): boolean {
  if (round === undefined) return dot(frame.n, way) > sameWay
  return round > 0 && Math.abs(dot(frame.v, way)) < 1 - sameWay
}

/** What a step is stood on by this name: a face of its own, a side of its block, or one of its axes. */
export function faceCalled(of: Reaching, name: string): NamedFace | undefined {
  const called = (all: readonly NamedFace[]) => all.find((face) => face.name === name)
  return called(of.faces) ?? called(outerSides(of)) ?? called(axisPlanes(of))
}
