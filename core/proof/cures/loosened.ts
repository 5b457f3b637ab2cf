import type { Fields } from '../../fields/index.ts'
import { fitBeside, fitNames, flatFit } from '../../fits/index.ts'
import type { Built } from '../../solids/index.ts'
import type { FoundCure } from '../define.ts'
import { clause } from '../phrase.ts'
import type { CureKind } from './define.ts'

/** What is said of a looser fit. */
const texts = {
  'loosen-fit': 'Make the {field} of {what} {fit}',
  'loosen-fit-then': 'It is {fit} by the fits of the {printer}.',
} as const

/** Checks of what is too close to something else. */
const tight: readonly string[] = ['gap', 'fused', 'within', 'takes']

/** What is too tight gets the next looser fits by name, where a fit is what its gap is told by. */
export const loosened: CureKind = ({ resolved }, { check, about, code, pattern, values: found }) => {
  if (!tight.includes(check)) return []
  return ownersOf(resolved, about).flatMap(({ id, texts: fields, definitions, name }) =>
    Object.entries(fields).flatMap(([field, text]): FoundCure[] => {
      const definition = definitions?.[field]
      if (definition?.kind !== 'length') return []
      return looser(text).map(({ fit, written }) => ({
        label: clause(texts, 'loosen-fit', { field: definition.label.toLowerCase(), what: name, fit }),
        edits: [{ type: 'set-field', id, field, text: written }],
        before: { code, pattern, values: found },
        after: clause(texts, 'loosen-fit-then', { fit, printer: resolved.printer.name }),
      }))
    }),
  )
}

/** The same text with the fits that leave more room, the next one first. */
function looser(text: string): readonly { readonly fit: string; readonly written: string }[] {
  const beside = fitBeside(text)
  const word = beside?.fit ?? fitNames.find((name) => text.trim() === name || text.trim() === flatFit(name))
  if (!word) return []
  const isFlat = text.trim() === flatFit(word)
  return fitNames.slice(fitNames.indexOf(word) + 1).map((fit) => ({
    fit,
    written: beside ? `${beside.size} ${fit}` : isFlat ? flatFit(fit) : fit,
  }))
}

interface Owner {
  readonly id: string
  readonly texts: Readonly<Record<string, string>>
  readonly definitions: Fields | undefined
  readonly name: string
}

/** Steps and joints that a finding is about, and joints that tie the pieces that it is about. */
function ownersOf(
  { part, steps, joints }: Built['resolved'],
  about: readonly { readonly id: string }[],
): readonly Owner[] {
  const isAbout = (id: string) => about.some((each) => each.id === id)
  const own = part.joints.flatMap((joint): Owner[] => {
    const definition = joints.get(joint.id)?.definition
    if (!isAbout(joint.id) && !joint.pieces.every(isAbout)) return []
    return [{ id: joint.id, texts: joint.fields, definitions: definition?.fields, name: joint.name || 'the joint' }]
  })
  const stepped = [...steps.values()].flatMap(({ step, shape }): Owner[] =>
    isAbout(step.id) && 'fields' in step
      ? [
          {
            id: step.id,
            texts: step.fields,
            definitions: shape?.fields,
            name: step.name || (shape?.label ?? 'the step'),
          },
        ]
      : [],
  )
  return [...own, ...stepped]
}
