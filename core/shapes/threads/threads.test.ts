import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type AnyValues, defaultFields } from '../../fields/index.ts'
import { type Item, itemOf, itemsFor, threadSection } from '../../hardware/index.ts'
import type { Scope, Solid } from '../../kernel/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { add, dot, type Frame, norm, scaled, subtract, turnedAbout, type Vec3, world } from '../../place/index.ts'
import { testKernel } from '../../testing/index.ts'
import { inTurn, real, runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'

const kernel = await testKernel()
const threads = itemsFor(['thread'])
const straight = threads.filter(({ family }) => !family.form!.taper)

function solidOf(scope: Scope, kind: string, values: AnyValues, fineness = 0.02, through = 60): Solid {
  const shape = shapeOf(kind)!
  const all = { ...defaults(kind), ...values }
  expect(
    shape.impossible?.(all),
    JSON.stringify(values, (key, v) => (key === 'item' ? v.id : v)),
  ).toBeUndefined()
  const cuts = shape.operation === 'cut'
  return shape.solid(all, { scope, fineness, cuts, through, overlap: 0.005, up: [0, 0, 1] })
}
const sizes = (item: Item) => item.sizes as { readonly thread: number; readonly pitch: number }
const plain = { end: 'plain', foot: 'plain' }

/** The shortest way across a triangle, mm, of all of them; and whether it is closed and oriented, and one body. */
function soundness(solid: Solid) {
  const mesh = solid.mesh()
  const { closed, oriented, solids } = meshFigures(mesh)
  const { positions, triangles } = mesh
  const at = (i: number): Vec3 => [0, 1, 2].map((k) => positions[3 * triangles[i]! + k]!) as unknown as Vec3
  let thinnest = Infinity
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(t), at(t + 1), at(t + 2)]
    const edge = (p: Vec3, q: Vec3) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])
    const [x, y, z] = [edge(a, b), edge(b, c), edge(c, a)]
    const s = (x + y + z) / 2
    const area = Math.sqrt(Math.max(0, s * (s - x) * (s - y) * (s - z)))
    thinnest = Math.min(thinnest, (2 * area) / Math.max(x, y, z))
  }
  return { sound: [closed, oriented, solids], thinnest }
}

/**
 * The pitch diameter of a thread as three wires measure it: M = d2 + w (1 + 1 / sin α) − P / 2 cot α + c, where c is for wires that lie
 * at the angle of the thread (w / 2 tan² ψ cos α cot α; ISO 16239). The wires are pushed in from both sides until they touch.
 */
function overWires(thread: Solid, { item, starts = 1, hand = 'right', degrees = 0, height = 0 }: Wires) {
  const { pitch } = sizes(item)
  const d2 = item.family.form!.pitchDiameter(item.sizes as never)
  const rad = (item.family.form!.flanks[0] * Math.PI) / 180
  const wire = pitch / (2 * Math.cos(rad))
  const lead = Math.atan2(starts * pitch, Math.PI * d2)
  const [sense, turn] = [hand === 'right' ? 1 : -1, (degrees * Math.PI) / 180]
  const edges = edgesOf(thread)
  const reach = [0, Math.PI].map((half) => {
    const at = turn + half
    // The middle of a groove is half a pitch from a ridge, which is at 0 at angle 0.
    const rise = (sense * at * starts * pitch) / (2 * Math.PI) + pitch / 2
    const z = rise + pitch * Math.round((height - rise) / pitch)
    const out: Vec3 = [Math.cos(at), Math.sin(at), 0]
    const along: Vec3 = [-Math.sin(at) * Math.cos(lead), Math.cos(at) * Math.cos(lead), sense * Math.sin(lead)]
    const near = edges.filter(([a, b]) =>
      [a, b].some((p) => Math.abs(p[2] - z) < pitch && p[0] * out[0] + p[1] * out[1] > 0.7 * Math.hypot(p[0], p[1])),
    )
    let [low, high] = [d2 / 2 - pitch, d2 / 2 + 2 * pitch]
    for (let i = 0; i < 22; i++) {
      const middle = (low + high) / 2
      const from = add(scaled(out, middle), [0, 0, z])
      const isTouched = near.some(([a, b]) => lineToEdge(from, along, a, b) < wire / 2)
      if (isTouched) low = middle
      else high = middle
    }
    return high
  })
  const over = reach[0]! + reach[1]! + wire
  const c = (wire / 2) * Math.tan(lead) ** 2 * Math.cos(rad) * (1 / Math.tan(rad))
  return over - wire * (1 + 1 / Math.sin(rad)) + (pitch / 2) * (1 / Math.tan(rad)) - c
}
function edgesOf(solid: Solid): (readonly [Vec3, Vec3])[] {
  const { positions, triangles } = solid.mesh()
  const at = (i: number): Vec3 => [0, 1, 2].map((k) => positions[3 * i + k]!) as unknown as Vec3
  return Array.from(triangles, (a, i) => [a, triangles[i % 3 === 2 ? i - 2 : i + 1]!] as const)
    .filter(([a, b]) => a < b)
    .map(([a, b]) => [at(a), at(b)])
}
/** How far an endless line is from an edge, mm. */
function lineToEdge(from: Vec3, along: Vec3, a: Vec3, b: Vec3): number {
  // In the plane across the line it is a point, and the edge another one.
  const across = (p: Vec3) => subtract(subtract(p, from), scaled(along, dot(subtract(p, from), along)))
  const [p, q] = [across(a), across(b)]
  const way = subtract(q, p)
  const share = Math.max(0, Math.min(1, -dot(p, way) / (dot(way, way) || 1)))
  return norm(add(p, scaled(way, share)))
}
interface Wires {
  readonly item: Item
  readonly starts?: number
  readonly hand?: string
  readonly degrees?: number
  readonly height?: number
}

