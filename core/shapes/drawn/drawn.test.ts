import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type AnyValues, defaultFields, isNumberField } from '../../fields/index.ts'
import type { Kernel, Solid } from '../../kernel/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { add, cross, norm, scaled, subtract, type Vec3 } from '../../place/index.ts'
import { arcBetween, type Drawn, lengthOf, line, type Segment } from '../../plane/index.ts'
import { testKernel } from '../../testing/index.ts'
import { circleCurve, drawnOf, polygonCurves, rectangleCurves, sampleOf } from '../../testing/outlines.ts'
import { real, runs } from '../../testing/sample.ts'
import { itInTurn } from '../../testing/turns.ts'
import { shapeOf } from '../index.ts'
import { skinned } from './skin.ts'

const kernel = await testKernel()

function valuesOf(kind: string, values: AnyValues): AnyValues {
  const { fields } = shapeOf(kind)!
  const plain = Object.entries(defaultFields(fields)).map(([name, text]) => {
    const field = fields[name]!
    if (field.kind === 'outline' || field.kind === 'sections') return [name, sampleOf(kind, name)]
    return [name, isNumberField(field) ? Number(text) : text]
  })
  return { ...Object.fromEntries(plain), ...values }
}

interface Options {
  readonly fineness?: number
  readonly cuts?: boolean
  readonly look?: (solid: Solid) => void
  readonly material?: (scope: Parameters<Parameters<Kernel['scope']>[0]>[0]) => Solid
}

/** Volume and extents of a sound solid; what is impossible or cannot be built throws. */
function made(kind: string, own: AnyValues, { fineness = 0.01, cuts = false, look, material }: Options = {}) {
  const shape = shapeOf(kind)!
  const values = valuesOf(kind, own)
  const fault = shape.impossible?.(values)
  if (fault) throw new Error(`${fault.field}: ${fault.detail}`)
  return kernel.scope((scope) => {
    const context = { scope, fineness, cuts, through: 20, overlap: 0.005, up: [0, 0, 1] as const }
    const solid = shape.solid(values, material ? { ...context, material: material(scope) } : context)
    const figures = meshFigures(solid.mesh())
    expect([figures.closed, figures.oriented]).toEqual([true, true])
    look?.(solid)
    return { volume: solid.volume(), bounds: solid.bounds()!, solids: figures.solids, triangles: solid.triangleCount() }
  })
}
const box = (x: number, y: number, w: number, h: number): Drawn => drawnOf(rectangleCurves(x, y, w, h))
const disc = (r: number, x = 0, y = 0): Drawn => drawnOf([circleCurve([x, y], r)])

