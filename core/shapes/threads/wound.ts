import { circumradius, type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'

/**
 * Surfaces round the z axis whose radius is told for each angle and height: threads and knurls. Going round, each column has the corners of
 * its section, from `low` to `high`; between two columns corners of the same line are joined, so that ridges run on without steps.
 *
 *     z ^   |     |  .  |
 *       |   |  . ´|´    |      three columns, and a line that winds up
 *       |  ´|´    |     |
 *       +---+-----+-----+--> angle
 */
export interface Winding {
  readonly low: number
  readonly high: number
  /** over all of it, mm: how many columns there are follows from it */
  readonly outer: number
  /** The corners of the column at an angle, by their heights: more than one turn is told by the same lines. */
  column(rad: number): readonly Corner[]
  /** how many lines higher the one that begins at angle 0 is after one turn */
  readonly turn: number
}

/** A corner of a column: where it lies, and which line it is on, in the order of heights; ends have −Infinity and Infinity. */
export interface Corner {
  readonly z: number
  readonly radius: number
  readonly line: number
}

/**
 * Columns are so much finer than other rounds, and never coarser than this (mm): screw and nut run along each other, and a pitch
 * diameter is to be right to 0.005 mm whatever the fineness.
 */
const finer = 8
const coarsest = 0.0025

export function columnsOf({ outer }: Pick<Winding, 'outer'>, fineness: number, circumscribed: boolean): number {
  return segmentsFor(outer, Math.min(fineness / finer, coarsest), circumscribed)
}

export interface WoundContext {
  readonly scope: Scope
  readonly fineness: number
  /** what cuts is circumscribed, so that what is left has its true diameter */
  readonly cuts: boolean
}

/** What lies within the surface. */
export function woundSolid(winding: Winding, { scope, fineness, cuts }: WoundContext): Solid {
  const surface = new WoundSurface(winding, columnsOf(winding, fineness, cuts), cuts)
  for (const end of [surface.highest, surface.lowest]) {
    const ring = end.map((i) => [surface.points[3 * i]!, surface.points[3 * i + 1]!] as const)
    for (const [a, b, c] of scope.triangulated([ring]))
      if (end === surface.highest) surface.triangles.push(end[a]!, end[b]!, end[c]!)
      else surface.triangles.push(end[a]!, end[c]!, end[b]!)
  }
  return scope.meshed(surface.mesh)
}

/** What lies between the surface and a round of this radius about it, which is larger all round. */
export function woundSleeve(winding: Winding, around: number, { scope, fineness }: WoundContext): Solid {
  const columns = columnsOf({ outer: around }, fineness, true)
  const surface = new WoundSurface(winding, columns, false)
  const { triangles, lowest, highest } = surface
  // What looked outwards is the inner side of the sleeve.
  triangles.reverse()
  const out = circumradius(around, columns)
  const [low, high] = [winding.low, winding.high].map((z) =>
    Array.from({ length: columns }, (_, i) => surface.put(i, out, z)),
  ) as [number[], number[]]
  const between = (a: readonly number[], b: readonly number[]) => {
    for (let i = 0; i < columns; i++) {
      const k = (i + 1) % columns
      triangles.push(a[i]!, a[k]!, b[k]!, a[i]!, b[k]!, b[i]!)
    }
  }
  between(low, high)
  between(high, highest)
  between(lowest, low)
  return scope.meshed(surface.mesh)
}

/** As fine as places are told, mm. */
export const cloudFineness = 0.02

/** Its corners, for what lies in the hull of them. */
export function pointsOf(winding: Winding, fineness: number, circumscribed: boolean): readonly Vec3[] {
  const { points } = new WoundSurface(winding, columnsOf(winding, fineness, circumscribed), circumscribed)
  return Array.from({ length: points.length / 3 }, (_, i) => [points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!])
}

/** All columns, joined; its triangles look outwards. */
class WoundSurface {
  readonly #columns: number
  /** x, y, z of each point, mm */
  readonly points: number[] = []
  readonly triangles: number[] = []
  /** the points of its ends, counter-clockwise from above */
  readonly lowest: number[] = []
  readonly highest: number[] = []

  constructor(winding: Winding, columns: number, circumscribed: boolean) {
    this.#columns = columns
    const by = circumscribed ? circumradius(1, columns) : 1
    const all = Array.from({ length: columns }, (_, i) => winding.column((2 * Math.PI * i) / columns))
    for (const [i, corners] of all.entries()) {
      this.lowest.push(this.points.length / 3)
      for (const { z, radius } of corners) this.put(i, by * radius, z)
      this.highest.push(this.points.length / 3 - 1)
    }
    for (const [i, own] of all.entries()) {
      const next = (i + 1) % columns
      // What comes back after a turn is on lines that are called otherwise.
      const shift = next === 0 ? winding.turn : 0
      this.join({ own, next: all[next]!, shift, from: this.lowest[i]!, to: this.lowest[next]! })
    }
  }

  get mesh(): { readonly positions: Float64Array; readonly triangles: Uint32Array } {
    return { positions: Float64Array.from(this.points), triangles: Uint32Array.from(this.triangles) }
  }

  /** A new point of a column; its number. At quarters the coordinates are exact, so that extremes are what was asked for. */
  put(column: number, radius: number, z: number): number {
    const quarter = this.#columns / 4
    const rad = (2 * Math.PI * (column % quarter)) / this.#columns
    const [x, y] = [radius * Math.cos(rad), radius * Math.sin(rad)]
    const turns = Math.floor(column / quarter)
    if (turns === 0) this.points.push(x, y, z)
    else if (turns === 1) this.points.push(-y, x, z)
    else if (turns === 2) this.points.push(-x, -y, z)
    else this.points.push(y, -x, z)
    return this.points.length / 3 - 1
  }

  /** Triangles between two columns: corners of one line are joined, and those of a line that only one of them has to the one below on the other. */
  private join({ own, next, shift, from, to }: Strip): void {
    const { triangles } = this
    let [a, b] = [0, 0]
    const [lastA, lastB] = [own.length - 1, next.length - 1]
    while (a < lastA || b < lastB) {
      const lineA = a < lastA ? own[a + 1]!.line : Infinity
      const lineB = b < lastB ? next[b + 1]!.line + shift : Infinity
      const [p, q] = [from + a, to + b]
      if (a < lastA && b < lastB && lineA === lineB) {
        triangles.push(p, q, q + 1, p, q + 1, p + 1)
        a++
        b++
      } else if (b === lastB || (a < lastA && lineA < lineB)) {
        triangles.push(p, q, p + 1)
        a++
      } else {
        triangles.push(p, q, q + 1)
        b++
      }
    }
  }
}

interface Strip {
  readonly own: readonly Corner[]
  readonly next: readonly Corner[]
  /** how much higher the lines of the next one are called */
  readonly shift: number
  /** the first point of either */
  readonly from: number
  readonly to: number
}
