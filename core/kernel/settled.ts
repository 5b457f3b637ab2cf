import type { Vec3 } from '../place/index.ts'
import type { Ring } from '../plane/index.ts'

/** Places to which coordinates are settled, per mm: every decimal and every 1/64 in, and halves of these, is one of them. */
const perMillimetre = 1e9
/**
 * Added before rounding down. Not a half: decimals, halves, thirds and sevenths of them all keep clear of the seam at
 * which a last digit would decide.
 */
const offCentre = 0.377
/** What arithmetic adds to a coordinate of a part is far less than this, mm. */
const arithmeticNoise = 1e-11

/**
 * A coordinate in mm at the nearest of 10⁹ places to a millimetre, so that one that was computed in two ways is the same
 * to the last digit. Decimals come back as they were typed.
 */
export function settled(mm: number): number {
  // "+ 0" makes −0 and 0 one.
  return Math.floor(mm * perMillimetre + offCentre) / perMillimetre + 0
}

/** A coordinate that is a settled one but for the noise of arithmetic, as that; any other as it is. */
export function denoised(mm: number): number {
  const near = settled(mm)
  return Math.abs(near - mm) < arithmeticNoise ? near : mm
}

/** Along which axes of the space it stands in a frame is square: one of its own axes runs along each of these. */
export function squareAxes({ u, v, n }: { readonly u: Vec3; readonly v: Vec3; readonly n: Vec3 }): (0 | 1 | 2)[] {
  const along = (x: number) => Math.abs(x) > 1e-9
  return ([0, 1, 2] as const).filter((i) => [u, v, n].filter((axis) => along(axis[i])).length === 1)
}

/** How far the library's plane moves a coordinate, mm, is less than this. */
const planeRounding = 1e-6

/** The points of an outline, found again after the library's plane has rounded them. */
export class PlanePoints {
  readonly #points = new Map<string, Ring[number]>()

  constructor(rings: readonly Ring[]) {
    for (const ring of rings)
      for (const point of ring) {
        const key = cellOf(point[0], point[1])
        // The first one of a cell stays: points so near each other are one to the library too.
        if (!this.#points.has(key)) this.#points.set(key, point)
      }
  }

  /** The point that was rounded to (x, y), or undefined where the library made one of its own. */
  at(x: number, y: number): Ring[number] | undefined {
    for (const dx of [0, -1, 1])
      for (const dy of [0, -1, 1]) {
        const point = this.#points.get(cellOf(x, y, dx, dy))
        if (point && Math.abs(point[0] - x) < planeRounding && Math.abs(point[1] - y) < planeRounding) return point
      }
    return undefined
  }
}

function cellOf(x: number, y: number, dx = 0, dy = 0): string {
  return `${Math.round(x / planeRounding) + dx} ${Math.round(y / planeRounding) + dy}`
}
