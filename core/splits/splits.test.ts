import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit, type Outline, type Step } from '../document/index.ts'
import { shippedPrinters } from '../fits/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { type Frame, world } from '../place/index.ts'
import { distance2 } from '../plane/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { renderMeshOf } from '../solids/index.ts'
import { built, bundleOf, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { emptyOutline, randomFrom } from '../testing/outlines.ts'
import { runs } from '../testing/sample.ts'
import { randomSolid } from '../testing/solids.ts'
import { dovetailsOf } from './dovetails.ts'
import { Section } from './section.ts'

const kernel = await testKernel()
const [w, d, h] = [85.1, 40.3, 20.7]
const block = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })
const split = (fields: Record<string, string>) => treatment('split', fields)
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const

async function piecesOf(steps: readonly Step[], fineness = 0.02, outlines: readonly Outline[] = []) {
  const done = await built(kernel, partOf(steps, { outlines: [...outlines] }), fineness)
  return {
    solids: done.pieces.map(({ solid }) => solid!),
    volumes: done.pieces.map(({ solid }) => solid?.volume() ?? 0),
    told: done.problems.map(({ code }) => code),
    problems: done.problems,
    done,
  }
}

/** Volumes the finer it is: of two finenesses the error of one is four times the other's. */
async function limits(steps: readonly Step[]) {
  const [fine, coarse] = [await piecesOf(steps, 0.005), await piecesOf(steps, 0.02)]
  expect(fine.told).toEqual([])
  return fine.volumes.map((volume, i) => (4 * volume - coarse.volumes[i]!) / 3)
}

