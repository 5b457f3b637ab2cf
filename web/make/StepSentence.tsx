import {
  type BodyStep,
  type Edit,
  type FieldTexts,
  findBody,
  type SameStep,
  type TreatmentStep,
} from '@makrel/core/document'
import { type AnyValues, fieldsWhere, type SentencePart } from '@makrel/core/fields'
import { operations, restFor, type Treatment } from '@makrel/core/operations'
import { type ResolvedStep, scaleFields, scaleSentence } from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import { cutReach, cutSentence, type ShapeDefinition } from '@makrel/core/shapes'
import { workedOf } from '../state/build.ts'
import { standingIn } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { Lit } from '../viewport/Lit.tsx'
import { addsMaterial } from './operations.ts'
import { PlacePhrase } from './PlacePhrase.tsx'
import { RepeatPhrases } from './RepeatPhrase.tsx'
import { commonParts, Sentence, sentenceParts } from './Sentence.tsx'
import type { StepLineProps } from './StepLine.tsx'
import { seatOptions, sidesOf } from './seats.ts'
import { TextField } from './TextField.tsx'
import { kindWords, operationWords, stepsAbove, titleOf, withChosen } from './words.ts'

type Props = StepLineProps & { readonly more: boolean }
type Worked<S> = Omit<Props, 'step'> & {
  readonly step: S
  readonly worked: ResolvedStep
  readonly focus: string | undefined
}

/** What a line says, with all its values in place. */
export function StepSentence(props: Props) {
  const { step, resolved } = props
  const focus = usePart((state) => (state.selection?.id === step.id ? state.focus : undefined))
  const worked = resolved.steps.get(step.id)
  if (!worked) return null
  if (step.kind === 'treatment')
    return worked.treatment ? (
      <TreatmentSentence {...props} step={step} worked={worked} focus={focus} treatment={worked.treatment} />
    ) : (
      <p className="text-base">What is done here is of kind “{step.operation}”.</p>
    )
  if (step.kind === 'shape' && !worked.shape) return <p className="text-base">A shape of kind “{step.shape}”.</p>
  return <BodySentence {...props} step={step} worked={worked} focus={focus} />
}

const setField = (id: string) => (field: string, text: string, final: boolean) =>
  usePart.getState().edit({ type: 'set-field', id, field, text }, final ? undefined : `${id}.${field}`)

const ofFields = (problems: readonly Problem[]) => problems.filter(({ path }) => path[2] === 'fields')

function TreatmentSentence({
  step,
  worked,
  focus,
  problems,
  more,
  treatment,
}: Worked<TreatmentStep> & { readonly treatment: Treatment }) {
  const { fields } = treatment
  const said = sentenceParts(treatment.sentence, worked.values, step.fields, fields)
  return (
    <p className="relative text-base leading-[1.625rem]">
      <StepName name={step.name} />
      <strong className="font-semibold">{treatment.label}</strong>{' '}
      <Sentence
        fields={fields}
        texts={step.fields}
        step={step.id}
        parts={more ? said : commonParts(said, fields, step.fields)}
        names={worked.names}
        problems={ofFields(problems)}
        focus={focus}
        onChange={setField(step.id)}
      />
      <Condition step={step} problems={problems} focus={focus} more={more} />.
    </p>
  )
}

function BodySentence({ part, step, worked, plan, problems, more, focus }: Worked<BodyStep>) {
  const { shape, names } = worked
  const sides = sidesOf(plan, step.id)
  const geometry = plan.geometry.get(step.id)
  const bundled = step.kind === 'bundle' || plan.operands.get(step.id)?.body.kind === 'bundle'
  const label = shape?.label ?? kindWords(step)
  const [head, ...rest] = shape ? said(step, shape, step.fields, worked.values) : []
  return (
    <p className="relative text-base leading-[1.625rem]">
      <StepName name={step.name} />
      {shape?.datum ? 'A' : <OperationChoice step={step} label={label} />}{' '}
      <strong className="font-semibold">{typeof head === 'string' ? head : label}</strong>
      {step.kind === 'same' && <SameChoice part={part} step={step} />}
      {!shape && (more || (step.fields.scale ?? 'none') !== 'none') && (
        <>
          ,
          <Sentence
            fields={scaleFields}
            texts={step.fields}
            parts={scaleSentence({ scale: (step.fields.scale ?? 'none') as keyof typeof scaleFields.scale.choices })}
            names={names}
            problems={ofFields(problems)}
            focus={focus}
            onChange={setField(step.id)}
          />
        </>
      )}
      {shape && (
        <Sentence
          fields={fieldsWhere(addsMaterial(step), shape.fields)}
          texts={step.fields}
          parts={more ? rest : commonParts(rest, shape.fields, step.fields)}
          names={names}
          problems={ofFields(problems)}
          focus={focus}
          brings={broughtBy(step, shape, worked.values)}
          onChange={setField(step.id)}
        />
      )}
      <PlacePhrase
        id={step.id}
        place={step.place}
        seats={() => seatOptions(part, standingIn(workedOf(part)).plan, step.id)}
        bases={shape?.seat === 'stands' ? geometry?.faces.map((face) => face.name) : undefined}
        ownPlace={bundled ? 'made' : shape?.drawn ? 'drawn' : shape?.wheel ? 'axis' : undefined}
        rests={shape?.seat === 'stands' || (step.kind === 'same' && !bundled)}
        goesUpTo={worked.values !== undefined && shape?.upTo?.wanted(worked.values)}
        extentless={geometry?.seating.size.every((mm) => mm === 0)}
        more={more}
        names={names}
        sides={sides}
        problems={problems}
      />
      <RepeatPhrases step={step} resolved={worked} names={names} sides={sides} more={more} problems={problems} />
      <Condition step={step} problems={problems} focus={focus} more={more} />.
    </p>
  )
}

