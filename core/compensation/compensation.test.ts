import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Solid } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { type Compensation, compensated, compensates, compensationFor, compensationText } from './index.ts'

const kernel = await testKernel()

const of = (change: Partial<Compensation>): Compensation => ({
  ...{ holes: 0, outsides: 0, shrinkage: 0, printer: 'Tern 220', material: 'PLA' },
  ...change,
})

/** What a part's first piece is after it, beside what it is. */
async function printed(part: Parameters<typeof built>[1], change: Partial<Compensation>, fineness = 0.01) {
  const { pieces } = await built(kernel, part, fineness)
  const solid = pieces[0]!.solid!
  return kernel.scope((scope) => {
    const { solid: made, short } = compensated(scope, solid, of(change))
    return { before: told(solid), after: told(made), short }
  })
}
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

describe('compensation', () => {
  it('takes what a printer and a material do from their records', () => {
    const { printer, material } = partOf([plate()])
    expect(compensationFor({ printer, material })).toEqual(
      of({ holes: 0.08, outsides: 0.02, shrinkage: 0.4, material: 'PETG' }),
    )
    expect(compensates(of({}))).toBe(false)
    for (const name of ['holes', 'outsides', 'shrinkage']) expect(compensates(of({ [name]: -0.1 }))).toBe(true)
  })
  it.each([
    [{ holes: 0.08, outsides: 0.02 }, 'holes 0.08 mm larger and outsides 0.02 mm smaller per side'],
    [{ holes: -0.05, shrinkage: 0.3 }, 'holes 0.05 mm smaller per side, all of it 0.301 % larger'],
    [{ outsides: -0.1 }, 'outsides 0.1 mm larger per side'],
    [{ shrinkage: 1.2 }, 'all of it 1.215 % larger'],
    [{}, ''],
  ])('is told in words: %o', (change, text) => {
    expect(compensationText(of(change), 'mm')).toBe(text)
  })
  it('makes outsides smaller and holes larger by so much per side, and leaves heights alone', async () => {
    const { after } = await printed(partOf([plate(), hole('8.3')]), { holes: 0.083, outsides: 0.021 })
    expect(after.size[0]).toBeCloseTo(42.7 - 0.042, 9)
    expect(after.size[1]).toBeCloseTo(31.3 - 0.042, 9)
    expect(after.size[2]).toBeCloseTo(6.4, 9)
    expect(after.figures).toMatchObject({ closed: true, oriented: true, solids: 1 })
    const alone = await printed(partOf([plate()]), { outsides: 0.021 })
    const bored = (alone.after.volume - after.volume) / 6.4
    const flats = await printed(partOf([plate(), hole('8.3')]), {})
    const before = (42.7 * 31.3 * 6.4 - flats.before.volume) / 6.4
    // The same polygon, its flats farther out by so much.
    expect(Math.sqrt(bored / before)).toBeCloseTo((4.15 + 0.083) / 4.15, 4)
  })
  it('moves a corner by the mean of both where a wall of a hole goes on as an outside in one plane', async () => {
    /** Beside the point where both meet, towards the front left or the back right. */
    const at = (side: 1 | -1) => ({
      across: { from: 'centre' as const, to: 'centre' as const, by: `${3.1 + (side * 10.3) / 2}` },
      along: { from: 'centre' as const, to: 'centre' as const, by: `${2.3 + (side * 9.7) / 2}` },
    })
    const small = { width: '10.3', depth: '9.7', height: '5.1' }
    const part = partOf([
      plate(),
      step('b', 'plate', small, { place: { ...onFace('p', 'top'), ...at(-1) } }),
      step('c', 'plate', { ...small, height: '6.4' }, { operation: 'cut', place: { ...plate().place, ...at(1) } }),
    ])
    const { pieces } = await built(kernel, part, 0.01)
    const corners = kernel.scope((scope) => [
      ...compensated(scope, pieces[0]!.solid!, of({ holes: 0.11, outsides: 0.03 })).solid.corners(),
    ])
    const found = corners.filter((_, i) => i % 3 === 0).map((x, i) => [x, corners[3 * i + 1]!, corners[3 * i + 2]!])
    const near = found.filter(([x, y, z]) => Math.hypot(x! - 3.1, y! - 2.3, z! - 6.4) < 1)
    expect(near).toHaveLength(1)
    for (const [k, should] of [3.1 - 0.07, 2.3 - 0.07, 6.4].entries()) expect(near[0]![k]).toBeCloseTo(should, 9)
  })
  it('grows all of it by what it shrinks', async () => {
    const { before, after } = await printed(partOf([plate(), hole('8.3')]), { shrinkage: 1.2 })
    expect(after.volume / before.volume).toBeCloseTo(1 / 0.988 ** 3, 9)
    expect(after.size[2]! * 0.988).toBeCloseTo(6.4, 9)
    expect(after.low).toBeCloseTo(before.low * (1 / 0.988), 9)
  })
  it('is the same wherever it stands and however it is turned', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: 10, max: 140 }),
        async (turn, by, tenths) => {
          const offset = { from: 'centre', to: 'centre', by: `${by / 10}` } as const
          const base = plate({ corner: '3.7' })
          const placed = {
            ...base,
            place: { ...base.place, turn: `${turn / 10}`, across: offset, along: { ...offset, by: '11.7' } },
          }
          const outsides = tenths / 1000
          const { before, after } = await printed(partOf([placed, hole('9.1')]), { holes: 0.15, outsides })
          const straight = await printed(partOf([base, hole('9.1')]), { holes: 0.15, outsides })
          expect(after.figures).toMatchObject({ closed: true, solids: 1 })
          expect(after.volume / straight.after.volume).toBeCloseTo(1, 5)
          expect(after.volume).toBeLessThan(before.volume)
        },
      ),
      { numRuns: runs(12) },
    )
  })
  it('takes a boss in a hole for an outside, and a pocket for a hole', async () => {
    const boss = step('b', 'bar', { diameter: '5.1', height: '9.3' })
    const part = partOf([plate(), hole('15.3'), boss])
    const { before, after } = await printed(part, { holes: 0.1, outsides: 0 })
    const lone = await printed(partOf([plate(), hole('15.3')]), { holes: 0.1, outsides: 0 })
    expect(before.volume - after.volume).toBeCloseTo(lone.before.volume - lone.after.volume, 6)
    const size = { width: '17.3', depth: '6.1', height: '2.3' }
    const pocket = step('k', 'plate', size, { operation: 'cut', place: onFace('p', 'top') })
    const pocketed = await printed(partOf([plate(), pocket]), { holes: 0.1, outsides: 0.03 })
    const [x, y] = [42.7 - 0.06, 31.3 - 0.06]
    expect(pocketed.after.volume).toBeCloseTo(x * y * 6.4 - (17.3 + 0.2) * (6.1 + 0.2) * 2.3, 5)
  })
  it('moves leaning walls sideways, so that each layer is as much smaller', async () => {
    const wedge = step('w', 'pyramid', { sides: '4', diameter: '40', height: '20', top: '12.7' })
    const { before, after } = await printed(partOf([wedge]), { outsides: 0.1 })
    expect(after.figures).toMatchObject({ closed: true, solids: 1 })
    expect(before.size[0]! - after.size[0]!).toBeGreaterThan(0.19)
    expect(after.size[2]).toBeCloseTo(before.size[2]!, 6)
  })
  it('moves by less where there is no room for it, and tells by how much', async () => {
    const part = partOf([plate({ width: '0.3' })])
    const { after, short } = await printed(part, { outsides: 0.2 })
    expect(after.figures).toMatchObject({ closed: true, solids: 1 })
    expect(short).toBeGreaterThan(0.09)
    expect(after.size[0]).toBeGreaterThan(0.05)
    const roomy = await printed(partOf([plate()]), { outsides: 0.2 })
    expect(roomy.short).toBe(0)
  })
})
