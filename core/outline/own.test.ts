import { describe, expect, it } from 'vitest'
import type { Outline } from '../document/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { derivedAt, freedomOf, isCut, madeOwn, Sketch, solveOutline, split, trimmed } from './index.ts'

const at = (x: number, y: number) => ({ at: [x, y] as Vec2 })
type FieldValues = ReadonlyMap<string, Record<string, number | string>>

function solve(outline: Outline, fields: FieldValues) {
  const values = new Map(
    outline.constraints.flatMap(({ id, value }) => (value === undefined ? [] : [[id, Number(value)] as const])),
  )
  return solveOutline(outline, { values, taken: new Map(), fields })
}

/** A box of 85.1 × 37.3 that begins off the origin, held by two dimensions, with something derived from it. */
function box(kind: string, of: readonly string[], own: Record<string, number | string>, more?: (s: Sketch) => void) {
  const sketch = new Sketch(emptyOutline())
  sketch.rectangle(at(15.3, 7), at(100.4, 44.3), false)
  sketch.hold('distance', ['l1'], '85.1')
  sketch.hold('distance', ['l2'], '37.3')
  more?.(sketch)
  const texts = Object.fromEntries(Object.entries(own).map(([name, value]) => [name, String(value)]))
  const id = sketch.derive(kind, of, texts)
  const fields: FieldValues = new Map([[id, own]])
  return { solved: solve(sketch.outline, fields), id, fields }
}
function owned(made: ReturnType<typeof box>) {
  const own = madeOwn(made.solved, made.id)
  if ('detail' in own) throw new Error(own.detail)
  return { ...own, solved: solve(own.outline, made.fields) }
}
const sides = ['l1', 'l2', 'l3', 'l4']

describe('what is derived, drawn as curves of its own', () => {
  it.each([
    ['corner', ['p1', 'p3'], { form: 'round', size: 4.7 }],
    ['corner', ['p1', 'p2', 'p3', 'p4'], { form: 'bevel', size: 4.7 }],
    ['row', sides, { count: 3, x: 91.7, y: 12.1 }],
    ['row', sides, { count: 2, x: 85.1, y: 0 }],
    ['ring', sides, { count: 5, angle: 360 }],
    ['mirror', [...sides, 'y-axis'], {}],
    ['offset', sides, { by: 1 / 3, side: 'outside', corners: 'round' }],
    ['offset', sides, { by: 2.2, side: 'both', corners: 'sharp' }],
  ] as const)('%s of %j bounds the same', (kind, of, own) => {
    const made = box(kind, of, own)
    const now = owned(made)
    expect(now.outline.derived).toEqual([])
    expect(now.solved.problems).toEqual([])
    expect(now.solved.drawn!.area()).toBeCloseTo(made.solved.drawn!.area(), 6)
    expect(now.solved.drawn!.loops.length).toBe(made.solved.drawn!.loops.length)
    // Everything was in its place: nothing moved to meet anything.
    for (const [id, [x, y]] of made.solved.points)
      if (now.solved.points.has(id)) {
        expect(now.solved.points.get(id)![0]).toBeCloseTo(x, 9)
        expect(now.solved.points.get(id)![1]).toBeCloseTo(y, 9)
      }
  })

  it.each([[['p3']], [['p1', 'p3']], [['p1', 'p2', 'p3', 'p4']]])(
    'leaves rounded corners %j as free as they were',
    (of) => {
      const made = box('corner', of, { form: 'round', size: 4.7 })
      const now = owned(made).solved
      const moves = ({ system, solution }: typeof now) => freedomOf(system, solution.x).moves
      expect(moves(now)).toBe(moves(made.solved))
    },
  )

  it('keeps what was measured to a rounded corner, and its radius', () => {
    const made = box('corner', ['p3'], { form: 'round', size: 4.7 })
    const { outline } = owned(made)
    const width = outline.constraints.find(({ value }) => value === '85.1')!
    const radius = outline.constraints.find(({ kind }) => kind === 'radius')!
    expect(radius.value).toBe('4.7')
    const wider = solve(
      {
        ...outline,
        constraints: outline.constraints.map((each) =>
          each.id === width.id ? { ...each, value: '60' } : each.id === radius.id ? { ...each, value: '6' } : each,
        ),
      },
      new Map(),
    )
    expect(wider.problems).toEqual([])
    const { segments } = wider.drawn!.loops[0]!
    const arc = segments.find(({ kind }) => kind === 'arc')
    // Steps that stand on its sides find them.
    expect(wider.drawn!.loops[0]!.curves).toEqual(expect.arrayContaining(sides))
    expect(arc).toMatchObject({ radius: expect.closeTo(6, 6) })
  })

  it('keeps a region that was left out', () => {
    const made = box('offset', sides, { by: 3.1, side: 'inside', corners: 'sharp' })
    const inner = made.solved.arrangement.faces.find(({ depth }) => depth === 1)!
    const solved = solve({ ...made.solved.outline, toggled: [inner.key] }, made.fields)
    expect(solved.drawn!.area()).toBeCloseTo(85.1 * 37.3, 6)
    const now = owned({ ...made, solved })
    expect(now.solved.drawn!.area()).toBeCloseTo(85.1 * 37.3, 6)
  })

  it('can be trimmed and split then, at the place that was pressed', () => {
    const made = box('row', sides, { count: 2, x: 50, y: 11.2 })
    // The left side of the copy, inside the drawn box, and its lower side: both are cut off by it.
    const place: Vec2 = [65.3, 25]
    expect(derivedAt(made.solved, place, 0.5)).toBe(made.id)
    expect(derivedAt(made.solved, [15.3, 25], 0.5)).toBeUndefined()
    expect(derivedAt(made.solved, [40, 30], 0.5)).toBeUndefined()
    const now = owned(made)
    const left = now.ids.find((id) =>
      now.outline.curves
        .find((c) => c.id === id)!
        .points.every((p) => Math.abs(now.solved.points.get(p)![0] - 65.3) < 1e-6),
    )!
    const cut = trimmed(now.solved, left, place)
    if (!isCut(cut)) throw new Error(cut.detail)
    const halves = split(now.solved, left, place)
    if (!isCut(halves)) throw new Error(halves.detail)
    expect(halves.curves.length).toBe(now.outline.curves.length + 1)
    expect(solve(halves, made.fields).drawn!.area()).toBeCloseTo(made.solved.drawn!.area(), 6)
    // Of the left side of the copy what lies over the box is left.
    const shorter = solve(cut, made.fields).drawnCurves.get(left)!
    expect(shorter).toHaveLength(1)
    expect(Math.min(...[shorter[0]!].flatMap((s) => (s.kind === 'line' ? [s.from[1], s.to[1]] : [])))).toBeCloseTo(
      44.3,
      6,
    )
  })

  it('is told where nothing is made, and for what is not derived', () => {
    const made = box('corner', ['p1'], { form: 'round', size: 50 })
    expect(madeOwn(made.solved, made.id)).toHaveProperty('detail')
    expect(madeOwn(made.solved, 'nothing')).toHaveProperty('detail')
  })
})
