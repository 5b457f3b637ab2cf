import type { SectionPoint, ThreadSection } from '../../hardware/index.ts'
import { type Corner, columnsOf, type Winding } from './wound.ts'

/** A straight limit of a thread's radius along the axis: through `radius` at height `z`, changing by `slope` with the height. */
export interface Limit {
  readonly z: number
  readonly radius: number
  readonly slope: number
}

export interface Helix {
  readonly section: ThreadSection
  readonly starts: number
  readonly hand: 'right' | 'left'
  readonly low: number
  readonly high: number
  /** where a thread on a cone has the diameter of its section */
  readonly gauge: number
  /** never wider than these: an outside thread is led in, an inside one runs out */
  readonly under: readonly Limit[]
  /** never narrower than these: an outside thread runs out, an inside one is led in */
  readonly over: readonly Limit[]
  readonly fineness: number
}

/** A thread of a section, winding about the z axis: at angle 0 the middle of a ridge is at height 0. */
export function helixOf({ section, starts, hand, low, high, gauge, under, over, fineness }: Helix): Winding {
  const { pitch, slope } = section
  const points = parted(section, starts * pitch, columnsOf(section, fineness, true))
  const sense = hand === 'right' ? 1 : -1
  const count = points.length
  const near = pitch * 2e-3
  return {
    low,
    high,
    outer: section.outer + slope * Math.max(0, gauge - low) + Math.max(0, ...over.flatMap(largest(low, high))),
    // Each turn goes up by as many pitches as there are starts, all the lines of which come anew.
    turn: -sense * starts * count,
    column(rad) {
      const rise = (sense * rad * starts * pitch) / (2 * Math.PI)
      const first = Math.floor((low - rise - points[0]!.along) / pitch) - 1
      const last = Math.ceil((high - rise - points[0]!.along) / pitch) + 1
      let all: Corner[] = []
      for (let k = first; k <= last; k++)
        for (const [i, { along, radius }] of points.entries()) {
          const z = rise + along + k * pitch
          all.push({ z, radius: radius + slope * (gauge - z), line: k * count + i })
        }
      all = within(all, low, high)
      for (const limit of under) all = limited(all, limit, -1)
      for (const limit of over) all = limited(all, limit, 1)
      return spaced(all, near)
    },
  }
}

/**
 * A flank is wound, and flats between two columns are not: across the diagonal of one that goes from radius a to b they lie off it along the
 * axis by lead / 2π · (angle between columns) · (b − a) / 2 (a + b). Steep flanks are parted until that is next to nothing.
 */
function parted({ points, pitch }: ThreadSection, lead: number, columns: number): readonly SectionPoint[] {
  return points.flatMap((a, i) => {
    const b = points[i + 1] ?? { ...points[0]!, along: points[0]!.along + pitch }
    const off = ((lead / columns) * Math.abs(b.radius - a.radius)) / (2 * (a.radius + b.radius))
    const parts = Math.ceil(off / mostOff)
    return Array.from({ length: Math.max(1, parts) }, (_, k) => {
      const share = k / Math.max(1, parts)
      return { along: a.along + share * (b.along - a.along), radius: a.radius + share * (b.radius - a.radius) }
    })
  })
}
/** mm */
const mostOff = 0.001

const largest = (low: number, high: number) => (limit: Limit) => [at(limit, low), at(limit, high)]
const at = ({ z, radius, slope }: Limit, height: number) => radius + slope * (height - z)

/** What of a column lies between two heights, with corners there. */
function within(all: readonly Corner[], low: number, high: number): Corner[] {
  const inside = all.filter(({ z }) => z > low && z < high)
  const end = (z: number, line: number): Corner => {
    const after = all.findIndex((corner) => corner.z >= z)
    const [a, b] = [all[after - 1]!, all[after]!]
    return { z, radius: a.radius + ((b.radius - a.radius) * (z - a.z)) / (b.z - a.z), line }
  }
  return [end(low, -Infinity), ...inside, end(high, Infinity)]
}

/** The smaller (`way` −1) or larger (1) of a column and a limit, with corners where they cross. */
function limited(all: readonly Corner[], limit: Limit, way: 1 | -1): Corner[] {
  const beyond = ({ z, radius }: Corner) => way * (at(limit, z) - radius)
  const found: Corner[] = []
  for (const [i, corner] of all.entries()) {
    const off = beyond(corner)
    const before = all[i - 1]
    if (before) {
      const was = beyond(before)
      if (was * off < 0) {
        const z = before.z + ((corner.z - before.z) * was) / (was - off)
        // Between the lines that it lies between, wherever those are ends.
        const line = Number.isFinite(before.line) ? before.line + 0.5 : corner.line - 0.5
        found.push({ z, radius: at(limit, z), line })
      }
    }
    if (off <= 0) found.push(corner)
    else if (!Number.isFinite(corner.line)) found.push({ ...corner, radius: at(limit, corner.z) })
  }
  return found
}

/** Without corners nearer to the one before than `least`; the ends stay. */
function spaced(all: readonly Corner[], least: number): readonly Corner[] {
  const kept: Corner[] = []
  for (const [i, corner] of all.entries()) {
    const before = kept.at(-1)
    const isEnd = i === all.length - 1
    if (before && apartBy(before, corner) < least) {
      if (!isEnd) continue
      if (kept.length > 1) kept.pop()
    }
    kept.push(corner)
  }
  return kept
}

const apartBy = (a: Corner, b: Corner) => Math.hypot(a.z - b.z, a.radius - b.radius)
