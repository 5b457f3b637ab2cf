import { applyEdit, type Edit, findStep } from '@makrel/core/document'
import { dot, norm, subtract, unit, type Vec3 } from '@makrel/core/place'
import { fieldKindOf, workOut } from '@makrel/core/planning'
import { formatSize } from '@makrel/core/units'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { type DimensionTarget, type DrawnDimension, dimensionEdit, selectedDimensions } from './dimensionLines.ts'
import { type DragWork, followPointer, raysOf } from './drag.ts'
import { alongLine, movedText } from './dragMath.ts'
import { stepSizeOf } from './stepSizes.ts'

/** A dimension of the selected step that can be dragged by its end. */
export interface Grip {
  readonly dimension: DrawnDimension
  readonly target: DimensionTarget & { readonly field: string }
  readonly at: Vec3
  /** unit, outwards */
  readonly direction: Vec3
}

/** The ends of the selected step's own lengths. Angles and counts are typed. */
export function gripsOf(dimensions: readonly DrawnDimension[]): Grip[] {
  return dimensions.flatMap((dimension): Grip[] => {
    const { target, valueKind, from, to } = dimension
    const long = subtract(to, from)
    if ((target?.kind !== 'field' && target?.kind !== 'plane') || valueKind !== 'length') return []
    const direction = dimension.way ?? (norm(long) < 1e-6 ? undefined : unit(long))
    return direction ? [{ dimension, target, at: to, direction }] : []
  })
}

/** Sizes below this are not dragged to, mm. */
const least = 0.01

/** What dragging comes to: sizes stay above nothing, and what moves a face goes one way or the other. */
function dragged({ signed, value }: DrawnDimension, wanted: number, every: number): number {
  if (signed === 'or-nothing') return wanted
  if (signed === 'but-nothing') return wanted || Math.sign(value) * every
  return Math.max(least, Math.min(every, value), wanted)
}

/**
 * Drags the end of a dimension; the size goes so that the end stays under the pointer. How far the end moves for a
 * change of the size depends on where the step is measured from, so it is found by trying.
 */
export function startResize(id: string, grip: Grip, start: PointerEvent, mesh: HTMLElement): void {
  const { part } = usePart.getState()
  const step = part && findStep(part, id)?.step
  if (!part || !step) return
  const { value } = grip.dimension
  const text = grip.dimension.text ?? ''
  const edit = (mm: number): Edit => dimensionEdit(part, grip.target, movedText(text, value, mm, part.unit))!
  const endWith = (mm: number) => {
    const worked = workOut(applyEdit(part, edit(mm), fieldKindOf), useBuild.getState().readings)
    const dimensions = selectedDimensions(worked.resolved.part, worked.resolved, worked.plan, { kind: 'step', id })
    return dimensions.find(({ key }) => key === grip.dimension.key)?.to
  }
  const moved = endWith(1)
  const gain = moved ? dot(subtract(moved, grip.at), grip.direction) : 0
  // An end that stays where it is, whatever the size, leaves the size to its other end: there it is dragged as long.
  const share = Math.abs(gain) < 0.05 ? 1 : gain
  const rayOf = raysOf(mesh)
  const from = alongLine(rayOf(start), grip.at, grip.direction)
  if (from === undefined) return
  const work: DragWork = (event) => {
    const to = alongLine(rayOf(event), grip.at, grip.direction)
    if (to === undefined) return undefined
    const every = stepSizeOf(usePart.getState().part!).mm
    const wanted = Math.round((value + (to - from) / share) / every) * every
    const size = dragged(grip.dimension, wanted, every)
    return {
      edits: [edit(size - value)],
      text: `${grip.dimension.label.toLowerCase()} ${formatSize(size, part.unit)} ${part.unit}`,
      reason: '',
    }
  }
  followPointer({ id, start, mesh, work, typed: grip.target.field })
}
