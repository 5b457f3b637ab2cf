import { describe, expect, it } from 'vitest'
import { compensationFor } from '../compensation/index.ts'
import { newPiece, type Part } from '../document/index.ts'
import { itemsFor } from '../hardware/index.ts'
import type { Solid } from '../kernel/index.ts'
import { asPrinted } from '../solids/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { type Finding, proofOf } from './index.ts'
import type { Size } from './phrase.ts'

const kernel = await testKernel()
const { printer } = partOf([])

async function told(part: Part, check: string): Promise<readonly Finding[]> {
  return proofOf(kernel, await built(kernel, part, 0.02), { only: [check] })
}
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
/** A plate with a blind hole from above. */
const holed = (diameter: string, more: Record<string, string> = { reach: 'blind', depth: '4.3' }) =>
  partOf([
    step('a', 'plate', { width: '41.3', depth: '33.7', height: '9.1' }, {
      place: { across: off(13.3), turn: '15.3' },
    } as never),
    step('h', 'hole', { diameter, ...more }, { place: { ...onFace('a', 'top'), across: off(2.7) } } as never),
  ])
/** With a pin of its own beside it. */
const pinned = (part: Part, diameter: number): Part => ({
  ...part,
  pieces: [
    ...part.pieces,
    {
      ...newPiece('p2', 'Pin', 'sand'),
      steps: [step('pin', 'bar', { diameter: `${diameter}`, height: '12.7' }, { place: { across: off(60) } } as never)],
    },
  ],
})

describe('what has a fit', () => {
  it.each(sampled(20))('leaves its gap less what is printed shut, of the hole and of what goes in (%i)', async (i) => {
    const random = seeded(79 * i)
    const diameter = Number((3 + 20 * random()).toFixed(2))
    const hole = holed(`${diameter} slide`)
    const slide = printer.fits.slide.round.gap
    const across = diameter + 2 * slide
    const round = printer.outsideOffset + (printer.holeOffset - printer.outsideOffset) * Math.min(1, 10 / across)
    const [alone] = await told(hole, 'takes')
    expect(alone).toMatchObject({ rank: 'pass', code: 'takes-room' })
    const left = (finding: Finding | undefined) => (finding!.values.left as Size).of[0]!
    expect(left(alone)).toBeCloseTo(slide - round, 9)
    const [both] = await told(pinned(hole, diameter), 'takes')
    expect(left(both)).toBeCloseTo(slide - round - printer.outsideOffset, 9)
    // A pin of another size is not what goes in.
    const [other] = await told(pinned(hole, diameter + 0.3), 'takes')
    expect(left(other)).toBeCloseTo(slide - round, 9)
  })
  it('is tight where the printer prints all of it shut; snug may have none left', async () => {
    const tight = (fit: string, holeOffset: number): Part => {
      const part = holed(`8.3 ${fit}`)
      return { ...part, printer: { ...part.printer, holeOffset } }
    }
    const gap = (fit: 'snug' | 'slide') => printer.fits[fit].round.gap
    const codes = async (part: Part) => (await told(part, 'takes')).map(({ code }) => code)
    expect(await codes(tight('snug', gap('snug')))).toEqual(['takes-room'])
    expect(await codes(tight('snug', gap('snug') + 0.01))).toEqual(['takes-tight'])
    expect(await codes(tight('slide', gap('slide')))).toEqual(['takes-tight'])
    expect(await codes(tight('slide', gap('slide') - 0.01))).toEqual(['takes-room'])
    expect(await codes(tight('press', 0.09))).toEqual(['takes-room'])
  })
  it('that is pressed in is loose where its hole prints larger than it is', async () => {
    const part = holed('8.3 press')
    const wide = { ...part, printer: { ...part.printer, holeOffset: -0.04, outsideOffset: -0.04 } }
    expect((await told(wide, 'takes')).map(({ code, rank }) => [code, rank])).toEqual([['takes-loose', 'advice']])
  })
  it('loses nothing where a file makes up for the printer', async () => {
    const part = holed('8.3 snug')
    const measured = { kind: 'set', on: '2026-05-04' } as const
    const [found] = await told({ ...part, printer: { ...part.printer, holeOffset: 0.3, measured } }, 'takes')
    expect(found!.values.left).toMatchObject({ of: [printer.fits.snug.round.gap] })
    // What was measured of the material says nothing of the printer.
    const [ofMaterial] = await told({ ...part, material: { ...part.material, measured } }, 'takes')
    const [asShipped] = await told(part, 'takes')
    expect(ofMaterial).toEqual(asShipped)
  })
})

