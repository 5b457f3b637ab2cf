import type { Built } from '../build/index.ts'
import { allSteps, findStep } from '../document/index.ts'
import { type Check, type Finding, stepName } from './define.ts'

/** Whether every line of the build sheet made it into the solid. */
export const sheetCheck: Check = {
  id: 'sheet',
  label: 'Build sheet',
  meaning: 'Every step could be built, and what is muted is stated.',
  run({ built }) {
    const findings: Finding[] = built.problems.map((problem) => {
      const [owner, id] = problem.path
      const kind = owner === 'steps' ? 'step' : owner === 'joints' ? 'joint' : owner === 'pieces' ? 'piece' : undefined
      return {
        check: 'sheet',
        rank: problem.rank,
        text: `${nameOf(built, owner, id)}: ${problem.text}`,
        about: kind && id ? [{ kind, id }] : [],
      }
    })
    const steps = allSteps(built.resolved.part)
    const muted = steps.filter((step) => step.mute)
    if (muted.length > 0)
      findings.push({
        check: 'sheet',
        rank: 'advice',
        text: `${muted.length === 1 ? 'One step is' : `${muted.length} steps are`} muted and not in the solid.`,
        about: muted.map(({ id }) => ({ kind: 'step', id })),
      })
    if (findings.length === 0)
      findings.push({
        check: 'sheet',
        rank: 'pass',
        text: steps.length === 1 ? 'The one step is built.' : `All ${steps.length} steps are built.`,
        about: [],
      })
    return findings
  },
}

function nameOf(built: Built, owner: string | undefined, id: string | undefined): string {
  const { part } = built.resolved
  if (owner === 'steps' && id && findStep(part, id)) return stepName(built, id)
  if (owner === 'joints') return `Joint ${part.joints.find((joint) => joint.id === id)?.name ?? ''}`.trim()
  if (owner === 'measures') return `Measure ${part.measures.find((measure) => measure.id === id)?.name ?? ''}`.trim()
  return 'The part'
}