describe('a solid split at a plane', () => {
  it.each([
    ['x, 12.7', (w / 2 + 12.7) / w],
    ['y, -8.47', (d / 2 - 8.47) / d],
    ['z, 15.3', 15.3 / h],
    ['b/top, -5.4', (h - 5.4) / h],
    ['b/left, -15.3', (w - 15.3) / w],
  ])('%s is two, the first of which lies before it', async (at, share) => {
    const { volumes, told } = await piecesOf([block, split({ at })])
    expect(told).toEqual([])
    expect(volumes[0]).toBeCloseTo(w * d * h * share, 8)
    expect(volumes[1]).toBeCloseTo(w * d * h * (1 - share), 8)
  })
  it('keeps a gap, half of it from each', async () => {
    const { solids } = await piecesOf([block, split({ at: 'x, 12.7', gap: '0.3' })])
    expect(solids.map((solid) => solid.bounds()!.max[0])).toEqual([12.55, w / 2])
    expect(solids[1]!.bounds()!.min[0]).toBe(12.85)
    expect(solids[0]!.gapTo(solids[1]!, 1)).toBeCloseTo(0.3, 6)
  })
  it('goes along a face that is turned and leans, and along a datum, wherever they come to stand', async () => {
    const turned = step('b', 'plate', block.fields, { place: { turn: '37.3', across: off(31.1), lean: '12.4' } })
    const one = await piecesOf([turned, split({ at: 'b/right, -20.2' })])
    expect(one.volumes[1]).toBeCloseTo(20.2 * d * h, 6)
    expect(one.volumes[0]).toBeCloseTo((w - 20.2) * d * h, 6)
    const datum = step('m', 'datum', {}, { place: { ...onFace('b', 'top'), across: off(3.3), turn: '30' } })
    const two = await piecesOf([block, datum, split({ at: 'm/plane to the right, 1.2' })])
    // Through the middle of the block but for a shift, across its depth: a trapezium.
    const middle = 3.3 + 1.2 / Math.cos(Math.PI / 6)
    expect(two.volumes[0]).toBeCloseTo((w / 2 + middle) * d * h, 6)
  })
  it('follows what its plane is told by', async () => {
    const measures = [{ id: 'm', name: 'cut', kind: 'length', expression: '5', note: '' }] as const
    const part = partOf([block, split({ at: 'b/top, -cut * 2' })], { measures: [...measures] })
    const tall = applyEdit(part, { type: 'set-field', id: 'b', field: 'height', text: '31.3' }, fieldKindOf)
    expect((await built(kernel, tall)).pieces[1]!.solid!.volume()).toBeCloseTo(w * d * 10, 8)
    const renamed = applyEdit(part, { type: 'rename-measure', id: 'm', name: 'less' }, fieldKindOf)
    expect(renamed.pieces[0]!.steps[1]!.fields.at).toBe('b/top, -less * 2')
    expect((await built(kernel, renamed)).pieces[1]!.solid!.volume()).toBeCloseTo(w * d * 10, 8)
  })
  it('has a face of its own on both, by name', async () => {
    const { done } = await piecesOf([block, split({ at: 'y, 3.1' })])
    const faces = done.pieces.map((piece) =>
      renderMeshOf(done, piece)!
        .faces.map(({ owner, face }) => `${owner.id} ${face}`)
        .sort(),
    )
    expect(faces[0]).toEqual(['b bottom', 'b front', 'b left', 'b right', 'b top', 't parting'])
    expect(faces[1]).toEqual(['b back', 'b bottom', 'b left', 'b right', 'b top', 't parting 2'])
  })
  it.each([
    ['past it', 'x, 60', 'split-misses'],
    ['at its end', 'b/top, 0', 'split-misses'],
    ['at a face that is round', 'o/wall, 1', 'plane-round'],
    ['at a face that is not there', 'b/lid, 1', 'face-missing'],
    ['at a step that is gone', 'q/top, 1', 'reference-missing'],
    ['at a step without a face', 'b, 1', 'plane-choose'],
    ['at what is no number', 'x, nowhere', 'unknown-name'],
    ['at nothing', '', 'plane-choose'],
  ])('%s stays whole, and says so', async (_, at, code) => {
    const hole = step('o', 'hole', { diameter: '6' }, { place: onFace('b', 'top') })
    const { solids, told, problems } = await piecesOf([block, hole, split({ at })])
    expect(told).toEqual([code])
    expect(problems[0]!.path[1]).toBe('t')
    expect(solids).toHaveLength(1)
    expect(solids[0]!.bounds()).toMatchObject({ min: [-w / 2, -d / 2, 0] })
  })
  it('may be split again: what misses one of the two is told only where it misses both', async () => {
    const again = treatment('split', { at: 'x, 30' }, 't2')
    const three = await piecesOf([block, split({ at: 'x, 12.7' }), again])
    expect(three.told).toEqual([])
    expect(three.volumes.map((volume) => volume / d / h)).toEqual([
      expect.closeTo(w / 2 + 12.7, 9),
      expect.closeTo(30 - 12.7, 9),
      expect.closeTo(w / 2 - 30, 9),
    ])
    const none = await piecesOf([block, split({ at: 'x, 12.7' }), treatment('split', { at: 'x, 90' }, 't2')])
    expect(none.told).toEqual(['split-misses'])
  })
  it('gets what is added to the half that it stands on, and is one again where something bridges the two', async () => {
    const post = (id: string, x: number, width = '6') =>
      step(id, 'plate', { width, depth: '6', height: '9' }, { place: { ...onFace('b', 'top'), across: off(x) } })
    const parted = split({ at: 'x, 12.7', gap: '0.2' })
    const right = await piecesOf([block, parted, post('p', 31.1)])
    expect(right.volumes[1]).toBeCloseTo((w / 2 - 12.8) * d * h + 6 * 6 * 9, 6)
    const both = await piecesOf([block, parted, post('p', 31.1), post('q', -20)])
    expect(both.volumes[0]).toBeCloseTo((w / 2 + 12.6) * d * h + 6 * 6 * 9, 6)
    const bridged = await piecesOf([block, parted, post('p', 12.7, '16')])
    expect(bridged.solids).toHaveLength(1)
    expect(bridged.volumes[0]).toBeCloseTo((w - 0.2) * d * h + 16 * 6 * 9, 6)
    // What touches neither goes to the first.
    const far = await piecesOf([block, parted, post('p', 90)])
    expect(far.volumes[0]).toBeCloseTo((w / 2 + 12.6) * d * h + 6 * 6 * 9, 6)
  })
  it('in a bundle acts on what the bundle holds, which goes on as one', async () => {
    const bundle = bundleOf(
      'g',
      [step('i', 'plate', { width: '20', depth: '10', height: '6' }), split({ at: 'i/right, -5', gap: '1' })],
      {
        place: { across: off(70), turn: '90' },
      },
    )
    const { volumes, solids } = await piecesOf([block, bundle])
    expect(volumes).toEqual([expect.closeTo(w * d * h + 19 * 10 * 6, 6)])
    expect(solids[0]!.bodies()).toBe(3)
  })
})

