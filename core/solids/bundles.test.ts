import { beforeAll, describe, expect, it } from 'vitest'
import {
  applyEdit,
  contentOf,
  copiedStep,
  type Edit,
  findStep,
  onBed,
  type Part,
  type Place,
  readPartFile,
  type ShapeStep,
  type Step,
  writePartFile,
} from '../document/index.ts'
import { fieldKindOf, heldPlaces } from '../planning/index.ts'
import { bodied, built, bundleOf, onFace, partOf, repeat, sameAs, step, testKernel } from '../testing/index.ts'
import { Builder, type Built, renderMeshOf } from './index.ts'

const kernel = await testKernel()

const build = (part: Part) => built(kernel, part, 0.01)
const volume = ({ pieces }: Built) => pieces.reduce((sum, piece) => sum + (piece.solid?.volume() ?? 0), 0)
const bounds = ({ pieces }: Built) => pieces[0]!.solid!.bounds()!
const codes = ({ problems }: Built) => problems.map(({ code }) => code)
const edited = (part: Part, ...edits: Edit[]) =>
  edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
const from = (by: string) => ({ from: 'low', to: 'centre', by }) as const

const block = (id: string, w: string, d: string, h: string, more: Parameters<typeof step>[3] = {}) =>
  step(id, 'plate', { width: w, depth: d, height: h }, more)
const base = block('base', '60', '40', '6')
const emptyBundle = (id: string, place: Partial<Place> = {}) => bundleOf(id, [], { place })
/** A frame: a block of 20 × 20 × 5 with a hole of 10 × 10, 3 mm from the left and front of the base's top. */
const outer = block('outer', '20', '20', '5', {
  place: { ...onFace('base', 'top'), across: from('13'), along: from('13') },
})
const inner = block('inner', '10', '10', '5', { operation: 'cut', place: onFace('outer', 'top') })
const framed = partOf([base, outer, inner])
const bundled = edited(framed, {
  type: 'bundle-steps',
  ids: ['outer', 'inner'],
  bundle: emptyBundle('frame', outer.place.on.kind === 'face' ? onFace('base', 'top') : {}),
})
const set = (part: Part, change: Partial<Place>) => edited(part, { type: 'set-place', id: 'frame', change })

