import type { Ring } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import { dropOutline, isLevel, pointOfDrop } from '../shapes/index.ts'
import type { Judged } from './define.ts'
import { shown } from './words.ts'

/** A bore about the y of its joint, in what is as wide as `round` about it; `up`: the bed's up in the frame of the joint. */
export interface Bored {
  readonly bores: string
  /** radius of what turns in the bore, and of what is bored, mm */
  readonly pin: number
  readonly round: number
}

export const boresField = {
  kind: 'choice',
  label: 'Bores',
  default: 'teardrop',
  choices: { teardrop: 'teardrop', round: 'round' },
  meaning:
    'A teardrop has a roof of 45°, straight up from the bed, which prints without support where the axis lies level. Where it stands upright its bores are round.',
  rare: true,
} as const

/** How bores are told in the sentence of a joint, after their pin. */
export const boresSaid = ['in', { field: 'bores' }, 'bores'] as const

/** Joints of before could have round bores alone. */
export function withRoundBores(fields: Readonly<Record<string, string>>): Record<string, string> {
  return { ...fields, bores: 'round' }
}

/** What stays of the wall above a roof, mm: two lines of a common nozzle. A roof that would leave less is cut flat. */
const leastAbove = 0.8

/** The bed's up across the axis, as the section of a bore has it: x, and the height above the axis. */
const across = ([x, y, z]: Vec3): Vec3 => [x, z, y]

/** Which way roofs rise, degrees from x towards z; undefined where the bores are round. */
export function roofAt({ bores }: Pick<Bored, 'bores'>, up: Vec3): number | undefined {
  const [x, z] = across(up)
  return bores === 'round' || isLevel(across(up)) ? undefined : (Math.atan2(z, x) * 180) / Math.PI
}

/** The height of the roof above the axis, of a bore that leaves so much room round what turns in it. */
function roofHeight({ pin, round }: Bored, room: number): number {
  const r = pin + room
  return Math.max(r, Math.min(r * pointOfDrop, round - leastAbove))
}

/** The section of such a bore, in x and the height above the axis: it makes room. @throws ProblemError too-many-triangles */
export function boreRing(bored: Bored, room: number, up: Vec3, fineness: number): Ring {
  const towards: Vec3 = roofAt(bored, up) === undefined ? [0, 0, 1] : across(up)
  return dropOutline(bored.pin + room, roofHeight(bored, room), towards, fineness)
}

/** Whether a flat that looks to the axis, so far away from it, belongs to the roof of such a bore. */
export function isRoof(bored: Bored, room: number, away: number): boolean {
  const r = bored.pin + room
  const high = roofHeight(bored, room)
  const near = (one: number, other: number) => Math.abs(one - other) < 1e-4 * r
  return bored.bores !== 'round' && (near(away, r) || near(away, high))
}

const hangOver = 'The axis lies level as it is drawn, and the tops of its round bores hang over: let them be teardrops.'

/** What there is to know of such bores as they are printed, and what is wrong with them. */
export function boresJudged(bored: Bored, room: number, up: Vec3): Judged {
  const label = 'Bores'
  if (bored.bores === 'round')
    return {
      facts: [],
      faults: isLevel(across(up)) ? [] : [{ detail: hangOver, rank: 'advice' }],
    }
  if (isLevel(across(up))) return { facts: [{ label, text: 'round: their axis stands upright' }], faults: [] }
  const high = roofHeight(bored, room)
  const bridge = 2 * ((bored.pin + room) * pointOfDrop - high)
  const cut = bridge > 1e-6 ? ` cut flat, ${shown(bridge)} mm wide` : ''
  return { facts: [{ label, text: `teardrops${cut}, ${shown(bored.round - high)} mm of wall above` }], faults: [] }
}