describe('pegs', () => {
  const [r, fit, depth] = [2.65, 0.15, 6.4]
  const lead = 0.1 * 2 * r
  const peg = (long: number) =>
    Math.PI * (r ** 2 * (long - lead) + (lead / 3) * (r ** 2 + r * (r - lead) + (r - lead) ** 2))
  const socket = Math.PI * (r + fit) ** 2 * (depth + fit)
  const sizes = { size: `${2 * r}`, fit: `${fit}`, depth: `${depth}`, count: '3' }

  it('stand on the first, or on the second, as they are meant', async () => {
    for (const side of ['first', 'second']) {
      const [one, two] = await limits([block, split({ at: 'x, 12.7', gap: '0.4', keys: 'pegs', side, ...sizes })])
      const [left, right] = [(w / 2 + 12.5) * d * h, (w / 2 - 12.9) * d * h]
      const [bearing, taking, kept] = side === 'first' ? [one, two, left] : [two, one, right]
      const other = side === 'first' ? right : left
      // Across the gap, and on into the other one.
      expect((bearing! - kept) / (3 * peg(depth + 0.4))).toBeCloseTo(1, 5)
      expect((other - taking!) / (3 * socket)).toBeCloseTo(1, 5)
    }
  })
  it('stand where both halves are, though a ledge ends right in the plane', async () => {
    for (const lift of ['7.3', '7.301', '7.299']) {
      const post = step('p', 'plate', { width: '15.3', depth: '13.7', height: '21.9' })
      const rim = step(
        'r',
        'plate',
        { width: '61.3', depth: '47.1', height: '9.3' },
        { place: { lift: '7.3', rest: 'on' } },
      )
      const { solids, told } = await piecesOf([
        post,
        rim,
        split({ at: `z, ${lift}`, keys: 'pegs', ...sizes, size: '4', count: '2' }),
      ])
      expect(told).toEqual([])
      expect(solids.map((solid) => meshFigures(solid.mesh()).solids)).toEqual([1, 1])
    }
  })
  it('may be loose, with sockets in both', async () => {
    const [one, two] = await limits([block, split({ at: 'y, 3', keys: 'pins', ...sizes })])
    expect(((d / 2 + 3) * w * h - one!) / (3 * socket)).toBeCloseTo(1, 5)
    expect(((d / 2 - 3) * w * h - two!) / (3 * socket)).toBeCloseTo(1, 5)
  })
  it('keep their fit to their sockets, whichever way the plane lies', async () => {
    for (const at of ['x, 12.7', 'y, -3.1', 'z, 9.9', 'b/left, -30']) {
      const { solids, told } = await piecesOf([block, split({ at, gap: '0.5', keys: 'pegs', ...sizes })], 0.01)
      expect(told).toEqual([])
      const gap = solids[0]!.gapTo(solids[1]!, 1)
      expect(gap).toBeGreaterThan(fit - 1e-6)
      expect(gap).toBeLessThan(fit + 0.02)
    }
  })
  it('have a fit by name, which follows the printer', async () => {
    const part = partOf([block, split({ at: 'x, 12.7', gap: '1', keys: 'pegs', fit: 'slide' })])
    for (const [printer, gap] of [
      [shippedPrinters[0]!, 0.2],
      [shippedPrinters[2]!, 0.3],
    ] as const) {
      const { pieces } = await built(kernel, { ...part, printer }, 0.002)
      expect(pieces[0]!.solid!.gapTo(pieces[1]!.solid!, 2)).toBeCloseTo(gap, 2)
    }
  })
  it('have faces by name', async () => {
    const { done } = await piecesOf([block, split({ at: 'x, 12.7', keys: 'pegs', count: '1' })])
    const own = (i: number) =>
      renderMeshOf(done, done.pieces[i]!)!
        .faces.filter(({ owner }) => owner.id === 't')
        .map(({ face }) => face)
        .sort()
    expect(own(0)).toEqual(['end of peg 1', 'parting', 'side of peg 1'])
    expect(own(1)).toEqual(['end of socket 1', 'parting 2', 'side of socket 1'])
  })
  it('that find no room are left out, with what would fit a press away', async () => {
    const wide = { at: 'x, 12.7', keys: 'pegs', size: '30', depth: '4' }
    const { volumes, problems } = await piecesOf([block, split(wide)])
    expect(problems.map(({ code, offer }) => [code, offer?.field])).toEqual([['pegs-no-room', 'size']])
    expect(volumes[0]).toBeCloseTo((w / 2 + 12.7) * d * h, 8)
    // 1 mm of wall and the fit round it, in the height of the block.
    expect(problems[0]!.offer!.value).toBeCloseTo(h - 2 * (1 + 0.1), 1)
    const then = await piecesOf([block, split({ ...wide, size: `${problems[0]!.offer!.value}`, count: '1' })])
    expect(then.told).toEqual([])
    const deep = await piecesOf([block, split({ at: 'x, 12.7', keys: 'pegs', depth: '40' })])
    expect(deep.problems.map(({ code, offer }) => [code, offer?.field])).toEqual([['keys-too-deep', 'depth']])
    expect(deep.problems[0]!.offer!.value).toBeCloseTo(w / 2 - 12.7 - 1.1, 1)
    const fits = await piecesOf([
      block,
      split({ at: 'x, 12.7', keys: 'pegs', depth: `${deep.problems[0]!.offer!.value}` }),
    ])
    expect(fits.told).toEqual([])
    const many = await piecesOf([block, split({ at: 'x, 12.7', keys: 'pegs', size: '12', depth: '3', count: '9' })])
    expect(many.told).toEqual(['pegs-fewer'])
    const plain = await piecesOf([block, split({ at: 'x, 12.7', keys: 'pegs', size: '12', depth: '3', count: '3' })])
    expect(many.volumes[0]).toBeCloseTo(plain.volumes[0]!, 6)
    // A peg with 1 mm and its gap round it: in these walls it would break off, and is not offered.
    const inWall = (height: string) =>
      piecesOf([step('b', 'plate', { width: '40', depth: '30', height }), split({ at: 'x, 3', keys: 'pegs' })])
    for (const height of ['1.8', '2.2', '2.9']) expect((await inWall(height)).told, height).toEqual(['pegs-none'])
    expect((await inWall('4.1')).told).toEqual(['pegs-no-room'])
    const short = await piecesOf([block, split({ at: 'b/right, -1', keys: 'pegs' })])
    expect(short.told).toEqual(['keys-no-depth'])
  })
  it('ask for room at the faces that a wide gap leaves, not in the plane between them', async () => {
    // A cone 1:2.5 of radius: at the plane 6.0 wide to each side, 5.4 where the upper half begins.
    const cone = step('b', 'bar', { diameter: '20', height: '20', form: 'tapered', end: '4' })
    const told = async (gap: string, size: string, keys = 'pegs') => {
      const { problems } = await piecesOf([
        cone,
        split({ at: 'z, 10', gap, keys, size, depth: '1', count: '1', fit: '0.1' }),
      ])
      return problems.map(({ code, offer }) => [code, offer?.value])
    }
    expect(await told('0', '9.7')).toEqual([])
    expect(await told('3', '9.7')).toEqual([['pegs-no-room', expect.closeTo(2 * (5.4 - 1.1), 1)]])
    expect(await told('3', '7.3')).toEqual([])
    // How deep is asked from the face of the half that it goes into.
    const deep = async (gap: string, keys: string) => {
      const { problems } = await piecesOf([
        step('b', 'plate', { width: '40', depth: '30', height: '20' }),
        split({ at: 'z, 10', gap, keys, size: '4', depth: '30', count: '1', fit: '0.1' }),
      ])
      return problems[0]!.offer!.value
    }
    for (const keys of ['pegs', 'pins', 'dovetails']) {
      expect(await deep('0', keys)).toBeCloseTo(10 - 1.1, 1)
      expect(await deep('5', keys)).toBeCloseTo(7.5 - 1.1, 1)
    }
  })
})

