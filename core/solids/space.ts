import { compose, type Frame, inverse, isMirrored, scaled, type Vec3, world } from '../place/index.ts'
import { type BodyOperand, boxOfCopies, type Operand } from '../planning/index.ts'

/**
 * Operations go on in a space that is square to what they work on: in that of a plate turned by 37.3°, what stands flush
 * on its sides is flush to the last digit, as it would be were nothing turned. The result is turned as a whole.
 *
 *     a list of steps      square to the first of them
 *     copies of one step   square to the first copy
 *
 * A space has its origin at the bed's, and is the world itself for what is square to the bed.
 */
export function spaceOf(frame: Frame | undefined): Frame {
  if (!frame || isSquareIn(frame, world)) return world
  // A mirrored copy is as square to its own mirror image.
  return { ...frame, u: isMirrored(frame) ? scaled(frame.u, -1) : frame.u, origin: [0, 0, 0] }
}

/** Whether the axes of a frame run along those of a space. */
export function isSquareIn(frame: Frame, space: Frame): boolean {
  const { u, v } = compose(inverse(space), frame)
  return [u, v].every(isAlongAxis)
}

export function isAlongAxis(direction: Vec3): boolean {
  return direction.filter((x) => Math.abs(x) > 1e-9).length === 1
}

/** A frame as it stands in a space; square axes are so to the last digit. */
export function frameIn(space: Frame, frame: Frame): Frame {
  if (space === world) return frame
  const { u, v, n, origin } = compose(inverse(space), frame)
  const tidy = (d: Vec3) => d.map((x) => (Math.abs(x - Math.round(x)) < 1e-12 ? Math.round(x) : x)) as unknown as Vec3
  return { u: tidy(u), v: tidy(v), n: tidy(n), origin }
}

const seen = new WeakMap<BodyOperand, { readonly space: string; readonly operand: BodyOperand }>()

/** An operand with its copies where they stand in a space; the same one for the same operand. */
export function operandIn<O extends Operand>(space: Frame, operand: O): O
export function operandIn(space: Frame, operand: Operand): Operand {
  if (space === world) return operand
  if (operand.kind === 'treatment') {
    const planes = Object.entries(operand.planes).map(([field, plane]) => [field, frameIn(space, plane)] as const)
    return planes.length > 0 ? { ...operand, planes: Object.fromEntries(planes) } : operand
  }
  const key = JSON.stringify(space)
  const known = seen.get(operand)
  if (known?.space === key) return known.operand
  const copies = operand.copies.map((copy) => ({ ...copy, frame: frameIn(space, copy.frame) }))
  const there = { ...operand, copies, box: boxOfCopies(operand.body, copies, operand.through) }
  seen.set(operand, { space: key, operand: there })
  return there
}
