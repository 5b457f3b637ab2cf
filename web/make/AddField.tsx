import { findStep, flattened, type Seat } from '@makrel/core/document'
import type { Printer } from '@makrel/core/fits'
import { type FoundTreatment, restFor } from '@makrel/core/operations'
import { faceCalled, type WorkedPart } from '@makrel/core/planning'
import { type Found, findShapes, newStep, type ShapeDefinition } from '@makrel/core/shapes'
import { useEffect, useState } from 'react'
import { chosenMesh, openMeshFile } from '../bringIn/state.ts'
import { newId } from '../ids.ts'
import { standingIn, useWorked } from '../state/built.ts'
import { useLately } from '../state/lately.ts'
import { usePart } from '../state/part.ts'
import { ComboField } from '../ui/ComboField.tsx'
import { isFlatFace } from '../viewport/faceForm.ts'
import { useView } from '../viewport/view.ts'
import { fitAllSteps } from '../viewport/viewKeys.ts'
import { addFieldIsThere } from './adding.ts'
import { Catalogue } from './Catalogue.tsx'
import { type Item, inOrder, leadsTo } from './guides.ts'
import { withOutlinesChosen } from './newOutline.ts'
import { begunOn } from './onRound.ts'
import { takesAway } from './operations.ts'
import { Icon, ShapeIcon } from './ShapeIcon.tsx'
import { drawnMeshes, madeFloor, openFace, roundFaceOf } from './seats.ts'
import { besidePieces } from './stepActions.ts'
import { treat } from './treat.ts'
import { useGuide } from './useGuide.ts'

const examples = {
  mm: 'Add: plate 84 × 44 × 6, hole 5.3, wedge …',
  in: 'Add: plate 3 1/4 × 2 × 1/4, hole 3/16, wedge …',
} as const

/**
 * The one way to add a step: type what it is, with its numbers behind it. The new step stands on the face that is
 * selected; a hole with no face selected enters the top of the last step that has one.
 */
export function AddField({ pieceId }: { readonly pieceId: string }) {
  const [typed, setTyped] = useState('')
  const add = useAdd(pieceId)
  const unit = usePart((state) => state.part!.unit)
  const measures = usePart((state) => state.part!.measures)
  const readouts = usePart((state) => state.part!.readouts)
  const names = new Set([...measures, ...readouts].map(({ name }) => name.toLowerCase()))
  const { shapes: found, treatments, guides, nearest } = leadsTo(typed, unit, (word) => names.has(word.toLowerCase()))
  const follow = useGuide()
  useEffect(addFieldIsThere, [])
  const choose = (item: Item) => {
    // What is not understood is not left out in silence: it stays to be mended.
    if (leftOf(item)) return false
    setTyped('')
    if ('shape' in item) add(item)
    else if ('treatment' in item) treat(pieceId, item)
    else follow(item)
    return true
  }
  return (
    <div className="border-t border-ink bg-sheet px-5 pt-3 pb-3">
      <Catalogue
        onAdd={(shape) => add(findShapes(shape.label, [shape], unit)[0]!)}
        field={
          <ComboField<Item>
            id="add-step"
            label="Add a step"
            placeholder={examples[unit]}
            value={typed}
            onValue={setTyped}
            items={typed.trim() === '' ? [] : inOrder(found, treatments, guides)}
            keyOf={idOf}
            show={(item) => <Offer item={item} />}
            onChoose={choose}
            nothing={<NothingFound typed={typed} nearest={nearest} onTyped={setTyped} />}
            hint={<kbd className="rounded-sm border border-line px-1.5">/</kbd>}
          />
        }
      />
    </div>
  )
}

/** What was typed behind a name and means nothing there. */
function leftOf(item: Item): string | undefined {
  return 'left' in item ? item.left : undefined
}

function Offer({ item }: { readonly item: Item }) {
  const left = leftOf(item)
  return (
    <>
      <Offered item={item} />
      {left && (
        <span role="alert" className="ml-auto text-rust">
          “{left}” means nothing here
        </span>
      )}
    </>
  )
}

