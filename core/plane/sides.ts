import Flatbush from 'flatbush'
import type { Box2 } from './crossings.ts'
import { offSide, type Ring, type Vec2 } from './vectors.ts'

/** The sides of rings in a tree: asked over and over what lies in them or near them. */
export class RingSides {
  readonly #sides: readonly (readonly [Vec2, Vec2])[]
  readonly #tree: Flatbush | undefined
  readonly #right: number

  constructor(rings: readonly Ring[]) {
    this.#sides = rings.flatMap((ring) => ring.map((a, i) => [a, ring[(i + 1) % ring.length]!] as const))
    this.#tree = this.#sides.length > 0 ? new Flatbush(this.#sides.length) : undefined
    for (const [a, b] of this.#sides)
      this.#tree!.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]))
    this.#tree?.finish()
    this.#right = this.#tree?.maxX ?? 0
  }

  /** Whether rings wind about a place more often counter-clockwise than clockwise: whether one of several regions has it. */
  isFilledAt([x, y]: Vec2): boolean {
    let turns = 0
    // Sides that a line to the right crosses, or that lie about the place.
    for (const i of this.#tree?.search(x, y, Math.max(x, this.#right), y) ?? []) {
      const [a, b] = this.#sides[i]!
      const left = (b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1])
      if (a[1] <= y && b[1] > y && left > 0) turns++
      else if (a[1] > y && b[1] <= y && left < 0) turns--
    }
    return turns > 0
  }

  /** How far a place is from the nearest side, mm; some side's distance, where that is no more than `enough`. */
  distanceFrom(p: Vec2, enough = 0): number {
    // No side is nearer than its box.
    const first = this.#tree?.neighbors(p[0], p[1], 1)[0]
    if (first === undefined) return Number.POSITIVE_INFINITY
    const far = offSide(p, ...this.#sides[first]!)
    if (far <= enough) return far
    const near = this.#tree!.search(p[0] - far, p[1] - far, p[0] + far, p[1] + far)
    return near.reduce((least, i) => Math.min(least, offSide(p, ...this.#sides[i]!)), far)
  }

  /** Sides whose boxes meet a box. */
  in({ min, max }: Box2): readonly (readonly [Vec2, Vec2])[] {
    return this.#tree?.search(min[0], min[1], max[0], max[1]).map((i) => this.#sides[i]!) ?? []
  }
}
