import type { Joint } from '@makrel/core/document'
import { joints } from '@makrel/core/joints'
import { type Freedom, seenFrom, turnOf } from '@makrel/core/mechanism'
import { levelSides } from '@makrel/core/place'
import { poseOf } from '@makrel/core/planning'
import { tried } from '@makrel/core/problems'
import { formatLengthWithUnit, formatNumber } from '@makrel/core/units'
import { Fragment, useMemo, useState } from 'react'
import { newId } from '../ids.ts'
import { PlacePhrase } from '../make/PlacePhrase.tsx'
import { Sentence, sentenceParts } from '../make/Sentence.tsx'
import { seatOptions } from '../make/seats.ts'
import { useBuild, useWorked } from '../state/build.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon, RemoveIcon } from '../ui/icons.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { Viewport } from '../viewport/Viewport.tsx'
import { FromAnotherPart } from './FromAnotherPart.tsx'
import { fellowEdits, fellowsWanted } from './fellows.ts'
import { newJoint } from './newJoint.ts'
import { SwingChart } from './SwingChart.tsx'
import { settlingEdits } from './settle.ts'
import { type Swing, useSwing } from './swing.ts'

/** Joints between pieces, and their travel with the gap at every position. */
export function Move() {
  const part = usePart((state) => state.part)!
  const selection = usePart((state) => state.selection)
  const joint = part.joints.find(({ id }) => id === selection?.id) ?? part.joints[0]
  const freedoms = useFreedoms(joint)
  const [stands, setStands] = useState<Readonly<Record<string, readonly number[]>>>({})
  /** the piece that all others are seen to move about */
  const [stays, setStays] = useState<string>()
  /** the freedom that was moved last */
  const [over, setOver] = useState(0)
  const positions = freedoms.map(({ printed }, i) => (joint && stands[joint.id]?.[i]) ?? printed)
  const swing = useSwing(joint, positions, Math.min(over, Math.max(0, freedoms.length - 1)))
  const moved = freedoms.some(({ printed }, i) => positions[i] !== printed)
  const worked = useWorked()
  // At once where they can be worked out here; the gap follows from its worker.
  const held = part.pieces.some(({ id }) => id === stays) ? stays : undefined
  const motions =
    joint && worked ? Object.fromEntries(seenFrom(motionsOf(worked, joint.id, positions), held)) : undefined
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <Viewport editable {...(motions && moved ? { motions } : {})}>
          {joint && (
            <div className="absolute inset-x-4 bottom-4 border border-ink bg-sheet px-4 py-3">
              <SwingBar
                joint={joint}
                freedoms={freedoms}
                positions={positions}
                over={over}
                onPosition={(i, at) => {
                  setOver(i)
                  setStands({ ...stands, [joint.id]: positions.with(i, at) })
                }}
                swing={swing}
              />
              <SeenFrom joint={joint} held={held} onHeld={setStays} />
            </div>
          )}
        </Viewport>
      </div>
      <SidePanel label="Joints" className="overflow-y-auto py-4">
        <h2 className="px-5 text-lg font-semibold">Joints</h2>
        {part.joints.length === 0 && (
          <p className="px-5 pt-1 text-base text-ink-soft">
            {part.pieces.length < 2
              ? 'A joint ties two pieces. Add a second piece on Make first.'
              : 'Nothing moves yet. Add a joint between two pieces.'}
          </p>
        )}
        <ol className="mt-2">
          {part.joints.map((each, i) => (
            <JointLine key={each.id} joint={each} number={i + 1} selected={each.id === joint?.id} />
          ))}
        </ol>
        <AddJoint />
        {swing.failure && (
          <p role="alert" className="mx-5 mt-3 border-l-4 border-rust bg-rust-wash p-3">
            {swing.failure}
          </p>
        )}
      </SidePanel>
    </main>
  )
}

/** Where all pieces have moved to, by their ids. */
function motionsOf(
  { resolved, plan }: NonNullable<ReturnType<typeof useWorked>>,
  joint: string,
  positions: readonly number[],
) {
  const standing = [...resolved.joints.values()].flatMap(({ joint: each }) => {
    const placed = plan.joints.get(each.id)
    return placed ? [{ joint: each, frame: placed.frame, second: placed.second }] : []
  })
  return poseOf({ resolved, joints: standing }, { [joint]: positions }).motions
}

