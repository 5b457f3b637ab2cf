import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Ring, ringArea } from '../plane/index.ts'
import { runs, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { itInTurn } from '../testing/turns.ts'

const kernel = await testKernel()
const areaOf = (rings: readonly Ring[]) => rings.reduce((sum, ring) => sum + ringArea(ring), 0)

function round(radius: number, count: number, [x, y]: readonly [number, number] = [0, 0]): Ring {
  return Array.from({ length: count }, (_, i) => {
    const turn = (2 * Math.PI * i) / count
    return [x + radius * Math.cos(turn), y + radius * Math.sin(turn)]
  })
}

describe('rings', () => {
  it('come out of the library as they went in, holes as well', async () => {
    await fc.assert(
      fc.property(
        real(2, 30),
        real(0.1, 0.9),
        fc.integer({ min: 3, max: 400 }),
        fc.tuple(real(-90, 90), real(-90, 90)),
        (radius, share, count, at) => {
          const rings = [
            round(radius, count, at),
            round(share * radius * Math.cos(Math.PI / count), count, at).toReversed(),
          ]
          const out = kernel.scope((scope) => scope.filled(rings))
          expect(out.map(({ length }) => length)).toEqual([count, count])
          expect(areaOf(out) / areaOf(rings)).toBeCloseTo(1, 7)
          for (const [x, y] of out.flat())
            expect(Math.min(...rings.flat().map(([u, v]) => Math.hypot(x - u, y - v)))).toBeLessThan(1e-6)
          // And triangles of them cover them, each corner a point of the list.
          const points = rings.flat()
          const triangles = kernel.scope((scope) => scope.triangulated(rings))
          expect(areaOf(triangles.map((triangle) => triangle.map((i) => points[i]!))) / areaOf(rings)).toBeCloseTo(1, 7)
        },
      ),
      { numRuns: runs(100) },
    )
  })
  itInTurn(2, 'leave nothing behind in its memory, however often they go in and out', () => {
    const [one, other] = [round(9, 500), round(9, 500, [3, 1])]
    const solid = kernel.scope((scope) => scope.handOver(scope.extrude([one], 4.1)))
    const work = () =>
      kernel.scope((scope) => {
        scope.commonRegions([one], [other])
        scope.inset([one], 1)
        scope.triangulated([one])
        scope.slice(solid, 2.2)
        scope.twisted([other], 3, 2, () => 0)
      })
    for (let i = 0; i < 20; i++) work()
    const before = kernel.library.heapBytes()
    // Their points alone are 40 kB each time.
    for (let i = 0; i < 400; i++) work()
    expect(kernel.library.heapBytes() - before).toBeLessThan(4e6)
    solid.release()
  })
})

describe('regions whose sides are moved', () => {
  it('go the same way when a ring of no area lies beside them', () => {
    const ring: Ring = [
      [-50.87, -40.0042],
      [-50.934, -40.0043],
      [-50.932, -45.0043],
      [-50.898, -45.0043],
    ]
    const none: Ring = [
      [-50.86426954716444, -40.004259660840034],
      [-50.86242602020502, -40.00425893813372],
      [-50.87117060273886, -40.00426236540079],
    ]
    for (const by of [0.002, -0.002])
      for (const sharp of [true, false]) {
        const [alone, beside] = [[ring], [ring, none]].map((rings) =>
          areaOf(kernel.scope((scope) => scope.inset(rings, by, { sharp }))),
        )
        expect(beside).toBeCloseTo(alone!, 9)
      }
    expect(kernel.scope((scope) => areaOf(scope.beyond([ring], [none], 0.01)))).toBeCloseTo(ringArea(ring), 6)
  })
  it('leave of another region what lies farther from them, to their sides where they go on', async () => {
    const box = (w: number, d: number): Ring => [
      [-w / 2, -d / 2],
      [w / 2, -d / 2],
      [w / 2, d / 2],
      [-w / 2, d / 2],
    ]
    await fc.assert(
      fc.property(real(1, 9), real(1, 9), real(0.1, 3), real(0.01, 4), (w, d, by, more) => {
        const beyond = (rings: readonly Ring[], base: readonly Ring[]) =>
          kernel.scope((scope) => areaOf(scope.beyond(rings, base, by)))
        const wide = box(w + 2 * (by + more), d + 2 * (by + more))
        expect(beyond([wide], [box(w, d)])).toBeCloseTo(ringArea(wide) - (w + 2 * by) * (d + 2 * by), 5)
        expect(beyond([box(w + 1.99 * by, d)], [box(w, d)])).toBe(0)
        expect(beyond([box(w, d)], [])).toBeCloseTo(w * d, 5)
        expect(beyond([], [box(w, d)])).toBe(0)
      }),
      { numRuns: runs(60) },
    )
  })
})
