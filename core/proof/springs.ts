import { allSteps } from '../document/index.ts'
import { tried } from '../problems/index.ts'
import { type Check, type Finding, stepName } from './define.ts'
import { strainRank, strainText } from './strain.ts'

/** Whether springs stay within the strain that their material takes, by their formulas. */
export const springsCheck: Check = {
  id: 'springs',
  label: 'Springs',
  meaning: 'Springs stay within the strain that their material takes, by their formulas.',
  scope: 'part',
  run({ built }) {
    const { resolved } = built
    const { material } = resolved.part
    // A formula that fails takes no other away.
    const ofSteps = allSteps(resolved.part).flatMap(({ id }) => {
      const { shape, values, present } = resolved.steps.get(id) ?? {}
      if (!shape?.spring || !values || !present) return []
      const worked = tried(() => ({ facts: shape.spring!(values as never, material) }))
      return [{ worked, name: stepName(resolved, id), about: { kind: 'step', id } as const }]
    })
    const ofJoints = [...resolved.joints.values()].flatMap(({ joint, definition, values }) => {
      if (!definition?.spring || !values) return []
      const worked = tried(() => ({ facts: definition.spring!(values as never, material) }))
      const number = resolved.part.joints.indexOf(joint) + 1
      const name = joint.name || `The spring of joint ${number} (${definition.label})`
      return [{ worked, name, about: { kind: 'joint', id: joint.id } as const }]
    })
    return [...ofSteps, ...ofJoints].flatMap(({ worked, name, about }): readonly Finding[] => {
      const finding = (rank: Finding['rank'], text: string) => [{ check: 'springs', rank, text, about: [about] }]
      const unknown = finding('warning', `${name}: its spring formula gave no number, so its strain is not known.`)
      if (!worked) return unknown
      const { facts } = worked
      if (!facts) return []
      const rank = strainRank(facts.strain, material)
      if (!rank || !Number.isFinite(facts.travel)) return unknown
      const unit = facts.per === 'mm' ? 'mm' : '°'
      const moved = `${name}, moved by ${Number(facts.travel.toFixed(3))} ${unit}`
      const limit = rank === 'fault' ? material.strainOnce : material.strainOften
      const takes = `strain ${strainText(facts.strain, limit)} % of the ${limit} % that ${material.name} takes`
      return finding(
        rank,
        rank === 'fault' ? `${moved}: ${takes} once; it would break.` : `${moved}: ${takes} again and again.`,
      )
    })
  },
}
