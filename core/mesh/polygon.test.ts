import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cross, norm, pointOut, subtract, turnedAbout, type Vec3 } from '../place/index.ts'
import { real, runs } from '../testing/sample.ts'
import { polygonTriangles } from './polygon.ts'

type Flat = readonly [number, number]

/** Twice the area that its corners enclose, counter-clockwise. */
const doubled = (ring: readonly Flat[]) =>
  ring.reduce((sum, [x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length]!
    return sum + x * v - u * y
  }, 0)

/** Corners about a middle, each at its own distance: concave as a rule; some straight sides have corners half way along. */
const concave = fc
  .array(fc.record({ far: real(3.1, 37.3), halved: fc.boolean() }), { minLength: 4, maxLength: 40 })
  .map((spokes) => {
    const ring = spokes.map(({ far }, i): Flat => {
      const turn = (2 * Math.PI * i) / spokes.length
      return [far * Math.cos(turn), far * Math.sin(turn)]
    })
    return ring.flatMap(([x, y], i): readonly Flat[] => {
      const [u, v] = ring[(i + 1) % ring.length]!
      return spokes[i]!.halved
        ? [
            [x, y],
            [(x + u) / 2, (y + v) / 2],
          ]
        : [[x, y]]
    })
  })

/** The plane that it lies in: off the origin, turned about any axis. */
const plane = fc
  .record({
    axis: fc.tuple(real(-1, 1), real(-1, 1), real(0.1, 1)),
    turn: real(0, 360),
    at: real(-85.1, 85.1),
  })
  .map(({ axis, turn, at }) => turnedAbout([at, at / 3, -at], axis.map((x) => x / norm(axis)) as unknown as Vec3, turn))

const inSpace = (ring: readonly Flat[], frame: ReturnType<typeof turnedAbout>) =>
  ring.map(([x, y]) => pointOut(frame, [x, y, 1 / 3]))

function inThrees(found: readonly number[]): readonly (readonly [number, number, number])[] {
  return Array.from({ length: found.length / 3 }, (_, t) => [found[3 * t]!, found[3 * t + 1]!, found[3 * t + 2]!])
}

describe('triangles of a polygon', () => {
  it('fill it, run as it does, and keep all its sides, concave or not, wherever it lies', () => {
    fc.assert(
      fc.property(concave, plane, fc.boolean(), (ring, frame, mirrored) => {
        const flat = mirrored ? ring.toReversed() : ring
        const corners = inSpace(flat, frame)
        const found = inThrees(polygonTriangles(corners)!)
        const normals = found.map(([a, b, c]) =>
          cross(subtract(corners[b]!, corners[a]!), subtract(corners[c]!, corners[a]!)),
        )
        const area = normals.reduce((sum, normal) => sum + norm(normal), 0)
        expect(area / Math.abs(doubled(flat))).toBeCloseTo(1, 9)
        // All look the same way: their sum is as large as the sum of their sizes.
        const together = [0, 1, 2].map((k) => normals.reduce((sum, normal) => sum + normal[k]!, 0))
        expect(Math.hypot(...together) / area).toBeCloseTo(1, 9)
        const way = cross(frame.u, frame.v).map((x) => x * (mirrored ? -1 : 1))
        expect(together.reduce((sum, x, k) => sum + x * way[k]!, 0)).toBeGreaterThan(0)
        const sides = found.flatMap(([a, b, c]) => [`${a} ${b}`, `${b} ${c}`, `${c} ${a}`])
        const open = sides.filter((side) => !sides.includes(side.split(' ').toReversed().join(' ')))
        expect(open.toSorted()).toEqual(flat.map((_, i) => `${i} ${(i + 1) % flat.length}`).toSorted())
      }),
      { numRuns: runs(400) },
    )
  })
  it('leave a hole that is reached by a cut', () => {
    fc.assert(
      fc.property(plane, real(0.31, 0.93), (frame, share) => {
        const outer: readonly Flat[] = [
          [0, 0],
          [15.3, 0],
          [15.3, 8.5],
          [0, 8.5],
        ]
        const middle: Flat = [7.65, 4.25]
        const hole = outer.map(
          ([x, y]): Flat => [middle[0] + share * (x - middle[0]), middle[1] + share * (y - middle[1])],
        )
        const [start, ...others] = hole.toReversed() as [Flat, ...Flat[]]
        const [first, ...rest] = outer as readonly [Flat, ...Flat[]]
        // To the hole from the last corner, round it clockwise, and back.
        const ring = [first, ...rest, start, ...others, start, outer.at(-1)!]
        const found = inThrees(polygonTriangles(inSpace(ring, frame))!)
        const area = found.reduce((sum, [a, b, c]) => sum + doubled([ring[a]!, ring[b]!, ring[c]!]), 0)
        expect(area / 2).toBeCloseTo(15.3 * 8.5 * (1 - share * share), 6)
        for (const triangle of found) expect(doubled(triangle.map((i) => ring[i]!))).toBeGreaterThan(0)
      }),
      { numRuns: runs(60) },
    )
  })
  it('of corners in any order are not told, or have the area that these enclose', () => {
    // On a grid, so that corners meet, sides cross, run over each other and pass through corners.
    const spot = fc.integer({ min: 0, max: 4 }).map((i) => i * 15.3 - 37.3)
    let told = 0
    fc.assert(
      fc.property(fc.array(fc.tuple(spot, spot), { minLength: 3, maxLength: 12 }), plane, (ring, frame) => {
        const found = polygonTriangles(inSpace(ring, frame))
        if (!found) return
        told++
        const areas = inThrees(found).map((triangle) => doubled(triangle.map((i) => ring[i]!)))
        const whole = doubled(ring)
        expect(areas.reduce((sum, own) => sum + own, 0)).toBeCloseTo(whole, 6)
        // Corners half way along a side lie beside it by rounding.
        for (const own of areas) expect(own * Math.sign(whole)).toBeGreaterThan(-1e-9)
      }),
      { numRuns: runs(300) },
    )
    expect(told).toBeGreaterThan(0)
  })
  it('are none where it has no area, and are not told where its sides cross', () => {
    const flat = (...ring: readonly Flat[]) => polygonTriangles(inSpace(ring, turnedAbout([3, 1, 2], [0, 0, 1], 37.3)))
    expect(flat([0, 0], [0, 0], [15.3, 2])).toEqual([])
    expect(flat([0, 0], [15.3, 0], [7, 0], [3, 0])).toEqual([])
    expect(flat([0, 0], [15.3, 0], [15.3, 0], [0, 8.5])).toEqual([0, 2, 3])
    // A bow, whose halves differ; and a star drawn in one line.
    expect(flat([0, 0], [15.3, 8.5], [15.3, 0], [0, 6.1])).toBeUndefined()
    const star = [0, 2, 4, 1, 3].map(
      (i): Flat => [9.1 * Math.cos((2 * Math.PI * i) / 5), 9.1 * Math.sin((2 * Math.PI * i) / 5)],
    )
    expect(flat(...star)).toBeUndefined()
  })
})
