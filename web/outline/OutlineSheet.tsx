import type { Outline } from '@makrel/core/document'
import { type Fields, isNumberField } from '@makrel/core/fields'
import type { Names } from '@makrel/core/measures'
import { builtIn, constraintOf, curveOf, derivedOf, type SolvedOutline } from '@makrel/core/outline'
import type { Problem } from '@makrel/core/problems'
import { Link } from 'react-router'
import { Sentence, sentenceParts } from '../make/Sentence.tsx'
import { seatKey, seatOptions } from '../make/seats.ts'
import { ValueField } from '../make/ValueField.tsx'
import { seatWords } from '../make/words.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { CloseIcon, OpenedIcon, RemoveIcon } from '../ui/icons.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { changeConstraint, changeDerived, makeDerivedOwn, removeParts } from './actions.ts'
import { Ends, Regions, StateLine } from './DrawingState.tsx'
import { Files } from './Files.tsx'
import { MakeFrom } from './MakeFrom.tsx'
import { PictureTools } from './PictureTools.tsx'
import { SelectionPanel } from './SelectionPanel.tsx'
import { SheetSection } from './SheetSection.tsx'
import { change, selectPart, settledNow, useOutline } from './state.ts'

/** The outline in words: what holds it, what follows from it, what is closed, and what can be made of it. */
export function OutlineSheet({
  solved,
  names,
  problems,
}: {
  readonly solved: SolvedOutline
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const part = usePart((state) => state.part!)
  const justDerived = useOutline((state) => state.justDerived)
  const { outline } = solved
  // What contradicts is told at the top, with all that has a part in it.
  const own = problems.filter(
    ({ path, code }) => path[0] === 'outlines' && path[1] === outline.id && code !== 'outline-conflict',
  )
  const at = (what: string, id: string) => own.filter(({ path }) => path[2] === what && path[3] === id)
  const dimensions = outline.constraints.filter(({ kind }) => constraintOf(kind)?.value)
  const held = outline.constraints.filter(({ kind }) => !constraintOf(kind)?.value)
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-5 pb-4">
      <p className="pt-3 text-ink-soft">
        <Link to={`/part/${part.id}/make`} className="inline-flex items-center gap-1 hover:text-mackerel">
          <OpenedIcon size={14} className="rotate-180" /> build sheet
        </Link>
      </p>
      <OutlineName outline={outline} />
      <DrawnOn outline={outline} />
      <StateLine solved={solved} problems={own.filter(({ path }) => path.length < 4 || path[2] === undefined)} />
      <SelectionPanel solved={solved} names={names} problems={own} />

      {dimensions.length > 0 && (
        <SheetSection title="Dimensions">
          {dimensions.map((constraint) => {
            const { label, value: kind } = constraintOf(constraint.kind)!
            return (
              <Row key={constraint.id} id={constraint.id} problems={at('constraints', constraint.id)}>
                <span className="text-ink-soft">
                  {label} of {constraint.of.join(', ')}
                </span>{' '}
                {constraint.driven ? (
                  <span className="text-ink-soft">reference</span>
                ) : (
                  <ValueField
                    label={`${label} of ${constraint.of.join(', ')}`}
                    kind={kind!}
                    text={constraint.value ?? ''}
                    names={names}
                    onChange={(text, final) =>
                      changeConstraint(constraint.id, { value: text }, final ? undefined : `${constraint.id}.value`)
                    }
                  />
                )}
              </Row>
            )
          })}
        </SheetSection>
      )}
      {held.length > 0 && (
        <SheetSection title="Constraints">
          <div className="flex flex-wrap gap-x-1.5 gap-y-1">
            {held.map(({ id, kind, of }) => (
              <HeldBy
                key={id}
                id={id}
                words={constraintOf(kind)?.label ?? kind}
                of={of}
                problems={at('constraints', id)}
              />
            ))}
          </div>
        </SheetSection>
      )}
      {outline.curves.length > 0 && (
        <SheetSection title="Drawn">
          <div className="flex flex-wrap gap-x-1.5 gap-y-1">
            {builtIn.map((id) => (
              <DrawnCurveName key={id} id={id} words={builtInWords[id]} helper={false} />
            ))}
            {outline.curves.slice(0, mostListed).map(({ id, kind, helper }) => (
              <DrawnCurveName key={id} id={id} words={curveOf(kind)?.label ?? kind} helper={helper} />
            ))}
            {outline.curves.length > mostListed && (
              <span className="text-ink-soft">and {outline.curves.length - mostListed} more, on the drawing</span>
            )}
          </div>
        </SheetSection>
      )}
      {outline.derived.length > 0 && (
        <SheetSection title="Then">
          {outline.derived.map(({ id, kind, of, fields }) => {
            const definition = derivedOf(kind)
            return (
              <Row key={id} id={id} problems={at('derived', id)}>
                {definition ? (
                  <Sentence
                    fields={definition.fields}
                    texts={fields}
                    parts={sentenceParts(definition.sentence, undefined, fields, definition.fields)}
                    names={names}
                    problems={at('derived', id)}
                    focus={id === justDerived ? firstValueOf(definition.fields) : undefined}
                    onChange={(field, text, final) =>
                      changeDerived(id, { fields: { ...fields, [field]: text } }, final ? undefined : `${id}.${field}`)
                    }
                  />
                ) : (
                  kind
                )}{' '}
                <span className="text-ink-soft">{of.join(', ')}</span>{' '}
                <button
                  type="button"
                  className="text-ink-soft underline decoration-line underline-offset-2 hover:text-mackerel"
                  title="Turns the result into curves of the drawing, which can be cut and constrained"
                  onClick={() => makeDerivedOwn(id)}
                >
                  make it curves
                </button>
              </Row>
            )
          })}
        </SheetSection>
      )}
      {outline.curves.some(({ kind }) => curveOf(kind)?.fields) && (
        <SheetSection title="Words">
          {outline.curves.map((curve) => {
            const definition = curveOf(curve.kind)
            if (!definition?.fields) return null
            const texts = curve.fields ?? {}
            return (
              <Row key={curve.id} id={curve.id} problems={at('curves', curve.id)}>
                <Sentence
                  fields={definition.fields}
                  texts={texts}
                  parts={[
                    'words',
                    { field: 'text' },
                    'in',
                    { field: 'font' },
                    'letters',
                    { field: 'height' },
                    'tall, turned by',
                    { field: 'turn' },
                  ]}
                  names={names}
                  problems={at('curves', curve.id)}
                  focus={undefined}
                  onChange={(field, text, final) => {
                    const now = settledNow()!
                    const curves = now.curves.map((each) =>
                      each.id === curve.id ? { ...each, fields: { ...texts, [field]: text } } : each,
                    )
                    change({ ...now, curves }, final ? undefined : `${curve.id}.${field}`)
                  }}
                />
              </Row>
            )
          })}
        </SheetSection>
      )}
      <Regions solved={solved} />
      <Ends solved={solved} />
      <PictureTools outline={outline} />
      <Files solved={solved} />
      <MakeFrom outline={outline} />
    </div>
  )
}