describe('places in a section', () => {
  const stood: Frame = { ...world, origin: [0, 0, 5] }
  const sectionOf = async <T>(steps: readonly Step[], use: (section: Section) => T): Promise<T> => {
    const { solids } = await piecesOf(steps, 0.02)
    return kernel.scope((scope) => use(new Section(scope, solids[0]!, stood)))
  }
  it('lie in a row along it, evenly and symmetrically, and at its corners where that is nearer to all', async () => {
    const long = await sectionOf([block], (section) => section.spread(3, 3, 8))
    expect(long.map(([x]) => x)).toEqual([-1, 0, 1].map((i) => expect.closeTo((i * w) / 3, 6)))
    for (const [, y] of long) expect(y).toBeCloseTo(0, 6)
    const wide = step('b', 'plate', { width: '50', depth: '44', height: '20' })
    const four = await sectionOf([wide], (section) => section.spread(4, 3, 8))
    expect(four.map(([x, y]) => [Math.sign(x), Math.sign(y)].join()).sort()).toEqual(['-1,-1', '-1,1', '1,-1', '1,1'])
    for (const [x, y] of four)
      expect([Math.abs(x), Math.abs(y)]).toEqual([expect.closeTo(12.5, 1), expect.closeTo(11, 1)])
  })
  it.each([
    [6, 60, 40],
    [12, 80, 60],
    [8, 83.2, 41.6],
  ])('are a grid where a grid fits: %d in %d × %d', async (count, width, depth) => {
    const plate = step('b', 'plate', { width: `${width}`, depth: `${depth}`, height: '20' })
    const found = await sectionOf([plate], (section) => section.spread(count, 3, 6))
    expect(found).toHaveLength(count)
    // All squares are as large as the next.
    const side = Math.sqrt((width * depth) / count)
    for (const [x, y] of found) {
      expect((x + width / 2) / side - 0.5).toBeCloseTo(Math.round((x + width / 2) / side - 0.5), 1)
      expect((y + depth / 2) / side - 0.5).toBeCloseTo(Math.round((y + depth / 2) / side - 0.5), 1)
    }
  })
  it('go round in a ring, where there is material', async () => {
    const tube = step('b', 'bar', { diameter: '60', height: '12' })
    const bore = step('o', 'hole', { diameter: '44' }, { place: onFace('b', 'end') })
    const six = await sectionOf([tube, bore], (section) => section.spread(6, 3, 8))
    expect(six).toHaveLength(6)
    for (const at of six) {
      const far = Math.hypot(...at)
      expect(far).toBeGreaterThan(25 - 0.03)
      expect(far).toBeLessThan(27 + 0.03)
    }
  })
  it('keep their distance to its edge and to one another, however many are asked for', async () => {
    const cases = fc.record({
      width: fc.integer({ min: 12, max: 90 }),
      depth: fc.integer({ min: 6, max: 60 }),
      turn: fc.integer({ min: 0, max: 89 }),
      count: fc.integer({ min: 1, max: 12 }),
      margin: fc.integer({ min: 10, max: 60 }).map((tenths) => tenths / 10),
    })
    await fc.assert(
      fc.asyncProperty(cases, async ({ width, depth, turn, count, margin }) => {
        const plate = step(
          'b',
          'plate',
          { width: `${width}`, depth: `${depth}`, height: '9' },
          { place: { turn: `${turn}` } },
        )
        const found = await sectionOf([plate], (section) => section.spread(count, margin, 2 * margin))
        const fits = Math.min(width, depth) > 2 * margin + 1e-6
        if (!fits) expect(found).toEqual([])
        else if (Math.min(width, depth) > 2 * margin + 0.1) expect(found.length).toBeGreaterThan(0)
        expect(found.length).toBeLessThanOrEqual(count)
        const rad = (turn * Math.PI) / 180
        for (const [i, [x, y]] of found.entries()) {
          const [across, along] = [x * Math.cos(rad) + y * Math.sin(rad), y * Math.cos(rad) - x * Math.sin(rad)]
          expect(Math.abs(across)).toBeLessThan(width / 2 - margin + 0.02)
          expect(Math.abs(along)).toBeLessThan(depth / 2 - margin + 0.02)
          for (const other of found.slice(0, i)) expect(distance2([x, y], other)).toBeGreaterThanOrEqual(2 * margin)
        }
      }),
      { numRuns: runs(40) },
    )
  })
})