describe('over three wires', () => {
  const some = straight.filter(({ family: { form } }) => ['metric', 'pipe'].includes(form!.id))
  it.each(inTurn(8, some).map((item) => [item.id, item] as const))(
    'the thread %s has its pitch diameter, as screw and as hole, at two finenesses',
    (_, item) => {
      const { pitch } = sizes(item)
      const height = 12 * pitch
      const d2 = item.family.form!.pitchDiameter(item.sizes as never)
      for (const [fineness, hand, degrees] of [
        [0.02, 'right', 37.3],
        [0.11, 'left', 85.1],
      ] as const)
        kernel.scope((scope) => {
          const screw = solidOf(scope, 'screw-thread', { item, height, hand, ...plain }, fineness)
          const told = overWires(screw, { item, hand, degrees, height: height / 2 })
          expect(Math.abs(told - d2), `screw ${fineness}`).toBeLessThan(0.005)
          const values = { item, hand, gap: 0, mouth: 'plain', reach: 'blind', depth: height }
          const hole = solidOf(scope, 'threaded-hole', values, fineness)
          const room = overWires(hole, { item, hand, degrees, height: -height / 2 })
          expect(Math.abs(room - d2), `hole ${fineness}`).toBeLessThan(0.005)
        })
    },
  )
  it('a gap makes a screw thinner by twice of it, square to its flanks', () => {
    kernel.scope((scope) => {
      const item = itemOf('iso-261 M8')!
      const [gap, starts] = [0.07, 2]
      const screw = solidOf(scope, 'screw-thread', { item, gap, starts, height: 15.3, ...plain })
      const told = overWires(screw, { item, starts, degrees: 15.3, height: 7 })
      // Square to flanks of 30° it is 2 g / sin 30° in the diameter.
      expect(told).toBeCloseTo(8 - 0.649519 * 1.25 - (2 * gap) / Math.sin(Math.PI / 6), 2)
    })
  })
})

