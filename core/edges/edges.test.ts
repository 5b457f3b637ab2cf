import { describe, expect, it } from 'vitest'
import type { Place, Step } from '../document/index.ts'
import { meshFigures, skinEdges } from '../mesh/index.ts'
import { Sketch } from '../outline/index.ts'
import { add, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { flatsRound } from '../plane/index.ts'
import { workOut } from '../planning/index.ts'
import { copiesOf, namedSolid, renderMeshOf } from '../solids/index.ts'
import { built, inTurn, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'

const kernel = await testKernel()

const withEdges = (operation: string, edges: string, fields: Record<string, string>) =>
  treatment(operation, { edges, ...fields })
const round = (edges: string, radius: number) => withEdges('round', edges, { radius: String(radius) })
const bevel = (edges: string, size: number, more: Record<string, string> = {}) =>
  withEdges('bevel', edges, { size: String(size), ...more })

/** The volume that a part comes to the finer it is: from two finenesses, of which the error of one is four times the other's. */
async function limit(steps: readonly Step[], fineness = 0.01): Promise<number> {
  const volume = async (at: number) => {
    const { pieces, buildProblems } = await built(kernel, partOf([...steps]), at)
    expect(buildProblems).toEqual([])
    expect(pieces[0]!.solid!.bodies()).toBe(1)
    return pieces[0]!.solid!.volume()
  }
  const [coarse, fine] = [await volume(4 * fineness), await volume(fineness)]
  return (4 * fine - coarse) / 3
}

/** ∫ of an area over a height, by the midpoint rule; what rounds do near a tangent is smooth in the angle, not in the height. */
function stacked(radius: number, area: (inset: number) => number): number {
  const count = 20_000
  let sum = 0
  for (let i = 0; i < count; i++) {
    const rad = (((i + 0.5) / count) * Math.PI) / 2
    // At the depth r sin of the ball's centre the round is r (1 − cos) from the face.
    sum += area(radius * (1 - Math.cos(rad))) * radius * Math.cos(rad) * (Math.PI / 2 / count)
  }
  return sum
}

const [w, d, h] = [20.3, 30.1, 10.7]
const block = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })
const onTop = (place: Partial<Place> = {}) => ({ place: { ...onFace('b', 'top'), ...place } })
/** Cuts the corner at the back on the right away. */
const notch = {
  operation: 'cut',
  place: {
    ...onFace('b', 'top'),
    across: { from: 'high', to: 'centre', by: '0' },
    along: { from: 'high', to: 'centre', by: '0' },
  },
} as const
/** What two rounds that meet at right angles on one face both cut off, mm³: for each depth the square of the inset. */
const overlap = (r: number) => stacked(r, (inset) => inset ** 2)
/** ∫ over what a round cuts off of the distance from its edge along the face, mm³. */
const momentOf = (r: number) => stacked(r, (inset) => inset ** 2 / 2)
const off = (by: string) => ({ from: 'centre', to: 'centre', by }) as const

