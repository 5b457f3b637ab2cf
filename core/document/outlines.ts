import { sectionsText, sectionTexts } from '../fields/index.ts'
import type { FieldKindOf } from './expressions.ts'
import { flattened } from './tree.ts'
import type { FieldTexts, Step } from './types.ts'

/** Ids of the outlines that a step, and what it holds, is made from. */
export function outlinesOf(step: Step, kindOf: FieldKindOf): string[] {
  return flattened([step]).flatMap(({ shape, fields }) =>
    Object.entries(fields).flatMap(([field, text]) => {
      const kind = kindOf({ shape }, field)
      if (kind === 'outline') return text === '' ? [] : [text]
      return kind === 'sections' ? sectionTexts(text).map(({ outline }) => outline) : []
    }),
  )
}

/** The step, and what it holds, made from other outlines. */
export function withOutlines(step: Step, other: (id: string) => string, kindOf: FieldKindOf): Step {
  const fields: FieldTexts = Object.fromEntries(
    Object.entries(step.fields).map(([field, text]) => {
      const kind = kindOf({ shape: step.shape }, field)
      if (kind === 'outline') return [field, other(text)]
      if (kind !== 'sections') return [field, text]
      return [
        field,
        sectionsText(sectionTexts(text).map(({ outline, height }) => ({ outline: other(outline), height }))),
      ]
    }),
  )
  return {
    ...step,
    fields,
    ...(step.steps ? { steps: step.steps.map((inner) => withOutlines(inner, other, kindOf)) } : {}),
  }
}
