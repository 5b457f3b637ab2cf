import type { AnyValues } from '../fields/index.ts'
import { bodyOperationOf } from '../operations/index.ts'
import {
  compose,
  directionIn,
  directionOut,
  dot,
  type Frame,
  frame,
  inverse,
  norm,
  type SupportFunction,
  scaled,
  type Vec3,
  world,
} from '../place/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import type { StepGeometry } from './geometry.ts'
import { type Body, type BodyOperand, type Bundle, boxOfBody, type Copy, type Operand, reachOf } from './operand.ts'
import { factorsOf, scaledPoint } from './scaling.ts'

/** What a copy of a shape by itself does, as the one thing in a bundle. */
const addition = bodyOperationOf('add')!

/** The operands of a bundle that is moved: `up` is straight up where they were planned. */
export function oriented(operands: readonly Operand[], up: Vec3): readonly Operand[] {
  // What is the same as something else holds the very same: it is oriented once for each way up.
  const known = orientedLists.get(operands) ?? new Map<string, readonly Operand[]>()
  orientedLists.set(operands, known)
  const found = known.get(String(up)) ?? orientedAnew(operands, up)
  known.set(String(up), found)
  return found
}
const orientedLists = new WeakMap<readonly Operand[], Map<string, readonly Operand[]>>()

function orientedAnew(operands: readonly Operand[], up: Vec3): readonly Operand[] {
  return operands.map((operand) =>
    operand.kind !== 'body'
      ? operand
      : {
          ...operand,
          copies: operand.copies.map((copy) => ({ ...copy, up: directionIn(copy.frame, up) })),
          body:
            operand.body.kind === 'bundle'
              ? {
                  ...operand.body,
                  operands: oriented(operand.body.operands, directionIn(operand.copies[0]!.frame, up)),
                }
              : operand.body,
        },
  )
}

/** A bundle's content, scaled as its values say; one that is scaled already is scaled on. */
export function scaledBody(body: Bundle, values: AnyValues): Bundle {
  const own = factorsOf(values, reachOf(body, {}))
  if (!own) return body
  const [x, y, z] = body.factors ?? [1, 1, 1]
  return { ...body, factors: [x * own[0], y * own[1], z * own[2]] }
}

/** Where what a bundle holds stands, for a copy of it: stretched where the bundle is scaled. */
export function scaledMotion(stands: Frame, { home, factors }: Bundle): Frame {
  if (!factors) return stands
  const stretched: Frame = { origin: [0, 0, 0], u: [factors[0], 0, 0], v: [0, factors[1], 0], n: [0, 0, factors[2]] }
  return compose(compose(compose(stands, home), stretched), inverse(home))
}

/** The shape of another step, which is a bundle of that one shape where it is scaled. */
export function sameAs(original: BodyOperand, values: AnyValues): { readonly body: Body; readonly values: AnyValues } {
  const { body } = original
  if (body.kind === 'bundle') return { body: scaledBody(body, values), values: {} }
  const first = original.copies[0]!
  if (!factorsOf(values, () => 1)) return { body, values: first.values }
  const copy: Copy = { ...first, number: 1, frame: world }
  const alone: BodyOperand = {
    ...original,
    operation: addition,
    flush: { top: false, bottom: false },
    copies: [copy],
    box: boxOfBody(body, first.values, original.through),
  }
  const bundle: Bundle = { kind: 'bundle', operands: [alone], home: world, box: alone.box, factors: undefined }
  return { body: scaledBody(bundle, values), values: {} }
}

/**
 * Where a step of a scaled bundle stands once it is scaled. Its own axes stay as they are; faces whose sides are no longer
 * square to one another, and rounds that are no longer round, are no faces to stand on.
 */
export function scaledGeometry(known: StepGeometry, { home, factors }: Bundle): StepGeometry {
  if (!factors) return known
  const at = (f: Frame): Frame => ({ ...f, origin: scaledPoint(f.origin, home, factors) })
  const stretched = (d: Vec3): Vec3 => {
    const own = directionIn(home, d)
    return directionOut(home, [own[0] * factors[0], own[1] * factors[1], own[2] * factors[2]])
  }
  const all = (f: Frame): Frame => ({ ...at(f), u: stretched(f.u), v: stretched(f.v), n: stretched(f.n) })
  const here = at(known.frame)
  const faces = known.faces.flatMap((face): NamedFace[] => {
    const there = compose(known.frame, face.frame)
    const [u, v, n] = [stretched(there.u), stretched(there.v), stretched(there.n)]
    const [across, along, out] = [norm(u), norm(v), norm(n)]
    if (Math.abs(dot(u, v)) > 1e-9 * across * along) return []
    if (face.round !== undefined && Math.abs(across - out) > 1e-9 * out) return []
    const moved: Frame = frame(scaledPoint(there.origin, home, factors), scaled(u, 1 / across), scaled(v, 1 / along))
    return [
      {
        ...face,
        frame: compose(inverse(here), moved),
        size: [face.size[0] * across, face.size[1] * along],
        ...(face.round === undefined ? {} : { round: face.round * across }),
      },
    ]
  })
  // The support of a linear image, in the step's own axes.
  const pulled = (d: Vec3) => directionIn(known.frame, stretched(directionOut(known.frame, d)))
  const reach: SupportFunction = (d) => {
    const p = pulled(d)
    const far = norm(p)
    return far === 0 ? 0 : far * known.reach(scaled(p, 1 / far))
  }
  const [frames, made] = [known.frames.map(at), known.made.map(all)]
  return { ...known, frame: here, stands: at(known.stands), frames, made, faces, reach }
}
