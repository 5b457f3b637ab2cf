import type { BodyStep, Repeat } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import type { Names } from '@makrel/core/measures'
import type { SideNames } from '@makrel/core/place'
import type { ResolvedStep } from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import { type RepeatDefinition, repeatOf } from '@makrel/core/repeats'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { CloseIcon } from '../ui/icons.tsx'
import { withOutlinesChosen } from './newOutline.ts'
import { commonParts, Sentence, sentenceParts } from './Sentence.tsx'

export function newRepeat({ kind, fields }: RepeatDefinition): Repeat {
  const part = usePart.getState().part!
  return { kind, fields: withOutlinesChosen(part, fields, defaultFields(fields, part.unit)) }
}

/** "; 4 times in a row, 20 apart from left to right", for each repeat, and the copies that are left out. */
export function RepeatPhrases({
  step,
  resolved,
  names,
  sides,
  more,
  problems,
}: {
  readonly step: BodyStep
  readonly resolved: ResolvedStep
  readonly names: Names
  readonly sides: SideNames
  readonly more: boolean
  readonly problems: readonly Problem[]
}) {
  const { edit } = usePart.getState()
  return (
    <>
      {step.repeats.map((repeat, index) => (
        <RepeatPhrase
          // biome-ignore lint/suspicious/noArrayIndexKey: repeats have no identity but their order
          key={index}
          id={step.id}
          index={index}
          repeat={repeat}
          values={resolved.repeats?.[index]?.values}
          names={names}
          sides={sides}
          more={more}
          problems={problems.filter(({ path }) => path[2] === 'repeats' && path[3] === String(index))}
        />
      ))}
      {step.omit.length > 0 && (
        <>
          ; without {step.omit.length === 1 ? 'copy' : 'copies'}
          {step.omit.map((copy, i) => (
            <span key={copy}>
              {i === 0 ? ' ' : ', '}
              <button
                type="button"
                aria-label={`Bring back copy ${copy}`}
                title="Bring it back"
                className="figures choice"
                onClick={() => edit({ type: 'omit-copy', id: step.id, copy, omitted: false })}
              >
                {copy}
              </button>
            </span>
          ))}
        </>
      )}
    </>
  )
}

function RepeatPhrase({
  id,
  index,
  repeat,
  values,
  names,
  sides,
  more,
  problems,
}: {
  readonly id: string
  readonly index: number
  readonly repeat: Repeat
  readonly values: Parameters<typeof sentenceParts>[1]
  readonly names: Names
  readonly sides: SideNames
  readonly more: boolean
  readonly problems: readonly Problem[]
}) {
  const focus = usePart((state) => (state.selection?.id === id ? state.focus : undefined))
  const { edit } = usePart.getState()
  const definition = repeatOf(repeat.kind)
  const set = (next: Repeat | undefined, merge?: string) => edit({ type: 'set-repeat', id, index, repeat: next }, merge)
  const parts = definition ? sentenceParts(definition.sentence, values, repeat.fields, definition.fields) : []
  const lead = `repeat${index}.`
  return (
    <>
      ;
      {definition ? (
        <Sentence
          fields={definition.fields}
          texts={repeat.fields}
          parts={[' ', ...(more ? parts : commonParts(parts, definition.fields, repeat.fields))]}
          names={names}
          sides={sides}
          problems={problems}
          focus={focus?.startsWith(lead) ? focus.slice(lead.length) : undefined}
          onChange={(field, text, final) =>
            set(
              { ...repeat, fields: { ...repeat.fields, [field]: text } },
              final ? undefined : `${id}.${index}.${field}`,
            )
          }
        />
      ) : (
        ` repeated in a way of kind “${repeat.kind}”`
      )}
      <IconButton
        label={`No longer ${definition?.label ?? 'repeated'}`}
        className="!h-5 !w-5 align-middle"
        onClick={() => set(undefined)}
      >
        <CloseIcon size={12} />
      </IconButton>
    </>
  )
}
