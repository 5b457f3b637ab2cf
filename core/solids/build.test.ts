import { describe, expect, it } from 'vitest'
import { applyEdit, type Part, type ShapeStep, type Step } from '../document/index.ts'
import { circumradius, polygonArea, segmentsFor } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { directionIn, pointIn, type Vec3 } from '../place/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { built, onFace, partOf, repeat, seeded, step, testKernel } from '../testing/index.ts'
import { BuildAborted, Builder, type Built, renderMeshOf, SolidCache } from './index.ts'

const fineness = 0.01
const kernel = await testKernel()

const hole = (d: number) => {
  const n = segmentsFor(d / 2, fineness, true)
  return polygonArea(circumradius(d / 2, n), n)
}
const volume = ({ pieces }: Built) => pieces.reduce((sum, piece) => sum + (piece.solid?.volume() ?? 0), 0)
const bounds = ({ pieces }: Built) => pieces[0]!.solid!.bounds()!
const codes = ({ problems }: Built) => problems.map(({ code }) => code)
const build = (steps: readonly Step[], change: Partial<Part> = {}) => built(kernel, partOf(steps, change), fineness)
const low = (by: string) => ({ from: 'low', to: 'centre', by }) as const

const base = step('base', 'plate', { width: '60', depth: '40', height: '6' })

describe('effects', () => {
  it('add, cut and keep', async () => {
    expect(volume(await build([base]))).toBeCloseTo(60 * 40 * 6, 6)
    expect(
      volume(await build([base, step('h', 'hole', { diameter: '5' }, { place: onFace('base', 'top') })])),
    ).toBeCloseTo((2400 - hole(5)) * 6, 5)
    expect(
      volume(
        await build([
          base,
          step(
            'k',
            'plate',
            { width: '20', depth: '20', height: '6' },
            { operation: 'keep', place: onFace('base', 'top') },
          ),
        ]),
      ),
    ).toBeCloseTo(400 * 6, 5)
  })
  it('act in the order of the sheet', async () => {
    const boss = step('boss', 'bar', { diameter: '10', height: '10' }, { place: onFace('base', 'top') })
    const drill = step('drill', 'hole', { diameter: '4' }, { place: { ...onFace('base', 'top'), lift: '10' } })
    const cutLast = volume(await build([base, boss, drill]))
    const cutFirst = volume(await build([base, drill, boss]))
    expect(cutFirst - cutLast).toBeCloseTo(hole(4) * 10, 4)
  })
  it('through passes everything behind the face and nothing before it', async () => {
    const wall = step(
      'wall',
      'upright',
      { thick: '5', width: '40', height: '30' },
      { place: { ...onFace('base', 'top'), across: { from: 'low', to: 'near', by: '0' } } },
    )
    const across = step('across', 'hole', { diameter: '4' }, { place: onFace('wall', 'right') })
    expect(volume(await build([base, wall])) - volume(await build([base, wall, across]))).toBeCloseTo(hole(4) * 5, 4)
    const down = step('down', 'hole', { diameter: '4' }, { place: { ...onFace('base', 'top'), across: low('2.5') } })
    expect(volume(await build([base, wall])) - volume(await build([base, wall, down]))).toBeCloseTo(hole(4) * 6, 6)
  })
  it('a muted step is left out, and what stands on it stays', async () => {
    const steps = [
      base,
      step('block', 'plate', { width: '10', depth: '10', height: '5' }, { place: onFace('base', 'top'), mute: true }),
      step('pin', 'bar', { diameter: '4', height: '3' }, { place: onFace('block', 'top') }),
    ]
    const result = await build(steps)
    expect(bounds(result).max[2]).toBeCloseTo(6 + 5 + 3, 9)
    expect(result.pieces[0]!.solid!.bodies()).toBe(2)
  })
  it('leaves no skin where a cut is as deep as its body, at any angle', async () => {
    for (const turn of ['0', '13', '37.5']) {
      const turned = { ...base, place: { ...base.place, turn } }
      const slot = step(
        'slot',
        'plate',
        { width: '10', depth: '10', height: '6' },
        { operation: 'cut', place: onFace('base', 'top') },
      )
      const blind = step(
        'h',
        'hole',
        { diameter: '4', reach: 'blind', depth: '6' },
        { place: { ...onFace('base', 'top'), across: low('10') } },
      )
      const result = await build([turned, slot, blind])
      expect(volume(result)).toBeCloseTo((2400 - 100 - hole(4)) * 6, 4)
      const figures = meshFigures(result.pieces[0]!.solid!.mesh())
      expect([figures.oriented, figures.solids]).toEqual([true, 1])
    }
  })
  it('a tilted hole goes clean through both faces', async () => {
    const tilted = step('t', 'hole', { diameter: '5' }, { place: { ...onFace('base', 'top'), tilt: '30' } })
    const result = await build([base, tilted])
    // A slanted prism between two parallel faces: its section over the cosine, times the thickness.
    expect(volume(result)).toBeCloseTo((2400 - hole(5) / Math.cos(Math.PI / 6)) * 6, 4)
    expect(meshFigures(result.pieces[0]!.solid!.mesh())).toMatchObject({ oriented: true, solids: 1 })
  })
  it('a tilted block stands on its lowest edge', async () => {
    const block = step('b', 'plate', { width: '10', depth: '10', height: '10' }, { place: { tilt: '45' } })
    expect(bounds(await build([block])).min[2]).toBeCloseTo(0, 9)
    expect(bounds(await build([block])).max[2]).toBeCloseTo(10 * Math.SQRT2, 5)
  })
  it('a pocket is exactly as deep as it says', async () => {
    const pocket = step(
      'p',
      'plate',
      { width: '10', depth: '10', height: '4' },
      { operation: 'cut', place: onFace('base', 'top') },
    )
    expect(volume(await build([base, pocket]))).toBeCloseTo(2400 * 6 - 400, 6)
  })
})

