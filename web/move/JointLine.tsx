import type { Joint } from '@makrel/core/document'
import { joints } from '@makrel/core/joints'
import { levelSides } from '@makrel/core/place'
import { tellingIn } from '@makrel/core/planning'
import { tried } from '@makrel/core/problems'
import { Fragment } from 'react'
import { PlacePhrase } from '../make/PlacePhrase.tsx'
import { Sentence, sentenceParts } from '../make/Sentence.tsx'
import { SpringRows } from '../make/SpringNote.tsx'
import { seatOptions } from '../make/seats.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { RemoveIcon } from '../ui/icons.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { ChainOn } from './ChainOn.tsx'
import { fellowEdits, fellowsWanted } from './fellows.ts'
import { settlingEdits } from './settle.ts'

export function JointLine({
  joint,
  number,
  selected,
}: {
  readonly joint: Joint
  readonly number: number
  readonly selected: boolean
}) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const focus = usePart((state) => (state.selection?.id === joint.id ? state.focus : undefined))
  const { edit, select } = usePart.getState()
  const resolved = worked?.resolved.joints.get(joint.id)
  const definition = joints.find(({ kind }) => kind === joint.kind)
  if (!worked || !resolved) return null
  const names = worked.resolved.measures.names
  const problems = worked.problems.filter((problem) => problem.path[0] === 'joints' && problem.path[1] === joint.id)
  const pieces = part.pieces.map(({ id, name }) => ({ value: id, label: name }))
  const setPiece = (side: 0 | 1, id: string) => {
    // Choosing the other one's piece changes the two over.
    const [a, b] = joint.pieces
    const next: [string, string] = side === 0 ? [id, id === b ? a : b] : [id === a ? b : a, id]
    edit({ type: 'set-joint', id: joint.id, change: { pieces: next } })
  }
  const [head, ...rest] = definition
    ? sentenceParts(definition.sentence, resolved.values, joint.fields, definition.fields)
    : []
  return (
    <li
      aria-current={selected}
      className={`relative flex gap-3 py-2 pr-4 pl-5 ${selected ? 'bg-mackerel-wash before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-mackerel' : 'hover:bg-[#f3f6f4]'}`}
      onPointerDown={() => !selected && select({ kind: 'joint', id: joint.id })}
    >
      <span className="figures mt-px inline-flex h-6 w-6 shrink-0 items-center justify-center rounded-full border border-ink bg-sheet text-sm">
        {number}
      </span>
      <div className="min-w-0 flex-1">
        <p className="relative text-base leading-[1.625rem]">
          A <strong className="font-semibold">{typeof head === 'string' ? head : joint.kind}</strong>
          {definition && (
            <Sentence
              fields={definition.fields}
              texts={joint.fields}
              step={joint.id}
              parts={rest}
              names={names}
              problems={problems.filter(({ path }) => path[2] === 'fields')}
              focus={focus}
              onChange={(field, text, final) =>
                edit({ type: 'set-field', id: joint.id, field, text }, final ? undefined : `${joint.id}.${field}`)
              }
            />
          )}
          , between{' '}
          <Choice label="First piece" value={joint.pieces[0]} options={pieces} onChange={(id) => setPiece(0, id)} />
          {definition?.between ? '' : ', which stays,'} and{' '}
          <Choice label="Second piece" value={joint.pieces[1]} options={pieces} onChange={(id) => setPiece(1, id)} />
          {definition?.between ? '' : ', which moves'}
          {!definition?.between && !definition?.standsOn && (
            <PlacePhrase
              id={joint.id}
              place={joint.place}
              seats={() => seatOptions(part, worked.plan, undefined)}
              more={false}
              names={names}
              sides={worked.plan.joints.get(joint.id)?.seating.sides ?? levelSides}
              problems={problems}
            />
          )}
          .
        </p>
        <ProblemLines problems={problems} />
        {!resolved.present && <p className="text-ink-soft">Left out, as one of its pieces is.</p>}
        {selected && <JointFacts joint={joint} />}
        {selected && (
          <SpringRows facts={resolved.values && tried(() => definition?.spring?.(resolved.values!, part.material))} />
        )}
        {selected && definition?.chains && <ChainOn joint={joint} />}
        <div className="mt-1 -ml-1.5">
          <IconButton
            label="Remove this joint"
            onClick={() => {
              edit({ type: 'remove-joint', id: joint.id })
              sayDone('The joint was removed.')
            }}
          >
            <RemoveIcon size={15} />
          </IconButton>
        </div>
      </div>
    </li>
  )
}

/** What there is to know of a joint between two steps, and a press that puts the second one right. */
function JointFacts({ joint }: { readonly joint: Joint }) {
  const part = usePart((state) => state.part)!
  const { editAll } = usePart.getState()
  const worked = useWorked()
  const facts = worked?.plan.joints.get(joint.id)?.facts
  if (!worked || !facts) return null
  const told = tellingIn(part)
  const edits = settlingEdits(part, worked, joint.id)
  const fitting = fittingOf(worked, joint)
  const puts = worked.resolved.joints.get(joint.id)?.definition?.between?.puts
  const wanted = edits.length > 0 ? undefined : fellowsWanted(worked, joint.id)
  return (
    <>
      <dl className="mt-1 grid grid-cols-[8rem_1fr] gap-x-3 text-[0.9375rem]">
        {facts.map(({ label, text }) => (
          <Fragment key={label}>
            <dt className="text-ink-soft">{label}</dt>
            <dd className="figures">{told(text)}</dd>
          </Fragment>
        ))}
      </dl>
      {fitting && (
        <Button
          className="mt-2"
          onClick={() => {
            editAll(
              Object.entries(fitting.fields).map(([field, text]) => ({
                type: 'set-field',
                id: fitting.id,
                field,
                text,
              })),
            )
            sayDone('The gear has the teeth that it needs.')
          }}
        >
          {fitting.label}
        </Button>
      )}
      {puts && edits.length > 0 && (
        <Button
          className="mt-2"
          onClick={() => {
            editAll(edits)
            sayDone(puts.done)
          }}
        >
          {puts.label}
        </Button>
      )}
      {wanted && (
        <Button
          className="mt-2"
          onClick={() => {
            editAll(fellowEdits(part, worked, joint, wanted))
            sayDone(wanted.done)
          }}
        >
          {wanted.label}
        </Button>
      )}
    </>
  )
}

/** What one of two steps would have to be like to run with the other, and which. */
function fittingOf({ resolved, plan }: NonNullable<ReturnType<typeof useWorked>>, joint: Joint) {
  const { definition, values } = resolved.joints.get(joint.id) ?? {}
  const second = plan.joints.get(joint.id)?.second
  const { between } = definition ?? {}
  const fitting = second && values && between?.fitting?.(values, second)
  return fitting && { ...fitting, id: between!.steps(values)[fitting.side] }
}
