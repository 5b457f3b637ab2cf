import { describe, expect, it } from 'vitest'
import type { Outline } from '../document/index.ts'
import {
  curvatureAt,
  distance2,
  endOf,
  lengthOf,
  nearestOn,
  pointAt,
  type Segment,
  startOf,
  type Vec2,
} from '../plane/index.ts'
import { emptyOutline, randomFrom } from '../testing/outlines.ts'
import {
  curveOf,
  curves,
  derivedKinds,
  extended,
  freedomOf,
  infer,
  isCut,
  joinedInto,
  measuredBy,
  type OutlineValues,
  Sketch,
  settled,
  shownOutline,
  solveOutline,
  split,
  trimmed,
  withoutParts,
} from './index.ts'

const empty = emptyOutline()

/** Fields of derived things are given as they come to. */
function solve(outline: Outline, fields: OutlineValues['fields'] = new Map()) {
  const values = new Map(
    outline.constraints.flatMap(({ id, value }) => (value === undefined ? [] : [[id, Number(value)] as const])),
  )
  return solveOutline(outline, { values, taken: new Map(), fields })
}
function drawn(work: (sketch: Sketch) => void): Outline {
  const sketch = new Sketch(empty)
  work(sketch)
  return sketch.outline
}
const at = (x: number, y: number) => ({ at: [x, y] as Vec2 })
const cut = (result: ReturnType<typeof trimmed>) => {
  if (!isCut(result)) throw new Error(result.detail)
  return result
}
const boxed = drawn((s) => s.rectangle(at(0, 0), at(40, 20), false))