/** Not any piece: the axes that all wheels turn about stay. */
const axes = 'axes'

/** Of wheels that turn together: which piece is held, and how far the others turn for one turn of the first that is not. */
function SeenFrom({
  joint,
  held,
  onHeld,
}: {
  readonly joint: Joint
  readonly held: string | undefined
  onHeld(piece: string | undefined): void
}) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  // For one degree, wherever it stands: told anew where the part changes, not while it is swung.
  const turns = useMemo(() => {
    const placed = worked?.plan.joints.get(joint.id)
    if (!worked || !placed?.second) return undefined
    const turned = seenFrom(motionsOf(worked, joint.id, [1]), held)
    return part.pieces
      .map(({ id, name }) => ({ id, name, turn: turnOf(turned.get(id)!, placed.frame.n) }))
      .filter(({ turn }) => Math.abs(turn) > 1e-6)
  }, [worked, joint.id, held, part.pieces])
  if (!turns) return null
  // The pieces of the joint come first, in its order.
  const rank = (id: string) => (joint.pieces.indexOf(id) + 3) % 3
  const [first, ...others] = [...turns].sort((a, b) => rank(a.id) - rank(b.id))
  return (
    <p className="mt-1 text-[0.9375rem] text-ink-soft">
      <Choice
        label="What stays"
        value={held ?? axes}
        options={[
          { value: axes, label: 'The axes' },
          ...part.pieces.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(piece) => onHeld(piece === axes ? undefined : piece)}
      />{' '}
      {held ? 'stays' : 'stay'}.{' '}
      {first && others.length > 0 && (
        <span className="figures">
          For one turn of {first.name}:{' '}
          {others.map(({ name, turn }) => `${name} ${formatNumber(turn / first.turn, 4)}`).join(', ')}.
        </span>
      )}
    </p>
  )
}

function AddJoint() {
  const part = usePart((state) => state.part)!
  const { edit, select } = usePart.getState()
  const [first, second] = part.pieces
  return (
    <div className="mt-3 flex flex-wrap gap-2 px-5">
      {joints.map((definition) => (
        <Button
          key={definition.kind}
          disabled={!first || !second}
          onClick={() => {
            const id = newId()
            edit({ type: 'add-joint', joint: newJoint(part, definition, id) })
            select({ kind: 'joint', id })
          }}
        >
          <AddIcon size={15} /> Add a {definition.label}
        </Button>
      ))}
      {joints.map(
        (definition) =>
          definition.between &&
          !definition.between.fellows && <FromAnotherPart key={definition.kind} definition={definition} />,
      )}
    </div>
  )
}

/** What one of two steps would have to be like to run with the other, and which. */
function fittingOf({ resolved, plan }: NonNullable<ReturnType<typeof useWorked>>, joint: Joint) {
  const { definition, values } = resolved.joints.get(joint.id) ?? {}
  const second = plan.joints.get(joint.id)?.second
  const { between } = definition ?? {}
  const fitting = second && between?.fitting?.(values as never, second)
  return fitting && { ...fitting, id: between!.steps(values as never)[fitting.side] }
}