describe('extrude', () => {
  it('has the volume of its area and height, holes left out', () => {
    const plate = drawnOf([
      ...rectangleCurves(-20, -10, 40, 20),
      ...polygonCurves([
        [-5, -5],
        [5, -5],
        [5, 5],
        [-5, 5],
      ]).map((c) => ({ ...c, id: `h${c.id}` })),
    ])
    expect(made('extrude', { outline: plate, height: 6.35 }).volume).toBeCloseTo(700 * 6.35, 8)
    const { bounds } = made('extrude', { outline: plate, height: 6.35 })
    expect(bounds.max[2]).toBe(6.35)
    expect(bounds.min[2]).toBe(0)
  })
  it('goes to both sides of its plane', () => {
    const { bounds } = made('extrude', { outline: box(0, 0, 4, 4), height: 10, reach: 'both' })
    expect([bounds.min[2], bounds.max[2]]).toEqual([-5, 5])
  })
  it('comes to the volume of its true curves as the fineness shrinks', () => {
    const whole = Math.PI * 100 * 3
    const error = (fineness: number, cuts: boolean) =>
      made('extrude', { outline: disc(10), height: 3 }, { fineness, cuts }).volume / whole - 1
    // What is added never grows beyond them, what is cut never falls short.
    expect(error(0.01, false)).toBeLessThan(0)
    expect(error(0.01, true)).toBeGreaterThan(0)
    for (const cuts of [false, true]) expect(Math.abs(error(0.000005, cuts))).toBeLessThan(1e-6)
    expect(error(0.0025, false) / error(0.01, false)).toBeLessThan(0.4)
  })
  it('tapers to the frustum of its draft, and outwards', () => {
    const [a, b, h] = [40, 20, 10]
    const t = Math.tan((10 * Math.PI) / 180)
    const area = (z: number, sign: number) => (a - sign * 2 * z * t) * (b - sign * 2 * z * t)
    for (const sign of [1, -1]) {
      const exact = (h / 6) * (area(0, sign) + 4 * area(h / 2, sign) + area(h, sign))
      expect(made('extrude', { outline: box(0, 0, a, b), height: h, taper: sign * 10 }).volume).toBeCloseTo(exact, 6)
    }
  })
  it('is as wide as its leaning sides reach, at sharp corners too', () => {
    const wedge = drawnOf(
      polygonCurves([
        [0, 0],
        [20, 4],
        [0, 8],
      ]),
    )
    const more: AnyValues[] = [{}, { ends: 'bevel', end: 1 }, { wall: 'outside', thick: 2 }]
    for (const own of more) {
      const values = { outline: wedge, height: 12, taper: -10, ...own }
      const { bounds } = made('extrude', values)
      const { min, max } = shapeOf('extrude')!.box(valuesOf('extrude', values) as never, 0)
      for (const i of [0, 1, 2])
        expect([bounds.min[i], bounds.max[i]]).toEqual([expect.closeTo(min[i]!, 6), expect.closeTo(max[i]!, 6)])
    }
  })
  it('bevels its ends, also where a rounded corner is smaller than the bevel', () => {
    const [a, b, h, s] = [40, 20, 10, 2]
    const area = (i: number) => (a - 2 * i) * (b - 2 * i)
    const end = (s / 6) * (area(0) + 4 * area(s / 2) + area(s))
    expect(made('extrude', { outline: box(0, 0, a, b), height: h, ends: 'bevel', end: s }).volume).toBeCloseTo(
      area(0) * (h - s) + end,
      6,
    )
    expect(made('extrude', { outline: box(0, 0, a, b), height: h, ends: 'both-bevel', end: s }).volume).toBeCloseTo(
      area(0) * (h - 2 * s) + 2 * end,
      6,
    )
    const r = 1
    const rounded = drawnOf([
      { id: 'a', segments: [line([0, 0], [a, 0])] },
      { id: 'b', segments: [line([a, 0], [a, b - r])] },
      { id: 'c', segments: [arcBetween([a - r, b - r], [a, b - r], [a - r, b], true)] },
      { id: 'd', segments: [line([a - r, b], [0, b])] },
      { id: 'e', segments: [line([0, b], [0, 0])] },
    ])
    const { volume, bounds } = made(
      'extrude',
      { outline: rounded, height: h, ends: 'bevel', end: s },
      { fineness: 0.001 },
    )
    // Within the corner of radius r the inset is a quarter disc less, until nothing of it is left.
    const corner = (i: number) => (i < r ? (r - i) ** 2 * (1 - Math.PI / 4) : 0)
    const missing = Array.from({ length: 2000 }, (_, i) => corner(((i + 0.5) * s) / 2000) * (s / 2000)).reduce(
      (x, y) => x + y,
      0,
    )
    expect(volume).toBeCloseTo((area(0) - corner(0)) * (h - s) + end - missing, 1)
    expect(bounds.max[0]).toBeCloseTo(a, 9)
  })
  it('raises each body by itself, islands in holes too', () => {
    const square = (half: number, x: number, name: string) =>
      rectangleCurves(x - half, -half, 2 * half, 2 * half).map((curve) => ({ ...curve, id: `${name}${curve.id}` }))
    const frustum = (half: number, high: number, lean: number) => {
      const top = half - high * lean
      return (high / 3) * 4 * (half * half + half * top + top * top)
    }
    const targets = (x: number, name: string) => [20, 15, 10, 5].flatMap((half, i) => square(half, x, `${name}${i}`))
    const lean = Math.tan((10 * Math.PI) / 180)
    const one = made('extrude', { outline: drawnOf(targets(0, 'a')), height: 3, taper: 10 })
    const wanted = frustum(20, 3, lean) - frustum(15, 3, -lean) + frustum(10, 3, lean) - frustum(5, 3, -lean)
    expect(one.volume / wanted).toBeCloseTo(1, 9)
    expect(one.solids).toBe(2)
    const both = drawnOf([...targets(0, 'a'), ...targets(50, 'b')])
    const ends = { height: 3, ends: 'round', end: 1 }
    const [single, pair] = [drawnOf(targets(0, 'a')), both].map((outline) => made('extrude', { outline, ...ends }))
    expect(pair!.volume / single!.volume).toBeCloseTo(2, 9)
    expect(pair!.triangles).toBe(2 * single!.triangles)
  })
  it('rounds its ends', () => {
    const [r, h, e] = [10, 8, 3]
    // A disc with a quarter round: a cylinder, and a torus segment about it (Pappus).
    const exact =
      Math.PI * r * r * (h - e) +
      Math.PI * (r - e) ** 2 * e +
      2 * Math.PI * ((Math.PI * e * e) / 4) * (r - e + (4 * e) / (3 * Math.PI))
    const { volume } = made('extrude', { outline: disc(r), height: h, ends: 'round', end: e }, { fineness: 0.0005 })
    expect(volume / exact).toBeCloseTo(1, 3)
    expect(volume).toBeLessThan(exact)
  })
  it('keeps its volume when it is twisted', () => {
    const { volume } = made('extrude', { outline: box(-5, -3, 10, 6), height: 20, twist: 90 }, { fineness: 0.002 })
    expect(volume / (60 * 20)).toBeCloseTo(1, 2)
  })
  it('makes a wall along lines, closed and open', () => {
    const wall = (kind: string) =>
      made('extrude', { outline: box(0, 0, 40, 20), height: 5, wall: kind, thick: 2 }).volume
    expect(wall('inside')).toBeCloseTo((800 - 36 * 16) * 5, 6)
    expect(wall('outside')).toBeCloseTo((44 * 24 - 800) * 5, 6)
    expect(wall('middle')).toBeCloseTo((42 * 22 - 38 * 18) * 5, 6)
    const open = drawnOf(
      polygonCurves(
        [
          [0, 0],
          [20, 0],
          [20, 10],
        ],
        false,
      ),
    )
    expect(made('extrude', { outline: open, height: 5, wall: 'middle', thick: 2 }).volume).toBeCloseTo(60 * 5, 6)
    expect(() => made('extrude', { outline: open, height: 5 })).toThrow(/closes off no region/)
  })
  it('of walls knows how far its sharp corners reach', () => {
    const wedge = drawnOf(
      polygonCurves([
        [0, 0],
        [40, 0],
        [0, 12],
      ]),
    )
    const shape = shapeOf('extrude')!
    for (const wall of ['outside', 'middle']) {
      const values = valuesOf('extrude', { outline: wedge, height: 5, wall, thick: 3 })
      const { bounds } = made('extrude', { outline: wedge, height: 5, wall, thick: 3 })
      expect(shape.reach!(values, [1, 0, 0])).toBeCloseTo(bounds.max[0], 2)
      expect(shape.box(values, 0).max[1]).toBeCloseTo(bounds.max[1], 2)
    }
  })
  it('tells where its sides run into each other', () => {
    expect(() => made('extrude', { outline: box(0, 0, 40, 4), height: 20, taper: 20 })).toThrow(/run into each other/)
    expect(() => made('extrude', { outline: box(0, 0, 40, 4), height: 2, ends: 'bevel', end: 3 })).toThrow(/edges take/)
  })
})

