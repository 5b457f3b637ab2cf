import { describe, expect, it } from 'vitest'
import { type AnyValues, defaultFields } from '../fields/index.ts'
import { circumradius, polygonArea, type Ring, segmentsFor } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { ProblemError } from '../problems/index.ts'
import { seeded, testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { inTurn, someOf } from '../testing/sample.ts'
import { anyValues, defaults, given, met } from '../testing/shapes.ts'
import { boxReach, type DimensionLine, flatFaceAt, type ShapeDefinition, shapeOf, shapes } from './index.ts'

const fineness = 0.01
const kernel = await testKernel()

const up: Vec3 = [0, 0, 1]

/** Volume, bounds and soundness of a shape with these values over its defaults. */
function measured(
  kind: string,
  values: AnyValues = {},
  cuts = shapeOf(kind)!.operation === 'cut',
  through = 20,
  fine = fineness,
) {
  const shape = shapeOf(kind)!
  const all = { ...defaults(kind), ...values }
  return kernel.scope((scope) => {
    const solid = shape.solid(all as never, {
      scope,
      fineness: fine,
      cuts,
      through,
      overlap: 0.005,
      up,
      ...met(shape, scope),
    })
    return {
      volume: solid.volume(),
      bounds: solid.bounds()!,
      figures: meshFigures(solid.mesh()),
      /** area of the section 1 mm below the face it enters */
      below: scope.slice(solid, -1).area,
    }
  })
}
/** The middle and the outward normal of each triangle that is no sliver. */
function facetsOf({ positions, triangles }: { positions: Float32Array; triangles: Uint32Array }) {
  const corner = (i: number): Vec3 => [0, 1, 2].map((k) => positions[3 * triangles[i]! + k]!) as unknown as Vec3
  return Array.from({ length: triangles.length / 3 }, (_, t) => {
    const [a, b, c] = [corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)]
    const across = cross(subtract(b, a), subtract(c, a))
    const middle = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as unknown as Vec3
    return { corners: [a, b, c], middle, normal: scaled(across, 1 / (norm(across) || 1)), size: norm(across) }
  }).filter(({ size }) => size > 1e-5)
}
/** Area of the flats that stand for a circle. */
const inside = (diameter: number) => polygonArea(diameter / 2, segmentsFor(diameter / 2, fineness))
const outside = (diameter: number, by = diameter) => {
  const n = segmentsFor(by / 2, fineness, true)
  return polygonArea(circumradius(diameter / 2, n), n)
}

/** A drawn dimension is as long or as wide as its field says, and lies on what the shape takes up. */
function expectDrawn(dimension: DimensionLine, values: AnyValues, shape: ShapeDefinition) {
  const { kind, field } = dimension
  const told = `${shape.kind} ${field} ${JSON.stringify(values)}`
  const { min, max } = shape.box(values, 20)
  const isIn = (p: Vec3) => p.every((x, k) => x > min[k]! - 0.01 && x < max[k]! + 0.01)
  const size = kind === 'linear' ? norm(subtract(dimension.to, dimension.from)) : dimension.radius
  expect(kind === 'diameter' ? 2 * size : size, told).toBeCloseTo(Math.abs(values[field] as number), 6)
  const ends =
    kind === 'linear'
      ? [dimension.from, dimension.to]
      : [add(dimension.centre, scaled(dimension.direction, dimension.radius))]
  expect(ends.map(isIn), told).toEqual(ends.map(() => true))
}

describe('a plate with bevelled corners', () => {
  const [a, b, c] = [40, 30, 6]
  it('loses four triangles', () => {
    const { volume, bounds } = measured('plate', { width: a, depth: b, height: 5, corners: 'bevel', corner: c })
    expect(volume).toBeCloseTo((a * b - 2 * c * c) * 5, 8)
    expect(bounds.max[0]).toBeCloseTo(a / 2, 9)
  })
  it('keeps its bevel square to itself where its upper edge is bevelled too', () => {
    const s = 2
    const { volume } = measured('plate', {
      ...{ width: a, depth: b, height: 5, corners: 'bevel', corner: c, top: 'bevel', topSize: s },
    })
    // Between two octagons the area goes with the square of the inset, so Simpson's rule is exact.
    const area = (i: number) => (a - 2 * i) * (b - 2 * i) - 2 * (c - i * (2 - Math.SQRT2)) ** 2
    const frustum = (s / 6) * (area(0) + 4 * area(s / 2) + area(s))
    expect(volume).toBeCloseTo(area(0) * (5 - s) + frustum, 6)
  })
  it('reaches as far as its corners', () => {
    const values = { ...defaults('plate'), width: a, depth: b, height: 5, corners: 'bevel', corner: c }
    const d = [Math.SQRT1_2, Math.SQRT1_2, 0] as const
    expect(shapeOf('plate')!.reach!(values, d)).toBeCloseTo((a / 2 + b / 2 - c) * Math.SQRT1_2, 9)
  })
})

