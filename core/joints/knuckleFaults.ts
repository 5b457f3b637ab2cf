import type { Vec3 } from '../place/index.ts'
import { type Bored, boresJudged } from './bores.ts'
import type { Fact, Judged } from './define.ts'
import type { Knuckles } from './knuckleFields.ts'
import { shown } from './words.ts'

/** What hinges cannot be, however many knuckles they have. */
export function knucklesImpossible(v: Knuckles) {
  if (v.pin / 2 + Math.max(v.gap, v.made === 'separate' ? v.seat : 0) >= v.knuckle / 2)
    return { field: 'pin', detail: 'The pin and its gap leave nothing of the knuckle round it.' } as const
  if (v.leaf > v.knuckle)
    return { field: 'leaf', detail: 'The leaves cannot be thicker than the knuckles are wide.' } as const
  if (v.made === 'snapped' && v.mouth >= v.pin)
    return { field: 'mouth', detail: `The pin falls out: narrower than the pin, ${shown(v.pin)}.` } as const
  if (v.made === 'snapped' && v.mouth < 0.7 * v.pin)
    return { field: 'mouth', detail: `Too narrow, it would break: at least ${shown(0.7 * v.pin)}.` } as const
  return stopImpossible(v) ?? clicksImpossible(v)
}

function stopImpossible(v: Knuckles) {
  if (v.stop !== 'end') return undefined
  if (v.travel > 180) return { field: 'travel', detail: 'Beyond 180° there is nothing for a stop to rest on.' } as const
  // Thick leaves meet before.
  const [out, up] = [v.knuckle / 2 + v.gap, v.leaf + v.gap / 2 - v.knuckle / 2]
  const most = 180 - (2 * Math.max(0, Math.atan2(up, out)) * 180) / Math.PI
  if (v.travel > most)
    return {
      field: 'travel',
      detail: `Leaves that thick meet before their stop: ${Math.floor(most)}° at most.`,
    } as const
  if (v.travel < 45)
    return {
      field: 'travel',
      detail: 'A stop before 45° hangs in the air where it is printed: 45° at least.',
    } as const
  if (v.leaf + v.gap > 0.75 * v.knuckle)
    return {
      field: 'leaf',
      detail: `A leaf that thick leaves nothing for a stop to stand on: ${shown(0.75 * v.knuckle - v.gap)} at most.`,
    } as const
  return undefined
}

/** Half as wide as the ridge is where it leaves the pin: its flanks are at 45°, its tip is flat. */
export const ridgeTip = 0.5
export const ridgeHalf = (v: Leaves) => ridgeTip / 2 + v.gap + v.ridge

/** From where the ridge stands as it is printed round to the roof of the bores, degrees. */
const beforeRoof = 225

function clicksImpossible(v: Knuckles) {
  if (!hasClicks(v)) return undefined
  if (v.pin / 2 + 2 * v.gap + v.ridge >= v.knuckle / 2 - 0.4)
    return { field: 'ridge', detail: 'Its grooves leave nothing of the knuckles round the pin.' } as const
  const least = (2 * Math.atan((ridgeHalf(v) + v.gap * Math.SQRT2) / (v.pin / 2)) * 180) / Math.PI
  if (v.clicks < least)
    return {
      field: 'clicks',
      detail: `Its grooves would run into each other: every ${Math.ceil(least)}° at least.`,
    } as const
  const most = Math.floor(beforeRoof - least / 2)
  if (v.bores === 'teardrop' && v.travel > most)
    return {
      field: 'bores',
      detail: `Its ridge would reach the roof of the bores and stop clicking: fold ${most}° at most, or make them round.`,
    } as const
  return undefined
}

export const hasClicks = ({ feel, made }: Leaves) => feel === 'clicks' && made !== 'separate'

export type Leaves = Omit<Knuckles, 'count'>

export const bored = (v: Leaves): Bored => ({ bores: v.bores, pin: v.pin / 2, round: v.knuckle / 2 })
/** The rooms of all bores: of the inner knuckles, and of the outer ones about a pin of its own. */
export const rooms = (v: Leaves) => (v.made === 'separate' ? [v.gap, v.seat] : [v.gap])

/** What else there is to know of a hinge, and what is wrong with it. */
export function knucklesJudged(v: Leaves, up: Vec3): Judged {
  const snaps = v.made === 'snapped' ? [`${shown((v.pin - v.mouth) / 2)} mm of give on each side`] : []
  const clicks = hasClicks(v) ? [`every ${shown(v.clicks)}°, over ${shown(v.ridge)} mm`] : []
  const stops = v.stop === 'end' ? [`at ${shown(v.travel)}°, ${shown(v.gap)} mm before its heels meet the leaf`] : []
  const facts: Fact[] = [
    ...snaps.map((text) => ({ label: 'Snaps in with', text })),
    ...stops.map((text) => ({ label: 'Stops', text })),
    ...clicks.map((text) => ({ label: 'Clicks', text })),
  ]
  const bores = boresJudged(bored(v), v.gap, up)
  return { facts: [...facts, ...bores.facts], faults: bores.faults }
}