describe('the solid of a thread', () => {
  it.each(inTurn(8, straight).map((item) => [item.id, item] as const))(
    '%s has the volume of its section',
    (_, item) => {
      kernel.scope((scope) => {
        const { pitch } = sizes(item)
        const height = 5.37 * pitch
        const fineness = 0.02
        const { points } = threadSection(item.family.form!, item.sizes as never, {
          ...{ side: 'outside', gap: 0, crest: 0, chord: fineness },
        })!
        // Each section across the axis has the same area, as far as π r² goes along one pitch: a sum of frusta.
        const all = [...points, { ...points[0]!, along: points[0]!.along + pitch }]
        const turned = all.slice(1).reduce((sum, b, i) => {
          const a = all[i]!
          return sum + ((b.along - a.along) * (a.radius ** 2 + a.radius * b.radius + b.radius ** 2)) / 3
        }, 0)
        const volume = solidOf(scope, 'screw-thread', { item, height, ...plain }, fineness).volume()
        const exact = Math.PI * (turned / pitch) * height
        expect(volume / exact).toBeLessThan(1)
        // Its flats are 0.0025 mm off at most, at its ends a ridge is cut by up to a column.
        expect(exact - volume).toBeLessThan(Math.PI * sizes(item).thread * height * 0.003)
      })
    },
  )
  it('is closed, one body, and without slivers, whatever its thread, ends, hand, starts and fineness', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...threads),
        fc.constantFrom('led', 'plain'),
        fc.constantFrom('plain', 'led', 'run'),
        fc.constantFrom('right', 'left'),
        fc.integer({ min: 1, max: 4 }),
        real(0.01, 0.2),
        real(0, 0.06),
        real(1, 4),
        (item, end, foot, hand, starts, fineness, gap, turns) => {
          const { pitch } = sizes(item)
          const kind = 'screw-thread'
          const raw = { item, end, foot, hand, starts, gap: gap * pitch, height: (2.6 + turns) * pitch + 0.4 }
          kernel.scope((scope) => {
            const { sound, thinnest } = soundness(solidOf(scope, kind, raw, fineness))
            expect([item.id, ...sound]).toEqual([item.id, true, true, 1])
            expect(thinnest, item.id).toBeGreaterThan(1e-4 * pitch)
          })
        },
      ),
      { numRuns: runs(60) },
    )
  })
})

describe('a screw in its hole', () => {
  const apart = (scope: Scope, screw: Solid, hole: Solid, { degrees, rise }: { degrees: number; rise: number }) => {
    const moved = scope.placed(screw, { ...turnedAbout([0, 0, 0], [0, 0, 1], degrees), origin: [0, 0, rise] })
    return { cut: scope.difference(moved, [hole]).volume(), moved }
  }
  it('is as far from it as the gap, turned anyhow along its pitch, and nowhere else', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...straight),
        fc.constantFrom('right', 'left'),
        fc.integer({ min: 1, max: 3 }),
        real(0.02, 0.06),
        real(-360, 360),
        (item, hand, starts, share, degrees) =>
          kernel.scope((scope) => {
            const { pitch, thread } = sizes(item)
            const gap = share * pitch
            const [lead, sense] = [starts * pitch, hand === 'right' ? 1 : -1]
            const screw = solidOf(scope, 'screw-thread', { item, hand, starts, height: 3.7 * pitch, gap: 0, ...plain })
            const values = { item, hand, starts, gap, mouth: 'plain', reach: 'blind', depth: 12 * pitch }
            const hole = solidOf(scope, 'threaded-hole', values)
            // Turned by so much it goes on by so much of its lead; from wherever the ridges of both are in line.
            const rise = (sense * lead * degrees) / 360 - 8 * pitch
            const { cut, moved } = apart(scope, screw, hole, { degrees, rise })
            expect(cut, item.id).toBeLessThan(1e-6)
            const block = scope.placed(scope.cylinder(11 * pitch, 0.7 * thread + pitch, 0.7 * thread + pitch, 64), {
              ...world,
              origin: [0, 0, -11 * pitch],
            })
            const nut = scope.difference(block, [hole])
            const told = nut.gapTo(moved, gap + 0.05)
            // Flats of flanks that wind are up to 0.001 mm off on either side, those of rounds make it wider.
            expect(told).toBeGreaterThan(gap - 0.004)
            expect(told).toBeLessThan(gap + 0.008)
            // Pushed along by more than the gap has room for, it is in the way of itself.
            const { cut: stuck } = apart(scope, screw, hole, { degrees, rise: rise + pitch / 2 })
            expect(stuck).toBeGreaterThan(1e-3 * pitch ** 3)
          }),
      ),
      { numRuns: runs(30) },
    )
  })
  it('goes into a hole that is drilled for it with what a tap leaves', () => {
    kernel.scope((scope) => {
      for (const item of inTurn(6, straight)) {
        const { pitch, thread } = sizes(item)
        const values = { item, gap: 9, way: 'drilled', mouth: 'plain', reach: 'blind', depth: 7.9 }
        const { area } = scope.slice(solidOf(scope, 'threaded-hole', values, 0.005), -4)
        const across = 2 * Math.sqrt(area / Math.PI)
        if (item.family.form!.id === 'metric') expect(across).toBeCloseTo(thread - pitch, 1)
        expect(across, item.id).toBeLessThan(thread)
        expect(across).toBeGreaterThan(2 * threadSection(item.family.form!, item.sizes as never, outside)!.inner - 1e-6)
      }
    })
  })
  it('on a cone meets its socket where the gauge planes are together', () => {
    kernel.scope((scope) => {
      for (const item of inTurn(
        4,
        threads.filter(({ family }) => family.form!.taper),
      )) {
        const { gauge, pitch } = item.sizes as { gauge: number; pitch: number }
        const height = gauge + 5 * pitch
        const screw = solidOf(scope, 'screw-thread', { item, height, gap: 0, ...plain })
        const depth = gauge + 2.5
        const hole = solidOf(scope, 'threaded-hole', { item, gap: 0.03, mouth: 'plain', reach: 'blind', depth })
        // Upside down: its gauge plane at the mouth, its end in the socket.
        for (const [push, isFree] of [
          [0, true],
          [2 * pitch, false],
        ] as const) {
          const degrees = (-(height - gauge + push) / pitch) * 360
          const flipped: Frame = { ...turnedAbout([0, 0, 0], [1, 0, 0], 180), origin: [0, 0, height - gauge - push] }
          const turned = scope.placed(screw, turnedAbout([0, 0, 0], [0, 0, 1], degrees))
          const own = scope.trimmed(scope.placed(turned, flipped), [0, 0, -1], 0.004)
          const cut = scope.difference(own, [hole]).volume()
          expect([item.id, push, cut < 1e-4 * pitch ** 3]).toEqual([item.id, push, isFree])
        }
      }
    })
  })
})
const outside = { side: 'outside', gap: 0, crest: 0, chord: 0.001 } as const