describe('drawing', () => {
  it('a rectangle is four lines held across and up, and a region', () => {
    const solved = solve(boxed)
    expect(solved.problems).toEqual([])
    expect(solved.drawn!.area()).toBeCloseTo(800, 9)
    expect(freedomOf(solved.system, solved.solution.x).moves).toBe(4)
    const middle = drawn((s) => s.rectangle(at(0, 0), at(20, 10), true))
    expect(solve(middle).drawn!.area()).toBeCloseTo(800, 9)
    expect(solve(middle).points.get('p3')).toEqual([20, 10])
  })
  it('a polygon stays regular, a slot stays a slot, when one of their points is pulled', () => {
    const six = drawn((s) => s.polygon(at(0, 0), at(10, 0), 6))
    expect(solve(six).drawn!.area()).toBeCloseTo(((3 * Math.sqrt(3)) / 2) * 100, 6)
    // Its middle, its size and its turn.
    expect(freedomOf(solve(six).system, solve(six).solution.x).moves).toBe(4)
    const slot = drawn((s) => s.slot(at(0, 0), at(20, 0), 4))
    const solved = solve(slot)
    expect(solved.drawn!.area()).toBeCloseTo(20 * 8 + 16 * Math.PI, 6)
    const held = new Sketch(slot)
    held.hold('radius', ['a1'], '6')
    expect(solve(held.outline).solution.solved).toBe(true)
    expect(solve(held.outline).drawn!.loops[0]!.segments).toHaveLength(4)
  })
  it('arcs go on smoothly, or through three points', () => {
    const outline = drawn((s) => {
      s.line(at(0, 0), at(20, 0))
      s.tangentArc({ at: [20, 0], point: 'p2' }, [1, 0], 'l1', at(30, 10))
      s.arc({ at: [30, 10], point: 'p3' }, [20, 22], at(10, 14))
    })
    const solved = solve(outline)
    expect(solved.problems).toEqual([])
    expect(distance2(solved.points.get('p4')!, [20, 10])).toBeLessThan(1e-9)
    expect(solved.drawnCurves.get('a2')).toHaveLength(1)
  })
  it('every kind of curve makes segments of its points, and none of points that fall together', () => {
    for (const { kind, points } of curves) {
      const count = Math.max(points.least, Math.min(points.most, 4))
      const places = Array.from({ length: count }, (_, i): Vec2 => [10 * i, (i % 2) * 7])
      const values = { text: 'Port', font: 'sans', height: 8, turn: 30 }
      expect(curveOf(kind)!.segments(places, 3, values).length, kind).toBeGreaterThan(0)
      if (kind !== 'letters' && kind !== 'circle')
        expect(
          curveOf(kind)!
            .segments(
              places.map((): Vec2 => [1, 1]),
              0,
              values,
            )
            .filter(({ kind: k }) => k !== 'cubic'),
          kind,
        ).toEqual([])
    }
  })
  it('curves through points pass through them without a corner, closed ones all round', () => {
    const wave = curveOf('through')!
    const start: Vec2 = [0, 0]
    const spots: Vec2[] = [start, [10, 5], [20, 0], [12, -8], start]
    const closed = wave.segments(spots, 0, {})
    expect(closed).toHaveLength(4)
    const cubic = (i: number) => (closed[(i + 4) % 4] as { points: readonly Vec2[] }).points
    for (let i = 0; i < 4; i++) {
      expect(cubic(i)[0]).toEqual(spots[i])
      const [c, d] = [cubic(i - 1)[2]!, cubic(i - 1)[3]!]
      const [a, b] = [cubic(i)[0]!, cubic(i)[1]!]
      const turn = (d[0] - c[0]) * (b[1] - a[1]) - (d[1] - c[1]) * (b[0] - a[0])
      expect(Math.abs(turn)).toBeLessThan(1e-9)
    }
    const near = curveOf('near')!.segments(
      [
        [0, 0],
        [10, 10],
        [20, -10],
        [30, 0],
        [40, 8],
      ],
      0,
      {},
    )
    expect(near).toHaveLength(2)
    expect((near[1] as { points: readonly Vec2[] }).points[3]).toEqual([40, 8])
  })
  it('what is removed takes with it what hangs on it, and nothing else', () => {
    const rest = withoutParts(boxed, new Set(['l1']))
    expect(rest.curves.map(({ id }) => id)).toEqual(['l2', 'l3', 'l4'])
    expect(rest.points).toHaveLength(4)
    expect(rest.constraints).toHaveLength(3)
    expect(withoutParts(boxed, new Set(['p1'])).curves.map(({ id }) => id)).toEqual(['l2', 'l3'])
    expect(withoutParts(boxed, new Set(boxed.curves.map(({ id }) => id))).points).toEqual([])
  })
  it('ends that are joined become one point', () => {
    const gap = drawn((s) => {
      s.line(at(0, 0), at(10, 0))
      s.line(at(10.1, 0), at(10, 8))
    })
    const joined = joinedInto(gap, 'p2', 'p3')
    expect(joined.points).toHaveLength(3)
    expect(joined.curves[1]!.points).toEqual(['p2', 'p4'])
  })
  it('an arc whose ends are joined is a circle, and what comes to nothing is gone', () => {
    const nearly = drawn((s) => s.arc(at(10, 0), [-10, 0], at(10, -0.5)))
    const whole = solve(joinedInto(nearly, 'p1', 'p2'))
    expect(whole.outline.curves).toMatchObject([{ id: 'a1', kind: 'circle', points: ['p3'] }])
    expect(whole.arrangement.faces).toHaveLength(1)
    expect(freedomOf(whole.system, whole.solution.x).moves).toBe(4)
    const slot = drawn((s) => s.slot(at(0, 0), at(20, 0), 3))
    const [middle, end] = slot.curves.find(({ kind }) => kind === 'arc')!.points as [string, string]
    const less = joinedInto(slot, middle, end)
    expect(less.curves.length).toBeLessThan(slot.curves.length)
    expect(solve(less).solution.solved).toBe(true)
  })
  it('an arc that is all but straight is refused, as a straight one is', () => {
    const sketch = new Sketch(empty)
    expect(sketch.arc(at(0, 0), [15, 1e-9], at(30, 0))).toBeUndefined()
    expect(sketch.tangentArc(at(0, 0), [1, 0], 'l1', at(30, 1e-7))).toBeUndefined()
    expect(sketch.outline).toBe(empty)
  })
})

