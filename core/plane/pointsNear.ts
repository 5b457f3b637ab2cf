import { distance2, type Vec2 } from './vectors.ts'

/** Things at points, found by a point near them; more can be put there at any time. */
export class PointsNear<T> {
  readonly #cells = new Map<string, { readonly at: Vec2; readonly thing: T }[]>()
  readonly #within: number

  /** `within`: what is no farther than this is found, mm */
  constructor(within: number) {
    this.#within = within
  }

  /** What is near a point; of several what was put there first in the nearest cell, undefined where nothing is. */
  near(p: Vec2): T | undefined {
    const [u, v] = this.#inCells(p)
    const [x, y] = [Math.floor(u), Math.floor(v)]
    // Cells are twice as large as what is near: besides its own, it can only be in those on the nearer sides.
    const [besides, above] = [u - x < 0.5 ? -1 : 1, v - y < 0.5 ? -1 : 1]
    for (const i of [0, besides])
      for (const k of [0, above])
        for (const { at, thing } of this.#cells.get(`${x + i},${y + k}`) ?? [])
          if (distance2(at, p) <= this.#within) return thing
    return undefined
  }

  put(at: Vec2, thing: T): void {
    const [u, v] = this.#inCells(at)
    const key = `${Math.floor(u)},${Math.floor(v)}`
    const cell = this.#cells.get(key)
    if (cell) cell.push({ at, thing })
    else this.#cells.set(key, [{ at, thing }])
  }

  #inCells(p: Vec2): Vec2 {
    const size = 2 * this.#within
    return [p[0] / size, p[1] / size]
  }
}
