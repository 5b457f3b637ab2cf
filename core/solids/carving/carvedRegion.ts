import Flatbush from 'flatbush'
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

/** An edge of the outline, and the place of what it came from. */
interface Wall {
  readonly a: Ring[number]
  readonly b: Ring[number]
  readonly source: number
}

/** A point of a wall is looked for this far around it first, mm: flats are nearer than that to what they are of. */
const besideWall = 0.05

/** What the surfaces of a carved solid came from: flats from the base, walls from whose outline they are on. */
export class CarvedRegion {
  readonly #sources: readonly RegionSource[]
  readonly #rings: readonly (readonly Ring[])[]
  #indexed: { readonly walls: readonly Wall[]; readonly boxes: Flatbush } | undefined

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
    this.#indexed ??= indexed(this.#rings)
    const { walls, boxes } = this.#indexed
    let best = { source: 0, away: Infinity }
    for (let r = besideWall; best.away > r && r < 1e9; r *= 8) {
      for (const i of boxes.search(x - r, y - r, x + r, y + r)) {
        const { a, b, source } = walls[i]!
        const away = distanceTo(a, b, x, y)
        if (away < best.away || (away === best.away && source < best.source)) best = { source, away }
      }
    }
    return best.source
  }
}

function indexed(rings: readonly (readonly Ring[])[]) {
  const walls = rings.flatMap((own, source) =>
    own.flatMap((ring) => ring.map((a, i): Wall => ({ a, b: ring[(i + 1) % ring.length]!, source }))),
  )
  const boxes = new Flatbush(walls.length)
  for (const { a, b } of walls)
    boxes.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]))
  boxes.finish()
  return { walls, boxes }
}

function distanceTo(a: Ring[number], b: Ring[number], x: number, y: number): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const t = Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy || 1)))
  return Math.hypot(a[0] + dx * t - x, a[1] + dy * t - y)
}