describe('lasting placement', () => {
  it('moves with what it stands on, and keeps its distance from the edge under any size', async () => {
    const random = seeded(1)
    for (let i = 0; i < 12; i++) {
      const [w, d, h] = [30 + random() * 60, 30 + random() * 60, 2 + random() * 9]
      const plate = step('base', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })
      const peg = step(
        'peg',
        'bar',
        { diameter: '4', height: '5' },
        { place: { ...onFace('base', 'top'), across: { from: 'high', to: 'near', by: '3' }, along: low('7') } },
      )
      const result = await build([plate, peg])
      const { frame } = result.plan.geometry.get('peg')!
      expect(frame.origin[0]).toBeCloseTo(w / 2 - 3 - 2, 9)
      expect(frame.origin[1]).toBeCloseTo(-d / 2 + 7, 9)
      expect(frame.origin[2]).toBeCloseTo(h, 9)
    }
  })
  it('follows chains of faces through a turn', async () => {
    const wall = step(
      'wall',
      'upright',
      { thick: '5', width: '20', height: '30' },
      { place: { ...onFace('base', 'top'), turn: '90' } },
    )
    const peg = step('peg', 'bar', { diameter: '4', height: '8' }, { place: onFace('wall', 'right') })
    const result = await build([base, wall, peg])
    const { origin, n } = result.plan.geometry.get('peg')!.frame
    expect(origin.map((x) => Math.round(x * 1e9) / 1e9 + 0)).toEqual([0, 2.5, 21])
    expect(n.map((x) => Math.round(x * 1e9) / 1e9 + 0)).toEqual([0, 1, 0])
  })
  it('repeats in rows and rings', async () => {
    const holes = step(
      'h',
      'hole',
      { diameter: '3' },
      {
        place: { ...onFace('base', 'top'), across: low('10') },
        repeats: [repeat('row', { direction: 'across', count: '4', spacing: '10' })],
      },
    )
    expect(volume(await build([base, holes]))).toBeCloseTo((2400 - 4 * hole(3)) * 6, 4)
    const ring = step(
      'h',
      'hole',
      { diameter: '3' },
      {
        place: { ...onFace('base', 'top'), across: { from: 'centre', to: 'centre', by: '12' } },
        repeats: [repeat('ring', { count: '6', angle: '360' })],
      },
    )
    expect(volume(await build([base, ring]))).toBeCloseTo((2400 - 6 * hole(3)) * 6, 3)
  })
})

it('a cut that only touches, or that lies beside, is told; one that trims a face is not', async () => {
  const block = (lift: string) =>
    step(
      'c',
      'prism',
      { size: '20', height: '4' },
      { operation: 'cut', place: { ...onFace('base', 'top'), rest: 'on', lift } },
    )
  expect(codes(await build([base, block('0')]))).toEqual(['cut-removes-nothing'])
  expect(codes(await build([base, block('3')]))).toEqual(['cut-removes-nothing'])
  const trim = step(
    'c',
    'plate',
    { width: '200', depth: '200', height: '4' },
    { operation: 'cut', place: { ...onFace('base', 'top'), rest: 'on', lift: '-1' } },
  )
  const trimmed = await build([base, trim])
  expect(codes(trimmed)).toEqual([])
  expect(volume(trimmed)).toBeCloseTo(2400 * 5, 5)
})

