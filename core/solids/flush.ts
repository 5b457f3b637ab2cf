import type { Plane } from '../kernel/index.ts'
import { compose, dot, type Frame, meet, scaled, type Vec3 } from '../place/index.ts'
import type { BodyOperand, Copy, Operand } from '../planning/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import { isAlongAxis } from './space.ts'

/**
 * How far a face grows out into what it lies against, mm: more than numbers are rounded by, less than a file's last
 * digit at the size of a part.
 *
 *     faces square to the space    their coordinates are settled, and equal to the last digit: nothing grows
 *     oblique faces                corners lie in the plane but for the last digit, on either side of it: they grow
 */
export const flushGrowth = 1e-6

/** Planes with directions and distances nearer to one another than these are one. */
const sameDirection = 1e-7
const sameDistance = 1e-6

/**
 * Faces of operands that lie obliquely against those of others in their list, as planes there. What is added reaches a
 * little into what it stands against while the two are joined, what is cut a little out of what it ends in; then the faces go
 * back. So solids which are meant to be one are one, and no skin stays. Of two faces that of the later operand grows.
 */
export function flushBetween(operands: readonly Operand[]): ReadonlyMap<Operand, readonly Plane[]> {
  const out = new Map<Operand, readonly Plane[]>()
  const bodies = operands.filter((operand) => operand.kind === 'body')
  const met = meetings(bodies, (wall, other) => wall.operand !== other.operand)
  for (const { operand, plane } of met) out.set(operand, [...(out.get(operand) ?? []), plane])
  return out
}

/** The same for copies of one operand, which are joined first: the planes of each copy. */
export function flushWithin(operand: BodyOperand): readonly (readonly Plane[])[] | undefined {
  if (operand.copies.length < 2) return undefined
  const met = meetings([operand], (wall, other) => wall.copy !== other.copy)
  if (met.length === 0) return undefined
  const out = operand.copies.map((): Plane[] => [])
  for (const { copy, plane } of met) out[copy]!.push(plane)
  return out
}

/** The walls that lie against an earlier one. */
function meetings(operands: readonly BodyOperand[], concerns: (wall: Wall, other: Wall) => boolean): readonly Wall[] {
  const buckets = new Map<string, Wall[]>()
  const out: Wall[] = []
  for (const operand of operands)
    for (const wall of wallsOf(operand)) {
      const lies = buckets
        .get(wall.key)
        ?.some(
          (other) =>
            concerns(wall, other) &&
            Math.abs(other.offset + wall.offset) < sameDistance &&
            dot(other.out, wall.out) < sameDirection - 1 &&
            meet(other.operand.box, operand.box, sameDistance),
        )
      if (lies) out.push(wall)
      const there = buckets.get(wall.opposite)
      if (there) there.push(wall)
      else buckets.set(wall.opposite, [wall])
    }
  return out
}

/** An oblique face of a copy. */
interface Wall {
  readonly operand: BodyOperand
  readonly copy: number
  /** out of the material that there is once the operand has acted; unit */
  readonly out: Vec3
  /** of its plane along `out`, mm */
  readonly offset: number
  /** the same, its normal out of the operand's own solid */
  readonly plane: Plane
  /** what its plane is looked up by, and the plane that looks the other way */
  readonly key: string
  readonly opposite: string
}

function keyOf([x, y, z]: Vec3, offset: number, side: 1 | -1): string {
  // Off-centre, as `settled`.
  const cell = (value: number, size: number) => Math.floor((side * value) / size + 0.377)
  return [cell(x, 1e-4), cell(y, 1e-4), cell(z, 1e-4), cell(offset, 1e-3)].join(' ')
}

const known = new WeakMap<BodyOperand, readonly Wall[]>()

function wallsOf(operand: BodyOperand): readonly Wall[] {
  let walls = known.get(operand)
  if (!walls) {
    const turned = operand.operation.material === 'less' ? -1 : 1
    walls = operand.copies.flatMap((each, copy) =>
      facesOf(operand, each).flatMap(({ frame: { origin, n }, sense }): Wall[] => {
        if (isAlongAxis(n)) return []
        const out = scaled(n, sense * turned)
        const offset = dot(out, origin)
        const plane = { normal: scaled(n, sense), offset: turned * offset }
        return [{ operand, copy, out, offset, plane, key: keyOf(out, offset, 1), opposite: keyOf(out, offset, -1) }]
      }),
    )
    known.set(operand, walls)
  }
  return walls
}

/** A flat face where it stands; `sense` −1 where its normal looks into the solid of the operand, as that of a cut in it does. */
interface StandingFace {
  readonly frame: Frame
  readonly sense: 1 | -1
}

/** The flat faces of a copy of an operand, where the operand's list stands. */
function facesOf({ body }: BodyOperand, copy: Copy): readonly StandingFace[] {
  if (body.kind === 'shape')
    return body.shape
      .surfaces(copy.values)
      .faces.filter(({ round }: NamedFace) => round === undefined)
      .map(({ frame }) => ({ frame: compose(copy.frame, frame), sense: 1 as const }))
  // Faces of what is scaled are no planes that are known here.
  if (body.factors) return []
  return body.operands.flatMap((inner) =>
    inner.kind !== 'body'
      ? []
      : inner.copies.flatMap((each) =>
          facesOf(inner, each).map(
            ({ frame, sense }): StandingFace => ({
              frame: compose(copy.frame, frame),
              sense: inner.operation.material === 'less' ? (-sense as 1 | -1) : sense,
            }),
          ),
        ),
  )
}