describe('what is meant while drawing', () => {
  const solved = solve(boxed)
  it('is told, and left out where it is refused', () => {
    const on = infer(solved, [0.3, 0.2], { within: 1 })
    expect(on.spot.point).toBe('p1')
    expect(on.told).toEqual(['on point p1'])
    expect(infer(solved, [0.3, 0.2], { within: 1, refused: true })).toMatchObject({
      spot: { at: [0.3, 0.2] },
      told: [],
    })
  })
  it('knows midpoints, curves, level and upright lines and what goes on from a curve', () => {
    expect(infer(solved, [20.4, 20.3], { within: 1 }).spot.hold).toEqual({ kind: 'midpoint', of: 'l3' })
    expect(infer(solved, [29, 20.3], { within: 1 }).spot).toEqual({ at: [29, 20], hold: { kind: 'on', of: 'l3' } })
    const level = infer(solved, [60, 10.4], { within: 1, line: true, from: at(50, 10) })
    expect(level.spot.at).toEqual([60, 10])
    expect(level.wishes).toEqual([{ kind: 'horizontal', of: ['$'] }])
    const square = infer(solve(drawn((s) => s.line(at(0, 0), at(10, 10)))), [4.8, 15.1], {
      within: 1,
      line: true,
      from: { at: [10, 10], point: 'p2' },
    })
    expect(square.told).toEqual(['perpendicular to l1'])
    const level2 = infer(solved, [60, 20.3], { within: 1 })
    expect(level2.told).toEqual(['level with a point'])
    expect(level2.spot.at[1]).toBe(20)
  })
})

describe('level with a point or above it', () => {
  const points = [
    [-8.1, 6.9],
    [13.7, -11.3],
    [-8.4, -30.1],
    [31.3, 20.9],
  ] as const
  const solved = solve(drawn((s) => points.forEach((p) => void s.point({ at: p }))))
  const seen = (x: number, y: number) => {
    const { spot, told, guides } = infer(solved, [x, y], { within: 1 })
    return { at: spot.at, told, from: guides?.map(([from]) => from) }
  }
  it('is where it is within half of what is near, whichever side of the axes it lies on', () => {
    for (const p of points)
      for (const off of [-0.37, 0.21]) {
        expect(seen(70.3, p[1] + off)).toEqual({ at: [70.3, p[1]], told: ['level with a point'], from: [p] })
        expect(seen(70.3, p[1] + 0.51 * Math.sign(off)).told).toEqual([])
      }
    const [a, b] = [points[1], points[3]]
    expect(seen(a[0] - 0.3, 70.3)).toEqual({ at: [a[0], 70.3], told: ['above a point'], from: [a] })
    expect(seen(a[0] + 0.6, 70.3).told).toEqual([])
    expect(seen(a[0] + 0.4, b[1] - 0.2)).toEqual({
      at: [a[0], b[1]],
      told: ['level with a point', 'above a point'],
      from: [b, a],
    })
  })
  it('is the nearer one of two', () => {
    expect(seen(-8.2, 70.3).from).toEqual([points[0]])
    expect(seen(-8.2, -70.3).from).toEqual([points[2]])
  })
})

