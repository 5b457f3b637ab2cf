import { describe, expect, it } from 'vitest'
import type { Ring } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { areaUnder, ringArea } from '../plane/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { type FontName, fonts, letterCurves, lettering } from './index.ts'

const kernel = await testKernel()

const options = { capHeight: 10, spacing: 0, align: 'left', fineness: 0.01 } as const
const laid = (text: string, font: FontName = 'sans', more: Partial<Parameters<typeof lettering>[2]> = {}) =>
  lettering(text, fonts[font].data, { ...options, ...more })
const extent = (rings: readonly Ring[]) => {
  const [xs, ys] = [rings.flat().map(([x]) => x), rings.flat().map(([, y]) => y)]
  return { x: [Math.min(...xs), Math.max(...xs)], y: [Math.min(...ys), Math.max(...ys)] } as const
}
const area = (rings: readonly Ring[]) => kernel.scope((scope) => scope.extrude(scope.filled(rings), 1).volume())

describe('lettering', () => {
  it.each(['sans', 'slab', 'stencil'] as const)('%s: capitals are as tall as they say, about the middle', (font) => {
    const { y } = extent(laid('H', font).rings)
    expect(y[0]).toBeCloseTo(-5, 2)
    expect(y[1]).toBeCloseTo(5, 2)
  })
  it('scales with its cap height, and converges as fineness shrinks', () => {
    const one = area(laid('Og').rings)
    expect(area(laid('Og', 'sans', { capHeight: 20, fineness: 0.02 }).rings) / (4 * one)).toBeCloseTo(1, 2)
    const exact = area(laid('Og', 'sans', { fineness: 1e-5 }).rings)
    const coarse = Math.abs(area(laid('Og', 'sans', { fineness: 0.1 }).rings) - exact)
    const fine = Math.abs(area(laid('Og', 'sans', { fineness: 0.01 }).rings) - exact)
    expect(fine).toBeLessThan(coarse / 2)
  })
  it('as true curves has the area that its flats come to', () => {
    const bounded = letterCurves('Oag8', fonts.sans.data, options)
      .flat()
      .reduce((sum, s) => sum + areaUnder(s), 0)
    // The font's own sense is that of the flats' rings; contours that overlap count as often in both.
    const flats = laid('Oag8', 'sans', { fineness: 1e-5 }).rings.reduce((sum, ring) => sum + ringArea(ring), 0)
    expect(bounded / flats).toBeCloseTo(1, 5)
    expect(
      letterCurves('O', fonts.sans.data, options)
        .flat()
        .some(({ kind }) => kind === 'cubic'),
    ).toBe(true)
  })
  it('keeps the eyes of letters open', () => {
    const ring = area(laid('O').rings)
    const { x, y } = extent(laid('O').rings)
    // An O is far from filling its ellipse.
    expect(ring).toBeLessThan(0.75 * (Math.PI / 4) * (x[1] - x[0]) * (y[1] - y[0]))
  })
  it('stands at its beginning, middle or end, with spacing between letters only', () => {
    const { width } = laid('Oar')
    expect(laid('Oar', 'sans', { spacing: 2 }).width).toBeCloseTo(width + 4, 9)
    const left = extent(laid('Oar').rings).x[0]
    expect(extent(laid('Oar', 'sans', { align: 'centre' }).rings).x[0]).toBeCloseTo(left - width / 2, 9)
    expect(extent(laid('Oar', 'sans', { align: 'right' }).rings).x[0]).toBeCloseTo(left - width, 9)
  })
  it('draws pairs together that look apart', () =>
    expect(laid('AV').width).toBeLessThan(laid('A').width + laid('V').width))
  it('runs round a circle, over it and under it, without changing its letters', () => {
    const plain = area(laid('Oar').rings)
    for (const side of ['over', 'under'] as const) {
      const { rings } = laid('Oar', 'sans', { align: 'centre', spacing: 1, bend: { side, diameter: 60 } })
      expect(area(rings)).toBeCloseTo(plain, 6)
      const { y } = extent(rings)
      if (side === 'over') expect(y[1]).toBeGreaterThan(39)
      else expect(y[0]).toBeLessThan(-29.5)
    }
  })
  it('tells the characters that it has no letter for', () => {
    expect(laid('a漢b').missing).toEqual(['漢'])
    expect(laid('⌀5 ±0.1°').missing).toEqual([])
  })
})

