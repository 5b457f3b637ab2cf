import { describe, expect, it } from 'vitest'
import type { Outline } from '../document/index.ts'
import { innerPointOf, isWithin, type Vec2 } from '../plane/index.ts'
import { emptyOutline, randomFrom } from '../testing/outlines.ts'
import { isCut, regionsFollowed, Sketch, solveOutline, split, toggledAfter, trimmed, withRegions } from './index.ts'

const at = (x: number, y: number) => ({ at: [x, y] as Vec2 })
const solve = (outline: Outline) => solveOutline(outline, { values: new Map(), taken: new Map(), fields: new Map() })

/** A board with lines and circles strewn over it, so that regions touch, cross and lie in one another. */
function crowded(random: () => number) {
  const within = (least: number, most: number) => least + (most - least) * random()
  const some = (most: number) => Array.from({ length: Math.floor(random() * (most + 1)) }, (_, i) => i)
  const sketch = new Sketch(emptyOutline())
  sketch.rectangle(at(-35.3, -25.1), at(35.7, 24.9), false)
  for (const _ of [0, ...some(4)]) sketch.circle(at(within(-30, 30), within(-20, 20)), within(2.3, 17.1))
  for (const _ of some(3)) sketch.line(at(-40.2, within(-20, 20)), at(40.4, within(-20, 20)))
  return solve(sketch.outline)
}

describe('regions of an outline', () => {
  it('have a name each, and a point inside that lies in no other one', () => {
    const random = randomFrom(5)
    for (let run = 0; run < 150; run++) {
      const { faces } = crowded(random).arrangement
      expect(new Set(faces.map(({ key }) => key)).size).toBe(faces.length)
      for (const face of faces) {
        const inner = innerPointOf(face)
        expect(faces.filter((each) => isWithin(each, inner))).toEqual([face])
      }
    }
  })

  it('come to their areas together, whichever are chosen', () => {
    const random = randomFrom(6)
    for (let run = 0; run < 150; run++) {
      const solved = crowded(random)
      const chosen = solved.arrangement.faces.filter(() => random() < 0.5)
      const keys = chosen.map(({ key }) => key)
      const { drawn, gone } = withRegions(solved, keys)
      expect(gone).toEqual([])
      const areas = chosen.reduce((sum, { area }) => sum + area, 0)
      expect(drawn!.area()).toBeCloseTo(areas, 6)
    }
  })

  it('between a wave and a line across it are told apart, and taken one by one', () => {
    const sketch = new Sketch(emptyOutline())
    sketch.spline(
      'through',
      [0, 1, 2, 3, 4, 5, 6].map((i) => at(10 * i, i % 2 === 0 ? -4.3 : 4.3)),
      false,
    )
    sketch.line(at(-5, 0), at(65, 0))
    const solved = solve(sketch.outline)
    const { faces } = solved.arrangement
    const above = faces.filter((face) => innerPointOf(face)[1] > 0)
    expect(above.length).toBe(3)
    expect(new Set(above.map(({ key }) => key.replace(/ #\d+$/, ''))).size).toBe(1)
    // They are numbered along the curve that was drawn first.
    const sorted = [...above].sort((a, b) => innerPointOf(a)[0] - innerPointOf(b)[0])
    expect(sorted.map(({ key }) => / #(\d+)$/.exec(key)?.[1])).toEqual([undefined, '2', '3'])
    const { drawn } = withRegions(solved, [sorted[1]!.key])
    expect(drawn!.area()).toBeCloseTo(sorted[1]!.area, 9)
  })

  it('that are not there are told, and the rest is made', () => {
    const sketch = new Sketch(emptyOutline())
    sketch.circle(at(3.7, 1.1), 7.3)
    const solved = solve(sketch.outline)
    const [face] = solved.arrangement.faces
    const { drawn, gone } = withRegions(solved, [face!.key, '+gone'])
    expect(gone).toEqual(['+gone'])
    expect(drawn!.area()).toBeCloseTo(Math.PI * 7.3 ** 2, 9)
    expect(withRegions(solved, [face!.key, '+gone']).drawn).toBe(drawn)
  })

  it('leave open lines out', () => {
    const sketch = new Sketch(emptyOutline())
    sketch.circle(at(0, 0), 5)
    sketch.line(at(10, 0), at(20, 3))
    const solved = solve(sketch.outline)
    expect(solved.drawn!.open.length).toBe(1)
    expect(withRegions(solved, [solved.arrangement.faces[0]!.key]).drawn!.open).toEqual([])
  })
})

describe('regions whose curves were changed', () => {
  const follow = (before: Outline, after: Outline, keys: readonly string[]) => {
    const [was, now] = [solve(before), solve(after)]
    const followed = regionsFollowed(was.arrangement.faces, now.arrangement.faces, keys)
    return { was, now, followed: keys.map((key) => followed.get(key)?.map((face) => face.area) ?? 'as it was') }
  }
  /** A board of 60 × 40 with an upright line at 21.3 that bounds two regions. */
  function halved() {
    const sketch = new Sketch(emptyOutline())
    const sides = sketch.rectangle(at(0, 0), at(60, 40), false)
    const middle = sketch.line(at(21.3, -5), at(21.3, 45))
    return { sketch, sides, middle }
  }

  it('are the same where one of their curves is trimmed or split', () => {
    const { sketch, middle, sides } = halved()
    const solved = solve(sketch.outline)
    const left = solved.arrangement.faces.find((face) => innerPointOf(face)[0] < 21.3)!
    for (const cut of [trimmed(solved, middle, [21.3, 43]), split(solved, sides[0]!, [7.7, 0])]) {
      if (!isCut(cut)) throw new Error(cut.detail)
      const { now, followed } = follow(sketch.outline, cut, [left.key])
      const kept =
        followed[0] === 'as it was' ? now.arrangement.faces.find(({ key }) => key === left.key)!.area : followed[0]
      expect([kept].flat()[0]).toBeCloseTo(21.3 * 40, 6)
    }
  })

  it('are both halves of what a line parts, and the whole of what grew together', () => {
    const { sketch, middle } = halved()
    const two = sketch.outline
    const one: Outline = { ...two, curves: two.curves.filter(({ id }) => id !== middle) }
    const [whole] = solve(one).arrangement.faces
    const parted = follow(one, two, [whole!.key])
    expect((parted.followed[0] as number[]).sort((a, b) => a - b).map((area) => Math.round(area))).toEqual([852, 1548])
    const grown = follow(two, one, [solve(two).arrangement.faces[0]!.key])
    expect((grown.followed[0] as number[]).map((area) => Math.round(area))).toEqual([2400])
  })

  it('that were left out in the drawing stay so', () => {
    const { sketch, middle } = halved()
    const two = sketch.outline
    const one: Outline = { ...two, curves: two.curves.filter(({ id }) => id !== middle) }
    const out = { ...one, toggled: [solve(one).arrangement.faces[0]!.key] }
    expect(solve(out).drawn!.area()).toBe(0)
    const faces = solve({ ...two, toggled: [] }).arrangement.faces
    const after = solve({ ...two, toggled: toggledAfter(solve(out), faces) })
    expect(after.outline.toggled.length).toBe(2)
    expect(after.drawn!.area()).toBe(0)
  })
})