describe('dovetails', () => {
  const [neck, deep, fit, lean] = [7.7, 5.3, 0.12, 14.2]
  const tan = Math.tan((lean * Math.PI) / 180)
  const cosine = Math.cos((lean * Math.PI) / 180)
  const sizes = { keys: 'dovetails', count: '3', size: `${neck}`, depth: `${deep}`, fit: `${fit}`, lean: `${lean}` }
  const gap = 0.4
  /** mm² across the plane: straight through the gap, then widening. */
  const tongue = neck * gap + deep * (neck + deep * tan)
  const mouth = neck + (2 * fit) / cosine
  const socket = (deep + fit) * (mouth + (deep + fit) * tan)

  it.each([
    ['x, 2.7', 'up', h],
    ['x, 2.7', 'across', d],
    ['y, -2.1', 'up', h],
    ['z, 9.3', 'across', w],
  ])('at %s, sliding %s, are as long as the section, and fit', async (at, slide, long) => {
    const { solids, volumes, told } = await piecesOf([
      block,
      split({ at, gap: `${gap}`, slide, ...sizes, ...(at[0] === 'x' && slide === 'across' ? { count: '1' } : {}) }),
    ])
    const count = at[0] === 'x' && slide === 'across' ? 1 : 3
    expect(told).toEqual([])
    const [one, two] = volumes
    const plain = await piecesOf([block, split({ at, gap: `${gap}` })])
    expect(one! - plain.volumes[0]!).toBeCloseTo(count * tongue * long, 5)
    expect(plain.volumes[1]! - two!).toBeCloseTo(count * socket * long, 5)
    expect(solids[0]!.gapTo(solids[1]!, 1)).toBeCloseTo(fit, 5)
  })
  it('hold across the plane, and slide along it', async () => {
    const { solids } = await piecesOf([block, split({ at: 'x, 2.7', gap: `${gap}`, ...sizes })])
    const [first, second] = solids
    kernel.scope((scope) => {
      const shared = (by: readonly [number, number, number]) =>
        scope.intersection([first!, scope.placed(second!, { ...world, origin: [...by] })]).volume()
      expect(shared([deep / 2, 0, 0])).toBeGreaterThan(1)
      expect(shared([0, 1, 0])).toBeGreaterThan(1)
      for (const z of [-30, -3.3, 5.1, 19]) expect(shared([0, 0, z])).toBe(0)
    })
  })
  it('too wide or too deep are left out, with what would fit', async () => {
    const wide = await piecesOf([block, split({ at: 'x, 2.7', ...sizes, size: '13' })])
    expect(wide.problems.map(({ code, offer }) => [code, offer?.field])).toEqual([['dovetails-no-room', 'size']])
    const fits = await piecesOf([block, split({ at: 'x, 2.7', ...sizes, size: `${wide.problems[0]!.offer!.value}` })])
    expect(fits.told).toEqual([])
    const long = await piecesOf([block, split({ at: 'x, 38', ...sizes })])
    expect(long.problems.map(({ code, offer }) => [code, offer])).toEqual([
      ['keys-too-deep', { field: 'depth', value: expect.closeTo(w / 2 - 38 - 1 - fit, 1) }],
    ])
    expect((await piecesOf([block, split({ at: 'x, 2.7', ...sizes, count: '50' })])).told).toEqual(['dovetails-none'])
  })
})

