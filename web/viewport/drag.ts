import { type BodyStep, type Edit, findBody, findStep } from '@makrel/core/document'
import { dot, type PlaceValues, pointIn, subtract, type Vec3 } from '@makrel/core/place'
import type { StepGeometry } from '@makrel/core/planning'
import { formatSize } from '@makrel/core/units'
import { create } from 'zustand'
import { stepNumber, stepTitle } from '../make/words.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import {
  alongLine,
  movedOffset,
  movedText,
  onPlane,
  type Ray,
  rayAt,
  snapLines,
  snapped,
  turnedText,
} from './dragMath.ts'
import { stepSizeOf } from './stepSizes.ts'
import { companionsOf, movedAlong, turnedAlong, wayOf } from './together.ts'
import { scaleAt, useView } from './view.ts'

export type DragKind = 'move' | 'lift' | 'turn'

interface DragState {
  readonly id: string | undefined
  /** true numbers at the pointer, and why it snapped */
  readonly label: { readonly x: number; readonly y: number; readonly text: string; readonly reason: string } | undefined
}

export const useDrag = create<DragState>()(() => ({ id: undefined, label: undefined }))

/** Below this a press is a press, and lines this near are snapped to, in pixels. */
const dragFrom = 4
const snapWithin = 7
/** A turn goes by this angle, degrees; with Shift by one. */
const turnStep = 15

/**
 * Drags the step `id` over its seat, along its normal, or round it, from a press at client coordinates until the release.
 */
export function startDrag(id: string, kind: DragKind, start: PointerEvent, mesh: HTMLElement): void {
  const { part } = usePart.getState()
  const step = part && findBody(part, id)
  const { plan, resolved } = part ? workedOf(part) : {}
  const geometry = plan?.geometry.get(id)
  const place = resolved?.steps.get(id)?.place
  if (!part || !step || !geometry || !place) return
  const rayOf = raysOf(mesh)
  const work = works[kind]({ id, step, geometry, unit: part.unit, place, rayOf, start })
  if (work) followPointer({ id, start, mesh, work, typed: kind === 'move' ? 'across' : undefined })
}

/** The lines of sight under a pointer over the drawing. */
export function raysOf(mesh: HTMLElement): (event: PointerEvent) => Ray {
  const box = mesh.getBoundingClientRect()
  return (event) => rayAt(useView.getState(), event.clientX - box.left, event.clientY - box.top)
}

/**
 * Each move is an edit, so that the sheet, the dimensions and the solid follow; all of them are undone as one. Escape
 * takes it back; a number typed meanwhile takes over, in the field `typed`.
 */
export function followPointer({
  id,
  start,
  mesh,
  work,
  typed,
}: {
  readonly id: string
  readonly start: PointerEvent
  readonly mesh: HTMLElement
  readonly work: DragWork
  readonly typed: string | undefined
}): void {
  const box = mesh.getBoundingClientRect()
  const before = usePart.getState().part
  const key = `${id}.drag${start.timeStamp}`
  const stop = trackPointer(start, {
    move(event) {
      const done = work(event)
      if (!done) return
      useDrag.setState({
        id,
        label: { x: event.clientX - box.left, y: event.clientY - box.top, text: done.text, reason: done.reason },
      })
      usePart.getState().editAll(done.edits, key)
    },
    end: () => useDrag.setState({ id: undefined, label: undefined }),
    pressed(event) {
      if (event.key === 'Escape') {
        event.stopPropagation()
        if (usePart.getState().part !== before) usePart.getState().undo()
        stop()
      } else if (/^[\d.−-]$/.test(event.key)) {
        // The number that is being typed goes into the first value of what is dragged.
        stop()
        usePart.getState().select({ kind: 'step', id }, typed)
      }
    },
  })
}

/**
 * Tells of the pointer from a press until its release, once it has moved so far that it is a drag, and of keys meanwhile; the view
 * keeps still. What it gives stops it.
 */
export function trackPointer(
  start: PointerEvent,
  told: { move(event: PointerEvent): void; end(): void; pressed(event: KeyboardEvent): void },
): () => void {
  let dragging = false
  const move = (event: PointerEvent) => {
    if (!dragging && Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) < dragFrom) return
    dragging = true
    told.move(event)
  }
  const end = () => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', end)
    window.removeEventListener('pointercancel', end)
    window.removeEventListener('keydown', told.pressed, true)
    useView.setState({ held: false })
    told.end()
  }
  useView.setState({ held: true })
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', end)
  window.addEventListener('pointercancel', end)
  window.addEventListener('keydown', told.pressed, true)
  return end
}

interface DragContext {
  readonly id: string
  readonly step: BodyStep
  readonly geometry: StepGeometry
  readonly unit: 'mm' | 'in'
  readonly place: PlaceValues
  rayOf(event: PointerEvent): Ray
  readonly start: PointerEvent
}

export interface Dragged {
  readonly edits: readonly Edit[]
  readonly text: string
  readonly reason: string
}
export type DragWork = (event: PointerEvent) => Dragged | undefined

