import type { Fields, SentencePart, ValuesOf } from '../fields/index.ts'
import { compose, type Frame, inverse, moved, type Seating, scaled, shifted, world } from '../place/index.ts'

/** How a step is copied. Directions are those of the seat it stands on. */
export interface RepeatDefinition<F extends Fields = Fields> {
  /** stored in part files */
  readonly kind: string
  /** "in a row": behind "repeat" */
  readonly label: string
  /** labels of choices may hold {left}, {right}, {front} and {back}: the names of the seat's sides */
  readonly fields: F
  sentence(values: ValuesOf<F>): readonly SentencePart[]
  /** Why these values make no copies, in plain words, with the field to blame; undefined where they do. */
  impossible?(values: ValuesOf<F>): { field: keyof F & string; detail: string } | undefined
  /** the field that is asked for first */
  readonly first: keyof F & string
  /** how many copies, the original among them */
  count(values: ValuesOf<F>): number
  /** What carries the original to each copy, in the frame that `seat` is given in. A mirrored copy's frame is left-handed. */
  motions(values: ValuesOf<F>, seat: Seating): readonly Frame[]
}

export function defineRepeat<const F extends Fields>(definition: RepeatDefinition<F>): RepeatDefinition {
  return definition as unknown as RepeatDefinition
}

/** The largest number of copies of one step that is built. */
export const mostCopies = 2000

export const directions = {
  across: 'from {left} to {right}',
  along: 'from {front} to {back}',
  up: 'away from the face',
} as const
export type Direction = keyof typeof directions

export function directionOf({ frame }: Seating, direction: Direction) {
  return direction === 'across' ? frame.u : direction === 'along' ? frame.v : frame.n
}

/** A move by `mm` in a direction of the seat; across a round seat it goes round its axis. */
export function shift(seat: Seating, direction: Direction, mm: number): Frame {
  if (direction === 'across' && seat.round) return compose(shifted(seat, mm), inverse(seat.frame))
  return moved(world, scaled(directionOf(seat, direction), mm))
}