it('tells how much a step adds or removes, in order and in bundles', async () => {
  const boss = step('boss', 'plate', { width: '10', depth: '10', height: '4' }, { place: onFace('base', 'top') })
  const slot = step('slot', 'slot', { length: '8', width: '8', ends: 'square' }, { place: onFace('boss', 'top') })
  const builder = new Builder(kernel)
  const result = await builder.build(partOf([base, boss, slot]), { fineness })
  const effect = (id: string) => builder.effectOf(result, id, { fineness })
  expect(await effect('slot')).toBeCloseTo(-64 * 10, 4)
  // Without the boss, the slot still goes through the base.
  expect(await effect('boss')).toBeCloseTo(400 - 64 * 4, 4)
  expect(await effect('base')).toBeCloseTo(2400 * 6 - 64 * 6, 4)
  expect(await effect('nobody')).toBeUndefined()
  expect(volume(result)).toBeCloseTo(2400 * 6 + 400 - 640, 4)
  builder.clear()
})

describe('what goes wrong is told on its line, and the rest is built', () => {
  const bad = (change: Partial<ShapeStep>): ShapeStep => ({
    ...step('bad', 'hole', {}, { place: onFace('base', 'top') }),
    ...change,
  })
  it.each<[string, Step, string, string[]]>([
    [
      'an unknown name',
      bad({ fields: { ...bad({}).fields, diameter: 'scew' } }),
      'unknown-name',
      ['steps', 'bad', 'fields', 'diameter'],
    ],
    [
      'a wrong unit',
      bad({ fields: { ...bad({}).fields, diameter: '5 mn' } }),
      'unknown-unit',
      ['steps', 'bad', 'fields', 'diameter'],
    ],
    [
      'a negative size',
      bad({ fields: { ...bad({}).fields, diameter: '-5' } }),
      'not-above',
      ['steps', 'bad', 'fields', 'diameter'],
    ],
    [
      'a huge size',
      bad({ fields: { ...bad({}).fields, diameter: '1e9' } }),
      'too-large',
      ['steps', 'bad', 'fields', 'diameter'],
    ],
    [
      'a division by zero',
      bad({ fields: { ...bad({}).fields, diameter: '5 / 0' } }),
      'division-by-zero',
      ['steps', 'bad', 'fields', 'diameter'],
    ],
    [
      'an unknown choice',
      bad({ fields: { ...bad({}).fields, mouth: 'wide' } }),
      'choice-unknown',
      ['steps', 'bad', 'fields', 'mouth'],
    ],
    [
      'an impossible shape',
      bad({ fields: { ...bad({}).fields, mouth: 'countersink', head: '1' } }),
      'shape-impossible',
      ['steps', 'bad', 'fields', 'head'],
    ],
    [
      'too many copies',
      bad({ repeats: [repeat('row', { direction: 'up', count: '10000', spacing: '1' })] }),
      'too-large',
      ['steps', 'bad', 'repeats', '0', 'fields', 'count'],
    ],
    [
      'no whole number of copies',
      bad({ repeats: [repeat('row', { direction: 'up', count: '2.5', spacing: '1' })] }),
      'not-whole',
      ['steps', 'bad', 'repeats', '0', 'fields', 'count'],
    ],
    [
      'a removed reference',
      bad({ place: { ...bad({}).place, on: { kind: 'face', step: 'gone', face: 'top' } } }),
      'reference-missing',
      ['steps', 'bad', 'place', 'on'],
    ],
    [
      'a face that is not there',
      bad({ place: { ...bad({}).place, on: { kind: 'face', step: 'base', face: 'nose' } } }),
      'face-missing',
      ['steps', 'bad', 'place', 'on'],
    ],
    [
      'itself as reference',
      bad({ place: { ...bad({}).place, on: { kind: 'face', step: 'bad', face: 'top' } } }),
      'reference-later',
      ['steps', 'bad', 'place', 'on'],
    ],
    [
      'a foreign field',
      bad({ fields: { ...bad({}).fields, colour: 'red' } }),
      'field-unknown',
      ['steps', 'bad', 'fields', 'colour'],
    ],
    ['an unknown shape', bad({ shape: 'gyroid' }), 'shape-unknown', ['steps', 'bad']],
    [
      'too fine a circle',
      bad({ fields: { ...bad({}).fields, diameter: '9999' } }),
      'cut-wider-than-body',
      ['steps', 'bad', 'fields', 'diameter'],
    ],
  ])('%s', async (_, wrong, code, path) => {
    const result = await build([
      base,
      wrong,
      step('peg', 'bar', { diameter: '4', height: '5' }, { place: onFace('base', 'top') }),
    ])
    const found = result.problems.find((problem) => problem.code === code)
    expect(found?.path).toEqual(path)
    if (code !== 'cut-wider-than-body') expect(bounds(result).max[2]).toBeCloseTo(11, 9)
  })
  it('copies that multiply beyond the limit', async () => {
    const many = step(
      'm',
      'hole',
      {},
      {
        place: onFace('base', 'top'),
        repeats: [
          repeat('row', { direction: 'across', count: '100', spacing: '1' }),
          repeat('row', { direction: 'along', count: '100', spacing: '1' }),
        ],
      },
    )
    expect(codes(await build([base, many]))).toContain('copies-too-many')
  })
  it('a hole larger than its plate', async () => {
    const result = await build([base, step('h', 'hole', { diameter: '50' }, { place: onFace('base', 'top') })])
    expect(result.problems.map(({ code, rank }) => [code, rank])).toEqual([['cut-wider-than-body', 'warning']])
  })
  it('a cut that removes nothing, among others that do', async () => {
    const at = (id: string, x: string) => step(id, 'hole', {}, { place: { ...onFace('base', 'top'), across: low(x) } })
    const result = await build([base, at('a', '20'), at('b', '-20'), at('c', '40')])
    expect(result.problems.map(({ code, path }) => [code, path[1]])).toEqual([['cut-removes-nothing', 'b']])
  })
  it('a keep that leaves nothing', async () => {
    const keep = step('k', 'bar', {}, { operation: 'keep', place: { ...onFace('base', 'top'), lift: '50' } })
    expect(codes(await build([base, keep]))).toEqual(['keep-leaves-nothing'])
  })
  it('a cut before there is anything', async () => {
    expect(codes(await build([step('h', 'hole'), base]))).toEqual(['starts-with-nothing'])
  })
  it('a held place', async () => {
    const held = {
      ...step('peg', 'bar', { diameter: '4', height: '5' }),
      place: {
        ...base.place,
        on: {
          kind: 'held',
          was: 'top',
          frame: { origin: [1, 2, 6], u: [1, 0, 0], v: [0, 1, 0], size: [10, 10] },
        } as const,
      },
    }
    const result = await build([base, held])
    expect(codes(result)).toEqual(['reference-missing'])
    expect(result.plan.geometry.get('peg')!.frame.origin).toEqual([1, 2, 6])
  })
})

