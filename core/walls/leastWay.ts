import { add, cross, dot, norm, scaled, type Vec3 } from '../place/index.ts'

/** A plane that is to move along its unit normal by `by` mm: exactly, or by as much at least. */
export interface Going {
  readonly normal: Vec3
  readonly by: number
  readonly exactly: boolean
}

/** Two planes that look so much the same way are one, as a cosine. */
export const onePlane = 1 - 1e-10
/** What a plane may miss, mm. */
const missed = 1e-7
/** The square of a volume (or area) between normals under which they say nothing of how they meet. */
const tooFlat = 1e-9
/** More planes than these are not tried in all threes. */
const mostPlanes = 14

/**
 * The shortest way on which a corner takes all its planes along, as it does where flats are moved and meet anew; undefined where
 * none does, or there are too many to try. It lies where at most three of them go just as far as they must.
 */
export function leastWay(planes: readonly Going[]): Vec3 | undefined {
  if (planes.length > mostPlanes) return undefined
  // Where some go back all go at least as far that way.
  const goals = planes.map((plane) =>
    plane.by < 0 ? { ...plane, normal: scaled(plane.normal, -1), by: -plane.by } : plane,
  )
  const fits = (way: Vec3) =>
    goals.every(({ normal, by, exactly }) => {
      const off = dot(normal, way) - by
      return off > -missed && (!exactly || off < missed)
    })
  let best: Vec3 | undefined
  const take = (way: Vec3 | undefined) => {
    if (way && (!best || norm(way) < norm(best)) && fits(way)) best = way
  }
  goals.forEach((a, i) => {
    take(scaled(a.normal, a.by))
    goals.slice(i + 1).forEach((b, k) => {
      take(wayOfTwo(a, b))
      for (const c of goals.slice(i + k + 2)) take(wayOfThree(a, b, c))
    })
  })
  return best
}

function wayOfTwo({ normal: a, by: p }: Going, { normal: b, by: q }: Going): Vec3 | undefined {
  const like = dot(a, b)
  const whole = 1 - like * like
  if (whole < tooFlat) return undefined
  return add(scaled(a, (p - like * q) / whole), scaled(b, (q - like * p) / whole))
}

function wayOfThree(a: Going, b: Going, c: Going): Vec3 | undefined {
  const [bc, ca, ab] = [cross(b.normal, c.normal), cross(c.normal, a.normal), cross(a.normal, b.normal)]
  const whole = dot(a.normal, bc)
  if (whole * whole < tooFlat) return undefined
  return scaled(add(add(scaled(bc, a.by), scaled(ca, b.by)), scaled(ab, c.by)), 1 / whole)
}