describe('a bundle', () => {
  it('leaves everything where it was when it is made, and when it is dissolved', async () => {
    const plain = await build(framed)
    const made = await build(bundled)
    expect(findStep(bundled, 'inner')!.bundles.map(({ id }) => id)).toEqual(['frame'])
    expect(codes(made)).toEqual([])
    expect(volume(made)).toBeCloseTo(2400 * 6 + 300 * 5, 6)
    expect(bounds(made)).toEqual(bounds(plain))
    const dissolved = edited(bundled, { type: 'dissolve-bundle', id: 'frame', held: {} })
    expect(dissolved.pieces[0]!.steps.map(({ id }) => id)).toEqual(['base', 'outer', 'inner'])
    expect(volume(await build(dissolved))).toBeCloseTo(volume(plain), 9)
  })
  it('acts as one operand: its cuts stay within it', async () => {
    // Lowered by 2: the frame's hole does not go into the base.
    const sunk = await build(set(bundled, { lift: '-2' }))
    expect(volume(sunk)).toBeCloseTo(2400 * 6 + 300 * 3, 5)
  })
  it('moves, turns and repeats as a whole, and what stands on it follows', async () => {
    const peg = step(
      'peg',
      'bar',
      { diameter: '2', height: '4' },
      { place: { ...onFace('outer', 'top'), across: from('2') } },
    )
    const withPeg = edited(bundled, { type: 'add-step', piece: 'p1', step: peg })
    const at = async (part: Part) =>
      (await build(part)).plan.geometry.get('peg')!.frame.origin.map((x) => Math.round(x * 1e6) / 1e6)
    expect(await at(withPeg)).toEqual([-30 + 5, -20 + 13, 11])
    const moved = set(withPeg, { across: { from: 'centre', to: 'own', by: '20' }, lift: '3' })
    expect(await at(moved)).toEqual([-5, -7, 14])
    // A quarter about the middle of the base: (−25, −7) comes to (7, −25).
    expect(await at(set(withPeg, { turn: '90' }))).toEqual([7, -25, 11])
    const three = edited(bundled, {
      type: 'set-repeat',
      id: 'frame',
      index: 0,
      repeat: repeat('row', { count: '2', spacing: '30' }),
    })
    expect(volume(await build(three))).toBeCloseTo(2400 * 6 + 2 * 300 * 5, 5)
  })
  it('is measured from its content: near edge to the left edge', async () => {
    const flush = await build(set(bundled, { across: { from: 'high', to: 'near', by: '0' }, lift: '1' }))
    // 1 mm above the base: the frame is a body of its own, flush with the right side.
    const box = bounds(flush)
    expect(box.max[0]).toBeCloseTo(30, 9)
    expect(volume(flush)).toBeCloseTo(2400 * 6 + 300 * 5, 6)
    expect(flush.plan.geometry.get('outer')!.frame.origin[0]).toBeCloseTo(20, 9)
  })
  it('of cuts cuts together, and goes through what lies behind', async () => {
    const holes = ['10', '20'].map((by, i) =>
      step(`h${i}`, 'hole', { diameter: '4' }, { place: { ...onFace('base', 'top'), across: from(by) } }),
    )
    const loose = partOf([base, ...holes])
    const tied = edited(loose, {
      type: 'bundle-steps',
      ids: ['h0', 'h1'],
      bundle: emptyBundle('pair', onFace('base', 'top')),
    })
    expect(findStep(tied, 'pair')!.step.operation).toBe('cut')
    expect(findStep(tied, 'h0')!.step.operation).toBe('add')
    expect(volume(await build(tied))).toBeCloseTo(volume(await build(loose)), 6)
    const untied = edited(tied, { type: 'dissolve-bundle', id: 'pair', held: {} })
    expect(untied).toEqual(loose)
  })
  it('can lie in a bundle, and its faces are still told', async () => {
    const twice = edited(bundled, {
      type: 'bundle-steps',
      ids: ['frame'],
      bundle: emptyBundle('outermost', onFace('base', 'top')),
    })
    const result = await build(edited(twice, { type: 'set-place', id: 'outermost', change: { lift: '1' } }))
    expect(volume(result)).toBeCloseTo(2400 * 6 + 300 * 5, 6)
    const { faces } = renderMeshOf(result, result.pieces[0]!)!
    expect(faces.map(({ owner, face }) => `${owner.id}/${face}`)).toContain('outer/top')
    expect(readPartFile(writePartFile(twice))).toEqual(twice)
  })
  it('is refused where its steps do not stand next to one another', () => {
    const part = partOf([base, outer, block('other', '5', '5', '5'), inner])
    expect(edited(part, { type: 'bundle-steps', ids: ['outer', 'inner'], bundle: emptyBundle('x') })).toBe(part)
  })
  it('that holds nothing is told on its line, and the rest is built', async () => {
    const result = await build(partOf([base, emptyBundle('empty')]))
    expect(result.problems.map(({ code, path }) => [code, path[1]])).toEqual([['bundle-empty', 'empty']])
    expect(volume(result)).toBeCloseTo(2400 * 6, 6)
  })
})