/** What is in every drawing, for the keyboard too. */
const builtInWords = { origin: 'origin', 'x-axis': 'level axis', 'y-axis': 'upright axis' } as const

function Row({
  id,
  problems,
  children,
}: {
  readonly id: string
  readonly problems: readonly Problem[]
  readonly children: React.ReactNode
}) {
  const chosen = useOutline((state) => state.selected.includes(id))
  return (
    <div
      className={`-mx-2 flex items-start gap-2 px-2 py-0.5 ${chosen ? 'bg-mackerel-wash' : 'hover:bg-[#f3f6f4]'}`}
      onPointerDown={(event) => {
        if (!(event.target as HTMLElement).closest('input, button, .choice')) selectPart(id, event.shiftKey)
      }}
    >
      <div className="min-w-0 flex-1 leading-6">
        {children}
        <ProblemLines problems={problems} />
      </div>
      <IconButton label={`Remove ${id}`} className="-my-0.5" onClick={() => removeParts([id])}>
        <RemoveIcon size={13} />
      </IconButton>
    </div>
  )
}

/** So many curves are listed; more are found on the drawing. */
const mostListed = 80

/** A curve by its name, to be selected without the pointer. */
function DrawnCurveName({
  id,
  words,
  helper,
}: {
  readonly id: string
  readonly words: string
  readonly helper: boolean
}) {
  const chosen = useOutline((state) => state.selected.includes(id))
  return (
    <button
      type="button"
      aria-pressed={chosen}
      title={helper ? `${words}, construction` : words}
      onClick={(event) => selectPart(id, event.shiftKey)}
      className={`rounded-sm border px-1.5 ${helper ? 'border-dashed' : ''} ${chosen ? 'border-mackerel bg-mackerel-wash' : 'border-line hover:border-ink-soft'}`}
    >
      {words} <span className="text-ink-soft">{id}</span>
    </button>
  )
}