describe('cut-out', () => {
  it('goes through, or to its depth, and out of its face', () => {
    const { bounds, volume } = made('cutout', { outline: box(0, 0, 4, 4), reach: 'blind', depth: 3 }, { cuts: true })
    expect([bounds.min[2], bounds.max[2]]).toEqual([-3, expect.closeTo(0.005, 9)])
    expect(volume).toBeCloseTo(16 * 3.005, 8)
    expect(made('cutout', { outline: box(0, 0, 4, 4), reach: 'through' }, { cuts: true }).bounds.min[2]).toBe(-20)
  })
  it('leans inwards or outwards on the way down, and keeps its size at the mouth', () => {
    const pocket = { outline: box(-5, -5, 10, 10), reach: 'blind', depth: 3 }
    const frustum = (mouth: number, floor: number) => mouth ** 2 + floor ** 2 + mouth * floor
    const inwards = made('cutout', { ...pocket, taper: 45 }, { cuts: true })
    expect(inwards.volume).toBeCloseTo(frustum(10, 4) + 100 * 0.005, 4)
    const outwards = made('cutout', { ...pocket, taper: -45 }, { cuts: true })
    expect(outwards.volume).toBeCloseTo(frustum(10, 16) + 100 * 0.005, 4)
    expect([outwards.bounds.min, outwards.solids]).toEqual([[-8, -8, -3], 1])
    expect(() => made('cutout', { ...pocket, depth: 6, taper: 45 }, { cuts: true })).toThrow(/run into each other/)
    expect(made('cutout', { ...pocket, reach: 'through', taper: 5 }, { cuts: true }).bounds.min[2]).toBeCloseTo(-20, 6)
  })
  it('refuses a wall whose sides lean through each other', () => {
    // 1.2 wide at the mouth, and each side leans in by more than all of that.
    expect(() =>
      made('cutout', { outline: box(0, 0, 40, 20), reach: 'blind', depth: 10, taper: 10, wall: 'inside' }),
    ).toThrow(/run into each other/)
  })
  it('follows lines as a groove, open ones too', () => {
    const ring = { outline: box(0, 0, 10, 10), reach: 'blind', depth: 3, wall: 'inside', thick: 1 }
    expect(made('cutout', ring, { cuts: true }).volume).toBeCloseTo(36 * 3.005, 6)
    const line = drawnOf(
      polygonCurves(
        [
          [0, 0],
          [20, 0],
        ],
        false,
      ),
    )
    expect(() => made('cutout', { outline: line }, { cuts: true })).toThrow(/closes off no region/)
    const groove = made('cutout', { outline: line, wall: 'middle', thick: 2 }, { cuts: true })
    expect(groove.bounds.min).toEqual([0, -1, -20])
    expect(groove.volume).toBeCloseTo(20 * 2 * (groove.bounds.max[2] + 20), 6)
  })
})

