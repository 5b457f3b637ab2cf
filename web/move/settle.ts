import { type Edit, findBody, type Part } from '@makrel/core/document'
import {
  anglesOf,
  compose,
  directionIn,
  type Frame,
  inverse,
  pointIn,
  scaled,
  turnedX,
  turnedY,
  turnedZ,
  type Vec3,
} from '@makrel/core/place'
import type { workOut } from '@makrel/core/planning'
import { formatNumber, mmPer } from '@makrel/core/units'
import { movedOffset, movedText, turnedText } from '../viewport/dragMath.ts'

type Worked = ReturnType<typeof workOut>

/**
 * The edits that put the second wheel of a joint where it runs as it should: at the right distance, its teeth in the spaces. None
 * where it stands so, or cannot.
 */
export function settlingEdits(part: Part, { resolved, plan }: Worked, joint: string): readonly Edit[] {
  const { definition, values } = resolved.joints.get(joint) ?? {}
  const placed = plan.joints.get(joint)
  if (!definition?.between || !values || !placed?.second) return []
  const [, id] = definition.between.steps(values)
  const target = definition.between.settled(values, placed.second)
  return target ? standingEdits(part, plan, id, compose(placed.frame, target)) : []
}

/** The edits with which a step stands so, in the bed's frame, as it was placed otherwise. */
export function standingEdits(part: Part, plan: Worked['plan'], id: string, to: Frame): readonly Edit[] {
  const step = findBody(part, id)
  const geometry = plan.geometry.get(id)
  if (!step || !geometry) return []
  const { seating, frame, place, reach } = geometry
  const [before, after] = [frame, to].map(({ origin }) => pointIn(seating.frame, origin)) as [Vec3, Vec3]
  const edits = (['across', 'along'] as const).flatMap((axis, i): Edit[] => {
    const offset = step.place[axis]
    const moved = after[i]! - before[i]!
    if (offset.to === 'own') {
      const by = movedOffset(offset, place[axis].by, moved, part.unit)
      return Math.abs(moved) < small ? [] : [{ type: 'set-offset', id, axis, change: { by } }]
    }
    // A wheel's extents are not the same to all sides: from now on its axis is what is placed.
    const half = seating.size[i]! / 2
    const [low, high] = place[axis].range ?? [-half, half]
    // Beside another wheel it is the distance of both axes that is read and typed then.
    const other = offset.of && plan.geometry.get(offset.of)?.frame.origin
    const axisAt = other ? pointIn(seating.frame, other)[i]! : 0
    const from = other ? 'axis' : offset.from
    const mark = { low, centre: (low + high) / 2, high, axis: axisAt }[from]
    const by = from === 'high' ? mark - after[i]! : after[i]! - mark
    return [{ type: 'set-offset', id, axis, change: { from, to: 'own', by: formatNumber(by / mmPer(part.unit), 5) } }]
  })
  const change: { -readonly [K in 'turn' | 'tilt' | 'lean' | 'lift']?: string } = {}
  for (const [angle, value] of Object.entries(turnedTo(frame, to, seating.frame, place)) as [Angle, number][]) {
    const more = value - place[angle]
    const turn = more - 360 * Math.round(more / 360)
    if (Math.abs(turn) > smallTurn) change[angle] = turnedText(step.place[angle], place[angle], turn)
  }
  // What rests on its lowest point has another one once it is turned on its side.
  const down = (own: Frame) => reach(directionIn(own, scaled(seating.frame.n, -1)))
  const rests = step.place.level === undefined && step.place.rest === 'on' ? down(to) - down(frame) : 0
  const lifted = after[2] - before[2] - rests
  if (Math.abs(lifted) > small) change.lift = movedText(step.place.lift, place.lift, lifted, part.unit)
  return Object.keys(change).length > 0 ? [...edits, { type: 'set-place', id, change }] : edits
}

type Angle = 'turn' | 'tilt' | 'lean'

/** The angles of a place that has been turned from one frame to another. */
function turnedTo(
  from: Frame,
  to: Frame,
  seat: Frame,
  { turn, tilt, lean }: Record<Angle, number>,
): Record<Angle, number> {
  const own = { ...compose(compose(turnedZ(turn), turnedX(tilt)), turnedY(lean)), origin: [0, 0, 0] as const }
  const [a, b] = [from, to].map((each) => compose(inverse(seat), each)) as [Frame, Frame]
  return anglesOf(compose(compose(b, inverse(a)), own))
}

/** Less than this is not worth an edit, mm. */
const small = 5e-4
/** Degrees; angles are written to a thousandth, and three of them go together. */
const smallTurn = 2e-3
