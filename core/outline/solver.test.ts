import { describe, expect, it } from 'vitest'
import type { Outline } from '../document/index.ts'
import { type OutlineDraft, randomFrom, randomSystem } from '../testing/outlines.ts'
import { conflictsOf, freedomOf } from './freedom.ts'
import { jacobian, solved } from './solve.ts'
import { systemOf } from './system.ts'

function draft(parts: OutlineDraft): { readonly outline: Outline; readonly values: Map<string, number> } {
  const values = new Map<string, number>()
  const constraints = parts.hold.map(([kind, of, value], i) => {
    const id = `${kind}${i}`
    if (value !== undefined) values.set(id, value)
    return { id, kind, of, ...(value === undefined ? {} : { value: String(value) }) }
  })
  const outline: Outline = {
    id: 'o',
    name: '',
    on: { kind: 'bed' },
    points: Object.entries(parts.points).map(([id, at]) => ({ id, at })),
    curves: Object.entries(parts.curves).map(([id, [kind, points, size]]) => ({
      id,
      kind,
      points,
      helper: false,
      ...(size ? { size } : {}),
    })),
    constraints,
    derived: [],
    toggled: [],
  }
  return { outline, values }
}

function solve(parts: OutlineDraft) {
  const { outline, values } = draft(parts)
  const given = { values, taken: new Map() }
  const system = systemOf(outline, given)
  const solution = solved(system)
  const at = (id: string) => {
    const p = system.points.get(id)!
    return [solution.x[p]!, solution.x[p + 1]!] as const
  }
  return {
    system,
    solution,
    at,
    given,
    size: (id: string) => solution.x[system.sizes.get(id)!]!,
    freedom: () => freedomOf(system, solution.x),
  }
}

const square: OutlineDraft = {
  points: { a: [0.3, -0.2], b: [20.5, 1], c: [21, 11], d: [-1, 9] },
  curves: { ab: ['line', ['a', 'b']], bc: ['line', ['b', 'c']], cd: ['line', ['c', 'd']], da: ['line', ['d', 'a']] },
  hold: [
    ['horizontal', ['ab']],
    ['horizontal', ['cd']],
    ['vertical', ['bc']],
    ['vertical', ['da']],
    ['distance', ['ab'], 30],
    ['distance', ['bc'], 12],
  ],
}

/** Links of 10 mm one behind the other, along a slight bow, whose ends are to come so near to each other. */
function chain(links: number, apart: number): OutlineDraft {
  const name = (i: number) => `p${i}`
  const points = Object.fromEntries(
    Array.from({ length: links + 1 }, (_, i) => [name(i), [9 * i, 4 * Math.sin((Math.PI * i) / links)] as const]),
  )
  const all = Array.from({ length: links }, (_, i) => i)
  return {
    points,
    curves: {
      ...Object.fromEntries(all.map((i) => [`l${i}`, ['line', [name(i), name(i + 1)]] as const])),
      ends: ['line', [name(0), name(links)]],
    },
    hold: [
      ['horizontal', ['ends']],
      ...all.map((i) => ['distance', [`l${i}`], 10] as const),
      ['distance', ['ends'], apart],
    ],
  }
}