describe('a solid split along an outline', () => {
  const drawn = (points: readonly (readonly [number, number])[], closed = true): Outline => {
    const ids = points.map((at, i) => ({ id: `p${i}`, at }))
    const sides = closed ? ids : ids.slice(0, -1)
    const curves = sides.map(({ id }, i) => ({
      ...{ id: `l${i}`, kind: 'line', size: 0, helper: false },
      points: [id, ids[(i + 1) % ids.length]!.id],
    }))
    return { ...emptyOutline('o'), points: ids, curves } as unknown as Outline
  }
  const along = (fields: Record<string, string> = {}) => treatment('splitAlong', { outline: 'o', ...fields })

  it('that is closed has its inside as the second piece, with the gap between them', async () => {
    const key = drawn([
      [-10, -6],
      [12.3, -6],
      [12.3, 7.1],
      [-10, 7.1],
    ])
    const { volumes, told } = await piecesOf([block, along()], 0.02, [key])
    expect(told).toEqual([])
    expect(volumes[1]).toBeCloseTo(22.3 * 13.1 * h, 6)
    expect(volumes[0]! + volumes[1]!).toBeCloseTo(w * d * h, 6)
    const gapped = await piecesOf([block, along({ gap: '0.6' })], 0.02, [key])
    expect(gapped.volumes[1]).toBeCloseTo(21.7 * 12.5 * h, 6)
    expect(gapped.volumes[0]).toBeCloseTo(w * d * h - 22.9 * 13.7 * h, 6)
    expect(gapped.solids[0]!.gapTo(gapped.solids[1]!, 2)).toBeCloseTo(0.6, 6)
  })
  it('that is one line goes on straight at its ends, and is split left of it from right of it', async () => {
    const bent = drawn(
      [
        [3, -8],
        [3, 2],
        [9, 2],
        [9, 11],
      ],
      false,
    )
    const { volumes, told } = await piecesOf([block, along()], 0.02, [bent])
    expect(told).toEqual([])
    // Left of it, looking the way it was drawn: up, to the right, up.
    const left = (w / 2 + 3) * (d / 2 + 2) * h + (w / 2 + 9) * (d / 2 - 2) * h
    expect(volumes[1]).toBeCloseTo(left, 6)
    expect(volumes[0]).toBeCloseTo(w * d * h - left, 6)
  })
  it('may be seen from the front, from the right or on a face', async () => {
    const corner = drawn([
      [5, 4],
      [60, 4],
      [60, 60],
      [5, 60],
    ])
    const inside = async (seen: string) => (await piecesOf([block, along({ seen })], 0.02, [corner])).volumes[1]
    expect(await inside('y, 0')).toBeCloseTo((w / 2 - 5) * (h - 4) * d, 6)
    expect(await inside('x, 7')).toBeCloseTo((d / 2 - 5) * (h - 4) * w, 6)
    expect(await inside('b/top, 3')).toBeCloseTo((w / 2 - 5) * (d / 2 - 4) * h, 6)
  })
  it.each([
    ['an outline that is empty', emptyOutline('o'), 'shape-impossible'],
    [
      'several open lines',
      {
        ...drawn([
          [0, 0],
          [5, 5],
          [9, 0],
          [20, 4],
        ]),
        curves: [
          { id: 'l0', kind: 'line', points: ['p0', 'p1'], size: 0, helper: false },
          { id: 'l2', kind: 'line', points: ['p2', 'p3'], size: 0, helper: false },
        ],
      } as unknown as Outline,
      'shape-impossible',
    ],
    [
      'a line that runs into itself where it goes on',
      drawn(
        [
          [5, 5],
          [-5, 4],
          [-5, -4],
          [5, -5],
          [4, 2],
        ],
        false,
      ),
      'split-crosses',
    ],
    [
      'an outline beside it',
      drawn([
        [90, 0],
        [99, 0],
        [99, 9],
      ]),
      'split-misses',
    ],
  ])('stays whole along %s, and says so', async (_, outline, code) => {
    const { told, volumes } = await piecesOf([block, along()], 0.02, [outline])
    expect(told).toEqual([code])
    expect(volumes).toEqual([expect.closeTo(w * d * h, 6)])
  })
})

