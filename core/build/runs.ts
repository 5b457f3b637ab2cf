import type { Effect } from '../document/index.ts'
import { meet } from '../place/index.ts'
import type { Operand } from './plan.ts'

/** Operands of one effect that act together in one operation. */
export interface Run {
  readonly effect: Effect
  readonly operands: readonly Operand[]
}

/** Boxes nearer than this count as meeting, mm: cuts reach a little out of their faces. */
const nearness = 0.1

/**
 * The operands gathered into few operations. Two that stand one after the other may change places when they have the
 * same effect or do not meet; a keep changes places with nothing. Two uses are made of that:
 *
 *  - effects of one kind are gathered, so that a long sheet falls into few runs;
 *  - what is being edited (`hot`), and what hangs on it, goes last:
 *
 *        early: everything else                     | late: hot, and what must follow it
 *        add add add …  →  cut cut cut cut …        | add  →  cut
 *        built once while the edit goes on          | built for each keystroke
 */
export function runsOf(operands: readonly Operand[], hot: ReadonlySet<string>): Run[] {
  const late = lateOperands(operands, hot)
  const early = operands.filter((operand) => !late.has(operand))
  // Without material to begin with there is no early part.
  if (early[0]?.step.effect !== 'add' || late.size === 0) return gathered(operands)
  return [...gathered(early), ...gathered(operands.filter((operand) => late.has(operand)))]
}

/** Hot operands, and those behind them that may not change places with one of these. */
function lateOperands(operands: readonly Operand[], hot: ReadonlySet<string>): ReadonlySet<Operand> {
  const late = new Set<Operand>()
  for (const operand of operands) {
    const follows = () => [...late].some((before) => !mayChangePlaces(before, operand))
    if (hot.has(operand.step.id) || follows()) late.add(operand)
  }
  return late
}

function mayChangePlaces(a: Operand, b: Operand): boolean {
  const [one, two] = [a.step.effect, b.step.effect]
  if (one === 'keep' || two === 'keep') return false
  return one === two || !meet(a.box, b.box, nearness)
}

/** Each operand joins the latest run of its effect that it can reach past runs it does not meet. */
function gathered(operands: readonly Operand[]): Run[] {
  const runs: { effect: Effect; operands: Operand[] }[] = []
  for (const operand of operands) {
    const { effect } = operand.step
    let home: (typeof runs)[number] | undefined
    for (const run of [...runs].reverse()) {
      if (run.effect === effect && effect !== 'keep') home = run
      if (home || !run.operands.every((other) => mayChangePlaces(other, operand))) break
    }
    if (home) home.operands.push(operand)
    else runs.push({ effect, operands: [operand] })
  }
  return runs
}