describe('text as a step', () => {
  const base = step('base', 'plate', { width: '60', depth: '30', height: '4' })
  const label = (fields: Record<string, string>, operation: 'add' | 'cut' = 'add', on = onFace('base', 'top')) =>
    step('t', 'text', { text: 'Oar', size: '10', depth: '1', ...fields }, { operation, place: on })
  const volume = async (steps: ReturnType<typeof step>[]) => {
    const { pieces, problems } = await built(kernel, partOf(steps), 0.01)
    expect(problems).toEqual([])
    return pieces[0]!.solid!
  }
  it('is raised by its depth, or sunk', async () => {
    const letters = area(laid('Oar').rings)
    expect((await volume([base, label({})])).volume()).toBeCloseTo(7200 + letters, 3)
    expect((await volume([base, label({}, 'cut')])).volume()).toBeCloseTo(7200 - letters, 3)
  })
  it('is wrapped about a round: each letter stands on the wall and is as deep as it says', async () => {
    const bar = step('bar', 'bar', { diameter: '30', height: '20' })
    const place = { ...onFace('bar', 'side'), rest: 'on' as const }
    const plain = (await volume([bar])).volume()
    const raised = await volume([bar, label({ wrap: 'outside', round: '30' }, 'add', place)])
    const letters = area(laid('Oar').rings)
    // Letters on a wall of radius R widen outwards: area · depth · (1 + depth / 2R).
    expect(raised.volume() - plain).toBeGreaterThan(letters * (1 + 1 / 30) - 0.02)
    expect(raised.volume() - plain).toBeLessThan(letters * (1 + 1 / 30) + letters * 0.02)
    expect(meshFigures(raised.mesh())).toMatchObject({ oriented: true, solids: 1 })
    expect(raised.bounds()!.min[1]).toBeCloseTo(-16, 2)
    const sunk = await volume([bar, label({ wrap: 'outside', round: '30' }, 'cut', { ...place, rest: 'in' })])
    expect(plain - sunk.volume()).toBeGreaterThan(letters * (1 - 1 / 30) * 0.97)
    expect(plain - sunk.volume()).toBeLessThan(letters * (1 - 1 / 30) * 1.01)
  })
  it('is wrapped inside a bore', async () => {
    const tube = step('bar', 'bar', { diameter: '40', height: '20', core: 'tube', bore: '30' })
    const plain = (await volume([tube])).volume()
    const place = { ...onFace('bar', 'bore'), rest: 'on' as const }
    const raised = await volume([tube, label({ wrap: 'inside', round: '30' }, 'add', place)])
    const letters = area(laid('Oar').rings)
    expect(raised.volume() - plain).toBeGreaterThan(letters * (1 - 1 / 30) * 0.98)
    expect(raised.volume() - plain).toBeLessThan(letters * (1 - 1 / 30) * 1.03)
    expect(meshFigures(raised.mesh())).toMatchObject({ oriented: true, solids: 1 })
  })
  it.each<[string, Record<string, string>, string]>([
    ['no letter', { text: 'a漢' }, 'shape-impossible'],
    ['nothing to see', { text: '   ' }, 'shape-impossible'],
    ['too many words for the circle', { line: 'over', circle: '5' }, 'shape-impossible'],
    ['a broken expression in it', { text: '{5 +}' }, 'expression-syntax'],
    ['too long', { text: 'x'.repeat(201) }, 'text-too-long'],
  ])('with %s is told on its line, and the rest is built', async (_, fields, code) => {
    const result = await built(kernel, partOf([base, label(fields)]), 0.05)
    expect(result.problems.map((problem) => [problem.code, problem.path[1]])).toEqual([[code, 't']])
    expect(result.pieces[0]!.solid!.volume()).toBeCloseTo(7200, 6)
  })
  it('shows the values of measures and the number of the copy', async () => {
    const measures = [{ id: 'm', name: 'wall', kind: 'length', expression: '1/4 in', note: '' }] as const
    const part = partOf([base, label({ text: 'M{wall} {copy}' })], { measures })
    expect((await built(kernel, part, 0.05)).resolved.steps.get('t')!.values!.text).toBe('M6.35 1')
  })
})