describe('plate', () => {
  it('has the volume of its sides', () =>
    expect(measured('plate', { width: 84, depth: 44, height: 6 }).volume).toBeCloseTo(84 * 44 * 6, 8))
  it('loses four corners of its radius', () => {
    const corners = 4 * 36 - inside(12)
    expect(measured('plate', { width: 84, depth: 44, height: 6, corner: 6 }).volume).toBeCloseTo(
      (84 * 44 - corners) * 6,
      6,
    )
  })
  it('can be a full round', () => {
    const { volume, figures } = measured('plate', { width: 20, depth: 20, height: 6, corner: 10 })
    expect(volume).toBeCloseTo(inside(20) * 6, 6)
    expect(figures.oriented).toBe(true)
  })
  it('with a bevelled edge is a block with a frustum on it', () => {
    const [a, b, s] = [30, 20, 2]
    const [A1, A2] = [a * b, (a - 2 * s) * (b - 2 * s)]
    // prismatoid: mitred frustum = h/6 (A1 + 4 Am + A2)
    const frustum = (s / 6) * (A1 + 4 * (a - s) * (b - s) + A2)
    expect(measured('plate', { width: a, depth: b, height: 5, top: 'bevel', topSize: s }).volume).toBeCloseTo(
      a * b * 3 + frustum,
      6,
    )
    expect(
      measured('plate', { width: a, depth: b, height: 5, top: 'bevel', topSize: s, bottom: 'bevel', bottomSize: s })
        .volume,
    ).toBeCloseTo(a * b + 2 * frustum, 6)
  })
  it('with a rounded edge comes to the closed form as fineness allows', () => {
    // Layers of (a − 2i)(b − 2i) with i = r − √(r² − z²), integrated over z from 0 to r.
    const [a, b, r] = [30, 20, 3]
    const exact = a * b * r - 2 * (a + b) * r ** 2 * (1 - Math.PI / 4) + 4 * r ** 3 * (5 / 3 - Math.PI / 2)
    const got = measured('plate', { width: a, depth: b, height: 10, top: 'round', topSize: r }).volume - a * b * 7
    // At most a skin of the fineness is missing along the rounded band.
    expect(exact - got).toBeLessThan(2 * (a + b) * ((Math.PI / 2) * r) * fineness)
    expect(got).toBeLessThan(exact)
  })
  it('keeps its outer size whatever its edges', () => {
    const { bounds, figures } = measured('plate', {
      width: 30,
      depth: 20,
      height: 8,
      corner: 5,
      top: 'round',
      topSize: 2,
      bottom: 'bevel',
      bottomSize: 1,
    })
    expect(bounds).toEqual({ min: [-15, -10, 0], max: [15, 10, 8] })
    expect([figures.closed, figures.oriented, figures.solids]).toEqual([true, true, 1])
  })
})

describe('upright', () => {
  it('is a block, or a block with half a disc on it', () => {
    expect(measured('upright', { thick: 6, width: 40, height: 56 }).volume).toBeCloseTo(6 * 40 * 56, 8)
    expect(measured('upright', { thick: 6, width: 40, height: 56, head: 'round' }).volume).toBeCloseTo(
      6 * (40 * 36 + inside(40) / 2),
      6,
    )
    expect(measured('upright', { thick: 6, width: 40, height: 20, head: 'round' }).volume).toBeCloseTo(
      (6 * inside(40)) / 2,
      6,
    )
  })
})