function Offered({ item }: { readonly item: Item }) {
  if ('treatment' in item) return <TreatmentOffer {...item} />
  return 'shape' in item ? (
    <>
      <ShapeIcon shape={item.shape} cuts={takesAway(item.operation ?? item.shape.operation)} />
      <span className="text-base">
        {item.word ?? item.shape.label}
        {item.word && <span className="text-ink-soft"> · {item.shape.label}</span>}
      </span>
      <span className="figures ml-auto whitespace-nowrap text-ink-soft">{quickText(item)}</span>
    </>
  ) : (
    <span className="min-w-0">
      <span className="block text-base">{item.label}</span>
      <span className="block text-sm text-ink-soft">{item.where}</span>
    </span>
  )
}

function TreatmentOffer({ treatment, word, fields }: FoundTreatment) {
  return (
    <>
      <Icon path={treatment.icon} className="" />
      <span className="text-base">
        {word ?? treatment.label.toLowerCase()}
        <span className="text-ink-soft"> · {treatment.hint}</span>
      </span>
      <span className="figures ml-auto whitespace-nowrap text-ink-soft">
        {treatment.quick.map((field) => fields[field]).join(' × ')}
      </span>
    </>
  )
}

/** Says that nothing is called so, with what may be meant, and where other things are. */
function NothingFound({
  typed,
  nearest,
  onTyped,
}: {
  readonly typed: string
  readonly nearest: readonly string[]
  onTyped(text: string): void
}) {
  return (
    <>
      Nothing is called “{typed}”.{' '}
      {nearest.length > 0 && (
        <>
          Did you mean{' '}
          {nearest.map((name, i) => (
            <span key={name}>
              {i > 0 && ' or '}
              <button
                type="button"
                className="text-mackerel underline"
                onPointerDown={(event) => {
                  event.preventDefault()
                  onTyped(name)
                }}
              >
                {name}
              </button>
            </span>
          ))}
          ?{' '}
        </>
      )}
      Solids and holes are on the shelves below; copies and effects are on each step’s line, edges behind its “more”,
      joints on Move.
    </>
  )
}

function idOf(item: Item): string {
  if ('treatment' in item) return `treatment-${item.treatment.kind}`
  return 'shape' in item ? item.shape.kind : `guide-${item.label.replace(/\W+/g, '-')}`
}

function quickText({ shape, fields, word }: Found): string {
  const form = shape.words.find((each) => typeof each === 'object' && each.word === word)
  const quick = (typeof form === 'object' && form.quick) || shape.quick
  const takesItem = Object.values(shape.fields).some(({ kind }) => kind === 'item')
  return (
    quick
      .slice(0, 3)
      // An item has been said, and its gap is that of a fit.
      .map((each) => (typeof each === 'string' && !takesItem ? fields[each] : ''))
      .filter(Boolean)
      .join(' × ')
  )
}

/** What is made from a file begins with choosing one. */
async function fromFile(printer: Printer | undefined): Promise<void> {
  const file = await chosenMesh()
  if (file) await openMeshFile(file, { kind: 'part' }, printer)
}

function isTreatment(id: string): boolean {
  const { part } = usePart.getState()
  return part !== undefined && findStep(part, id)?.step.kind === 'treatment'
}

/** Whether a face of a treatment is flat on the drawing: the plan knows it once something stands on it. */
function isFlatHere(id: string, name: string): boolean {
  if (!isTreatment(id)) return false
  return drawnMeshes().some((mesh) => isFlatFace(mesh, id, name))
}

