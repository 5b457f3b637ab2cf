import { describe, expect, it } from 'vitest'
import { defaultFields, isNumberField } from '../fields/index.ts'
import {
  compose,
  type Frame,
  isMirrored,
  levelSides,
  pointOut,
  type Seating,
  type Vec3,
  world,
} from '../place/index.ts'
import { drawnOf, rectangleCurves, sampleOf } from '../testing/outlines.ts'
import { repeatOf, repeats } from './index.ts'

const first: Frame = { ...world, origin: [10, 0, 0] }
const seatOf = (frame: Frame, round?: number): Seating => ({ frame, size: [0, 0], sides: levelSides, round })
const rounded = (p: Vec3) => p.map((x) => Math.round(x * 1e9) / 1e9 + 0)
const valuesOf = (kind: string, change: Record<string, number | string> = {}) => {
  const { fields } = repeatOf(kind)!
  const plain = Object.entries(defaultFields(fields)).map(([name, text]) => [
    name,
    fields[name]!.kind === 'outline' ? sampleOf('repeat', 'path') : isNumberField(fields[name]!) ? Number(text) : text,
  ])
  return { ...Object.fromEntries(plain), ...change } as never
}
const origins = (kind: string, change: Record<string, number | string>, frame = world) =>
  repeatOf(kind)!
    .motions(valuesOf(kind, change), seatOf(frame))
    .map((motion) => rounded(compose(motion, first).origin))

describe('copies along an outline', () => {
  const along = (change: Record<string, unknown>) =>
    repeatOf('path')!.motions(valuesOf('path', change as never), seatOf(world))
  it('stand at its two ends and evenly between, turning with it', () => {
    // A line of 20 and a quarter of a turn of radius 10: the last copy looks up.
    const motions = along({ count: 3 })
    const last = motions[2]!
    expect(rounded(pointOut(last, [0, 0, 0]))).toEqual([30, 10, 0])
    expect(rounded(last.u)).toEqual([0, 1, 0])
    expect(rounded(along({ count: 3, turning: 'steady' })[2]!.u)).toEqual([1, 0, 0])
    const [, middle] = motions
    expect(middle!.origin[0]).toBeCloseTo((20 + 5 * Math.PI) / 2, 9)
  })
  it('go once round a closed one', () => {
    const box = drawnOf(rectangleCurves(0, 0, 30, 10))
    const places = along({ outline: box, count: 8, turning: 'steady' }).map(({ origin }) => rounded(origin))
    expect(places).toHaveLength(8)
    expect(new Set(places.map(String)).size).toBe(8)
  })
})

describe('copies', () => {
  it('stand in a row along any direction of the seat', () => {
    expect(origins('row', { count: 3, spacing: 5 })).toEqual([
      [10, 0, 0],
      [15, 0, 0],
      [20, 0, 0],
    ])
    expect(origins('row', { count: 2, spacing: -7, direction: 'up' })).toEqual([
      [10, 0, 0],
      [10, 0, -7],
    ])
    const wall: Frame = { origin: [0, 0, 0], u: [0, 1, 0], v: [0, 0, 1], n: [1, 0, 0] }
    expect(origins('row', { count: 2, spacing: 4 }, wall)[1]).toEqual([10, 4, 0])
  })
  it('go round the axis of a round seat', () => {
    // The front of a bar ⌀ 20 about z: a quarter of its circumference to the right is at its right side.
    const front: Frame = { origin: [0, -10, 5], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] }
    const quarter = repeatOf('row')!.motions(valuesOf('row', { count: 2, spacing: 5 * Math.PI }), seatOf(front, 10))[1]!
    expect(rounded(pointOut(quarter, [0, -10, 5]))).toEqual([10, 0, 5])
    // In a bore, to the right is the other way about the axis.
    const bore: Frame = { origin: [0, 10, 5], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] }
    const inside = repeatOf('row')!.motions(valuesOf('row', { count: 2, spacing: 5 * Math.PI }), seatOf(bore, -10))[1]!
    expect(rounded(pointOut(inside, [0, 10, 5]))).toEqual([10, 0, 5])
  })
  it('stand on a grid, in line or staggered', () => {
    const grid = { across: 2, along: 2, acrossSpacing: 5, alongSpacing: -7 }
    expect(origins('grid', grid)).toEqual([
      [10, 0, 0],
      [15, 0, 0],
      [10, -7, 0],
      [15, -7, 0],
    ])
    expect(origins('grid', { ...grid, stagger: 'staggered' })[2]).toEqual([12.5, -7, 0])
  })
  it('close a full ring, end a part of one, and go on by a step', () => {
    expect(origins('ring', { count: 4 })).toEqual([
      [10, 0, 0],
      [0, 10, 0],
      [-10, 0, 0],
      [0, -10, 0],
    ])
    const half = [
      [10, 0, 0],
      [0, 10, 0],
      [-10, 0, 0],
    ]
    expect(origins('ring', { count: 3, angle: 180 })).toEqual(half)
    expect(origins('ring', { count: 3, angle: 90, spread: 'step' })).toEqual(half)
  })
  it('are mirrored about a plane at its distance', () => {
    expect(origins('mirror', { at: 4 })).toEqual([
      [10, 0, 0],
      [-2, 0, 0],
    ])
    expect(origins('mirror', { keep: 'mirrored' })).toEqual([[-10, 0, 0]])
    const [, image] = repeatOf('mirror')!.motions(valuesOf('mirror', { at: 4 }), seatOf(world))
    expect(isMirrored(image!)).toBe(true)
    // Twice mirrored is where it was.
    expect(rounded(pointOut(image!, pointOut(image!, [3, 1, 2])))).toEqual([3, 1, 2])
  })
})

describe.each(repeats.map((repeat) => [repeat.kind, repeat] as const))('every repeat: %s', (kind, repeat) => {
  it('makes as many copies as it says, all at the same distances within', () => {
    const motions = repeat.motions(valuesOf(kind), seatOf(world))
    expect(motions).toHaveLength(repeat.count(valuesOf(kind)))
    for (const motion of motions) {
      const [a, b] = [pointOut(motion, [1, 2, 3]), pointOut(motion, [4, -2, 3])]
      expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeCloseTo(5, 9)
    }
  })
  it('has a sentence of its own fields', () => {
    const named = repeat.sentence(valuesOf(kind)).flatMap((part) => (typeof part === 'string' ? [] : [part.field]))
    expect(named.sort()).toEqual(Object.keys(repeat.fields).sort())
    expect(repeat.fields).toHaveProperty(repeat.first)
    for (const field of Object.values(repeat.fields)) expect(field.meaning).toMatch(/\.$/)
  })
})