describe('a thread on a round', () => {
  const lying: Frame = { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] }
  const shape = shapeOf('cut-thread')!
  it('is cut into a bar as a screw is made, and into a bore as a nut is', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...straight),
        fc.boolean(),
        fc.constantFrom('led', 'run', 'plain'),
        fc.constantFrom('led', 'run', 'plain'),
        real(0, 0.05),
        (item, isBar, upper, lower, share) =>
          kernel.scope((scope) => {
            const { pitch } = sizes(item)
            const gap = share * pitch
            const half = item.family.form![isBar ? 'outside' : 'inside'](item.sizes as never)
            const round = isBar ? half.crest : half.root
            const length = 7.3 * pitch
            const values = { item, gap, upper, lower, length, round, on: isBar ? 'outside' : 'inside' }
            const fitted = shape.fitted!({ ...defaults('cut-thread'), ...values }, (isBar ? 1 : -1) * (round / 2))
            const cutter = solidOf(scope, 'cut-thread', fitted)
            const { sound, thinnest } = soundness(cutter)
            expect([item.id, ...sound]).toEqual([item.id, true, true, 1])
            expect(thinnest).toBeGreaterThan(1e-4 * pitch)
            // A bar whose end is flush with the upper end of the thread, or a block with a bore.
            const axis: Vec3 = [0, length / 2 - 9 * pitch, ((isBar ? -1 : 1) * round) / 2]
            const long = 9 * pitch
            const bar = scope.placed(scope.cylinder(long, round / 2, round / 2, 720), { ...lying, origin: axis })
            const block = scope.placed(scope.cylinder(long, round, round, 64), { ...lying, origin: axis })
            const cut = isBar
              ? scope.difference(bar, [cutter])
              : scope.difference(scope.difference(block, [bar]), [cutter])
            const { sound: left } = soundness(cut)
            expect([item.id, upper, lower, ...left]).toEqual([item.id, upper, lower, true, true, 1])
            // In the middle it is the very thread: a screw with that gap lies within, one without does not.
            const kind = isBar ? 'screw-thread' : 'threaded-hole'
            const mouth: AnyValues = isBar
              ? { height: 5 * pitch, ...plain }
              : { mouth: 'plain', reach: 'blind', depth: 5 * pitch }
            const own = solidOf(scope, kind, { item, gap, ...mouth })
            const y = isBar ? -2 * pitch : 3 * pitch
            const stands = scope.placed(own, { ...lying, origin: [0, y, axis[2]] })
            const middle = scope.trimmed(scope.trimmed(cut, [0, 1, 0], -1.5 * pitch), [0, -1, 0], -1.5 * pitch)
            const off = isBar
              ? scope.difference(middle, [stands]).volume()
              : scope.intersection([middle, stands]).volume()
            expect(off, `${item.id} ${isBar} ${gap}`).toBeLessThan(0.004 * middle.volume())
          }),
      ),
      { numRuns: runs(30) },
    )
  })
  it('begins with the thread of its diameter, or one of its own', () => {
    const begun = (across: number, inside: boolean, chosen = false) =>
      shape.onRound!(`${across} mm`, { across, inside, chosen })
    expect(begun(8, false)).toMatchObject({ round: '8 mm', on: 'outside', item: 'iso-261 M8' })
    expect(begun(6.65, true)).toMatchObject({ on: 'inside', item: 'iso-261 M8', gap: 'slide' })
    expect(begun(63.4, false)).toMatchObject({ size: 'own', diameter: '63.4 mm' })
    expect(begun(7.9375, false)).toMatchObject({ item: 'asme-b1.1 5/16-18' })
    // What was typed stays.
    expect(begun(63.4, false, true)).toEqual({ round: '63.4 mm', on: 'outside' })
    for (const diameter of [3.1, 7.7, 15.3, 26.44, 37.3, 85.1])
      for (const inside of [false, true]) {
        const texts = { ...defaultFields(shape.fields), ...begun(diameter, inside) }
        const values = {
          ...defaults('cut-thread'),
          ...texts,
          item: itemOf(texts.item!)!,
          ...{ diameter: Number.parseFloat(texts.diameter!), pitch: Number.parseFloat(texts.pitch!) },
          ...{ gap: 0, starts: 1, flat: 0.4, length: 40, round: diameter },
        }
        expect([shape.impossible!(values), shape.unfit!(values)], `${diameter} ${inside}`).toEqual([
          undefined,
          undefined,
        ])
      }
  })
})