describe('same as', () => {
  const same = (of: string, id = 'again') =>
    sameAs(id, of, { place: { ...onFace('base', 'top'), across: { from: 'high', to: 'centre', by: '13' } } })
  it('follows its original, bundle or shape', async () => {
    const bundle = edited(bundled, { type: 'add-step', piece: 'p1', step: same('frame') })
    expect(volume(await build(bundle))).toBeCloseTo(2400 * 6 + 2 * 300 * 5, 5)
    const wider = edited(bundle, { type: 'set-field', id: 'inner', field: 'width', text: '12' })
    expect(volume(await build(wider))).toBeCloseTo(2400 * 6 + 2 * 280 * 5, 5)
    const shape = edited(framed, { type: 'add-step', piece: 'p1', step: same('outer') })
    expect(volume(await build(shape))).toBeCloseTo(volume(await build(framed)) + 400 * 5, 5)
  })
  it('gets the shape for its own when the original is removed', async () => {
    const part = edited(bundled, { type: 'add-step', piece: 'p1', step: same('frame') })
    const after = edited(part, { type: 'remove-steps', ids: ['frame'], held: {} })
    const { step: again } = findStep(after, 'again')!
    const [first, second] = contentOf(again)
    expect([again.kind, contentOf(again).length]).toEqual(['bundle', 2])
    expect((second as ShapeStep).place.on).toMatchObject({ step: first!.id })
    expect(volume(await build(after))).toBeCloseTo(2400 * 6 + 300 * 5, 5)
  })
  it('looks past references that are removed with it', async () => {
    const chain = partOf([base, outer, same('outer', 'second'), same('second', 'third')])
    const third = (...ids: string[]) => findStep(edited(chain, { type: 'remove-steps', ids, held: {} }), 'third')!.step
    expect(third('second')).toMatchObject({ kind: 'same', of: 'outer' })
    expect(third('outer', 'second')).toMatchObject({ shape: 'plate', fields: outer.fields })
    const round = partOf([base, same('b', 'a'), same('a', 'b'), same('a')])
    expect(findStep(edited(round, { type: 'remove-steps', ids: ['a', 'b'], held: {} }), 'again')).toBeDefined()
  })
  it('stays as large as it was scaled, whichever of its originals are removed', async () => {
    const factor = (by: string) => ({ scale: 'even', factor: by })
    const wide = { scale: 'sizes', width: '31.7', depth: '12', height: '4.1' }
    const scaled = (id: string, of: string, fields: Record<string, string>, more: Partial<Place> = {}) => ({
      ...sameAs(id, of, { place: { ...onFace('base', 'top'), across: from('40.3'), turn: '37.3', ...more } }),
      fields,
    })
    const cut = { ...scaled('bored', 'bore', factor('1.4'), { across: from('8'), along: from('9') }), operation: 'cut' }
    const bore = step('bore', 'hole', { diameter: '5.3', reach: 'blind', depth: '4' }, { place: onFace('base', 'top') })
    const bundleOnBase = edited(bundled, {
      type: 'add-step',
      piece: 'p1',
      step: scaled('first', 'frame', factor('0.7')),
    })
    const cases: readonly (readonly [Part, readonly string[]])[] = [
      [partOf([base, outer, scaled('first', 'outer', wide)]), ['outer']],
      [partOf([base, outer, scaled('first', 'outer', wide, { tilt: '85.1' })]), ['outer']],
      [partOf([base, bore, cut]), ['bore']],
      [bundleOnBase, ['frame']],
      // One behind another: either of them scaled, or both.
      [partOf([base, outer, scaled('first', 'outer', wide), scaled('last', 'first', {})]), ['outer', 'first']],
      [partOf([base, outer, scaled('first', 'outer', {}), scaled('last', 'first', wide)]), ['outer', 'first']],
      [
        partOf([base, outer, scaled('first', 'outer', factor('1.3')), scaled('last', 'first', wide)]),
        ['outer', 'first'],
      ],
      [partOf([base, outer, scaled('first', 'outer', wide), scaled('last', 'first', factor('1.3'))]), ['first']],
    ]
    for (const [part, ids] of cases) {
      const last = part.pieces[0]!.steps.at(-1)!.id
      const alone = (whole: Part) => {
        const muted = whole.pieces[0]!.steps.map(({ id }) => id).filter((id) => id !== 'base' && id !== last)
        return muted.reduce((out, id) => edited(out, { type: 'set-step', id, change: { mute: true } }), whole)
      }
      const before = await build(part)
      const without = edited(part, { type: 'remove-steps', ids, held: heldPlaces(part, new Set(ids)) })
      const after = await build(without)
      expect(codes(after), ids.join()).toEqual(codes(before))
      const [was, is] = [before, after].map(({ plan }) => plan.operands.get(last)!)
      expect(volume(await build(alone(without)))).toBeCloseTo(volume(await build(alone(part))), 5)
      for (const k of [0, 1, 2]) {
        expect(is!.box.min[k], `${ids.join()} ${k}`).toBeCloseTo(was!.box.min[k]!, 6)
        expect(is!.box.max[k], `${ids.join()} ${k}`).toBeCloseTo(was!.box.max[k]!, 6)
      }
    }
  })
  it('of itself, of what holds it, or of nothing is told', async () => {
    const inside = { ...emptyBundle('round'), steps: [same('round')] }
    for (const part of [partOf([base, same('again')]), partOf([base, same('gone')]), partOf([base, inside])]) {
      const result = await build(part)
      expect(codes(result)).toContain('same-missing')
      expect(volume(result)).toBeCloseTo(2400 * 6, 6)
    }
  })
  it('a copy of a bundle stands on its own parts', () => {
    const copy = copiedStep(findStep(bundled, 'frame')!.step, 'copy', fieldKindOf)
    expect(contentOf(copy).map(({ id }) => id)).toEqual(['copy-1', 'copy-2'])
    expect(bodied(contentOf(copy)[1]).place.on).toMatchObject({ step: 'copy-1' })
    expect(bodied(contentOf(copy)[0]).place.on).toMatchObject({ step: 'base' })
  })
})

