import { describe, expect, it } from 'vitest'
import type { KeptFlex, Part } from '../document/index.ts'
import { atOnce } from '../pacing/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { workOut } from '../planning/index.ts'
import { proofOf } from '../proof/index.ts'
import { built, partOf, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { itInTurn } from '../testing/turns.ts'
import { bendingTouching, bent, crosses, flexTesting, meshOf, type Rim, type Stuff } from './index.ts'

const kernel = await testKernel()
const stuff: Stuff = { stiffness: 2100, poisson: 0.36, thickness: 7.3 }

/** A strip, turned: tags 0 below, 1 at its right end, 2 above, 3 at its left end. */
function strip(long: number, high: number, degrees = 0, at: Vec2 = [0, 0]): Rim {
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
  const corners: Vec2[] = [
    [0, -high / 2],
    [long, -high / 2],
    [long, high / 2],
    [0, high / 2],
  ]
  return { points: corners.map(([x, y]) => [at[0] + x * cos - y * sin, at[1] + x * sin + y * cos]), tags: [0, 1, 2, 3] }
}
const across = (degrees: number): Vec2 => [-Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)]
const areaOf = (rim: Rim) =>
  rim.points.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = rim.points[(i + 1) % rim.points.length]!
    return sum + x * nextY - nextX * y
  }, 0) / 2

