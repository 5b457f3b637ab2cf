import { expect, it } from 'vitest'
import { apart } from './copyPlaces.ts'

it('marks never lie on one another', () => {
  const crowd = Array.from({ length: 60 }, (_, i): readonly [number, number] => [
    100 + (i % 7) * 3.3,
    100 + (i % 5) * 4.1,
  ])
  const places = apart([...crowd, undefined]).filter((place) => place !== undefined)
  expect(places).toHaveLength(60)
  for (const [i, a] of places.entries())
    for (const b of places.slice(0, i))
      expect(Math.max(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1]))).toBeGreaterThanOrEqual(20 - 1e-9)
  // What is free stays where it is.
  expect(
    apart([
      [0, 0],
      [50, 0],
    ]),
  ).toEqual([
    [0, 0],
    [50, 0],
  ])
})