describe('copies', () => {
  const stair = (fields: Record<string, string>, more: Partial<ShapeStep> = {}) =>
    partOf(
      [{ ...block('s', '5', '5', '5', { repeats: [repeat('row', { count: '4', spacing: '10' })] }), ...more }].map(
        (each) => ({ ...each, fields: { ...each.fields, ...fields } }),
      ),
    )
  it('know their number in every field', async () => {
    expect(volume(await build(stair({ height: '2 * copy' })))).toBeCloseTo(25 * (2 + 4 + 6 + 8), 6)
    const grid = stair(
      { height: 'copy1 + 10 * copy2' },
      {
        repeats: [
          repeat('row', { count: '2', spacing: '10' }),
          repeat('row', { count: '2', spacing: '10', direction: 'along' }),
        ],
      },
    )
    expect(volume(await build(grid))).toBeCloseTo(25 * (11 + 12 + 21 + 22), 6)
  })
  it('turn by their number', async () => {
    const part = stair({}, { place: { ...onBed, turn: '(copy - 1) * 45' } })
    const { frames } = (await build(part)).plan.geometry.get('s')!
    expect(frames.map(({ u }) => Math.round((Math.atan2(u[1], u[0]) * 180) / Math.PI))).toEqual([0, 45, 90, 135])
  })
  it('can be left out one by one', async () => {
    const part = edited(
      stair({ height: '2 * copy' }),
      { type: 'omit-copy', id: 's', copy: 3, omitted: true },
      { type: 'omit-copy', id: 's', copy: 1, omitted: true },
      { type: 'omit-copy', id: 's', copy: 3, omitted: false },
    )
    expect(bodied(findStep(part, 's')!.step).omit).toEqual([1])
    expect(volume(await build(part))).toBeCloseTo(25 * (4 + 6 + 8), 6)
    const none = [2, 3, 4].reduce(
      (state, copy) => edited(state, { type: 'omit-copy', id: 's', copy, omitted: true }),
      part,
    )
    expect(codes(await build(none))).toContain('copies-none')
  })
  it('with a bad value name the copy; what is not repeated is the first of one', async () => {
    const result = await build(stair({ height: '6 / (copy - 3)' }))
    expect(result.problems[0]).toMatchObject({ code: 'not-above', path: ['steps', 's', 'fields', 'height'] })
    const third = await build(stair({ height: '6 / abs(copy - 3)' }))
    expect(third.problems[0]!.text).toMatch(/^Copy 3: This divides by zero/)
    const single = await build(partOf([block('s', '5', '5', 'copy + copies')]))
    expect(volume(single)).toBeCloseTo(25 * 2, 6)
  })
  it('are mirrored as wholes, and what stands on a mirrored face is not', async () => {
    const wedge = step(
      'w',
      'wedge',
      { length: '10', height: '6', thick: '4' },
      {
        place: { across: { from: 'centre', to: 'near', by: '2' } },
        repeats: [repeat('mirror', {})],
      },
    )
    const both = await build(partOf([wedge]))
    expect(bounds(both)).toMatchObject({ min: [-12, -2, 0], max: [12, 2, 6] })
    expect(volume(both)).toBeCloseTo(2 * 120, 6)
    const only = { ...wedge, repeats: [repeat('mirror', { keep: 'mirrored' })] }
    const hole = step('h', 'hole', { diameter: '1' }, { place: { ...onFace('w', 'left'), across: from('1') } })
    const result = await build(partOf([only, hole]))
    const { seating } = result.plan.geometry.get('h')!
    // The upright side looks to the right now, and "left" of it is read from outside.
    expect(seating.frame.n.map((x) => Math.round(x))).toEqual([1, 0, 0])
    expect(codes(result)).toEqual([])
    expect(volume(result)).toBeLessThan(120)
  })
})

describe('lying', () => {
  it('a shape can be laid on any of its faces', async () => {
    const laid = await build(partOf([block('b', '30', '20', '10', { place: { base: 'left' } })]))
    expect(bounds(laid)).toMatchObject({ min: [-10, -5, 0], max: [10, 5, 30] })
    const upside = await build(
      partOf([
        block('b', '30', '20', '10', { place: { base: 'top', across: { from: 'centre', to: 'near', by: '4' } } }),
      ]),
    )
    expect(bounds(upside)).toMatchObject({ min: [4, -10, 0], max: [34, 10, 10] })
  })
  it('leans to the right as it tilts to the back', async () => {
    const box = bounds(await build(partOf([block('b', '30', '20', '10', { place: { lean: '90' } })])))
    expect([box.min[2], box.max[2]].map((x) => Math.round(x * 1e6) / 1e6)).toEqual([0, 30])
  })
  it('on a face that it does not have is told, and stands as it is', async () => {
    const result = await build(partOf([block('b', '30', '20', '10', { place: { base: 'nose' } })]))
    expect(codes(result)).toEqual(['face-missing'])
    expect(bounds(result).max[2]).toBeCloseTo(10, 9)
  })
})