describe('cutting', () => {
  const cross = drawn((s) => {
    s.line(at(0, 0), at(30, 0))
    s.line(at(10, -5), at(10, 5))
    s.line(at(20, -5), at(20, 5))
    s.circle(at(20, 0), 3)
  })
  const solved = solve(cross)
  it('takes out the stretch that was pointed at', () => {
    const middle = cut(trimmed(solved, 'l1', [13, 0]))
    const pieces = middle.curves.filter(({ kind, id }) => kind === 'line' && !['l2', 'l3'].includes(id))
    expect(pieces).toHaveLength(2)
    const after = solve(middle)
    expect(after.problems).toEqual([])
    expect(after.drawnCurves.get('l1')).toMatchObject([{ from: [0, 0], to: [10, 0] }])
    expect(cut(trimmed(solved, 'l1', [5, 0])).curves.find(({ id }) => id === 'l1')!.points).not.toContain('p1')
  })
  it('makes an arc of a circle, under its own id', () => {
    const arc = cut(trimmed(solved, 'c1', [23, 0.1]))
    expect(arc.curves.find(({ id }) => id === 'c1')!.kind).toBe('arc')
    const [segment] = solve(arc).drawnCurves.get('c1')!
    expect(segment).toMatchObject({ kind: 'arc' })
  })
  it('lengthens to what lies in the way, and tells where nothing does', () => {
    const short = drawn((s) => {
      s.line(at(0, 0), at(5, 0))
      s.line(at(12, -5), at(12, 5))
    })
    const long = solve(cut(extended(solve(short), 'l1', [5, 0])))
    expect(long.points.get('p2')).toEqual([12, 0])
    expect(extended(solve(short), 'l1', [0, 0])).toEqual({ detail: 'Nothing lies in the way of this end.' })
  })
  it('makes two of one', () => {
    const two = cut(split(solved, 'l1', [15, 0]))
    expect(two.curves.filter(({ kind }) => kind === 'line')).toHaveLength(4)
    expect(solve(two).drawnCurves.get('l1')).toMatchObject([{ to: [15, 0] }])
    const halves = cut(split(solved, 'c1', [23, 0]))
    expect(halves.curves.filter(({ kind }) => kind === 'arc')).toHaveLength(2)
  })
})

describe('a drawing of very many curves', () => {
  const many = drawn((s) => {
    for (let i = 0; i < 401; i++) s.circle(at(10 * (i % 21), 10 * Math.floor(i / 21)), 3)
  })
  it('keeps its regions while something is dragged, and finds them when it is let go', () => {
    const before = solve(many)
    expect(before.filled).toHaveLength(401)
    const x = before.solution.x.slice()
    x[before.system.sizes.get('c1')!] = 4
    const solution = { x, residual: 0, solved: true }
    const along = shownOutline(many, before.values, before.system, solution, before)
    expect(along.arrangement).toBe(before.arrangement)
    expect(along.drawnCurves.get('c1')).toMatchObject([{ radius: 4 }])
    expect(shownOutline(many, before.values, before.system, solution).drawn!.area()).toBeCloseTo(
      (400 * 9 + 16) * Math.PI,
      6,
    )
    const few = { ...many, curves: many.curves.slice(0, 3) }
    const small = solve(few)
    expect(shownOutline(few, small.values, small.system, small.solution, small).arrangement).not.toBe(small.arrangement)
  })
  it('keeps curves that did not change, for what is known of them', () => {
    const [one, two] = [solve(many), solve(many)]
    expect(two.drawnCurves.get('c7')).toBe(one.drawnCurves.get('c7'))
    const moved = { ...many, points: many.points.map((p) => (p.id === 'p7' ? { ...p, at: [500, 500] as const } : p)) }
    expect(solve(moved).drawnCurves.get('c7')).toMatchObject([{ centre: [500, 500] }])
  })
})

