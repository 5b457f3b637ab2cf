import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import {
  clearanceHole,
  type Item,
  type ItemKind,
  itemOf,
  itemsFor,
  looseHole,
  minorDiameter,
} from '../../hardware/index.ts'
import type { Scope, Solid } from '../../kernel/index.ts'
import { type Frame, turnedAbout, world } from '../../place/index.ts'
import { seeded, testKernel } from '../../testing/index.ts'
import { inTurn, real, runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'
import { regularCorners } from '../prismatic.ts'

const kernel = await testKernel()

const through = 40
function room(scope: Scope, kind: string, values: AnyValues, fineness = 0.02): Solid {
  const shape = shapeOf(kind)!
  const all = { ...defaults(kind), ...values }
  expect(shape.impossible?.(all), JSON.stringify(values)).toBeUndefined()
  return shape.solid(all, { scope, fineness, cuts: true, through, overlap: 0.005, up: [0, 0, 1] })
}
const at = (z: number): Frame => ({ ...world, origin: [0, 0, z] })
/** A true round of so many flats that it is one. */
const round = (scope: Scope, diameter: number, from: number, to: number, upper = diameter) =>
  scope.placed(scope.cylinder(to - from, diameter / 2, upper / 2, 360), at(from))
const fits = (scope: Scope, body: Solid, into: Solid) => scope.difference(body, [into]).volume() < 1e-6
/** Some of the items of these kinds each day, all of them in turn. */
const some = (...kinds: readonly ItemKind[]) => inTurn(6, itemsFor(kinds)).map((item) => [item.id, item] as const)

describe.each(some('screw'))('the hole for a %s', (_, item) => {
  const { thread, pitch, head, flats, headHeight } = item.sizes as Record<string, number>
  const forms = 'core' in item.sizes
  const across = (way: 'close' | 'normal' | 'loose') =>
    forms ? looseHole({ thread: thread! }, way) : clearanceHole({ thread: thread! }, way)
  const known = (['close', 'normal', 'loose'] as const).filter(across)
  it('takes the screw, its head too, as deep as it says, and no larger one', () => {
    kernel.scope((scope) => {
      for (const way of known)
        for (const sunk of [0, 1.37]) {
          const hole = room(scope, 'screw-hole', { item, way, seat: 'seated', sunk })
          expect(fits(scope, round(scope, thread!, -through, 0), hole)).toBe(true)
          expect(fits(scope, round(scope, 1.35 * thread! + 0.1, -through, 0), hole)).toBe(false)
          // As a cone from the thread, or a cylinder, with its top below the face.
          const isCone = item.family.label.includes('countersunk')
          const [low, high] = [-sunk - headHeight!, -sunk]
          const under = isCone ? head! - 2 * headHeight! : undefined
          const own = head ?? (2 * flats!) / Math.sqrt(3)
          const body = round(scope, under ?? own, low, high, own)
          expect(fits(scope, body, hole), `${way} ${sunk}`).toBe(true)
          // It rests: pushed in by the room that it has, it goes no farther.
          const room2 = across(way)! - thread!
          expect(fits(scope, scope.placed(body, at(-room2 - 0.05)), hole)).toBe(false)
        }
    })
  })
  it('is drilled for its thread as ISO 2306 says, or lets it form one in plastic', () => {
    kernel.scope((scope) => {
      // What forms a thread bites on both sides, and its core goes in.
      const formed = room(scope, 'screw-hole', { item, way: 'formed', seat: 'none' })
      const minor = item.sizes.core ?? minorDiameter({ thread: thread!, pitch: pitch! })
      expect(fits(scope, round(scope, minor, -through, 0), formed)).toBe(true)
      expect(fits(scope, round(scope, thread! - 0.15 * (thread! - minor), -through, 0), formed)).toBe(false)
      if (forms) return
      const hole = room(scope, 'screw-hole', { item, way: 'tapped', seat: 'none' })
      expect(fits(scope, round(scope, thread! - pitch!, -through, 0), hole)).toBe(true)
      expect(fits(scope, round(scope, thread! - pitch! + 0.1, -through, 0), hole)).toBe(false)
    })
  })
})

/** A nut in its true sizes, standing on z = 0, its flats to both sides. */
function nutOf(scope: Scope, { sizes, family }: Item): Solid {
  const sides = family.label.includes('square') ? 4 : 6
  const corner = sizes.flats! / 2 / Math.cos(Math.PI / sides)
  return scope.extrude([regularCorners(sides, corner, sides === 4 ? 45 : 0)], sizes.height!)
}

describe.each(some('nut'))('the pocket for a %s', (_, item) => {
  const nut = (scope: Scope, turn: number, x: number, z: number) =>
    scope.placed(nutOf(scope, item), { ...turnedAbout([0, 0, 0], [0, 0, 1], turn), origin: [x, 0, z] })
  const screw = clearanceHole({ thread: item.sizes.thread! }, 'normal') ? 'through' : 'none'
  it('takes it from the face, and does not let it turn', () => {
    const random = seeded(7)
    kernel.scope((scope) => {
      for (const gap of [0, 0.05, 0.15, item.sizes.flats! * 0.07]) {
        const sunk = Math.round(100 * random()) / 37
        const pocket = room(scope, 'nut-pocket', { item, gap, sunk, screw })
        const z = -sunk - item.sizes.height!
        expect(fits(scope, nut(scope, 0, 0, z), pocket), `${gap}`).toBe(true)
        const other = item.family.label.includes('square') ? 45 : 30
        expect(fits(scope, nut(scope, other, 0, z), pocket), `${gap}`).toBe(false)
        expect(fits(scope, nut(scope, 0, 0, z - 0.01), pocket), `${gap}`).toBe(false)
        expect(fits(scope, nut(scope, 0, 1.2 * gap + 0.05, z), pocket), `${gap}`).toBe(false)
      }
    })
  })
  it('lets it slide in from the side up to where its screw is, and no farther', () => {
    kernel.scope((scope) => {
      const [gap, out, sunk] = [0.12, 37.3, 2.9]
      const pocket = room(scope, 'nut-pocket', { item, gap, from: 'side', out, sunk, screw })
      const z = -sunk - item.sizes.height! - gap / 2
      for (const x of [0, 1.3, 7.9, 15.3]) expect(fits(scope, nut(scope, 0, x, z), pocket), `${x}`).toBe(true)
      expect(fits(scope, nut(scope, 0, -2 * gap, z), pocket)).toBe(false)
      // Above it is material again, but for the screw's hole.
      expect(scope.slice(pocket, -sunk / 2).area).toBeLessThan(Math.PI * item.sizes.thread! ** 2)
    })
  })
  it('is closed in under what is above it, with room for the layer over it', () => {
    kernel.scope((scope) => {
      const [gap, sunk] = [0.12, 1.9]
      const pocket = room(scope, 'nut-pocket', { item, gap, from: 'closed', sunk, screw: 'none' })
      const { height } = item.sizes as { height: number }
      const held = shapeOf('nut-pocket')!.held!({ ...defaults('nut-pocket'), item, gap, from: 'closed', sunk }, 40)!
      expect(held).toMatchObject({ way: 'closed in', item })
      expect(fits(scope, nut(scope, 0, 0, held.frame.origin[2] - height), pocket)).toBe(true)
      expect(pocket.bounds()!.max[2]).toBeCloseTo(-sunk, 6)
      expect(pocket.bounds()!.min[2]).toBeCloseTo(-sunk - height - gap, 6)
    })
  })
  it('says how large the gap may be where it would turn', () => {
    const shape = shapeOf('nut-pocket')!
    const values = { ...defaults('nut-pocket'), item, screw, gap: 0.2 * item.sizes.flats! + 0.5 }
    const told = shape.impossible!(values)
    expect(told?.field).toBe('gap')
    expect(shape.impossible!({ ...values, gap: told!.nearest!.value })).toBeUndefined()
  })
})

describe('what is printed upside down', () => {
  /** The sections of each layer above the mouth, from the ledge inwards. */
  it('is bridged in three layers that each end on the one before, and leaves the hole as wide as it was', () => {
    for (const [kind, own, ledge] of [
      ['screw-hole', { item: itemOf('iso-4762 M5')!, seat: 'seated', sunk: 0.7 }, 5.7],
      ['nut-pocket', { item: itemOf('iso-4032 M5')!, gap: 0.08, sunk: 0.7 }, 5.4],
    ] as const)
      kernel.scope((scope) => {
        const layer = 0.23
        const plain = room(scope, kind, { ...own, hang: 'plain' })
        const bridged = room(scope, kind, { ...own, hang: 'bridged', layer })
        // The hole itself is open as it was, all the way.
        expect(fits(scope, plain, bridged)).toBe(true)
        const more = (z: number) => scope.slice(scope.difference(bridged, [plain]), z)
        const across = 5.5
        const [strip, square] = [more(-ledge - layer / 2), more(-ledge - 1.5 * layer)]
        // A strip from side to side, then the corners that a square and an octagon have beyond a round; then nothing.
        expect(strip.area).toBeGreaterThan(1.5 * square.area)
        expect(square.area / (across ** 2 * (1 - Math.PI / 4))).toBeCloseTo(1, 1)
        const octagon = more(-ledge - 2.5 * layer)
        expect(octagon.area / (across ** 2 * (2 * (Math.SQRT2 - 1) - Math.PI / 4))).toBeCloseTo(1, 0.5)
        expect(more(-ledge - 3.5 * layer).area).toBeLessThan(1e-6)
        const ys = strip.rings.flat().map(([, y]) => Math.abs(y))
        expect(Math.max(...ys)).toBeCloseTo(across / 2, 1)
      })
  })
})

describe.each(some('bearing'))('the seat for a %s', (_, item) => {
  const { bore, outside, height } = item.sizes as { bore: number; outside: number; height: number }
  it('takes it flush, holds its outer ring alone, and lets it be pushed out', () => {
    fc.assert(
      fc.property(real(0, 0.3), real(0, 3), (gap, sunk) =>
        kernel.scope((scope) => {
          const seat = room(scope, 'bearing-seat', { item, gap, sunk }, 0.01)
          const own = (by: number) => round(scope, outside, by - sunk - height, by - sunk)
          expect(fits(scope, own(0), seat)).toBe(true)
          expect(fits(scope, own(-0.01), seat)).toBe(false)
          expect(fits(scope, round(scope, outside + 2 * gap + 0.2, -sunk - height, -sunk), seat)).toBe(false)
          // Behind it there is room for its inner ring and balls, and for what pushes on its outer ring.
          const behind = scope.slice(seat, -sunk - height - 0.5).area
          const across = 2 * Math.sqrt(behind / Math.PI)
          expect(across).toBeGreaterThan((bore + outside) / 2)
          expect(across).toBeLessThan(outside - 0.2)
        }),
      ),
      { numRuns: runs(10) },
    )
  })
})

describe.each(some('insert', 'pin', 'magnet'))('the room for a %s', (_, item) => {
  it('is as wide and as deep as it has to be', () => {
    const { hole, outside, height, diameter } = item.sizes as Record<string, number>
    kernel.scope((scope) => {
      if (item.family.kind === 'insert') {
        const own = room(scope, 'insert-hole', { item, below: 1.3 })
        expect(fits(scope, round(scope, hole!, -height! - 1.3, 0), own)).toBe(true)
        expect(fits(scope, round(scope, hole!, -height! - 1.31, 0), own)).toBe(false)
        // Its knurl stands in the lead-in, and bites below it.
        expect(scope.slice(own, -0.001).area).toBeGreaterThan((Math.PI * (outside! - 0.01) ** 2) / 4)
        expect(fits(scope, round(scope, outside!, -height!, 0), own)).toBe(false)
      } else if (item.family.kind === 'pin') {
        const own = room(scope, 'pin-hole', { item, gap: 0.13, reach: 'blind', depth: 7.9 })
        expect(fits(scope, round(scope, diameter! + 0.26, -7.9, 0), own)).toBe(true)
        expect(fits(scope, round(scope, diameter! + 0.32, -7.9, 0), own)).toBe(false)
      } else {
        const own = room(scope, 'magnet-pocket', { item, gap: 0.1, sunk: 0.3 })
        expect(fits(scope, round(scope, diameter! + 0.2, -height! - 0.3, 0), own)).toBe(true)
        expect(fits(scope, round(scope, diameter!, -height! - 0.35, 0), own)).toBe(false)
        const closed = room(scope, 'magnet-pocket', { item, gap: 0.1, sunk: 0.7, open: 'closed' })
        expect(closed.bounds()!.max[2]).toBeCloseTo(-0.7, 6)
        expect(fits(scope, round(scope, diameter! + 0.2, -0.8 - height!, -0.7), closed)).toBe(true)
      }
    })
  })
})

describe('what cannot be is told at its field, with what would do', () => {
  const impossible = (kind: string, values: AnyValues) => {
    const told = shapeOf(kind)!.impossible!({ ...defaults(kind), ...values })
    if (told?.nearest)
      expect(
        shapeOf(kind)!.impossible!({ ...defaults(kind), ...values, [told.nearest.field]: told.nearest.value }),
      ).toBeUndefined()
    return told?.field
  }
  it.each<[string, AnyValues, string]>([
    ['screw-hole', { item: itemOf('iso-4026 M4')!, seat: 'seated' }, 'seat'],
    ['screw-hole', { item: itemOf('asme-b18.3 #8-32')!, way: 'close' }, ''],
    ['screw-hole', { item: itemOf('iso-7049 ST3.5')!, way: 'tapped' }, 'way'],
    ['screw-hole', { item: itemOf('iso-7049 ST3.5')!, way: 'formed' }, ''],
    ['screw-hole', { item: itemOf('usual-wood ⌀ 3.5')!, way: 'loose' }, ''],
    ['screw-hole', { reach: 'blind', depth: 3.9 }, 'depth'],
    ['screw-hole', { item: itemOf('iso-10642 M8')!, sunk: 2, reach: 'blind', depth: 6.3 }, 'depth'],
    ['nut-pocket', { gap: -3.6 }, 'gap'],
    ['nut-pocket', { from: 'side', out: 4.1 }, 'out'],
    ['nut-pocket', { item: itemOf('asme-b18.2.2 #6-32')! }, ''],
    ['bearing-seat', { gap: -1 }, ''],
    ['bearing-seat', { item: itemOf('usual-bearing 683')!, gap: -0.5 }, 'gap'],
    ['pin-hole', { item: itemOf('iso-2338 ⌀ 1')!, gap: -0.5 }, 'gap'],
    ['magnet-pocket', { item: itemOf('usual-magnet 3 × 1')!, gap: -1.5 }, 'gap'],
    ['magnet-pocket', { sunk: 0, open: 'closed' }, 'sunk'],
    ['nut-pocket', { sunk: 0, from: 'closed' }, 'sunk'],
  ])('%s %o', (kind, values, field) => {
    expect(impossible(kind, values) ?? '').toBe(field)
  })
})
