import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Scope, Solid } from '../kernel/index.ts'
import { TriangleTree } from '../mesh/index.ts'
import { type Frame, norm, subtract, type Vec3, world } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { runs, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { standing } from '../testing/standing.ts'
import { itInTurn } from '../testing/turns.ts'
import { type Bounds, necksOf } from './index.ts'

const kernel = await testKernel()

const at = (x: number, y: number, z: number): Frame => ({ ...world, origin: [x, y, z] })
const ball = (scope: Scope, radius: number, z: number) => {
  const half = Array.from({ length: 65 }, (_, i): Vec2 => {
    const angle = (i * Math.PI) / 64
    return [radius * Math.sin(angle), -radius * Math.cos(angle)]
  })
  return scope.placed(scope.revolve(half, 96), at(0, 0, z))
}
const bar = (scope: Scope, radius: number, from: number, to: number, x = 0) =>
  scope.placed(scope.cylinder(to - from, radius, radius, 96), at(x, 0, from))
const block = (scope: Scope, [w, d, h]: Vec3, [x, y, z]: Vec3) => {
  const ring: Vec2[] = [
    [0, 0],
    [w, 0],
    [w, d],
    [0, d],
  ]
  return scope.placed(scope.extrude([ring], h), at(x, y, z))
}
/** Of a polygon of 96 corners as a share of its circle. */
const flats = Math.sin((2 * Math.PI) / 96) / ((2 * Math.PI) / 96)

async function necks(own: Frame, make: (scope: Scope) => Solid, isWanted: (bounds: Bounds) => boolean = () => true) {
  const solid = kernel.scope((scope) => scope.handOver(scope.placed(make(scope), own)))
  const mesh = { positions: solid.corners(), triangles: solid.mesh().triangles }
  const found = await necksOf(mesh, { cells: 100_000, least: 0.1, tree: new TriangleTree(mesh), isWanted })
  solid.release()
  return found
}
const near = (value: number, truth: number, share: number) =>
  expect(Math.abs(value / truth - 1), `${value} for ${truth}`).toBeLessThan(share)

describe('a neck is measured where it is narrowest, at any angle', () => {
  const sizes = fc.tuple(standing, real(5, 15), real(5, 9), real(0.25, 2), real(2, 25))
  itInTurn(2, 'of a dumb-bell, which has the section of its bar', () =>
    fc.assert(
      fc.asyncProperty(sizes, async ([own, large, small, radius, long]) => {
        const far = large + long + small
        const found = await necks(own, (scope) =>
          scope.union([ball(scope, large, 0), ball(scope, small, far), bar(scope, radius, 0, far)]),
        )
        // What is narrower than cells tell is told all the same.
        expect(found.necks.length + found.unmeasured.length).toBe(1)
        if (found.unmeasured.length > 0) {
          expect(2 * radius).toBeLessThan(2 * found.cell)
          return
        }
        const [{ figures, arm, volume, sides, section }] = found.necks as [(typeof found.necks)[0]]
        near(figures.area, Math.PI * radius ** 2 * flats, 0.01)
        near(figures.modulus, (Math.PI * radius ** 3) / 4, 0.02)
        near(figures.across, 2 * radius, 0.01)
        // What is between counts to either side.
        const least = Math.min(large, small)
        expect(volume).toBeGreaterThan(0.9 * ((4 / 3) * Math.PI * least ** 3))
        expect(arm).toBeGreaterThan(1.7 * least)
        expect(arm).toBeLessThan(2 * least + long + 3 * found.cell)
        expect(Math.abs(norm(subtract(...sides)) - far)).toBeLessThan(4 * found.cell)
        expect(norm(subtract(section.plane.at, own.origin))).toBeLessThan(far)
      }),
      { endOnFailure: true, numRuns: runs(60) },
    ),
  )
  itInTurn(2, 'of two balls that share a lens, the circle in which they meet', () =>
    fc.assert(
      fc.asyncProperty(standing, real(6, 15), real(6, 15), real(0.1, 0.45), async (own, one, other, share) => {
        const radius = share * Math.min(one, other)
        const far = Math.sqrt(one ** 2 - radius ** 2) + Math.sqrt(other ** 2 - radius ** 2)
        const both = (scope: Scope) => scope.union([ball(scope, one, 0), ball(scope, other, far)])
        const found = await necks(own, both)
        expect(found.necks.length).toBe(1)
        // Flats of the balls are up to 0.008 off, which is a good deal of a small circle: it is that of the flats.
        const least = kernel.scope((scope) => {
          const meet = Math.sqrt(one ** 2 - radius ** 2)
          const solid = both(scope)
          const areas = Array.from({ length: 41 }, (_, i) => scope.slice(solid, meet + (i - 20) / 100).area)
          return Math.min(...areas)
        })
        // A plane at a slight angle passes between corners of the flats.
        expect(found.necks[0]!.figures.area).toBeLessThan(1.04 * least)
        expect(found.necks[0]!.figures.area).toBeGreaterThan(0.95 * least)
      }),
      { endOnFailure: true, numRuns: runs(60) },
    ),
  )
  itInTurn(2, 'of blocks joined by a web or by a taper, its least one', () =>
    fc.assert(
      fc.asyncProperty(
        standing,
        real(0.3, 2),
        real(2, 9),
        real(1, 9),
        real(0.3, 2.5),
        async (own, thick, wide, long, tip) => {
          const blocks = (scope: Scope) => [
            block(scope, [14, 15.3, 10], [0, 0, 0]),
            block(scope, [14, 15.3, 12.7], [14 + long, 0, 0]),
          ]
          const web = await necks(own, (scope) =>
            scope.union([...blocks(scope), block(scope, [long + 2, wide, thick], [13, 3.3, 4.1])]),
          )
          // What is narrower than cells tell is told all the same.
          expect(web.necks.length + web.unmeasured.length).toBe(1)
          if (web.unmeasured.length > 0) expect(thick).toBeLessThan(1.5 * web.cell)
          for (const { figures } of web.necks) {
            near(figures.area, thick * wide, 1e-3)
            // Over a corner it bears less than over a side.
            const flat = (Math.max(thick, wide) * Math.min(thick, wide) ** 2) / 6
            expect(figures.modulus).toBeLessThan(1.001 * flat)
            expect(figures.modulus).toBeGreaterThan(0.7 * flat)
          }
          const taper = await necks(own, (scope) => {
            const cone = scope.cylinder(long / 2 + 1, 4, tip, 96)
            const back = scope.cylinder(long / 2 + 1, tip, 4, 96)
            return scope.union([
              block(scope, [14, 15.3, 10], [-7, -7, -9]),
              scope.placed(cone, at(0, 0, 0)),
              scope.placed(back, at(0, 0, long / 2 + 1)),
              block(scope, [14, 15.3, 10], [-7, -7, long + 1]),
            ])
          })
          expect(taper.necks.length).toBe(1)
          near(taper.necks[0]!.figures.area, Math.PI * tip ** 2 * flats, 0.05)
        },
      ),
      { endOnFailure: true, numRuns: runs(40) },
    ),
  )
  it('of blocks with less than a cell between them, whatever cells tell of that', () =>
    fc.assert(
      fc.asyncProperty(standing, real(0.03, 0.6), real(0.5, 2), async (own, gap, radius) => {
        const found = await necks(own, (scope) =>
          scope.union([
            block(scope, [30, 30, 12], [-15, -15, -12]),
            bar(scope, radius, -1, gap + 1),
            block(scope, [30, 30, 13.3], [-15, -15, gap]),
          ]),
        )
        expect(found.necks.length).toBe(1)
        near(found.necks[0]!.figures.area, Math.PI * radius ** 2 * flats, 0.05)
      }),
      { endOnFailure: true, numRuns: runs(40) },
    ))
})

/** as of what a hand breaks */
const isWeak = ({ area, modulus, arm }: Bounds) => area < 1.5 || (arm > 0 && (30 * modulus) / arm < 10)

describe('what has no neck has none', () => {
  it.each<[string, (scope: Scope) => Solid]>([
    ['a ball', (scope) => ball(scope, 9, 0)],
    ['a bar', (scope) => bar(scope, 1.3, 0, 60)],
    ['balls that share most', (scope) => scope.union([ball(scope, 9, 0), ball(scope, 8, 9)])],
    [
      'a plate on its edge on a plate',
      (scope) => scope.union([block(scope, [40, 30, 3], [0, 0, 0]), block(scope, [3, 30, 20], [9, 0, 0])]),
    ],
    ['a tube', (scope) => scope.difference(bar(scope, 12, 0, 30), [bar(scope, 10.4, -1, 31)])],
    ['a cone on its tip', (scope) => scope.cylinder(20, 0.2, 15, 96)],
  ])('%s', (_, make) =>
    fc.assert(
      fc.asyncProperty(standing, async (own) => {
        expect((await necks(own, make, isWeak)).necks).toEqual([])
      }),
      { endOnFailure: true, numRuns: runs(30) },
    ),
  )
  it('solids that lie close to each other are no two sides of anything', async () => {
    const found = await necks(world, (scope) => scope.union([ball(scope, 9, 0), ball(scope, 6, 15.05)]))
    expect(found.necks).toEqual([])
  })
})

it('two legs beside each other are told without an arm: neither breaks off alone', async () => {
  const found = await necks(world, (scope) =>
    scope.union([ball(scope, 9, 0), ball(scope, 9, 24), bar(scope, 1.5, 0, 24, -4), bar(scope, 1.1, 0, 24, 4)]),
  )
  expect(found.necks.map(({ arm, volume }) => [arm, volume])).toEqual([
    [0, 0],
    [0, 0],
  ])
  const areas = found.necks.map(({ figures }) => figures.area).sort((a, b) => a - b)
  near(areas[0]!, Math.PI * 1.1 ** 2, 0.01)
  near(areas[1]!, Math.PI * 1.5 ** 2, 0.01)
})
itInTurn(2, 'beads on a string are told one by one, each with all that hangs behind it', async () => {
  const found = await necks(world, (scope) =>
    scope.union([0, 15, 30, 45].flatMap((z) => [ball(scope, 6, z), bar(scope, 0.8, 0, 45)])),
  )
  const arms = found.necks.map(({ arm }) => arm).sort((a, b) => a - b)
  expect(arms.length).toBe(3)
  expect(arms[0]!).toBeLessThan(16)
  expect(arms[2]!).toBeGreaterThan(22)
})
it('only those that are wanted are measured', async () => {
  const dumbBell = (scope: Scope) => scope.union([ball(scope, 9, 0), ball(scope, 6, 25), bar(scope, 1, 0, 25)])
  const asked: Bounds[] = []
  const wanted = (limit: number) => (bounds: Bounds) => {
    asked.push(bounds)
    return bounds.area < limit
  }
  expect((await necks(world, dumbBell, wanted(3.2))).necks.length).toBe(1)
  expect((await necks(world, dumbBell, wanted(3))).necks).toEqual([])
  // What it is bounded by before it is measured is never more than it is.
  expect(asked.every(({ area, modulus }) => area < Math.PI * 1.01 && modulus < (Math.PI / 4) * 1.02)).toBe(true)
})
