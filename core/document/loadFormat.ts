import { oneOf, optional, record, type Typed, text } from './described.ts'
import { expression, id, name } from './formatTerms.ts'
import { documentLimits } from './limits.ts'

/** A face of a step by its name, or the step's own axis where that is empty. */
export const readPoint = record({
  step: id,
  face: name,
  /** the name of an edge of the finished solid that bounds this face, where that is meant */
  edge: optional(text({ least: 1, most: documentLimits.edge })),
})

/** Which way a load goes: square to the face it is at, or along an axis of the drawing. */
export const loadWays = ['out', 'in', 'up', 'down', 'left', 'right', 'front', 'back'] as const
export type LoadWay = (typeof loadWays)[number]

/** What a piece has to bear: it is held at one face, and a force is at another. */
export const load = record({
  id,
  name,
  held: readPoint,
  at: readPoint,
  way: oneOf(...loadWays),
  /** a number of newtons */
  force: expression,
})

export const stancesOf = ['up', 'down', 'upright'] as const

/** How a face, or the axis of a step, has to lie when it is printed. */
export const stance = record({ id, of: readPoint, way: oneOf(...stancesOf) })

export interface ReadPoint extends Typed<typeof readPoint> {}
export interface KeptLoad extends Typed<typeof load> {}
export interface Stance extends Typed<typeof stance> {}
