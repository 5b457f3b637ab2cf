import { type KeptPose, type Laid, type Laying, layings, partedFrom, pieceOfBody } from '@makrel/core/document'
import type { Wanted } from '@makrel/core/mechanism'
import { printedInside, setIn, wantedIn } from '@makrel/core/planning'
import { mmPer } from '@makrel/core/units'
import { useState } from 'react'
import { checks } from '../channel/client.ts'
import { newId } from '../ids.ts'
import { useBuild } from '../state/build.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { RemoveIcon } from '../ui/icons.tsx'
import { say } from '../ui/Notice.tsx'
import { NumberInput } from '../ui/NumberInput.tsx'
import { savePicture } from '../viewport/savePicture.ts'

interface Props {
  readonly wanted: Wanted
  /** the pose that is shown, or was before something was moved; undefined for how it is drawn */
  readonly chosen: KeptPose | undefined
  onChoose(pose: KeptPose | undefined): void
}

/** Ways in which the pieces stand that are kept by name, and which of them is printed. */
export function Poses({ wanted, chosen, onChoose }: Props) {
  const part = usePart((state) => state.part!)
  const { edit } = usePart.getState()
  const [name, setName] = useState('')
  const next = `Pose ${part.poses.length + 1}`
  const moved = Object.keys(wanted).length > 0
  const keep = (pose: KeptPose) => {
    edit({ type: 'keep-pose', pose })
    onChoose(pose)
  }
  return (
    <section aria-label="Poses" className="mt-5 border-t border-line px-5 pt-3">
      <h2 className="text-lg font-semibold">Poses</h2>
      <ul className="mt-1">
        <PoseLine
          name="As drawn"
          shown={!chosen && !moved}
          printed={part.printPose === ''}
          onShow={() => onChoose(undefined)}
        />
        {part.poses.map((pose) => (
          <PoseLine
            key={pose.id}
            name={pose.name}
            shown={pose.id === chosen?.id && samePose(pose, wanted)}
            printed={pose.id === part.printPose}
            onShow={() => onChoose(pose)}
            onDrop={() => {
              edit({ type: 'drop-pose', id: pose.id })
              if (pose.id === chosen?.id) onChoose(undefined)
              sayDone(`${pose.name} was dropped.`)
            }}
          />
        ))}
      </ul>
      {chosen && samePose(chosen, wanted) && <Lying pose={chosen} onChange={keep} />}
      {chosen && !samePose(chosen, wanted) && (
        <Button className="mt-2" onClick={() => keep({ ...chosen, set: setIn(wanted) })}>
          Keep {chosen.name} as it is now
        </Button>
      )}
      <form
        className="mt-2 flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          keep({ id: newId(), name: name.trim() || next, set: setIn(wanted), laid: chosen?.laid ?? [] })
          setName('')
        }}
      >
        <input
          aria-label="Name of the pose"
          placeholder={next}
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
          className="h-8 min-w-0 flex-1 rounded-sm border border-line px-2"
        />
        <Button type="submit">Keep this pose</Button>
      </form>
      <div className="mt-2 flex flex-wrap gap-2">
        <PrintChoice chosen={chosen} />
        <Button onClick={() => void savePicture(part.name, chosen?.name)}>Save a picture (PNG)</Button>
      </div>
    </section>
  )
}

/** Whether joints are set as in a pose. */
export const samePose = (pose: KeptPose, wanted: Wanted) =>
  JSON.stringify(setIn(wantedIn(pose))) === JSON.stringify(setIn(wanted))

function PoseLine({
  name,
  shown,
  printed,
  onShow,
  onDrop,
}: {
  readonly name: string
  readonly shown: boolean
  readonly printed: boolean
  onShow(): void
  readonly onDrop?: () => void
}) {
  return (
    <li className="flex items-center gap-2">
      <button
        type="button"
        aria-pressed={shown}
        onClick={onShow}
        className="min-w-0 flex-1 truncate py-1 text-left text-base hover:text-mackerel aria-pressed:font-semibold aria-pressed:text-mackerel"
      >
        {name}
      </button>
      {printed && <span className="text-sm text-ink-soft">printed so</span>}
      {onDrop && (
        <IconButton label={`Drop ${name}`} onClick={onDrop}>
          <RemoveIcon size={15} />
        </IconButton>
      )}
    </li>
  )
}

