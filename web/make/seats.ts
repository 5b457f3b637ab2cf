import type { Plan } from '@makrel/core/build'
import { allSteps, type Part, type Seat } from '@makrel/core/document'
import { levelSides, type SideNames } from '@makrel/core/place'
import { seatWords } from './words.ts'

/** What a step can stand on, as a choice. */
export interface SeatOption {
  readonly key: string
  readonly seat: Seat
  readonly label: string
}

export function seatKey(seat: Seat): string {
  return seat.kind === 'face' ? `${seat.step}/${seat.face}` : seat.kind
}

/** The bed and every named face of the steps above `stepId`, or of all, nearest first. What it holds itself is not above it. */
export function seatOptions(part: Part, plan: Plan, stepId: string | undefined): SeatOption[] {
  const steps = allSteps(part)
  const above =
    stepId === undefined
      ? steps
      : steps.slice(
          0,
          steps.findIndex((step) => step.id === stepId),
        )
  const faces = above.flatMap((step) =>
    [...(plan.geometry.get(step.id)?.faces ?? [])].reverse().map((face): SeatOption => {
      const seat: Seat = { kind: 'face', step: step.id, face: face.name }
      return { key: seatKey(seat), seat, label: seatWords(part, seat) }
    }),
  )
  return [bedOption, ...faces.reverse()]
}

const bedOption: SeatOption = { key: 'bed', seat: { kind: 'bed' }, label: 'the bed' }

export function sidesOf(plan: Plan, stepId: string): SideNames {
  return plan.geometry.get(stepId)?.seating.sides ?? levelSides
}
