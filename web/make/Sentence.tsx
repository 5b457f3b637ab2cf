import type { AnyValues, FieldDefinition, Fields, SentencePart } from '@makrel/core/fields'
import type { Names } from '@makrel/core/measures'
import { levelSides, type SideNames } from '@makrel/core/place'
import { type Problem, tried } from '@makrel/core/problems'
import { Fragment } from 'react'
import { usePart } from '../state/part.ts'
import { editorOf } from './editors.tsx'

interface Props {
  readonly fields: Fields
  readonly texts: Readonly<Record<string, string>>
  readonly parts: readonly SentencePart[]
  readonly names: Names
  /** of these fields only: their path ends with the field's name */
  readonly problems: readonly Problem[]
  /** the field that is to take the keyboard */
  readonly focus: string | undefined
  readonly sides?: SideNames
  /** the step whose fields they are, where they are a step's own */
  readonly step?: string
  /** the field that a word brings into the sentence, which then takes the keyboard */
  brings?(field: string, value: string): string | undefined
  /** `final` ends one act of typing */
  onChange(field: string, text: string, final: boolean): void
}

/** The words and values of a shape, a repeat or a joint, editable in place. Punctuation sits close to the word before it. */
export function Sentence({ parts, ...rest }: Props) {
  return parts.map((part, i) => {
    // biome-ignore lint/suspicious/noArrayIndexKey: the sentence is fixed by the shape
    if (typeof part === 'string') return <Fragment key={i}>{closeUp(part, i)}</Fragment>
    return (
      <Fragment key={part.field}>
        {' '}
        <SentenceField field={part.field} {...rest} />
      </Fragment>
    )
  })
}

function closeUp(words: string, index: number): string {
  return index === 0 || /^[,.;]/.test(words) ? words : ` ${words}`
}

function SentenceField({
  field,
  fields,
  texts,
  names,
  problems,
  focus,
  sides = levelSides,
  step,
  brings,
  onChange,
}: Omit<Props, 'parts'> & { readonly field: string }) {
  const { focused } = usePart.getState()
  const definition = fields[field]!
  const Editor = editorOf(definition.kind)
  return (
    <Editor
      definition={definition}
      text={texts[field] ?? definition.default}
      texts={texts}
      names={names}
      sides={sides}
      step={step}
      fault={problems.find((problem) => problem.path.at(-1) === field)?.text}
      autoFocus={focus === field}
      onAutoFocused={focused}
      brings={(value) => brings?.(field, value)}
      onChange={(text, final) => onChange(field, text, final)}
    />
  )
}

/** The sentence that a definition reads as; where a value cannot be computed, its words still stand. */
export function sentenceParts(
  sentence: (values: AnyValues) => readonly SentencePart[],
  values: AnyValues | undefined,
  texts: Readonly<Record<string, string>>,
  fields: Fields,
): readonly SentencePart[] {
  // A sentence branches on choices only.
  const stand =
    values ??
    Object.fromEntries(
      Object.entries(fields).map(([name, field]) => [
        name,
        field.kind === 'choice' || field.kind === 'text' ? (texts[name] ?? field.default) : 1,
      ]),
    )
  // One that cannot be said still shows its values.
  return tried(() => sentence(stand)) ?? ['with', ...Object.keys(fields).map((field) => ({ field }))]
}

/** Rare values, and the words that lead to them, wait behind "more" while they have their plain value. */
export function commonParts(
  parts: readonly SentencePart[],
  fields: Fields,
  texts: Readonly<Record<string, string>>,
): readonly SentencePart[] {
  const isRare = (part: SentencePart | undefined) => {
    const definition: FieldDefinition | undefined = typeof part === 'object' ? fields[part.field] : undefined
    return (
      Boolean(definition?.rare) &&
      (texts[(part as { field: string }).field] ?? definition!.default) === definition!.default
    )
  }
  return parts.filter((part, i) => !isRare(typeof part === 'string' ? parts[i + 1] : part))
}
