import type { OutlineConstraint } from '@makrel/core/document'
import { amountOf, constraints, measuredPlace, Sketch, solveOutline } from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dimensionLayout } from './dimensionLayout.ts'
import { type PlaneView, toScreen } from './view.ts'

const coordinate = fc.integer({ min: -4000, max: 4000 }).map((steps) => steps / 97)
const place = fc.tuple(coordinate, coordinate)
const label = fc.option(place, { nil: undefined })
const view: PlaneView = { centre: [3.1, -7.7], scale: 6.3, width: 1280, height: 800 }
const far = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1])

/** Two of each thing that a dimension can be put on. */
function strewn(places: readonly Vec2[]) {
  const sketch = new Sketch({
    ...{ id: 'o', name: '', on: { kind: 'bed' }, points: [], curves: [], constraints: [], derived: [], toggled: [] },
  })
  const left = places.map((at) => ({ at }))
  const spot = () => left.pop()!
  const things = {
    point: [sketch.point(spot()), sketch.point(spot())],
    line: [sketch.line(spot(), spot()), sketch.line(spot(), spot())],
    round: [sketch.circle(spot(), 4.3), sketch.circle(spot(), 15.3)],
    bent: [sketch.ellipse(spot(), spot(), 6.1)],
  }
  return { solved: solveOutline(sketch.outline, { values: new Map(), taken: new Map(), fields: new Map() }), things }
}
const places = fc
  .array(place, { minLength: 10, maxLength: 10 })
  .filter((all) => all.every((p, i) => all.slice(i + 1).every((q) => far(p, q) > 1)))

const dimensions = constraints.flatMap((each) =>
  'value' in each ? each.takes.map((takes) => [each.kind, takes.join(' and '), takes] as const) : [],
)

describe.each(dimensions)('the drawn %s of %s', (kind, _, takes) => {
  it('is as long, as wide or as far turned as what it says, wherever its number is put', () => {
    fc.assert(
      fc.property(places, label, (all, moved) => {
        const { solved, things } = strewn(all)
        const of = takes.map((each, i) => things[each][i % things[each].length]!)
        const constraint = { id: 'c', kind, of, ...(moved && { label: moved }) } as OutlineConstraint
        const measured = measuredPlace(solved, constraint)!
        const pixels = amountOf(measured) * view.scale
        const layout = dimensionLayout(solved, constraint, view)
        if (measured.kind === 'length') {
          const [from, to] = layout!.lines[2]!
          expect(far(from, to)).toBeCloseTo(pixels, 5)
          // The thin lines come from what is measured.
          expect(layout!.lines[0]![0]).toEqual(toScreen(view, measured.from))
          expect(layout!.lines[1]![0]).toEqual(toScreen(view, measured.to))
          expect(layout!.arrows.length).toBe(pixels > 24 ? 2 : 0)
        } else if (measured.kind === 'round') {
          const centre = toScreen(view, measured.centre)
          for (const { tip } of layout!.arrows) expect(far(tip, centre)).toBeCloseTo(measured.radius * view.scale, 5)
          expect(layout!.arrows.length).toBe(measured.across ? 2 : 1)
          expect(far(layout!.text, centre)).toBeGreaterThan(measured.radius * view.scale)
        } else if (measured.corner) {
          const [, x, y, radius, , , , , endX, endY] = layout!.arc!.split(/[MA ]/).map(Number)
          const chord = far([x!, y!], [endX!, endY!])
          expect(2 * radius! * Math.sin((amountOf(measured) * Math.PI) / 360)).toBeCloseTo(chord, 3)
          const corner = toScreen(view, measured.corner)
          expect(far([x!, y!], corner)).toBeCloseTo(radius!, 3)
        } else expect(layout).toBeUndefined()
      }),
      { numRuns: 50 },
    )
  })
})

it('what is on nothing that can be measured is not drawn', () => {
  const { solved, things } = strewn(Array.from({ length: 10 }, (_, i): Vec2 => [7.3 * i, (i * i) / 3]))
  const drawn = (kind: string, of: string[]) => dimensionLayout(solved, { id: 'c', kind, of }, view)
  expect(drawn('radius', [things.line[0]!])).toBeUndefined()
  expect(drawn('distance', ['gone', things.point[0]!])).toBeUndefined()
  expect(drawn('parallel', things.line)).toBeUndefined()
})
