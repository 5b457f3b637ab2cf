import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { Scope, Solid } from '../kernel/index.ts'
import { type Frame, inverse, turnedAbout, type Vec3, world } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { runs, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { gapBetween } from './gap.ts'
import { isIn } from './inside.ts'

const kernel = await testKernel()

const side = real(0.8, 9)
const place = (far: number) => fc.tuple(real(-far, far), real(-far, far), real(-far, far))
const block = fc.record({ size: fc.tuple(side, side, side), at: place(14) })
/** What others may well lie in. */
const large = fc.record({
  size: fc.tuple(real(12, 18), real(12, 18), real(12, 18)),
  at: fc.constant<[number, number, number]>([-9, -9, -9]),
})
type Block = typeof block extends fc.Arbitrary<infer B> ? B : never
const made = (scope: Scope, { size: [x, y, z], at }: Block): Solid =>
  scope.placed(scope.extrude([rectangle(x, y)], z), { ...world, origin: at })
const rectangle = (x: number, y: number): Vec2[] => [
  [0, 0],
  [x, 0],
  [x, y],
  [0, y],
]
const turn = fc
  .tuple(real(-180, 180), real(-3, 3))
  .map(([degrees, x]): Frame => turnedAbout([x, 2.1, 0.7], unitOf(x), degrees))
const unitOf = (x: number): Vec3 => {
  const length = Math.hypot(x, 1, 0.4)
  return [x / length, 1 / length, 0.4 / length]
}

it('of two solids of one to three bodies it is told whether they share material, and how far they are apart', () => {
  const seen = { shared: 0, inside: 0, apart: 0 }
  fc.assert(
    fc.property(
      fc
        .tuple(fc.array(block, { minLength: 1, maxLength: 2 }), fc.option(large))
        .map(([own, more]) => (more ? [...own, more] : own)),
      fc.array(block, { minLength: 1, maxLength: 3 }),
      turn,
      (ones, others, frame) =>
        kernel.scope((scope) => {
          const a = scope.union(ones.map((each) => made(scope, each)))
          const plain = scope.union(others.map((each) => made(scope, each)))
          const b = scope.placed(plain, frame)
          const shared = scope.intersection([a, b]).volume()
          const gap = gapBetween(a, b)
          // By the library: 0 where they share anything.
          const least = a.gapTo(b, 10)
          if (shared > 1e-3) expect(gap).toBe(0)
          else if (shared === 0 && least > 1e-3)
            if (least < 10) expect(Math.abs(gap! - least)).toBeLessThan(1e-4)
            else expect(gap).toBeUndefined()
          const lies = isIn(plain, a, frame) || isIn(a, plain, inverse(frame))
          if (lies) expect(shared).toBeGreaterThan(0)
          expect(isIn(b, a) || isIn(a, b)).toBe(lies)
          seen[lies ? 'inside' : shared > 0 ? 'shared' : 'apart']++
        }),
    ),
    { numRuns: runs(300) },
  )
  for (const count of Object.values(seen)) expect(count).toBeGreaterThan(0)
})

it('a body that lies in the material of another one shares it, though its piece has another body outside', () => {
  kernel.scope((scope) => {
    const large = made(scope, { size: [30, 30, 30], at: [0, 0, 0] })
    const hiddenNow = () => made(scope, { size: [1.3, 1.7, 1.1], at: [14.3, 13.7, 15.1] })
    const besideNow = () => made(scope, { size: [5.3, 5.3, 5.3], at: [33.7, 0, 0] })
    // Whichever of the two was made first comes first in the mesh.
    for (const inOrder of [
      [hiddenNow, besideNow],
      [besideNow, hiddenNow],
    ]) {
      const two = scope.union(inOrder.map((make) => make()))
      expect([isIn(two, large), isIn(large, two), gapBetween(two, large), gapBetween(large, two)]).toEqual([
        true,
        false,
        0,
        0,
      ])
    }
    const hidden = hiddenNow()
    // Farther in than pieces concern each other, and in a cavity.
    expect(gapBetween(hidden, large)).toBe(0)
    const hollow = scope.difference(large, [made(scope, { size: [10, 10, 10], at: [10, 10, 10] })])
    expect([isIn(hidden, hollow), isIn(hollow, hidden)]).toEqual([false, false])
    expect(gapBetween(hidden, hollow)).toBeCloseTo(3.7, 4)
  })
})
