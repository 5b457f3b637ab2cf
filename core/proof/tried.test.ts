import { describe, expect, it } from 'vitest'
import { applyEdit, type Part, type Step } from '../document/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { Builder } from '../solids/index.ts'
import { built, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { type Finding, proofOf } from './index.ts'

const kernel = await testKernel()
const { lineWidth, leastGap, holeOffset } = partOf([]).printer
const only = ['sheet', 'closed', 'bodies', 'walls', 'slots']

async function proof(part: Part): Promise<readonly Finding[]> {
  const trials = new Builder(kernel)
  const build = (changed: Part) => trials.build(changed, { fineness: 0.02 })
  return proofOf(kernel, await built(kernel, part, 0.02), { only, build })
}

const off = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
const plate = (id: string, [w, d, h]: readonly (string | number)[], lift = 0, more: Partial<Step> = {}): Step =>
  step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place: { lift: `${lift}` }, ...more } as never)
const length = (name: string, expression: string): Part['measures'][number] => ({
  ...{ id: `m-${name}`, name, kind: 'length', expression, note: '' },
})

/** The cures of what is found, with what the sheet is after each, and what a proof says of it then. */
async function cured(part: Part) {
  const found = await proof(part)
  const cures = found.flatMap(({ cures: own = [] }) => own)
  const after = await Promise.all(
    cures.map(async ({ edits }) => {
      const changed = edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
      return (await proof(changed)).filter(({ rank }) => rank !== 'pass').map(({ text }) => text)
    }),
  )
  return { found, cures, after }
}

describe('a wall that is too thin', () => {
  it.each(sampled(40))('is made two lines thick by its own size, at whatever size it was (%i)', async (i) => {
    const random = seeded(31 * i)
    const thick = Number((0.1 + 0.75 * random()).toFixed(3))
    const fin = plate('fin', [12 + 9 * random(), thick, 7.3], 3, {
      place: { lift: '3', turn: `${360 * random()}` },
    } as never)
    const { cures, after, found } = await cured(partOf([plate('foot', [40, 30, 3.3]), fin]))
    expect(
      found.some(({ check, rank }) => check === 'walls' && rank === (thick < 0.98 * lineWidth ? 'fault' : 'advice')),
    ).toBe(true)
    expect(cures.map(({ label, after: then }) => [label, then])).toEqual([
      [
        'Set the depth of plate to 0.88 mm',
        '0.88 mm thick: wide enough for two lines of 0.44 mm, or two layers of 0.2 mm.',
      ],
    ])
    expect(after).toEqual([[]])
    expect(cures[0]!.edits).toEqual([{ type: 'set-field', id: 'fin', field: 'depth', text: '0.88' }])
  })
  it('is made so by the measure that it is, and what is reckoned keeps its reckoning', async () => {
    const foot = plate('foot', [40, 30, 3.3])
    const by = async (text: string, measures: Part['measures']) =>
      (await cured({ ...partOf([foot, plate('fin', [15.3, text, 7.3], 3)]), measures })).cures[0]
    expect((await by('wall', [length('wall', '0.5')]))!.edits).toEqual([
      { type: 'set-measure', id: 'm-wall', change: { expression: '0.88' } },
    ])
    expect((await by('wall', [length('base', '1'), length('wall', 'base / 2')]))!.edits).toEqual([
      { type: 'set-measure', id: 'm-wall', change: { expression: 'base / 2 + 0.38 mm' } },
    ])
    expect((await by('wall / 2', [length('wall', '1')]))!.edits).toEqual([
      { type: 'set-field', id: 'fin', field: 'depth', text: 'wall / 2 + 0.38 mm' },
    ])
  })
  it('is left alone where that spoils something else, or it has no size of its own', async () => {
    // A slot is as wide as the fin, by the same measure: wider, it leaves too little beside it.
    const wall = { measures: [length('wall', '0.5')] }
    const slot = plate('slot', ['wall', 9, 9], -1, {
      operation: 'cut',
      place: { lift: '-1', across: off(18.75), rest: 'on' },
    } as never)
    const between = { ...partOf([plate('foot', [40, 30, 3.3]), plate('fin', [15.3, 'wall', 7.3], 3), slot]), ...wall }
    expect((await cured(between)).cures).toEqual([])
    // A slot in a fin leaves too little on both sides of it already, and less when it is wider.
    const inFin = plate('slot', [9, 0.2, 20], 0, { operation: 'cut', place: { lift: '3', rest: 'on' } } as never)
    const split = await cured(partOf([plate('foot', [40, 30, 3.3]), plate('fin', [15.3, 0.36, 7.3], 3), inFin]))
    expect(split.found.some(({ check, rank }) => check === 'slots' && rank === 'fault')).toBe(true)
    expect(split.cures).toEqual([])
    const web = partOf([
      plate('block', [20.3, 15.3, 8]),
      step(
        'a',
        'bar',
        { diameter: '6', height: '20' },
        { operation: 'cut', place: { lift: '-1', rest: 'on', across: off(-3.15) } },
      ),
      step(
        'b',
        'bar',
        { diameter: '6', height: '20' },
        { operation: 'cut', place: { lift: '-1', rest: 'on', across: off(3.15) } },
      ),
    ])
    const { found, cures } = await cured(web)
    expect(found.some(({ check, rank }) => check === 'walls' && rank === 'fault')).toBe(true)
    expect(cures).toEqual([])
  })
})

describe('what closes', () => {
  it.each(sampled(20))('is made as wide as stays open: a slot, and a round hole by more (%i)', async (i) => {
    const random = seeded(17 * i)
    const narrow = Number((0.12 + 0.12 * random()).toFixed(3))
    const place = { lift: '-1', rest: 'on' as const, turn: `${360 * random()}` }
    const foot = plate('foot', [40, 30, 3.3])
    const slot = await cured(partOf([foot, plate('slot', [narrow, 11.3, 9], 0, { operation: 'cut', place } as never)]))
    expect(slot.cures.map(({ label }) => label)).toEqual([`Set the width of plate to ${leastGap} mm`])
    expect(slot.after).toEqual([[]])
    const bore = step('bore', 'bar', { diameter: `${narrow + 0.1}`, height: '9' }, { operation: 'cut', place })
    const hole = await cured(partOf([foot, bore]))
    expect(hole.cures.map(({ label }) => label)).toEqual([
      `Set the diameter of round bar to ${(leastGap + 2 * holeOffset).toFixed(2)} mm`,
    ])
    expect(hole.after).toEqual([[]])
  })
})

it('tries nothing where nothing builds, and offers nothing that cannot be built', async () => {
  const part = partOf([plate('foot', [40, 30, 3.3]), plate('fin', [15.3, 0.36, 7.3], 3)])
  const drawn = await built(kernel, part, 0.02)
  const found = await proofOf(kernel, drawn, { only })
  expect(found.some(({ check, rank }) => check === 'walls' && rank === 'fault')).toBe(true)
  expect(found.flatMap(({ cures = [] }) => cures)).toEqual([])
  const failing = await proofOf(kernel, drawn, { only, build: () => Promise.reject(new Error('no')) })
  expect(failing.map(({ tried: _, ...each }) => each)).toEqual(found)
  expect(failing.flatMap(({ tried = [] }) => tried)).toEqual([
    'Set the depth of plate to 0.88 mm',
    ...['back', 'front'].map((face) => `Shift the ${face} of Step 2 of Piece 1 (plate) outward by 0.52 mm`),
  ])
})