describe('revolve', () => {
  const collar = box(5, 0, 6, 9)
  const exact = Math.PI * (121 - 25) * 9
  it('has no surface of what lies in its axis, and one of each other line', () => {
    const sides = (outline: typeof collar) => {
      const { all } = shapeOf('revolve')!.surfaces(valuesOf('revolve', { outline }) as never)
      return all.map(({ name }) => name).filter((name) => name.startsWith('side '))
    }
    expect([sides(collar).length, sides(box(0, 0, 6, 9)).length]).toEqual([4, 3])
  })
  it('has the volume that Pappus gives, whole and in part', () => {
    const { volume } = made('revolve', { outline: collar }, { fineness: 0.0005 })
    expect(volume / exact).toBeCloseTo(1, 3)
    const quarter = made('revolve', { outline: collar, angle: 90 }, { fineness: 0.0005 })
    expect(quarter.volume / exact).toBeCloseTo(0.25, 3)
    const fine = (fineness: number) => Math.abs(made('revolve', { outline: collar }, { fineness }).volume / exact - 1)
    expect(fine(0.000005)).toBeLessThan(1e-6)
  })
  it('leaves its bore as wide as it is drawn', () => {
    made(
      'revolve',
      { outline: collar },
      {
        fineness: 0.05,
        look: (solid) => {
          // A pin of the bore's radius touches the flats and meets no material.
          kernel.scope((scope) => {
            const pin = scope.cylinder(9, 5 - 1e-6, 5 - 1e-6, 400)
            expect(scope.intersection([solid, pin]).volume()).toBeLessThan(1e-9)
          })
        },
      },
    )
  })
  it('turns about any line of the drawing, on either side of it', () => {
    for (const x of [5, -11])
      expect(made('revolve', { outline: box(x, 0, 6, 9) }, { fineness: 0.0005 }).volume / exact).toBeCloseTo(1, 3)
    const about = drawnOf(rectangleCurves(0, 5, 9, 6))
    expect(made('revolve', { outline: about, axis: 'x-axis' }, { fineness: 0.0005 }).volume / exact).toBeCloseTo(1, 3)
    const own = drawnOf(rectangleCurves(20, 0, 6, 9), { lines: new Map([['l9', line([15, 0], [15, 30])]]) })
    expect(made('revolve', { outline: own, axis: 'l9' }, { fineness: 0.0005 }).volume / exact).toBeCloseTo(1, 3)
  })
  it('has as many flats as are asked for, over corners or across flats', () => {
    const post = box(0, 0, 10, 4)
    const six = (over: string) => made('revolve', { outline: post, surface: 'flats', flats: 6, over }).volume
    expect(six('corners')).toBeCloseTo(((3 * Math.sqrt(3)) / 2) * 100 * 4, 6)
    expect(six('flats')).toBeCloseTo(2 * Math.sqrt(3) * 100 * 4, 6)
  })
  it('stands on a flat base that is cut off its foot', () => {
    const half: Segment = arcBetween([0, 0], [0, -10], [0, 10], true)
    const ball = drawnOf([
      { id: 'a', segments: [half] },
      { id: 'b', segments: [line([0, 10], [0, -10])] },
    ])
    const whole = (4 / 3) * Math.PI * 1000
    const cap = (Math.PI * 9 * (30 - 3)) / 3
    expect(made('revolve', { outline: ball }, { fineness: 0.001 }).volume / whole).toBeCloseTo(1, 3)
    const { volume, bounds } = made('revolve', { outline: ball, base: 3 }, { fineness: 0.001 })
    expect(volume / (whole - cap)).toBeCloseTo(1, 3)
    expect(bounds.min[2]).toBeCloseTo(-7, 9)
  })
  it('is hollow where it is made a wall: its axis is no wall', () => {
    const cup = box(0, 0, 10, 20)
    const { volume } = made('revolve', { outline: cup, wall: 'inside', thick: 2 }, { fineness: 0.0005 })
    expect(volume / (Math.PI * (100 * 20 - 64 * 16))).toBeCloseTo(1, 3)
    const open = drawnOf(
      polygonCurves(
        [
          [0, 0],
          [10, 0],
          [10, 20],
        ],
        false,
      ),
    )
    const bowl = made('revolve', { outline: open, wall: 'middle', thick: 2 }, { fineness: 0.0005 })
    // A floor from the axis and a wall up from it, one millimetre to each side of the lines.
    expect(bowl.volume / (Math.PI * (121 * 21 - 81 * 19))).toBeCloseTo(1, 3)
  })
  it('is as wide and high as its wall, about a tip on the axis too', () => {
    const cone = drawnOf(
      polygonCurves([
        [0, 0],
        [12, 0],
        [0, 20],
      ]),
    )
    for (const wall of ['inside', 'middle', 'outside']) {
      const values = { outline: cone, wall, thick: 2 }
      const { bounds } = made('revolve', values, { fineness: 0.002 })
      const { min, max } = shapeOf('revolve')!.box(valuesOf('revolve', values) as never, 0)
      for (const i of [0, 1, 2])
        expect([bounds.min[i], bounds.max[i]]).toEqual([expect.closeTo(min[i]!, 3), expect.closeTo(max[i]!, 3)])
    }
    // A wall of 2 outside of a slope of 12 to 20 is 2 √(1 + (20/12)²) higher at the tip.
    const { max } = shapeOf('revolve')!.box(
      valuesOf('revolve', { outline: cone, wall: 'outside', thick: 2 }) as never,
      0,
    )
    expect(max[2]).toBeCloseTo(20 + 2 * Math.hypot(1, 20 / 12), 9)
  })
  itInTurn(2, 'is smoothed towards the spline that its corners pull, and stays sharp where that is marked', () => {
    const rough = made('revolve', { outline: collar, smooth: 0 }).volume
    const smooth = made('revolve', { outline: collar, smooth: 4 }).volume
    expect(smooth).toBeLessThan(0.95 * rough)
    const finer = made('revolve', { outline: collar, smooth: 5 }).volume
    expect(Math.abs(finer - smooth)).toBeLessThan(0.01 * smooth)
    const sharp = drawnOf(rectangleCurves(5, 0, 6, 9), {
      sharp: [
        [5, 0],
        [11, 0],
        [11, 9],
        [5, 9],
      ],
    })
    expect(made('revolve', { outline: sharp, smooth: 4 }).volume).toBeCloseTo(rough, 6)
    // What is smooth already is not broken up any further than shows.
    const ring = (smooth: number) =>
      made('revolve', { outline: disc(8, 20, 20), smooth, wall: 'inside', thick: 2 }).triangles
    expect(ring(6)).toBe(ring(4))
  })
  it('refuses what crosses or lies on its axis', () => {
    expect(() => made('revolve', { outline: box(-2, 0, 10, 9) })).toThrow(/crosses its axis by 2 mm/)
    expect(() => made('revolve', { outline: collar, axis: 'l7' })).toThrow(/is gone/)
  })
})

describe('sweep', () => {
  const path = (...segments: Segment[]) => drawnOf(segments.map((s, i) => ({ id: `p${i}`, segments: [s] })))
  it('has the volume of its section along its line, round bends too', () => {
    const bend = path(line([0, 0], [20, 0]), arcBetween([20, 10], [20, 0], [30, 10], true), line([30, 10], [30, 25]))
    const long = 20 + 5 * Math.PI + 15
    const { volume, solids } = made('sweep', { outline: box(-2, -1, 4, 2), path: bend }, { fineness: 0.0005 })
    expect(volume / (8 * long)).toBeCloseTo(1, 4)
    expect(solids).toBe(1)
  })
  it('is mitred at corners', () => {
    const { volume, bounds } = made('sweep', {
      outline: box(-2, -1, 4, 2),
      path: path(line([0, 0], [20, 0]), line([20, 0], [20, 15])),
    })
    expect(volume).toBeCloseTo(8 * 35, 6)
    expect(bounds.max[0]).toBeCloseTo(22, 6)
  })
  itInTurn(2, 'closes round a closed line', () => {
    const { volume } = made('sweep', { outline: disc(1), path: disc(10) }, { fineness: 0.0002 })
    expect(volume / (2 * Math.PI ** 2 * 10)).toBeCloseTo(1, 3)
  })
  it('turns its section on the way, or holds it facing one way', () => {
    const straight = path(line([0, 0], [30, 0]))
    const { volume, bounds } = made(
      'sweep',
      { outline: box(-4, -1, 8, 2), path: straight, twist: 90 },
      { fineness: 0.0005 },
    )
    expect(volume / (16 * 30)).toBeCloseTo(1, 3)
    expect(bounds.max[2]).toBeCloseTo(Math.sqrt(17), 3)
    const slant = path(line([0, 0], [30, 0]), line([30, 0], [50, 10]))
    const held = made('sweep', { outline: box(-4, -1, 8, 2), path: slant, hold: 'steady' })
    // Sheared: as long as it goes forward.
    expect(held.volume).toBeCloseTo(16 * 50, 6)
  })
  it('refuses a bend that its section does not fit, and a line that comes too near to itself', () => {
    const tight = path(line([0, 0], [20, 0]), arcBetween([20, 2], [20, 0], [22, 2], true))
    expect(() => made('sweep', { outline: box(-4, -1, 8, 2), path: tight })).toThrow(/overlaps itself/)
    const back = path(
      line([0, 0], [40, 0]),
      arcBetween([40, 5], [40, 0], [40, 10], true),
      line([40, 10], [10, 10]),
      arcBetween([10, 5.5], [10, 10], [10, 1], true),
    )
    expect(() => made('sweep', { outline: box(-2, -1, 4, 2), path: back })).toThrow(/overlaps itself/)
  })
})

