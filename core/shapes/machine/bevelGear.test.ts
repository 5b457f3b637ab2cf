import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import { bevelSizes, mateOf } from '../../gears/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { cross, dot, norm, subtract, type Vec3 } from '../../place/index.ts'
import { testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'
import { apexOf, bevelOf } from './bevelGear.ts'

const kernel = await testKernel()
const bevel = shapeOf('bevel-gear')!
const values = (change: AnyValues) => ({ ...defaults('bevel-gear'), ...change }) as never
const context = { cuts: false, through: 20, overlap: 0.005, up: [0, 0, 1] as Vec3 }
const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 500 }).map((k) => low + ((high - low) * k) / 500)
const any = fc.record({
  teeth: fc.integer({ min: 10, max: 40 }),
  mate: fc.integer({ min: 10, max: 40 }),
  axes: between(60, 110),
  module: between(0.9, 2.4),
  width: between(3, 8),
  back: between(1, 5),
  play: between(0, 0.2),
  bore: fc.constantFrom('none', 'round', 'hex'),
  hole: between(2, 4),
  across: between(2, 4),
})

function measured(change: AnyValues, fineness = 0.02) {
  return kernel.scope((scope) => {
    const solid = bevel.solid(values(change), { scope, fineness, ...context })
    const mesh = solid.mesh()
    return { volume: solid.volume(), bounds: solid.bounds()!, figures: meshFigures(mesh), mesh }
  })
}