describe('rounds come to their closed forms', () => {
  it('all twelve edges of a block', async () => {
    const r = 2.3
    const [a, b, c] = [w - 2 * r, d - 2 * r, h - 2 * r]
    const expected =
      a * b * c + 2 * r * (a * b + b * c + a * c) + Math.PI * r ** 2 * (a + b + c) + (4 / 3) * Math.PI * r ** 3
    expect(Math.abs((await limit([block, round('all', r)])) / expected - 1)).toBeLessThan(1e-6)
  })
  it('the edges of its top, which end in mitres', async () => {
    const r = 2.3
    const expected = w * d * (h - r) + stacked(r, (inset) => (w - 2 * inset) * (d - 2 * inset))
    expect(Math.abs((await limit([block, round('of b/top', r)])) / expected - 1)).toBeLessThan(1e-6)
  })
  it('one upright edge, to the last digit of its flats', async () => {
    const r = 1.7
    const expected = w * d * h - (1 - Math.PI / 4) * r ** 2 * h
    const one = round('where b/front meets b/left', r)
    expect(Math.abs((await limit([block, one])) / expected - 1)).toBeLessThan(1e-6)
  })
  it('both rims of a bar, and of one that they meet on', async () => {
    const bar = step('c', 'bar', { diameter: '18.4', height: '9.1' })
    for (const r of [1.3, 4.55]) {
      const expected = Math.PI * 9.2 ** 2 * (9.1 - 2 * r) + 2 * stacked(r, (inset) => Math.PI * (9.2 - inset) ** 2)
      expect(Math.abs((await limit([bar, round('all', r)], 0.0025)) / expected - 1)).toBeLessThan(1e-6)
    }
  })
  it('the rims of a bore', async () => {
    const r = 1.1
    const bore = step('h', 'hole', { diameter: '6.2' }, onTop({ across: off('1.9'), turn: '37.3' }))
    const expected =
      w * d * h - Math.PI * 3.1 ** 2 * (h - 2 * r) - 2 * stacked(r, (inset) => Math.PI * (3.1 + inset) ** 2)
    expect(Math.abs((await limit([block, bore, round('rims h', r)])) / expected - 1)).toBeLessThan(2e-6)
  })
  it('a fillet where a bar stands on a plate', async () => {
    const r = 2.6
    const bar = step('c', 'bar', { diameter: '8.3', height: '12' }, onTop({ along: off('-2.1') }))
    const expected = w * d * h + Math.PI * 4.15 ** 2 * (12 - r) + stacked(r, (inset) => Math.PI * (4.15 + inset) ** 2)
    expect(Math.abs((await limit([block, bar, round('where c meets b', r)])) / expected - 1)).toBeLessThan(2e-6)
  })
  it('a fillet where a bar stands on a ball', async () => {
    // In the plane of the axis: the ball's centre is R + r from one centre and a + r from the axis.
    const [R, a, r] = [10, 4.1, 1.9]
    const ball = step('b', 'ball', { diameter: `${2 * R}` })
    const bar = step('c', 'bar', { diameter: `${2 * a}`, height: '20' }, { place: { lift: '10' } })
    const [x, z] = [a + r, Math.sqrt((R + r) ** 2 - (a + r) ** 2)]
    const foot = Math.sqrt(R ** 2 - a ** 2)
    // Rings between the bar and the fillet, from where the ball is touched to where the bar is.
    const touched = (R * z) / (R + r)
    let sum = 0
    const count = 200_000
    for (let i = 0; i < count; i++) {
      const y = touched + ((i + 0.5) / count) * (z - touched)
      const out = x - Math.sqrt(Math.max(0, r ** 2 - (z - y) ** 2))
      const inside = Math.max(a, y < R ? Math.sqrt(R ** 2 - y ** 2) : 0)
      sum += Math.PI * (out ** 2 - (y < foot ? inside ** 2 : a ** 2)) * ((z - touched) / count)
    }
    const volume = async (steps: Step[]) => (await built(kernel, partOf(steps), 0.0025)).pieces[0]!.solid!.volume()
    const filled = (await volume([ball, bar, round('inner', r)])) - (await volume([ball, bar]))
    expect(Math.abs(filled / sum - 1)).toBeLessThan(2e-3)
  })
  it('an inner corner that is filled, and the top over it, in one step and in two', async () => {
    const notched = [block, step('k', 'plate', { width: '12.6', depth: '14.2', height: '30' }, notch)]
    const expected = (inner: number, r: number) => {
      // As it goes in the notch stays as large as it was, and its corner becomes rounder.
      const area = (by: number) => (w - 2 * by) * (d - 2 * by) - 6.3 * 7.1 + (1 - Math.PI / 4) * (inner + by) ** 2
      return area(0) * (h - r) + stacked(r, area)
    }
    const both = await limit([...notched, round('upright inner; of b/top', 1.4)])
    expect(both / expected(1.4, 1.4)).toBeCloseTo(1, 6)
    const apart = await limit([...notched, { ...round('upright inner', 2.9), id: 'i' }, round('of b/top', 1.3)])
    expect(apart / expected(2.9, 1.3)).toBeCloseTo(1, 6)
  })
  it('the four edges of a square ring, by the way of the middle of what each loses', async () => {
    const [D, t, r] = [40.3, 8.1, 1.7]
    const ring = step('b', 'ring', { diameter: `${D}`, thick: `${t}`, section: 'square' })
    const [{ min, max }] = (await built(kernel, partOf([ring]), 0.01)).pieces.map(({ solid }) => solid!.bounds()!) as [
      { min: Vec3; max: Vec3 },
    ]
    // The outside is measured off; the inside is as much farther in as it is thick.
    const outer = (max[0] - min[0]) / 2
    const area = (1 - Math.PI / 4) * r ** 2
    // Of a corner less its quarter of a disc, from the corner.
    const middle = (r * (10 - 3 * Math.PI)) / (3 * (4 - Math.PI))
    const away = 2 * 2 * Math.PI * area * (outer - middle + (outer - t + middle))
    const lost = (await limit([ring])) - (await limit([ring, round('all', r)]))
    expect(lost / away).toBeCloseTo(1, 4)
  })
  it('where two bars cross, along a saddle, by integrating over the way of the ball', async () => {
    const [R, a, r] = [6, 4.5, 1.3]
    const bar = step('c', 'bar', { diameter: `${2 * R}`, height: '40' })
    const across = step(
      'q',
      'bar',
      { diameter: `${2 * a}`, height: '40' },
      { place: { ...onFace('c', 'side'), lift: '-20' } },
    )
    const [A, B] = [R + r, a + r]
    // The ball's centre is as far from both axes as their radius and its own: about z, and about y.
    const centre = (u: number): Vec3 => {
      const x = B * Math.cos(u)
      return [x, Math.sqrt(A ** 2 - x ** 2), B * Math.sin(u)]
    }
    const h = 1e-4
    const steps = { u: 400, turn: 60 }
    let sum = 0
    for (let i = 0; i < steps.u; i++) {
      const u = (2 * Math.PI * (i + 0.5)) / steps.u
      const [before, c, after] = [centre(u - h), centre(u), centre(u + h)]
      const first = scaled(subtract(after, before), 1 / (2 * h))
      const second = scaled(add(subtract(after, c), subtract(before, c)), 1 / h ** 2)
      const speed = norm(first)
      const along = scaled(first, 1 / speed)
      const bends = scaled(subtract(second, scaled(along, dot(second, along))), 1 / speed ** 2)
      // From the centre to the one axis and to the other: there the ball touches.
      const to = [scaled([-c[0], -c[1], 0], 1 / A), scaled([-c[0], 0, -c[2]], 1 / B)] as [Vec3, Vec3]
      const side = subtract(to[1], scaled(to[0], dot(to[0], to[1])))
      const beside = scaled(side, 1 / norm(side))
      const turn = Math.acos(dot(to[0], to[1]))
      for (let k = 0; k < steps.turn; k++) {
        const rad = (turn * (k + 0.5)) / steps.turn
        const way = add(scaled(to[0], Math.cos(rad)), scaled(beside, Math.sin(rad)))
        // How far to the nearer of the two bars.
        const hit = (p: number, q: number, v: number, w: number, radius: number) => {
          const [f, g, e] = [v * v + w * w, p * v + q * w, p * p + q * q - radius ** 2]
          const under = g * g - f * e
          return under < 0 ? Number.POSITIVE_INFINITY : (-g - Math.sqrt(under)) / f
        }
        const far = Math.min(hit(c[0], c[1], way[0], way[1], R), hit(c[0], c[2], way[0], way[2], a))
        const bent = dot(bends, way)
        // ∫ ρ (1 − ρ bent) dρ from the ball to there.
        const inner = (far ** 2 - r ** 2) / 2 - (bent * (far ** 3 - r ** 3)) / 3
        sum += inner * speed * (turn / steps.turn) * ((2 * Math.PI) / steps.u)
      }
    }
    const [plain, filled] = [
      await limit([bar, across], 0.004),
      await limit([bar, across, round('where q meets c', r)], 0.004),
    ]
    // There are two such ways, one on each side.
    expect((filled - plain) / (2 * sum)).toBeCloseTo(1, 3)
    expect(filled / (plain + 2 * sum)).toBeCloseTo(1, 5)
  })
  it('a top with an inner corner, round which the ball goes on', async () => {
    const r = 1.4
    const notched = (more: Step[]) => [
      block,
      step('k', 'plate', { width: '12.6', depth: '14.2', height: '30' }, notch),
      ...more,
    ]
    // Along each edge the same is cut off; at an inner corner a quarter turn about it, at outer ones they overlap.
    const area = (1 - Math.PI / 4) * r ** 2
    const straight = 2 * (w + d)
    const mitre = overlap(r)
    const turned = (Math.PI / 2) * momentOf(r)
    const plain = await limit(notched([]))
    const rounded = await limit(notched([round('of b/top', r)]))
    expect(plain - rounded).toBeCloseTo(area * straight - 5 * mitre + turned, 3)
  })
})

