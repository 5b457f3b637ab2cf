import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import type { Solid } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { asPrinted } from '../solids/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { offSideways } from '../testing/printed.ts'
import { runs } from '../testing/sample.ts'
import { type Compensation, compensates, compensationFor, compensationText, isMadeUp, roundsBy } from './index.ts'

const kernel = await testKernel()

const of = (change: Partial<Compensation>): Compensation => ({
  ...{ walls: 0, rounds: 0, flare: 0, shrinkage: 0, firstLayer: 0.24, lineWidth: 0.44 },
  ...{ printer: 'Tern 220', material: 'PLA', origins: [] },
  ...change,
})
/** Walls of one measure, round holes among them. */
const all = (walls: number, change: Partial<Compensation> = {}) => of({ walls, rounds: walls, ...change })

/** A part's pieces as they are drawn and as they are printed. */
async function printed<T>(
  part: Part,
  compensation: Compensation,
  use: (pieces: readonly { drawn: Solid; made: Solid; stayed: readonly { why: string; area: number }[] }[]) => T,
  fineness = 0.01,
): Promise<T> {
  const before = await built(kernel, part, fineness)
  const after = asPrinted(kernel, before, compensation)
  const result = use(
    before.pieces.map(({ piece, solid }, i) => ({
      drawn: solid!,
      made: after.built.pieces[i]!.solid!,
      stayed: after.stayed.get(piece.id) ?? [],
    })),
  )
  after.release()
  return result
}
const onePrinted = (part: Part, compensation: Compensation, fineness?: number) =>
  printed(
    part,
    compensation,
    ([piece]) => ({ before: told(piece!.drawn), after: told(piece!.made), stayed: piece!.stayed }),
    fineness,
  )
function told(solid: Solid) {
  const { min, max } = solid.bounds()!
  return {
    volume: solid.volume(),
    size: [0, 1, 2].map((i) => max[i]! - min[i]!),
    low: min[2],
    figures: meshFigures(solid.mesh()),
  }
}
const plate = (change: object = {}) => step('p', 'plate', { width: '42.7', depth: '31.3', height: '6.4', ...change })
const hole = (diameter: string, change: object = {}) =>
  step('h', 'hole', { diameter }, { operation: 'cut', place: { ...onFace('p', 'top'), ...change } })
const centred = (by: string) => ({ from: 'centre', to: 'centre', by }) as const

describe('what is made up for', () => {
  const { printer, material } = partOf([plate()])
  const measured = { kind: 'set', on: '2026-11-03T10:00:00.000Z' } as const
  it('is taken from the records of printer and material, first layer and lines among it', () => {
    expect(compensationFor({ printer, material })).toEqual(
      of({
        ...{ walls: 0.02, rounds: 0.08, flare: 0.15, shrinkage: 0.4, material: 'PETG' },
        origins: [{ kind: 'shipped' }, { kind: 'shipped' }],
      }),
    )
    expect(compensates(of({}))).toBe(false)
    for (const name of ['walls', 'rounds', 'flare', 'shrinkage']) expect(compensates(of({ [name]: -0.1 }))).toBe(true)
  })
  it('is nothing unless it is asked for, as long as nobody measured it', () => {
    expect(isMadeUp({ printer, material })).toBe(false)
    expect(isMadeUp({ printer: { ...printer, measured: { kind: 'shipped' } }, material })).toBe(false)
    expect(isMadeUp({ printer: { ...printer, measured }, material })).toBe(true)
    expect(isMadeUp({ printer, material: { ...material, measured } })).toBe(true)
    const exact = { ...printer, measured, holeOffset: 0, outsideOffset: 0, flare: 0 }
    expect(isMadeUp({ printer: exact, material })).toBe(false)
  })
  it('leaves the guesses out where the other record was measured', () => {
    const onlyPrinter = compensationFor({ printer: { ...printer, measured }, material })
    expect(onlyPrinter).toMatchObject({ walls: 0.02, rounds: 0.08, flare: 0.15, shrinkage: 0, origins: [measured] })
    const onlyMaterial = compensationFor({ printer, material: { ...material, measured } })
    expect(onlyMaterial).toMatchObject({ walls: 0, rounds: 0, flare: 0, shrinkage: 0.4, origins: [measured] })
  })
  it('is all that holes print too small by up to 10 mm, and less of what walls do not in larger ones', () => {
    const own = of({ walls: 0.02, rounds: 0.08 })
    expect(roundsBy(own, 2.3)).toBe(0.08)
    expect(roundsBy(own, 9.99)).toBe(0.08)
    expect(roundsBy(own, 20)).toBeCloseTo(0.05, 12)
    expect(roundsBy(own, 85.1)).toBeCloseTo(0.02 + 0.06 / 8.51, 12)
  })
  it.each([
    [{ walls: 0.02, rounds: 0.08 }, 'walls 0.02 mm thinner and small round holes 0.08 mm larger per side'],
    [{ rounds: -0.05, shrinkage: 0.3 }, 'small round holes 0.05 mm smaller per side, all of it 0.301 % larger'],
    [{ walls: -0.1, rounds: -0.1 }, 'walls 0.1 mm thicker per side'],
    [{ flare: 0.15 }, 'the first layer 0.15 mm narrower all round'],
    [{ shrinkage: 1.2 }, 'all of it 1.215 % larger'],
    [{}, ''],
  ])('is told in words: %o', (change, text) => {
    expect(compensationText(of(change), 'mm')).toBe(text)
  })
})