describe('round bar', () => {
  it('has its true diameter where it adds, and lets its diameter in where it cuts', () => {
    expect(measured('bar', { diameter: 10, height: 20 }).volume).toBeCloseTo(inside(10) * 20, 6)
    expect(measured('bar', { diameter: 10, height: 20 }, true).volume).toBeCloseTo(outside(10) * 20, 6)
  })
  it('tapers to a frustum or a point, either way up', () => {
    const n = segmentsFor(6, fineness)
    const area = (d: number) => polygonArea(d / 2, n)
    const frustum = (20 / 3) * (area(12) + area(6) + Math.sqrt(area(12) * area(6)))
    expect(measured('bar', { diameter: 12, height: 20, form: 'tapered', end: 6 }).volume).toBeCloseTo(frustum, 6)
    expect(measured('bar', { diameter: 6, height: 20, form: 'tapered', end: 12 }).volume).toBeCloseTo(frustum, 6)
    expect(measured('bar', { diameter: 12, height: 20, form: 'tapered', end: 0 }).volume).toBeCloseTo(
      (area(12) * 20) / 3,
      6,
    )
  })
  it('can be a tube that lets its bore in', () => {
    expect(measured('bar', { diameter: 10, height: 20, core: 'tube', bore: 6 }).volume).toBeCloseTo(
      (inside(10) - outside(6)) * 20,
      6,
    )
  })
})

describe('round hole', () => {
  it('takes a pin of its own diameter: no flat comes nearer than its radius', () => {
    kernel.scope((scope) => {
      const shape = shapeOf('hole')!
      const cutter = shape.solid(defaults('hole') as never, {
        scope,
        fineness,
        cuts: true,
        through: 20,
        overlap: 0.005,
        up,
      })
      const pin = scope.placed(scope.cylinder(10, 2.5, 2.5, 360), {
        origin: [0, 0, -15],
        u: [1, 0, 0],
        v: [0, 1, 0],
        n: [0, 0, 1],
      })
      expect(scope.difference(pin, [cutter]).volume()).toBeLessThan(1e-9)
    })
  })
  it('goes as deep as it says below the face', () => {
    expect(measured('hole', { diameter: 5, reach: 'blind', depth: 8 }).volume).toBeCloseTo(outside(5) * 8.005, 5)
    expect(measured('hole', { diameter: 5 }, true, 30).volume).toBeCloseTo(outside(5) * 30.005, 5)
  })
  it('has a countersink of its angle and a counterbore of its depth', () => {
    const n = segmentsFor(5, fineness, true)
    const area = (d: number) => polygonArea(circumradius(d / 2, n), n)
    // It goes on as it is through the face.
    const cone = (2.505 / 3) * (area(10.01) + area(5) + Math.sqrt(area(10.01) * area(5)))
    expect(measured('hole', { mouth: 'countersink', head: 10, angle: 90 }).volume).toBeCloseTo(area(5) * 17.5 + cone, 5)
    expect(measured('hole', { mouth: 'counterbore', head: 10, headDepth: 4 }).volume).toBeCloseTo(
      area(5) * 16 + area(10) * 4.005,
      5,
    )
  })
})

it('a wedge is half of its block', () => {
  expect(measured('wedge', { length: 38, height: 28, thick: 5 }).volume).toBeCloseTo((38 * 28 * 5) / 2, 8)
})

describe('ball', () => {
  const exact = (r: number, from: number, to: number) => {
    // ∫ π (r² − (z − r)²) dz
    const at = (z: number) => Math.PI * (r * z * z - z ** 3 / 3)
    return at(to) - at(from)
  }
  it.each([
    [{ diameter: 20 }, exact(10, 0, 20)],
    [{ diameter: 20, form: 'part', from: 10, to: 20 }, exact(10, 10, 20)],
    [{ diameter: 20, form: 'part', from: 3, to: 8 }, exact(10, 3, 8)],
    [{ diameter: 20, form: 'part', from: 0, to: 14 }, exact(10, 0, 14)],
  ])('%o has its volume, as fineness allows', (values, volume) => {
    const added = measured('ball', values)
    expect(added.volume).toBeLessThan(volume)
    expect(added.volume).toBeGreaterThan(volume - 4 * Math.PI * 100 * 1.1 * fineness)
    // What cuts takes a ball of that size.
    expect(measured('ball', values, true).volume).toBeGreaterThan(volume)
    expect(added.bounds.min[2]).toBeCloseTo(0, 9)
    expect(added.figures.oriented).toBe(true)
  })
  it('in parts has the height of the part', () => {
    const { bounds } = measured('ball', { diameter: 20, form: 'part', from: 3, to: 8 })
    expect(bounds.max[2]).toBeCloseTo(5, 9)
    expect(bounds.max[0]).toBeLessThanOrEqual(Math.sqrt(100 - 4) + 1e-9)
  })
})