describe('lengthening what is bent', () => {
  const ends = (outline: Outline, id: string) => {
    const segments = solve(outline).drawnCurves.get(id)!
    return { segments, start: startOf(segments[0]!), end: endOf(segments.at(-1)!) }
  }
  it('goes on as the cubic that it is, in one piece where it is one', () => {
    const bow = drawn((s) => {
      s.spline('near', [at(0, 0), at(5, 5), at(10, 6), at(15, 4)], false)
      s.line(at(22, -20), at(22, 20))
      s.line(at(-3, -20), at(-3, 20))
    })
    const before = ends(bow, 's1').segments[0]!
    const right = cut(extended(solve(bow), 's1', [14, 4]))
    expect(right.curves).toHaveLength(3)
    const longer = ends(right, 's1')
    expect(longer.end[0]).toBeCloseTo(22, 9)
    // What was there before is still on it, to the last digit.
    for (const t of [0.1, 0.5, 0.9])
      expect(nearestOn(longer.segments[0]!, pointAt(before, t)).distance).toBeLessThan(1e-9)
    const left = ends(cut(extended(solve(bow), 's1', [1, 1])), 's1')
    expect(left.start[0]).toBeCloseTo(-3, 9)
    expect(left.end).toEqual([15, 4])
  })
  it('gets one more cubic behind a longer spline, without a corner, and tells where it cannot', () => {
    const wave = drawn((s) => {
      s.spline('through', [at(0, 0), at(10, 8), at(20, -8), at(30, 0)], false)
      s.line(at(40, -30), at(40, 60))
      s.ellipse(at(60, 0), at(72, 0), 5)
    })
    const more = cut(extended(solve(wave), 's1', [29, 0]))
    const { start, end, segments } = ends(more, 's2')
    expect(start).toEqual([30, 0])
    expect(end[0]).toBeCloseTo(40, 9)
    const [before, after] = [ends(more, 's1').segments.at(-1)!, segments[0]!]
    expect(curvatureAt(after, 0)).toBeCloseTo(curvatureAt(before, 1), 6)
    expect(solve(more).problems).toEqual([])
    expect(extended(solve(wave), 's1', [1, 1])).toEqual({ detail: 'Nothing lies in the way of this end.' })
    expect(extended(solve(more), 's1', [29, 0])).toEqual({ detail: 'This end is joined to another curve already.' })
    expect(extended(solve(wave), 'e1', [72, 0])).toEqual({ detail: 'A closed curve has no end to lengthen.' })
  })
})

describe('cutting what is bent', () => {
  const wave = drawn((s) => {
    s.spline('through', [at(0, 0), at(10, 8), at(20, -8), at(30, 0)], false)
    s.line(at(12, -20), at(12, 20))
    s.line(at(25, -20), at(25, 20))
    s.ellipse(at(60, 0), at(72, 0), 5)
    s.line(at(60, -20), at(60, 20))
  })
  const solved = solve(wave)
  const lengthOn = (outline: Outline, keep: (id: string) => boolean) =>
    [...solve(outline).drawnCurves]
      .filter(([id]) => keep(id))
      .reduce((sum, [, segments]) => sum + segments.reduce((s, each) => s + lengthOf(each), 0), 0)
  const isSpline = (id: string) => id.startsWith('s')
  it('leaves the rest of a curve in its form', () => {
    const whole = lengthOn(wave, isSpline)
    const outer = cut(trimmed(solved, 's1', [18, -6]))
    const ends = cut(trimmed(solved, 's1', [2, 2]))
    expect(solve(outer).problems).toEqual([])
    // What is left, and what is left where the rest is taken out.
    const middle = cut(trimmed(solve(ends), [...solve(ends).drawnCurves.keys()].filter(isSpline).at(-1)!, [29, 0]))
    expect(lengthOn(outer, isSpline)).toBeLessThan(whole)
    expect(lengthOn(outer, isSpline) + lengthOn(middle, isSpline)).toBeCloseTo(whole, 3)
    expect(outer.points.map(({ id }) => id)).toEqual(expect.arrayContaining(['p1', 'p4']))
  })
  it('keeps the form of every curve that is split, all along it', () => {
    const random = randomFrom(41)
    const within = (least: number, most: number) => least + (most - least) * random()
    const anywhere = () => at(within(-40, 60), within(-30, 30))
    for (let run = 0; run < 60; run++) {
      const kind = (['through', 'near', 'ellipse'] as const)[run % 3]!
      const sketch = new Sketch(emptyOutline())
      const count = 3 + Math.floor(random() * 9)
      const closed = random() < 0.4
      const id =
        kind === 'ellipse'
          ? sketch.ellipse(anywhere(), anywhere(), within(0.3, 30))
          : sketch.spline(kind, Array.from({ length: count }, anywhere), closed)
      const whole = solve(sketch.outline)
      const before = whole.drawnCurves.get(id)!
      const segment = before[Math.floor(random() * before.length)]!
      const parts = solve(cut(split(whole, id, pointAt(segment, within(0.02, 0.98)))))
      expect(parts.problems).toEqual([])
      const after = [...parts.drawnCurves.values()].flat()
      const apart = (from: readonly Segment[], to: readonly Segment[]) =>
        Math.max(
          ...from.flatMap((s) =>
            [0, 0.13, 0.5, 0.71, 1].map((t) => {
              const p = pointAt(s, t)
              return Math.min(...to.map((other) => nearestOn(other, p).distance))
            }),
          ),
        )
      // Ellipses become cubics, which run along them to a hundred-thousandth of their size.
      const size = kind === 'ellipse' ? 1e-5 * lengthOf(before[0]!) : 1e-7
      expect(apart(before, after), `${kind} ${run}`).toBeLessThan(size)
      expect(apart(after, before), `${kind} ${run}`).toBeLessThan(size)
    }
  })
  it('takes half of an ellipse out', () => {
    const half = cut(trimmed(solved, 'e1', [72, 0.1]))
    expect(half.curves.some(({ kind }) => kind === 'ellipse')).toBe(false)
    const back = solve(half)
    expect(back.problems).toEqual([])
    expect(lengthOn(half, isSpline) - lengthOn(wave, isSpline)).toBeCloseTo(lengthOn(wave, (id) => id === 'e1') / 2, 3)
  })
  it('makes two of one, and opens what was closed', () => {
    const two = cut(split(solved, 's1', [10, 8]))
    expect(lengthOn(two, isSpline)).toBeCloseTo(lengthOn(wave, isSpline), 4)
    const opened = cut(split(solved, 'e1', [72, 0]))
    expect(solve(opened).problems).toEqual([])
    expect(lengthOn(opened, isSpline) - lengthOn(wave, isSpline)).toBeCloseTo(
      lengthOn(wave, (id) => id === 'e1'),
      3,
    )
  })
})

