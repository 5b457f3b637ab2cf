import type { Effect } from '../document/index.ts'
import { meet } from '../place/index.ts'
import type { Operand } from '../planning/index.ts'

/** Operands of one effect that act together in one operation. */
export interface Run {
  readonly effect: Effect
  readonly operands: readonly Operand[]
}

/** Boxes nearer than this count as meeting, mm: cuts reach a little out of their faces. */
export const nearness = 0.1

/**
 * The operands gathered into few operations. Two that stand one after the other may change places when they have the
 * same effect or do not meet; a keep changes places with nothing. Two uses are made of that:
 *
 *  - effects of one kind are gathered, so that a long sheet falls into few runs;
 *  - what is being edited (`recentlyEdited`), and what hangs on it, goes last:
 *
 *        early: everything else                     | late: recentlyEdited, and what must follow it
 *        add add add …  →  cut cut cut cut …        | add  →  cut
 *        built once while the edit goes on          | built for each keystroke
 */
export function runsOf(operands: readonly Operand[], recentlyEdited: ReadonlySet<string>): Run[] {
  const late = lateOperands(operands, recentlyEdited)
  const early = operands.filter((operand) => !late.has(operand))
  // Without material to begin with there is no early part.
  if (early[0]?.step.effect !== 'add' || late.size === 0) return gathered(operands, false)
  const last = operands.filter((operand) => late.has(operand))
  return [...gathered(early, false), ...gathered(last, true)]
}

/** Hot operands, and those behind them that may not change places with one of these. */
function lateOperands(operands: readonly Operand[], recentlyEdited: ReadonlySet<string>): ReadonlySet<Operand> {
  const late = new Set<Operand>()
  for (const operand of operands) {
    const follows = () => [...late].some((before) => !mayChangePlaces(before, operand))
    if (isRecentlyEdited(operand, recentlyEdited) || follows()) late.add(operand)
  }
  return late
}

function isRecentlyEdited({ step, body }: Operand, recentlyEdited: ReadonlySet<string>): boolean {
  return (
    recentlyEdited.has(step.id) ||
    (body.kind === 'bundle' && body.operands.some((operand) => isRecentlyEdited(operand, recentlyEdited)))
  )
}

function mayChangePlaces(a: Operand, b: Operand): boolean {
  const [one, two] = [a.step.effect, b.step.effect]
  if (one === 'keep' || two === 'keep' || meetsOthers(a) || meetsOthers(b)) return false
  return one === two || !meet(a.box, b.box, nearness)
}

/** Whether it goes on to what stands before it; then it keeps its place in the order. */
export function meetsOthers({ body }: Operand): boolean {
  return body.kind === 'shape' ? body.shape.meets === true : body.operands.some(meetsOthers)
}

/**
 * The fewest alternations of effects that keep the order of those that may not change places: all adds that nothing
 * before them holds back, then all cuts, and so on. Begins with the effect of the first operand or, where something
 * stands already (`onSolid`), with the one that takes fewer runs.
 */
function gathered(operands: readonly Operand[], onSolid: boolean): Run[] {
  const held = operands.map((operand, i) =>
    operands.slice(0, i).flatMap((before, k) => (mayChangePlaces(before, operand) ? [] : [k])),
  )
  const begun = ([first, second]: readonly [Effect, Effect]) => layered(operands, held, first, second)
  const usual = begun(operands[0]?.step.effect === 'cut' ? ['cut', 'add'] : ['add', 'cut'])
  if (!onSolid) return usual
  const other = begun(operands[0]?.step.effect === 'cut' ? ['add', 'cut'] : ['cut', 'add'])
  return other.length < usual.length ? other : usual
}

function layered(
  operands: readonly Operand[],
  held: readonly (readonly number[])[],
  first: Effect,
  second: Effect,
): Run[] {
  const runs: Run[] = []
  const done = new Set<number>()
  let effect = first
  const run = (kind: Effect, layer: readonly number[]) => {
    if (layer.length > 0) runs.push({ effect: kind, operands: layer.map((i) => operands[i]!) })
    for (const i of layer) done.add(i)
  }
  const free = (kind: Effect) =>
    operands.flatMap(({ step }, i) =>
      step.effect === kind && !done.has(i) && held[i]!.every((before) => done.has(before)) ? [i] : [],
    )
  while (done.size < operands.length) {
    run(effect, free(effect))
    // A keep stands alone: it is held back by all before it, and holds back all behind it.
    run('keep', free('keep'))
    effect = effect === first ? second : first
  }
  return runs
}