/** Puts a found shape on the sheet and asks for its distances, or its first value, next. */
function useAdd(pieceId: string): (found: Found) => void {
  const now = useWorked()
  return (found) => {
    const { edit, select, selection, part } = usePart.getState()
    if (Object.values(found.shape.fields).some(({ kind }) => kind === 'asset')) return void fromFile(part?.printer)
    const piece = part?.pieces.find((candidate) => candidate.id === pieceId)
    const worked = now && standingIn(now)
    if (!part || !worked || !piece) return
    const within = selection && findStep(part, selection.id)
    // Beside a selected step of a bundle, in the bundle.
    const after = within && within.bundles.length > 0 && within.piece === piece ? within.step.id : undefined
    const seat = seatFor(
      found.shape,
      selection,
      flattened(piece.steps).map((step) => step.id),
      worked,
    )
    const id = newId()
    const [first] = found.shape.quick
    const round = roundOf(seat, worked)
    const begun = begunOn(found.shape, round, part.unit, found.chosen)
    const fields = withOutlinesChosen(part, found.shape.fields, { ...found.fields, ...begun })
    const drawn = part.outlines.find((outline) => Object.values(fields).includes(outline.id))
    // What is made from an outline stands where that was drawn, unless a face was picked.
    const asDrawn = drawn && !selection?.face
    const own = { from: 'centre', to: 'own', by: '0' } as const
    const clear = piece.steps.length === 0 && seat.kind === 'bed' ? besidePieces(worked.plan, part, pieceId) : undefined
    const where = asDrawn
      ? { on: drawn.on, ...(found.shape.drawn ? { across: own, along: own } : {}) }
      : { on: seat, ...(clear ? { across: clear } : {}) }
    const operation = found.operation ?? found.shape.operation
    const step = newStep(id, { ...found, fields }, { ...where, rest: restFor(operation) })
    edit({ type: 'add-step', piece: pieceId, after, step })
    useLately.getState().use(found.shape.kind)
    // With all of its sizes typed, the next step can be.
    select({ kind: 'step', id }, found.complete ? undefined : typeof first === 'string' ? first : first?.field)
    if (clear) fitAllSteps()
  }

  /** The radius of a round seat, negative in a bore. */
  function roundOf(seat: Seat, worked: WorkedPart): number | undefined {
    if (seat.kind !== 'face') return undefined
    const of = worked.plan.geometry.get(seat.step)
    return of && faceCalled(of, seat.face)?.round
  }

  function seatFor(
    shape: ShapeDefinition,
    selection: ReturnType<typeof usePart.getState>['selection'],
    ids: readonly string[],
    worked: WorkedPart,
  ): Seat {
    const faces = (id: string) => worked.plan.geometry.get(id)?.faces ?? []
    // The floor of a hole and a datum are stood on when they were picked, not by themselves.
    const isStoodOn = (id: string) => {
      const { operation, body } = worked.plan.operands.get(id) ?? {}
      return operation?.material === 'more' && (body?.kind === 'shape' || faces(id).length > 0)
    }
    const isDatum = (id: string) => worked.resolved.steps.get(id)?.shape?.datum && faces(id).length > 0
    const chosen = selection?.kind === 'step' ? selection : undefined
    const isKnown = chosen?.face && faces(chosen.id).some((face) => face.name === chosen.face)
    if (chosen?.face && (isKnown || isFlatHere(chosen.id, chosen.face)))
      return { kind: 'face', step: chosen.id, face: chosen.face }
    if (shape.seat === 'stands' && !chosen) return { kind: 'bed' }
    const made = chosen && isTreatment(chosen.id) ? madeFloor(chosen.id, drawnMeshes()) : undefined
    // No face was picked: the one of the selected step that looks up or at the eye, or of the last one that has any.
    if (made) return { kind: 'face', step: chosen!.id, face: made }
    if (chosen && isDatum(chosen.id)) return { kind: 'face', step: chosen.id, face: faces(chosen.id)[0]!.name }
    for (const id of [...(chosen ? [chosen.id] : []), ...[...ids].reverse()]) {
      const geometry = isStoodOn(id) ? worked.plan.geometry.get(id) : undefined
      const face = geometry && (shape.roundOnly ? roundFaceOf(geometry) : openFace(geometry, useView.getState().eye))
      if (face) return { kind: 'face', step: id, face }
    }
    return { kind: 'bed' }
  }
}