describe('what is left between what goes in and its hole', () => {
  it.each(sampled(60))('is what the printed solids are apart, or lie in each other (%i)', async (i) => {
    const random = seeded(4099 * i)
    const among = <T>(...all: readonly T[]) => all[Math.floor(random() * all.length)]!
    const size = (low: number, high: number) => Number((low + (high - low) * random()).toFixed(3))
    const own = { ...printer, holeOffset: size(-0.02, 0.2), outsideOffset: size(-0.03, 0.12) }
    const fit = among('press', 'snug', 'slide', 'free')
    const across = size(3, 16)
    const isRound = random() < 0.5
    const place = { across: off(size(-3, 3)), along: off(size(-3, 3)), turn: `${size(0, 90)}`, rest: 'on' as const }
    const through = { operation: 'cut', place: { ...place, lift: '-5' } }
    const tall = { height: '60' }
    const [hole, pin] = isRound
      ? [
          step('h', 'bar', { ...tall, diameter: `${across} ${fit}` }, through),
          step('pin', 'bar', { ...tall, diameter: `${across}` }, { place }),
        ]
      : [
          step('h', 'plate', { ...tall, width: `${across} ${fit}`, depth: `${across} ${fit}` }, through),
          step('pin', 'plate', { ...tall, width: `${across}`, depth: `${across}` }, { place }),
        ]
    const part = partOf([step('a', 'plate', { width: '35.3', depth: '33.1', height: '21.7' }), hole])
    const both: Part = {
      ...{ ...part, printer: own },
      pieces: [...part.pieces, { ...newPiece('p2', 'Pin', 'sand'), steps: [pin] }],
    }
    const drawn = await built(kernel, both, 0.004)
    // A printer moves walls the other way than a file that makes up for it; each piece as if it were alone.
    const errors = {
      ...compensationFor(both),
      flare: 0,
      shrinkage: 0,
      walls: -own.outsideOffset,
      rounds: -own.holeOffset,
    }
    const printed = ['p1', 'p2'].map((id) => asPrinted(kernel, drawn, errors, new Set([id])))
    const [around, inside] = printed.map(({ built: { pieces } }, k) => pieces[k]!.solid!) as [Solid, Solid]
    const isIn = kernel.scope((scope) => scope.intersection([around, inside]).volume()) > 1e-3
    const gap = isIn ? -1 : around.gapTo(inside, 5)
    const found = (await proofOf(kernel, drawn, { only: ['takes'] })).filter(({ code }) => code !== 'takes-bare')
    // A plate has the same fit on all four sides.
    for (const { code, values } of found) {
      const mmOf = (name: string) => (values[name] as Size).of[0]!
      const left = 'left' in values ? mmOf('left') : mmOf('gap') - mmOf('off')
      if (gap > 0) expect(Math.abs(left - gap), code).toBeLessThan(0.005)
      else expect(left).toBeLessThan(0.005)
      if (fit === 'press') expect(code).toBe(left > 1e-6 ? 'takes-loose' : 'takes-room')
      else if (Math.abs(left) > 0.005) expect(code).toBe(gap > 0 ? 'takes-room' : 'takes-tight')
    }
    expect(found.length).toBeGreaterThan(0)
    for (const each of printed) each.release()
  })
})

describe('a bare hole', () => {
  const measures = (readings: readonly number[]): Part['measures'] => [
    {
      ...({ id: 'm', name: 'rod', kind: 'length', expression: '8.3', note: '' } as const),
      readings: readings.map((value) => ({ value, at: '2026-05-04T10:00:00.000Z' })),
    },
  ]
  it('of just the size of what was measured takes none of it', async () => {
    const found = await told({ ...holed('8.3'), measures: measures([8.3, 8.31]) }, 'takes')
    expect(found).toMatchObject([{ code: 'takes-bare', rank: 'advice', values: { measure: 'rod', written: '8.3' } }])
  })
  it('is let be where its measure is of the hole itself, or it has another size', async () => {
    expect(await told({ ...holed('rod'), measures: measures([]) }, 'takes')).toEqual([])
    expect(await told({ ...holed('8.4'), measures: measures([8.3]) }, 'takes')).toEqual([])
  })
})

describe('the first layer', () => {
  const through = { reach: 'through' }
  it('is pressed into the mouth of a fit on the bed, and not into one that ends above it, or has a bevel', async () => {
    const codes = async (part: Part) => (await told(part, 'flare')).map(({ code }) => code)
    expect(await codes(holed('8.3 slide', through))).toEqual(['flare-pinches'])
    expect(await codes(holed('8.3 free', through))).toEqual(['flare-room'])
    expect(await codes(holed('8.3 slide'))).toEqual([])
    const part = holed('8.3 slide', through)
    expect(await codes({ ...part, printer: { ...part.printer, flare: 0.1 } })).toEqual(['flare-room'])
    const measured = { kind: 'set', on: '2026-05-04' } as const
    expect(await codes({ ...part, printer: { ...part.printer, measured } })).toEqual([])
    expect(await codes({ ...part, material: { ...part.material, measured } })).toEqual(['flare-pinches'])
  })
})

describe('a bare hole of the size of an item', () => {
  it.each(sampled(24))('is told with what is sold in that size, and cured by its fit (%i)', async (i) => {
    const random = seeded(31 * i)
    const all = itemsFor(['pin', 'bearing', 'magnet']).filter(
      ({ sizes, family }) => !family.inPlainHole && (sizes.diameter ?? sizes.outside)! < 30,
    )
    const item = all[Math.floor(random() * all.length)]!
    const across = (item.sizes.diameter ?? item.sizes.outside)!
    const [finding] = await told(holed(`${across}`), 'takes')
    expect(finding).toMatchObject({ rank: 'advice', code: 'takes-bare-item' })
    const [edit] = finding!.cures![0]!.edits
    expect(edit).toMatchObject({ type: 'set-field', id: 'h', field: 'diameter', text: `${across} slide` })
    const [cured] = await told(holed(`${across} slide`), 'takes')
    expect(cured).toMatchObject({ rank: 'pass' })
    // A little larger or smaller it is of none.
    for (const by of [-0.13, 0.13]) expect(await told(holed((across + by).toFixed(2)), 'takes')).toEqual([])
  })
  it('is not told of what springs in its hole, or is pressed into it', async () => {
    // A split pin goes through 6.3, a bush of 5.5 is pressed in.
    for (const across of ['6.3', '5.5', '3.2']) expect(await told(holed(across), 'takes')).toEqual([])
  })
  it('is not told of a printer that prints it as it is drawn', async () => {
    const part = holed('8')
    const exact = { ...part, printer: { ...part.printer, holeOffset: 0, outsideOffset: 0 } }
    expect(await told(exact, 'takes')).toEqual([])
  })
})