describe('one edge alone', () => {
  it.each([3, 5, 6, 8])('of the top of a prism of %i sides goes on past the sides beside it', async (sides) => {
    const [size, r, c] = [30.7, 1.7, 1.3]
    const prism = step('c', 'prism', { sides: `${sides}`, size: `${size}`, height: '9.3' })
    const long = size * Math.tan(Math.PI / sides)
    // As deep as it is in from its own side, so much farther it goes.
    const beside = 2 / Math.tan((2 * Math.PI) / sides)
    const rim = 'where c/top meets c/flat 1'
    const plain = await limit([prism])
    const rounded = plain - (await limit([prism, round(rim, r)]))
    expect(rounded).toBeCloseTo((1 - Math.PI / 4) * r ** 2 * long + beside * momentOf(r), 3)
    const bevelled = plain - (await limit([prism, bevel(rim, c)]))
    expect(bevelled).toBeCloseTo((c ** 2 / 2) * long + (beside * c ** 3) / 6, 6)
  })
  it.each([
    [37.3, 52.4],
    [-21.7, 55.6],
  ])('ends at a wall that crosses it at %d° off square', async (turn, x) => {
    const [y, half] = [3.1, 50]
    const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
    const side100 = { width: `${2 * half}`, depth: `${2 * half}`, height: '4.3' }
    const place = {
      ...onFace('b', 'top'),
      across: off(`${x}`),
      along: off(`${y}`),
      turn: `${turn}`,
      rest: 'in',
    } as const
    const lowered = [block, step('p', 'plate', side100, { operation: 'cut', place })]
    // Where the left side of what is cut away crosses the front.
    const at = (cos * x + sin * (y + d / 2) - half) / cos
    const [r, c, long] = [1.7, 1.3, w / 2 - at]
    const plain = await limit(lowered)
    const rim = 'where p/bottom meets b/front'
    const rounded = plain - (await limit([...lowered, round(rim, r)]))
    expect(rounded).toBeCloseTo((1 - Math.PI / 4) * r ** 2 * long + (sin / cos) * momentOf(r), 3)
    const bevelled = plain - (await limit([...lowered, bevel(rim, c)]))
    expect(bevelled).toBeCloseTo((c ** 2 / 2) * long + ((sin / cos) * c ** 3) / 6, 5)
  })
})

