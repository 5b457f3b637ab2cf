import type { AnyValues } from '../../fields/index.ts'
import type { Ring } from '../../kernel/index.ts'
import { directionIn, type Frame, pointIn, type Vec3 } from '../../place/index.ts'
import type { ShapeDefinition } from '../../shapes/index.ts'

/** One copy of a step, as what the outline of a carved solid came from. */
export interface RegionSource {
  readonly step: string
  /** its number, from 1 */
  readonly copy: number
  readonly shape: ShapeDefinition
  readonly values: AnyValues
  readonly cuts: boolean
  /** in the frame of the base */
  readonly frame: Frame
}

/** What the surfaces of a carved solid came from: flats from the base, walls from whose outline they are on. */
export class CarvedRegion {
  readonly #sources: readonly RegionSource[]
  readonly #rings: readonly (readonly Ring[])[]
  /** cell -> numbers of edges */
  readonly #cells = new Map<string, number[]>()
  readonly #edges: { readonly a: Ring[number]; readonly b: Ring[number]; readonly source: number }[] = []
  #cell = 0

  constructor(sources: readonly RegionSource[], rings: readonly (readonly Ring[])[]) {
    this.#sources = sources
    this.#rings = rings
  }

  /** The copy that a surface point of the carved solid belongs to, and the point and its normal in that copy's frame. */
  sourceAt(
    point: Vec3,
    normal: Vec3,
  ): { readonly index: number; readonly source: RegionSource; point: Vec3; normal: Vec3 } {
    const index = Math.abs(normal[2]) > 0.5 ? 0 : this.nearest(point[0], point[1])
    const source = this.#sources[index]!
    const outward = directionIn(source.frame, normal)
    return {
      index,
      source,
      point: pointIn(source.frame, point),
      normal: source.cuts ? [-outward[0], -outward[1], -outward[2]] : outward,
    }
  }

  private nearest(x: number, y: number): number {
    if (this.#edges.length === 0) this.indexEdges()
    let best = { source: 0, away: Infinity }
    const [cx, cy] = [Math.floor(x / this.#cell), Math.floor(y / this.#cell)]
    for (let i = cx - 1; i <= cx + 1; i++)
      for (let k = cy - 1; k <= cy + 1; k++)
        for (const e of this.#cells.get(`${i} ${k}`) ?? []) {
          const { a, b, source } = this.#edges[e]!
          const away = distanceTo(a, b, x, y)
          if (away < best.away) best = { source, away }
        }
    return best.source
  }

  private indexEdges(): void {
    const outline = this.#rings[0]!.flat()
    const extent = (i: 0 | 1) => Math.max(...outline.map((p) => p[i])) - Math.min(...outline.map((p) => p[i]))
    this.#cell = Math.max(extent(0), extent(1), 1) / 128
    this.#rings.forEach((rings, source) => {
      for (const ring of rings)
        ring.forEach((a, i) => {
          const b = ring[(i + 1) % ring.length]!
          const edge = this.#edges.push({ a, b, source }) - 1
          const steps = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / this.#cell) + 1
          for (let s = 0; s <= steps; s++) {
            const t = s / steps
            const key = `${Math.floor((a[0] + (b[0] - a[0]) * t) / this.#cell)} ${Math.floor((a[1] + (b[1] - a[1]) * t) / this.#cell)}`
            const cell = this.#cells.get(key)
            if (!cell) this.#cells.set(key, [edge])
            else if (cell.at(-1) !== edge) cell.push(edge)
          }
        })
    })
  }
}

function distanceTo(a: Ring[number], b: Ring[number], x: number, y: number): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const t = Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy || 1)))
  return Math.hypot(a[0] + dx * t - x, a[1] + dy * t - y)
}
