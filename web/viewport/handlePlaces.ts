import type { BodyStep } from '@makrel/core/document'
import { add, scaled, type Vec3 } from '@makrel/core/place'
import type { StepGeometry } from '@makrel/core/planning'
import type { DragKind } from './drag.ts'
import type { Grip } from './resize.ts'
import { type Projection, project, scaleAt } from './view.ts'

export type Point = readonly [number, number]

/** How far the handles stand from the shape's origin, pixels. */
const reach = 54
/** What is nearer to the handle in the middle would lie under it, pixels. */
const clear = 18
/** How wide a handle and the end of a dimension are, pixels. */
export const handleSize = 20
export const gripSize = 10

/** Where a step is moved, lifted and turned by, on the screen; those that would lie over the one in the middle are left out. */
export function handlePlaces(
  step: BodyStep,
  { frame, seating }: StepGeometry,
  view: Projection,
): { readonly kind: DragKind; readonly at: Point }[] {
  const { origin } = frame
  const out = reach / scaleAt(view, origin)
  // The turn handle goes with the shape, so that it shows how far it is turned.
  const along = step.place.turn.trim() === '0' ? seating.frame.u : frame.u
  const places: readonly (readonly [DragKind, Vec3])[] = [
    ['move', origin],
    ['lift', add(origin, scaled(seating.frame.n, out))],
    ['turn', add(origin, scaled(along, out))],
  ]
  const middle = project(view, origin)
  return places.flatMap(([kind, place]) => {
    const at = project(view, place)
    // Seen end-on it would lie over the handle in the middle, and nothing could be told by it.
    return at && (kind === 'move' || !isBeside(at, middle)) ? [{ kind, at }] : []
  })
}

/** Where sizes are dragged by the ends of their dimensions. `beside`: where the handle in the middle is, if there is one. */
export function gripPlaces(
  grips: readonly Grip[],
  beside: Vec3 | undefined,
  view: Projection,
): { readonly grip: Grip; readonly at: Point }[] {
  const middle = beside && project(view, beside)
  return grips.flatMap((grip) => {
    const at = project(view, grip.at)
    return at && !isBeside(at, middle) ? [{ grip, at }] : []
  })
}

function isBeside([x, y]: Point, middle: Point | undefined): boolean {
  return middle !== undefined && Math.hypot(x - middle[0], y - middle[1]) < clear
}
