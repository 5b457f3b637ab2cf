import type { Part } from '../document/index.ts'
import type { Problem, ProblemCode } from '../problems/index.ts'

/** Problems that only follow from another one: mended with that. */
const following: ReadonlySet<ProblemCode> = new Set([
  'depends-on-broken',
  'reference-broken',
  'readout-unknown',
  'same-missing',
  'bundle-empty',
  'starts-with-nothing',
])

/** Where measures cannot be computed: what is wrong with these, and how many steps and measures wait for them. */
export interface BrokenMeasures {
  readonly roots: readonly Problem[]
  readonly waiting: number
}

/** Undefined where all measures can be computed. */
export function brokenMeasures(problems: readonly Problem[]): BrokenMeasures | undefined {
  const roots = problems.filter(
    ({ path, rank, code }) => path[0] === 'measures' && rank === 'fault' && !following.has(code),
  )
  if (roots.length === 0) return undefined
  const owners = problems.filter(({ code }) => following.has(code)).map(({ path }) => path.slice(0, 2).join('/'))
  return { roots, waiting: new Set(owners).size }
}

/** Those problems that are no mere consequence of measures that cannot be computed. */
export function rootProblems(problems: readonly Problem[]): readonly Problem[] {
  return brokenMeasures(problems) ? problems.filter(({ code }) => !following.has(code)) : problems
}

/**
 * The part as it is shown while measures of it cannot be computed: these as they were last, so that what hangs on them
 * stands as it did. `last` holds what each could last be computed from, by its id.
 */
export function withStandIns(part: Part, { roots }: BrokenMeasures, last: ReadonlyMap<string, string>): Part {
  const broken = new Set(roots.map(({ path }) => path[1]!))
  const known = (id: string) => (broken.has(id) ? last.get(id) : undefined)
  if (![...broken].some((id) => last.has(id))) return part
  return {
    ...part,
    measures: part.measures.map((measure) => ({ ...measure, expression: known(measure.id) ?? measure.expression })),
    // What a variant says of a broken one is what is broken.
    variants: part.variants.map((variant) => ({
      ...variant,
      values: Object.fromEntries(Object.entries(variant.values).filter(([id]) => known(id) === undefined)),
    })),
  }
}