describe('random solids', () => {
  it.each(Array.from({ length: Number(process.env.MAKREL_MANY ?? 25) }, (_, i) => i + 1))(
    '%i: split anywhere are two that are sound and come to the whole',
    async (seed) => {
      const random = randomFrom(seed)
      const steps = randomSolid(random)
      const axis = ['x', 'y', 'z'][Math.floor(random() * 3)]!
      const at = axis === 'z' ? 1 + 3 * random() : 8 * (random() - 0.5)
      const keys = ['none', 'pegs', 'pins', 'dovetails'][Math.floor(random() * 4)]!
      const side = random() < 0.5 ? 'first' : 'second'
      const whole = (await piecesOf(steps, 0.05)).volumes[0]!
      const plain = await piecesOf([...steps, split({ at: `${axis}, ${at.toFixed(2)}` })], 0.05)
      expect(plain.volumes).toHaveLength(2)
      expect((plain.volumes[0]! + plain.volumes[1]!) / whole).toBeCloseTo(1, 9)
      const held = await piecesOf(
        [
          ...steps,
          split({ at: `${axis}, ${at.toFixed(2)}`, gap: '0.1', keys, side, size: '3', depth: '2', count: '2' }),
        ],
        0.05,
      )
      for (const solid of held.solids) expect(meshFigures(solid.mesh())).toMatchObject({ closed: true, oriented: true })
      const shared = kernel.scope((scope) => scope.intersection([held.solids[0]!, held.solids[1]!]).volume())
      expect(shared).toBeLessThan(1e-9)
      for (const code of held.told.filter((each) => /^(pegs|keys|dovetails|split)/.test(each)))
        expect([
          'pegs-no-room',
          'pegs-none',
          'pegs-fewer',
          'keys-too-deep',
          'keys-no-depth',
          'dovetails-no-room',
          'dovetails-none',
        ]).toContain(code)
    },
  )
})

