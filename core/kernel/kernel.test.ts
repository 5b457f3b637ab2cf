import { describe, expect, it } from 'vitest'
import { meshFigures } from '../mesh/index.ts'
import { turnedAbout, unit, type Vec3, world } from '../place/index.ts'
import type { Ring } from '../plane/index.ts'
import { ProblemError } from '../problems/index.ts'
import { seeded, testKernel } from '../testing/index.ts'
import { circumradius, polygonArea, roundedRectangle, type Scope, type Solid, segmentsFor } from './index.ts'

const kernel = await testKernel()

const block = (scope: Scope, x: number, y: number, z: number) => scope.extrude([roundedRectangle(x, y, 0, 4)], z)

describe('ownership', () => {
  it('releases what a scope made, also when its work fails', () => {
    kernel.scope((scope) => scope.union([block(scope, 1, 1, 1), block(scope, 2, 2, 2)]).volume())
    expect(kernel.live).toBe(0)
    expect(() =>
      kernel.scope((scope) => {
        block(scope, 1, 1, 1)
        throw new Error('x')
      }),
    ).toThrow('x')
    expect(kernel.live).toBe(0)
  })
  it('lets a solid leave its scope by name only', () => {
    let kept: Solid | undefined
    const lost = kernel.scope((scope) => {
      kept = scope.handOver(block(scope, 2, 3, 4))
      return block(scope, 1, 1, 1)
    })
    expect(kernel.live).toBe(1)
    expect(kept!.volume()).toBeCloseTo(24, 9)
    expect(() => lost.volume()).toThrow(/after its release/)
    kept!.release()
    kept!.release()
    expect(kernel.live).toBe(0)
  })
})

describe('refused sizes', () => {
  it.each<[string, (scope: Scope) => unknown]>([
    ['a NaN height', (scope) => scope.cylinder(Number.NaN, 1, 1, 8)],
    [
      'a negative height',
      (scope) =>
        scope.extrude(
          [
            [
              [0, 0],
              [1, 0],
              [0, 1],
            ],
          ],
          -1,
        ),
    ],
    [
      'an infinite corner',
      (scope) =>
        scope.extrude(
          [
            [
              [0, 0],
              [Infinity, 0],
              [0, 1],
            ],
          ],
          1,
        ),
    ],
    ['a zero radius', (scope) => scope.cylinder(1, 0, 0, 8)],
    ['a NaN place', (scope) => scope.placed(block(scope, 1, 1, 1), turnedAbout([0, 0, 0], [0, 0, 1], Number.NaN))],
  ])('%s', (_, work) => {
    expect(() => kernel.scope(work)).toThrow(ProblemError)
    expect(kernel.live).toBe(0)
  })
})

describe('extruding', () => {
  it('keeps every coordinate to the last digit, whatever it is, with holes and with points that are said twice', () => {
    const random = seeded(77)
    for (let i = 0; i < 200; i++) {
      const [x, y] = [random() * 90 - 45 + 1 / 3, random() * 90 - 45]
      const [w, d, h] = [2 + random() * 85.1, 2 + random() * 15.3, 0.1 + random() * 25.4]
      const box = (inset: number): Ring => [
        [x + inset, y + inset],
        [x + w - inset, y + inset],
        [x + w - inset, y + inset],
        [x + w - inset, y + d - inset],
        [x + inset, y + d - inset],
        [x + inset, y + inset],
      ]
      const { bounds, volume } = kernel.scope((scope) => {
        const solid = scope.extrude([box(0), [...box(0.5)].reverse()], h)
        return { bounds: solid.bounds(), volume: solid.volume() }
      })
      expect(bounds).toEqual({ min: [x, y, 0], max: [x + w, y + d, h] })
      expect(volume / ((w * d - (w - 1) * (d - 1)) * h)).toBeCloseTo(1, 9)
    }
  })
  it('of nothing but points and lines is nothing', () => {
    const empty = kernel.scope((scope) =>
      scope
        .extrude(
          [
            [
              [1, 2],
              [3, 2],
              [1, 2],
            ],
          ],
          5,
        )
        .isEmpty(),
    )
    expect(empty).toBe(true)
  })
})