describe('prism', () => {
  it.each([
    [6, 'flats', 13, (Math.sqrt(3) / 2) * 169],
    [6, 'corners', 10, ((3 * Math.sqrt(3)) / 2) * 25],
    [4, 'flats', 8, 64],
    [3, 'corners', 10, ((3 * Math.sqrt(3)) / 4) * 25],
  ])('of %d sides across %s %d has its area', (sides, across, size, area) => {
    expect(measured('prism', { sides, across, size, height: 7 }).volume).toBeCloseTo(area * 7, 6)
  })
  it('lies between its flats, or between its corners, from front to back', () => {
    expect(measured('prism', { sides: 6, size: 13 }).bounds.max[1]).toBeCloseTo(6.5, 9)
    expect(measured('prism', { sides: 6, size: 13, front: 'corner' }).bounds.max[1]).toBeCloseTo(13 / Math.sqrt(3), 6)
    expect(measured('prism', { sides: 6, size: 13, front: 'corner' }).bounds.max[0]).toBeCloseTo(6.5, 9)
  })
})

describe('pyramid', () => {
  const prismatoid = (h: number, a: number, m: number, b: number) => (h / 6) * (a + 4 * m + b)
  it.each([
    [{}, (20 * 20 * 15) / 3],
    [{ topWidth: 10, topDepth: 6 }, prismatoid(15, 400, 15 * 13, 60)],
    [{ topWidth: 12, topDepth: 0 }, prismatoid(15, 400, 16 * 10, 0)],
    [{ topWidth: 30, topDepth: 30 }, prismatoid(15, 400, 625, 900)],
  ])('%o is a prismatoid', (values, volume) => expect(measured('pyramid', values).volume).toBeCloseTo(volume, 6))
})

describe('ring', () => {
  it('of round section comes to Pappus’ volume as fineness allows', () => {
    const [R, r] = [12.5, 2.5]
    const exact = 2 * Math.PI ** 2 * R * r * r
    const { volume, bounds, figures } = measured('ring', { diameter: 30, thick: 5 })
    // Its surface is 4 π² R r; a skin of the fineness at most is missing.
    expect(Math.abs(volume - exact)).toBeLessThan(4 * Math.PI ** 2 * R * r * fineness)
    expect(bounds.max[2] - bounds.min[2]).toBeCloseTo(5, 9)
    expect(figures.solids).toBe(1)
  })
  it('of square section is a tube whose eye takes what it says', () => {
    const n = segmentsFor(15, fineness, true)
    const area = polygonArea(15, n) - polygonArea(circumradius(10, n), n)
    expect(measured('ring', { diameter: 30, section: 'square', thick: 5, height: 4 }).volume).toBeCloseTo(area * 4, 6)
  })
})

describe('stadium post and slot', () => {
  it('are a rectangle and a circle', () => {
    expect(measured('post', { length: 30, width: 10, height: 4 }).volume).toBeCloseTo((200 + inside(10)) * 4, 6)
    expect(measured('post', { length: 10, width: 10, height: 4 }).volume).toBeCloseTo(inside(10) * 4, 6)
    // Circumscribed: each half disc begins half a flat in, tangent to the sides.
    const room = measured('slot', { length: 20, width: 5, reach: 'blind', depth: 8 })
    expect(room.below).toBeGreaterThan(15 * 5 + (Math.PI * 25) / 4)
    expect(room.below).toBeLessThan(15 * 5 + (Math.PI * 25) / 4 + Math.PI * 5 * fineness)
    expect(room.volume).toBeCloseTo(room.below * 8.005, 6)
  })
  it('a slot with square ends is its rectangle', () =>
    expect(measured('slot', { length: 20, width: 5, ends: 'square', reach: 'blind', depth: 8 }).volume).toBeCloseTo(
      100 * 8.005,
      6,
    ))
  it('a slot is as wide as it says and takes a pin of its width all along', () => {
    const { bounds } = measured('slot', { length: 20, width: 5 })
    expect(bounds.max[1]).toBeCloseTo(2.5, 9)
    expect(bounds.max[0]).toBeGreaterThanOrEqual(10)
  })
})

