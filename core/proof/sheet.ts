import { allSteps, findStep } from '../document/index.ts'
import { brokenMeasures, type ResolvedPart, rootProblems } from '../planning/index.ts'
import type { Problem } from '../problems/index.ts'
import { type Check, type Finding, stepName } from './define.ts'

/** Whether every line of the build sheet made it into the solid. */
export const sheetCheck: Check = {
  id: 'sheet',
  label: 'Build sheet',
  meaning: 'Every step could be built, and what is muted is stated.',
  scope: 'part',
  run: ({ built }) => sheetFindings(built.resolved, built.problems),
}

/** What the check says of a part whose values are worked out, with all that is wrong with it. */
export function sheetFindings(resolved: ResolvedPart, problems: readonly Problem[]): readonly Finding[] {
  const broken = brokenMeasures(problems)
  const findings: Finding[] = rootProblems(problems).map((problem) => {
    const [owner, id] = problem.path
    const kind = owner && id ? kinds[owner] : undefined
    const waiting = broken?.roots.includes(problem) ? broken.waiting : 0
    const waits = waiting > 0 ? ` ${waiting === 1 ? 'One line waits' : `${waiting} lines wait`} for it.` : ''
    return {
      check: 'sheet',
      rank: problem.rank,
      text: `${nameOf(resolved, owner, id)}: ${problem.text}${waits}`,
      about: kind && id ? [{ kind, id }] : [],
    }
  })
  const steps = allSteps(resolved.part)
  const muted = steps.filter((step) => step.mute)
  if (muted.length > 0)
    findings.push({
      check: 'sheet',
      rank: 'advice',
      text: `${muted.length === 1 ? 'One step is' : `${muted.length} steps are`} muted and not in the solid.`,
      about: muted.map(({ id }) => ({ kind: 'step', id })),
    })
  if (findings.length === 0) {
    const out = steps.filter(({ id }) => resolved.steps.get(id)?.present === false)
    findings.push({
      check: 'sheet',
      rank: 'pass',
      text: builtText(steps.length - out.length, out.length),
      about: out.map(({ id }) => ({ kind: 'step', id })),
    })
  }
  return findings
}

/** "All 12 steps are built.", "7 steps are built; 5 are left out, as their conditions say." */
function builtText(built: number, out: number): string {
  if (built === 0) return out === 0 ? 'There are no steps.' : 'All steps are left out.'
  const all = built === 1 ? 'The one step is built.' : `All ${built} steps are built.`
  if (out === 0) return all
  const rest = out === 1 ? 'one is left out, as its condition says' : `${out} are left out, as their conditions say`
  return `${built === 1 ? 'One step is built' : `${built} steps are built`}; ${rest}.`
}

const kinds: Readonly<Record<string, Finding['about'][number]['kind'] | undefined>> = {
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