describe('walls', () => {
  it('go in by their measure per side, round holes by theirs, and heights stay', async () => {
    const { after } = await onePrinted(partOf([plate(), hole('8.3')]), of({ walls: 0.021, rounds: 0.083 }))
    expect(after.size[0]).toBeCloseTo(42.7 - 0.042, 9)
    expect(after.size[1]).toBeCloseTo(31.3 - 0.042, 9)
    expect(after.size[2]).toBeCloseTo(6.4, 9)
    expect(after.figures).toMatchObject({ closed: true, oriented: true, solids: 1 })
    const alone = await onePrinted(partOf([plate()]), all(0.021))
    const bored = (alone.after.volume - after.volume) / 6.4
    const before = await onePrinted(partOf([plate(), hole('8.3')]), of({}))
    const flats = (42.7 * 31.3 * 6.4 - before.before.volume) / 6.4
    // The same polygon, its flats farther out by so much.
    expect(Math.sqrt(bored / flats)).toBeCloseTo((4.15 + 0.083) / 4.15, 4)
  })
  it('of a pocket and of a vessel are walls, not holes', async () => {
    const size = { width: '17.3', depth: '6.1', height: '2.3' }
    const pocket = step('k', 'plate', size, { operation: 'cut', place: onFace('p', 'top') })
    const { after } = await onePrinted(partOf([plate(), pocket]), of({ walls: 0.03, rounds: 0.1 }))
    expect(after.volume).toBeCloseTo((42.7 - 0.06) * (31.3 - 0.06) * 6.4 - (17.3 + 0.06) * (6.1 + 0.06) * 2.3, 5)
  })
  it('of a large bore move hardly more than others', async () => {
    const wide = partOf([step('p', 'plate', { width: '120', depth: '120', height: '5' }), hole('85.1')])
    await printed(wide, of({ walls: 0.02, rounds: 0.08 }), ([piece]) => {
      const at = piece!.made.crossings([0, 0, 2.5], [Math.SQRT1_2, Math.SQRT1_2, 0])[0]!
      const radius = 85.1 / 2
      expect(at - radius).toBeGreaterThan(roundsBy(of({ walls: 0.02, rounds: 0.08 }), 85.1) - 0.001)
      expect(at - radius).toBeLessThan(roundsBy(of({ walls: 0.02, rounds: 0.08 }), 85.1) + 0.011)
    })
  })
  it('are the same wherever they stand and however they are turned', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: 10, max: 140 }),
        async (turn, by, tenths) => {
          const offset = centred(`${by / 10}`)
          const base = plate({ corner: '3.7' })
          const place = { ...base.place, turn: `${turn / 10}`, across: offset, along: { ...offset, by: '11.7' } }
          const own = of({ walls: tenths / 1000, rounds: 0.15 })
          const { before, after } = await onePrinted(partOf([{ ...base, place }, hole('9.1')]), own)
          const straight = await onePrinted(partOf([base, hole('9.1')]), own)
          expect(after.figures).toMatchObject({ closed: true, solids: 1 })
          expect(after.volume / straight.after.volume).toBeCloseTo(1, 5)
          expect(after.volume).toBeLessThan(before.volume)
        },
      ),
      { numRuns: runs(12) },
    )
  })
  it('that lean go sideways, flats as flats, and go back as far with the opposite measure', async () => {
    const wedge = step('w', 'pyramid', { width: '40', depth: '31.7', height: '20', topWidth: '12.7', topDepth: '9.3' })
    const there = await onePrinted(partOf([wedge]), all(0.1))
    expect(there.before.size[0]! - there.after.size[0]!).toBeCloseTo(0.2, 9)
    expect(there.before.size[1]! - there.after.size[1]!).toBeCloseTo(0.2, 9)
    expect(there.stayed).toEqual([])
    const back = await onePrinted(partOf([wedge]), all(-0.1))
    expect(back.after.size[0]! - back.before.size[0]!).toBeCloseTo(0.2, 9)
  })
  it('of a box that is tilted move as far as others, and its planes stay planes', async () => {
    const box = step(
      'b',
      'plate',
      { width: '31.7', depth: '18.3', height: '12.1' },
      { place: { tilt: '20', turn: '37.3' } },
    )
    await printed(partOf([box]), all(0.04), ([piece]) => {
      expect(meshFigures(piece!.made.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
      expect(piece!.made.triangleCount()).toBe(12)
      expect(offSideways(kernel, piece!.drawn, piece!.made, 0.04)).toMatchObject({ share: 0 })
    })
  })
  it('beside a slanted hole that breaks out of them stay flat', async () => {
    const slanted = hole('7.3', { across: { from: 'low', to: 'centre', by: '2.1' }, tilt: '27' })
    await printed(partOf([plate(), slanted]), all(0.06), ([piece]) => {
      const off = offSideways(kernel, piece!.drawn, piece!.made, 0.06)
      expect(off.share).toBeLessThan(0.005)
      expect(piece!.made.bounds()!.min[0]).toBeCloseTo(-42.7 / 2 + 0.06, 2)
    })
  })
})

