import { allSteps } from '../document/index.ts'
import { type Check, type Finding, stepName } from './define.ts'

/** Whether springs stay within the strain that their material takes, by their formulas. */
export const springsCheck: Check = {
  id: 'springs',
  label: 'Springs',
  meaning: 'Springs stay within the strain that their material takes, by their formulas.',
  scope: 'part',
  run({ built }) {
    const { resolved } = built
    const { material } = resolved.part
    return allSteps(resolved.part).flatMap(({ id }): Finding[] => {
      const { shape, values, present } = resolved.steps.get(id) ?? {}
      const facts = present && values ? shape?.spring?.(values as never, material) : undefined
      if (!facts) return []
      const strain = Number((100 * facts.strain).toPrecision(2))
      const name = stepName(resolved, id)
      const finding = (rank: Finding['rank'], text: string): Finding => ({
        ...{ check: 'springs', rank, text, about: [{ kind: 'step', id }] },
      })
      const unit = facts.per === 'mm' ? 'mm' : '°'
      const travel = `${Number(facts.travel.toFixed(3))} ${unit}`
      if (strain > material.strainOnce)
        return [
          finding(
            'fault',
            `${name}, moved by ${travel}: strain ${strain} % of the ${material.strainOnce} % that ${material.name} takes once; it would break.`,
          ),
        ]
      if (strain > material.strainOften)
        return [
          finding(
            'warning',
            `${name}, moved by ${travel}: strain ${strain} % of the ${material.strainOften} % that ${material.name} takes again and again.`,
          ),
        ]
      return [
        finding(
          'pass',
          `${name}, moved by ${travel}: strain ${strain} % of the ${material.strainOften} % that ${material.name} takes again and again.`,
        ),
      ]
    })
  },
}
