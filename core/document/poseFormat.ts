import { anyOf, list, number, oneOf, pairOf, record, type Typed, whole } from './described.ts'
import { body, id, name, triple } from './formatTerms.ts'
import { documentLimits } from './limits.ts'

/** What of a piece, as it is drawn, lies on the bed. */
export const layings = ['bottom', 'top', 'left', 'right', 'front', 'back', 'flat'] as const
export type Laying = (typeof layings)[number]

/**
 * Where a piece lies on the bed, and with it those that are printed inside one another with it. What it was parted into lies where it does, but
 * for bodies that are laid by themselves.
 */
const laid = record({
  piece: body,
  /** "flat" is the largest flat that it can lie on; three numbers are the direction, as it is drawn, that points down then */
  down: anyOf(oneOf(...layings), triple),
  /** about the vertical, counter-clockwise, degrees */
  turn: number({ least: -360, most: 360 }),
  /** the middle of its box, mm */
  at: pairOf(number({ least: -10_000, most: 10_000 })),
})

/** A way in which all pieces stand, kept by name. */
export const pose = record({
  id,
  name,
  /** positions that joints are set to, degrees or mm, the latest last; all others follow, or stand as they are drawn */
  set: list(record({ joint: id, freedom: whole(0, 11), position: number() }), { most: 12 * documentLimits.joints }),
  laid: list(laid, { most: documentLimits.pieces, distinct: 'piece' }),
})

export interface Laid extends Typed<typeof laid> {}
export interface KeptPose extends Typed<typeof pose> {}
