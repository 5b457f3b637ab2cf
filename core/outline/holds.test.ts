import { describe, expect, it } from 'vitest'
import type { Outline } from '../document/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { emptyOutline, randomFrom } from '../testing/outlines.ts'
import { constraints, holdsFor, measuredBy, Sketch, solveOutline } from './index.ts'

const at = (x: number, y: number) => ({ at: [x, y] as Vec2 })
const solve = (outline: Outline) =>
  solveOutline(outline, {
    values: new Map(outline.constraints.flatMap(({ id, value }) => (value === undefined ? [] : [[id, Number(value)]]))),
    taken: new Map(),
    fields: new Map(),
  })

/** Five points, four lines, three circles and two curves, lying anyhow. */
function strewn(random: () => number) {
  const sketch = new Sketch(emptyOutline())
  const anywhere = () => at(80 * random() - 40.3, 60 * random() - 29.9)
  const points = Array.from({ length: 6 }, () => sketch.point(anywhere()))
  const lines = Array.from({ length: 4 }, () => sketch.line(anywhere(), anywhere()))
  const rounds = Array.from({ length: 3 }, () => sketch.circle(anywhere(), 2 + 9 * random()))
  const bent = Array.from({ length: 2 }, () => sketch.spline('through', [anywhere(), anywhere(), anywhere()], false))
  return { sketch, points, lines, rounds, bent }
}
type Strewn = ReturnType<typeof strewn>

/** Puts a constraint on a selection as it is offered, and solves. */
function held(all: Strewn, kind: string, ids: readonly string[]) {
  const hold = holdsFor(solve(all.sketch.outline), ids).find(({ definition }) => definition.kind === kind)
  if (!hold) return undefined
  const sketch = new Sketch(all.sketch.outline)
  for (const of of hold.each) sketch.hold(kind, of)
  return { each: hold.each, solved: solve(sketch.outline) }
}

describe('several things at once', () => {
  // What is chosen, how, and what each constraint is put on then: "p" a point, "l" a line, "r" a round, "b" a curve.
  it.each([
    ['on', 'ppppp r', 'pr pr pr pr pr'],
    ['on', 'pppp l', 'pl pl pl pl'],
    ['on', 'ppp b', 'pb pb pb'],
    ['on', 'p lll', 'pl pl pl'],
    ['on', 'p lr', 'pl pr'],
    ['coincident', 'pppp', 'pp pp pp'],
    ['horizontal', 'lll', 'l l l'],
    ['horizontal', 'pppp', 'pp pp pp'],
    ['vertical', 'll', 'l l'],
    ['vertical', 'ppp', 'pp pp'],
    ['fixed', 'ppp', 'p p p'],
    ['equal', 'llll', 'll ll ll'],
    ['equal', 'rrr', 'rr rr'],
    ['parallel', 'llll', 'll ll ll'],
    ['perpendicular', 'lll', 'll ll'],
    ['concentric', 'rrr', 'rr rr'],
    ['midpoint', 'p ll', 'pl pl'],
    ['tangent', 'lll r', 'lr lr lr'],
    ['tangent', 'l rrr', 'lr lr lr'],
    ['symmetric', 'pppp l', 'ppl ppl'],
    ['symmetric', 'pppppp l', 'ppl ppl ppl'],
    ['distance', 'llll', 'l l l l'],
    ['diameter', 'rrr', 'r r r'],
    ['radius', 'rrr', 'r r r'],
  ])('%s of %s is put on %s', (kind, chosen, wanted) => {
    const random = randomFrom(chosen.length * 7 + kind.length)
    const strewnOut = strewn(random)
    const next = { p: 0, l: 0, r: 0, b: 0 }
    const lists = { p: strewnOut.points, l: strewnOut.lines, r: strewnOut.rounds, b: strewnOut.bent }
    const ids = [...chosen.replaceAll(' ', '')].map((c) => lists[c as 'p'][next[c as 'p']++]!)
    const letter = (id: string) => Object.entries(lists).find(([, list]) => list.includes(id))![0]
    const result = held(strewnOut, kind, ids)
    expect(result?.each.map((of) => of.map(letter).join('')).join(' ')).toBe(wanted)
    // Everything that was chosen is held, and nothing else.
    expect(new Set(result!.each.flat())).toEqual(new Set(ids))
  })

  it.each([
    ['midpoint', 'ppp l'],
    ['symmetric', 'ppp l'],
    ['diameter', 'rr l'],
    ['distance', 'ppp'],
    ['tangent', 'pp r'],
  ])('%s of %s is not offered', (kind, chosen) => {
    const strewnOut = strewn(randomFrom(3))
    const next = { p: 0, l: 0, r: 0 }
    const lists = { p: strewnOut.points, l: strewnOut.lines, r: strewnOut.rounds }
    const ids = [...chosen.replaceAll(' ', '')].map((c) => lists[c as 'p'][next[c as 'p']++]!)
    expect(held(strewnOut, kind, ids)).toBeUndefined()
  })

  it('puts five points on one circle in one go', () => {
    const random = randomFrom(77)
    for (let run = 0; run < 20; run++) {
      const s = strewn(random)
      const { solved } = held(s, 'on', [...s.points.slice(0, 5), s.rounds[0]!])!
      expect(solved.problems).toEqual([])
      for (const p of s.points.slice(0, 5))
        expect(Math.abs(measuredBy(solved, { kind: 'distance', of: [p, s.rounds[0]!] })!)).toBeLessThan(1e-7)
    }
  })

  it('pairs points with those that are nearest to being their mirror images', () => {
    const sketch = new Sketch(emptyOutline())
    const line = sketch.line(at(0.3, -20), at(-0.2, 20))
    const left = [at(-10.3, 5), at(-7.1, -8), at(-15, 1)].map((spot) => sketch.point(spot))
    const right = [at(15.4, 0.7), at(10.1, 5.3), at(7.3, -7.7)].map((spot) => sketch.point(spot))
    const [hold] = holdsFor(solve(sketch.outline), [...left, ...right, line]).filter(
      ({ definition }) => definition.kind === 'symmetric',
    )
    const pairs = hold!.each.map(([a, b]) => [a!, b!].sort().join())
    expect(pairs.sort()).toEqual(
      [
        [left[0], right[1]],
        [left[1], right[2]],
        [left[2], right[0]],
      ]
        .map((pair) => pair.sort().join())
        .sort(),
    )
  })

  it('offers nothing that cannot be put on what it names', () => {
    const random = randomFrom(12)
    let offered = 0
    for (let run = 0; run < 150; run++) {
      const s = strewn(random)
      const pool = [...s.points, ...s.lines, ...s.rounds, ...s.bent, 'x-axis', 'y-axis', 'origin']
      const ids = [
        ...new Set(
          Array.from({ length: 1 + Math.floor(5 * random()) }, () => pool[Math.floor(pool.length * random())]!),
        ),
      ]
      for (const { definition, each } of holdsFor(solve(s.sketch.outline), ids)) {
        offered++
        const sketch = new Sketch(s.sketch.outline)
        for (const of of each) sketch.hold(definition.kind, of, definition.value ? '7.3' : undefined)
        const { problems } = solve(sketch.outline)
        expect(
          problems.map(({ code }) => code),
          `${definition.kind} ${ids}`,
        ).not.toContain('outline-unfit')
        expect(new Set(each.flat())).toEqual(new Set(ids))
      }
    }
    expect(offered).toBeGreaterThan(200)
    expect(constraints.length).toBeGreaterThan(15)
  })
})
