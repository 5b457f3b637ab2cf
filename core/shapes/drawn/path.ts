import type { Ring } from '../../kernel/index.ts'
import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../../place/index.ts'
import type { Drawn } from '../../plane/index.ts'
import type { NamedFace } from '../surfaces.ts'
import { extentsOf } from './common.ts'

/** Where a section stands on its way: its origin, its two directions, and how much it is drawn out across a bend. */
export interface Station {
  readonly origin: Vec3
  /** the direction of travel on both sides of the station */
  readonly into: Vec3
  readonly away: Vec3
  /** directions of the section's x and y; square to the way into the station */
  readonly x: Vec3
  readonly y: Vec3
  /** what the plane of the section is square to, where that is not halfway between the two */
  readonly square?: Vec3 | undefined
}

/**
 * The corners of a section at a station: carried along the way into it, on to the plane that halves the bend, so that
 * the walls before and after meet in one edge.
 */
export function corners({ origin, into, away, x, y, square }: Station, rings: readonly Ring[]): Vec3[] {
  const sum = add(into, away)
  const plane = square ?? (norm(sum) < 1e-9 ? into : scaled(sum, 1 / norm(sum)))
  const slope = dot(into, plane)
  return rings.flat().map(([a, b]) => {
    const flat = add(scaled(x, a), scaled(y, b))
    const slide = -dot(flat, plane) / slope
    return add(origin, add(flat, scaled(into, slide)))
  })
}

/** The first station between which and the next one a corner goes backwards; −1 where none does. */
export function turnedBack(
  sections: readonly (readonly Vec3[])[],
  stations: readonly Station[],
  closed: boolean,
): number {
  const last = closed ? sections.length : sections.length - 1
  for (let k = 0; k < last; k++) {
    const next = sections[(k + 1) % sections.length]!
    const back = sections[k]!.some((p, i) => dot(subtract(next[i]!, p), stations[k]!.away) <= 0)
    if (back) return k
  }
  return -1
}

/**
 * Sections are drawn as they are seen along the way, from behind; a skin wants them as they are seen from ahead, where left
 * and right have changed places.
 */
export function seenFromAhead(rings: readonly Ring[]): Ring[] {
  return rings.map((ring) => ring.map(([x, y]) => [-x, y] as const).reverse())
}

/** The points of sections in the order of `seenFromAhead`. */
export function inOrderAhead(section: readonly Vec3[], rings: readonly Ring[]): Vec3[] {
  let start = 0
  return rings.flatMap(({ length }) => {
    const own = section.slice(start, start + length).reverse()
    start += length
    return own
  })
}

/**
 * The flat that an outline ends in where it stands at `origin` with its x and y in these directions: a face that looks the
 * way of `outwards`, which is square to both.
 */
export function endFace(
  name: string,
  outline: Drawn,
  { origin, x, y }: Pick<Station, 'origin' | 'x' | 'y'>,
  outwards: Vec3,
): NamedFace {
  const { min, max } = extentsOf(outline)
  const centre = add(origin, add(scaled(x, (min[0] + max[0]) / 2), scaled(y, (min[1] + max[1]) / 2)))
  const u = dot(cross(x, y), outwards) > 0 ? x : scaled(x, -1)
  return {
    name,
    frame: { origin: centre, u, v: y, n: cross(u, y) },
    size: [max[0] - min[0], max[1] - min[1]],
    sides: { across: ['left', 'right'], along: ['bottom', 'top'] },
  }
}
