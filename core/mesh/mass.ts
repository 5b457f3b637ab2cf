import type { TriangleMesh } from './define.ts'

/**
 * Integrals over the inside of a closed mesh: of 1, of x, y, z, and of x², y², z², xy, yz, zx; and its surface. They add
 * up over solids, and those of finer meshes of a curved solid run evenly towards those of the solid itself.
 */
export interface Mass {
  /** mm³ */
  readonly volume: number
  /** mm² */
  readonly area: number
  /** mm⁴ */
  readonly first: readonly [x: number, y: number, z: number]
  /** mm⁵ */
  readonly second: readonly [xx: number, yy: number, zz: number, xy: number, yz: number, zx: number]
}

export const noMass: Mass = { volume: 0, area: 0, first: [0, 0, 0], second: [0, 0, 0, 0, 0, 0] }

/**
 * Sums tetrahedra from each triangle to a point of the mesh: of one with corners 0, a, b, c, ∫xᵢxⱼ is its volume / 20 times
 * (aᵢaⱼ + bᵢbⱼ + cᵢcⱼ + sᵢsⱼ), s = a + b + c (Tonon 2004, written for the product of inertia).
 */
export function massOf({ positions, triangles }: TriangleMesh): Mass {
  const o = [positions[0] ?? 0, positions[1] ?? 0, positions[2] ?? 0] as const
  let [volume, area] = [0, 0]
  const first = [0, 0, 0]
  const second = [0, 0, 0, 0, 0, 0]
  const a = [0, 0, 0]
  const b = [0, 0, 0]
  const c = [0, 0, 0]
  for (let t = 0; t < triangles.length; t += 3) {
    const [i, k, m] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!]
    for (let axis = 0; axis < 3; axis++) {
      a[axis] = positions[i + axis]! - o[axis]!
      b[axis] = positions[k + axis]! - o[axis]!
      c[axis] = positions[m + axis]! - o[axis]!
    }
    const [ux, uy, uz] = [b[0]! - a[0]!, b[1]! - a[1]!, b[2]! - a[2]!]
    const [vx, vy, vz] = [c[0]! - a[0]!, c[1]! - a[1]!, c[2]! - a[2]!]
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const own = (a[0]! * nx + a[1]! * ny + a[2]! * nz) / 6
    volume += own
    area += Math.sqrt(nx * nx + ny * ny + nz * nz) / 2
    for (let axis = 0; axis < 3; axis++) first[axis]! += (own / 4) * (a[axis]! + b[axis]! + c[axis]!)
    for (let pair = 0; pair < 6; pair++) {
      const [p, q] = pairs[pair]!
      const [sp, sq] = [a[p]! + b[p]! + c[p]!, a[q]! + b[q]! + c[q]!]
      second[pair]! += (own / 20) * (a[p]! * a[q]! + b[p]! * b[q]! + c[p]! * c[q]! + sp * sq)
    }
  }
  return shifted({ volume, area, first: [...first] as never, second: [...second] as never }, o)
}

const pairs = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [1, 2],
  [2, 0],
] as const

/** The integrals of the same solid moved by `by`. */
function shifted({ volume, area, first, second }: Mass, by: readonly [number, number, number]): Mass {
  return {
    volume,
    area,
    first: first.map((x, i) => x + by[i]! * volume) as unknown as Mass['first'],
    second: second.map((s, i) => {
      const [p, q] = pairs[i]!
      return s + by[p] * first[q] + by[q] * first[p] + by[p] * by[q] * volume
    }) as unknown as Mass['second'],
  }
}

/** Figure by figure. */
function combined(of: (...figures: number[]) => number, ...all: readonly Mass[]): Mass {
  return {
    volume: of(...all.map(({ volume }) => volume)),
    area: of(...all.map(({ area }) => area)),
    first: noMass.first.map((_, i) => of(...all.map(({ first }) => first[i]!))) as unknown as Mass['first'],
    second: noMass.second.map((_, i) => of(...all.map(({ second }) => second[i]!))) as unknown as Mass['second'],
  }
}

/** Of two solids together. */
export function massTogether(a: Mass, b: Mass): Mass {
  return combined((x, y) => x! + y!, a, b)
}

/** What figures of finer and finer meshes of one curved solid run towards, and how far that may be off. */
export interface Limit {
  readonly mass: Mass
  /** mm³ and mm² to either side */
  readonly error: { readonly volume: number; readonly area: number }
}

/** Where each difference is four times the next but for this much, meshes run evenly: only their squares, and those of these, tell. */
const evenly = 0.6

/**
 * Of the curved solid itself, from meshes of it at two or three finenesses, each four times the next, whose curves have half as many
 * flats: the error goes with the square of these (Richardson), and what is left with their fourth power (Romberg), where they run
 * evenly. Where they do not, or only two are known, nothing shows the step towards the solid to be right but its own size. So it is of
 * what is known to be `uneven`, whose flats are not halved: that it looks even is luck.
 */
export function limitOf(fine: Mass, coarse: Mass, coarser?: Mass, { uneven = false } = {}): Limit {
  const limit = (f: number, c: number, cc: number | undefined) => {
    const first = towards(f, c)
    if (cc === undefined) return { value: first, off: Math.abs(first - f) }
    const before = towards(c, cc)
    const step = (first - before) / 15
    return !uneven && Math.abs((c - cc) / (f - c) - 4) < evenly
      ? { value: first + step, off: Math.abs(step) }
      : { value: first, off: Math.abs(first - f) + Math.abs(first - before) }
  }
  return {
    mass: combined((f, c, cc) => limit(f!, c!, cc).value, fine, coarse, ...(coarser ? [coarser] : [])),
    error: {
      volume: limit(fine.volume, coarse.volume, coarser?.volume).off,
      area: limit(fine.area, coarse.area, coarser?.area).off,
    },
  }
}

/** What a figure runs towards that is `fine` at a fineness, and `coarse` at four times that. */
export function towards(fine: number, coarse: number): number {
  return fine + (fine - coarse) / 3
}

/** mm; undefined where there is no volume. */
export function centreOf({ volume, first }: Mass): readonly [number, number, number] | undefined {
  if (!(Math.abs(volume) > 0)) return undefined
  return [first[0] / volume, first[1] / volume, first[2] / volume]
}

/**
 * The moment of inertia about a line through `point` along the unit vector `direction`, at a density of 1: ∫ r² dV, mm⁵.
 * Times the density in g/mm³ it is in g mm².
 */
export function inertiaAbout(
  mass: Mass,
  point: readonly [number, number, number],
  direction: readonly [number, number, number],
): number {
  const [xx, yy, zz, xy, yz, zx] = shifted(mass, [-point[0], -point[1], -point[2]]).second
  const [x, y, z] = direction
  const along = xx * x * x + yy * y * y + zz * z * z + 2 * (xy * x * y + yz * y * z + zx * z * x)
  return xx + yy + zz - along
}
