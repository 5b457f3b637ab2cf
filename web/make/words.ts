import type { Effect, Offset, Part, Seat, Step } from '@makrel/core/document'
import type { SideNames } from '@makrel/core/place'
import { shapeOf } from '@makrel/core/shapes'

/** The words of the sheet that do not belong to one shape: effects, places and repeats. */

/** How a line begins: "A plate", "Cut an upright", "Keep what lies in a plate". */
export function effectWords(effect: Effect, label: string): string {
  const article = /^[aeiou]/.test(label) ? 'an' : 'a'
  if (effect === 'add') return article === 'an' ? 'An' : 'A'
  return effect === 'cut' ? `Cut ${article}` : `Keep what lies in ${article}`
}

/** "plate" or the name it was given. */
export function stepTitle(step: Step): string {
  return step.name || (shapeOf(step.shape)?.label ?? step.shape)
}

/** The number of a step in its piece, from 1. */
export function stepNumber(part: Part, id: string): number {
  for (const piece of part.pieces) {
    const index = piece.steps.findIndex((step) => step.id === id)
    if (index >= 0) return index + 1
  }
  return 0
}

/** "top of 1 (base)" */
export function seatWords(part: Part, seat: Seat): string {
  if (seat.kind === 'bed') return 'the bed'
  if (seat.kind === 'held') return `where the ${seat.was || 'face'} was`
  const owner = part.pieces.find((piece) => piece.steps.some((step) => step.id === seat.step))
  const step = owner?.steps.find((candidate) => candidate.id === seat.step)
  if (!step || !owner) return 'a step that is gone'
  const where = part.pieces.length > 1 ? ` of ${owner.name}` : ''
  return `${seat.face} of ${stepNumber(part, seat.step)}, ${stepTitle(step)}${where}`
}

/** The six ways an offset is measured, as one choice: from which side, to which point of the shape. */
export type OffsetWay = 'centred' | `${Offset['from']}-${Offset['to']}`

export function offsetWay(offset: Offset): OffsetWay {
  return isCentred(offset) ? 'centred' : `${offset.from}-${offset.to}`
}

export function isCentred({ from, to, by }: Offset): boolean {
  return from === 'centre' && to === 'centre' && by.trim() === '0'
}

export function offsetOf(way: OffsetWay): Pick<Offset, 'from' | 'to'> & { by?: string } {
  if (way === 'centred') return { from: 'centre', to: 'centre', by: '0' }
  const [from, to] = way.split('-') as [Offset['from'], Offset['to']]
  return { from, to }
}

/** What each way reads in the sentence, behind its distance. `sides` are the seat's names of low and high. */
export function offsetWays(sides: readonly [string, string], onBed: boolean): { value: OffsetWay; label: string }[] {
  const [low, high] = sides
  const point = { near: 'near edge', centre: 'centre', far: 'far edge' } as const
  const centred: OffsetWay = 'centred'
  const middle = onBed ? 'the datum' : 'the middle'
  const ways = (['centre', 'near', 'far'] as const).flatMap((to) => [
    ...(onBed
      ? []
      : [
          { value: `low-${to}` as OffsetWay, label: `from the ${low} edge to its ${point[to]}` },
          { value: `high-${to}` as OffsetWay, label: `from the ${high} edge to its ${point[to]}` },
        ]),
    {
      // Counted towards the high side: a negative distance goes to the other one.
      value: `centre-${to}` as OffsetWay,
      label: `from ${middle} to its ${to === 'centre' ? 'centre' : `${to === 'near' ? low : high} edge`}, ${low} to ${high}`,
    },
  ])
  return [{ value: centred, label: `centred ${low} to ${high}` }, ...ways]
}

export const rowDirections = {
  across: (sides: SideNames) => `from ${sides.across[0]} to ${sides.across[1]}`,
  along: (sides: SideNames) => `from ${sides.along[0]} to ${sides.along[1]}`,
  up: () => 'away from the face',
} as const