describe('a bevel gear', () => {
  it('is one sound body, reaches as far as it says, and names all of its surfaces', () => {
    const direction = fc.tuple(between(-1, 1), between(-1, 1), between(-1, 1)).filter((d) => Math.hypot(...d) > 0.2)
    fc.assert(
      fc.property(any, direction, (change, way) => {
        const v = values(change)
        fc.pre(!bevel.impossible!(v))
        const { figures, bounds, mesh } = measured(change)
        expect(figures).toMatchObject({ closed: true, oriented: true, solids: 1, cavities: [] })
        const box = bevel.box(v, 20)
        for (const k of [0, 1, 2] as const) {
          expect(Math.abs(box.min[k] - bounds.min[k])).toBeLessThan(0.06)
          expect(Math.abs(box.max[k] - bounds.max[k])).toBeLessThan(0.06)
        }
        const d = way.map((x) => x / Math.hypot(...way)) as unknown as Vec3
        let far = -Infinity
        const { positions, triangles } = mesh
        const point = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!]
        for (let i = 0; i < positions.length / 3; i++) far = Math.max(far, dot(d, point(i)))
        expect(Math.abs(bevel.reach!(v, d) - far)).toBeLessThan(0.06)
        const { at, all } = bevel.surfaces(v)
        const found = new Set<string>()
        for (let t = 0; t < triangles.length; t += 3) {
          const [a, b, c] = [0, 1, 2].map((k) => point(triangles[t + k]!)) as [Vec3, Vec3, Vec3]
          const normal = cross(subtract(b, a), subtract(c, a))
          if (norm(normal) < 1e-4) continue
          const middle = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as unknown as Vec3
          found.add(at(middle, normal.map((x) => x / norm(normal)) as unknown as Vec3))
        }
        expect([...found].sort()).toEqual(all.map(({ name }) => name).sort())
      }),
      { numRuns: runs(25) },
    )
  })
  it('has the volume of its cones, with half of what lies between roots and tips', () => {
    fc.assert(
      fc.property(any, (change) => {
        const v = values({ ...change, bore: 'none' })
        if (bevel.impossible!(v)) return
        const { volume } = measured({ ...change, bore: 'none' }, 0.01)
        const { distance, pitch, root, tip } = bevelSizes(bevelOf(v))
        // Of a cone of rays up to an angle, between both ends; ends are square to the pitch cone.
        const cone = (angle: number, along: number) => {
          const ray = along / Math.cos(angle - pitch)
          return [ray * Math.sin(angle), ray * Math.cos(angle)] as const
        }
        const turned = (points: readonly (readonly [number, number])[]) =>
          points.reduce((sum, [r, z], i) => {
            const [r2, z2] = points[(i + 1) % points.length]!
            return sum + ((r * z2 - r2 * z) * (r + r2) * Math.PI) / 3
          }, 0)
        const inner = distance - change.width
        const [a, b] = [cone(root, distance), cone(root, inner)]
        const core = Math.abs(turned([[0, a[1]], a, b, [0, b[1]]])) + Math.PI * a[0] ** 2 * change.back
        const teeth = Math.abs(turned([a, cone(tip, distance), cone(tip, inner), b]))
        const share = (volume - core) / teeth
        expect(share).toBeGreaterThan(0.36)
        expect(share).toBeLessThan(0.56)
      }),
      { numRuns: runs(15) },
    )
  })
  it('and its mate run at the angle of their axes without touching, nor farther apart than their play', () => {
    fc.assert(
      fc.property(any, fc.integer({ min: 0, max: 9 }), (change, place) => {
        const one = { ...change, bore: 'none', play: 0.12 }
        const two = { ...one, teeth: change.mate, mate: change.teeth }
        if (bevel.impossible!(values(one)) || bevel.impossible!(values(two))) return
        const turn = ((place / 10) * 2 * Math.PI) / change.teeth
        const shared = kernel.scope((scope) => {
          const axes = (change.axes * Math.PI) / 180
          // The apex of both at the origin; where they meet lies towards x.
          const [a, b] = [one, two].map((each) =>
            scope.placed(bevel.solid(values(each), { scope, fineness: 0.008, ...context }), {
              ...{ origin: [0, 0, -apexOf(values(each))], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
            }),
          ) as [ReturnType<typeof scope.union>, ReturnType<typeof scope.union>]
          const spun = (rad: number) => ({
            ...{ origin: [0, 0, 0] as const, n: [0, 0, 1] as const },
            u: [Math.cos(rad), Math.sin(rad), 0] as const,
            v: [-Math.sin(rad), Math.cos(rad), 0] as const,
          })
          const n = [-Math.sin(axes), 0, Math.cos(axes)] as const
          // Below the apex of the second, what looks along its u lies towards the first.
          const u = [-Math.cos(axes), 0, -Math.sin(axes)] as const
          const crossed = { origin: [0, 0, 0] as const, u, v: [0, -1, 0] as const, n }
          const first = scope.placed(a, spun(turn))
          const half = Math.PI / change.mate
          const second = scope.placed(scope.placed(b, spun(half + ((turn * change.teeth) / change.mate) * -1)), crossed)
          return { overlap: scope.intersection([first, second]).volume(), gap: first.gapTo(second, 2) }
        })
        expect(shared.overlap).toBe(0)
        expect(shared.gap).toBeGreaterThan(0.02)
        expect(shared.gap).toBeLessThan(0.125)
      }),
      { numRuns: runs(12) },
    )
  })
  it('of any size gives a mate of the same distance', () => {
    const own = bevelOf(values({ teeth: 17, mate: 31 }))
    expect(bevelSizes(mateOf(own)).distance).toBeCloseTo(bevelSizes(own).distance, 9)
  })
  it.each([
    [{ teeth: 150, mate: 8 }, 'mate', /all but flat/],
    [{ width: 20 }, 'width', /half-way to the apex: 12\.72/],
    [{ play: 1.4 }, 'play', /next to nothing/],
    [{ hole: 30 }, 'hole', /roots end at ⌀/],
    [{ bore: 'square', across: 22 }, 'across', /roots end at ⌀/],
    [{ bore: 'keyed', keyWidth: 6 }, 'keyWidth', /narrower/],
  ] as [AnyValues, string, RegExp][])(
    'that cannot be is told at its value, with what can: %o',
    (change, field, text) => {
      const told = bevel.impossible!(values(change))
      expect([told?.field, told?.detail]).toEqual([field, expect.stringMatching(text)])
      if (told?.nearest)
        expect(bevel.impossible!(values({ ...change, [told.nearest.field]: told.nearest.value }))?.field).not.toBe(
          field,
        )
      expect(told?.nearest !== undefined || field === 'keyWidth').toBe(true)
    },
  )
})