describe('helix', () => {
  it('has the volume of its section along its turns', () => {
    const spring = { outline: box(-1, -0.8, 2, 1.6), diameter: 20, pitch: 4, turns: 3.25 }
    for (const hand of ['right', 'left']) {
      const { volume, bounds } = made('helix', { ...spring, hand }, { fineness: 0.0005 })
      expect(volume / (3.2 * Math.PI * 20 * 3.25)).toBeCloseTo(1, 3)
      expect(bounds.max[2]).toBeCloseTo(13 + 0.8, 6)
    }
    // Square to the way it is as much longer as the way is.
    const square = made('helix', { ...spring, hold: 'following' }, { fineness: 0.0005 })
    expect(square.volume / (3.2 * 3.25 * Math.hypot(Math.PI * 20, 4))).toBeCloseTo(1, 3)
  })
  it('tapers', () => {
    const { bounds } = made('helix', { outline: disc(0.5), diameter: 20, pitch: 4, turns: 4, taper: 20 })
    expect(bounds.max[0]).toBeLessThan(10.51)
    expect(bounds.max[2]).toBeCloseTo(16.5, 2)
  })
  it('is as fine where it is widest as it is asked to be', () => {
    // Opening by 11.7 mm a turn. A chord that stands off by the fineness f loses 4 f / 3 r of its sector.
    const [turns, pitch, taper, fineness] = [5, 10, -49.5, 0.05]
    const step = pitch * Math.tan((-taper * Math.PI) / 180)
    const middle = 10 + (step * turns) / 2
    const cone = { outline: box(-1.5, -1, 3, 2), diameter: 20, pitch, turns, taper }
    const { volume } = made('helix', cone, { fineness })
    const whole = 6 * 2 * Math.PI * turns * middle
    expect(volume).toBeLessThan(whole)
    expect(volume / whole).toBeGreaterThan(1 - (1.4 * fineness) / (10 + step * turns))
  })
  it('refuses turns that overlap, and a section that reaches the axis', () => {
    expect(() => made('helix', { outline: disc(2), diameter: 20, pitch: 4, turns: 3 })).toThrow(
      /is 4(\.0\d)? mm high.*overlap/,
    )
    // On a cone as well, until they move away by as much as they are wide.
    const flat = { outline: disc(2), diameter: 40, pitch: 3.7, turns: 3 }
    expect(() => made('helix', { ...flat, taper: 15.3 })).toThrow(/high along the axis/)
    expect(made('helix', { ...flat, taper: 55 }).solids).toBe(1)
    expect(() => made('helix', { outline: disc(2), diameter: 3, pitch: 6, turns: 3 })).toThrow(/reach its axis/)
    expect(made('helix', { outline: disc(2), diameter: 20, pitch: 4, turns: 0.9 }).solids).toBe(1)
  })
})