describe('bevels come to their closed forms', () => {
  it('all edges of a block', async () => {
    const c = 1.3
    const sides = 4 * (c ** 2 / 2) * (w + d + h - 6 * c)
    const expected = w * d * h - sides - 8 * 0.75 * c ** 3
    expect(Math.abs((await limit([block, bevel('all', c)])) / expected - 1)).toBeLessThan(1e-12)
  })
  it.each([
    [3, 60],
    [5, 108],
    [6, 120],
    [8, 135],
    [12, 150],
  ])('the upright edges of a prism of %i sides, which meet at %i°', async (sides, angle) => {
    const prism = step('c', 'prism', { sides: `${sides}`, size: '40.3', height: '9.3' })
    const plain = await limit([prism])
    const sine = Math.sin((angle * Math.PI) / 180)
    const even = await limit([prism, bevel('upright', 1.1)])
    expect(plain - even).toBeCloseTo((sides * 1.1 ** 2 * sine * 9.3) / 2, 6)
    const uneven = await limit([prism, bevel('upright', 1.1, { form: 'distances', other: '2.3' })])
    expect(plain - uneven).toBeCloseTo((sides * 1.1 * 2.3 * sine * 9.3) / 2, 6)
  })
  it('by two distances, or one and an angle, the first on the more level face', async () => {
    const rim = 'where b/top meets b/front'
    const cut = (depth: number, on: number) => (depth * on * w) / 2
    const by = async (more: Record<string, string>) => w * d * h - (await limit([block, bevel(rim, 2, more)]))
    expect(await by({ form: 'distances', other: '3.1' })).toBeCloseTo(cut(3.1, 2), 9)
    expect(await by({ form: 'angle', angle: '30' })).toBeCloseTo(cut(2 * Math.tan(Math.PI / 6), 2), 9)
    const steep = await by({ form: 'angle', angle: '30', swap: 'steep' })
    expect(steep).toBeCloseTo(cut(2 * Math.tan(Math.PI / 6), 2), 9)
    const low = async (swap: string) => {
      const done = await built(kernel, partOf([block, bevel(rim, 2, { form: 'distances', other: '3.1', swap })]))
      return kernel.scope((scope) => scope.slice(done.pieces[0]!.solid!, h - 1e-6).area)
    }
    // At the very top as much is left as the size on the top says.
    expect(await low('level')).toBeCloseTo(w * (d - 2), 4)
    expect(await low('steep')).toBeCloseTo(w * (d - 3.1), 4)
    // A face that looks down is as level.
    for (const side of ['front', 'back', 'left', 'right']) {
      const foot = bevel(`where b/bottom meets b/${side}`, 2, { form: 'distances', other: '3.1' })
      const done = await built(kernel, partOf([block, foot]))
      const { area } = kernel.scope((scope) => scope.slice(done.pieces[0]!.solid!, 1e-6))
      expect(area, side).toBeCloseTo(side === 'front' || side === 'back' ? w * (d - 2) : (w - 2) * d, 4)
    }
  })
  it('the rims of a bar', async () => {
    const bar = step('c', 'bar', { diameter: '18.4', height: '9.1' })
    const cone = (c: number) => (Math.PI * c * (9.2 ** 2 + 9.2 * (9.2 - c) + (9.2 - c) ** 2)) / 3
    const expected = Math.PI * 9.2 ** 2 * (9.1 - 2.6) + 2 * cone(1.3)
    expect(Math.abs((await limit([bar, bevel('all', 1.3)])) / expected - 1)).toBeLessThan(2e-6)
  })
})