/** One constraint, in words that can be selected, and taken out again. */
function HeldBy({
  id,
  words,
  of,
  problems,
}: {
  readonly id: string
  readonly words: string
  readonly of: readonly string[]
  readonly problems: readonly Problem[]
}) {
  const chosen = useOutline((state) => state.selected.includes(id))
  return (
    <span
      className={`inline-flex flex-wrap items-center gap-1 rounded-sm border px-1.5 ${chosen ? 'border-mackerel bg-mackerel-wash' : 'border-line'}`}
    >
      <button
        type="button"
        aria-pressed={chosen}
        onClick={(event) => selectPart(id, event.shiftKey)}
        className="hover:text-mackerel"
      >
        {words} <span className="text-ink-soft">{of.join(', ')}</span>
      </button>
      <button
        type="button"
        aria-label={`Remove ${words} ${of.join(', ')}`}
        onClick={() => removeParts([id])}
        className="text-ink-soft hover:text-rust"
      >
        <CloseIcon size={12} />
      </button>
      <ProblemLines problems={problems} />
    </span>
  )
}

function OutlineName({ outline }: { readonly outline: Outline }) {
  return (
    <input
      key={outline.name}
      aria-label="Name of this outline"
      defaultValue={outline.name}
      maxLength={120}
      onBlur={(event) => {
        const name = event.target.value.trim()
        if (name && name !== outline.name)
          usePart.getState().edit({ type: 'set-outline', id: outline.id, change: { name } })
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      className="mt-1 [field-sizing:content] border-b border-transparent bg-transparent text-lg font-semibold hover:border-line focus:border-mackerel"
    />
  )
}

/** The plane that it is drawn on; what is made of it later stands there. */
function DrawnOn({ outline }: { readonly outline: Outline }) {
  const part = usePart((state) => state.part!)
  return (
    <p className="text-ink-soft">
      drawn on{' '}
      <Choice
        label="Drawn on"
        value={seatKey(outline.on)}
        shown={seatWords(part, outline.on)}
        options={() =>
          seatOptions(part, workedOf(part).plan, undefined).map(({ key, label }) => ({ value: key, label }))
        }
        onChange={(key) => {
          const chosen = seatOptions(part, workedOf(part).plan, undefined).find((option) => option.key === key)
          if (chosen) usePart.getState().edit({ type: 'set-outline', id: outline.id, change: { on: chosen.seat } })
        }}
      />
    </p>
  )
}

/** The value that a sentence asks for first. */
function firstValueOf(fields: Fields): string | undefined {
  return Object.entries(fields).find(([, field]) => isNumberField(field))?.[0]
}
