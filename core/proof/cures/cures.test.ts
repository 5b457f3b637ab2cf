import { describe, expect, it } from 'vitest'
import { applyEdit, type Part, type Step } from '../../document/index.ts'
import { fieldKindOf, printPoseOf } from '../../planning/index.ts'
import { Builder, motionsIn, movedBy } from '../../solids/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../../testing/index.ts'
import { sampled } from '../../testing/sample.ts'
import { type Finding, proofOf } from '../index.ts'

const kernel = await testKernel()
const trials = new Builder(kernel)

async function proof(part: Part): Promise<readonly Finding[]> {
  const build = (changed: Part) => trials.build(changed, { fineness: 0.02 })
  return proofOf(kernel, await built(kernel, part, 0.02), { build })
}
/** With its pieces as they are printed. */
async function proofAsPrinted(part: Part): Promise<readonly Finding[]> {
  const drawn = await built(kernel, part, 0.02)
  const pose = printPoseOf(part)
  if (!pose) return proofOf(kernel, drawn)
  const posed = movedBy(kernel, drawn, motionsIn(kernel, drawn, pose))
  const found = await proofOf(kernel, posed.built)
  posed.release()
  return found
}
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` })
const block = (id: string, [w, d, h]: readonly number[], place: object = {}, more: object = {}) =>
  step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place, ...more } as never)
const open = (found: readonly Finding[]) => found.filter(({ rank }) => rank !== 'pass')
const codes = (found: readonly Finding[]) => open(found).map(({ code }) => code)
const cured = (part: Part, { cures }: Finding) =>
  cures![0]!.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)

/** The finding with this code, with one cure that reads like this, after which nothing is told any more that was not told before. */
async function cures(part: Part, code: string, label: RegExp): Promise<Part> {
  const found = await proof(part)
  const own = found.find((each) => each.code === code)
  expect(own, JSON.stringify(codes(found))).toBeDefined()
  expect(own!.cures?.map((each) => each.label) ?? own!.tried, code).toEqual([expect.stringMatching(label)])
  const after = cured(part, own!)
  const then = await proofAsPrinted(after)
  expect(codes(then).filter((each) => each === code).length).toBeLessThan(
    codes(found).filter((each) => each === code).length,
  )
  expect(open(then).length).toBeLessThan(open(found).length)
  return after
}

describe('a ledge that droops', () => {
  it.each(sampled(20, 1, 20))('gets a bevel in the corner below it, as far as it reaches (%i)', async (i) => {
    const random = seeded(59 * i)
    const out = 3 + 5 * random()
    const [wide, high] = [9 + 9 * random(), 3 + 4 * random()]
    const turn = `${Number((360 * random()).toFixed(1))}`
    const part = partOf([
      block('wall', [8.3, wide, 30.1], { turn, across: off(13.3), along: off(-7.1) }),
      block('ledge', [8.3 + out, wide, high], {
        ...onFace('wall', 'top'),
        across: { from: 'low', to: 'near', by: '0' },
      }),
    ])
    const after = await cures(part, 'overhangs-droop', /^Bevel the corner under Step 2 .* by \d/)
    const size = Number((after.pieces[0]!.steps[2] as Extract<Step, { kind: 'treatment' }>).fields.size)
    expect(Math.abs(size - out)).toBeLessThan(0.02)
  })
  it('gets a steeper one for a printer that lays less than 45°', async () => {
    const part = partOf([
      block('wall', [8.3, 12.7, 30.1]),
      block('ledge', [13.7, 12.7, 4.3], { ...onFace('wall', 'top'), across: { from: 'low', to: 'near', by: '0' } }),
    ])
    const lower = { ...part, printer: { ...part.printer, overhang: 37.3 } }
    const after = await cures(lower, 'overhangs-droop', /^Bevel the corner/)
    expect(after.pieces[0]!.steps[2]).toMatchObject({ fields: { form: 'angle', angle: '53.7' } })
  })
})

describe('a closed cavity', () => {
  it.each(sampled(10))('is drained from below (%i)', async (i) => {
    const random = seeded(61 * i)
    const size = [30 + 9 * random(), 25 + 9 * random(), 14 + 5 * random()]
    const inner = size.map((each) => Math.min(13, each - 6 - 3 * random()))
    const part = partOf([
      block('a', size, { across: off(13.3), along: off(-7.1), turn: '37.3' }),
      block(
        'b',
        inner,
        { lift: `${2 + random()}`, rest: 'on', across: off(13.3), along: off(-7.1), turn: '15.3' },
        { operation: 'cut' },
      ),
    ])
    await cures(part, 'bodies-cavity', /^Drill a hole of 4 mm into it from below$/)
  })
  it('as narrow as it has room for, and not where it has none', async () => {
    const cavity = (wide: number) =>
      partOf([
        block('a', [20.3, 20.3, 12.1]),
        block('b', [wide, 9.1, 5.3], { lift: '3.3', rest: 'on' }, { operation: 'cut' }),
      ])
    await cures(cavity(4.3), 'bodies-cavity', /^Drill a hole of 3.4 mm into it/)
    const none = (await proof(cavity(2.1))).find(({ code }) => code === 'bodies-cavity')
    expect(none).toMatchObject({ rank: 'advice' })
    expect(none!.cures).toBeUndefined()
  })
})

describe('letters', () => {
  it('are made larger until their strokes are laid', async () => {
    const part = partOf([
      block('a', [61.3, 27.7, 3.1]),
      step('t', 'text', { text: 'Oar', size: '4.3', depth: '0.8' }, { place: onFace('a', 'top') } as never),
    ])
    await cures(part, 'walls-one-line', /^Make the letters of text \d+(\.\d)? mm high$/)
  })
})

describe('what only touches', () => {
  it('is sunk into what it stands on', async () => {
    const part = partOf([
      block('a', [21.3, 17.7, 8.1]),
      block('b', [8.3, 9.1, 7.7], { ...onFace('a', 'top'), tilt: '45' }),
    ])
    await cures(part, 'joined-narrow', /^Sink Step 2 .* by (0.88|3.52) mm$/)
  })
  it('is moved into what is beside it', async () => {
    const part = partOf([
      block('a', [21.3, 17.7, 8.1], { across: off(3.3) }),
      block('b', [11.7, 17.7, 8.1], { across: off(3.3 + (21.3 + 11.7) / 2), along: off(17.7) }),
    ])
    await cures(part, 'bodies-apart', /^Move Step 2 .* by (0.88|3.52) mm$/)
  })
})

describe('a counterbore that opens downwards', () => {
  it.each(sampled(10))('is closed by layers that are pierced after (%i)', async (i) => {
    const random = seeded(67 * i)
    const [bore, head] = [3.3 + 1.5 * random(), 9.1 + 3 * random()]
    const part = partOf([
      block('a', [33.7, 29.1, 12.3], { across: off(13.3), along: off(-7.1), turn: '15.3' }),
      step('h', 'hole', { diameter: bore.toFixed(2), mouth: 'counterbore', head: head.toFixed(2), headDepth: '4.3' }, {
        place: { ...onFace('a', 'bottom'), across: off(3.1) },
      } as never),
    ])
    await cures(part, 'overhangs-droop', /^Close round hole by two layers, to be pierced$/)
  })
})

describe('a hole on the bed', () => {
  it('gets a bevel where the first layer is pressed into its fit', async () => {
    const part = partOf([
      block('a', [33.7, 29.1, 7.3], { turn: '15.3' }),
      step('h', 'hole', { diameter: '8 slide' }, { place: { ...onFace('a', 'top'), across: off(3.1) } } as never),
    ])
    const after = await cures(part, 'flare-pinches', /^Bevel the mouth of Step 2 .* on the bed by 0.3 mm$/)
    expect(codes(await proof(after))).toEqual([])
  })
  it('says that it takes no rod of its own size, and gets a fit', async () => {
    const measures = [
      {
        id: 'm',
        name: 'rod',
        kind: 'length',
        expression: '8.3',
        note: '',
        readings: [{ value: 8.3, at: '2026-05-04T10:00:00.000Z' }],
      },
    ] as const
    const part = partOf(
      [
        block('a', [33.7, 29.1, 7.3], { turn: '15.3' }),
        step('h', 'hole', { diameter: 'rod', reach: 'blind', depth: '4' }, { place: onFace('a', 'top') } as never),
      ],
      { measures },
    )
    const found = await proof(part)
    expect(codes(found)).toEqual(['takes-bare'])
    const after = cured(part, open(found)[0]!)
    expect(after.pieces[0]!.steps[1]).toMatchObject({ fields: { diameter: 'rod slide' } })
    expect(codes(await proof(after))).toEqual([])
  })
  it('that is tight as the printer prints it gets the next fit', async () => {
    const part = partOf([
      block('a', [33.7, 29.1, 7.3]),
      step('h', 'hole', { diameter: '8 snug', reach: 'blind', depth: '4' }, { place: onFace('a', 'top') } as never),
    ])
    const tight = { ...part, printer: { ...part.printer, holeOffset: 0.13 } }
    const after = await cures(tight, 'takes-tight', /^Make the diameter of round hole slide$/)
    expect(after.pieces[0]!.steps[1]).toMatchObject({ fields: { diameter: '8 slide' } })
  })
})

describe('what has no room for anything below it', () => {
  it.each(sampled(10))('is printed lying another way (%i)', async (i) => {
    const random = seeded(71 * i)
    const turn = `${Number((360 * random()).toFixed(1))}`
    const part = partOf([
      block('stalk', [9.3, 8.1, 3.1 + random()], { turn, across: off(13.3), along: off(-7.1) }),
      block('cap', [27 + 5 * random(), 25.3, 4.3], onFace('stalk', 'top')),
    ])
    const after = await cures(part, 'overhangs-droop', /^Print Piece 1 lying another way, \d/)
    expect(after.poses.map(({ id, laid }) => [id, laid.length])).toEqual([[after.printPose, 1]])
    expect(after.pieces).toEqual(part.pieces)
  })
  it('stays as it lies where a face of it has to', async () => {
    const part = partOf(
      [block('stalk', [9.3, 8.1, 3.7], { turn: '37.3' }), block('cap', [29.3, 25.3, 4.3], onFace('stalk', 'top'))],
      { stances: [{ id: 's', of: { step: 'cap', face: 'top' }, way: 'up' }] },
    )
    const droops = (await proof(part)).find(({ code }) => code === 'overhangs-droop')!
    expect(droops.cures?.filter(({ label }) => label.includes('lying another way')) ?? []).toEqual([])
  })
})

describe('a load', () => {
  const post = (wide: string, force: string) =>
    partOf(
      [
        block('foot', [25.3, 21.7, 5.1]),
        step('stalk', 'plate', { width: wide, depth: '5.3', height: '20.1' }, {
          place: onFace('foot', 'top'),
        } as never),
        block('head', [19.7, 15.3, 6.1], onFace('stalk', 'top')),
      ],
      {
        loads: [
          {
            ...{ id: 'l', name: 'Pull', way: 'up', force },
            held: { step: 'foot', face: 'bottom' },
            at: { step: 'head', face: 'top' },
          },
        ],
      },
    )
  it('is borne, or asks for a thicker neck, which then bears twice what it is asked', async () => {
    const fine = await proof(post('5.3', '100'))
    expect(fine.find(({ check }) => check === 'loads')).toMatchObject({ code: 'load-borne', rank: 'pass' })
    const after = await cures(post('3.1', '700'), 'load-breaks', /^Set the width of .* to \d/)
    const borne = (await proof(after)).find(({ check }) => check === 'loads')!
    expect(borne.code).toBe('load-borne')
    expect(borne.values.share).toBeGreaterThan(40)
    expect(borne.values.share).toBeLessThanOrEqual(50)
  })
})

describe('a wall of which no size is its thickness', () => {
  it.each(sampled(20, 1, 20))('is made thicker by a face of it (%i)', async (i) => {
    const random = seeded(71 * i)
    const thick = 0.2 + 0.3 * random()
    const wide = 9 + 5 * random()
    const turn = `${Number((360 * random()).toFixed(1))}`
    const pocket = (id: string, way: number) =>
      block(
        id,
        [wide, 9.7 + 3 * random(), 5.3],
        { ...onFace('a', 'top'), across: off((way * (wide + thick)) / 2), lift: '-5.3' },
        { operation: 'cut' },
      )
    const part = partOf([
      block('a', [41.3, 22.7, 9.1], { turn, across: off(13.3), along: off(-7.1) }),
      pocket('b', 1),
      pocket('c', -1),
    ])
    const after = await cures(
      part,
      thick < 0.43 ? 'walls-not-laid' : 'walls-one-line',
      /^Shift the (left|right) of Step \d .* outward by \d/,
    )
    const { fields } = after.pieces[0]!.steps[3] as Extract<Step, { kind: 'treatment' }>
    expect(fields.faces).toMatch(/^(b\/left|c\/right|b\/right|c\/left)$/)
    expect(thick + Number(fields.by)).toBeGreaterThan(0.88)
    expect(thick + Number(fields.by)).toBeLessThan(0.92)
  })
})

describe('what hardly stands on its foot', () => {
  it.each(sampled(20, 1, 20))('gets a fillet there (%i)', async (i) => {
    const random = seeded(73 * i)
    const deep = 0.05 + 0.05 * random()
    const part = partOf([
      block('a', [31.3, 27.7, 5.1], { turn: '37.3', across: off(13.3), along: off(-7.1) }),
      step('k', 'ball', { diameter: `${(9 + 5 * random()).toFixed(2)}` }, {
        place: { ...onFace('a', 'top'), lift: `${-deep.toFixed(3)}` },
      } as never),
    ])
    const after = await cures(
      part,
      'necks-weak',
      /^Fill the corner where Step 1 .* meets Step 2 .* with a fillet of \d+(\.\d+)? mm$/,
    )
    expect(after.pieces[0]!.steps[2]).toMatchObject({ operation: 'round', fields: { edges: 'inner where a meets k' } })
  })
})