const works: Readonly<Record<DragKind, (context: DragContext) => DragWork | undefined>> = {
  /** In the plane of the seat through the shape's origin, across and along. */
  move({ id, step, geometry, unit, place, rayOf, start }) {
    const { frame: seat } = geometry.seating
    const { origin } = geometry.frame
    const from = onPlane(rayOf(start), origin, seat.n)
    if (!from) return undefined
    const others = linesOfOthers(id)
    const companions = companionsOf(id)
    const at0 = pointIn(seat, origin)
    return (event) => {
      const to = onPlane(rayOf(event), origin, seat.n)
      if (!to) return undefined
      const by = pointIn(seat, [
        seat.origin[0] + to[0] - from[0],
        seat.origin[1] + to[1] - from[1],
        seat.origin[2] + to[2] - from[2],
      ])
      const reach = snapWithin / scaleAt(useView.getState(), origin)
      const moved = ([0, 1] as const).map((i) => {
        const offset = i === 0 ? step.place.across : step.place.along
        const { by: value } = i === 0 ? place.across : place.along
        const half = geometry.seating.size[i] / 2
        const mark = offset.from === 'low' ? -half : offset.from === 'high' ? half : 0
        // Measured to its point, so that whole steps are those of the distance itself.
        const point = at0[i] - (offset.from === 'high' ? mark - value : mark + value)
        const snap = snapped(
          at0[i] + by[i],
          snapLines(i, geometry, others),
          reach,
          stepSizeOf(usePart.getState().part!).mm,
          mark + point,
        )
        return { snap, text: movedOffset(offset, value, snap.at - at0[i], unit) }
      })
      const [across, along] = moved as [(typeof moved)[0], (typeof moved)[0]]
      return {
        edits: [
          { type: 'set-offset', id, axis: 'across', change: { by: across.text } },
          { type: 'set-offset', id, axis: 'along', change: { by: along.text } },
          ...movedAlong(companions, wayOf(geometry, across.snap.at - at0[0], along.snap.at - at0[1], 0), unit),
        ],
        text: `moved ${formatSize(across.snap.at - at0[0], unit)}, ${formatSize(along.snap.at - at0[1], unit)} ${unit}`,
        reason: moved.flatMap(({ snap }) => snap.reason ?? []).join(' · '),
      }
    }
  },
  /** Along the normal of the seat. */
  lift({ id, step, geometry, unit, place, rayOf, start }) {
    const { n } = geometry.seating.frame
    const { origin } = geometry.frame
    const from = alongLine(rayOf(start), origin, n)
    if (from === undefined) return undefined
    const companions = companionsOf(id)
    return (event) => {
      const to = alongLine(rayOf(event), origin, n)
      if (to === undefined) return undefined
      const size = stepSizeOf(usePart.getState().part!).mm
      const reach = snapWithin / scaleAt(useView.getState(), origin)
      const wanted = place.lift + to - from
      const lift = Math.abs(wanted) < reach ? 0 : Math.round(wanted / size) * size
      return {
        edits: [
          { type: 'set-place', id, change: { lift: movedText(step.place.lift, place.lift, lift - place.lift, unit) } },
          ...movedAlong(companions, wayOf(geometry, 0, 0, lift - place.lift), unit),
        ],
        text: `lifted ${formatSize(lift, unit)} ${unit}`,
        reason: lift === 0 ? 'on its face' : '',
      }
    }
  },
  /** About the normal of the seat through the shape's origin. */
  turn({ id, step, geometry, unit, place, rayOf, start }) {
    const { frame: seat } = geometry.seating
    const { origin } = geometry.frame
    const angleAt = (event: PointerEvent) => {
      const p = onPlane(rayOf(event), origin, seat.n)
      if (!p) return undefined
      const away = subtract(p, origin)
      return (Math.atan2(dot(away, seat.v), dot(away, seat.u)) * 180) / Math.PI
    }
    const from = angleAt(start)
    if (from === undefined) return undefined
    const companions = companionsOf(id)
    return (event) => {
      const to = angleAt(event)
      if (to === undefined) return undefined
      const every = event.shiftKey ? 1 : turnStep
      const turn = Math.round((place.turn + to - from) / every) * every
      const short = ((((turn + 180) % 360) + 360) % 360) - 180
      return {
        edits: [
          { type: 'set-place', id, change: { turn: turnedText(step.place.turn, place.turn, short - place.turn) } },
          ...turnedAlong(companions, { point: origin, axis: seat.n }, short - place.turn, unit),
        ],
        text: `turned ${short}°`,
        reason: '',
      }
    }
  },
}

/** The middles of all other steps, as something to line up with. */
function linesOfOthers(id: string): { origin: Vec3; label: string }[] {
  const { part } = usePart.getState()
  if (!part) return []
  const { plan } = workedOf(part)
  return [...plan.geometry].flatMap(([other, { frame }]) => {
    const found = findStep(part, other)
    if (!found || other === id || found.bundles.some((bundle) => bundle.id === id)) return []
    return [{ origin: frame.origin, label: `${stepNumber(part, other)}, ${stepTitle(found.step)}` }]
  })
}

/** Moves the selected step by whole step sizes across, along and off its seat. */
export function nudge(across: number, along: number, lift: number): void {
  const { part, selection, editAll } = usePart.getState()
  if (!part || selection?.kind !== 'step') return
  const step = findBody(part, selection.id)
  const place = step && workedOf(part).resolved.steps.get(step.id)?.place
  if (!step || !place) return
  const stepSize = stepSizeOf(usePart.getState().part!).mm
  const edits: Edit[] = []
  const offset = (axis: 'across' | 'along', times: number) => {
    const by = movedOffset(step.place[axis], place[axis].by, times * stepSize, part.unit)
    if (times !== 0) edits.push({ type: 'set-offset', id: step.id, axis, change: { by } })
  }
  offset('across', across)
  offset('along', along)
  if (lift !== 0)
    edits.push({
      type: 'set-place',
      id: step.id,
      change: { lift: movedText(step.place.lift, place.lift, lift * stepSize, part.unit) },
    })
  const geometry = workedOf(part).plan.geometry.get(step.id)
  if (geometry) {
    const way = wayOf(geometry, across * stepSize, along * stepSize, lift * stepSize)
    edits.push(...movedAlong(companionsOf(step.id), way, part.unit))
  }
  editAll(edits, `${step.id}.nudge`)
}