describe('ends of what runs along a line', () => {
  /** What the triangles of a solid that are called so come to, mm². */
  const areaOf = (kind: string, values: AnyValues, face: string) => {
    const { at } = shapeOf(kind)!.surfaces(valuesOf(kind, values) as never)
    let area = 0
    made(kind, values, {
      look(solid) {
        const { positions, triangles } = solid.mesh()
        const corner = (i: number): Vec3 => [0, 1, 2].map((k) => positions[3 * triangles[i]! + k]!) as never
        for (let t = 0; t < triangles.length; t += 3) {
          const [a, b, c] = [corner(t), corner(t + 1), corner(t + 2)]
          const twice = cross(subtract(b, a), subtract(c, a))
          if (at(scaled(add(a, add(b, c)), 1 / 3), scaled(twice, 1 / (norm(twice) || 1))) === face)
            area += norm(twice) / 2
        }
      },
    })
    return area
  }
  const angle = (most: number) => real(-most, most)
  it('are flats of the size of the section, wherever it runs and however it is held', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('following', 'steady'),
        ...([angle(180), angle(60), angle(200)] as const),
        (hold, towards, bend, twist) => {
          const at = (deg: number, long: number): [number, number] => [
            long * Math.cos((deg * Math.PI) / 180),
            long * Math.sin((deg * Math.PI) / 180),
          ]
          const [x, y] = at(towards, 30)
          const [dx, dy] = at(towards + bend, 25.4)
          const path = drawnOf([
            { id: 'a', segments: [line([7.3, -2], [7.3 + x, y - 2])] },
            { id: 'b', segments: [line([7.3 + x, y - 2], [7.3 + x + dx, y - 2 + dy])] },
          ])
          const outline = box(-1, -0.8, 3.3, 1.7)
          const values = { outline, path, hold, twist: hold === 'steady' ? 0 : twist }
          for (const face of ['start', 'end']) expect(areaOf('sweep', values, face)).toBeCloseTo(3.3 * 1.7, 3)
        },
      ),
      { numRuns: runs(30) },
    )
    fc.assert(
      fc.property(real(5, 355), real(2, 40), (turned, inner) => {
        const values = { outline: box(inner, -0.8, 3.3, 1.7), angle: turned }
        // Rounds are widened so that their flats keep the volume.
        for (const face of ['start', 'end']) expect(areaOf('revolve', values, face) / (3.3 * 1.7)).toBeCloseTo(1, 2)
      }),
      { numRuns: runs(30) },
    )
    fc.assert(
      fc.property(
        ...([fc.constantFrom('right', 'left'), fc.constantFrom('upright', 'following')] as const),
        ...([real(0.3, 3), angle(30)] as const),
        (hand, hold, turns, taper) => {
          const values = { outline: box(-1, -0.8, 3.3, 1.7), diameter: 40, pitch: 6, turns, taper, hand, hold }
          for (const face of ['start', 'end']) expect(areaOf('helix', values, face)).toBeCloseTo(3.3 * 1.7, 3)
        },
      ),
      { numRuns: runs(30) },
    )
  })
  it('are none round a closed line', () => {
    expect(areaOf('sweep', { outline: disc(1), path: disc(10) }, 'start')).toBe(0)
  })
  it('are the face and the back of what is wrapped', () => {
    const outline = box(-5, -2, 10, 4)
    for (const wrap of ['outside', 'inside']) {
      const values = { outline, depth: 0.8, wrap, round: 30 }
      const r = wrap === 'outside' ? 15.8 : 14.2
      expect(areaOf('emboss', values, 'face') / ((40 * r) / 15)).toBeCloseTo(1, 2)
      expect(areaOf('emboss', values, 'back') / 40).toBeCloseTo(1, 2)
    }
  })
})