describe('teardrop hole', () => {
  const drop = (values: AnyValues, towards: Vec3) =>
    kernel.scope((scope) => {
      const shape = shapeOf('teardrop')!
      const context = { scope, fineness, cuts: true, through: 20, overlap: 0.005, up: towards }
      const solid = shape.solid({ ...defaults('teardrop'), ...values } as never, context)
      return { area: scope.slice(solid, -1).area, bounds: solid.bounds()! }
    })
  const r = 3
  // Three quarters of a disc and the square between its flanks.
  const pointed = 0.75 * Math.PI * r * r + r * r
  it('points up whatever its placing', () => {
    expect(drop({}, [0, 1, 0]).bounds.max[1]).toBeCloseTo(r * Math.SQRT2, 6)
    expect(drop({}, [0, -1, 0]).bounds.min[1]).toBeCloseTo(-r * Math.SQRT2, 6)
    expect(drop({}, [-1, 0, 0]).bounds.min[0]).toBeCloseTo(-r * Math.SQRT2, 6)
  })
  it('has the area of its circle and its roof', () => {
    expect(drop({}, [0, 1, 0]).area).toBeGreaterThan(pointed)
    expect(drop({}, [0, 1, 0]).area).toBeLessThan(pointed + 1.5 * Math.PI * r * fineness + 0.01)
    const cut = (Math.SQRT2 - 1) ** 2 * r * r
    expect(drop({}, [0, 1, 0]).area - drop({ roof: 'flat' }, [0, 1, 0]).area).toBeCloseTo(cut, 6)
    expect(drop({ roof: 'flat' }, [0, 1, 0]).bounds.max[1]).toBeCloseTo(r, 2)
  })
  it('is round in a level face', () => expect(drop({}, [0, 0, 1]).area).toBeCloseTo(outside(6), 6))
})

it('a half-round is half of a bar, and takes one where it cuts', () => {
  expect(measured('half-round', { diameter: 12, length: 30 }).volume).toBeCloseTo((inside(12) / 2) * 30, 5)
  expect(measured('half-round', { diameter: 12, length: 30 }, true).volume).toBeGreaterThan(((Math.PI * 36) / 2) * 30)
})

it('a star is its triangles', () => {
  // Per point two triangles between a tip and a valley: R r sin(π/n) / 2 each.
  const area = 2 * 5 * ((10 * 5 * Math.sin(Math.PI / 5)) / 2)
  expect(measured('star', { points: 5, outer: 20, inner: 10, height: 3 }).volume).toBeCloseTo(area * 3, 6)
})

it('a heart is a square with two half discs', () => {
  const s = 20 / (Math.SQRT1_2 + 1)
  const n = segmentsFor(s / 2, fineness)
  const { volume, bounds } = measured('heart', { width: 20, height: 3 })
  expect(volume).toBeCloseTo((s * s + polygonArea(s / 2, n)) * 3, 6)
  expect(bounds.min[1]).toBeCloseTo(-bounds.max[1], 3)
})

it('a free polyhedron is spanned by its corners', () => {
  const corners = [
    [0, 0, 0],
    [10, 0, 0],
    [0, 10, 0],
    [0, 0, 10],
    [1, 1, 1],
  ]
  expect(measured('polyhedron', { corners: corners as never }).volume).toBeCloseTo(1000 / 6, 6)
})

it('a free polyhedron needs a corner outside of the plane of the others, however that lies', () => {
  const { impossible } = shapeOf('polyhedron')!
  const random = randomFrom(5)
  for (let i = 0; i < 60; i++) {
    const [p, u, v] = [0, 1, 2].map(() => [random() * 80 - 40, random() * 80 - 40, random() * 80 - 40] as const) as [
      Vec3,
      Vec3,
      Vec3,
    ]
    const flat = Array.from({ length: 5 }, () => add(p, add(scaled(u, random()), scaled(v, random()))))
    expect(impossible!({ corners: flat } as never)).toMatchObject({ field: 'corners' })
    const out = add(flat[2]!, scaled(cross(u, v), 0.02 / norm(cross(u, v))))
    expect(impossible!({ corners: [...flat, out] } as never)).toBeUndefined()
  }
})

