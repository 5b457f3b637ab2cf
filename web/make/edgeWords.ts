import { allSteps, findStep, type Part } from '@makrel/core/document'
import type { EdgeRule, EdgeTrait, FaceName } from '@makrel/core/fields'
import type { Plan } from '@makrel/core/planning'
import { tried } from '@makrel/core/problems'
import { edgeWords, faceWord, numberedTitle } from './words.ts'

/** What each trait of edges reads in a sentence, before the word "edges" or behind it. */
export const traitWords: Readonly<Record<EdgeTrait, string>> = {
  outer: 'outer',
  inner: 'inner',
  upright: 'upright',
  level: 'level',
  bed: 'lowest',
}

/** "the outer edges of 1, plate and 2 more" */
export function rulesWords(part: Part, rules: readonly EdgeRule[]): string {
  const [first, ...more] = rules
  if (!first) return 'edges to be chosen'
  return `${ruleWords(part, first)}${more.length > 0 ? ` and ${more.length} more` : ''}`
}

/** "the outer edges of the top of 1, plate", or "not the upright edges" */
export function ruleWords(part: Part, { less, traits, where }: EdgeRule): string {
  const named = traits.map((trait) => traitWords[trait])
  const not = less ? 'not ' : ''
  switch (where.kind) {
    case 'all':
      return `${not}${[named.length > 0 ? 'the' : 'all', ...named].join(' ')} edges`
    case 'of':
      return `${not}${['the', ...named].join(' ')} edges of ${faceWords(part, where.of)}`
    case 'rims':
      return `${not}${['the', ...named].join(' ')} rims of ${faceWords(part, { step: where.step, face: undefined })}`
    case 'meets': {
      const [one, other] = where.faces
      return `${not}${['the', ...named].join(' ')} edges where ${faceWords(part, one)} meets ${faceWords(part, other)}`
    }
    case 'edge':
      return `${not}the ${edgeWords(part, where.key)}`
  }
}

export function faceWords(part: Part, { step, face }: FaceName): string {
  const found = findStep(part, step)
  const title = found ? numberedTitle(part, found.step) : 'a step that is gone'
  return face === undefined ? title : `the ${face} of ${title}`
}

/** A face or a whole step, as one of several. */
export interface FaceOption {
  readonly value: string
  readonly label: string
}

export function faceValue({ step, face }: FaceName): string {
  return face === undefined ? step : `${step}/${face}`
}

export function faceOf(value: string): FaceName {
  const at = value.indexOf('/')
  return at < 0 ? { step: value, face: undefined } : { step: value.slice(0, at), face: value.slice(at + 1) }
}

/** All steps above one, nearest first, each with all surfaces that its shape names. */
export function faceOptions(part: Part, plan: Plan, stepId: string): FaceOption[] {
  const steps = allSteps(part)
  const above = steps.slice(
    0,
    steps.findIndex((step) => step.id === stepId),
  )
  return above.reverse().flatMap((step): FaceOption[] => {
    const operand = plan.operands.get(step.id)
    const whole = { value: step.id, label: numberedTitle(part, step) }
    if (operand?.body.kind !== 'shape') return operand ? [whole] : []
    const { shape } = operand.body
    const values = operand.copies[0]?.values
    const surfaces = values ? (tried(() => shape.surfaces(values).all) ?? []) : []
    return [
      whole,
      ...surfaces.map(({ name }) => ({
        value: `${step.id}/${name}`,
        label: `the ${faceWord(name)} of ${whole.label}`,
      })),
    ]
  })
}
