import type { Ring } from '../kernel/index.ts'
import type { Paced } from '../pacing/index.ts'
import { cross2, distance2, hullOf, minus, ringArea, type Vec2 } from '../plane/index.ts'
import { type LayerHeights, layerBottom, layerMiddle } from './heights.ts'
import type { Sections } from './sections.ts'

/** A solid as far as it is printed at some height, on its foot. */
export interface Risen {
  /** mm above the bed */
  readonly height: number
  /** by how many degrees it may be tilted before it falls over, the shortest way; below 0 where its weight lies beyond its foot */
  readonly tips: number
}

/**
 * How a solid that stands on the bed stands while it is printed, after each layer: its centre of mass against the hull of its foot, the
 * first layer. Empty where nothing is in the first layer.
 */
export function* risingOf(
  sections: Pick<Sections, 'at'>,
  heights: LayerHeights,
  height: number,
): Paced<readonly Risen[]> {
  const foot = hullOf(sections.at(layerMiddle(0, heights)).flat())
  if (foot.length < 3) return []
  const out: Risen[] = []
  const sum = { volume: 0, x: 0, y: 0, z: 0 }
  const known = new WeakMap<readonly Ring[], Moments>()
  for (let layer = 0; layerBottom(layer, heights) < height; layer++) {
    const [low, high] = [layerBottom(layer, heights), Math.min(height, layerBottom(layer + 1, heights))]
    yield
    const rings = sections.at(layerMiddle(layer, heights))
    const { area, x, y } = known.get(rings) ?? momentsOf(rings)
    known.set(rings, { area, x, y })
    const thick = high - low
    sum.volume += area * thick
    sum.x += x * thick
    sum.y += y * thick
    sum.z += area * thick * ((low + high) / 2)
    if (!(sum.volume > 0)) continue
    const inside = depthIn(foot, [sum.x / sum.volume, sum.y / sum.volume])
    out.push({ height: high, tips: (Math.atan2(inside, sum.z / sum.volume) * 180) / Math.PI })
  }
  return out
}

interface Moments {
  readonly area: number
  /** of area, about the axes: area times where its middle lies */
  readonly x: number
  readonly y: number
}

/** Area and its moments by a sum over sides (Green's theorem), holes counted off. */
function momentsOf(rings: readonly Ring[]): Moments {
  const sum = { area: 0, x: 0, y: 0 }
  for (const ring of rings)
    for (const [i, a] of ring.entries()) {
      const b = ring[(i + 1) % ring.length]!
      const twice = cross2(a, b)
      sum.area += twice / 2
      sum.x += (twice * (a[0] + b[0])) / 6
      sum.y += (twice * (a[1] + b[1])) / 6
    }
  return sum
}

/** How deep a place lies in a convex polygon, mm; below 0 where it lies outside. */
function depthIn(hull: readonly Vec2[], p: Vec2): number {
  return hull.reduce((least, a, i) => {
    const b = hull[(i + 1) % hull.length]!
    return Math.min(least, cross2(minus(b, a), minus(p, a)) / distance2(a, b))
  }, Number.POSITIVE_INFINITY)
}

/** A sharp corner of an outline, as of a plate on the bed. */
export interface SharpCorner {
  readonly at: Vec2
  /** from the middle of what it belongs to, mm */
  readonly far: number
}

/** A corner is where an outline turns outwards by this within so many mm on both sides. */
const [sharp, along] = [(60 * Math.PI) / 180, 2]

/** Sharp outer corners of rings, each with how far it is from the middle of all of them. */
export function sharpCorners(rings: readonly Ring[]): readonly SharpCorner[] {
  const { area, x, y } = momentsOf(rings)
  const middle: Vec2 = [x / area, y / area]
  return rings
    .filter((ring) => ringArea(ring) > 0)
    .flatMap((ring) =>
      ring.flatMap((at, i): SharpCorner[] => {
        const [before, after] = [walked(ring, i, -1), walked(ring, i, 1)]
        const [come, go] = [minus(at, before), minus(after, at)]
        const turn = Math.atan2(cross2(come, go), come[0] * go[0] + come[1] * go[1])
        return turn > sharp ? [{ at, far: distance2(at, middle) }] : []
      }),
    )
}

/** The place so far along a ring from one of its corners. */
function walked(ring: Ring, from: number, way: 1 | -1): Vec2 {
  let left = along
  for (let k = 0; k < ring.length; k++) {
    const a = ring[(from + way * k + 2 * ring.length) % ring.length]!
    const b = ring[(from + way * (k + 1) + 2 * ring.length) % ring.length]!
    const long = distance2(a, b)
    if (long >= left) return [a[0] + ((b[0] - a[0]) * left) / long, a[1] + ((b[1] - a[1]) * left) / long]
    left -= long
  }
  return ring[from]!
}