describe('sets of points', () => {
  it('keep volume(A − B) + volume(A ∩ B) = volume(A), and volume(A ∪ B) = volume(A) + volume(B − A), wherever B stands', () => {
    const random = seeded(5)
    kernel.scope((scope) => {
      for (let i = 0; i < 40; i++) {
        const a = block(scope, 10 + random() * 20, 10 + random() * 20, 10)
        const frame = turnedAbout(
          [random() * 10, random() * 10, random() * 10],
          unit([random(), random(), 0.1 + random()]),
          random() * 360,
        )
        const b = scope.placed(scope.cylinder(5 + random() * 20, 2 + random() * 6, 1 + random() * 6, 24), frame)
        const without = scope.difference(a, [b]).volume()
        expect(without + scope.intersection([a, b]).volume()).toBeCloseTo(a.volume(), 6)
        expect(scope.union([a, b]).volume()).toBeCloseTo(a.volume() + scope.difference(b, [a]).volume(), 6)
      }
    })
  })
  it('leaves no skin where a cut is flush with its body on both sides', () => {
    kernel.scope((scope) => {
      for (const angle of [0, 90, 180]) {
        const turn = turnedAbout([3, 1, 2], [0, 1, 0], angle)
        const body = scope.placed(block(scope, 20, 20, 6.35), turn)
        const cutter = scope.placed(block(scope, 5, 5, 6.35), turn)
        const result = scope.difference(body, [cutter])
        expect(result.volume()).toBeCloseTo((400 - 25) * 6.35, 5)
        const figures = meshFigures(result.mesh())
        expect([figures.closed, figures.oriented, figures.solids]).toEqual([true, true, 1])
      }
    })
  })
  it('joins solids that meet face to face at a height that no binary fraction holds', () => {
    kernel.scope((scope) => {
      const below = block(scope, 10, 10, 6.35)
      const above = scope.placed(block(scope, 4, 4, 3.1), {
        origin: [0, 0, 6.35],
        u: [1, 0, 0],
        v: [0, 1, 0],
        n: [0, 0, 1],
      })
      expect(scope.union([below, above]).bodies()).toBe(1)
    })
  })
})

describe('circles in flats', () => {
  it.each([
    [2.65, 0.05],
    [11, 0.01],
    [100, 0.02],
    [0.3, 0.05],
  ])('radius %d at fineness %d keeps within it, inside and outside', (radius, fineness) => {
    const inside = segmentsFor(radius, fineness)
    expect(inside % 4).toBe(0)
    expect(radius * (1 - Math.cos(Math.PI / inside))).toBeLessThanOrEqual(fineness)
    const outside = segmentsFor(radius, fineness, true)
    expect(circumradius(radius, outside) - radius).toBeLessThanOrEqual(fineness)
  })
  it('refuses a fineness that no slicer is helped by', () => {
    expect(() => segmentsFor(5000, 0.000_1)).toThrow(/coarser fineness/)
  })
  it('builds cylinders and cones of their exact prism volume, on either end', () => {
    kernel.scope((scope) => {
      const area = polygonArea(5, 48)
      expect(scope.cylinder(7, 5, 5, 48).volume()).toBeCloseTo(area * 7, 8)
      expect(scope.cylinder(7, 5, 0, 48).volume()).toBeCloseTo((area * 7) / 3, 8)
      const pointed = scope.cylinder(7, 0, 5, 48)
      expect(pointed.volume()).toBeCloseTo((area * 7) / 3, 8)
      expect(pointed.bounds()!.max[2]).toBe(7)
      expect(scope.slice(pointed, 6.9).area).toBeGreaterThan(scope.slice(pointed, 0.1).area)
    })
  })
})