describe('what is derived', () => {
  const derive = (kind: string, of: readonly string[], values: Record<string, number | string>, outline = boxed) => {
    const sketch = new Sketch(outline)
    const id = sketch.derive(kind, of, {})
    return solve(sketch.outline, new Map([[id, values]]))
  }
  it('rounds and bevels corners, and tells what does not fit', () => {
    expect(derive('corner', ['p1', 'p2', 'p3', 'p4'], { form: 'round', size: 5 }).drawn!.area()).toBeCloseTo(
      800 - (4 - Math.PI) * 25,
      9,
    )
    expect(derive('corner', ['p1'], { form: 'bevel', size: 5 }).drawn!.area()).toBeCloseTo(800 - 12.5, 9)
    const fault = derive('corner', ['p1'], { form: 'round', size: 50 }).problems
    expect(fault.map(({ code }) => code)).toEqual(['derived-failed'])
    expect(fault[0]!.text).toMatch(/50 mm/)
    // As long as both sides have something left: the shorter one is 20, before it or behind it.
    for (const point of ['p1', 'p2', 'p3', 'p4'])
      for (const [form, lost] of [
        ['round', 1 - Math.PI / 4],
        ['bevel', 1 / 2],
      ] as const) {
        const fits = derive('corner', [point], { form, size: 19.9 })
        expect(fits.problems).toEqual([])
        expect(fits.drawn!.area()).toBeCloseTo(800 - lost * 19.9 ** 2, 6)
        expect(derive('corner', [point], { form, size: 20.1 }).problems[0]!.text).toMatch(/20\.1 mm/)
      }
  })
  it('rounds the corner between a line and an arc so that it touches both', () => {
    const outline = drawn((s) => {
      s.line(at(0, 0), at(20, 0))
      s.arc({ at: [20, 0], point: 'p2' }, [10, 16], { at: [0, 0], point: 'p1' })
    })
    const solved = derive('corner', ['p1', 'p2'], { form: 'round', size: 2 }, outline)
    expect(solved.problems).toEqual([])
    const { segments } = solved.drawn!.loops[0]!
    expect(segments).toHaveLength(4)
    expect(solved.drawn!.area()).toBeLessThan(solve(outline).drawn!.area())
  })
  it('offsets to a ring, mirrors, and repeats', () => {
    expect(
      derive('offset', ['l1', 'l2', 'l3', 'l4'], { by: 2, side: 'inside', corners: 'sharp' }).drawn!.area(),
    ).toBeCloseTo(800 - 36 * 16, 9)
    const both = derive('offset', ['l1', 'l2', 'l3', 'l4'], { by: 2, side: 'both', corners: 'sharp' })
    expect(both.arrangement.faces).toHaveLength(3)
    const side = drawn((s) => s.rectangle(at(5, 0), at(15, 10), false))
    expect(derive('mirror', ['l1', 'l2', 'l3', 'l4', 'y-axis'], {}, side).drawn!.area()).toBeCloseTo(200, 9)
    expect(derive('row', ['l1', 'l2', 'l3', 'l4'], { count: 3, x: 20, y: 0 }, side).drawn!.area()).toBeCloseTo(300, 9)
    expect(
      derive('ring', ['l1', 'l2', 'l3', 'l4'], { count: 4, angle: 360 }, side).drawn!.loops.length,
    ).toBeGreaterThan(0)
    expect(derive('row', ['l1'], { count: 3, x: 0, y: 0 }, side).problems[0]!.text).toMatch(/lie on the drawn one/)
  })
  it('mirrors in any line, and repeats in a row, without a turn', () => {
    const from = [3.1, -7.2] as const
    for (const to of [
      [2, -9.1],
      [30, 0.4],
      [3.1, 40],
      [-8, -7.2],
    ] as const) {
      const both = drawn((s) => {
        s.rectangle(at(15.3, 21 / 3), at(17.1, 9.1), false)
        s.line(at(from[0], from[1]), at(to[0], to[1]))
      })
      const { drawn: made, problems } = derive('mirror', ['l1', 'l2', 'l3', 'l4', 'l5'], {}, both)
      expect(problems).toEqual([])
      const corners = made!.loops.flatMap(({ segments }) => segments.map(startOf))
      expect(corners).toHaveLength(8)
      const long = Math.hypot(to[0] - from[0], to[1] - from[1])
      const [u, v] = [(to[0] - from[0]) / long, (to[1] - from[1]) / long]
      for (const [x, y] of corners) {
        // Its image is as far from the line on the other side, at the same place along it.
        const [along, off] = [(x - from[0]) * u + (y - from[1]) * v, (y - from[1]) * u - (x - from[0]) * v]
        const image = [from[0] + along * u + off * v, from[1] + along * v - off * u] as const
        const far = corners.map(([p, q]) => Math.hypot(p - image[0], q - image[1]))
        expect(Math.min(...far)).toBeLessThan(1e-9)
      }
    }
    const row = derive('row', ['l1', 'l2', 'l3', 'l4'], { count: 4, x: 41.3, y: -7.7 }).drawn!
    const lows = row.loops.map(({ segments }) => {
      const starts = segments.map(startOf)
      return [Math.min(...starts.map(([x]) => x)), Math.min(...starts.map(([, y]) => y))]
    })
    expect(lows.sort((p, q) => p[0]! - q[0]!).flat()).toEqual(
      [0, 0, 41.3, -7.7, 82.6, -15.4, 123.9, -23.1].map((x) => expect.closeTo(x, 9)),
    )
  })
  it('repeats round the origin, or round a point of it, with one at each end of less than a whole turn', () => {
    const small = drawn((s) => {
      s.rectangle(at(15.3, 1 / 3), at(17.1, 2.1), false)
      s.line(at(3.1, -7.2), at(2, -7.2))
    })
    const middle = (segments: readonly Segment[]) => {
      const starts = segments.map(startOf)
      return [0, 1].map((k) => starts.reduce((sum, p) => sum + p[k]! / starts.length, 0)) as [number, number]
    }
    for (const [of, centre] of [
      [[], [0, 0]],
      [['p5'], [3.1, -7.2]],
    ] as const)
      for (const [count, angle, step] of [
        [3, 100, 50],
        [4, -75, -25],
        [2, 37.3, 37.3],
        [5, 360, 72],
        [6, -360, -60],
        [1, 90, 0],
      ] as const) {
        const { drawn: made, problems } = derive('ring', ['l1', 'l2', 'l3', 'l4', ...of], { count, angle }, small)
        expect(problems).toEqual([])
        expect(made!.loops).toHaveLength(count)
        const [x, y] = [16.2 - centre[0], (1 / 3 + 2.1) / 2 - centre[1]]
        for (let i = 0; i < count; i++) {
          const rad = (i * step * Math.PI) / 180
          const wanted = [
            centre[0] + x * Math.cos(rad) - y * Math.sin(rad),
            centre[1] + x * Math.sin(rad) + y * Math.cos(rad),
          ]
          const off = made!.loops.map(({ segments }) => {
            const [p, q] = middle(segments)
            return Math.hypot(p - wanted[0]!, q - wanted[1]!)
          })
          expect(Math.min(...off), `${count} ${angle} ${i}`).toBeLessThan(1e-9)
        }
      }
    expect(derive('ring', ['l1'], { count: 3, angle: 0 }, small).problems[0]!.text).toMatch(/lie on the drawn one/)
  })
  it('every kind tells what it is put on, and what its fields mean', () => {
    for (const { kind, fields, sentence, takes, meaning } of derivedKinds) {
      expect(takes, kind).not.toBe('')
      expect(meaning).toMatch(/\.$/)
      for (const part of sentence({} as never)) if (typeof part === 'object') expect(fields).toHaveProperty(part.field)
    }
  })
})

