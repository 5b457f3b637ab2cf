import type { Plane, Scope, Solid } from '../kernel/index.ts'
import { corners, directionOut, dot, type Frame, meet, pointOut, scaled } from '../place/index.ts'
import { adds, type BodyOperand, cutOverlap, type Operand } from '../planning/index.ts'
import { flushGrowth } from './flush.ts'
import { carriedPast } from './flushed.ts'
import { isAlongAxis } from './space.ts'

/**
 * Where a cut begins and ends. It reaches a little out of these faces, so that no skin stays there; where something else stands beyond
 * one of them, that must not be shaved: there it ends in the face.
 */

/** The planes that a cut of this operand begins and ends in, in a frame of one of its copies, normals out of what is cut. */
function endsOf({ mouth, flush, body, copies }: BodyOperand): readonly Plane[] {
  const far = () => (body.kind === 'shape' ? body.shape.box(copies[0]!.values, 0).min[2] : 0)
  return [...(mouth ? [mouth] : []), ...(flush.bottom ? [{ normal: [0, 0, -1] as const, offset: -far() }] : [])]
}

function planeOut(frame: Frame, { normal, offset }: Plane): Plane {
  const out = directionOut(frame, normal)
  return { normal: out, offset: dot(out, pointOut(frame, scaled(normal, offset))) }
}

/** Where all ends of all copies lie, in the space of their list. */
function endPlanes(operand: BodyOperand): readonly Plane[] {
  const ends = endsOf(operand)
  return operand.copies.flatMap(({ frame }) => ends.map((end) => planeOut(frame, end)))
}

/** The same operands; of cuts those that have something added beyond one of their ends are marked as `exact`. */
export function endingExactly(operands: readonly Operand[]): readonly Operand[] {
  let changed = false
  const out = operands.map((cut, i) => {
    if (cut.kind !== 'body' || cut.operation.material !== 'less' || cut.body.kind !== 'shape') return cut
    const near = operands
      .slice(0, i)
      .filter((other) => adds(other) && meet(other.box, cut.box, cut.overlap + 2 * cutOverlap))
    const planes = near.length > 0 ? endPlanes(cut) : []
    const isBeyond = planes.some(({ normal, offset }) =>
      near.some((other) => corners((other as BodyOperand).box).some((p) => dot(p, normal) > offset + flushGrowth)),
    )
    if (!isBeyond) return cut
    changed = true
    return { ...cut, exact: true as const }
  })
  return changed ? out : operands
}

const twoDigits = 2e-9

/** How far the mouth of a cut is carried out of the face that it enters, mm. */
export function overlapOf(operand: BodyOperand): number {
  const { exact, mouth, overlap } = operand
  return exact && mouth && mouth.normal[2] > 1 - 1e-12 ? spareOf(operand) : overlap
}

/**
 * How far an exact cut goes beyond its ends, mm. Numbers of faces square to the space are settled (`scope.standing`): two of their last
 * digits. Corners of oblique ones lie on either side of their plane: a little more.
 */
function spareOf(operand: BodyOperand): number {
  return endPlanes(operand).every(({ normal }) => isAlongAxis(normal)) ? twoDigits : flushGrowth
}

/** The body of a cut, carried past the faces that it begins and ends in. */
export function reachingOut(scope: Scope, plain: Solid, operand: BodyOperand): Solid {
  const { mouth, exact, flush } = operand
  if (!exact) return carriedPast(scope, plain, flush, cutOverlap)
  const spare = spareOf(operand)
  const carried = carriedPast(scope, plain, flush, spare)
  const leans = mouth !== undefined && overlapOf(operand) !== spare
  return leans && !flush.top ? scope.trimmed(carried, scaled(mouth.normal, -1), -mouth.offset - spare) : carried
}
