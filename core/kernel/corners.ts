import type { Manifold } from 'manifold-3d'
import { dot, type Vec3 } from '../place/index.ts'

/** The points for which `normal` · p = `offset`; the normal is unit, the offset in mm. */
export interface Plane {
  readonly normal: Vec3
  readonly offset: number
}
/** A corner nearer to a plane than this lies in it, mm. */
const inPlane = 1e-7

/** A copy whose corners `change` moves in place: x, y and z stand at `at` and behind it. */
export function moved(raw: Manifold, change: (coordinates: Float64Array, at: number) => void): Manifold {
  return raw.warpBatch((coordinates, count) => {
    for (let at = 0; at < 3 * count; at += 3) change(coordinates, at)
  })
}

/** Corners in one of these planes moved out of it by so much, along its normal. */
export function grown(raw: Manifold, planes: readonly Plane[], by: number): Manifold {
  return moved(raw, (p, at) => {
    const from = [p[at]!, p[at + 1]!, p[at + 2]!] as const
    for (const { normal, offset } of planes)
      if (Math.abs(dot(normal, from) - offset) < inPlane)
        for (const i of [0, 1, 2] as const) p[at + i] = p[at + i]! + normal[i] * by
  })
}

/** Corners that were moved out of these planes moved back; those that then fall together become one. */
export function ungrown(raw: Manifold, planes: readonly Plane[], by: number): Manifold {
  const back = moved(raw, (p, at) => {
    const from = [p[at]!, p[at + 1]!, p[at + 2]!] as const
    for (const { normal, offset } of planes) {
      // What met others on its way is anywhere between.
      const above = dot(normal, from) - offset
      if (above > by / 1e3 && above < by * 1.25)
        for (const i of [0, 1, 2] as const) p[at + i] = p[at + i]! - normal[i] * above
    }
  })
  const near = (p: Vec3) => planes.some(({ normal, offset }) => Math.abs(dot(normal, p) - offset) < by / 4)
  // Where faces meet at a slant, a step is some times as wide as it was deep.
  const closed = back.warpBatch((p, count) => together(p, count, 5 * by, near))
  back.delete()
  return closed
}

/** Of corners that `near` picks, those that lie within `size` of an earlier one are moved to it. */
function together(p: Float64Array, count: number, size: number, near: (p: Vec3) => boolean): void {
  const cells = new Map<string, number[]>()
  for (let at = 0; at < 3 * count; at += 3) {
    const from = [p[at]!, p[at + 1]!, p[at + 2]!] as const
    if (!near(from)) continue
    const [x, y, z] = from.map((c) => Math.floor(c / size)) as [number, number, number]
    const round = [-1, 0, 1].flatMap((i) =>
      [-1, 0, 1].flatMap((k) => [-1, 0, 1].map((m) => [x + i, y + k, z + m].join())),
    )
    const first = round
      .flatMap((key) => cells.get(key) ?? [])
      .find((other) => Math.hypot(p[other]! - from[0], p[other + 1]! - from[1], p[other + 2]! - from[2]) < size)
    if (first !== undefined) p.copyWithin(at, first, first + 3)
    else cells.set([x, y, z].join(), [...(cells.get([x, y, z].join()) ?? []), at])
  }
}