describe('loft', () => {
  const through = (...sections: readonly (readonly [Drawn, number])[]) => ({
    sections: sections.map(([outline, height]) => ({ outline, height })),
  })
  it('between squares is a frustum, and between unlike outlines has both at its ends', () => {
    const { volume } = made('loft', through([box(-10, -10, 20, 20), 0], [box(-5, -5, 10, 10), 12]))
    expect(volume).toBeCloseTo((12 / 3) * (400 + 100 + 200), 5)
    const { bounds, solids } = made('loft', through([box(-10, -10, 20, 20), 0], [disc(4), 15]), {
      look: (solid) =>
        kernel.scope((scope) => {
          expect(scope.slice(solid, 1e-4).area).toBeCloseTo(400, 1)
          expect(scope.slice(solid, 15 - 1e-4).area).toBeCloseTo(16 * Math.PI, 0)
        }),
    })
    expect([bounds.min[2], bounds.max[2], solids]).toEqual([0, 15, 1])
  })
  it('leads drawn corners into drawn corners, whatever the sides are like', () => {
    const { volume } = made('loft', through([box(-15, -12, 30, 24), 0], [box(-9, -7, 18, 14), 22]))
    // A prismatoid: its middle section is 24 by 19.
    expect(volume).toBeCloseTo((22 / 6) * (720 + 4 * 24 * 19 + 252), 4)
    // The corners of a hexagon and of one half as long, both beginning to the right.
    const hexagon = (x: number, y: number) =>
      drawnOf(
        polygonCurves([
          [x, 0],
          [x / 2, y],
          [-x / 2, y],
          [-x, 0],
          [-x / 2, -y],
          [x / 2, -y],
        ] as const),
      )
    const area = (x: number, y: number) => 3 * x * y
    expect(made('loft', through([hexagon(10, 9), 0], [hexagon(5, 9), 12])).volume).toBeCloseTo(
      (12 / 6) * (area(10, 9) + 4 * area(7.5, 9) + area(5, 9)),
      4,
    )
  })
  it('goes from corner to corner of polygons that are alike, however these are turned, and against each other', () => {
    const polygon = (sides: number, radius: number, turn: number) =>
      drawnOf(
        polygonCurves(
          Array.from({ length: sides }, (_, i) => {
            const rad = ((turn + (360 * i) / sides) * Math.PI) / 180
            return [radius * Math.cos(rad), radius * Math.sin(rad)] as const
          }),
        ),
      )
    const tenths = (most: number) => fc.integer({ min: -10 * most, max: 10 * most }).map((x) => x / 10)
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 7 }), tenths(180), tenths(1), (sides, turn, share) => {
        // By less than half of a side, or it is not told which corner goes on to which.
        const against = share * (170 / sides)
        const volume = (from: number, by: number) =>
          made('loft', through([polygon(sides, 10.1, from), 0], [polygon(sides, 5.3, from + by), 12])).volume
        expect(volume(turn, against)).toBeCloseTo(volume(3, against), 3)
        const area = (radius: number) => (sides / 2) * radius ** 2 * Math.sin((2 * Math.PI) / sides)
        expect(volume(turn, 0)).toBeCloseTo((12 / 6) * (area(10.1) + 4 * area(7.7) + area(5.3)), 3)
      }),
      { numRuns: runs(80) },
    )
  })
  it('is what it is also where one section has corners on its sides', () => {
    // The same rectangle twice: its sides above are in pieces of unlike lengths.
    const broken = drawnOf(
      polygonCurves([
        [-15, -12],
        [-2.7, -12],
        [15, -12],
        [15, 7.3],
        [15, 12],
        [-15, 12],
        [-15, 11.1],
        [-15, -3],
      ]),
    )
    for (const [below, above] of [
      [box(-15, -12, 30, 24), broken],
      [broken, box(-15, -12, 30, 24)],
    ] as const)
      expect(made('loft', through([below, 0], [above, 22])).volume).toBeCloseTo(30 * 24 * 22, 6)
  })
  it('is the mirror image of itself between mirror images', () => {
    const mirrored = (points: readonly (readonly [number, number])[]) => points.map(([x, y]) => [x, -y] as const)
    const below = [
      [-15.3, -8],
      [12, -9.1],
      [14, 6],
      [-3, 11.7],
    ] as const
    const above = [
      [-9, -7],
      [2.2, -8.3],
      [8.1, -1],
      [7, 6.6],
      [0.4, 9],
      [-7.9, 5],
      [-9.9, -2.1],
    ] as const
    const volume = (one: readonly (readonly [number, number])[], other: readonly (readonly [number, number])[]) =>
      made('loft', through([drawnOf(polygonCurves(one as never)), 0], [drawnOf(polygonCurves(other as never)), 20]))
        .volume
    // Its warped patches are halved by other diagonals.
    expect(volume(mirrored(below), mirrored(above)) / volume(below, above)).toBeCloseTo(1, 3)
  })
  it('through three runs smoothly where that is asked for', () => {
    const vase = [
      [disc(5), 0],
      [disc(10), 10],
      [disc(5), 20],
    ] as const
    const straight = made('loft', through(...vase)).volume
    const cone = 2 * ((Math.PI * 10) / 3) * (25 + 100 + 50)
    expect(straight / cone).toBeCloseTo(1, 2)
    const smooth = made('loft', { ...through(...vase), way: 'smooth' }).volume
    expect(smooth).toBeGreaterThan(straight * 1.02)
    // The same wherever it begins.
    const lifted = vase.map(([outline, height]) => [outline, height + 31.7] as const)
    expect(made('loft', { ...through(...lifted), way: 'smooth' }).volume).toBeCloseTo(smooth, 3)
  })
  it('is led round, and keeps the volume of a prism then', () => {
    const prism = through([box(-5, -5, 10, 10), 0], [box(-5, -5, 10, 10), 20])
    expect(made('loft', { ...prism, twist: 45 }, { fineness: 0.001 }).volume / 2000).toBeCloseTo(1, 2)
    // By as much as is said from its first section on, at whatever height that lies.
    const bar = box(-6, -1.5, 12, 3)
    const turned = (low: number) =>
      made('loft', { ...through([bar, low], [bar, low + 18.6]), twist: 45 }, { fineness: 0.001 })
    for (const low of [0, 3.1]) {
      const { bounds, volume } = turned(low)
      expect(volume / (36 * 18.6)).toBeCloseTo(1, 2)
      expect(bounds.max[1]).toBeCloseTo(7.5 * Math.SQRT1_2, 3)
      expect([bounds.min[2], bounds.max[2]]).toEqual([expect.closeTo(low, 6), expect.closeTo(low + 18.6, 6)])
    }
  })
  it('keeps holes, which go on to the nearest of the next section, and several regions', () => {
    const square = (x: number, size: number) => rectangleCurves(x - size, -size, 2 * size, 2 * size)
    const tube = (outer: number, ...holes: readonly (readonly [number, number])[]) =>
      drawnOf([...square(0, outer), ...holes.flatMap(([x, size]) => square(x, size))])
    const frustum = (a: number, b: number, height: number) => (height / 3) * (4 * a * a + 4 * b * b + 4 * a * b)
    // The holes are drawn in the other order above.
    const { volume, solids } = made('loft', through([tube(10, [-5, 2], [5, 3]), 0], [tube(8, [4, 1], [-4, 2]), 12]))
    expect(volume).toBeCloseTo(frustum(10, 8, 12) - frustum(2, 2, 12) - frustum(3, 1, 12), 4)
    expect(solids).toBe(1)
    const apart = drawnOf([...square(-8, 2), ...square(8, 2)])
    expect(made('loft', through([apart, 0], [apart, 5], [apart, 9])).volume).toBeCloseTo(2 * 16 * 9, 4)
  })
  it('refuses sections with other holes, loops that cross on the way, and heights that do not rise', () => {
    const ring = drawnOf([circleCurve([0, 0], 8), circleCurve([0, 0], 4, 'c2')])
    expect(() => made('loft', through([ring, 0], [disc(4), 9]))).toThrow(/1 closed lines, 0 of them round holes/)
    const fork = (up: 1 | -1) =>
      drawnOf(
        polygonCurves(
          [
            [-9, -9],
            [9, -9],
            [9, 9],
            [6, 9],
            [6, -6],
            [-6, -6],
            [-6, 9],
            [-9, 9],
          ].map(([x, y]) => [up * x!, up * y!] as const),
        ),
      )
    expect(() => made('loft', through([fork(1), 0], [fork(-1), 9]))).toThrow(/cross each other/)
    expect(() => made('loft', through([disc(4), 5], [disc(3), 5]))).toThrow(/higher/)
  })
})

