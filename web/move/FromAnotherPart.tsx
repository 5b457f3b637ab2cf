import { newPiece, type Part, pieceColours, type ShelfEntry } from '@makrel/core/document'
import type { StepField } from '@makrel/core/fields'
import type { JointDefinition } from '@makrel/core/joints'
import { aloneStep, upgraded } from '@makrel/core/planning'
import { type ReactNode, useEffect, useState } from 'react'
import { api } from '../api.ts'
import { newId } from '../ids.ts'
import { newJoint } from '../make/newJoint.ts'
import { stepsFor } from '../make/StepChoice.tsx'
import { besidePieces } from '../make/stepActions.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { DialogPanel } from '../ui/DialogPanel.tsx'
import { AddIcon } from '../ui/icons.tsx'

/** No part yet; none has such an id. */
const nothing = '-'
/** As many of the latest parts are offered. */
const mostParts = 200

/** A wheel of another part, as it is there, comes in as a piece of its own, in mesh with one of this part. */
export function FromAnotherPart({ definition }: { readonly definition: JointDefinition }) {
  const [open, setOpen] = useState(false)
  const part = usePart((state) => state.part)!
  const field = wheelField(definition)
  const hasOwn = field !== undefined && stepsFor(part, { ...field, side: undefined }, undefined).length > 0
  return (
    <DialogPanel
      title="A wheel of another part"
      open={open}
      onOpenChange={setOpen}
      className="w-[28rem]"
      trigger={
        <Button disabled={!hasOwn}>
          <AddIcon size={15} /> Add a {definition.label} with another part
        </Button>
      }
    >
      {field && <Wheels definition={definition} field={field} onDone={() => setOpen(false)} />}
    </DialogPanel>
  )
}

const messageOf = (error: unknown) => (error instanceof Error ? error.message : `${error}`)

function stepFields({ fields }: JointDefinition): readonly StepField[] {
  return Object.values(fields).flatMap((field) => (field.kind === 'step' ? [field] : []))
}

/** The first of the two steps that a joint is between. */
export const wheelField = (definition: JointDefinition): StepField | undefined => stepFields(definition)[0]

function Wheels({
  definition,
  field,
  onDone,
}: {
  readonly definition: JointDefinition
  readonly field: StepField
  onDone(): void
}) {
  const own = usePart((state) => state.part!.id)
  const worked = useWorked()
  const [parts, setParts] = useState<readonly ShelfEntry[]>()
  const [chosen, setChosen] = useState(nothing)
  const [other, setOther] = useState<Part>()
  const [wheel, setWheel] = useState('')
  const [fault, setFault] = useState('')
  useEffect(() => {
    const asked = { search: '', order: 'changed', from: 0, count: mostParts } as const
    api.list(asked).then(
      ({ entries }) => setParts(entries.filter(({ id }) => id !== own)),
      (error) => setFault(messageOf(error)),
    )
  }, [own])
  useEffect(() => {
    if (chosen === nothing) return
    let goes = true
    setOther(undefined)
    setWheel('')
    setFault('')
    api
      .read(chosen)
      .then(({ document }) => upgraded(document))
      .then(
        (read) => {
          if (goes) setOther(read)
        },
        (error) => setFault(messageOf(error)),
      )
    return () => {
      goes = false
    }
  }, [chosen])
  const wheels = other ? stepsFor(other, { ...field, side: undefined }, undefined) : []
  const selected = wheels.find(({ id }) => id === wheel) ?? wheels[0]
  const bring = () => {
    const state = usePart.getState()
    const { part } = state
    const step = other && selected && aloneStep(other, selected.id, newId())
    if (!part || !other || !worked) return
    if (!step) {
      setFault('It has a problem in its own part; fix it there first.')
      return
    }
    const colour = pieceColours[part.pieces.length % pieceColours.length]!
    const piece = { ...newPiece(newId(), other.name, colour), steps: [] }
    const beside = besidePieces(worked.plan, part, piece.id)
    const placed = beside ? { ...step, place: { ...step.place, across: beside } } : step
    const joint = newJoint(
      { ...part, pieces: [...part.pieces, { ...piece, steps: [placed] }] },
      definition,
      newId(),
      step.id,
    )
    state.editAll([
      { type: 'add-piece', piece },
      { type: 'add-step', piece: piece.id, step: placed },
      { type: 'add-joint', joint },
    ])
    state.select({ kind: 'joint', id: joint.id })
    sayDone(`${selected.label} was brought in from ${other.name}, as it is there now.`)
    onDone()
  }
  return (
    <div className="mt-4 grid gap-3">
      <p className="text-ink-soft">
        It comes in as a piece of its own, with the sizes that it has there now. Hand off the other pieces without it.
      </p>
      {parts?.length === 0 && <p>There is no other part yet.</p>}
      {parts !== undefined && parts.length > 0 && (
        <Named name="Part">
          <Choice
            look="box"
            label="Part"
            value={chosen}
            options={[
              ...(chosen === nothing ? [{ value: nothing, label: 'choose a part' }] : []),
              ...parts.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={setChosen}
          />
        </Named>
      )}
      {other && wheels.length === 0 && <p>There is no wheel in this part.</p>}
      {wheels.length > 0 && (
        <Named name="Wheel">
          <Choice
            look="box"
            label="Wheel"
            value={selected!.id}
            options={wheels.map(({ id, label }) => ({ value: id, label }))}
            onChange={setWheel}
          />
        </Named>
      )}
      {fault && (
        <p role="alert" className="border-l-4 border-rust bg-rust-wash p-3">
          {fault}
        </p>
      )}
      <div className="flex justify-end">
        <Button main disabled={!selected} onClick={bring}>
          Bring it in
        </Button>
      </div>
    </div>
  )
}

function Named({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <div className="grid grid-cols-[5.75rem_1fr] items-center gap-x-3">
      <span className="font-semibold">{name}</span>
      {children}
    </div>
  )
}