it('dovetails are no deeper than the room behind the shallowest place of each', () => {
  kernel.scope((scope) => {
    // Behind the plane it is 20 deep at one end of the tongue, and 4 at the other.
    const ring = [
      [-10, 0],
      [-10, -20],
      [10, -4],
      [10, 0],
    ] as const
    const wedge = scope.extrude([ring.map(([y, z]) => [y, z] as const)], 30)
    const stood = scope.placed(wedge, { origin: [0, 0, 0], u: [0, 1, 0], v: [0, 0, 1], n: [1, 0, 0] })
    const both = scope.union([
      stood,
      scope.placed(
        scope.extrude(
          [
            [
              [0, -10],
              [30, -10],
              [30, 10],
              [0, 10],
            ],
          ],
          15,
        ),
        world,
      ),
    ])
    const section = new Section(scope, both, { origin: [0, 0, 0], u: [1, 0, 0], v: [0, -1, 0], n: [0, 0, -1] })
    const sizes = { count: 1, width: 6, lean: 10, gap: 0.1 }
    const most = (depth: number) =>
      dovetailsOf(scope, section, { ...sizes, depth }, 40, (solid) => solid as never).fault
    const told = most(30)
    expect(told).toMatchObject({ what: 'too-deep' })
    expect((told as { most: number }).most).toBeLessThan(8)
  })
})