function PrintChoice({ chosen }: { readonly chosen: KeptPose | undefined }) {
  const part = usePart((state) => state.part!)
  const id = chosen?.id ?? ''
  if (id === part.printPose) return null
  const name = chosen?.name ?? 'drawn'
  return (
    <Button
      onClick={() => {
        usePart.getState().edit({ type: 'print-pose', id })
        sayDone(`It is printed ${chosen ? `in ${name}` : 'as it is drawn'}: layers, proof and hand-off follow.`)
      }}
    >
      Print it {chosen ? `in ${name}` : 'as it is drawn'}
    </Button>
  )
}

/** Any direction that points down, as it was chosen among ways to lie. */
const chosenWay = 'chosen' as const

const sides: Readonly<Record<Laying, string>> = {
  bottom: 'its bottom',
  top: 'its top',
  left: 'its left side',
  right: 'its right side',
  front: 'its front',
  back: 'its back',
  flat: 'its largest flat',
}

/** How pieces lie on the bed in a pose, each by itself with what is printed inside it. */
function Lying({ pose, onChange }: { readonly pose: KeptPose; onChange(pose: KeptPose): void }) {
  const part = usePart((state) => state.part!)
  const shown = useBuild((state) => state.shown)
  const mm = mmPer(part.unit)
  const spread = async (of: KeptPose) => {
    if (!shown) return
    try {
      onChange({ ...of, laid: await checks().call('spread', { pose: of }, shown) })
    } catch (error) {
      say({ text: (error as Error).message, fault: true })
    }
  }
  const set = (piece: string, change: Partial<Laid>) =>
    onChange({ ...pose, laid: pose.laid.map((laid) => (laid.piece === piece ? { ...laid, ...change } : laid)) })
  const inside = printedInside(part)
  const namesOf = (id: string) => {
    const together = inside.find((ids) => ids.includes(partedFrom(id))) ?? []
    return (together.length > 1 ? together : [id]).map((each) => pieceOfBody(part, each)?.name ?? each)
  }
  const nameOf = (id: string) => namesOf(id).join(' and ')
  return (
    <div className="mt-1">
      <ul className="text-[0.9375rem]">
        {pose.laid.map(({ piece, down, turn, at }) => (
          <li key={piece} aria-label={nameOf(piece)} className="py-0.5">
            {nameOf(piece)} {namesOf(piece).length > 1 ? 'lie' : 'lies'} on{' '}
            <Choice<Laying | typeof chosenWay>
              label={`Side of ${nameOf(piece)} on the bed`}
              value={typeof down === 'string' ? down : chosenWay}
              options={[
                ...layings.map((value) => ({ value, label: sides[value] })),
                ...(typeof down === 'string' ? [] : [{ value: chosenWay, label: 'the flat that was chosen' }]),
              ]}
              onChange={(value) => set(piece, { down: value === chosenWay ? down : value })}
            />
            <span className="flex flex-wrap gap-x-3">
              <NumberInput
                label="Turned, °"
                value={turn}
                least={-360}
                most={360}
                onChange={(value) => set(piece, { turn: value })}
              />
              {([0, 1] as const).map((i) => (
                <NumberInput
                  key={i}
                  label={`${i === 0 ? 'Across' : 'Along'}, ${part.unit}`}
                  value={at[i] / mm}
                  least={-10_000 / mm}
                  most={10_000 / mm}
                  onChange={(value) => set(piece, { at: i === 0 ? [value * mm, at[1]] : [at[0], value * mm] })}
                />
              ))}
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button onClick={() => void spread(pose)}>Spread the pieces on the bed</Button>
        {pose.laid.length > 0 && (
          <Button onClick={() => onChange({ ...pose, laid: [] })}>Leave them where they stand</Button>
        )}
      </div>
    </div>
  )
}
