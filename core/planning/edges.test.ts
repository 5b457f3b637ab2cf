import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit } from '../document/index.ts'
import { Sketch } from '../outline/index.ts'
import { compose, pointIn, world } from '../place/index.ts'
import { lengthOf, line, norm2, pointAt, type Vec2 } from '../plane/index.ts'
import { type Built, renderMeshOf } from '../solids/index.ts'
import { built, bundleOf, onFace, partOf, repeat, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { real } from '../testing/sample.ts'
import { edgesSeen } from './edges.ts'
import { drawnEdges, fieldKindOf, planeOf } from './index.ts'

const kernel = await testKernel()

const fineness = 0.02
const coordinate = real(-25, 25)
const angle = real(0, 7)
const onTop = { on: { kind: 'face' as const, step: 'base', face: 'top' } }
const base = step('base', 'plate', { width: '60', depth: '50', height: '6' })

/** Tells the drawn edges of a built part on a plane. */
function drawnOn(done: Built, plane: Parameters<typeof pointIn>[0]) {
  const { edges } = renderMeshOf(done, done.pieces[0]!)!
  const end = (at: number): Vec2 => {
    const [x, y] = pointIn(plane, [edges[at]!, edges[at + 1]!, edges[at + 2]!])
    return [x, y]
  }
  return drawnEdges(
    Array.from({ length: edges.length / 6 }, (_, i) => [end(6 * i), end(6 * i + 3)] as const),
    fineness,
  )
}

describe('drawn edges', () => {
  it('are found near a segment, wherever both lie', () => {
    fc.assert(
      fc.property(coordinate, coordinate, coordinate, coordinate, angle, (x, y, u, v, rad) => {
        fc.pre(Math.hypot(u, v) > 0.1)
        const [from, to]: [Vec2, Vec2] = [
          [x, y],
          [x + u, y + v],
        ]
        const beside = (p: Vec2, by: number): Vec2 => [p[0] + by * Math.cos(rad), p[1] + by * Math.sin(rad)]
        const isDrawn = drawnEdges([[from, to]], fineness)
        expect(isDrawn(line(beside(from, 0.04), beside(to, 0.04)))).toBe(true)
        // On either side of whatever line they are sorted by.
        for (const by of [-0.04, 0.04])
          for (const at of [2 * Math.round(x) + by / 2, 2 * Math.round(x) - by / 2])
            expect(
              drawnEdges(
                [
                  [
                    [at, y],
                    [at, y + 9.3],
                  ],
                ],
                fineness,
              )(line([at + by, y], [at + by, y + 9.3])),
            ).toBe(true)
        // Far off it there is none.
        expect(isDrawn(line([x + 90, y], [x + 90 + u, y + v]))).toBe(false)
      }),
    )
  })
})

describe('edges seen on a plane', () => {
  it('are no circles where a round stands aslant', async () => {
    const bar = (tilt: string) => step('c', 'bar', { diameter: '9', height: '12' }, { place: { ...onTop, tilt } })
    const arcs = async (tilt: string) => {
      const { plan } = await built(kernel, partOf([base, bar(tilt)]))
      const plane = planeOf(onTop, plan)!
      return edgesSeen(plane, plan, 'c').filter(({ segment }) => segment.kind === 'arc').length
    }
    expect(await arcs('0')).toBeGreaterThan(0)
    expect(await arcs('31')).toBe(0)
  })
})

/** A drawing of a line, an arc, an ellipse and a spline, closed. */
function mixed() {
  const sketch = new Sketch(emptyOutline('mixed'))
  const [a, b, c] = [
    [-10, -5],
    [10, -5],
    [10, 5],
  ].map(([x, y]) => sketch.point({ at: [x!, y!] }))
  sketch.curve('line', [a!, b!])
  sketch.curve('arc', [sketch.point({ at: [10, 0] }), b!, c!])
  sketch.curve('through', [c!, sketch.point({ at: [2, 8] }), sketch.point({ at: [-6, 6] }), a!])
  sketch.curve('ellipse', [sketch.point({ at: [0, 0] }), sketch.point({ at: [4, 0] })], { size: 2 })
  return sketch.outline
}

function rectangle(id: string, x: number, y: number, width: number, height: number) {
  const sketch = new Sketch(emptyOutline(id))
  sketch.rectangle({ at: [x, y] }, { at: [x + width, y + height] }, false)
  return sketch.outline
}

function drawings() {
  return [
    mixed(),
    rectangle('collar', 12, 0, 5, 20),
    rectangle('small', -5, -5, 10, 10),
    rectangle('large', -9, -7, 18, 14),
  ]
}

describe('the edges of a step as they are seen on a plane', () => {
  it.each<[string, Record<string, string>, number]>([
    ['plate', {}, 4],
    ['plate', { corner: '4' }, 8],
    ['plate', { corner: '4', corners: 'bevel' }, 8],
    ['plate', { corner: '15' }, 6],
    ['bar', {}, 1],
    ['bar', { core: 'tube' }, 2],
    ['bar', { form: 'tapered' }, 2],
    ['prism', {}, 6],
    ['ring', { section: 'square' }, 2],
    ['post', {}, 4],
    ['star', {}, 10],
    ['heart', {}, 4],
    ['half-round', {}, 2],
    ['extrude', { outline: 'mixed' }, 6],
    // Four rims, and the two upright walls between them.
    ['revolve', { outline: 'collar' }, 6],
    ['loft', { sections: 'small, 0; large, 8' }, 8],
  ])('are edges of the solid: %s %o', async (shape, fields, count) => {
    const done = await built(kernel, partOf([step('s', shape, fields)], { outlines: drawings() }), fineness)
    expect(done.problems).toEqual([])
    const seen = edgesSeen(world, done.plan, 's')
    expect(seen).toHaveLength(count)
    expect(new Set(seen.map(({ face }) => face)).size).toBe(count)
    const isDrawn = drawnOn(done, world)
    expect(seen.filter(({ segment }) => !isDrawn(segment))).toEqual([])
  })

  it.each<[string, Record<string, string>, number]>([
    ['hole', {}, 1],
    ['hole', { mouth: 'countersink' }, 2],
    ['hole', { mouth: 'counterbore', reach: 'blind', depth: '5' }, 2],
    ['slot', {}, 4],
    ['slot', { ends: 'square' }, 4],
    ['teardrop', {}, 1],
    ['cutout', { outline: 'mixed' }, 6],
    ['ball', { diameter: '10', form: 'part', from: '5', to: '10' }, 1],
  ])('are those that a cut leaves: %s %o', async (shape, fields, count) => {
    const cut = step('s', shape, fields, {
      operation: 'cut',
      place: { ...onTop, turn: '20', ...(shape === 'ball' ? { tilt: '180' } : {}) },
    })
    const done = await built(kernel, partOf([base, cut], { outlines: [mixed()] }), fineness)
    expect(done.problems).toEqual([])
    const plane = planeOf(onTop, done.plan)!
    const seen = edgesSeen(plane, done.plan, 's')
    expect(seen).toHaveLength(count)
    const isDrawn = drawnOn(done, plane)
    expect(seen.filter(({ segment }) => !isDrawn(segment))).toEqual([])
  })

  it('of a bar that lies across it are its two sides, as long as it is', async () => {
    const lying = step('s', 'bar', { diameter: '15.3', height: '40' }, { place: { turn: '37.3', tilt: '90' } })
    const done = await built(kernel, partOf([lying]), fineness)
    const seen = edgesSeen(world, done.plan, 's').filter(({ face }) => /^(left|right) of/.test(face))
    expect(seen).toHaveLength(2)
    const { origin, n } = done.plan.operands.get('s')!.copies[0]!.frame
    for (const { segment } of seen) {
      if (segment.kind !== 'line') throw new Error('a side is a line')
      const [from, to] = [segment.from, segment.to].map(([x, y]) => [x - origin[0], y - origin[1]] as const)
      const along = [from, to].map((p) => p![0] * n[0] + p![1] * n[1]).sort((a, b) => a - b)
      expect(along[0]).toBeCloseTo(0, 6)
      expect(along[1]).toBeCloseTo(40, 6)
      const aside = [from, to].map((p) => p![0] * n[1] - p![1] * n[0])
      expect(Math.abs(aside[0]!)).toBeCloseTo(7.65, 6)
      expect(aside[1]).toBeCloseTo(aside[0]!, 6)
    }
    expect(new Set(seen.map(({ face }) => face)).size).toBe(2)
  })

  it('are those of a drop that rises to a point, whatever face it is in', async () => {
    const inFront = { on: { kind: 'face' as const, step: 'base', face: 'front' } }
    for (const roof of ['pointed', 'flat']) {
      const tall = step('base', 'plate', { width: '60', depth: '20', height: '40' })
      const cut = step('s', 'teardrop', { roof }, { operation: 'cut', place: { ...inFront, turn: '35' } })
      const done = await built(kernel, partOf([tall, cut]), fineness)
      const plane = planeOf(inFront, done.plan)!
      const seen = edgesSeen(plane, done.plan, 's')
      expect(seen.map(({ face }) => face)).toEqual(
        roof === 'flat' ? ['wall', 'right flank', 'roof', 'left flank'] : ['wall', 'right flank', 'left flank'],
      )
      const isDrawn = drawnOn(done, plane)
      expect(seen.filter(({ segment }) => !isDrawn(segment))).toEqual([])
    }
  })

  it('go with the copies of a step, mirrored ones and those of a bundle too', async () => {
    const teeth = step(
      's',
      'extrude',
      { outline: 'mixed' },
      {
        place: { turn: '25' },
        repeats: [repeat('grid', { acrossSpacing: '40', alongSpacing: '30' }), repeat('mirror', { at: '110' })],
      },
    )
    const plain = partOf([teeth], { outlines: [mixed()] })
    const asMade = { from: 'low', to: 'own', by: '0' } as const
    const bundle = bundleOf('b', [], { place: { across: asMade, along: asMade } })
    const bundled = applyEdit(plain, { type: 'bundle-steps', ids: ['s'], bundle }, fieldKindOf)
    const turned = applyEdit(bundled, { type: 'set-place', id: 'b', change: { turn: '70', lift: '3' } }, fieldKindOf)
    for (const part of [plain, turned]) {
      const done = await built(kernel, part, fineness)
      expect(done.problems).toEqual([])
      const seen = edgesSeen(world, done.plan, 's')
      expect(new Set(seen.map(({ copy }) => copy)).size).toBe(12)
      const isDrawn = drawnOn(done, world)
      expect(seen.filter(({ segment }) => !isDrawn(segment))).toEqual([])
    }
  })

  it('are the round of an upright and its foot from its broad side, and three lines from its narrow one', async () => {
    const upright = step('s', 'upright', { thick: '8', width: '30', height: '40', head: 'round' })
    const done = await built(kernel, partOf([upright]), fineness)
    for (const [face, kinds] of [
      ['right', ['arc', 'line', 'line', 'line']],
      ['front', ['line', 'line', 'line']],
    ] as const) {
      const plane = planeOf({ on: { kind: 'face', step: 's', face } }, done.plan)!
      const seen = edgesSeen(plane, done.plan, 's')
      expect(seen.map(({ segment }) => segment.kind).sort()).toEqual(kinds)
      const isDrawn = drawnOn(done, plane)
      expect(seen.filter(({ segment }) => !isDrawn(segment))).toEqual([])
    }
  })

  it('of what is scaled are where its leaning sides go through the plane now', async () => {
    const fields = { scale: 'each', across: '2.3', along: '0.7', up: '1.3' }
    const inner = step('w', 'pyramid', { width: '20', depth: '20', height: '15' })
    const done = await built(kernel, partOf([bundleOf('B', [inner], { fields })]), fineness)
    const share = 1 - 7.1 / (1.3 * 15)
    const seen = edgesSeen({ ...world, origin: [0, 0, 7.1] }, done.plan, 'w')
    const middles = seen.map(({ face, segment }) => [face, ...pointAt(segment, 0.5)])
    const at = (mm: number) => expect.closeTo(mm, 9)
    expect(middles).toEqual([
      ['front', at(0), at(-7 * share)],
      ['back', at(0), at(7 * share)],
      ['left', at(-23 * share), at(0)],
      ['right', at(23 * share), at(0)],
    ])
  })
  it('of what is scaled evenly are its rounds too, with their rims and corners as large as they are now', async () => {
    const fields = { scale: 'even', factor: '1.7' }
    const place = { across: { from: 'centre', to: 'centre', by: '15.3' }, turn: '37.3' } as const
    for (const shape of ['bar', 'plate', 'post', 'heart'] as const) {
      const inner = step('w', shape, shape === 'plate' ? { corner: '4.3' } : {}, { place })
      const done = await built(kernel, partOf([bundleOf('B', [inner], { fields, place })]), fineness)
      const seen = edgesSeen(world, done.plan, 'w')
      expect(
        seen.some(({ segment }) => segment.kind === 'arc'),
        shape,
      ).toBe(true)
      const isDrawn = drawnOn(done, world)
      expect(seen.filter(({ segment }) => !isDrawn(segment))).toEqual([])
    }
    // From the side, and aslant.
    const bar = step('w', 'bar', { diameter: '10', height: '30' })
    const done = await built(kernel, partOf([bundleOf('B', [bar], { fields })]), fineness)
    const upright = { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] } as const
    const sides = edgesSeen(upright, done.plan, 'w').filter(({ face }) => / of side$/.test(face))
    expect(sides.map(({ segment }) => [Math.abs(pointAt(segment, 0)[0]), lengthOf(segment)])).toEqual(
      Array.from({ length: 2 }, () => [expect.closeTo(8.5, 9), expect.closeTo(51, 9)]),
    )
    const [s, c] = [Math.sin(0.4), Math.cos(0.4)]
    const aslant = { origin: [0, 0, 20], u: [1, 0, 0], v: [0, c, s], n: [0, -s, c] } as const
    const [cut] = edgesSeen(aslant, done.plan, 'w').filter(({ segment }) => segment.kind === 'ellipse')
    const { major, minor } = cut!.segment as { readonly major: Vec2; readonly minor: Vec2 }
    expect([norm2(major), norm2(minor)]).toEqual([expect.closeTo(8.5 / c, 9), expect.closeTo(8.5, 9)])
  })
  it('are seen from the side as the lines of a bar, and where a leaning side goes through the plane', async () => {
    const bar = step('s', 'bar', { diameter: '10', height: '30' }, { place: onFace('base', 'right') })
    const wedge = step('w', 'pyramid', { width: '20', depth: '20', height: '15' })
    const done = await built(kernel, partOf([base, bar, wedge]), fineness)
    const lying = edgesSeen(world, done.plan, 's').filter(({ face }) => / of side$/.test(face))
    expect(lying.map(({ segment }) => Math.abs(pointAt(segment, 0)[1]))).toEqual([5, 5])
    const level = compose(world, { origin: [0, 0, 7.5], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })
    const through = edgesSeen(level, done.plan, 'w')
    expect(through.map(({ face }) => face)).toEqual(['front', 'back', 'left', 'right'])
    for (const { segment } of through) expect(Math.max(...pointAt(segment, 0.5).map(Math.abs))).toBeCloseTo(5, 9)
    // Cut at another height the slopes are nearer to the middle, and on their own sides of it.
    const higher = edgesSeen({ ...level, origin: [0, 0, 12] }, done.plan, 'w')
    const middles = Object.fromEntries(higher.map(({ face, segment }) => [face, pointAt(segment, 0.5)]))
    expect(middles).toEqual({
      front: [expect.closeTo(0, 9), expect.closeTo(-2, 9)],
      back: [expect.closeTo(0, 9), expect.closeTo(2, 9)],
      left: [expect.closeTo(-2, 9), expect.closeTo(0, 9)],
      right: [expect.closeTo(2, 9), expect.closeTo(0, 9)],
    })
  })
})