/** What there is to know of a joint between two steps, and a press that puts the second one right. */
function JointFacts({ joint }: { readonly joint: Joint }) {
  const part = usePart((state) => state.part)!
  const { editAll } = usePart.getState()
  const worked = useWorked()
  const facts = worked?.plan.joints.get(joint.id)?.facts
  if (!worked || !facts) return null
  const edits = settlingEdits(part, worked, joint.id)
  const fitting = fittingOf(worked, joint)
  const puts = worked.resolved.joints.get(joint.id)?.definition?.between?.puts
  const wanted = edits.length > 0 ? undefined : fellowsWanted(worked, joint.id)
  return (
    <>
      <dl className="mt-1 grid grid-cols-[6.5rem_1fr] gap-x-3 text-[0.9375rem]">
        {facts.map(({ label, text }) => (
          <Fragment key={label}>
            <dt className="text-ink-soft">{label}</dt>
            <dd className="figures">{text}</dd>
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

function JointLine({
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
        {selected && <JointFacts joint={joint} />}
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

/** In which ways the second piece of a joint moves; none where that cannot be told. */
function useFreedoms(joint: Joint | undefined): readonly Freedom[] {
  const worked = useWorked()
  const { definition, values } = (joint && worked?.resolved.joints.get(joint.id)) ?? {}
  return (definition && values && tried(() => definition.freedoms(values as never))) || []
}

/** Where a position comes again within what is measured. */
function withinPeriod(at: number, { from, period }: Freedom): number {
  return period ? from + ((((at - from) % period) + period) % period) : at
}

const suffixOf = ({ unit }: Freedom) => (unit === 'degrees' ? '°' : ' mm')

function SwingBar({
  joint,
  freedoms,
  positions,
  over,
  onPosition,
  swing,
}: {
  readonly joint: Joint
  readonly freedoms: readonly Freedom[]
  readonly positions: readonly number[]
  readonly over: number
  onPosition(freedom: number, position: number): void
  readonly swing: Swing
}) {
  const unit = usePart((state) => state.part!.unit)
  const worked = useWorked()
  const building = useBuild((state) => state.slow)
  const shown = freedoms[over] ?? freedoms[0]
  if (!worked?.resolved.joints.get(joint.id)?.values) return <p>The joint has a problem; fix it to swing it.</p>
  if (!shown) return <p>This joint holds its pieces together; nothing of it moves.</p>
  const here = swing.here?.at
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-6 gap-y-1">
      <div>
        {freedoms.map((freedom, i) => (
          <FreedomSlider
            key={freedom.label}
            label={freedoms.length === 1 ? 'Swing' : freedom.label}
            freedom={freedom}
            position={positions[i]!}
            onPosition={(at) => onPosition(i, at)}
          />
        ))}
        <SwingChart
          positions={swing.sweep.map(({ positions: at, gap }) => ({ position: at[over] ?? 0, gap }))}
          from={shown.from}
          to={shown.period ? shown.from + shown.period : shown.to}
          position={withinPeriod(positions[over] ?? 0, shown)}
          least={worked.resolved.printer.leastGap}
        />
      </div>
      <dl className="w-48 self-start" aria-live="polite">
        <dt className="text-xs text-ink-soft">Smallest gap here</dt>
        <dd
          data-testid="gap-here"
          className={`figures text-[1.25rem] leading-7 ${here && (here.gap ?? 1) === 0 ? 'text-rust' : ''}`}
        >
          {building || !here
            ? '…'
            : here.gap === undefined
              ? 'over 10 mm'
              : here.gap === 0
                ? here.overlap > 0
                  ? `collides, ${formatNumber(here.overlap, 2)} mm³`
                  : 'touches'
                : formatLengthWithUnit(here.gap, unit)}
        </dd>
        <dt className="mt-1 text-xs text-ink-soft">Smallest over its travel</dt>
        <dd className="figures text-[1rem]">
          {swing.smallest === undefined
            ? `measuring ${swing.sweep.length} …`
            : `${formatLengthWithUnit(swing.smallest.gap, unit)} at ${formatNumber(swing.smallest.position, 1)}${suffixOf(shown)}`}
        </dd>
      </dl>
    </div>
  )
}

function FreedomSlider({
  label,
  freedom,
  position,
  onPosition,
}: {
  readonly label: string
  readonly freedom: Freedom
  readonly position: number
  onPosition(position: number): void
}) {
  const { from, to } = freedom
  const told = `${formatNumber(position, 1)}${suffixOf(freedom)}`
  return (
    <label className="flex items-center gap-3">
      <span className="font-semibold capitalize">{label}</span>
      <input
        type="range"
        aria-label={label}
        aria-valuetext={told}
        min={from}
        max={to}
        step={freedom.period ? freedom.period / 24 : (to - from) / 180}
        value={Math.min(Math.max(position, from), to)}
        onChange={(event) => onPosition(Number(event.target.value))}
        className="h-6 flex-1 accent-mackerel"
      />
      <output className="figures w-14 text-right text-[1.125rem]">{told}</output>
    </label>
  )
}
