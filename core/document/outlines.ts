import { sectionsText, sectionTexts } from '../fields/index.ts'
import type { FieldKindOf } from './expressions.ts'
import { flattened } from './tree.ts'
import type { FieldTexts, Step } from './types.ts'

type Owner = Parameters<FieldKindOf>[0]

/** Ids of the outlines that a step, its repeats, and what it holds are made from. */
export function outlinesOf(step: Step, kindOf: FieldKindOf): string[] {
  return flattened([step]).flatMap(({ shape, fields, repeats }) => [
    ...named({ shape }, fields, kindOf),
    ...repeats.flatMap((repeat) => named({ repeat: repeat.kind }, repeat.fields, kindOf)),
  ])
}

function named(owner: Owner, fields: FieldTexts, kindOf: FieldKindOf): string[] {
  return Object.entries(fields).flatMap(([field, text]) => {
    const kind = kindOf(owner, field)
    if (kind === 'outline') return text === '' ? [] : [text]
    return kind === 'sections' ? sectionTexts(text).map(({ outline }) => outline) : []
  })
}

/** The step, and what it holds, made from other outlines. */
export function withOutlines(step: Step, other: (id: string) => string, kindOf: FieldKindOf): Step {
  const changed = (owner: Owner, fields: FieldTexts): FieldTexts =>
    Object.fromEntries(
      Object.entries(fields).map(([field, text]) => {
        const kind = kindOf(owner, field)
        if (kind === 'outline') return [field, other(text)]
        if (kind !== 'sections') return [field, text]
        const sections = sectionTexts(text).map(({ outline, height }) => ({ outline: other(outline), height }))
        return [field, sectionsText(sections)]
      }),
    )
  return {
    ...step,
    fields: changed({ shape: step.shape }, step.fields),
    repeats: step.repeats.map(({ kind, fields }) => ({ kind, fields: changed({ repeat: kind }, fields) })),
    ...(step.steps ? { steps: step.steps.map((inner) => withOutlines(inner, other, kindOf)) } : {}),
  }
}
