import { describe, expect, it } from 'vitest'
import { add, dot, norm, scaled, unit, type Vec3 } from '../place/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { sampled } from '../testing/sample.ts'
import { type Going, leastWay } from './leastWay.ts'

const fits = (planes: readonly Going[], way: Vec3, slack = 1e-6) =>
  planes.every(({ normal, by, exactly }) => {
    const off = dot(normal, way) - by
    return exactly ? Math.abs(off) < slack : by < 0 ? off < slack : off > -slack
  })

describe('the shortest way on which a corner takes its planes along', () => {
  it('is where three planes of a block meet', () => {
    const planes = [1.3, 2.1, 0.7].map((by, k) => ({
      normal: [0, 1, 2].map((i) => (i === k ? 1 : 0)) as unknown as Vec3,
      ...{ by, exactly: true },
    }))
    expect(leastWay(planes)!.map((x, k) => x - planes[k]!.by)).toEqual([0, 0, 0])
  })
  it('takes a flat just so far where a round runs into it, and the round at least as far', () => {
    const lean = (2 * Math.PI * 7.5) / 360
    const flat: Going = { normal: [0, 0, 1], by: 1.6, exactly: true }
    const first: Going = { normal: [Math.sin(lean), 0, Math.cos(lean)], by: 1.6, exactly: false }
    const way = leastWay([flat, first])!
    expect(way[2]).toBeCloseTo(1.6, 9)
    expect(way[0]).toBeCloseTo(1.6 * Math.tan(lean / 2), 9)
  })
  it('is none where flats go apart', () => {
    const up: Going = { normal: [0, 0, 1], by: 1, exactly: true }
    expect(leastWay([up, { ...up, normal: [0, 0, -1] }])).toBeUndefined()
    expect(leastWay([up, { ...up, by: 2 }])).toBeUndefined()
  })
  it.each(sampled(200))('fits all of them, and none that is shorter does: %d', (seed) => {
    const random = randomFrom(seed)
    const some = (): Vec3 => [random() - 0.5, random() - 0.5, random() - 0.2]
    const planes = Array.from(
      { length: 1 + Math.floor(6 * random()) },
      (_, i): Going => ({
        normal: unit(add(some(), [0, 0, 0.6])),
        by: 0.3 + 2 * random(),
        exactly: i < 2 && random() < 0.3,
      }),
    )
    const way = leastWay(planes)
    if (!way) {
      expect(planes.some(({ exactly }) => exactly)).toBe(true)
      return
    }
    expect(fits(planes, way)).toBe(true)
    for (let i = 0; i < 300; i++) {
      const other = add(way, scaled(some(), 0.5 * random()))
      if (norm(other) < norm(way) - 1e-6) expect(fits(planes, other, 1e-9)).toBe(false)
    }
  })
})
