import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Scope, Solid } from '../kernel/index.ts'
import { hangingRegions, laidGroups, Sections } from '../layers/index.ts'
import { atOnce } from '../pacing/index.ts'
import type { Vec3 } from '../place/index.ts'
import { partOf, runs, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { type Under, undersides } from './undersides.ts'

const kernel = await testKernel()
const shipped = partOf([]).printer

interface Setting {
  readonly turn: number
  readonly at: readonly [number, number]
  readonly mirrored: boolean
}
const setting: fc.Arbitrary<Setting> = fc.record({
  turn: real(-Math.PI, Math.PI),
  at: fc.tuple(real(-40, 40), real(-40, 40)),
  mirrored: fc.boolean(),
})
const layers = { layerHeight: real(0.08, 0.35), firstLayer: real(0.1, 0.4) }

/** Where a point comes to lie in a setting. */
function put({ turn, at, mirrored }: Setting, [x, y, z]: Vec3): Vec3 {
  const [c, s, side] = [Math.cos(turn), Math.sin(turn), mirrored ? -y : y]
  return [at[0] + c * x - s * side, at[1] + s * x + c * side, z]
}

/** All between corners seen from the front, x and z, over a depth. */
function prism(
  scope: Scope,
  own: Setting,
  seen: readonly (readonly [number, number])[],
  [from, to]: readonly [number, number],
) {
  return scope.hull(seen.flatMap(([x, z]) => [put(own, [x, from, z]), put(own, [x, to, z])]))
}

function block(scope: Scope, own: Setting, [x, y, z]: Vec3, [w, d, h]: Vec3): Solid {
  const [left, right] = [x - w / 2, x + w / 2]
  return prism(
    scope,
    own,
    [
      [left, z],
      [right, z],
      [right, z + h],
      [left, z + h],
    ],
    [y - d / 2, y + d / 2],
  )
}

/** What hangs of a solid: its regions, and what of its surface lies over those of each kind. */
async function hanging(
  make: (scope: Scope) => readonly Solid[],
  change: Partial<typeof shipped> = {},
  other?: (scope: Scope) => readonly Solid[],
) {
  const printer = { ...shipped, ...change }
  const made = (each: typeof make) => kernel.scope((scope) => scope.handOver(scope.union(each(scope))))
  const solid = made(make)
  const beside = other && made(other)
  const sections = new Sections(kernel, solid)
  const { lineWidth, overhang } = printer
  const places = (
    await laidGroups(kernel, sections, { heights: printer, lineWidth, height: solid.bounds()!.max[2] })
  ).flat()
  const others = beside ? [new Sections(kernel, beside)] : []
  const regions = await hangingRegions(kernel, sections, { heights: printer, lineWidth, overhang, places, others })
  const unders = atOnce(undersides(kernel, solid.mesh(), regions, { printer }))
  solid.release()
  beside?.release()
  const of = (kind: Under['region'] extends infer R ? (R extends { kind: infer K } ? K : never) : never) =>
    unders.filter(({ region }) => region?.kind === kind)
  return { regions, unders, of }
}
const areaOf = (unders: readonly Under[]) => unders.reduce((sum, { area }) => sum + area, 0)
const longest = (regions: readonly { readonly long: number }[]) =>
  regions.reduce((most, { long }) => Math.max(most, long), 0)

describe('what leans', () => {
  const limit = real(22, 68)
  it.each([-1, 1])('by %i° beside what may lean is told or not, all of it, as it leans', async (by) => {
    await fc.assert(
      fc.asyncProperty(
        setting,
        limit,
        real(4, 14),
        real(5, 25),
        layers.layerHeight,
        layers.firstLayer,
        async (own, overhang, tall, deep, layerHeight, firstLayer) => {
          const lean = ((overhang + by) * Math.PI) / 180
          const out = tall * Math.tan(lean)
          const { regions, unders, of } = await hanging(
            (scope) => [
              prism(
                scope,
                own,
                [
                  [0, 0],
                  [9.3, 0],
                  [9.3 + out, tall],
                  [0, tall],
                ],
                [0, deep],
              ),
            ],
            { overhang, layerHeight, firstLayer },
          )
          if (by < 0) {
            expect(regions).toEqual([])
            return
          }
          const told = of('reaches')
          expect(areaOf(told) / ((deep * tall) / Math.cos(lean)) - 1).toBeCloseTo(0, 2)
          for (const { lean: each } of told) expect(each).toBeCloseTo(overhang + by, 1)
          // All else that looks down is its foot.
          expect(unders.filter(({ region, lean: each }) => !region && each < 89)).toEqual([])
          const step = Math.max(layerHeight, (layerHeight + firstLayer) / 2)
          expect(longest(regions)).toBeCloseTo(step * Math.tan(lean), 3)
        },
      ),
      { numRuns: runs(60) },
    )
  })
  it('all round is told as well: a cone on its head, at any fineness', async () => {
    await fc.assert(
      fc.asyncProperty(
        setting,
        real(3, 10),
        real(40, 70),
        fc.constantFrom(0.02, 0.2),
        async (own, tall, degrees, fine) => {
          const [foot, lean] = [6.1, (degrees * Math.PI) / 180]
          const count = Math.ceil(Math.PI / Math.acos(1 - fine / 20))
          const ring = (r: number, z: number) =>
            Array.from({ length: count }, (_, i) =>
              put(own, [r * Math.cos((2 * Math.PI * i) / count), r * Math.sin((2 * Math.PI * i) / count), z]),
            )
          const head = foot + tall * Math.tan(lean)
          const { of, regions } = await hanging((scope) => [scope.hull([...ring(foot, 0), ...ring(head, tall)])], {
            overhang: 50,
          })
          // Flats of a cone lean a little less than it does.
          const flat = (Math.atan(Math.tan(lean) * Math.cos(Math.PI / count)) * 180) / Math.PI
          if (Math.abs(flat - 50) < 0.5) return
          if (flat < 50) {
            expect(regions).toEqual([])
            return
          }
          const cone = Math.PI * (foot + head) * Math.hypot(head - foot, tall)
          expect(Math.abs(areaOf(of('reaches')) / cone - 1)).toBeLessThan(0.01 + 2 * (1 - Math.cos(Math.PI / count)))
        },
      ),
      { numRuns: runs(40) },
    )
  })
  it('is carried by what lies no more than a mm below it, whoever has it', async () => {
    await fc.assert(
      fc.asyncProperty(setting, real(0.15, 0.75), real(3, 8), fc.boolean(), async (own, gap, tall, isNear) => {
        const between = isNear ? gap : gap + 1.3
        const over = (scope: Scope) => [
          block(scope, own, [0, 0, 0], [6, 10, tall + between]),
          block(scope, own, [5, 0, tall + between], [16, 10, 3]),
        ]
        const under = (scope: Scope) => [block(scope, own, [9, 0, 0], [11, 10, tall])]
        const reach = async (made: typeof over, other?: typeof over) =>
          areaOf((await hanging(made, {}, other)).of('reaches'))
        expect(await reach(over)).toBeCloseTo(10 * 10, 4)
        const carried = await reach(over, under)
        expect(carried).toBeCloseTo(isNear ? 0 : 100, 4)
        const [whole] = [await reach((scope) => [...over(scope), ...under(scope)])]
        expect(whole).toBeCloseTo(isNear ? 0 : 100, 4)
      }),
      { numRuns: runs(40) },
    )
  })
})

describe('what is bridged', () => {
  it('is as long as it is between what holds it, whichever way it runs', async () => {
    await fc.assert(
      fc.asyncProperty(
        setting,
        real(2, 34),
        real(5, 20),
        real(3, 9),
        layers.layerHeight,
        async (own, gap, deep, tall, layerHeight) => {
          const { regions, of } = await hanging(
            (scope) => [
              block(scope, own, [-gap / 2 - 2, 0, 0], [4, deep, tall]),
              block(scope, own, [gap / 2 + 2, 0, 0], [4, deep, tall]),
              block(scope, own, [0, 0, tall], [gap + 8, deep, 2.3]),
            ],
            { layerHeight },
          )
          expect(regions.map(({ kind }) => kind)).toEqual(['spans'])
          expect(regions[0]!.long / gap).toBeCloseTo(1, 3)
          expect(areaOf(of('spans')) / (gap * deep)).toBeCloseTo(1, 4)
        },
      ),
      { numRuns: runs(60) },
    )
  })
  it('runs the short way over a box that is closed, and round a hole in its roof it hangs', async () => {
    await fc.assert(
      fc.asyncProperty(setting, real(6, 20), real(6, 20), real(2, 4), async (own, wide, deep, hole) => {
        const box = (scope: Scope) =>
          scope.difference(block(scope, own, [0, 0, 0], [wide + 6, deep + 6, 9.1]), [
            block(scope, own, [0, 0, -1], [wide, deep, 7.3]),
          ])
        const closed = await hanging((scope) => [box(scope)])
        expect(closed.regions.map(({ kind }) => kind)).toEqual(['spans'])
        expect(closed.regions[0]!.long / Math.min(wide, deep)).toBeCloseTo(1, 3)
        const holed = await hanging((scope) => [
          scope.difference(box(scope), [block(scope, own, [0, 0, 5], [hole, hole, 9])]),
        ])
        // Lines that would run through the hole end at it; the others go by.
        expect(holed.regions.map(({ kind }) => kind).sort()).toEqual(['reaches', 'spans'])
        const free = areaOf(holed.of('reaches'))
        expect(Math.abs(free / (hole * (Math.min(wide, deep) - hole)) - 1)).toBeLessThan(0.25)
        expect(free + areaOf(holed.of('spans'))).toBeCloseTo(wide * deep - hole * hole, 1)
      }),
      { numRuns: runs(40) },
    )
  })
  it('is what closes a level hole at last; its sides before that lean', async () => {
    await fc.assert(
      fc.asyncProperty(setting, real(3, 9), real(4, 15), layers.layerHeight, async (own, radius, deep, layerHeight) => {
        const count = 180
        const round = Array.from({ length: count }, (_, i): [number, number] => [
          radius * Math.cos((2 * Math.PI * i) / count),
          12 + radius * Math.sin((2 * Math.PI * i) / count),
        ])
        const { of } = await hanging(
          (scope) => [
            scope.difference(block(scope, own, [0, 0, 0], [30, deep, 26]), [prism(scope, own, round, [-deep, deep])]),
          ],
          { overhang: 50, layerHeight },
        )
        const last = of('spans').reduce((most, { region }) => Math.max(most, region!.long), 0)
        // Of the round all that leans by more than 50°: 80° of it.
        const told = areaOf(of('reaches')) + areaOf(of('spans'))
        const share = told / ((80 / 360) * 2 * Math.PI * radius * deep)
        expect(share).toBeLessThan(1.01)
        // What closes by less than may lean on each side does not hang.
        expect(share).toBeGreaterThan(last > 0 ? 0.94 : 0.9)
        // It closes over less than is left open two layers before its top.
        expect(last).toBeLessThan(2 * Math.sqrt(2 * radius * 2 * layerHeight))
      }),
      { numRuns: runs(40) },
    )
  })
})

describe('what begins in mid-air', () => {
  it('is told where it begins, with all of its foot', async () => {
    await fc.assert(
      fc.asyncProperty(
        setting,
        real(1, 9),
        fc.tuple(real(1, 5), real(1, 5)),
        layers.layerHeight,
        layers.firstLayer,
        async (own, lift, [w, d], layerHeight, firstLayer) => {
          const { of, regions } = await hanging(
            (scope) => [
              block(scope, own, [-9, 0, 0], [6, 8, 16]),
              block(scope, own, [0, 0, 13], [24, 8, 3]),
              block(scope, own, [5, 1, lift], [w, d, 14 - lift]),
            ],
            { layerHeight, firstLayer },
          )
          const begun = of('begins')
          expect(areaOf(begun)).toBeCloseTo(w * d, 4)
          const [region] = regions.filter(({ kind }) => kind === 'begins')
          expect(region!.low).toBeLessThanOrEqual(lift + 1e-6)
          expect(region!.high).toBeGreaterThanOrEqual(lift - 1e-6)
          // Between the wall and what hangs it is bridged, beyond that it hangs.
          expect(of('spans').length + of('reaches').length).toBeGreaterThan(0)
        },
      ),
      { numRuns: runs(40) },
    )
  })
  it('is what stands on less than a line, as well, as soon as there is room for one; not what stands on the bed, however high', async () => {
    const own: Setting = { turn: 0.3, at: [7.1, -3.3], mirrored: true }
    const tip = await hanging((scope) => [
      block(scope, own, [-8, 0, 0], [4, 4, 9]),
      prism(
        scope,
        own,
        [
          [5.95, 0],
          [6.05, 0],
          [9, 3],
          [3, 3],
        ],
        [-2, 2],
      ),
    ])
    expect(tip.regions.map(({ kind }) => kind)).toEqual(['begins'])
    const lifted = await hanging((scope) => [block(scope, own, [0, 0, 3.37], [9, 9, 4])])
    expect(lifted.regions).toEqual([])
  })
  it('is told however steep its foot is, however near to a wall it hangs, and whatever may lean', async () => {
    await fc.assert(
      fc.asyncProperty(setting, real(5, 40), real(0.3, 2), real(20, 88), async (own, steep, beside, overhang) => {
        const half = 3 * Math.tan((steep * Math.PI) / 180)
        const { of, regions } = await hanging(
          (scope) => [
            block(scope, own, [-10, 0, 0], [6, 8, 16]),
            block(scope, own, [0, 0, 13], [26, 8, 3]),
            // A wedge that hangs by its back, its edge down.
            prism(
              scope,
              own,
              [
                [-7 + beside + half, 6],
                [-7 + beside, 9],
                [-7 + beside, 14],
                [-7 + beside + 2 * half, 14],
                [-7 + beside + 2 * half, 9],
              ],
              [-2, 2],
            ),
          ],
          { overhang },
        )
        expect(regions.filter(({ kind }) => kind === 'begins').length).toBe(1)
        expect(areaOf(of('begins'))).toBeGreaterThan(0)
      }),
      { numRuns: runs(60) },
    )
  })
  it('is told where everything may lean', async () => {
    const own: Setting = { turn: 1.1, at: [0, 0], mirrored: false }
    const made = (scope: Scope) => [
      block(scope, own, [-9, 0, 0], [6, 8, 16]),
      block(scope, own, [0, 0, 13], [24, 8, 3]),
      block(scope, own, [5, 1, 4.4], [3, 3, 9]),
    ]
    expect((await hanging(made, { overhang: 90 })).regions.map(({ kind }) => kind)).toEqual(['begins'])
    expect((await hanging(made, { overhang: 0 })).of('begins')).not.toEqual([])
  })
})