describe('impossible sizes are told at their field', () => {
  it.each<[string, AnyValues, string]>([
    ['plate', { width: 20, depth: 10, corner: 5.1 }, 'corner'],
    ['plate', { height: 3, top: 'round', topSize: 2, bottom: 'round', bottomSize: 2 }, 'topSize'],
    ['plate', { width: 6, depth: 30, height: 30, top: 'bevel', topSize: 3 }, 'topSize'],
    ['upright', { width: 40, height: 10, head: 'round' }, 'height'],
    ['bar', { diameter: 5, core: 'tube', bore: 5 }, 'bore'],
    ['bar', { diameter: 10, form: 'tapered', end: 3, core: 'tube', bore: 4 }, 'bore'],
    ['hole', { diameter: 5, mouth: 'countersink', head: 5 }, 'head'],
    ['ball', { form: 'part', from: 12, to: 8 }, 'to'],
    ['ball', { form: 'part', from: 0, to: 21 }, 'to'],
    ['ring', { diameter: 10, thick: 5 }, 'thick'],
    ['post', { length: 5, width: 10 }, 'length'],
    ['slot', { length: 5, width: 10 }, 'length'],
    ['star', { outer: 10, inner: 10 }, 'inner'],
    [
      'polyhedron',
      {
        corners: [
          [0, 0, 0],
          [1, 0, 0],
          [0, 1, 0],
          [5, 5, 0],
        ],
      },
      'corners',
    ],
    ['hole', { reach: 'blind', depth: 3, mouth: 'counterbore', head: 10, headDepth: 3 }, 'depth'],
  ])('%s %o', (kind, values, field) => {
    expect(shapeOf(kind)!.impossible!({ ...defaults(kind), ...values } as never)?.field).toBe(field)
  })
})

/** A datum has no solid of its own. */
const solids = shapes.filter((shape: ShapeDefinition) => !shape.datum)

/** Their solids take seconds each: one of them is looked at each day. */
const heavy = ['chain-mail', 'worm', 'coil-spring', 'bevel-gear', 'helix']
const isOtherDay = (kind: string) => heavy.includes(kind) && !inTurn(heavy.length, heavy).includes(kind)

