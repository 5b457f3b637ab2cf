import type { Kernel, Ring, Solid } from '../kernel/index.ts'

/** Heights nearer to each other than this are one, mm. */
const sameHeight = 1e-6
/** Corners nearer to each other than this are one, mm. */
const sameCorner = 1e-5

/**
 * Sections of a solid by their heights. Between two heights at which corners lie a section changes evenly: where it is the same near both
 * it is so all the way, and is cut once. So layers of a prism have the very same rings, and what was found of one holds for all.
 */
export class Sections {
  readonly #kernel: Kernel
  readonly #solid: Solid
  /** heights at which corners lie, ascending */
  readonly #heights: readonly number[]
  /** by its place between heights: the section of all of it, or undefined where it changes */
  readonly #even = new Map<number, readonly Ring[] | undefined>()
  readonly #known = new Map<number, readonly Ring[]>()

  constructor(kernel: Kernel, solid: Solid) {
    this.#kernel = kernel
    this.#solid = solid
    const corners = solid.corners()
    const heights: number[] = []
    for (let i = 2; i < corners.length; i += 3) heights.push(corners[i]!)
    heights.sort((a, b) => a - b)
    this.#heights = heights.filter((z, i) => i === 0 || z - heights[i - 1]! > sameHeight)
  }

  /** The rings at height `z`, mm: outer ones counter-clockwise, holes clockwise. */
  at(z: number): readonly Ring[] {
    const known = this.#known.get(z)
    if (known) return known
    const rings = this.even(z) ?? this.cut(z)
    this.#known.set(z, rings)
    return rings
  }

  private even(z: number): readonly Ring[] | undefined {
    const slab = this.below(z)
    const [low, high] = [this.#heights[slab], this.#heights[slab + 1]]
    // On a height itself neither side counts.
    if (low === undefined || high === undefined || z - low < sameHeight || high - z < sameHeight) return undefined
    if (!this.#even.has(slab)) {
      const [first, last] = [low + (high - low) / 16, high - (high - low) / 16]
      const one = this.cut(first)
      this.#even.set(slab, isSame(one, this.cut(last)) ? one : undefined)
    }
    return this.#even.get(slab)
  }

  /** The place of the highest height that is not above `z`; −1 where all are. */
  private below(z: number): number {
    let [low, high] = [0, this.#heights.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.#heights[middle]! <= z) low = middle + 1
      else high = middle
    }
    return low - 1
  }

  private cut(z: number): readonly Ring[] {
    return this.#kernel.scope((scope) => scope.slice(this.#solid, z)).rings
  }
}

/** Whether all corners are at the same places, whichever corner each ring begins at. */
function isSame(a: readonly Ring[], b: readonly Ring[]): boolean {
  if (a.length !== b.length) return false
  const places = (rings: readonly Ring[]) =>
    rings
      .flatMap(corners)
      .map(([x, y]) => `${Math.round(x / sameCorner)} ${Math.round(y / sameCorner)}`)
      .sort()
  const [one, other] = [places(a), places(b)]
  return one.length === other.length && one.every((place, i) => place === other[i])
}

/** A ring without the points on its straight sides: where a cut crosses from one triangle of a wall to the next. */
function corners(ring: Ring): Ring {
  return ring.filter(([x, y], i) => {
    const [fromX, fromY] = ring[(i + ring.length - 1) % ring.length]!
    const [toX, toY] = ring[(i + 1) % ring.length]!
    const [alongX, alongY] = [toX - fromX, toY - fromY]
    const off = Math.abs((x - fromX) * alongY - (y - fromY) * alongX)
    return off > straightWithin * Math.hypot(alongX, alongY)
  })
}

/** Nearer to the line between its neighbours than this a point is no corner, mm. */
const straightWithin = 3e-6