describe('what stays as drawn', () => {
  const line = of({ walls: 0.03, rounds: 0.03 })
  it.each([
    ['of one line', '0.44', true],
    ['of less than a line', '0.3', true],
    ['of two lines', '0.88', true],
    ['of two lines and a little', '0.96', false],
    ['of two lines and too little', '0.93', true],
    ['thicker than four lines', '2.2', false],
  ])('is a wall %s', async (_, width, stays) => {
    const { before, after, stayed } = await onePrinted(partOf([plate({ width })]), line)
    expect(after.size[0]).toBeCloseTo(before.size[0]! - (stays ? 0 : 0.06), 6)
    expect(stayed.map(({ why }) => why)).toEqual(stays ? ['thin'] : [])
    // What is thick enough goes in all the same.
    expect(after.size[1]).toBeCloseTo(before.size[1]! - 0.06, 6)
  })
  it('is not a wall that only comes to an edge', async () => {
    const wedge = step('w', 'prism', { sides: '3', size: '30', height: '7.3' })
    const { stayed } = await onePrinted(partOf([wedge]), line)
    expect(stayed).toEqual([])
  })
  it('is a wall that faces another body nearer than 1 mm, in its own piece or in another one', async () => {
    const beside = (gap: number, id: string) =>
      step(
        id,
        'plate',
        { width: '11.3', depth: '8.7', height: '6.4' },
        { place: { across: centred(`${42.7 / 2 + 11.3 / 2 + gap}`) } },
      )
    for (const [gap, stays] of [
      [0.5, true],
      [0.97, true],
      [1.03, false],
    ] as const) {
      const one = await onePrinted(partOf([plate(), beside(gap, 'q')]), line)
      expect(one.stayed.map(({ why }) => why)).toEqual(stays ? ['gap'] : [])
      const part = partOf([plate()])
      const two = {
        ...part,
        pieces: [part.pieces[0]!, { ...part.pieces[0]!, id: 'p2', name: 'Two', steps: [beside(gap, 'q')] }],
      }
      await printed(two, line, ([a, b]) => {
        const between = b!.made.bounds()!.min[0] - a!.made.bounds()!.max[0]
        expect(between).toBeCloseTo(stays ? gap : gap + 0.06, 6)
        // The far sides go in all the same.
        expect(a!.made.bounds()!.min[0]).toBeCloseTo(-42.7 / 2 + 0.03, 6)
      })
    }
  })
  it('are teeth, not the bore of their gear', async () => {
    const gear = step('g', 'gear', { teeth: '17', bore: 'round', hole: '6.3' })
    const { before, after, stayed } = await onePrinted(partOf([gear]), of({ walls: 0.03, rounds: 0.08 }))
    expect(after.size[0]).toBeCloseTo(before.size[0]!, 9)
    expect(after.volume).toBeLessThan(before.volume - 0.9 * Math.PI * 6.3 * 0.08 * after.size[2]!)
    expect(stayed.map(({ why }) => why)).toEqual(['gap'])
  })
})

