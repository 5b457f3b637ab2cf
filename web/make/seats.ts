import { allSteps, type Part, type Seat } from '@makrel/core/document'
import { compose, dot, levelSides, type SideNames, subtract, unit, type Vec3 } from '@makrel/core/place'
import type { Plan, StepGeometry } from '@makrel/core/planning'
import { seatWords } from './words.ts'

/** What a step can stand on, as a choice. */
export interface SeatOption {
  readonly key: string
  readonly seat: Seat
  readonly label: string
  /** the signed radius of a round face, negative in a bore */
  readonly round?: number | undefined
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
      return { key: seatKey(seat), seat, label: seatWords(part, seat), round: face.round }
    }),
  )
  return [bedOption, ...faces.reverse()]
}

const bedOption: SeatOption = { key: 'bed', seat: { kind: 'bed' }, label: 'the bed' }

export function sidesOf(plan: Plan, stepId: string): SideNames {
  return plan.geometry.get(stepId)?.seating.sides ?? levelSides
}

/**
 * The face of a step that the next one is most likely meant for: of those that it does not stand on itself, the one
 * that its shape names first, if it can be seen, or else the one that looks up, or at the eye. Undefined where it has none but hidden ones.
 */
export function openFace({ faces, frame, seating }: StepGeometry, eye: Vec3): string | undefined {
  const open = faces.flatMap(({ name, frame: own, round }) => {
    const { origin, n } = compose(frame, own)
    const away = dot(subtract(origin, seating.frame.origin), seating.frame.n)
    const stoodOn = dot(n, seating.frame.n) < -0.99 && Math.abs(away) < 1e-6
    // A round is stood on when it was picked, not by itself.
    if (round !== undefined || stoodOn || n[2] < -0.5) return []
    return [{ name, up: n[2], seen: dot(n, unit(subtract(eye, origin))) }]
  })
  const best = (worth: (face: (typeof open)[number]) => number) =>
    open.reduce<(typeof open)[number] | undefined>(
      (first, face) => (first && worth(first) >= worth(face) - 1e-9 ? first : face),
      undefined,
    )
  // What a shape names first is what is mostly meant: the broad side of an upright, not its narrow top.
  const first = open.find(({ name }) => name === faces[0]?.name)
  if (first && (first.up > 0.3 || first.seen > 0.1)) return first.name
  const up = best((face) => face.up)
  return up && up.up > 0.3 ? up.name : best((face) => face.seen)?.name
}
