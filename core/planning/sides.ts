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
export function outerSides({ faces, reach }: Reaching): readonly NamedFace[] {
  const range = (d: Vec3) => [-reach(scaled(d, -1)), reach(d)] as const
  const [x, y, z] = [range([1, 0, 0]), range([0, 1, 0]), range([0, 0, 1])]
  const [w, d, h] = [x[1] - x[0], y[1] - y[0], z[1] - z[0]]
  if (![w, d, h].every((mm) => mm > 1e-6 && Number.isFinite(mm))) return []
  const middle: Vec3 = [(x[0] + x[1]) / 2, (y[0] + y[1]) / 2, 0]
  const at = (face: NamedFace, up: number): NamedFace => {
    const [fx, fy, fz] = face.frame.origin
    const frame: Frame = { ...face.frame, origin: [fx + middle[0], fy + middle[1], fz + up] }
    return { ...face, name: `${face.name} side`, frame }
  }
  const all = [
    at(topFace(z[1], w, d), 0),
    ...sideFaces(w, d, h).map((face) => at(face, z[0])),
    at(bottomFace(z[0], w, d), 0),
  ]
  return all.filter(({ frame: { n } }) => !faces.some((face) => looks(face, n)))
}

/** Whether some of a face looks along a direction. */
function looks({ frame, round }: NamedFace, way: Vec3): boolean {
  if (round === undefined) return dot(frame.n, way) > sameWay
  return round > 0 && Math.abs(dot(frame.v, way)) < 1 - sameWay
}

/** What a step is stood on by this name: a face of its own, or a side of its block. */
export function faceCalled(of: Reaching, name: string): NamedFace | undefined {
  return of.faces.find((face) => face.name === name) ?? outerSides(of).find((side) => side.name === name)
}
