import { allSteps, findStep, type Step } from '../document/index.ts'
import { brokenMeasures, type ResolvedPart, rootProblems } from '../planning/index.ts'
import type { Problem } from '../problems/index.ts'
import { type Check, type Found, findingOf, stepName } from './define.ts'
import { clause, sentences } from './phrase.ts'

/** What is found. */
const texts = {
  'sheet-problem': '{where}: {problem}{waits}',
  'sheet-muted-one': 'One step is muted and not in the solid.',
  'sheet-muted': '{count} steps are muted and not in the solid.',
  'sheet-no-steps': 'There are no steps.',
  'sheet-all-out': 'All steps are left out.',
  'sheet-built-one': 'The one step is built.',
  'sheet-built': 'All {count} steps are built.',
  'sheet-built-but': '{built}; {out}.',
  'waits-one': ' One line waits for it.',
  waits: ' {count} lines wait for it.',
  'built-one': 'One step is built',
  built: '{count} steps are built',
  'out-one': 'one is left out, as its condition says',
  out: '{count} are left out, as their conditions say',
} as const

/** Whether every line of the build sheet made it into the solid. */
export const sheetCheck: Check = {
  id: 'sheet',
  label: 'Build sheet',
  meaning: 'Every step could be built, and what is muted is stated.',
  texts,
  scope: 'part',
  from: ({ sheet }) => sheet(),
  run: ({ built }) => sheetFindings(built.resolved, built.problems),
}

/** What the check says of a part whose values are worked out, with all that is wrong with it. */
export function sheetFindings(resolved: ResolvedPart, problems: readonly Problem[]): readonly Found[] {
  const broken = brokenMeasures(problems)
  const findings = rootProblems(problems).map((problem) => {
    const [owner, id] = problem.path
    const kind = owner && id ? kinds[owner] : undefined
    const count = broken?.roots.includes(problem) ? broken.waiting : 0
    const waits = count > 0 ? [count === 1 ? clause(texts, 'waits-one', {}) : clause(texts, 'waits', { count })] : []
    const where = nameOf(resolved, owner, id)
    return findingOf('sheet', texts, kind && id ? [{ kind, id }] : [])(problem.rank, 'sheet-problem', {
      ...{ where, problem: problem.text, waits: sentences(...waits) },
    })
  })
  const steps = allSteps(resolved.part)
  const muted = steps.filter((step) => step.mute)
  if (muted.length > 0) {
    const finding = findingOf('sheet', texts, stepsOf(muted))
    const { length: count } = muted
    findings.push(count === 1 ? finding('advice', 'sheet-muted-one', {}) : finding('advice', 'sheet-muted', { count }))
  }
  if (findings.length === 0) {
    const out = steps.filter(({ id }) => resolved.steps.get(id)?.present === false)
    findings.push(builtFinding(steps.length - out.length, out))
  }
  return findings
}

const stepsOf = (steps: readonly Step[]) => steps.map(({ id }) => ({ kind: 'step', id }) as const)

/** "All 12 steps are built.", "7 steps are built; 5 are left out, as their conditions say." */
function builtFinding(built: number, out: readonly Step[]): Found {
  const finding = findingOf('sheet', texts, stepsOf(out))
  if (built === 0) return finding('pass', out.length === 0 ? 'sheet-no-steps' : 'sheet-all-out', {})
  if (out.length === 0)
    return built === 1 ? finding('pass', 'sheet-built-one', {}) : finding('pass', 'sheet-built', { count: built })
  return finding('pass', 'sheet-built-but', {
    built: built === 1 ? clause(texts, 'built-one', {}) : clause(texts, 'built', { count: built }),
    out: out.length === 1 ? clause(texts, 'out-one', {}) : clause(texts, 'out', { count: out.length }),
  })
}

const kinds: Readonly<Record<string, Found['about'][number]['kind'] | undefined>> = {
  steps: 'step',
  joints: 'joint',
  pieces: 'piece',
  measures: 'measure',
}

function nameOf(resolved: ResolvedPart, owner: string | undefined, id: string | undefined): string {
  const { part } = resolved
  if (owner === 'steps' && id && findStep(part, id)) return stepName(resolved, id)
  if (owner === 'joints') return `Joint ${part.joints.find((joint) => joint.id === id)?.name ?? ''}`.trim()
  if (owner === 'measures') return `Measure ${part.measures.find((measure) => measure.id === id)?.name ?? ''}`.trim()
  return 'The part'
}
