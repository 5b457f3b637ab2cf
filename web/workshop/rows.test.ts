import { fitNames, fitPairs, shippedMaterials, shippedPrinters } from '@makrel/core/fits'
import { expect, it } from 'vitest'
import { groupsOf, valueAt, withValue } from './rows.ts'

const placesIn = (thing: object): string[] =>
  Object.entries(thing).flatMap(([name, value]) => {
    if (typeof value === 'number') return [name]
    return typeof value === 'object' && value !== null ? placesIn(value).map((place) => `${name}.${place}`) : []
  })

it.each([
  ['printers', shippedPrinters],
  ['materials', shippedMaterials],
] as const)('%s are asked for all their numbers, each once', (kind, things) => {
  const rows = groupsOf[kind].flatMap((group) => group.rows.map(({ place }) => place))
  const gaps = fitNames.flatMap((fit) => fitPairs.map((pair) => `fits.${fit}.${pair}.gap`))
  for (const thing of things)
    expect([...rows, ...(kind === 'printers' ? gaps : [])].toSorted()).toEqual(placesIn(thing).toSorted())
})

it('a value is put in its place, and nothing else is changed', () => {
  const [tern] = shippedPrinters
  const changed = withValue(withValue(tern!, 'bed.1', 215.3), 'fits.slide.flat.gap', 0.17)
  expect(valueAt(changed, 'bed.1')).toBe(215.3)
  expect(changed.bed).toEqual([220, 215.3, 240])
  expect(valueAt(changed, 'fits.slide.flat.gap')).toBe(0.17)
  expect(withValue(withValue(changed, 'bed.1', 220), 'fits.slide.flat.gap', 0.15)).toEqual(tern)
  expect(valueAt(tern!, 'fits.none.round')).toBeUndefined()
})