/** "round hole ⌀": the first word of the sentence names the shape and is set apart. */
function said(
  step: BodyStep,
  shape: ShapeDefinition,
  texts: FieldTexts,
  values: AnyValues | undefined,
): readonly SentencePart[] {
  const spoken = (!addsMaterial(step) && shape.cutting) || shape.sentence
  const parts = sentenceParts(spoken, values, texts, shape.fields)
  const reaches = shape.deep !== undefined && !addsMaterial(step)
  return reaches ? cutSentence(shape, parts, texts[cutReach] === 'through') : parts
}

/** The field that a word, once chosen, brings into the sentence. */
function broughtBy(step: BodyStep, shape: ShapeDefinition, values: AnyValues | undefined) {
  const fieldsOf = (texts: FieldTexts, own: AnyValues | undefined) =>
    said(step, shape, texts, own)
      .slice(1)
      .flatMap((each) => (typeof each === 'string' ? [] : [each.field]))
  return (field: string, value: string) => {
    const before = new Set(fieldsOf(step.fields, values))
    const after = fieldsOf({ ...step.fields, [field]: value }, values && { ...values, [field]: value })
    return after.find((each) => !before.has(each))
  }
}

function StepName({ name }: { readonly name: string }) {
  return name && <span className="mr-1.5 text-xs text-ink-soft">{name}:</span>
}

function OperationChoice({ step, label }: { readonly step: BodyStep; readonly label: string }) {
  const options = operations.flatMap((operation) =>
    operation.acts === 'with-body' ? [{ value: operation.kind, label: operation.label, hint: operation.hint }] : [],
  )
  return (
    <Choice
      label="Effect"
      value={step.operation}
      shown={operationWords(step.operation, label)}
      options={options}
      onChange={(operation) => {
        // What stands on a face has nothing of it to cut, and what lies in one adds nothing. On the bed it stays where it is.
        const rests: readonly Edit[] =
          step.place.on.kind === 'bed' ? [] : [{ type: 'set-place', id: step.id, change: { rest: restFor(operation) } }]
        usePart.getState().editAll([{ type: 'set-step', id: step.id, change: { operation } }, ...rests])
      }}
    />
  )
}

function SameChoice({ part, step }: { readonly part: Props['part']; readonly step: SameStep }) {
  return (
    <>
      {' '}
      as{' '}
      <Lit of={{ kind: 'step', id: step.of }}>
        <Choice
          label="The step it copies"
          value={step.of}
          shown={titleOf(part, step.of)}
          options={() =>
            withChosen(
              stepsAbove(part, step.id).filter(({ value }) => findBody(part, value)),
              step.of,
            )
          }
          onChange={(of) => usePart.getState().edit({ type: 'set-same', id: step.id, of })}
        />
      </Lit>
    </>
  )
}

function Condition({
  step,
  problems,
  focus,
  more,
}: {
  readonly step: BodyStep | TreatmentStep
  readonly problems: readonly Problem[]
  readonly focus: string | undefined
  readonly more: boolean
}) {
  if (!more && step.when === '') return null
  return (
    <>
      , only if{' '}
      <TextField
        label="Condition"
        text={step.when}
        quoted={false}
        fault={problems.find(({ path }) => path[2] === 'when')?.text}
        autoFocus={focus === 'when'}
        onAutoFocused={usePart.getState().focused}
        onChange={(when, final) =>
          usePart
            .getState()
            .edit({ type: 'set-step', id: step.id, change: { when } }, final ? undefined : `${step.id}.when`)
        }
      />
    </>
  )
}
