import { type BodyStep, findStep, hasBody } from '@makrel/core/document'
import type { Vec3 } from '@makrel/core/place'
import type { StepGeometry } from '@makrel/core/planning'
import type { ComponentType } from 'react'
import { wholeBox } from '../frame/whole.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { LiftIcon, MoveIcon, TurnIcon } from '../ui/icons.tsx'
import { selectedDimensions } from './dimensionLines.ts'
import { type DragKind, startDrag, useDrag } from './drag.ts'
import { gripPlaces, handlePlaces } from './handlePlaces.ts'
import { useLateWorked } from './late.ts'
import { type Grip, gripsOf, startResize } from './resize.ts'
import { useView } from './view.ts'

const kinds: Readonly<Record<DragKind, { readonly label: string; readonly Icon: ComponentType<{ size: number }> }>> = {
  move: { label: 'Drag it over its face', Icon: MoveIcon },
  lift: { label: 'Drag it off its face', Icon: LiftIcon },
  turn: { label: 'Drag to turn it', Icon: TurnIcon },
}

/** What the selected step is dragged by, and while it is, the numbers it comes to. */
export function Handles() {
  const { part, worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const label = useDrag((state) => state.label)
  const pieces = useBuild((state) => state.pieces)
  const step = selection?.kind === 'step' ? findStep(part, selection.id)?.step : undefined
  if (!step || !selection || !worked) return null
  const geometry = worked.plan.geometry.get(step.id)
  return (
    <>
      {hasBody(step) && geometry && <PlaceHandles step={step} geometry={geometry} />}
      <Grips
        id={step.id}
        grips={gripsOf(selectedDimensions(part, worked.resolved, worked.plan, selection, wholeBox(pieces)))}
        beside={hasBody(step) ? geometry?.frame.origin : undefined}
      />
      {label && (
        <p
          role="status"
          className="pointer-events-none absolute z-20 border border-mackerel bg-sheet px-1.5 py-0.5 shadow-[0_4px_12px_rgb(20_40_44/0.14)]"
          style={{ left: label.x + 16, top: label.y + 14 }}
        >
          <span className="figures text-[0.9375rem]">{label.text}</span>
          {label.reason && <span className="ml-2 text-ink-soft">{label.reason}</span>}
        </p>
      )}
    </>
  )
}

/** Moves it over its face, lifts it off that, and turns it. */
function PlaceHandles({ step, geometry }: { readonly step: BodyStep; readonly geometry: StepGeometry }) {
  const view = useView()
  const dragged = useDrag((state) => state.id)
  const places = handlePlaces(step, geometry, view)
  const middle = places.find(({ kind }) => kind === 'move')?.at
  return (
    <>
      {middle && !dragged && (
        <svg
          width={view.width}
          height={view.height}
          aria-hidden="true"
          className="pointer-events-none absolute inset-0"
        >
          {places.map(({ kind, at }) => (
            <line
              key={kind}
              x1={middle[0]}
              y1={middle[1]}
              x2={at[0]}
              y2={at[1]}
              stroke="var(--color-mackerel)"
              strokeDasharray="2 3"
            />
          ))}
        </svg>
      )}
      {places.map(({ kind, at }) => {
        if (dragged && dragged !== step.id) return null
        const { label: name, Icon } = kinds[kind]
        return (
          <button
            key={kind}
            type="button"
            tabIndex={-1}
            aria-label={name}
            title={name}
            className="absolute inline-flex h-5 w-5 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none items-center justify-center rounded-full border border-mackerel bg-sheet/90 text-mackerel hover:bg-mackerel hover:text-sheet"
            style={{ left: at[0], top: at[1] }}
            onPointerDown={(event) => {
              if (event.button !== 0) return
              event.preventDefault()
              startDrag(step.id, kind, event.nativeEvent, event.currentTarget.parentElement!)
            }}
          >
            <Icon size={11} />
          </button>
        )
      })}
    </>
  )
}

interface GripsProps {
  readonly id: string
  readonly grips: readonly Grip[]
  /** where the handle in the middle is, if there is one */
  readonly beside: Vec3 | undefined
}

/** The ends of dimensions that sizes are dragged by. */
function Grips({ id, grips, beside }: GripsProps) {
  const view = useView()
  const dragged = useDrag((state) => state.id)
  if (dragged) return null
  return (
    <>
      {gripPlaces(grips, beside, view).map(({ grip, at }) => {
        const { label: name } = grip.dimension
        return (
          <button
            key={grip.target.field}
            type="button"
            tabIndex={-1}
            aria-label={`Drag to change: ${name}`}
            title={`Drag to change: ${name}`}
            className="absolute h-2.5 w-2.5 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none border border-mackerel bg-sheet hover:bg-mackerel"
            style={{ left: at[0], top: at[1] }}
            onPointerDown={(event) => {
              if (event.button !== 0) return
              event.preventDefault()
              startResize(id, grip, event.nativeEvent, event.currentTarget.parentElement!)
            }}
          />
        )
      })}
    </>
  )
}