describe('the whole', () => {
  it('grows by what it shrinks, and its walls go in by their measure then', async () => {
    const { before, after } = await onePrinted(partOf([plate(), hole('8.3')]), of({ shrinkage: 1.2 }))
    expect(after.volume / before.volume).toBeCloseTo(1 / 0.988 ** 3, 9)
    expect(after.size[2]! * 0.988).toBeCloseTo(6.4, 9)
    expect(after.low).toBeCloseTo(before.low * (1 / 0.988), 9)
    const both = await onePrinted(partOf([plate()]), all(0.04, { shrinkage: 1.2 }))
    expect(both.after.size[0]).toBeCloseTo(42.7 / 0.988 - 0.08, 9)
  })
  it('is narrower in its first layer, outside and in its bores, and nowhere else', async () => {
    const own = of({ flare: 0.17 })
    const { before, after, stayed } = await onePrinted(partOf([plate(), hole('8.3')]), own)
    const ring = 2 * (42.7 + 31.3) * 0.17 - 4 * 0.17 ** 2 + Math.PI * (4.32 ** 2 - 4.15 ** 2)
    expect(before.volume - after.volume).toBeCloseTo(ring * 0.24, 1)
    expect(after.size).toEqual(before.size.map((x) => expect.closeTo(x, 9)))
    expect(stayed).toEqual([])
    await printed(partOf([plate()]), own, ([piece]) => {
      const at = (z: number) => kernel.scope((scope) => scope.slice(piece!.made, z).area)
      expect(at(0.1)).toBeCloseTo((42.7 - 0.34) * (31.3 - 0.34), 3)
      expect(at(0.239)).toBeCloseTo((42.7 - 0.34) * (31.3 - 0.34), 3)
      expect(at(0.241)).toBeCloseTo(42.7 * 31.3, 3)
    })
    const lifted = await onePrinted(partOf([{ ...plate(), place: { ...plate().place, lift: '3.1' } }]), own)
    expect(lifted.after.volume).toBeCloseTo(lifted.before.volume, 9)
  })
  it('keeps its first layer where less than a line would be left of it', async () => {
    const thin = step(
      't',
      'plate',
      { width: '0.7', depth: '15.3', height: '6.4' },
      { place: { across: centred('21.5') } },
    )
    const { stayed } = await onePrinted(partOf([plate(), thin]), of({ flare: 0.17 }))
    expect(stayed).toEqual([])
    const apart = { ...thin, place: { ...thin.place, across: centred('25') } }
    const kept = await onePrinted(partOf([plate(), apart]), of({ flare: 0.17 }))
    expect(kept.stayed).toEqual([expect.objectContaining({ why: 'foot', area: expect.closeTo(0.7 * 15.3, 2) })])
  })
})