describe('a solved outline', () => {
  it('knows what its dimensions measure, also those that only tell', () => {
    const solved = solve(boxed)
    expect(measuredBy(solved, { kind: 'distance', of: ['l1'] })).toBeCloseTo(40, 9)
    expect(measuredBy(solved, { kind: 'angle', of: ['l1', 'l2'] })).toBeCloseTo(90, 6)
    expect(measuredBy(solved, { kind: 'radius', of: ['l1'] })).toBeUndefined()
  })
  it('leaves out and takes in regions', () => {
    const ring = drawn((s) => {
      s.rectangle(at(0, 0), at(40, 20), false)
      s.circle(at(20, 10), 5)
    })
    expect(solve(ring).drawn!.area()).toBeCloseTo(800 - 25 * Math.PI, 9)
    expect(solve({ ...ring, toggled: ['+c1'] }).drawn!.area()).toBeCloseTo(800, 9)
  })
  it('settles its points where they are, and is the same afterwards', () => {
    const sketch = new Sketch(boxed)
    sketch.hold('distance', ['l1'], '60')
    const solved = solve(sketch.outline)
    const kept = settled(solved, solved.solution)
    expect(
      kept.points.find(({ id }) => id === 'p2')!.at[0] - kept.points.find(({ id }) => id === 'p1')!.at[0],
    ).toBeCloseTo(60, 8)
    expect(solve(kept).drawn!.key).toBe(solved.drawn!.key)
  })
  it('tells what is on things that it cannot be on', () => {
    const held = drawn((s) => {
      s.circle(at(0, 0), 5)
      s.ellipse(at(20, 0), at(28, 0), 4)
      s.hold('on', ['p1', 'c1'])
      s.hold('on', ['p2', 'e1'])
    })
    expect(solve(held).problems.map(({ code, path }) => [code, path.at(-1)])).toEqual([
      ['outline-unfit', 'k1'],
      ['outline-unfit', 'k2'],
    ])
    expect(solve(held).drawnCurves.get('c1')).toMatchObject([{ radius: 5 }])
  })
  it('tells what contradicts, and gives nothing to make shapes of then', () => {
    const sketch = new Sketch(boxed)
    sketch.hold('distance', ['l1'], '60')
    sketch.hold('distance', ['l3'], '50')
    const solved = solve(sketch.outline)
    expect(solved.drawn).toBeUndefined()
    expect(solved.problems.map(({ code }) => code)).toEqual(['outline-conflict'])
    expect(solved.problems[0]!.text).toMatch(/distance 60 and distance 50/)
  })
})
