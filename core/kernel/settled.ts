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
  readonly #points = new Map<number, Ring[number][]>()

  constructor(rings: readonly Ring[]) {
    for (const ring of rings)
      for (const point of ring) {
        const cell = cellOf(cellAlong(point[0]), cellAlong(point[1]))
        const there = this.#points.get(cell)
        if (there) there.push(point)
        else this.#points.set(cell, [point])
      }
  }

  /**
   * The point that was rounded to (x, y), or undefined where the library made one of its own. Of points so near each other
   * that they are one to the library too, the first.
   */
  at(x: number, y: number): Ring[number] | undefined {
    const [i, k] = [cellAlong(x), cellAlong(y)]
    for (const dx of around)
      for (const dy of around)
        for (const point of this.#points.get(cellOf(i + dx, k + dy)) ?? none)
          if (Math.abs(point[0] - x) < planeRounding && Math.abs(point[1] - y) < planeRounding) return point
    return undefined
  }
}

const around = [0, -1, 1] as const
const none: readonly Ring[number][] = []

function cellAlong(mm: number): number {
  return Math.round(mm / planeRounding)
}

/** Two cells may have the same number: what lies in them is compared. Of texts a solid with many holes would need too many. */
function cellOf(i: number, k: number): number {
  return Math.imul(i, 0x9e3779b1) ^ Math.imul(k, 0x85ebca6b)
}
