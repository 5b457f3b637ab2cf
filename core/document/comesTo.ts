import type { Part, Step } from './format.ts'
import { allSteps, isBundle } from './tree.ts'

/**
 * How many bodies all steps of a part come to, where each step that is the same as another one counts as much as that, and a bundle as
 * much as all that it holds: two that double each other over and over are soon more than can be built. Copies by repeats, whose
 * counts are expressions, are not in it.
 */
export function bodiesOf(part: Part): number {
  const steps = new Map(allSteps(part).map((step) => [step.id, step]))
  const known = new Map<string, number>()
  const count = (step: Step): number => {
    const before = known.get(step.id)
    if (before !== undefined) return before
    // What refers to itself in a circle is told elsewhere.
    known.set(step.id, 1)
    const own = isBundle(step)
      ? step.steps.reduce((sum, each) => sum + count(each), 0)
      : step.kind === 'same' && steps.has(step.of)
        ? count(steps.get(step.of)!)
        : 1
    known.set(step.id, own)
    return own
  }
  return part.pieces.reduce((sum, piece) => sum + piece.steps.reduce((all, step) => all + count(step), 0), 0)
}