describe('building again', () => {
  const drilled = partOf([
    base,
    ...Array.from({ length: 10 }, (_, i) =>
      step(`h${i}`, 'hole', { diameter: '3' }, { place: { ...onFace('base', 'top'), across: low(`${4 + 5 * i}`) } }),
    ),
  ])
  const edit = (part: Part, i: number, text: string) =>
    applyEdit(part, { type: 'set-field', id: `h${i}`, field: 'diameter', text }, fieldKindOf)

  it('gives the same solid as building anew', async () => {
    const builder = new Builder(kernel)
    await builder.build(drilled, { fineness })
    const again = await builder.build(edit(drilled, 4, '4'), { fineness })
    const anew = await built(kernel, edit(drilled, 4, '4'), fineness)
    expect(again.pieces[0]!.solid!.mesh().positions).toEqual(anew.pieces[0]!.solid!.mesh().positions)
    builder.clear()
  })
  it('keeps the key of a piece that did not change, and gives another one to one that did', async () => {
    const builder = new Builder(kernel)
    const first = await builder.build(drilled, { fineness })
    const renamed = await builder.build(applyEdit(drilled, { type: 'rename', name: 'x' }, fieldKindOf), { fineness })
    const changed = await builder.build(edit(drilled, 0, '5'), { fineness })
    const back = await builder.build(drilled, { fineness })
    const again = await builder.build(edit(drilled, 0, '5'), { fineness })
    expect(renamed.pieces[0]!.key).toBe(first.pieces[0]!.key)
    expect(changed.pieces[0]!.key).not.toBe(first.pieces[0]!.key)
    expect(again.pieces[0]!.key).toBe(changed.pieces[0]!.key)
    expect(volume(back)).toBeCloseTo(volume(first), 6)
    builder.clear()
  })
  it('stops when nobody waits for it', async () => {
    const builder = new Builder(kernel)
    await expect(builder.build(drilled, { fineness, signal: { aborted: true } })).rejects.toThrow(BuildAborted)
    builder.clear()
  })
  it('holds no more solids than its cache may, however many edits, and none after clear', async () => {
    const before = kernel.live
    const builder = new Builder(kernel, new SolidCache({ triangles: 1e6, entries: 40 }))
    let most = 0
    for (let i = 0; i < 120; i++) {
      await builder.build(edit(drilled, i % 10, `${2 + (i % 37) / 20}`), { fineness: 0.05 })
      most = Math.max(most, kernel.live - before)
    }
    expect(most).toBeLessThan(60)
    builder.clear()
    expect(kernel.live).toBe(before)
  })
})