describe('what cannot be is told at its field, with what would do', () => {
  const [m8, m20] = [itemOf('iso-261 M8')!, itemOf('iso-261 M20')!]
  it.each<[string, AnyValues, string]>([
    ['screw-thread', { item: m8, gap: 0.7 }, 'gap'],
    ['screw-thread', { size: 'own', diameter: 8, pitch: 7, height: 99 }, 'pitch'],
    ['screw-thread', { ridges: 'printed', flat: 2 }, 'flat'],
    ['screw-thread', { size: 'own', diameter: 8, pitch: 3, starts: 12, height: 99 }, 'starts'],
    ['screw-thread', { height: 1.3 }, 'height'],
    ['threaded-hole', { gap: 3 }, 'gap'],
    ['threaded-hole', { reach: 'blind', depth: 1.3 }, 'depth'],
    ['cut-thread', { item: m20, round: 8 }, 'item'],
    ['cut-thread', { item: m20, round: 137.3 }, 'item'],
    ['cut-thread', { item: m20, round: 17.2, on: 'inside' }, ''],
    ['cut-thread', { item: m20, round: 18.9, on: 'inside' }, 'item'],
    ['cut-thread', { size: 'own', diameter: 20, pitch: 2, round: 25.1 }, 'diameter'],
    ['cut-thread', { length: 1.3 }, 'length'],
  ])('%s %o', (kind, values, field) => {
    const shape = shapeOf(kind)!
    const all = { ...defaults(kind), ...values }
    const why = (each: AnyValues) => shape.impossible!(each) ?? shape.unfit?.(each)
    const told = why(all)
    expect(told?.field ?? '').toBe(field)
    if (told?.nearest) expect(why({ ...all, [told.nearest.field]: told.nearest.value }), 'nearest').toBeUndefined()
    // A press that would not help is not offered.
    if (values.round === 137.3) expect(told?.instead).toBeUndefined()
    if (told?.instead) expect(why({ ...all, [told.instead.field]: itemOf(told.instead.text)! })).toBeUndefined()
  })
})
