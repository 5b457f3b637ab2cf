import { describe, expect, it } from 'vitest'
import { norm, subtract, type Vec3 } from '../place/index.ts'
import { arcBetween } from './body.ts'

describe('the round between two points', () => {
  const [centre, a, b]: readonly Vec3[] = [
    [1.3, -2, 0.5],
    [1.3 + 4.1, -2, 0.5],
    [1.3, -2 + 4.1, 0.5],
  ]
  it('lies on their circle, and ends at both', () => {
    const points = arcBetween(centre!, a!, b!, 7)
    expect(points).toHaveLength(8)
    expect([points[0], points[7]]).toEqual([a, b])
    for (const p of points) expect(norm(subtract(p, centre!))).toBeCloseTo(4.1, 9)
  })
  it('has no points but its ends where one of both is its centre', () => {
    for (const [from, to] of [
      [centre!, b!],
      [a!, centre!],
    ] as const)
      expect(arcBetween(centre!, from, to, 4)).toEqual([from, from, from, from, to])
  })
})
