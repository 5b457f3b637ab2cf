import type { Vec2 } from '@makrel/core/plane'

/** A field on the screen, pixels. */
interface Field {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Keeps what is written on a drawing from lying on one another. */
export class LabelPlaces {
  readonly #cells = new Map<string, Field[]>()

  /**
   * The first of several middles, in the order of preference, at which a field of this size lies on none that was given
   * out before; the first one where there is none such. Pixels.
   */
  take(middles: readonly Vec2[], width: number, height: number): Vec2 {
    const field = ([x, y]: Vec2): Field => ({ x: x - width / 2, y: y - height / 2, width, height })
    const isFree = (own: Field) =>
      !cellsOf(own).some((key) => this.#cells.get(key)?.some((other) => overlap(other, own)))
    const free = middles.find((middle) => isFree(field(middle))) ?? middles[0]!
    for (const key of cellsOf(field(free))) {
      const there = this.#cells.get(key)
      if (there) there.push(field(free))
      else this.#cells.set(key, [field(free)])
    }
    return free
  }
}

/** Side of the cells that fields are found by, pixels: about a label. */
const cell = 48

function cellsOf({ x, y, width, height }: Field): string[] {
  const range = (from: number, long: number) => {
    const first = Math.floor(from / cell)
    return Array.from({ length: Math.floor((from + long) / cell) - first + 1 }, (_, i) => first + i)
  }
  return range(x, width).flatMap((i) => range(y, height).map((k) => `${i} ${k}`))
}

function overlap(a: Field, b: Field): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}

/** A place and more of them to both sides of it along a way, each a step farther. */
export function alongBothWays(at: Vec2, way: Vec2, step: number, most: number): Vec2[] {
  return [
    at,
    ...Array.from({ length: most }, (_, i) => i + 1).flatMap((k): Vec2[] => [
      [at[0] + way[0] * step * k, at[1] + way[1] * step * k],
      [at[0] - way[0] * step * k, at[1] - way[1] * step * k],
    ]),
  ]
}
