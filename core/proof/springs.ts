import { allSteps } from '../document/index.ts'
import { tried } from '../problems/index.ts'
import { type Check, type Found, findingOf, stepName } from './define.ts'
import { mm } from './phrase.ts'
import { strainRank, strainText } from './strain.ts'

/** What is found. */
const texts = {
  'springs-unknown': '{spring}: its spring formula gave no number, so its strain is not known.',
  'springs-breaks':
    '{spring}, moved by {travel}: strain {strain} % of the {most} % that {material} takes once; it would break.',
  'springs-holds':
    '{spring}, moved by {travel}: strain {strain} % of the {most} % that {material} takes again and again.',
} as const

/** Whether springs stay within the strain that their material takes, by their formulas. */
export const springsCheck: Check = {
  id: 'springs',
  label: 'Springs',
  meaning: 'Springs stay within the strain that their material takes, by their formulas.',
  texts,
  scope: 'part',
  from: ({ sheet }) => sheet(),
  run({ built }) {
    const { resolved } = built
    const { material } = resolved.part
    // A formula that fails takes no other away.
    const ofSteps = allSteps(resolved.part).flatMap(({ id }) => {
      const { shape, values, present } = resolved.steps.get(id) ?? {}
      if (!shape?.spring || !values || !present) return []
      const worked = tried(() => ({ facts: shape.spring!(values, material) }))
      return [{ worked, name: stepName(resolved, id), about: { kind: 'step', id } as const }]
    })
    const ofJoints = [...resolved.joints.values()].flatMap(({ joint, definition, values }) => {
      if (!definition?.spring || !values) return []
      const worked = tried(() => ({ facts: definition.spring!(values, material) }))
      const number = resolved.part.joints.indexOf(joint) + 1
      const name = joint.name || `The spring of joint ${number} (${definition.label})`
      return [{ worked, name, about: { kind: 'joint', id: joint.id } as const }]
    })
    return [...ofSteps, ...ofJoints].flatMap(({ worked, name: spring, about }): readonly Found[] => {
      const finding = findingOf('springs', texts, [about])
      const unknown = [finding('warning', 'springs-unknown', { spring })]
      if (!worked) return unknown
      const { facts } = worked
      if (!facts) return []
      const rank = strainRank(facts.strain, material)
      if (!rank || !Number.isFinite(facts.travel)) return unknown
      const travel = facts.per === 'mm' ? mm(facts.travel) : `${Number(facts.travel.toFixed(3))} °`
      const most = rank === 'fault' ? material.strainOnce : material.strainOften
      const strain = strainText(facts.strain, most)
      const told = { spring, travel, strain, most, material: material.name }
      return [finding(rank, rank === 'fault' ? 'springs-breaks' : 'springs-holds', told)]
    })
  },
}
