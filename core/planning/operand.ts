import type { BodyStep, TreatmentStep } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import type { BodyOperation, Treatment } from '../operations/index.ts'
import {
  type Box,
  boxOf,
  boxOut,
  compose,
  corners,
  directionIn,
  dot,
  type Frame,
  inverse,
  type SupportFunction,
  type Vec3,
} from '../place/index.ts'
import { boxReach, type ShapeDefinition } from '../shapes/index.ts'
import { scaledPoint, scaledReach } from './scaling.ts'

/** A step ready to be built. */
export type Operand = BodyOperand | TreatmentOperand

/** What acts with a body: what it has for a shape, and the frames of all its copies, in the bed's frame. */
export interface BodyOperand {
  readonly kind: 'body'
  readonly step: BodyStep
  readonly operation: BodyOperation
  readonly body: Body
  /** whether it takes material away once all bundles round it have acted */
  readonly cuts: boolean
  /** depth that clears everything in the way, for through holes, mm */
  readonly through: number
  /** ends of a cut that lie in a face of the body and must be carried past it, so that no skin stays there */
  readonly flush: { readonly top: boolean; readonly bottom: boolean }
  /** how far a hole's mouth is carried past the face it enters, mm */
  readonly overlap: number
  /** the plane of the face that a cut begins at, in its own frame, its normal out of the body; undefined where that is round */
  readonly mouth?: { readonly normal: Vec3; readonly offset: number } | undefined
  /** something else stands beyond a face that the cut begins or ends at: it must not reach into that */
  readonly exact?: true
  /** the copies that are there */
  readonly copies: readonly Copy[]
  readonly box: Box
}

/** What works on what stands so far. */
export interface TreatmentOperand {
  readonly kind: 'treatment'
  readonly step: TreatmentStep
  readonly operation: Treatment
  readonly values: AnyValues
  /** where the planes lie that its fields name, in the bed's frame */
  readonly planes: Readonly<Record<string, Frame>>
  /** what it touches; undefined: all that stands */
  readonly box: Box | undefined
}

export function adds(operand: Operand): operand is BodyOperand {
  return operand.kind === 'body' && operand.operation.material === 'more'
}

export interface Copy {
  /** its number among all copies, from 1 */
  readonly number: number
  readonly frame: Frame
  /** empty for a bundle */
  readonly values: AnyValues
  /** straight up from the bed, in the shape's own frame */
  readonly up: Vec3
}

/**
 * A shape, or the operands of a bundle: these stand where they were planned, and a copy's frame moves them from there.
 * `factors` scale them first, about the origin of `home` and along its directions.
 */
export type Body =
  | { readonly kind: 'shape'; readonly shape: ShapeDefinition }
  | {
      readonly kind: 'bundle'
      readonly operands: readonly Operand[]
      readonly home: Frame
      readonly factors: Vec3 | undefined
      /** of what is scaled, where it was planned */
      readonly box: Box
    }

export type Bundle = Extract<Body, { kind: 'bundle' }>

/** How far a body reaches from its own origin. A bundle's is the middle of the face that its first step stands on. */
export function reachOf(body: Body, values: AnyValues): SupportFunction {
  if (body.kind === 'shape') {
    const { shape } = body
    return (d) => (shape.reach ? shape.reach(values, d) : boxReach(shape.box(values, 0), d))
  }
  const known = reaches.get(body)
  if (known) return known
  const reach = bundleReach(body)
  reaches.set(body, reach)
  return reach
}

/** How far bundles reach: the same one may be in many others, and be asked for each of them. */
const reaches = new WeakMap<Bundle, SupportFunction>()

function bundleReach(body: Bundle): SupportFunction {
  const { operands, home, factors } = body
  const added = operands.filter(adds).flatMap((operand) =>
    operand.copies.map((copy) => {
      const f = operand.body.kind === 'bundle' ? compose(copy.frame, operand.body.home) : copy.frame
      return { frame: compose(inverse(home), f), reach: reachOf(operand.body, copy.values) }
    }),
  )
  const far = new Map<string, number>()
  const reach: SupportFunction = (d) => {
    const key = String(d)
    const found =
      far.get(key) ?? Math.max(...added.map(({ frame: f, reach: own }) => dot(f.origin, d) + own(directionIn(f, d))))
    far.set(key, found)
    return found
  }
  return factors ? scaledReach(reach, factors) : reach
}

/** Round all copies, where their frames are given. */
export function boxOfCopies(body: Body, copies: readonly Copy[], through: number): Box {
  return boxOf(copies.flatMap((copy) => corners(boxOut(copy.frame, boxOfBody(body, copy.values, through)))))!
}

/** In the frame that a copy's frame is given for. */
export function boxOfBody(body: Body, values: AnyValues, through: number): Box {
  if (body.kind === 'shape') return body.shape.box(values, through)
  const { box, home, factors } = body
  return factors ? boxOf(corners(box).map((corner) => scaledPoint(corner, home, factors)))! : box
}