describe('crumbs', () => {
  const at = (scope: Scope, solid: Solid, x: number, y: number, z: number) =>
    scope.placed(solid, { origin: [x, y, z], u: [0.8, 0.6, 0], v: [-0.6, 0.8, 0], n: [0, 0, 1] })
  /** A block with a large and a small cavity in it, and two small bodies beside it, mm³. */
  const [whole, large, small, beside, far] = [30 ** 3, 7.3 ** 3, 0.31 ** 3, 0.4 ** 3, 0.37 ** 3]
  const littered = (scope: Scope) =>
    scope.union([
      scope.difference(block(scope, 30, 30, 30), [
        at(scope, block(scope, 7.3, 7.3, 7.3), 5.1, 1 / 3, 8),
        at(scope, block(scope, 0.31, 0.31, 0.31), -9.3, 2.2, 11.7),
      ]),
      at(scope, block(scope, 0.4, 0.4, 0.4), 20.3, 1.1, 3),
      at(scope, block(scope, 0.37, 0.37, 0.37), 22.9, -4.1, 7),
    ])
  it('leave, bodies and cavities, and what is no crumb stays', () => {
    kernel.scope((scope) => {
      const clean = scope.withoutCrumbs(littered(scope), scope.union([]), 0.1)
      expect(clean.volume()).toBeCloseTo(whole - large, 6)
      expect(meshFigures(clean.mesh())).toMatchObject({ solids: 1, closed: true, oriented: true })
      expect(meshFigures(clean.mesh()).cavities).toHaveLength(1)
    })
    expect(kernel.live).toBe(0)
  })
  it('are not what was there before, nor all that is left of what lay apart', () => {
    kernel.scope((scope) => {
      const all = littered(scope)
      expect(scope.withoutCrumbs(all, all, 0.1)).toBe(all)
      // Of one of the small ones a part is cut off.
      const cut = scope.difference(all, [at(scope, block(scope, 0.37, 0.37, 0.37), 22.9, -4.1, 7.2)])
      const kept = scope.withoutCrumbs(cut, all, 0.1)
      expect(kept.volume()).toBeCloseTo(whole - large - small + beside + (far * 0.2) / 0.37, 6)
      // A part of it, of which there is more, is a crumb.
      const halves = scope.difference(block(scope, 30, 30, 30), [at(scope, block(scope, 60, 60, 1), 0, 0, 29.5)])
      const parted = scope.union([halves, at(scope, block(scope, 0.3, 0.3, 0.3), 1, 2, 30.6)])
      const before = scope.union([block(scope, 30, 30, 31)])
      expect(scope.withoutCrumbs(parted, before, 0.1).volume()).toBeCloseTo(30 * 30 * 29.5, 6)
    })
    expect(kernel.live).toBe(0)
  })
})

it('keeps apart which original each triangle came from, and that cut faces are turned inside out', () => {
  kernel.scope((scope) => {
    const body = scope.original(block(scope, 20, 20, 5))
    const cutter = scope.original(scope.cylinder(5, 2, 2, 16))
    const { runs, triangles } = scope.difference(body.solid, [cutter.solid]).mesh()
    expect(runs.map((run) => run.original).sort()).toEqual([body.id, cutter.id].sort())
    expect(runs.find((run) => run.original === cutter.id)!.inverted).toBe(true)
    expect(runs.find((run) => run.original === body.id)!.inverted).toBe(false)
    expect(runs.at(-1)!.to).toBe(triangles.length / 3)
  })
})

it('slices with the area of the section', () => {
  kernel.scope((scope) => {
    const section = scope.slice(scope.difference(block(scope, 10, 10, 5), [block(scope, 4, 4, 5)]), 2)
    expect(section.area).toBeCloseTo(84, 9)
    expect(section.rings).toHaveLength(2)
  })
})

it('twists a prism evenly as it rises', () => {
  kernel.scope((scope) => {
    const ring = [
      [1, -1],
      [6, -1],
      [6, 1],
      [1, 1],
    ] as const
    const turned = scope.twisted([ring], 7.3, 64, (share) => (share * 37.3 * Math.PI) / 180)
    expect(Math.abs(turned.volume() / 73 - 1)).toBeLessThan(0.006)
    expect(meshFigures(turned.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
    const { positions } = turned.mesh()
    const [x, y] = [Math.cos((37.3 * Math.PI) / 180), Math.sin((37.3 * Math.PI) / 180)]
    const top = Array.from({ length: positions.length / 3 }, (_, i) => positions.subarray(3 * i, 3 * i + 3)).filter(
      (p) => p[2]! > 7.29,
    )
    const along = top.map((p) => p[0]! * x + p[1]! * y)
    expect([Math.min(...along), Math.max(...along)]).toEqual([expect.closeTo(1, 4), expect.closeTo(6, 4)])
  })
})

it('each run of triangles tells what it was made of, and where that stands', () => {
  kernel.scope((scope) => {
    const square = [
      [0, 0],
      [4.1, 0],
      [4.1, 3.3],
      [0, 3.3],
    ] as const
    const places: readonly Vec3[] = [
      [15.3, -2, 1 / 3],
      [-7.7, 4, 2.5],
      [0.4, 30.1, -8],
    ]
    const made = places.map((origin, i) => {
      const { solid, id } = scope.original(scope.extrude([square], 2 + i))
      return { id, origin, placed: scope.placed(solid, { ...world, origin }) }
    })
    const { runs } = scope.union(made.map(({ placed }) => placed)).mesh()
    expect(runs).toHaveLength(3)
    for (const { id, origin } of made) {
      const run = runs.find(({ original }) => original === id)!
      expect(run.frame.origin).toEqual(origin.map((x) => expect.closeTo(x, 6)))
      expect(run.frame.u).toEqual([1, 0, 0])
      expect(run.to - run.from).toBe(12)
    }
  })
})
