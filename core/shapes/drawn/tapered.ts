import type { Ring, Scope, Solid } from '../../kernel/index.ts'
import { segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { bodiesOf, inset, liesWell } from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { type Skin, skinned } from './skin.ts'

export type RaisedEnds = 'plain' | 'round' | 'bevel' | 'both-round' | 'both-bevel'

export interface Raised {
  readonly low: number
  readonly high: number
  /** how far the sides lean inwards on the way up, degrees */
  readonly taper: number
  readonly ends: RaisedEnds
  /** radius of rounded ends, or what a bevel takes from both faces, mm */
  readonly end: number
}

/** How far leaning sides spread beyond their outline, mm. */
export function spreadOf(form: Raised): number {
  return form.taper < 0 ? Math.max(0, ...leaningLevels(form, 0.01).map((level) => -level.in)) : 0
}

/** Heights above the foot, with how far the outline has drawn in there. */
interface Level {
  readonly z: number
  readonly in: number
}

/**
 * Rings raised from one height to another, their sides leaning and their ends rounded or bevelled.
 * @throws ProblemError drawn-closes-up, too-many-triangles
 */
export function tapered(scope: Scope, rings: readonly Ring[], form: Raised, fineness: number): Solid {
  const levels = leaningLevels(form, fineness)
  // What only draws in cannot meet its neighbour, so that a flat that vanishes is a level for its own body alone.
  const apart = levels.every((level) => level.in >= 0) ? bodiesOf(rings) : [rings]
  return skinned(
    scope,
    apart.map((body) => raised(body, levels, form.low)),
  )
}

function raised(rings: readonly Ring[], levels: readonly Level[], low: number): Skin {
  const deepest = Math.max(...levels.map((level) => level.in))
  const shallowest = Math.min(...levels.map((level) => level.in))
  const inner = inset(rings, Math.max(deepest, 0))
  const outer = inset(rings, Math.min(shallowest, 0))
  const at = (by: number) => (by >= 0 ? inner.at(by) : outer.at(-by))
  // Where a flat vanishes between two levels, there is a level too: between levels all sides are flat.
  const events = [...inner.events, ...outer.events.map((by) => -by)]
  const all = levels.flatMap((level, i): Level[] => {
    const next = levels[i + 1]
    if (!next) return [level]
    const between = events
      .map((by) => ({ share: (by - level.in) / (next.in - level.in), by }))
      .filter(({ share }) => share > 1e-9 && share < 1 - 1e-9)
      .sort((a, b) => a.share - b.share)
    return [level, ...between.map(({ share, by }) => ({ z: level.z + share * (next.z - level.z), in: by }))]
  })
  const placedRings = all.map((level) => at(level.in))
  const bad = placedRings.findIndex((each) => !each || !liesWell(each, rings))
  if (bad >= 0) {
    const where = Math.round(all[Math.max(0, bad - 1)]!.z * 100) / 100
    throw new ProblemError('drawn-closes-up', { height: where })
  }
  const sections = placedRings.map((each, i) => each!.flat().map(([x, y]): Vec3 => [x, y, low + all[i]!.z]))
  return { flat: placedRings[0]!, lastFlat: placedRings.at(-1)!, sections }
}

function leaningLevels(form: Raised, fineness: number): Level[] {
  const slope = Math.tan((form.taper * Math.PI) / 180)
  return levelsOf(form, fineness).map(({ z, in: by }) => ({ z, in: by + z * slope }))
}

function levelsOf({ ends, end, low, high }: Raised, fineness: number): Level[] {
  const height = high - low
  if (ends === 'plain')
    return [
      { z: 0, in: 0 },
      { z: height, in: 0 },
    ]
  const round = ends.endsWith('round')
  const steps = round ? Math.max(2, segmentsFor(end, fineness) / 4) : 1
  // A quarter round from upright to level; a bevel is its chord.
  const quarter = Array.from({ length: steps + 1 }, (_, i) => {
    const rad = (Math.PI / 2) * (i / steps)
    return round
      ? { up: end * Math.sin(rad), in: end * (1 - Math.cos(rad)) }
      : { up: end * (i / steps), in: end * (i / steps) }
  })
  const top = quarter.map(({ up, in: by }) => ({ z: height - end + up, in: by }))
  if (!ends.startsWith('both')) return [{ z: 0, in: 0 }, ...top]
  return [...quarter.map(({ up, in: by }) => ({ z: end - up, in: by })).reverse(), ...top]
}
