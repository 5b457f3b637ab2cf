import type { Names } from '@makrel/core/measures'
import type { Problem } from '@makrel/core/problems'
import type { AnyValues, Fields, SentencePart } from '@makrel/core/shapes'
import { Fragment } from 'react'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { ValueField } from './ValueField.tsx'

/** The words and values of a shape or a joint, editable in place. Punctuation sits close to the word before it. */
export function Sentence({
  owner,
  fields,
  texts,
  parts,
  names,
  problems,
}: {
  readonly owner: { readonly kind: 'step' | 'joint'; readonly id: string }
  readonly fields: Fields
  readonly texts: Readonly<Record<string, string>>
  readonly parts: readonly SentencePart[]
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  return parts.map((part, i) => {
    // biome-ignore lint/suspicious/noArrayIndexKey: the sentence is fixed by the shape
    if (typeof part === 'string') return <Fragment key={i}>{closeUp(part, i)}</Fragment>
    return (
      <Fragment key={part.field}>
        {' '}
        <SentenceField
          owner={owner}
          field={part.field}
          fields={fields}
          texts={texts}
          names={names}
          problems={problems}
        />
      </Fragment>
    )
  })
}

function closeUp(words: string, index: number): string {
  return index === 0 || /^[,.;]/.test(words) ? words : ` ${words}`
}

function SentenceField({
  owner,
  field,
  fields,
  texts,
  names,
  problems,
}: {
  readonly owner: { readonly kind: 'step' | 'joint'; readonly id: string }
  readonly field: string
  readonly fields: Fields
  readonly texts: Readonly<Record<string, string>>
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const focus = usePart((state) => (state.selection?.id === owner.id ? state.focus : undefined))
  const { edit, focused } = usePart.getState()
  const definition = fields[field]!
  const text = texts[field] ?? definition.default
  if (definition.kind === 'choice')
    return (
      <Choice
        label={definition.label}
        value={text}
        options={Object.entries(definition.choices).map(([value, label]) => ({ value, label }))}
        onChange={(value) => edit({ type: 'set-field', id: owner.id, field, text: value })}
      />
    )
  const fault = problems.find((problem) => problem.path[2] === 'fields' && problem.path[3] === field)
  return (
    <ValueField
      label={definition.label}
      kind={definition.kind}
      text={text}
      names={names}
      fault={fault?.text}
      autoFocus={focus === field}
      onAutoFocused={focused}
      onChange={(next, final) =>
        edit({ type: 'set-field', id: owner.id, field, text: next }, final ? undefined : `${owner.id}.${field}`)
      }
    />
  )
}

/** Whether a field's value can be read from these values: what is undefined stays as typed. */
export function sentenceParts(
  sentence: (values: never) => readonly SentencePart[],
  values: AnyValues | undefined,
  texts: Readonly<Record<string, string>>,
  fields: Fields,
): readonly SentencePart[] {
  // Where a number has a problem its words still stand: a sentence branches on choices only.
  const stand =
    values ??
    Object.fromEntries(
      Object.entries(fields).map(([name, field]) => [
        name,
        field.kind === 'choice' ? (texts[name] ?? field.default) : 1,
      ]),
    )
  return sentence(stand as never)
}
