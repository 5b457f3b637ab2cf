import type { Point } from '../core/testing/reader.ts'

export * from '../core/testing/reader.ts'

/** A block as binary STL, its lowest corner at the origin. */
export function boxStl([w, d, h]: readonly [number, number, number]): Buffer {
  const corner = (i: number): Point => [i & 1 ? w : 0, i & 2 ? d : 0, i & 4 ? h : 0]
  const sides = ['0231', '4576', '0154', '2673', '0462', '1375'].map((side) => [...side].map(Number))
  const facets = sides.flatMap(([a, b, c, e]) => [
    [a!, b!, c!],
    [a!, c!, e!],
  ])
  const bytes = Buffer.alloc(84 + 50 * facets.length)
  bytes.writeUInt32LE(facets.length, 80)
  for (const [t, facet] of facets.entries())
    for (const [c, at] of facet.entries())
      for (const [i, value] of corner(at).entries()) bytes.writeFloatLE(value, 84 + 50 * t + 12 + 12 * c + 4 * i)
  return bytes
}