describe.each(solids.map((shape) => [shape.kind, shape] as const))('every shape: %s', (kind, shape) => {
  const values = defaults(kind)
  const start = kind.length * 31 + kind.charCodeAt(0)
  const random = randomFrom(start)
  const several = [values, ...[1, 2].map(() => anyValues(kind, random) ?? values)]
  it('is sound with its defaults and lies in its box', () => {
    expect(shape.impossible?.(values)).toBeUndefined()
    const { figures, bounds } = measured(kind)
    // Letters are bodies of their own until they stand on something.
    const bodies = kind === 'text' ? 'Port'.length : kind === 'chain-mail' ? 4 * 6 : 1
    expect([figures.closed, figures.oriented, figures.solids]).toEqual([true, true, bodies])
    const box = shape.box(values, 20)
    for (const i of [0, 1, 2] as const) {
      // A cut may be circumscribed and reach out of its face.
      expect(bounds.min[i]).toBeGreaterThanOrEqual(box.min[i] - 0.02)
      expect(bounds.max[i]).toBeLessThanOrEqual(box.max[i] + 0.02)
    }
  })
  it('has a box no wider than it', () => {
    // What enters a face reaches as deep as the cut asks for, and what goes on to what it meets as far as that may lie.
    if (shape.seat === 'enters' || shape.meets) return
    for (const each of several) {
      const { bounds } = measured(kind, each, undefined, 20, 0.1)
      const box = shape.box(each as never, 20)
      for (const i of [0, 1, 2] as const) {
        expect(box.min[i]).toBeGreaterThan(bounds.min[i] - 0.5)
        expect(box.max[i]).toBeLessThan(bounds.max[i] + 0.5)
      }
    }
  })
  it.skipIf(isOtherDay(kind))('reaches as far as its solid does, in any direction', () => {
    // A wrapped drawing is placed as it lies flat, and what goes on to what it meets by the line that it begins at.
    if (shape.seat === 'enters' || kind === 'emboss' || shape.meets) return
    const random = seeded(9)
    // Of the corners of chain mail there are a million: one form of it is enough.
    for (const each of kind === 'chain-mail' ? [values] : [values, ...inTurn(2, several.slice(1))])
      kernel.scope((scope) => {
        const told = JSON.stringify(each)
        const { positions } = shape
          .solid(each as never, {
            ...{ scope, fineness: 0.003, cuts: false, through: 20, overlap: 0.005, up },
            ...met(shape, scope),
          })
          .mesh()
        for (let k = 0; k < 30; k++) {
          const raw: Vec3 = [random() - 0.5, random() - 0.5, random() - 0.5]
          const d = raw.map((x) => x / Math.hypot(...raw)) as unknown as Vec3
          let far = -Infinity
          for (let i = 0; i < positions.length; i += 3)
            far = Math.max(far, d[0] * positions[i]! + d[1] * positions[i + 1]! + d[2] * positions[i + 2]!)
          const reach = shape.reach?.(each as never, d) ?? boxReach(shape.box(each as never, 20), d)
          expect(Math.abs(reach - far), told).toBeLessThan(0.005)
        }
      })
  })
  it('names its flat faces where they are', () => {
    // A hole has a floor, and walls with a height, where it does not go through.
    const ended = 'reach' in shape.fields ? { ...values, reach: 'blind' } : values
    const surfaces = shape.surfaces(ended as never)
    for (const face of surfaces.faces) {
      if (face.round !== undefined) continue
      const { origin, n } = face.frame
      expect(flatFaceAt(surfaces.faces, origin, n)).toBe(face.name)
      // A hole's own solid looks the other way at its walls.
      const out = shape.seat === 'enters' ? scaled(n, -1) : n
      expect(surfaces.at(origin, out)).toBe(face.name)
      kernel.scope((scope) => {
        // A small probe across the face is half inside, at its middle or, where it is open there, somewhere on it.
        const solid = shape.solid(ended as never, { scope, fineness, cuts: false, through: 20, overlap: 0.005, up })
        const inside = (across: number, along: number) => {
          const { u, v } = face.frame
          const at = [0, 1, 2].map((i) => origin[i]! + u[i]! * across + v[i]! * along - 0.2 * n[i]!) as unknown as Vec3
          const square: Ring = [
            [-0.2, -0.2],
            [0.2, -0.2],
            [0.2, 0.2],
            [-0.2, 0.2],
          ]
          const probe = scope.placed(scope.extrude([square], 0.4), { ...face.frame, origin: at })
          return scope.intersection([solid, probe]).volume()
        }
        const shares = [-0.45, -0.37, -0.25, 0, 0.25, 0.37, 0.45]
        const isHalf = (across: number, along: number) => Math.abs(inside(across, along) - 0.032) < 5e-5
        expect(shares.some((a) => shares.some((b) => isHalf(a * face.size[0], b * face.size[1])))).toBe(true)
      })
    }
  })
  it('has every one of its surfaces in its list, whatever is chosen, and those with a place lie there', () => {
    if (shape.datum) return
    // Each choice in turn, and every two together; of more than a hundred such pairs as many as that. Of all these the day's share.
    const choices = Object.entries(shape.fields).flatMap(([name, field]) =>
      field.kind === 'choice' ? Object.keys(field.choices).map((choice) => ({ [name]: choice })) : [],
    )
    // What goes all the way round has no ends.
    const part = 'angle' in shape.fields && shape.fields.angle?.kind === 'angle' ? [{ angle: 137.3 }] : []
    const pairs = choices.flatMap((one) => choices.map((other) => ({ ...one, ...other })))
    const every = Math.ceil(pairs.length / 100)
    const forms = [...part, ...choices, ...pairs.filter((_, i) => i % every === 0)]
    let looked = 0
    for (const [i, form] of [[0, {}] as const, ...someOf([...forms.entries()])]) {
      const chosen = anyValues(kind, randomFrom(start + 1000 * i), { ...given[kind], ...form })
      if (!chosen) continue
      // What is drawn is what the line says: a depth that does not count is neither.
      const said = shape.sentence(chosen as never).flatMap((part) => (typeof part === 'object' ? [part.field] : []))
      for (const dimension of shape.dimensions(chosen as never)) {
        expectDrawn(dimension, chosen, shape)
        expect(said, `${JSON.stringify(form)}`).toContain(dimension.field)
      }
      const { all, faces, at } = shape.surfaces(chosen as never)
      const names = all.map(({ name }) => name)
      expect(new Set(names).size).toBe(names.length)
      const found = kernel.scope((scope) => {
        const context = { scope, fineness: 0.1, cuts: false, through: 20, overlap: 0.005, up, ...met(shape, scope) }
        try {
          return facetsOf(shape.solid(chosen as never, context).mesh())
        } catch (error) {
          // What two choices together cannot make is told where it is built.
          if (error instanceof ProblemError) return []
          throw error
        }
      })
      // The middle of a flat face is within the flats that are called so.
      for (const { name, frame, round } of faces) {
        const own = found.filter(({ middle, normal }) => at(middle, normal) === name)
        if (round !== undefined || own.length === 0) continue
        for (const axis of [frame.u, frame.v]) {
          const along = own.flatMap(({ corners }) => corners.map((p) => dot(subtract(p, frame.origin), axis)))
          expect(Math.min(...along), `${name} ${JSON.stringify(form)}`).toBeLessThan(1e-3)
          expect(Math.max(...along), `${name} ${JSON.stringify(form)}`).toBeGreaterThan(-1e-3)
        }
      }
      const known = new Map(all.map(({ name }) => [name, faces.find((face) => face.name === name)]))
      const wrong = found.flatMap(({ middle, normal }) => {
        const name = at(middle, normal)
        if (!known.has(name)) return [`${name} is not in its list`]
        const face = known.get(name)
        if (!face) return []
        looked++
        const { frame, round } = face
        const from = subtract(middle, frame.origin)
        if (round === undefined) return Math.abs(dot(from, frame.n)) < 0.02 ? [] : [`${name} lies off its plane`]
        const radial = subtract(from, scaled(frame.n, -round))
        const away = norm(subtract(radial, scaled(frame.v, dot(radial, frame.v))))
        return Math.abs(away - Math.abs(round)) < 0.15 ? [] : [`${name} lies off its round`]
      })
      expect(wrong, JSON.stringify(form)).toEqual([])
    }
    if (shape.surfaces(values).faces.length > 0) expect(looked).toBeGreaterThan(0)
  })
  it('has round faces that touch it at their front', () => {
    for (const { frame, round, size } of shape.surfaces(values).faces) {
      if (round === undefined) continue
      const upright = Math.abs(frame.v[2]) === 1
      if (upright) expect(Math.hypot(frame.origin[0], frame.origin[1])).toBeCloseTo(Math.abs(round), 9)
      // All round, or half of it.
      expect(size[0]).toBeCloseTo((upright ? 2 : 1) * Math.PI * Math.abs(round), 9)
      kernel.scope((scope) => {
        const solid = shape.solid(values, { scope, fineness, cuts: false, through: 20, overlap: 0.005, up })
        const probe = (away: number) =>
          scope.placed(scope.cylinder(0.02, 0.01, 0.01, 8), {
            ...frame,
            origin: frame.origin.map((x, i) => x + frame.n[i]! * away) as unknown as Vec3,
          })
        // What cuts is where there will be no material.
        const inward = shape.seat === 'enters' ? 0.1 : -0.1
        expect(scope.intersection([solid, probe(inward)]).volume()).toBeGreaterThan(1e-6)
        expect(scope.intersection([solid, probe(-inward)]).isEmpty()).toBe(true)
      })
    }
  })
  it('has a sentence and dimensions made of its own fields, and tells what each field means', () => {
    const parts = shape.sentence(values)
    expect(typeof parts[0]).toBe('string')
    for (const part of parts) if (typeof part === 'object') expect(shape.fields).toHaveProperty(part.field)
    for (const dimension of shape.dimensions(values)) expect(shape.fields).toHaveProperty(dimension.field)
    for (const quick of shape.quick)
      expect(shape.fields).toHaveProperty(typeof quick === 'string' ? quick : quick.field)
    for (const field of Object.values(shape.fields)) expect(field.meaning).toMatch(/\.$/)
    expect(Object.keys(defaultFields(shape.fields))).toEqual(Object.keys(shape.fields))
  })
})

it('the slopes of a frustum are as wide as it is half-way up, and as long as they lean', () => {
  const { surfaces } = shapeOf('pyramid')!
  const values = { width: 40.3, depth: 30.1, topWidth: 12.7, topDepth: 8.9, height: 15.3 }
  const sizes = Object.fromEntries(surfaces(values).faces.map(({ name, size }) => [name, size]))
  const long = (foot: number, top: number) => Math.hypot((foot - top) / 2, 15.3)
  for (const side of ['front', 'back'])
    expect(sizes[side]).toEqual([(40.3 + 12.7) / 2, expect.closeTo(long(30.1, 8.9), 9)])
  for (const side of ['left', 'right'])
    expect(sizes[side]).toEqual([(30.1 + 8.9) / 2, expect.closeTo(long(40.3, 12.7), 9)])
})
