import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { scaled, unit, type Vec3 } from '../place/index.ts'
import { testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { commonOf, deepest, type HalfSpace } from './halfSpaces.ts'

const kernel = await testKernel()

const number = (low: number, high: number) =>
  fc.integer({ min: 0, max: 10_000 }).map((k) => low + ((high - low) * k) / 10_000)
const way = fc
  .tuple(number(-1, 1), number(-1, 1), number(-1, 1))
  .filter((d) => Math.hypot(...d) > 0.1)
  .map((d): Vec3 => unit(d))
const spaces = fc.array(
  fc.tuple(way, number(2, 20)).map(([normal, offset]): HalfSpace => ({ normal, offset })),
  { minLength: 1, maxLength: 25 },
)
const axes: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]
/** A block round the origin, all its sides as half-spaces. */
const block = (x: number, y: number, z: number): HalfSpace[] =>
  axes.flatMap((axis, i) => [1, -1].map((sign) => ({ normal: scaled(axis, sign), offset: [x, y, z][i]! })))
const inwards = (all: readonly HalfSpace[], by: number) =>
  all.map(({ normal, offset }) => ({ normal, offset: offset - by }))

describe('half-spaces', () => {
  it('have in common what is left of a block that is cut by one after the other', () => {
    fc.assert(
      fc.property(spaces, number(5, 30), number(5, 30), number(5, 30), (all, x, y, z) => {
        kernel.scope((scope) => {
          const known = [...block(x, y, z), ...all]
          const made = commonOf(scope, known)
          let cut = scope.extrude(
            [
              [
                [-x, -y],
                [x, -y],
                [x, y],
                [-x, y],
              ],
            ],
            2 * z,
          )
          cut = scope.placed(cut, { origin: [0, 0, -z], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })
          for (const { normal, offset } of all) cut = scope.trimmed(cut, scaled(normal, -1), -offset)
          expect(made!.volume() / cut.volume()).toBeCloseTo(1, 6)
        })
      }),
      { numRuns: runs(200) },
    )
  })
  it('are deepest where they can go in by just so much until nothing is left', () => {
    fc.assert(
      fc.property(spaces, number(5, 30), number(5, 30), number(5, 30), (all, x, y, z) => {
        const known = [...block(x, y, z), ...all]
        const { point, depth } = deepest(known)!
        for (const { normal, offset } of known)
          expect(offset - normal.reduce((sum, n, i) => sum + n * point[i]!, 0)).toBeGreaterThan(depth - 1e-6)
        kernel.scope((scope) => {
          expect(commonOf(scope, inwards(known, depth - 0.01))).toBeDefined()
          expect(commonOf(scope, inwards(known, depth + 1e-6))).toBeUndefined()
        })
      }),
      { numRuns: runs(200) },
    )
  })
  it('without a bound have no deepest place, and nothing in common where they pass each other', () => {
    expect(deepest([{ normal: [0, 0, 1], offset: 3 }])).toBeUndefined()
    const passing = [...block(5, 6, 7), { normal: [1, 0, 0] as Vec3, offset: -6 }]
    kernel.scope((scope) => expect(commonOf(scope, passing)).toBeUndefined())
  })
})
