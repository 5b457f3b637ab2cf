import { expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import { shippedPrinters } from '../fits/index.ts'
import { partOf, repeat, step } from '../testing/index.ts'
import { valuesChanged, workOut } from './index.ts'

const [tern, dunlin] = shippedPrinters
const part: Part = {
  ...partOf([
    step('a', 'plate', { width: 'rod + 2 * slide', depth: '30' }),
    step(
      'b',
      'hole',
      { diameter: '8.4' },
      { place: { lift: 'free_flat' }, repeats: [repeat('row', { spacing: 'wide' })] },
    ),
  ]),
  measures: [
    { id: 'm1', name: 'rod', kind: 'length', expression: '22.03', note: '' },
    { id: 'm2', name: 'wide', kind: 'length', expression: 'rod + captive', note: '' },
  ],
}
const changed = (one: Part, other: Part) => valuesChanged(workOut(one).resolved, workOut(other).resolved)

it('counts measures, fields, places and repeats that another printer changes, and nothing else', () => {
  // wide, the width of a, the lift of b, the spacing of its row.
  expect(changed({ ...part, printer: tern! }, { ...part, printer: dunlin! })).toBe(4)
  expect(changed(part, { ...part, printer: { ...tern!, bridge: 3, name: 'Other' } })).toBe(0)
  const { slide } = tern!.fits
  const fits = { ...tern!.fits, slide: { ...slide, round: { ...slide.round, gap: 0.23 } } }
  expect(changed(part, { ...part, printer: { ...tern!, fits } })).toBe(1)
})

it('counts what is there in one of them alone', () => {
  const without = { ...part, measures: part.measures.slice(0, 1) }
  const other = { ...part, pieces: [{ ...part.pieces[0]!, steps: part.pieces[0]!.steps.slice(0, 1) }] }
  expect(changed(part, without)).toBeGreaterThan(0)
  expect(changed(part, other)).toBe(changed(other, part))
  expect(changed(part, other)).toBeGreaterThan(5)
})
