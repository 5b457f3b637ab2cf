import { compose, type Frame, norm, subtract, world } from '../place/index.ts'
import { type Operand, type Plan, scaledMotion } from '../planning/index.ts'

/** Where a copy of a step stands, and what it is called: "3", or of what is in the second copy of a bundle "2.3". */
interface StandingCopy {
  readonly copy: string
  readonly frame: Frame
}

/** Tells the copies of steps apart by where they stand. */
export class Copies {
  readonly #standing = new Map<string, Map<string, StandingCopy[]>>()

  constructor(operands: readonly Operand[]) {
    this.note(operands, '', world)
  }

  /** The copy of a step that stands in `frame`, or nearest to it; `frame` as the library kept it, in single precision. */
  at(step: string, frame: Frame): string {
    const cells = this.#standing.get(step)
    if (!cells) return ''
    const near = cellsAround(frame).flatMap((cell) => cells.get(cell) ?? [])
    let best: { copy: string; away: number } | undefined
    for (const { copy, frame: other } of near.length > 0 ? near : [...cells.values()].flat()) {
      const away = apart(frame, other)
      if (!best || away < best.away) best = { copy, away }
    }
    return best?.copy ?? ''
  }

  private note(operands: readonly Operand[], within: string, motion: Frame): void {
    for (const operand of operands) {
      if (operand.kind !== 'body') continue
      const { step, body, copies } = operand
      for (const { number, frame } of copies) {
        const stands = compose(motion, frame)
        if (body.kind === 'shape') {
          this.put(step.id, { copy: `${within}${number}`, frame: stands })
          continue
        }
        // What has the shape of another step is called by itself first: that one's triangles are its own.
        const copy = step.kind === 'same' ? `${step.id}:${number}` : `${number}`
        this.note(body.operands, `${within}${copy}.`, scaledMotion(stands, body))
      }
    }
  }

  private put(step: string, standing: StandingCopy): void {
    const cells = this.#standing.get(step) ?? new Map<string, StandingCopy[]>()
    this.#standing.set(step, cells)
    const cell = cellOf(standing.frame, [0, 0, 0])
    cells.set(cell, [...(cells.get(cell) ?? []), standing])
  }
}

/** Side of a cell that copies are found by, mm. */
const cell = 1

function cellOf({ origin }: Frame, off: readonly number[]): string {
  return origin.map((x, i) => Math.round(x / cell) + off[i]!).join(' ')
}

function cellsAround(frame: Frame): string[] {
  const steps = [-1, 0, 1]
  return steps.flatMap((x) => steps.flatMap((y) => steps.map((z) => cellOf(frame, [x, y, z]))))
}

/** How far apart two frames are; directions count as points 10 mm away. */
function apart(a: Frame, b: Frame): number {
  return (
    norm(subtract(a.origin, b.origin)) +
    10 * (norm(subtract(a.u, b.u)) + norm(subtract(a.v, b.v)) + norm(subtract(a.n, b.n)))
  )
}

const known = new WeakMap<Plan, Copies>()

/** The copies of all steps of a part, where they stand in the end. */
export function copiesOf(plan: Plan): Copies {
  const copies = known.get(plan) ?? new Copies(plan.pieces.flatMap(({ operands }) => operands))
  known.set(plan, copies)
  return copies
}
