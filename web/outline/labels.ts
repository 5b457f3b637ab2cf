import type { OutlineConstraint } from '@makrel/core/document'
import { constraintOf, measuredBy, type SolvedOutline } from '@makrel/core/outline'
import { minus, norm2, pointAt, unit2, type Vec2 } from '@makrel/core/plane'
import type { PartUnit } from '@makrel/core/units'
import { shownValue } from '../make/ValueField.tsx'
import { alongBothWays, LabelPlaces } from '../ui/labelPlaces.ts'
import { type DimensionLayout, dimensionLayout } from './dimensionLayout.ts'
import { type PlaneView, toScreen } from './view.ts'

/** What is written on the drawing: each thing at a place of its own. */
export interface Labels {
  readonly dimensions: readonly {
    readonly constraint: OutlineConstraint
    readonly layout: DimensionLayout
    /** its value as it is written */
    readonly shown: string
  }[]
  /** signs of what has no value, by the middle of the sign on the screen */
  readonly signs: readonly { readonly constraint: OutlineConstraint; readonly middle: Vec2 }[]
}

/** Signs that lie farther outside the drawing are not written, pixels. */
const aside = 60

/** Side of the square that a sign is pressed in, pixels. */
export const signSize = 16

/**
 * Where dimensions and signs of constraints are written. Numbers that a maker put somewhere stay there; others give way along
 * their own line, and signs along the curve that they stand beside. `rem`: the size of text, pixels.
 */
export function labelsOf(solved: SolvedOutline, view: PlaneView, unit: PartUnit, rem: number): Labels {
  const places = new LabelPlaces()
  const { constraints } = solved.outline
  const byHand = (each: OutlineConstraint) => (each.label ? 0 : 1)
  const dimensions = [...constraints]
    .sort((a, b) => byHand(a) - byHand(b))
    .flatMap((constraint) => {
      if (!constraintOf(constraint.kind)?.value) return []
      const layout = dimensionLayout(solved, constraint, view)
      if (!layout) return []
      const shown = shownDimension(solved, constraint, unit)
      const step = rem * 0.9
      const wanted = constraint.label ? [layout.text] : alongBothWays(layout.text, wayOf(layout, view), step, 6)
      const text = places.take(wanted, (0.55 * shown.length + 0.6) * rem, 1.3 * rem)
      return [{ constraint, layout: { ...layout, text }, shown }]
    })
  const signs = constraints.flatMap((constraint) => {
    const definition = constraintOf(constraint.kind)
    const anchor = !definition || definition.value ? undefined : anchorOf(solved, constraint)
    if (!anchor) return []
    const [x, y] = toScreen(view, anchor)
    if (x < -aside || y < -aside || x > view.width + aside || y > view.height + aside) return []
    const row = (dy: number) => alongBothWays([x + 15, y + dy], [1, 0], signSize - 1, 5)
    return [{ constraint, middle: places.take([...row(-12), ...row(14), ...row(-28)], signSize - 2, signSize - 2) }]
  })
  return { dimensions, signs }
}

function shownDimension(solved: SolvedOutline, constraint: OutlineConstraint, unit: PartUnit): string {
  const { value } = constraintOf(constraint.kind)!
  const sign = constraint.kind === 'diameter' ? '⌀' : constraint.kind === 'radius' ? 'R' : ''
  const shown = `${sign}${shownValue(measuredBy(solved, constraint) ?? 0, value!, unit)}`
  return constraint.driven ? `(${shown})` : shown
}

/** The way along which a number can give way: along its own line, or outwards. */
function wayOf({ lines, text, middle }: DimensionLayout, view: PlaneView): Vec2 {
  const [from, to] = lines[2] ?? lines[0] ?? [toScreen(view, middle), text]
  const way = minus(to, from)
  return norm2(way) < 1e-9 ? [1, 0] : unit2(way)
}

/** The middle of the first curve that it is put on, or its first point. */
function anchorOf(solved: SolvedOutline, { of }: OutlineConstraint): Vec2 | undefined {
  for (const id of of) {
    const [segment] = solved.drawnCurves.get(id) ?? []
    if (segment) return pointAt(segment, 0.5)
  }
  for (const id of of) {
    const at = solved.points.get(id)
    if (at) return at
  }
  return undefined
}