describe('a region in triangles', () => {
  const ring = (radius: number, count: number, turn = 1): Rim => ({
    points: Array.from({ length: count }, (_, i): Vec2 => {
      const at = (turn * 2 * Math.PI * i) / count
      return [radius * Math.cos(at), radius * Math.sin(at)]
    }),
    tags: Array.from({ length: count }, () => (turn > 0 ? 0 : 1)),
  })
  it.each([
    ['a strip', [strip(40, 1.3, 37.3)], 0.65],
    ['a plate with a hole', [strip(31.7, 20, 15.3, [-16, 0]), ring(4.1, 40, -1)], 2.3],
    ['a thin ring', [ring(20, 90), ring(18.9, 90, -1)], 0.9],
    [
      'an L',
      [
        {
          points: [
            [0, 0],
            [30, 0],
            [30, 1.1],
            [1.7, 1.1],
            [1.7, 25],
            [0, 25],
          ] as Vec2[],
          tags: [0, 1, 2, 3, 4, 5],
        },
      ],
      0.8,
    ],
  ] as const)('fills it: %s', (_, rims, size) => {
    const mesh = meshOf(rims, size)!
    const { nodes, elements, edges } = mesh
    let area = 0
    for (let e = 0; e < elements.length; e += 6) {
      const [a, b, c] = [0, 1, 2].map((i) => {
        const node = elements[e + i]!
        return [nodes[2 * node]!, nodes[2 * node + 1]!]
      }) as unknown as [Vec2, Vec2, Vec2]
      const own = ((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) / 2
      expect(own).toBeGreaterThan(0)
      area += own
    }
    expect(area).toBeCloseTo(
      rims.reduce((sum, rim) => sum + areaOf(rim), 0),
      6,
    )
    // Each edge of the rims is there, with its tag; all together are as long as the rims.
    const long = edges.reduce(
      (sum, [a, b]) => sum + Math.hypot(nodes[2 * b]! - nodes[2 * a]!, nodes[2 * b + 1]! - nodes[2 * a + 1]!),
      0,
    )
    const whole = rims.flatMap(({ points }) =>
      points.map((p, i) =>
        Math.hypot(points[(i + 1) % points.length]![0] - p[0], points[(i + 1) % points.length]![1] - p[1]),
      ),
    )
    expect(long).toBeCloseTo(
      whole.reduce((a, b) => a + b),
      6,
    )
  })
})

describe('what bends', () => {
  const [long, high] = [50, 2]
  const inertia = (stuff.thickness * high ** 3) / 12
  it.each([0, 37.3, -90])('a beam that is held at one end gives as the books have it, turned by %s°', (degrees) => {
    const mesh = meshOf([strip(long, high, degrees, [3, -8.1])], 0.9)!
    const force = 0.02
    const found = bent(mesh, stuff, { held: [3], pushed: [1], way: across(degrees), by: 'force', amount: force })!
    // F L³ / 3 E I and what shear adds (Timoshenko); fixed as it is at its end, it is a little stiffer than that.
    const shear = (6 * force * long * 2 * (1 + stuff.poisson)) / (5 * stuff.stiffness * stuff.thickness * high)
    const deep = (force * long ** 3) / (3 * stuff.stiffness * inertia) + shear
    expect(found.reached).toBe(1)
    expect(found.travel / deep).toBeCloseTo(1, 2)
    expect(found.force).toBe(force)
    // Strain at the root: F L h / 2 E I; a little more in the corner.
    const strain = (force * long * high) / (2 * stuff.stiffness * inertia)
    expect(Math.abs(found.strain) / strain).toBeGreaterThan(0.95)
    // Pushed by as much as it went, it takes the same force.
    const back = bent(mesh, stuff, {
      held: [3],
      pushed: [1],
      way: across(degrees),
      by: 'distance',
      amount: found.travel,
    })!
    expect(back.force / force).toBeCloseTo(1, 2)
    expect(back.stiffness / (force / found.travel)).toBeCloseTo(1, 2)
  })
  it('a beam that bends far: as the elastica has it', () => {
    // Tip down and in by these shares of the length, for F L² / E I (Bisshopp and Drucker 1945).
    const book = [
      [1, 0.30172, 0.05643],
      [2, 0.49346, 0.16064],
      [5, 0.71379, 0.38763],
      [10, 0.81061, 0.555],
    ] as const
    const [span, thin] = [100, 1]
    const mesh = meshOf([strip(span, thin)], 1)!
    const slender = { ...stuff, poisson: 0 }
    const own = (stuff.thickness * thin ** 3) / 12
    for (const [times, down, into] of book) {
      const amount = (times * stuff.stiffness * own) / span ** 2
      const found = bent(mesh, slender, { held: [3], pushed: [1], way: [0, 1], by: 'force', amount })!
      expect(found.reached).toBe(1)
      const tip = mesh.edges.find(([, , , tag]) => tag === 1)!
      expect(Math.abs(found.travel / span / down - 1)).toBeLessThan(0.01)
      expect(Math.abs(-found.moved[2 * tip[2]]! / span / into - 1)).toBeLessThan(0.02)
    }
  })
  it('a thin ring that is pressed from both sides: as the books have it', () => {
    // Half of it, held where it is cut: the load's own way is half of 0.1488 F R³ / E I (Timoshenko, Strength of Materials II).
    const [R, t] = [20, 0.8]
    const count = 120
    const arc = (radius: number, from: number, to: number): Vec2[] =>
      Array.from({ length: count + 1 }, (_, i) => {
        const at = from + ((to - from) * i) / count
        return [radius * Math.cos(at), radius * Math.sin(at)]
      })
    // A quarter would need slides: so a whole ring, held at its foot and pushed at its head, on a short stretch of both.
    const outside = arc(R + t / 2, 0, 2 * Math.PI).slice(0, -1)
    const inside = arc(R - t / 2, 2 * Math.PI, 0).slice(0, -1)
    const tags = outside.map(([x, y]) => (Math.abs(x) < 0.7 ? (y > 0 ? 1 : 3) : 0))
    const mesh = meshOf(
      [
        { points: outside, tags },
        { points: inside, tags: inside.map(() => 2) },
      ],
      0.8,
    )!
    const own = (stuff.thickness * t ** 3) / 12
    const force = 0.05
    const found = bent(mesh, stuff, { held: [3], pushed: [1], way: [0, -1], by: 'force', amount: force })!
    const deep = (0.1488 * force * R ** 3) / (stuff.stiffness * own)
    expect(found.travel / deep).toBeGreaterThan(0.9)
    expect(found.travel / deep).toBeLessThan(1.03)
  })
  it('tells that nothing holds it, and stops where it finds no balance', () => {
    const mesh = meshOf([strip(20, 2)], 1)!
    expect(bent(mesh, stuff, { held: [], pushed: [1], way: [0, 1], by: 'force', amount: 1 })).toBeUndefined()
    const torn = bent(mesh, stuff, { held: [3], pushed: [1], way: [-1, 0], by: 'distance', amount: 60 })!
    expect(torn.reached).toBeLessThan(1)
    expect(Number.isFinite(torn.force)).toBe(true)
  })
  it('comes to rest where it is not pushed', () => {
    const mesh = meshOf([strip(20, 2)], 1)!
    const still = bent(mesh, stuff, { held: [3], pushed: [1], way: [0, 1], by: 'distance', amount: 0 })!
    expect([still.force, still.travel, still.strain]).toEqual([0, 0, 0])
  })
})

describe('a flex test of a part', () => {
  /** A bar of an outline, 40 by 2 and 6 thick, held at its left end. */
  function part(change: Partial<KeptFlex> = {}): Part {
    const corners = [
      [0, 0],
      [40, 0],
      [40, 2],
      [0, 2],
    ] as const
    const points = corners.map((at, i) => ({ id: `p${i}`, at: [...at] as [number, number] }))
    const curves = points.map(({ id }, i) => ({
      ...{ id: `c${i}`, kind: 'line', helper: false },
      points: [id, points[(i + 1) % 4]!.id],
    }))
    const bar = step('bar', 'extrude', { outline: 'o', height: 'thick' })
    const flex: KeptFlex = {
      ...{ id: 'f', name: 'Press', of: 'bar', held: ['c3'], pushed: ['c1'], way: '90', by: 'distance' },
      ...{ distance: 'far', force: '1.7', finer: 0, ...change },
    }
    const measure = (name: string, expression: string) =>
      ({ id: name, name, kind: 'length', expression, note: '' }) as const
    return partOf([bar], {
      measures: [measure('thick', '6'), measure('far', '3')],
      outlines: [{ ...emptyOutline('o'), points, curves }],
      flexes: [flex],
    })
  }
  const tested = (change: Partial<KeptFlex> = {}) => {
    const own = part(change)
    return atOnce(flexTesting(workOut(own).resolved, own.flexes[0]!))
  }
  const faultOf = (change: Partial<KeptFlex>) => tested(change).fault
  it('bends what it is of, by what its measures say, in the material of the part', () => {
    const found = tested()
    if (found.fault !== undefined) throw new Error(found.fault)
    expect([found.reached, found.touches]).toEqual([1, false])
    expect(found.travel).toBeCloseTo(3, 3)
    const { stiffness } = part().material
    // 3 E I / L³, and what shear takes away.
    const bar = (3 * stiffness * ((6 * 2 ** 3) / 12)) / 40 ** 3
    expect(found.stiffness / bar).toBeGreaterThan(0.98)
    expect(found.stiffness / bar).toBeLessThan(1.01)
    const other = tested({ by: 'force' })
    expect(other.fault === undefined && other.travel / (1.7 / found.stiffness)).toBeCloseTo(1, 1)
    // In finer triangles it is as stiff.
    const fine = tested({ finer: 2 })
    const middle = tested({ finer: 1 })
    // What it was in triangles twice as large is told beside it, and comes nearer.
    if (fine.fault !== undefined || middle.fault !== undefined) throw new Error('no result')
    expect(found.coarser).toBeUndefined()
    expect(middle.coarser).toEqual({ force: found.force, travel: found.travel, strain: found.strain })
    expect(fine.coarser!.force).toBe(middle.force)
    expect(Math.abs(fine.force - middle.force)).toBeLessThan(Math.abs(middle.force - found.force) + 1e-9)
    expect(fine.fault === undefined && fine.stiffness / found.stiffness).toBeCloseTo(1, 2)
  })
  it('says what is missing, or wrong', () => {
    expect(faultOf({ of: 'gone' })).toMatch(/step that it tests is gone/)
    expect(faultOf({ held: [] })).toMatch(/Nothing holds it yet/)
    expect(faultOf({ held: ['c9'] })).toMatch(/Nothing holds it yet/)
    expect(faultOf({ pushed: [] })).toMatch(/Nothing pushes it yet/)
    expect(faultOf({ pushed: ['c3'] })).toMatch(/cannot be held and pushed/)
    expect(faultOf({ distance: '0' })).toMatch(/push of 0/)
    expect(faultOf({ distance: 'fra' })).toMatch(/no measure called “fra”/)
    expect(faultOf({ by: 'force', force: '2 mm' })).toBeDefined()
  })
  itInTurn(2, 'is a finding: within what the material takes, again and again or once, or beyond', async () => {
    const rankOf = async (distance: string) => {
      const findings = await proofOf(kernel, await built(kernel, part({ distance })), { only: ['flex'] })
      return findings.map(({ rank }) => rank)
    }
    // Strain at the root of a bar: 3 h far / 2 L².
    const { strainOften, strainOnce } = part().material
    const far = (percent: number) => `${((percent / 100) * 2 * 40 ** 2) / (3 * 2)}`
    expect(await rankOf(far(0.5 * strainOften))).toEqual(['pass'])
    expect(await rankOf(far((strainOften + strainOnce) / 2))).toEqual(['warning'])
    expect(await rankOf(far(1.6 * strainOnce))).toEqual(['fault'])
  })
})

describe('what comes to touch itself', () => {
  /** Two legs on a block that is held at its left side: the lower one a little longer, the upper one pushed at its end. */
  const legs = (long: number, thick: number, gap: number, more: number): Rim => {
    const [b, h] = [6, 2 * thick + gap]
    const corners: (readonly [x: number, y: number, tag: number])[] = [
      [-b, 0, 3],
      [long + more, 0, 0],
      [long + more, thick, 0],
      [0, thick, 0],
      [0, thick + gap, 0],
      [long, thick + gap, 2],
      [long, h, 0],
      [-b, h, 1],
    ]
    return { points: corners.map(([x, y]): Vec2 => [x, y]), tags: corners.map(([, , tag]) => tag) }
  }
  const load = (amount: number, by: 'distance' | 'force' = 'distance') =>
    ({ held: [1], pushed: [2], way: [0, -1] as Vec2, by, amount }) as const
  const plain = { stiffness: 2100, poisson: 0, thickness: 6.1 }

  itInTurn(2, 'gives as one leg until they meet, and then as both', () => {
    const [long, thick, gap] = [31.7, 1.1, 0.6]
    const mesh = meshOf([legs(long, thick, gap, 1.3)], thick / 2)!
    const one = atOnce(bendingTouching(mesh, plain, load(0.5), thick / 2))!
    expect(one.contact).toBe(0)
    for (const far of [1, 1.7]) {
      const both = atOnce(bendingTouching(mesh, plain, load(far), thick / 2))!
      expect(both.reached).toBe(1)
      expect(crosses(mesh, both.moved, 0.01)).toBe(false)
      // The lower one goes on by what is more than the gap, at the same place.
      const wanted = one.stiffness * (far + (far - gap))
      expect(both.force / wanted).toBeGreaterThan(0.95)
      expect(both.force / wanted).toBeLessThan(1.05)
      expect(both.contact / (one.stiffness * (far - gap))).toBeGreaterThan(0.93)
      expect(both.contact / (one.stiffness * (far - gap))).toBeLessThan(1.07)
    }
    // Without contact it would have gone through.
    expect(crosses(mesh, bent(mesh, plain, load(1.7))!.moved, 0.01)).toBe(true)
  })
  itInTurn(2, 'goes no farther than where what it lies on is held', () => {
    const [long, thick, gap] = [31.7, 1.1, 0.6]
    const mesh = meshOf([legs(long, thick, gap, 1.3)], thick / 2)!
    const stopped = atOnce(bendingTouching(mesh, plain, { ...load(3.7), held: [1, 3] }, thick / 2))!
    expect(stopped.contact).toBeGreaterThan(1)
    expect(3.7 * stopped.reached).toBeGreaterThan(gap)
    expect(3.7 * stopped.reached).toBeLessThan(gap + thick / 2)
    expect(stopped.travel).toBeCloseTo(3.7 * stopped.reached, 6)
    expect(crosses(mesh, stopped.moved, thick / 20)).toBe(false)
  })
  itInTurn(2, 'is the same pushed with a force, and at two finenesses', () => {
    const [long, thick, gap] = [23.3, 1.1, 0.5]
    const found = [0.55, 0.37].map((size) => {
      const mesh = meshOf([legs(long, thick, gap, 1.3)], size)!
      const far = atOnce(bendingTouching(mesh, plain, load(1.3), size))!
      return [far.force, atOnce(bendingTouching(mesh, plain, load(far.force, 'force'), size))!.travel] as const
    })
    for (const [, travel] of found) expect(travel).toBeCloseTo(1.3, 2)
    expect(found[1]![0] / found[0]![0]).toBeCloseTo(1, 1.5)
  })
})

describe('what is no extrusion', () => {
  const tested = (shape: string, fields: Record<string, string>, flex: Partial<KeptFlex>) => {
    const part = partOf([step('s', shape, fields)], {
      flexes: [
        {
          ...{ id: 'f', name: 'Press', of: 's', held: [], pushed: [], way: '90', by: 'distance', distance: '0.3' },
          ...{ force: '1', finer: 0, ...flex },
        },
      ],
    })
    return atOnce(flexTesting(workOut(part).resolved, part.flexes[0]!))
  }
  it('is bent as well: a plate on edge, and springs, as their formulas have it', () => {
    const { stiffness } = partOf([]).material
    const stiffnessOf = (...of: Parameters<typeof tested>) => {
      const found = tested(...of)
      return found.fault === undefined ? found.stiffness : found.fault
    }
    // Held at its left end and pushed at its right one, in its plane.
    const ends = { held: ['outside#4'], pushed: ['outside#2'] }
    const bar = (3 * stiffness * ((6.1 * 2.1 ** 3) / 12)) / 37.3 ** 3
    const plate = stiffnessOf('plate', { width: '37.3', depth: '2.1', height: '6.1' }, ends)
    expect(Number(plate) / bar).toBeCloseTo(1, 1.5)
    // Held at its foot, and pushed at the face of its hook.
    const hook = { held: ['outside'], pushed: ['outside#3'], way: '180' }
    const arm = stiffnessOf('snap-arm', { length: '31.7', thick: '2.1', width: '6.1', hook: '1.3' }, hook)
    const rate = (3 * stiffness * ((6.1 * 2.1 ** 3) / 12)) / 31.7 ** 3
    expect(Number(arm) / rate).toBeGreaterThan(0.95)
    expect(Number(arm) / rate).toBeLessThan(1.05)
  })
  it('tells no figures of a push under which it gives way at once', () => {
    const ends = { held: ['outside#4'], pushed: ['outside#2'] }
    const plate = { width: '37.3', depth: '2.1', height: '6.1' }
    const pushed = (force: string) => tested('plate', plate, { ...ends, by: 'force', force })
    expect(pushed('1000000000').fault).toMatch(/gives way at once/)
    expect(pushed('1.3').fault).toBeUndefined()
  })
  it('is not what leans, is round, or cuts', () => {
    for (const [shape, fields] of [
      ['ball', {}],
      ['plate', { top: 'bevel', topSize: '1' }],
      ['hole', {}],
    ] as const)
      expect(tested(shape, fields, {}).fault).toMatch(/flat and upright/)
  })
})