describe('the drawing', () => {
  it('knows the step and the face of every triangle, and draws the edges of a block once each', async () => {
    const result = await build([base])
    const mesh = renderMeshOf(result, result.pieces[0]!)!
    expect(mesh.edges.length / 6).toBe(12)
    expect(new Set(mesh.faces.map(({ face }) => face))).toEqual(
      new Set(['top', 'bottom', 'left', 'right', 'front', 'back']),
    )
    mesh.faceOf.forEach((index, t) => {
      const normal = [...mesh.normals.subarray(9 * t, 9 * t + 3)].map((x) => Math.round(x))
      const expected = {
        top: [0, 0, 1],
        bottom: [0, 0, -1],
        left: [-1, 0, 0],
        right: [1, 0, 0],
        front: [0, -1, 0],
        back: [0, 1, 0],
      }[mesh.faces[index]!.face]!
      expect(normal.map((x) => x + 0)).toEqual(expected)
    })
  })
  it('tells cut surfaces from the body they are in', async () => {
    const result = await build([base, step('h', 'hole', { mouth: 'countersink' }, { place: onFace('base', 'top') })])
    const { faces } = renderMeshOf(result, result.pieces[0]!)!
    expect(
      faces
        .filter(({ owner }) => owner.id === 'h')
        .map(({ face }) => face)
        .sort(),
    ).toEqual(['countersink', 'wall'])
  })
  it('looks out of the material everywhere, also in a hole and on what a mirror made', async () => {
    const hole = step('h', 'hole', { diameter: '9.3' }, { place: onFace('base', 'top') })
    const wedge = step(
      'w',
      'wedge',
      {},
      {
        place: { ...onFace('base', 'top'), across: { from: 'low', to: 'near', by: '3' } },
        repeats: [repeat('mirror')],
      },
    )
    const result = await build([base, hole, wedge])
    const { positions, normals, faceOf, faces } = renderMeshOf(result, result.pieces[0]!)!
    const at = (of: Float32Array, t: number, c: number) => [0, 1, 2].map((i) => of[9 * t + 3 * c + i]!)
    let inHole = 0
    faceOf.forEach((index, t) => {
      const [a, b, c] = [at(positions, t, 0), at(positions, t, 1), at(positions, t, 2)]
      const [u, v] = [b.map((x, i) => x - a[i]!), c.map((x, i) => x - a[i]!)]
      const n = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!]
      const size = Math.hypot(...n)
      if (size < 1e-6) return
      for (const corner of [0, 1, 2]) {
        const shown = at(normals, t, corner)
        expect(Math.hypot(...shown)).toBeCloseTo(1, 5)
        expect(shown.reduce((sum, x, i) => sum + (x * n[i]!) / size, 0)).toBeGreaterThan(0.8)
        if (faces[index]!.face !== 'wall') continue
        // In a hole that is towards its axis.
        const [x, y] = at(positions, t, corner)
        expect(shown[0]! * x! + shown[1]! * y!).toBeLessThan(0)
        inHole++
      }
    })
    expect(inHole).toBeGreaterThan(100)
  })
  it.each([
    ['10', '10', {}],
    ['37.3', '2.1', { lift: '3.3', across: { from: 'centre', to: 'centre', by: '15.3' } }],
    ['4', '85.1', { turn: '37.3', tilt: '64.7' }],
  ] as const)('shades a bar of %s by %s as if it were round', async (diameter, height, place) => {
    const result = await build([step('bar', 'bar', { diameter, height }, { place })])
    const { positions, normals, faceOf, faces } = renderMeshOf(result, result.pieces[0]!)!
    const { frame } = result.plan.operands.get('bar')!.copies[0]!
    const at = (of: Float32Array, i: number): Vec3 => [of[i]!, of[i + 1]!, of[i + 2]!]
    let looked = 0
    faceOf.forEach((index, t) => {
      if (faces[index]!.face !== 'side') return
      for (const c of [0, 1, 2]) {
        const [x, y] = pointIn(frame, at(positions, 9 * t + 3 * c))
        const [u, v] = directionIn(frame, at(normals, 9 * t + 3 * c))
        expect((x * u + y * v) / Math.hypot(x, y)).toBeGreaterThan(1 - 1e-5)
        looked++
      }
    })
    expect(looked).toBeGreaterThan(90)
  })
})