describe('the solver', () => {
  it.each([
    [12, 15.3],
    [24, 85.1],
    [30, 3.3],
  ])('bends a chain of %d links whose ends come together to %d mm, far from where they were', (links, apart) => {
    const { solution, at } = solve(chain(links, apart))
    expect(solution.solved).toBe(true)
    for (let i = 0; i < links; i++) {
      const [a, b] = [at(`p${i}`), at(`p${i + 1}`)]
      expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeCloseTo(10, 9)
    }
    expect(at(`p${links}`)[0] - at('p0')[0]).toBeCloseTo(apart, 9)
  })
  it('comes to the last digits in few steps, once it is near', () => {
    const { outline, values } = draft(chain(24, 85.1))
    const system = systemOf(outline, { values, taken: new Map() })
    let asked = 0
    const counted = system.equations.map((held, i) => {
      if (i > 0) return held
      const { equation } = held
      const residual: typeof equation.residual = (x, out, at) => {
        asked++
        equation.residual(x, out, at)
      }
      return { ...held, equation: { ...equation, residual } }
    })
    expect(solved({ ...system, equations: counted }).solved).toBe(true)
    // 31; with damping that does not let go, 102.
    expect(asked).toBeLessThan(60)
  })
  it('makes a rectangle of its sizes, and leaves it where it was', () => {
    const { solution, at, freedom } = solve(square)
    expect(solution.solved).toBe(true)
    const [a, b, c, d] = ['a', 'b', 'c', 'd'].map(at) as [
      readonly [number, number],
      readonly [number, number],
      readonly [number, number],
      readonly [number, number],
    ]
    expect(b[0] - a[0]).toBeCloseTo(30, 9)
    expect(c[1] - b[1]).toBeCloseTo(12, 9)
    expect(d[0]).toBeCloseTo(a[0], 9)
    // It grew about its middle: nothing else pulls it.
    expect((a[0] + b[0]) / 2).toBeCloseTo((0.3 + 20.5 + 21 - 1) / 4, 5)
    const { moves, points } = freedom()
    expect(moves).toBe(2)
    expect([...points.values()]).toEqual(['any', 'any', 'any', 'any'])
  })
  it('tells that nothing can move, and which points can and how', () => {
    const pinned = solve({ ...square, hold: [...square.hold, ['coincident', ['a', 'origin']]] })
    expect(pinned.freedom().moves).toBe(0)
    expect(pinned.freedom().points.size).toBe(0)
    const sliding = solve({ ...square, hold: [...square.hold, ['on', ['a', 'x-axis']]] })
    const { moves, points } = sliding.freedom()
    expect(moves).toBe(1)
    for (const way of points.values()) {
      expect(way).not.toBe('any')
      expect(Math.abs(way[0] as number)).toBeCloseTo(1, 6)
    }
  })
  it('names what says the same as others, with those', () => {
    const { solution, freedom } = solve({
      ...square,
      hold: [...square.hold, ['distance', ['cd'], 30], ['perpendicular', ['ab', 'bc']]],
    })
    expect(solution.solved).toBe(true)
    const { redundant } = freedom()
    expect([...redundant.keys()]).toEqual(['distance6', 'perpendicular7'])
    expect([...redundant.get('distance6')!].sort()).toEqual(['distance4', 'vertical2', 'vertical3'])
    expect([...redundant.get('perpendicular7')!].sort()).toEqual(['horizontal0', 'vertical2'])
  })
  it('names what cannot hold together, and nothing else', () => {
    const { solution, system, given } = solve({ ...square, hold: [...square.hold, ['distance', ['cd'], 31]] })
    expect(solution.solved).toBe(false)
    const conflicts = conflictsOf(system, solution.x, given)
    expect(conflicts).toContain('distance6')
    expect(conflicts).toContain('distance4')
    expect(conflicts).not.toContain('distance5')
  })
  it('names what is held on things that cannot move', () => {
    const { solution, system, given } = solve({ ...square, hold: [...square.hold, ['vertical', ['x-axis']]] })
    expect(solution.solved).toBe(false)
    expect(conflictsOf(system, solution.x, given)).toEqual(['vertical6'])
  })
  it('leaves alone what is right to within a tenth of a micrometre and gets no better', () => {
    // Two circles of the same middle cannot be 1e-8 apart; that is near enough, and nothing creeps from then on.
    const parts: OutlineDraft = {
      points: { m: [0, 0], a: [10, 0] },
      curves: { c: ['circle', ['m'], 10] },
      hold: [
        ['fixed', ['m']],
        ['fixed', ['a']],
        ['on', ['a', 'c']],
        ['radius', ['c'], 10 + 1e-8],
      ],
    }
    const { solution, system } = solve(parts)
    expect(solution.solved).toBe(true)
    expect(solution.x).toEqual(system.start)
  })
  it('a triangle by its sides has the angles of the law of cosines', () => {
    const { at, solution } = solve({
      points: { a: [0, 0], b: [10, 1], c: [3, 6] },
      curves: { ab: ['line', ['a', 'b']], bc: ['line', ['b', 'c']], ca: ['line', ['c', 'a']] },
      hold: [
        ['coincident', ['a', 'origin']],
        ['on', ['b', 'x-axis']],
        ['distance', ['ab'], 7],
        ['distance', ['bc'], 6],
        ['distance', ['ca'], 5],
      ],
    })
    expect(solution.solved).toBe(true)
    const x = (49 + 25 - 36) / 14
    expect(at('c')).toEqual([expect.closeTo(x, 9), expect.closeTo(Math.sqrt(25 - x * x), 9)])
  })
  it('what cannot be met goes as near to all of it as it can', () => {
    const { solution, at } = solve({
      points: { a: [0.4, 1 / 3], b: [30.1, 0.2] },
      curves: { ab: ['line', ['a', 'b']] },
      hold: [
        ['horizontal', ['ab']],
        ['distance', ['ab'], 10],
        ['distance', ['ab'], 20.6],
      ],
    })
    expect(solution.solved).toBe(false)
    expect(at('b')[0] - at('a')[0]).toBeCloseTo(15.3, 4)
    expect(solution.residual).toBeCloseTo(5.3, 4)
  })
  it('sides that cannot make a triangle conflict', () => {
    const { system, solution, given } = solve({
      points: { a: [0, 0], b: [10, 1], c: [3, 6] },
      curves: { ab: ['line', ['a', 'b']], bc: ['line', ['b', 'c']], ca: ['line', ['c', 'a']] },
      hold: [
        ['distance', ['ab'], 20],
        ['distance', ['bc'], 6],
        ['distance', ['ca'], 5],
      ],
    })
    expect(solution.solved).toBe(false)
    expect(conflictsOf(system, solution.x, given)).toHaveLength(3)
  })
  it('of two conflicts that have nothing to do with each other one is named, whole and alone', () => {
    const triangle = (name: string, x: number) => ({
      points: { [`a${name}`]: [x, 0], [`b${name}`]: [x + 10, 1], [`c${name}`]: [x + 3, 6] } as const,
      curves: {
        [`ab${name}`]: ['line', [`a${name}`, `b${name}`]],
        [`bc${name}`]: ['line', [`b${name}`, `c${name}`]],
        [`ca${name}`]: ['line', [`c${name}`, `a${name}`]],
      } as const,
      hold: [
        ['distance', [`ab${name}`], 20.3],
        ['distance', [`bc${name}`], 6.1],
        ['distance', [`ca${name}`], 5],
      ] as const,
    })
    const [one, other] = [triangle('1', 0), triangle('2', 40)]
    const { system, solution, given } = solve({
      points: { ...one.points, ...other.points },
      curves: { ...one.curves, ...other.curves },
      hold: [...one.hold, ...other.hold],
    })
    const named = conflictsOf(system, solution.x, given)
    expect(named).toHaveLength(3)
    const of = system.outline.constraints.filter(({ id }) => named.includes(id)).flatMap((each) => each.of)
    expect(new Set(of.map((id) => id.at(-1))).size).toBe(1)
  })
  it('a line tangent to two circles touches both', () => {
    const { at, solution, size } = solve({
      points: { a: [0, 4.5], b: [30, 9], m: [0, 0], n: [30, 1] },
      curves: { l: ['line', ['a', 'b']], c: ['circle', ['m'], 5], d: ['circle', ['n'], 8] },
      hold: [
        ['coincident', ['m', 'origin']],
        ['on', ['n', 'x-axis']],
        ['distance-x', ['m', 'n'], 30],
        ['radius', ['c'], 5],
        ['diameter', ['d'], 18],
        ['tangent', ['l', 'c']],
        ['tangent', ['l', 'd']],
        ['on', ['a', 'c']],
        ['on', ['b', 'd']],
      ],
    })
    expect(solution.solved).toBe(true)
    expect(size('d')).toBeCloseTo(9, 9)
    const [a, b] = [at('a'), at('b')]
    // Length of the outer tangent: √(d² − (R − r)²).
    expect(Math.hypot(b[0] - a[0], b[1] - a[1])).toBeCloseTo(Math.sqrt(900 - 16), 6)
  })
  it('arcs run smoothly into lines and into each other', () => {
    const { at, solution } = solve({
      points: { a: [0, 0], b: [20, 0.4], c: [20, 9.6], e: [24, 14], m: [19.5, 5], n: [20, 15] },
      curves: { ab: ['line', ['a', 'b']], bend: ['arc', ['m', 'b', 'c']], back: ['arc', ['n', 'c', 'e']] },
      hold: [
        ['coincident', ['a', 'origin']],
        ['horizontal', ['ab']],
        ['distance', ['ab'], 20],
        ['tangent', ['ab', 'bend']],
        ['radius', ['bend'], 5],
        ['tangent', ['bend', 'back']],
        ['radius', ['back'], 4],
        ['vertical', ['m', 'c']],
      ],
    })
    expect(solution.solved).toBe(true)
    expect(at('m')).toEqual([expect.closeTo(20, 7), expect.closeTo(5, 7)])
    expect(at('c')).toEqual([expect.closeTo(20, 7), expect.closeTo(10, 7)])
    expect(at('n')[0]).toBeCloseTo(20, 7)
    expect(Math.abs(at('n')[1] - 10)).toBeCloseTo(4, 7)
  })
  it('holds symmetry, midpoints, equal lengths and angles', () => {
    const { at, solution } = solve({
      points: { a: [-9, 1], b: [8, 0], c: [1, 12], m: [0.5, 0.2] },
      curves: { ab: ['line', ['a', 'b']], bc: ['line', ['b', 'c']], ca: ['line', ['c', 'a']] },
      hold: [
        ['symmetric', ['a', 'b', 'y-axis']],
        ['midpoint', ['m', 'ab']],
        ['coincident', ['m', 'origin']],
        ['equal', ['bc', 'ca']],
        ['angle', ['ab', 'bc'], 60],
        ['distance', ['ab'], 10],
      ],
    })
    expect(solution.solved).toBe(true)
    expect(at('c')).toEqual([expect.closeTo(0, 8), expect.closeTo(5 * Math.sqrt(3), 8)])
  })
  it('a large change of a size arrives', () => {
    const { solution, at } = solve({
      ...square,
      hold: square.hold.map(([kind, of, value]) => [kind, of, value && value * 40] as const),
    })
    expect(solution.solved).toBe(true)
    expect(at('b')[0] - at('a')[0]).toBeCloseTo(1200, 7)
  })
  it('a point that is pulled follows as far as it may', () => {
    const { outline, values } = draft({ ...square, hold: [...square.hold, ['on', ['a', 'x-axis']]] })
    const system = systemOf(outline, { values, taken: new Map() })
    const before = solved(system)
    const p = system.points.get('a')!
    const after = solved(system, before.x, { p, to: [50, 7] })
    expect(after.solved).toBe(true)
    expect(after.x[p]).toBeCloseTo(50, 3)
    expect(after.x[p + 1]).toBeCloseTo(0, 9)
  })
  it('reads slopes on curves without looking for the nearest place again', () => {
    const { outline, values } = draft({
      points: { m: [0, 0], e: [10, 0], p: [7, 9], q: [0, 20], r: [10, 26], s: [20, 20], t: [14, 22] },
      curves: { el: ['ellipse', ['m', 'e'], 5], wave: ['through', ['q', 'r', 's']] },
      hold: [
        ['on', ['p', 'el']],
        ['on', ['t', 'wave']],
      ],
    })
    const system = systemOf(outline, { values, taken: new Map() })
    for (const held of system.equations) {
      const { residualNear, ...plain } = held.equation
      expect(residualNear).toBeDefined()
      const [quick, slow] = [held.vars, held.vars].map(({ length }) => new Float64Array(length)) as [
        Float64Array,
        Float64Array,
      ]
      jacobian(held, system.start.slice(), quick)
      jacobian({ ...held, equation: plain }, system.start.slice(), slow)
      for (const [i, slope] of slow.entries()) expect(quick[i]).toBeCloseTo(slope, 6)
    }
  })
  it('points on ellipses and curves lie on them', () => {
    const { solution, at } = solve({
      points: { m: [0, 0], e: [10, 0], p: [7, 9], q: [0, 20], r: [10, 26], s: [20, 20], t: [4, 21] },
      curves: { el: ['ellipse', ['m', 'e'], 5], wave: ['through', ['q', 'r', 's']] },
      hold: [
        ['fixed', ['m']],
        ['fixed', ['e']],
        ['on', ['p', 'el']],
        ['distance-x', ['m', 'p'], 6],
        ['fixed', ['q']],
        ['fixed', ['r']],
        ['fixed', ['s']],
        ['on', ['t', 'wave']],
        ['vertical', ['t', 'r']],
      ],
    })
    // The size of the ellipse is free, so it gives way too.
    expect(solution.solved).toBe(true)
    expect(at('p')[0]).toBeCloseTo(6, 8)
    expect(at('t')).toEqual([expect.closeTo(10, 7), expect.closeTo(26, 7)])
  })
  it('a drawing of nothing, points that fall together and lines of no length do no harm', () => {
    const empty = solve({ points: {}, curves: {}, hold: [] })
    expect(empty.solution.solved).toBe(true)
    const flat = solve({
      points: { a: [3, 3], b: [3, 3] },
      curves: { ab: ['line', ['a', 'b']] },
      hold: [
        ['horizontal', ['ab']],
        ['distance', ['ab'], 5],
      ],
    })
    expect(Number.isFinite(flat.at('a')[0])).toBe(true)
    const unfit = solve({
      points: { a: [0, 0] },
      curves: {},
      hold: [
        ['parallel', ['a', 'b']],
        ['radius', ['a'], 3],
      ],
    })
    expect(unfit.system.unfit).toEqual(['parallel0', 'radius1'])
  })
  it('gives the same answer whatever was solved between', () => {
    const once = solve(square).solution.x
    solve({ ...square, hold: square.hold.slice(2) })
    expect([...solve(square).solution.x]).toEqual([...once])
  })
})

describe('random drawings that can be solved', () => {
  it.each([0, 1, 2, 3, 4, 5, 6, 7, 8, 9])('come back from where they were pushed to: hundred %i', (hundred) => {
    for (let i = 0; i < 100; i++) {
      const random = randomFrom(1000 * hundred + i + 1)
      const { parts, pushed } = randomSystem(random)
      const { outline, values } = draft({ ...parts, points: pushed })
      const { solved: well, residual } = solved(systemOf(outline, { values, taken: new Map() }))
      expect(residual, `drawing ${hundred * 100 + i}`).toBeLessThan(1e-9)
      expect(well).toBe(true)
    }
  })
})