describe('a repeated bundle whose content reads the number of its copy', () => {
  const post = (fields: Record<string, string>, place: Partial<Place> = {}) =>
    step('post', 'bar', { diameter: '4', height: '10', ...fields }, { place })
  const row = (content: readonly Step[], count = '4', more: { omit?: readonly number[] } = {}): Part =>
    partOf([bundleOf('posts', content, { repeats: [repeat('row', { count, spacing: '20' })], ...more })])
  const sizes = async (part: Part) => {
    const done = await build(part)
    return { volume: volume(done), codes: codes(done), done }
  }
  let area = 0
  beforeAll(async () => {
    area = volume(await build(partOf([post({ height: '1' })])))
  })
  const bar = (height: number) => area * height
  it('has a size of its own in each', async () => {
    const { volume: all, codes: told, done } = await sizes(row([post({ height: '10 * copy' })]))
    expect(told).toEqual([])
    expect(all).toBeCloseTo(bar(10 + 20 + 30 + 40), 5)
    expect(bounds(done).max[2]).toBeCloseTo(40, 9)
    expect(bounds(done).max[0]).toBeCloseTo(60 + 2, 9)
  })
  it('leaves copies out, and reads how many there are', async () => {
    const part = row([post({ height: 'copies + copy' })], '4', { omit: [2] })
    expect((await sizes(part)).volume).toBeCloseTo(bar(5 + 7 + 8), 5)
  })
  it('keeps a number of its own where a step in it is repeated itself', async () => {
    const inner: Step = { ...post({ height: '3 * copy' }), repeats: [repeat('row', { count: '2', spacing: '6' })] }
    expect((await sizes(row([inner], '2'))).volume).toBeCloseTo(bar(2 * (3 + 6)), 5)
    // How many there are of it may depend on the bundle's copy.
    const many: Step = { ...post({}), repeats: [repeat('row', { count: 'copy', spacing: '5' })] }
    expect((await sizes(row([many], '3'))).volume).toBeCloseTo(bar(10 * 6), 5)
  })
  it('reaches through bundles that are not repeated, and conditions', async () => {
    const within = bundleOf('within', [post({ height: '5 * copy' })])
    expect((await sizes(row([within], '3'))).volume).toBeCloseTo(bar(30), 5)
    const even: Step = { ...block('lid', '3', '3', '20'), when: 'copy > 2' }
    expect((await sizes(row([post({}), even], '4'))).volume).toBeGreaterThan(bar(40))
  })
  it('cuts as one, and its ghost has all copies', async () => {
    const plate = block('plate', '120', '30', '50')
    const pockets = bundleOf('posts', [post({ height: '10 * copy' })], {
      operation: 'cut',
      repeats: [repeat('row', { count: '3', spacing: '20' })],
    })
    const part = partOf([plate, pockets])
    const builder = new Builder(kernel)
    const done = await built(kernel, part, 0.01, builder)
    expect(codes(done)).toEqual([])
    const removed = 120 * 30 * 50 - volume(done)
    const ghost = await builder.ghost(done, 'posts', { fineness: 0.01 })
    expect(ghost!.volume()).toBeCloseTo(removed, 4)
    // The cut is circumscribed: a little more than the bar.
    expect(removed / bar(60)).toBeGreaterThan(1)
    expect(removed / bar(60)).toBeLessThan(1.02)
    builder.clear()
  })
  it('tells the copy that cannot be made, and the rest is built', async () => {
    const { codes: told, volume: all, done } = await sizes(row([post({ height: '25 - 10 * copy' })], '3'))
    expect(told).toContain('not-above')
    expect(done.problems.find(({ code }) => code === 'not-above')!.text).toMatch(/^Copy 3: /)
    expect(all).toBeCloseTo(bar(15 + 5), 5)
  })
  it('tells once what can be made in no copy', async () => {
    const repeats = [repeat('row', { count: '3', spacing: '20' })]
    const { problems } = await build(partOf([step('pin', 'bar', { height: '5 - 10 * copy' }, { repeats })]))
    expect(problems.filter(({ code }) => code === 'not-above')).toHaveLength(1)
  })
  it('is refused where it would be too many', async () => {
    const { codes: told } = await sizes(
      row(
        Array.from({ length: 11 }, (_, i) => ({ ...post({ height: 'copy' }), id: `p${i}` })),
        '500',
      ),
    )
    expect(told).toContain('copies-too-many')
  })
})
