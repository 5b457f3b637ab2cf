import { type Edit, findBody, type Part } from '@makrel/core/document'
import { compose, cross, dot, pointIn } from '@makrel/core/place'
import type { workOut } from '@makrel/core/planning'
import { formatNumber, mmPer } from '@makrel/core/units'
import { movedOffset, turnedText } from '../viewport/dragMath.ts'

type Worked = ReturnType<typeof workOut>

/**
 * The edits that put the second wheel of a joint where it runs as it should: at the right distance, its teeth in the spaces. None
 * where it stands so, or cannot.
 */
export function settlingEdits(part: Part, { resolved, plan }: Worked, joint: string): readonly Edit[] {
  const { definition, values } = resolved.joints.get(joint) ?? {}
  const placed = plan.joints.get(joint)
  if (!definition?.between || !values || !placed?.second) return []
  const [, id] = definition.between.steps(values as never)
  const target = definition.between.settled(values as never, placed.second)
  const step = findBody(part, id)
  const geometry = plan.geometry.get(id)
  if (!target || !step || !geometry) return []
  const { seating, frame, place } = geometry
  const to = compose(placed.frame, target)
  const [before, after] = [frame, to].map(({ origin }) => pointIn(seating.frame, origin))
  const turn = (Math.atan2(dot(cross(frame.u, to.u), frame.n), dot(frame.u, to.u)) * 180) / Math.PI
  const edits = (['across', 'along'] as const).flatMap((axis, i): Edit[] => {
    const offset = step.place[axis]
    const moved = after![i]! - before![i]!
    if (offset.of !== undefined || offset.to === 'own') {
      const by = movedOffset(offset, place[axis].by, moved, part.unit)
      return Math.abs(moved) < small ? [] : [{ type: 'set-offset', id, axis, change: { by } }]
    }
    // A wheel's extents are not the same to all sides: from now on its axis is what is placed.
    const half = seating.size[i]! / 2
    const mark = { low: -half, centre: 0, high: half }[offset.from]
    const by = offset.from === 'high' ? mark - after![i]! : after![i]! - mark
    return [{ type: 'set-offset', id, axis, change: { to: 'own', by: formatNumber(by / mmPer(part.unit), 5) } }]
  })
  if (Math.abs(turn) > small)
    edits.push({ type: 'set-place', id, change: { turn: turnedText(step.place.turn, place.turn, turn) } })
  return edits
}

/** Less than this is not worth an edit, mm or degrees. */
const small = 5e-4
