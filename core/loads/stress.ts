import { type Moments, momentsOf, type Plane } from '../necks/index.ts'
import { cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { hullOf, minus, type Ring, RingSides, ringArea } from '../plane/index.ts'

/** A force on what lies beyond a section: N, and where it is. */
export interface Force {
  readonly force: Vec3
  readonly at: Vec3
}

/** What a section bears under a force, MPa. */
export interface Stress {
  /** the most that it is pulled apart by, and pressed; 0 where it is not */
  readonly pull: number
  readonly press: number
  /** along the section, by the force and by what twists it */
  readonly shear: number
}

/**
 * Pull and bending as in a beam that is bent two ways at once, shear as 1.5 times its mean, twist as of thin strips or, round a hole, of a
 * closed wall (Timoshenko, Strength of Materials; Bredt). Twist is told up to half too large, never too small, of sections that are thick.
 * The plane's normal points to where the force is.
 */
export function stressIn(plane: Plane, bodies: readonly (readonly Ring[])[], { force, at }: Force): Stress {
  const rings = bodies.flat()
  const moments = momentsOf(rings)
  const { area, middle, xx, yy, xy } = moments
  const centre: Vec3 = [0, 1, 2].map(
    (k) => plane.at[k]! + middle[0] * plane.u[k]! + middle[1] * plane.v[k]!,
  ) as unknown as Vec3
  const moment = cross(subtract(at, centre), force)
  const square = dot(force, plane.normal)
  const across = norm(subtract(force, scaled(plane.normal, square)))
  // What σ = a x + b y has to balance: ∫ σ y is the moment about u, ∫ σ x that about v the other way round.
  const [aboutU, aboutV] = [dot(moment, plane.u), -dot(moment, plane.v)]
  const whole = xx * yy - xy * xy
  const [a, b] = whole > 0 ? [(aboutV * yy - aboutU * xy) / whole, (aboutU * xx - aboutV * xy) / whole] : [0, 0]
  const bent = hullOf(rings.flat()).map((p) => {
    const [x, y] = minus(p, middle)
    return square / area + a * x + b * y
  })
  const twist = twistOf(bodies, moments) * Math.abs(dot(moment, plane.normal))
  return {
    pull: Math.max(0, ...bent),
    press: Math.max(0, ...bent.map((stress) => -stress)),
    shear: (1.5 * across) / area + twist,
  }
}

/** Shear in MPa for each Nmm that twists bodies that lie beside each other: what each bears goes by its area. */
function twistOf(bodies: readonly (readonly Ring[])[], { area }: Moments): number {
  return bodies.reduce((most, body) => {
    const own = body.reduce((sum, ring) => sum + ringArea(ring), 0)
    return Math.max(most, (own / area) * twistOfBody(body, own))
  }, 0)
}

function twistOfBody(body: readonly Ring[], area: number): number {
  const around = body.reduce((sum, ring) => sum + lengthOf(ring), 0)
  const open = (3 * around) / (2 * area * area)
  const outer = body.filter((ring) => ringArea(ring) > 0)
  const holes = body.filter((ring) => ringArea(ring) < 0)
  if (holes.length === 0) return open
  const outside = outer.reduce((sum, ring) => sum + ringArea(ring), 0)
  const inside = -holes.reduce((sum, ring) => sum + ringArea(ring), 0)
  const sides = new RingSides(outer)
  const wall = holes.flat().reduce((least, p) => Math.min(least, sides.distanceFrom(p)), Number.POSITIVE_INFINITY)
  // Of a thick wall the outside bears more than its middle: as of a round tube.
  const closed = 2 / ((outside + inside) * wall * (1 + Math.sqrt(inside / outside)))
  return wall > 0 ? Math.min(open, closed) : open
}

function lengthOf(ring: Ring): number {
  return ring.reduce((sum, p, i) => {
    const [x, y] = minus(ring[(i + 1) % ring.length]!, p)
    return sum + Math.hypot(x, y)
  }, 0)
}

/** Pull, or pressure, and shear as one (von Mises), MPa. */
export function together(straight: number, shear: number): number {
  return Math.sqrt(straight * straight + 3 * shear * shear)
}

/**
 * What pulls two layers apart, or one along the other, MPa: stress of a section whose normal rises by such a cosine, as the layers have it.
 * Sliding counts as much as being pulled apart. What is pressed together holds.
 */
export function betweenLayers({ pull, shear }: Stress, rise: number): number {
  const level = Math.sqrt(Math.max(0, 1 - rise * rise))
  const apart = pull * rise * rise + 2 * shear * rise * level
  const along = pull * rise * level + shear * Math.abs(rise * rise - level * level)
  return Math.hypot(apart, along)
}
