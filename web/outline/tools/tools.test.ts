import type { Outline } from '@makrel/core/document'
import type { AnyValues } from '@makrel/core/fields'
import { Sketch, type Spot, solveOutline } from '@makrel/core/outline'
import { boxAround, boxOfSegment, distance2, type Segment, type Vec2 } from '@makrel/core/plane'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Tool } from './define.ts'
import { curveTools, tools } from './registry.ts'

const empty: Outline = {
  ...{ id: 'o', name: '', on: { kind: 'bed' }, points: [], curves: [], constraints: [], derived: [], toggled: [] },
}
const letters = { text: 'Fj', font: 'sans', height: 8.3, turn: 37.3 }
function solveAlone({ outline }: Sketch) {
  const fields = outline.curves.map(({ id, kind }): [string, AnyValues] => [id, kind === 'letters' ? letters : {}])
  return solveOutline(outline, { values: new Map(), taken: new Map(), fields: new Map(fields) })
}
const coordinate = fc.integer({ min: -6000, max: 6000 }).map((steps) => steps / 97)
/** Places that are no two near each other, as one presses them. */
const placesOf = (count: number) =>
  fc
    .array(fc.tuple(coordinate, coordinate), { minLength: count, maxLength: count })
    .filter((all) => all.every((p, i) => all.slice(i + 1).every((q) => distance2(p, q) > 3)))

function boxOf(segments: readonly Segment[]) {
  return boxAround(segments.map(boxOfSegment))!
}

/** A drawing for a tool to draw in, and its spots; one that goes on from something has a line that ends at the first. */
function begun({ kind }: Tool, places: readonly Vec2[]) {
  const sketch = new Sketch(empty)
  const spots: Spot[] = places.map((at) => ({ at }))
  if (kind !== 'bend') return { sketch, spots }
  const line = sketch.line({ at: [-71.3, 64.1] }, spots[0]!, [])
  spots[0] = { at: spots[0]!.at, point: sketch.outline.curves.find(({ id }) => id === line)!.points[1]! }
  return { sketch, spots }
}

describe.each(tools.map((tool): [string, Tool] => [tool.kind, tool]))('the tool %s', (_, tool) => {
  const count = tool.spots === 'endless' ? 4 : tool.spots
  it('draws what it showed, where it was pressed, without a contradiction', () => {
    let drawn = 0
    fc.assert(
      fc.property(placesOf(count), fc.integer({ min: 3, max: 9 }), (places, sides) => {
        const { sketch, spots } = begun(tool, places)
        const before = new Set(sketch.outline.curves.map(({ id }) => id))
        const context = { solved: solveAlone(sketch), wishes: [], sides }
        const shown = tool.preview(spots, context)
        const made = tool.draw(sketch, spots, context)
        // What cannot be drawn is not shown either.
        if (!made) return
        drawn++
        const solved = solveAlone(sketch)
        expect(solved.problems).toEqual([])
        expect(solved.solution.solved).toBe(true)
        // As it was drawn it holds: solving moves nothing.
        for (const { id, at } of sketch.outline.points)
          expect(distance2(solved.points.get(id)!, at as Vec2)).toBeLessThan(1e-6)
        const curves = new Set(
          sketch.outline.curves.filter(({ id, helper }) => !helper && !before.has(id)).map(({ id }) => id),
        )
        const segments = [...solved.drawnCurves].flatMap(([id, own]) => (curves.has(id) ? own : []))
        if (shown.length > 0) {
          const [was, is] = [boxOf(shown), boxOf(segments)]
          for (const k of [0, 1] as const) {
            expect(is.min[k]).toBeCloseTo(was.min[k], 4)
            expect(is.max[k]).toBeCloseTo(was.max[k], 4)
          }
        }
        // Sizes that can be typed are of things that are there.
        const known = new Set([...sketch.outline.curves, ...sketch.outline.points].map(({ id }) => id))
        for (const { of } of made.sizes ?? []) for (const id of of) expect(known).toContain(id)
        for (const { point } of made.next ?? []) if (point !== undefined) expect(known).toContain(point)
      }),
      { numRuns: 40 },
    )
    expect(drawn).toBeGreaterThan(10)
  })
  it('says what to press next for each spot, and takes no two presses on one place for two', () => {
    for (let spots = 0; spots < count; spots++) expect(tool.say(spots)).not.toBe('')
    if (count === 1) return
    const { sketch, spots } = begun(
      tool,
      Array.from({ length: count }, (): Vec2 => [7.3, 1]),
    )
    const { curves } = sketch.outline
    const context = { solved: solveAlone(sketch), wishes: [], sides: 5 }
    expect(tool.draw(sketch, spots, context)).toBeUndefined()
    expect(sketch.outline.curves).toEqual(curves)
  })
})

it('no two tools have one key', () => {
  const keys = [...tools, ...curveTools].map(({ key }) => key)
  expect(new Set(keys).size).toBe(keys.length)
})