describe('at a corner what is cut off or filled in overlaps, and leaves no skin between', () => {
  const skinsOf = async (steps: readonly Step[]) => {
    const { solid } = (await built(kernel, partOf([...steps]), 0.02)).pieces[0]!
    return skinEdges({ positions: solid!.corners(), triangles: solid!.mesh().triangles })
  }
  const turns = ['0', '7', '61.1']
  it.each(inTurn(2, ['3', '4', '6', '7']))('round a pocket and a boss of %s sides', async (sides) => {
    for (const turn of turns)
      for (const operation of ['cut', 'add']) {
        const prism = step('n', 'prism', { sides, size: '13', height: '6' }, { operation, ...onTop({ turn }) })
        for (const last of [round('of b/top', 1.3), bevel('of b/top', 1.3), round('all', 0.7)])
          expect(await skinsOf([block, prism, last]), `${turn} ${operation} ${last.operation}`).toBe(0)
      }
  })
  it('of a block that leans', async () => {
    for (const tilt of turns) {
      const leans = { ...block, place: { ...block.place, turn: tilt, tilt, lean: '11' } }
      for (const last of [round('all', 1.3), bevel('all', 1.3)]) expect(await skinsOf([leans, last]), tilt).toBe(0)
    }
  })
})

describe('where many edges come to one corner', () => {
  it.each([4, 5, 7])('%i of them are closed, and lose as much however the body stands', async (count) => {
    const foot = Array.from({ length: count }, (_, i): Vec3 => {
      const rad = (2 * Math.PI * i) / count + 0.3
      return [15.3 * Math.cos(rad), 11 * Math.sin(rad), 0]
    })
    const corners = [...foot, [1.3, -2.1, 14.7]].map((p) => p.map((x) => x.toFixed(4)).join(', ')).join('; ')
    for (const last of [round('all', 1.1), bevel('all', 0.9)]) {
      const lost: number[] = []
      for (const turn of ['0', '23.3']) {
        const body = step('b', 'polyhedron', { corners }, { place: { turn, tilt: turn } })
        const before = (await built(kernel, partOf([body]), 0.02)).pieces[0]!.solid!
        const { pieces, buildProblems } = await built(kernel, partOf([body, last]), 0.02)
        const { solid } = pieces[0]!
        expect(buildProblems).toEqual([])
        expect(meshFigures(solid!.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
        expect(skinEdges({ positions: solid!.corners(), triangles: solid!.mesh().triangles })).toBe(0)
        const common = kernel.scope((scope) => scope.intersection([before, solid!]).volume())
        expect(solid!.volume() - common).toBeLessThan(1e-9)
        lost.push(before.volume() - solid!.volume())
      }
      expect(lost[0]).toBeGreaterThan(10)
      expect(lost[1]).toBeCloseTo(lost[0]!, 6)
    }
  })
})

describe('which edges', () => {
  const bar = step('c', 'bar', { diameter: '8.3', height: '6' }, onTop())
  const volume = async (...steps: Step[]) => {
    const done = await built(kernel, partOf(steps), 0.01)
    return {
      volume: done.pieces[0]!.solid!.volume(),
      told: done.buildProblems.map(({ code, path }) => [code, path[1]]),
    }
  }
  it('are found again whatever the sizes become, and new ones join by themselves', async () => {
    const r = 1.2
    const bore = (x: string) => step('h', 'hole', { diameter: '3.1' }, onTop({ across: off(x) }))
    for (const wide of ['20.3', '33.7']) {
      const plate = step('b', 'plate', { width: wide, depth: `${d}`, height: `${h}` })
      const plain = await volume(plate, round('of b/top', r))
      const bored = await volume(plate, bore('3.7'), round('of b/top', r))
      const rim = stacked(r, (inset) => Math.PI * (1.55 + inset) ** 2) + Math.PI * 1.55 ** 2 * (h - r)
      expect(bored.told).toEqual([])
      expect(plain.volume - bored.volume).toBeCloseTo(rim, 0)
    }
  })
  it.each([
    ['all', 'outer; inner'],
    ['outer of c', 'where c/end meets c/side'],
    ['inner', 'where c meets b'],
    ['rims c', 'where b meets c'],
    ['of b; less of b/top', 'bed; upright'],
    ['upright of b', 'where b/front meets b/left; where b/front meets b/right; upright of b/back'],
    ['level of b/bottom', 'bed'],
    ['all; less all; of b/top', 'of b/top'],
  ])('“%s” are the same as “%s”', async (one, other) => {
    const [a, b] = [await volume(block, bar, round(one, 0.8)), await volume(block, bar, round(other, 0.8))]
    expect(a.told).toEqual([])
    expect(a.volume).toBeCloseTo(b.volume, 6)
  })
  it('that are gone, or smooth, are told, and the rest is done', async () => {
    const plain = await volume(block, bar, round('of b/top', 0.8))
    const some = await volume(block, bar, round('of b/top; of gone; where c/side meets c/side', 0.8))
    expect(some.told).toEqual([
      ['edges-none', 't'],
      ['edges-none', 't'],
    ])
    expect(some.volume).toBeCloseTo(plain.volume, 9)
    const rounded = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}`, corner: '4.1' })
    const smooth = await volume(rounded, round('where b/front meets b/corner', 0.8))
    expect(smooth.told).toEqual([['edges-smooth', 't']])
  })
  it('of what is turned and stands aslant are upright as the bed sees them', async () => {
    const turned = (turn: string) =>
      step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place: { turn } })
    const [plain, aslant] = [
      await volume(turned('0'), round('upright', 2.1)),
      await volume(turned('37.3'), round('upright', 2.1)),
    ]
    expect(aslant.volume).toBeCloseTo(plain.volume, 6)
    expect(plain.volume).toBeLessThan(w * d * h - 10)
  })
})

describe('what does not fit', () => {
  it('is told with what would, and that does', async () => {
    const bar = step('c', 'bar', { diameter: '8.3', height: '3.4' }, onTop())
    const build = (radius: number) =>
      built(kernel, partOf([block, bar, round('where c meets b; where b/top meets b/front', radius)]))
    const tooLarge = await build(3.9)
    const [told] = tooLarge.buildProblems
    expect(told).toMatchObject({ code: 'round-no-room', rank: 'warning', path: ['steps', 't'] })
    const most = Number(/Up to ([\d.]+)/.exec(told!.text)![1])
    expect(most).toBeGreaterThan(3.3)
    expect((await build(most)).buildProblems).toEqual([])
    // The other edge is done all the same.
    const plain = await built(kernel, partOf([block, bar]))
    const away = plain.pieces[0]!.solid!.volume() - tooLarge.pieces[0]!.solid!.volume()
    expect(away).toBeCloseTo((1 - Math.PI / 4) * 3.9 ** 2 * w, 0)
  })
  it('is what a ledge is too narrow for, but not what only runs past a hole, however the body stands', async () => {
    const low = (by: string) => ({ from: 'low', to: 'near', by }) as const
    for (const [place, ledge] of [
      [{}, 1.23],
      [{ turn: '37.3', across: off('15.3') }, 1.51],
      [{ tilt: '21', lean: '-13.7', along: off('-85.1') }, 0.87],
    ] as const) {
      const body = step('b', 'plate', { width: '40.3', depth: '30.1', height: '12.7' }, { place })
      const r = 1.7
      const cutting = {
        operation: 'cut',
        place: { ...onFace('b', 'top'), along: low(`${ledge}`), rest: 'in' },
      } as const
      const lowered = step('p', 'plate', { width: '60', depth: '60', height: '4.3' }, cutting)
      const narrow = await built(kernel, partOf([body, lowered, round('where b/top meets b/front', r)]))
      const [told, ...more] = narrow.buildProblems
      expect([told?.code, more]).toEqual(['round-no-room', []])
      expect(told!.offer!.value).toBeGreaterThan(0.95 * ledge)
      expect(told!.offer!.value).toBeLessThanOrEqual(ledge)
      // A hole as near to the edge takes nothing but what it is wide.
      const mouth = { ...onFace('b', 'top'), along: low(`${ledge}`), across: off('3.1') }
      const hole = step('h', 'hole', { diameter: '5.3' }, { place: mouth })
      const volume = async (...steps: Step[]) => {
        const done = await built(kernel, partOf([body, hole, ...steps]))
        expect(done.buildProblems).toEqual([])
        return done.pieces[0]!.solid!.volume()
      }
      const away = (await volume()) - (await volume(round('where b/top meets b/front', r)))
      const all = (1 - Math.PI / 4) * r ** 2 * 40.3
      expect(Math.abs(away - all)).toBeLessThan(0.3)
    }
  })
  it('beside another one is told: neighbours that would eat each other up', async () => {
    const rail = step('b', 'plate', { width: '30', depth: '3', height: '8' })
    const both = 'where b/top meets b/front; where b/top meets b/back'
    const done = await built(kernel, partOf([rail, round(both, 1.7)]))
    expect(done.buildProblems.map(({ code }) => code)).toEqual(['round-no-room'])
    expect((await built(kernel, partOf([rail, round(both, 1.4)]))).buildProblems).toEqual([])
  })
})

describe('the ball touches both faces all along', () => {
  /** The corners of all faces that a treatment made. */
  async function cornersOf(steps: readonly Step[], fineness: number): Promise<Vec3[]> {
    const done = await built(kernel, partOf([...steps]), fineness)
    expect(done.buildProblems).toEqual([])
    const { positions, faceOf, faces } = renderMeshOf(done, done.pieces[0]!)!
    return [...faceOf].flatMap((face, t) =>
      faces[face]!.owner.id === 't'
        ? [0, 3, 6].map((k): Vec3 => [positions[9 * t + k]!, positions[9 * t + k + 1]!, positions[9 * t + k + 2]!])
        : [],
    )
  }
  /** How far a point is from a closed curve, by places on it and a parabola between the nearest three. */
  function distanceTo(curve: (rad: number) => Vec3, p: Vec3): number {
    const count = 360
    const far = (rad: number) => norm(subtract(curve(rad), p))
    let best = 0
    for (let i = 1; i < count; i++) if (far((2 * Math.PI * i) / count) < far((2 * Math.PI * best) / count)) best = i
    let [step, at] = [(2 * Math.PI) / count, (2 * Math.PI * best) / count]
    for (let i = 0; i < 30; i++) {
      step /= 2
      for (const other of [at - step, at + step]) if (far(other) < far(at)) at = other
    }
    return far(at)
  }
  it('where a bar leans on a plate', async () => {
    const [a, r] = [4.1, 1.7]
    const bar = step('c', 'bar', { diameter: `${2 * a}`, height: '20' }, onTop({ tilt: '30', lift: '-4' }))
    const wide = step('b', 'plate', { width: '50', depth: '50', height: '12' })
    const corners = await cornersOf([wide, bar, round('where c/side meets b/top', r)], 0.01)
    expect(corners.length).toBeGreaterThan(500)
    const { origin, u, v, n } = workOut(partOf([wide, bar])).plan.geometry.get('c')!.frame
    expect(n[2]).toBeCloseTo(Math.cos(Math.PI / 6), 9)
    // As far from the axis as both radii, and as high over the plate as the ball is large.
    const curve = (rad: number): Vec3 => {
      const across = add(scaled(u, (a + r) * Math.cos(rad)), scaled(v, (a + r) * Math.sin(rad)))
      const p = add(origin, across)
      return add(p, scaled(n, (12 + r - p[2]) / n[2]))
    }
    for (const p of corners.slice(0, 900)) expect(Math.abs(distanceTo(curve, p) - r)).toBeLessThan(0.03)
  })
  it('at the rim of a hole across a bar, a saddle', async () => {
    const [R, a, r] = [10, 3, 1.1]
    const bar = step('c', 'bar', { diameter: `${2 * R}`, height: '40' })
    const hole = step('h', 'hole', { diameter: `${2 * a}` }, { place: { ...onFace('c', 'side') } })
    const corners = await cornersOf([bar, hole, round('rims h', r)], 0.01)
    const middle = corners.reduce((sum, p) => sum + p[2], 0) / corners.length
    // The ball's centre is R − r from the bar's axis, and a + r from that of the hole, which runs along y.
    const curve =
      (way: number) =>
      (rad: number): Vec3 => {
        const x = (a + r) * Math.cos(rad)
        return [x, way * Math.sqrt((R - r) ** 2 - x ** 2), middle + (a + r) * Math.sin(rad)]
      }
    for (const p of corners.slice(0, 1500)) {
      const off = Math.abs(distanceTo(curve(p[1] > 0 ? 1 : -1), p) - r)
      expect(off).toBeLessThan(0.03)
    }
  })
  it('with a radius that runs evenly to another one', async () => {
    const one = withEdges('round', 'where b/front meets b/left', { radius: '1.1', end: 'running', to: '3.7' })
    const away = w * d * h - (await limit([block, one]))
    expect(away / (((1 - Math.PI / 4) * h * (1.1 ** 2 + 1.1 * 3.7 + 3.7 ** 2)) / 3)).toBeCloseTo(1, 4)
  })
})

describe('the round touches its faces without a kink', () => {
  const bar = (id: string, diameter: string, height: string, more?: Parameters<typeof step>[3]) =>
    step(id, 'bar', { diameter, height }, more)
  const wide = step('b', 'plate', { width: '50', depth: '50', height: '12' })
  const egg = new Sketch(emptyOutline('egg'))
  egg.ellipse({ at: [0, 0] }, { at: [17.3, 0] }, 9.1)
  const collar = new Sketch(emptyOutline('collar'))
  collar.rectangle({ at: [12, 0] }, { at: [19.3, 11.1] }, false)
  it.each<[string, Step[], number]>([
    ['all edges of a block', [block, round('all', 2.3)], 2.3],
    ['the rims of a bar', [bar('c', '15.3', '12'), round('all', 1.7)], 1.7],
    [
      'the rims of a cone',
      [step('c', 'bar', { diameter: '24', height: '20', form: 'tapered', end: '12' }), round('all', 1.7)],
      1.7,
    ],
    [
      'the rims of a bore',
      [block, step('h', 'hole', { diameter: '6.2' }, onTop({ across: off('1.9') })), round('rims h', 1.1)],
      1.1,
    ],
    ['the foot of a bar', [block, bar('c', '8.3', '12', onTop()), round('where c meets b', 2.6)], 2.6],
    [
      'the foot of one that leans',
      [wide, bar('c', '8.2', '20', onTop({ tilt: '30', lift: '-5' })), round('where c/side meets b/top', 1.7)],
      1.7,
    ],
    [
      'where a bar stands on a ball',
      [step('b', 'ball', { diameter: '20' }), bar('c', '8.2', '20', { place: { lift: '10' } }), round('inner', 1.9)],
      1.9,
    ],
    [
      'the rims of a hole across a bar',
      [
        bar('c', '20', '40'),
        step('h', 'hole', { diameter: '6' }, { place: { ...onFace('c', 'side') } }),
        round('rims h', 1.1),
      ],
      1.1,
    ],
    [
      'where two bars cross',
      [
        bar('c', '12', '40'),
        bar('q', '9', '40', { place: { ...onFace('c', 'side'), lift: '-20' } }),
        round('where q meets c', 1.3),
      ],
      1.3,
    ],
    [
      'where a ring lies in a plate',
      [wide, step('c', 'ring', { diameter: '30', thick: '8' }, onTop({ lift: '-2' })), round('where c meets b', 1.3)],
      1.3,
    ],
    ['the rims of an ellipse', [step('c', 'extrude', { outline: 'egg', height: '8' }), round('all', 1.3)], 1.3],
    ['all edges of what is turned', [step('c', 'revolve', { outline: 'collar' }), round('all', 1.3)], 1.3],
  ])('%s', async (_, steps, r) => {
    for (const fineness of [0.04, 0.01]) {
      const part = partOf(steps, { outlines: [egg.outline, collar.outline] })
      const { pieces, plan, problems } = await built(kernel, part, fineness)
      expect(problems).toEqual([])
      const piece = pieces[0]!
      const { edges, faces } = namedSolid(piece.solid!, copiesOf(plan), piece.ownerOf)
      const isRound = (face: number) => faces[face]!.key.startsWith('step/t/')
      const touching = edges.filter((edge) => edge.faces.filter(isRound).length === 1)
      expect(touching.length).toBeGreaterThan(1)
      const oneFlat = 360 / flatsRound(r, fineness)
      for (const { bend, key } of touching) expect(Math.abs(bend), `${key} at ${fineness}`).toBeLessThan(oneFlat)
    }
  })
})

describe('edges at a place where two bodies meet by a hair', () => {
  it('leave two where it is cut off, which is told; not where it is deep enough', async () => {
    for (const [by, bodies] of [
      [0.2, 2],
      [4.3, 1],
    ] as const) {
      // Its corner lies over the edge of what it stands on by so much.
      const out = 10 / Math.SQRT2 - by
      const place = { across: { from: 'centre', to: 'centre', by: `${w / 2 + out}` }, turn: '45' } as const
      const second = step('c', 'plate', { width: '10', depth: '10', height: '7.3' }, onTop(place))
      const { pieces, buildProblems } = await built(kernel, partOf([block, second, round('upright outer', 1.45)]), 0.05)
      expect(pieces[0]!.solid!.bodies()).toBe(bodies)
      expect(buildProblems.map(({ code }) => code)).toEqual(bodies > 1 ? ['edges-part'] : [])
    }
  })
})

describe('a body that is smaller than what is cut off its edges', () => {
  it('stays, without them; crumbs do not', async () => {
    const beside = { across: { from: 'centre', to: 'centre', by: '40' } } as const
    const leaf = step('c', 'plate', { width: '2.2', depth: '2.4', height: '0.2' }, { place: beside })
    const { pieces, buildProblems } = await built(kernel, partOf([block, leaf, round('upright', 1.05)]), 0.005)
    expect(buildProblems).toEqual([])
    const parts = kernel.scope((scope) => scope.parts(pieces[0]!.solid!).map((part) => part.volume()))
    expect(parts).toHaveLength(2)
    const corners = (4 - Math.PI) * 1.05 ** 2
    expect(Math.min(...parts)).toBeCloseTo((2.2 * 2.4 - corners) * 0.2, 2)
  })
})

it.each(['round', 'bevel'])(
  'a %s far larger than its body is told to have no room, and takes nothing',
  async (operation) => {
    for (const edges of ['upright of b', 'of b/top', 'of b'])
      for (const size of ['9.3', '36.8', '100', '1/3 in * 99', '9999']) {
        const field: Record<string, string> = operation === 'round' ? { radius: size } : { size }
        const { pieces, problems } = await built(kernel, partOf([block, withEdges(operation, edges, field)]), 0.03)
        const volume = pieces[0]!.solid?.volume() ?? 0
        // A size that fits on some of them is done there.
        if (size !== '9.3') expect(volume, `${edges} ${size}`).toBeCloseTo(w * d * h, 6)
        expect(volume).toBeGreaterThan((w * d * h) / 3)
        if (volume > w * d * h - 1e-6) expect(problems.map(({ text }) => text).join()).toMatch(/no room/)
      }
  },
)
