import { expect, it } from 'vitest'
import { builtTwice, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { boughtCsv, formats, handOff } from './index.ts'

const kernel = await testKernel()

it('a receipt has what to buy, and where the print pauses; half as large, it pauses half as high', async () => {
  const part = partOf([
    step('a', 'plate', { width: '50', depth: '40', height: '12.7' }),
    step('m', 'magnet-pocket', { item: 'usual-magnet 6 × 2', sunk: '2.3', open: 'closed' }, {
      place: onFace('a', 'top'),
      repeats: [{ kind: 'row', fields: { direction: 'across', count: '2', spacing: '11.3' } }],
    } as never),
  ])
  const twice = await builtTwice(kernel, part)
  const receiptAt = (factor: number) =>
    handOff(twice.fine, formats[0], { twice, fineness: 0.02, size: { by: 'factor', factor } }).receipt
  const whole = receiptAt(1)
  const magnets = { count: 2, name: '6 × 2 disc magnet' }
  expect(whole.hardware).toEqual([{ ...magnets, standard: 'usual size', length: undefined }])
  const { firstLayer, layerHeight } = twice.fine.resolved.printer
  // The first layer whose middle is above the roof closes the pocket.
  const closing = (roof: number) => {
    const below = Math.floor((roof - firstLayer) / layerHeight + 0.5)
    return { layer: below + 2, height: expect.closeTo(firstLayer + below * layerHeight, 9) }
  }
  expect(whole.pauses).toEqual([{ ...magnets, piece: expect.any(String), ...closing(10.4) }])
  expect(receiptAt(0.5).pauses).toEqual([{ ...magnets, piece: expect.any(String), ...closing(5.2) }])
})

it('what to buy is told as RFC 4180 has it, whatever things are called', () => {
  const lines = [{ count: 3, name: '1/4" bolt, "long"', standard: 'usual size', length: 12.7 }]
  expect(boughtCsv(lines)).toBe('Count,Name,Standard,Length in mm\r\n3,"1/4"" bolt, ""long""",usual size,12.7\r\n')
})
