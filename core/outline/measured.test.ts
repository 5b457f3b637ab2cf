import { describe, expect, it } from 'vitest'
import { distance2, minus, norm2, plus, times, type Vec2 } from '../plane/index.ts'
import { emptyOutline, randomFrom } from '../testing/outlines.ts'
import { amountOf, constraints, measuredPlace, refsOf, Sketch, type SolvedOutline, solveOutline } from './index.ts'

const solve = (sketch: Sketch): SolvedOutline =>
  solveOutline(sketch.outline, { values: new Map(), taken: new Map(), fields: new Map() })

/** Points, lines, circles, an arc and an ellipse anywhere, by what constraints see of them. */
function strewn(random: () => number) {
  const sketch = new Sketch(emptyOutline())
  const place = (): Vec2 => [80 * random() - 40.3, 60 * random() - 29.9]
  const several = (make: () => string) => Array.from({ length: 3 }, make)
  const things = {
    point: several(() => sketch.point({ at: place() })),
    line: several(() => sketch.line({ at: place() }, { at: place() })),
    round: [
      ...several(() => sketch.circle({ at: place() }, 2 + 40 * random())),
      sketch.arc({ at: place() }, place(), { at: place() })!,
    ],
    bent: [sketch.ellipse({ at: place() }, { at: place() }, 3 + 9 * random())],
  }
  return { sketch, things }
}

const dimensions = constraints.flatMap((definition) =>
  'value' in definition ? definition.takes.map((takes) => [definition.kind, takes.join(' and '), takes] as const) : [],
)

describe.each(dimensions)('a dimension: %s of %s', (kind, _, takes) => {
  const definition = constraints.find((each) => each.kind === kind)!
  it('asks for no change where it asks for what it measures', () => {
    const random = randomFrom(41)
    for (let run = 0; run < 200; run++) {
      const { sketch, things } = strewn(random)
      const solved = solve(sketch)
      const { x } = solved.solution
      // No thing twice.
      const of = takes.map((each, i) => things[each][(run + i) % things[each].length]!)
      const measured = measuredPlace(solved, { kind, of })!
      const refs = of.map((id) => refsOf(solved.system)(id)!)
      const context = { start: x, same: () => false, liesOn: () => false, value: amountOf(measured) }
      const out = new Float64Array(1)
      definition.equation(refs, context)!.residual(x, out, 0)
      expect(Math.abs(out[0]!)).toBeLessThan(1e-9)
      // And for one where it asks for another value.
      definition.equation(refs, { ...context, value: context.value + 0.37 })!.residual(x, out, 0)
      expect(Math.abs(out[0]!)).toBeGreaterThan(1e-3)
      expect(context.value).toBeGreaterThan(0)
    }
  })
})

describe('where a distance is measured', () => {
  const random = randomFrom(7)
  const ends = (solved: SolvedOutline, of: readonly string[]) => {
    const measured = measuredPlace(solved, { kind: 'distance', of })!
    if (measured.kind !== 'length') throw new Error('a distance is a length')
    return measured
  }
  it('is from rim to rim of rounds, on the line of their middles, and no shorter way leads from rim to rim', () => {
    for (let run = 0; run < 200; run++) {
      const { sketch, things } = strewn(random)
      const solved = solve(sketch)
      const [one, other] = things.round.slice(run % 3).concat(things.round) as [string, string]
      const round = (id: string) => {
        const [segment] = solved.drawnCurves.get(id)!
        if (segment?.kind !== 'arc') throw new Error('a round is an arc')
        return segment
      }
      const [a, b] = [round(one), round(other)]
      const { from, to } = ends(solved, [one, other])
      expect(distance2(from, a.centre)).toBeCloseTo(a.radius, 9)
      expect(distance2(to, b.centre)).toBeCloseTo(b.radius, 9)
      const apart = distance2(a.centre, b.centre)
      if (apart < a.radius + b.radius && apart > Math.abs(a.radius - b.radius)) continue
      const on = (centre: Vec2, radius: number, rad: number) =>
        plus(centre, times([Math.cos(rad), Math.sin(rad)], radius))
      for (let i = 0; i < 50; i++) {
        const any = distance2(on(a.centre, a.radius, 7 * random()), on(b.centre, b.radius, 7 * random()))
        expect(distance2(from, to)).toBeLessThanOrEqual(any + 1e-9)
      }
    }
  })
  it('ends on what it is measured from: on the line and square to it, on the rim', () => {
    for (let run = 0; run < 200; run++) {
      const { sketch, things } = strewn(random)
      const solved = solve(sketch)
      const [line, round, point] = [things.line[run % 3]!, things.round[run % 4]!, things.point[run % 3]!]
      const [drawn] = solved.drawnCurves.get(line)!
      if (drawn?.kind !== 'line') throw new Error('a line is a line')
      const way = minus(drawn.to, drawn.from)
      const square = (p: Vec2, q: Vec2) => {
        const d = minus(q, p)
        return Math.abs(d[0] * way[0] + d[1] * way[1]) / norm2(way) / Math.max(1, norm2(d))
      }
      const toRim = ends(solved, [line, round])
      expect(square(toRim.from, toRim.to)).toBeLessThan(1e-9)
      const fromPoint = ends(solved, [point, line])
      expect(fromPoint.from).toEqual(solved.points.get(point))
      expect(square(fromPoint.from, fromPoint.to)).toBeLessThan(1e-9)
      for (const foot of [toRim.from, fromPoint.to]) {
        const d = minus(foot, drawn.from)
        expect(Math.abs(way[0] * d[1] - way[1] * d[0]) / norm2(way)).toBeLessThan(1e-9)
      }
    }
  })
  it('stands square to a line through the middle of a round', () => {
    const sketch = new Sketch(emptyOutline())
    const line = sketch.line({ at: [-20, 7.1] }, { at: [31.3, 7.1] })
    const round = sketch.circle({ at: [4.2, 7.1] }, 15.3)
    const { from, to } = ends(solve(sketch), [line, round])
    expect(from).toEqual([expect.closeTo(4.2, 9), expect.closeTo(7.1, 9)])
    expect(Math.abs(to[1] - 7.1)).toBeCloseTo(15.3, 9)
  })
  it('lies within the sector of an angle that is measured', () => {
    for (let run = 0; run < 200; run++) {
      const { sketch, things } = strewn(random)
      const solved = solve(sketch)
      const measured = measuredPlace(solved, { kind: 'angle', of: things.line.slice(0, 2) })!
      if (measured.kind !== 'angle' || !measured.corner) throw new Error('these lines meet')
      const [m, n] = measured.legs.map((leg) => times(leg, 1 / norm2(leg))) as [Vec2, Vec2]
      const chord = norm2(minus(m, n))
      expect((2 * Math.asin(chord / 2) * 180) / Math.PI).toBeCloseTo(amountOf(measured), 6)
    }
  })
})
