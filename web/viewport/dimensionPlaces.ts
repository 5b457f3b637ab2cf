import type { Part } from '@makrel/core/document'
import { findBody, findStep } from '@makrel/core/document'
import { add, type Box, scaled } from '@makrel/core/place'
import type { WorkedPart } from '@makrel/core/planning'
import { formatSize, type PartUnit } from '@makrel/core/units'
import { shownValue } from '../make/ValueField.tsx'
import type { Selection } from '../state/part.ts'
import { alongBothWays, LabelPlaces } from '../ui/labelPlaces.ts'
import { copyPlaces, markSize } from './copyPlaces.ts'
import { type DrawnDimension, selectedDimensions } from './dimensionLines.ts'
import { gripPlaces, gripSize, handlePlaces, handleSize, type Point } from './handlePlaces.ts'
import { gripsOf } from './resize.ts'
import { type Projection, project, scaleAt } from './view.ts'

/** Distance of a dimension line from what it measures, and how far extension lines go past it, pixels. */
const standOff = 30
const overshoot = 5
export const arrow = 8

export interface Layout {
  readonly lines: readonly (readonly [Point, Point])[]
  readonly arrows: readonly { readonly tip: Point; readonly towards: Point }[]
  readonly text: Point
}

function layoutOf(dimension: DrawnDimension, view: Projection): Layout | undefined {
  return dimension.form === 'linear' ? linearLayout(dimension, view) : leaderLayout(dimension, view)
}

function linearLayout({ from, to, away, clear = 0 }: DrawnDimension, view: Projection): Layout | undefined {
  const out = clear + standOff / scaleAt(view, from)
  const past = clear + (standOff + overshoot) / scaleAt(view, from)
  const [a, b] = [project(view, from), project(view, to)]
  if (!a || !b) return undefined
  const apart = (distance: number) => [from, to].map((end) => project(view, add(end, scaled(away, distance))))
  let [[a1, b1], [a2, b2]] = [apart(out), apart(past)]
  if (!a1 || !b1 || !a2 || !b2) return undefined
  if (Math.hypot(a1[0] - a[0], a1[1] - a[1]) < standOff / 2) {
    // It stands off towards the eye or away from it: on the paper it does so square to itself, below or to the left.
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
    const long = Math.hypot(dx, dy) || 1
    const sign = Math.abs(dx) >= Math.abs(dy) ? Math.sign(dx) : Math.sign(dy)
    const off = ([x, y]: Point, by: number): Point => [x - (sign * dy * by) / long, y + (sign * dx * by) / long]
    ;[a1, b1, a2, b2] = [off(a, standOff), off(b, standOff), off(a, standOff + overshoot), off(b, standOff + overshoot)]
  }
  const long = Math.hypot(b1[0] - a1[0], b1[1] - a1[1])
  // Seen end-on there is nothing to read.
  if (long < 6) return undefined
  const text: Point = [(a1[0] + b1[0]) / 2, (a1[1] + b1[1]) / 2]
  return {
    lines: [
      [a, a2],
      [b, b2],
      [a1, b1],
    ],
    arrows:
      long > 3 * arrow
        ? [
            { tip: a1, towards: b1 },
            { tip: b1, towards: a1 },
          ]
        : [],
    text,
  }
}

/** A diameter or radius: across the circle and out along a leader to its text. */
function leaderLayout({ from, to }: DrawnDimension, view: Projection): Layout | undefined {
  const [a, b] = [project(view, from), project(view, to)]
  if (!a || !b) return undefined
  const long = Math.hypot(b[0] - a[0], b[1] - a[1])
  const d: Point = long < 1 ? [1, -0.4] : [(b[0] - a[0]) / long, (b[1] - a[1]) / long]
  const elbow: Point = [b[0] + d[0] * 26, b[1] + d[1] * 26]
  const shelf: Point = [elbow[0] + (d[0] >= 0 ? 14 : -14), elbow[1]]
  return {
    lines: [
      [a, elbow],
      [elbow, shelf],
    ],
    arrows: [{ tip: b, towards: a }],
    text: [shelf[0] + (d[0] >= 0 ? 16 : -16), shelf[1]],
  }
}

/** A square on the screen that is taken, by its middle and side, pixels. */
export interface Taken {
  readonly at: Point
  readonly size: number
}

/** What can be pressed over the drawing of a selected step: no label lies under these. */
export function takenPlaces(
  part: Part,
  { resolved, plan }: WorkedPart,
  selection: Selection | undefined,
  box: Box,
  view: Projection,
): Taken[] {
  if (selection?.kind !== 'step') return []
  const body = findBody(part, selection.id)
  const geometry = plan.geometry.get(selection.id)
  const own = findStep(part, selection.id) ? selectedDimensions(part, resolved, plan, selection, box) : []
  const handles = body && geometry ? handlePlaces(body, geometry, view) : []
  const copies = body && geometry ? copyPlaces(body, geometry, view) : []
  return [
    ...handles.map(({ at }) => ({ at, size: handleSize })),
    ...gripPlaces(gripsOf(own), body && geometry?.frame.origin, view).map(({ at }) => ({ at, size: gripSize })),
    ...copies.flatMap((at) => (at ? [{ at, size: markSize }] : [])),
  ]
}

/** What is written at a dimension. */
export function dimensionText({ target, form, value, valueKind }: DrawnDimension, unit: PartUnit): string {
  if (!target) return formatSize(value, unit)
  return `${form === 'diameter' ? '⌀' : form === 'radius' ? 'R' : ''}${shownValue(value, valueKind, unit)}`
}

/** Height of a label, and how wide a letter of it and its frame are at most, pixels of text as large as browsers have it at first. */
const labelHeight = 22
const letter = 9
const framed = 11

/**
 * Dimensions as they are drawn, their values apart from each other and from what is taken: each goes along its own line first, then off that
 * to both sides.
 */
export function dimensionsApart(
  dimensions: readonly DrawnDimension[],
  view: Projection,
  unit: PartUnit,
  taken: readonly Taken[],
  /** the size of text, pixels */
  rem = 16,
): { readonly dimension: DrawnDimension; readonly layout: Layout }[] {
  const places = new LabelPlaces()
  const scale = rem / 16
  const high = scale * labelHeight
  for (const { at, size } of taken) places.take([at], scale * size, scale * size)
  return dimensions.flatMap((dimension) => {
    const layout = layoutOf(dimension, view)
    if (!layout) return []
    const width = scale * (letter * dimensionText(dimension, unit).length + framed)
    const along = wayOf(layout)
    const across: Point = [-along[1], along[0]]
    const wanted = alongBothWays(layout.text, across, high / 2, 12).flatMap((row) =>
      alongBothWays(row, along, high / 2, 8),
    )
    // Near to where it belongs before far from it, whatever the way.
    const off = ([x, y]: Point) => Math.hypot(x - layout.text[0], y - layout.text[1])
    wanted.sort((a, b) => off(a) - off(b))
    return [{ dimension, layout: { ...layout, text: places.take(wanted, width, high) } }]
  })
}

/** The way that the line of a layout goes, unit: its last one carries the text. */
function wayOf({ lines }: Layout): Point {
  const [from, to] = lines.at(-1)!
  const long = Math.hypot(to[0] - from[0], to[1] - from[1])
  return long < 1e-9 ? [1, 0] : [(to[0] - from[0]) / long, (to[1] - from[1]) / long]
}
