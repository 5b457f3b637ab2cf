import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Scope, Solid } from '../kernel/index.ts'
import { TriangleTree } from '../mesh/index.ts'
import { directionOut, dot, type Frame, frame, pointOut, scaled, type Vec3, world } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { runs, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { standing } from '../testing/standing.ts'
import { itInTurn } from '../testing/turns.ts'
import { loadedSolid, type Strength } from './index.ts'

const kernel = await testKernel()
const at = (x: number, y: number, z: number): Frame => ({ ...world, origin: [x, y, z] })
const strength: Strength = { along: 50, across: 20 }

const block = (scope: Scope, [w, d, h]: Vec3, [x, y, z]: Vec3) => {
  const ring: Vec2[] = [
    [0, 0],
    [w, 0],
    [w, d],
    [0, d],
  ]
  return scope.placed(scope.extrude([ring], h), at(x, y, z))
}

interface Asked {
  readonly own: Frame
  make(scope: Scope): Solid
  /** whether a place of the surface, with its normal, is held or loaded, as it is made */
  isHeld(p: Vec3, n: Vec3): boolean
  isLoaded(p: Vec3, n: Vec3): boolean
  /** N, as it is made */
  readonly force: Vec3
  readonly bears?: Strength
}

async function asked({ own, make, isHeld, isLoaded, force, bears = { along: 50, across: 50 } }: Asked) {
  const solid = kernel.scope((scope) => scope.handOver(scope.placed(make(scope), own)))
  const plain = kernel.scope((scope) => scope.handOver(make(scope)))
  const mesh = { positions: solid.corners(), triangles: solid.mesh().triangles }
  const made = new TriangleTree(plain.mesh())
  const tree = new TriangleTree(mesh)
  const which = (is: (p: Vec3, n: Vec3) => boolean) =>
    [...Array(mesh.triangles.length / 3).keys()].filter((t) => {
      const corners = [0, 1, 2].map((k) => {
        const v = 3 * mesh.triangles[3 * t + k]!
        return [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!] as const
      }) as [Vec3, Vec3, Vec3]
      const middle = [0, 1, 2].map((k) => (corners[0][k]! + corners[1][k]! + corners[2][k]!) / 3) as unknown as Vec3
      const from = back(own, middle)
      return is(from, made.normal(made.nearest(from)!.triangle))
    })
  const found = await loadedSolid(
    mesh,
    { held: which(isHeld), at: which(isLoaded), force: directionOut(own, force) },
    { strength: bears, tree, cells: 60_000, least: 0.05 },
  )
  solid.release()
  plain.release()
  return found
}
const back = (own: Frame, p: Vec3): Vec3 => {
  const from = [0, 1, 2].map((k) => p[k]! - own.origin[k]!) as unknown as Vec3
  return [dot(from, own.u), dot(from, own.v), dot(from, own.n)]
}
const worstOf = (found: Awaited<ReturnType<typeof asked>>) => {
  if (typeof found === 'string') throw new Error(found)
  expect(found.unmeasured).toBeUndefined()
  return found.worst!
}
const near = (value: number, truth: number, share: number) =>
  expect(Math.abs(value / truth - 1), `${value} for ${truth}`).toBeLessThan(share)
/** No less than it is by more than cells come to; a corner that it goes round is cut askew, and told up to a quarter too much. */
const nearly = (value: number, truth: number, [least, most] = [0.92, 1.25]) => {
  expect(value / truth, `${value} for ${truth}`).toBeGreaterThan(least)
  expect(value / truth, `${value} for ${truth}`).toBeLessThan(most)
}
const all = { endOnFailure: true, numRuns: runs(30) }

describe('what a load asks of a section, at any angle', () => {
  itInTurn(2, 'of a bar that is held at one end and pulled askew at the other: pull and bending both ways', () =>
    fc.assert(
      fc.asyncProperty(
        ...[standing, real(3, 9), real(3, 9), real(30, 70)],
        fc.tuple(real(-20, 20), real(-20, 20), real(-60, 60)),
        async (own, w, d, long, force) => {
          const worst = worstOf(
            await asked({
              ...{ own, force },
              make: (scope) => block(scope, [w, d, long], [0, 0, 0]),
              isHeld: (p) => p[2] < 1e-3,
              isLoaded: (p) => p[2] > long - 1e-3,
            }),
          )
          const [x, y, z] = force
          const bent = (6 * Math.abs(x) * long) / (d * w * w) + (6 * Math.abs(y) * long) / (w * d * d)
          const shear = (1.5 * Math.hypot(x, y)) / (w * d)
          const pull = Math.max(
            Math.hypot(bent + z / (w * d), Math.sqrt(3) * shear),
            Math.hypot(bent - z / (w * d), Math.sqrt(3) * shear),
          )
          nearly(worst.use * 50, pull)
          near(worst.area, w * d, 0.05)
        },
      ),
      all,
    ),
  )
  itInTurn(2, 'of the neck of two blocks, wherever along it that is', () =>
    fc.assert(
      fc.asyncProperty(standing, real(1, 4), real(2, 9), real(5, 60), async (own, wide, long, force) => {
        const worst = worstOf(
          await asked({
            ...{ own, force: [0, 0, force] as const },
            make: (scope) =>
              scope.union([
                block(scope, [20, 20, 12], [0, 0, 0]),
                block(scope, [wide, wide, long + 2], [10 - wide / 2, 10 - wide / 2, 11]),
                block(scope, [20, 20, 9], [0, 0, 12 + long]),
              ]),
            isHeld: (p) => p[2] < 1e-3,
            isLoaded: (p) => p[2] > 20.9 + long,
          }),
        )
        nearly(worst.use * 50, force / wide ** 2)
      }),
      all,
    ),
  )
  it('of a hook that is pulled beside its bar: as much as the arm asks', () =>
    fc.assert(
      fc.asyncProperty(standing, real(3, 6), real(10, 25), real(5, 40), async (own, thick, out, force) => {
        // A post with an arm that goes out; the force is on the underside of its end, as if something hung there.
        const worst = worstOf(
          await asked({
            ...{ own, force: [0, 0, -force] as const },
            make: (scope) =>
              scope.union([
                block(scope, [8, 12, 40], [0, 0, 0]),
                block(scope, [out + 8, 12, thick], [0, 0, 34]),
                block(scope, [2, 12, 1], [out + 6, 0, 34 + thick - 0.01]),
              ]),
            isHeld: (p) => p[2] < 1e-3,
            isLoaded: (p) => p[2] > 34.9 + thick && p[0] > out,
          }),
        )
        const bent = (6 * force * (out - 1)) / (12 * thick ** 2)
        const post = (6 * force * (out + 3)) / (12 * 64) + force / 96
        const shear = (Math.sqrt(3) * 1.5 * force) / (12 * thick)
        // Of short arms up to a tenth less is told than what a beam would be asked.
        const isShort = out - 1 < 4 * thick
        nearly(worst.use * 50, Math.max(Math.hypot(bent, shear), post), [isShort ? 0.88 : 0.92, 1.25])
      }),
      all,
    ))
  itInTurn(2, 'of a tube that is twisted, no less, and at most by half more', () =>
    fc.assert(
      fc.asyncProperty(standing, real(5, 9), real(1.5, 4), real(2, 20), async (own, r, wall, force) => {
        const arm = 40
        const worst = worstOf(
          await asked({
            ...{ own, force: [0, force, 0] as const },
            make: (scope) =>
              scope.union([
                scope.difference(scope.cylinder(30, r, r, 64), [
                  scope.placed(scope.cylinder(25, r - wall, r - wall, 64), at(0, 0, -1)),
                ]),
                block(scope, [arm + 14, 20, 12], [-10, -10, 29]),
              ]),
            isHeld: (p) => p[2] < 1e-3,
            isLoaded: (p) => p[0] > arm + 3.99,
          }),
        )
        const second = (Math.PI / 2) * (r ** 4 - (r - wall) ** 4)
        const twist = (force * (arm + 4) * r) / second
        expect(worst.stress.shear).toBeGreaterThan(0.95 * twist)
        const [area] = [Math.PI * (r ** 2 - (r - wall) ** 2)]
        expect(worst.stress.shear).toBeLessThan(1.55 * twist + (2 * force) / area)
      }),
      all,
    ),
  )
  itInTurn(2, 'of a frame, of both of its legs together', () =>
    fc.assert(
      fc.asyncProperty(standing, real(3, 6), real(10, 60), async (own, leg, force) => {
        const found = await asked({
          ...{ own, force: [0, 0, force] as const },
          make: (scope) =>
            scope.union([
              block(scope, [40, 10, 8], [0, 0, 0]),
              block(scope, [leg, 10, 22], [0, 0, 7]),
              block(scope, [leg, 10, 22], [40 - leg, 0, 7]),
              block(scope, [40, 10, 8], [0, 0, 28]),
            ]),
          isHeld: (p) => p[2] < 1e-3,
          isLoaded: (p) => p[2] > 35.99,
        })
        const worst = worstOf(found)
        if (typeof found === 'string') throw new Error(found)
        // What lies on the legs is bent, and asks more of its corners than of them.
        expect(worst.use * 50).toBeGreaterThan((0.92 * force) / (20 * leg))
        // What lies on the legs is bent: no more than it would be if it lay on them loosely, and no less is told.
        const shared = found.shared!
        expect(shared.count).toBe(2)
        expect(shared.alone * 50).toBeGreaterThan((force * (40 - leg)) / 8 / ((10 * 8 ** 2) / 6))
      }),
      all,
    ),
  )
  itInTurn(2, 'of an eye that is pulled by a pin, of what is left on both sides of it', () =>
    fc.assert(
      fc.asyncProperty(standing, real(3, 7), real(3, 6), real(10, 90), async (own, r, side, force) => {
        const wide = 2 * (r + side)
        const worst = worstOf(
          await asked({
            ...{ own, force: [force, 0, 0] as const },
            make: (scope) =>
              scope.difference(block(scope, [60, wide, 5], [0, -wide / 2, 0]), [
                scope.placed(scope.cylinder(7, r, r, 64), at(60 - r - 2 * side, 0, -1)),
              ]),
            isHeld: (p) => p[0] < 1e-3,
            isLoaded: (p, n) => Math.abs(n[2]) < 0.5 && Math.hypot(p[0] - (60 - r - 2 * side), p[1]) < r + 0.1,
          }),
        )
        nearly(worst.use * 50, force / (2 * side * 5), [0.92, 1.3])
      }),
      all,
    ),
  )
})

describe('layers', () => {
  it.each([0, 15.3, 37.3, 61, 85.1, 90])('part a bar that leans by %d° where they bear least', async (lean) => {
    const rad = (lean * Math.PI) / 180
    const own = frame([3.3, -7.1, 40], [Math.cos(rad), 0, -Math.sin(rad)], [0, 1, 0])
    const force = 100
    const worst = worstOf(
      await asked({
        ...{ own, force: [0, 0, force] as const, bears: strength },
        make: (scope) => block(scope, [6.1, 7.3, 50], [0, 0, 0]),
        isHeld: (p) => p[2] < 1e-3,
        isLoaded: (p) => p[2] > 49.99,
      }),
    )
    const stress = force / (6.1 * 7.3)
    const least = Math.max(stress / 50, (stress * Math.cos(rad)) / 20)
    nearly(worst.use, least)
  })
  it('do not part what is pressed together', async () => {
    const press = worstOf(
      await asked({
        ...{ own: world, force: [0, 0, -100] as const, bears: strength },
        make: (scope) => block(scope, [6.1, 7.3, 50], [0, 0, 0]),
        isHeld: (p) => p[2] < 1e-3,
        isLoaded: (p) => p[2] > 49.99,
      }),
    )
    near(press.use, 100 / (6.1 * 7.3) / 50, 0.03)
  })
})

describe('nothing is told', () => {
  const two = (scope: Scope) => scope.union([block(scope, [9, 9, 9], [0, 0, 0]), block(scope, [9, 9, 9], [20, 0, 0])])
  const low = (p: Vec3) => p[2] < 1e-3 && p[0] < 10
  it('where nothing leads from the force to what is held', async () => {
    const found = await asked({
      ...{ own: world, force: [0, 0, 9] as const },
      make: two,
      isHeld: low,
      isLoaded: (p) => p[0] > 28.9,
    })
    expect(found).toBe('apart')
  })
  it('where it is held right where the force is', async () => {
    const found = await asked({ ...{ own: world, force: scaled([0, 0, 1], 9) }, make: two, isHeld: low, isLoaded: low })
    expect(found).toBe('beside')
  })
})

itInTurn(2, 'a piece that moves keeps its figures', async () => {
  const one: Omit<Asked, 'own'> = {
    force: [3.3, -7.1, 12.7],
    make: (scope) => block(scope, [5.3, 6.1, 33.7], [0, 0, 0]),
    isHeld: (p) => p[2] < 1e-3,
    isLoaded: (p) => p[2] > 33.69,
  }
  const here = worstOf(await asked({ ...one, own: world }))
  const moved = worstOf(await asked({ ...one, own: at(...pointOut(at(71.3, 2.9, -11), [0.33, 0.21, 0.77])) }))
  near(moved.use, here.use, 1e-6)
})