describe('wrapped outlines and ribs', () => {
  it('a wrapped outline is as long on the wall as it was drawn', () => {
    const [w, h, d, r] = [12, 8, 1, 15]
    const sink = made(
      'emboss',
      { outline: box(-w / 2, -h / 2, w, h), depth: d, round: 2 * r },
      { cuts: true, fineness: 0.001 },
    )
    // Its sector between the radii r − d and r, with what it reaches out of the wall.
    const sector = (a: number, b: number) => ((w / r) * (b * b - a * a) * h) / 2
    expect(sink.volume).toBeCloseTo(sector(r - d, r + 0.006), 0)
    for (const wrap of ['outside', 'inside']) {
      const values = { outline: box(-10, 0, 50, 8), depth: d, round: 2 * r, wrap }
      const { bounds } = made('emboss', values, { fineness: 0.001 })
      const { min, max } = shapeOf('emboss')!.box(valuesOf('emboss', values) as never, 0)
      for (const i of [0, 1, 2]) {
        expect(bounds.min[i]).toBeGreaterThan(min[i]! - 0.01)
        expect(bounds.max[i]).toBeLessThan(max[i]! + 0.01)
        // It is as large as what is raised and what is sunk together, and no larger.
        expect(bounds.min[i]).toBeLessThan(min[i]! + 2 * d)
        expect(bounds.max[i]).toBeGreaterThan(max[i]! - 2 * d)
      }
    }
    expect(() => made('emboss', { outline: box(0, 0, 100, 8), depth: d, round: 2 * r })).toThrow(/more than once/)
  })
  it('a rib fills the corner between a floor and a wall', () => {
    const free = drawnOf(
      polygonCurves(
        [
          [0, 12],
          [10, 0],
        ],
        false,
      ),
    )
    const corner = (scope: Parameters<NonNullable<Options['material']>>[0]) =>
      scope.union([
        scope.placed(
          scope.extrude(
            [
              [
                [-4, -4],
                [40, -4],
                [40, 0],
                [-4, 0],
              ],
            ],
            30,
          ),
          { origin: [0, 0, -15], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
        ),
        scope.placed(
          scope.extrude(
            [
              [
                [-4, 0],
                [0, 0],
                [0, 40],
                [-4, 40],
              ],
            ],
            30,
          ),
          { origin: [0, 0, -15], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
        ),
      ])
    const { volume, bounds, solids } = made('rib', { outline: free, thick: 3 }, { material: corner })
    expect(volume).toBeCloseTo(60 * 3, 5)
    expect(bounds.min[1]).toBeCloseTo(0, 6)
    expect(solids).toBe(1)
    // The other way lies the wall.
    expect(made('rib', { outline: free, thick: 3, towards: 'left' }, { material: corner }).volume).toBeCloseTo(
      60 * 3,
      5,
    )
    expect(() => made('rib', { outline: free, thick: 3, towards: 'up' }, { material: corner })).toThrow(/meets nothing/)
    const bent = drawnOf([{ id: 'a', segments: [arcBetween([20, 20], [0, 20], [20, 0], true)] }])
    const fillet = made('rib', { outline: bent, thick: 3 }, { material: corner, fineness: 0.0005 })
    expect(fillet.volume / ((400 - 100 * Math.PI) * 3)).toBeCloseTo(1, 3)
  })
})

describe('as the fineness shrinks', () => {
  // Large shapes at a small fineness: what counts is their ratio.
  it('sweeps and helices come to the volume that Pappus gives', () => {
    const bend = drawnOf([{ id: 'p', segments: [arcBetween([0, 100], [0, 0], [100, 100], true)] }])
    const swept = made('sweep', { outline: box(-1, -1, 2, 2), path: bend }, { fineness: 0.0001 })
    expect(Math.abs(swept.volume / (4 * 50 * Math.PI) - 1)).toBeLessThan(1e-6)
    const coil = { outline: box(-1, -1, 2, 2), diameter: 200, pitch: 4, turns: 0.8 }
    const wound = made('helix', coil, { fineness: 0.00005 })
    expect(Math.abs(wound.volume / (4 * Math.PI * 200 * 0.8) - 1)).toBeLessThan(1e-6)
  })
  it('lofts between circles come to the cone, and tapers of circles too', () => {
    const cone = (120 / 3) * Math.PI * (3600 + 900 + 1800)
    const sections = [
      { outline: disc(60), height: 0 },
      { outline: disc(30), height: 120 },
    ]
    const error = (volume: number) => Math.abs(volume / cone - 1)
    const lofted = (fineness: number) => error(made('loft', { sections }, { fineness }).volume)
    expect(lofted(0.002)).toBeLessThan(1e-4)
    expect(lofted(0.002)).toBeLessThan(lofted(0.02) / 4)
    const taper = (Math.atan2(30, 120) * 180) / Math.PI
    expect(error(made('extrude', { outline: disc(60), height: 120, taper }, { fineness: 0.002 }).volume)).toBeLessThan(
      1e-4,
    )
  })
})

describe('a bent line', () => {
  it('is as long as it is', () => {
    expect(lengthOf(arcBetween([0, 0], [5, 0], [0, 5], true))).toBeCloseTo(2.5 * Math.PI, 12)
  })
})

describe('a skin', () => {
  it('is refused where it would be of more triangles than anybody slices, and says how many', () => {
    const ring = (corners: number) =>
      Array.from({ length: corners }, (_, i): [number, number] => [
        Math.cos((2 * Math.PI * i) / corners),
        Math.sin((2 * Math.PI * i) / corners),
      ])
    const skin = (corners: number, sections: number) => ({
      flat: [ring(corners)],
      sections: Array.from({ length: sections }, (_, k) => ring(corners).map(([x, y]): Vec3 => [x, y, k])),
    })
    kernel.scope((scope) => {
      expect(skinned(scope, skin(40, 5)).volume()).toBeCloseTo(4 * 20 * Math.sin(Math.PI / 20), 6)
      // 2 · 3000 · 251 and 2 · 600 · 1251: by corners or by sections.
      for (const [corners, sections] of [
        [3000, 251],
        [600, 1251],
      ] as const)
        expect(() => skinned(scope, skin(corners, sections))).toThrowError(
          expect.objectContaining({
            code: 'too-many-triangles',
            message: expect.stringContaining(` ${2 * corners * sections} `),
          }),
        )
      expect(skinned(scope, skin(1200, 600)).triangleCount()).toBeGreaterThan(1_400_000)
    })
  })
})
