import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pointOut, turnedAbout, unit, type Vec3 } from '../place/index.ts'
import { followed, openAt } from './index.ts'

const number = (low: number, high: number) =>
  fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)
const arm: Vec3 = [37.3, 0, 4.1]
const pointAt = (degrees: number) => pointOut(turnedAbout([0, 0, 0], [0, 0, 1], degrees), arm)
const wide = { at: 0, from: -170, to: 170 }

describe('a point that follows a line of sight', () => {
  it('is under the line where that comes to its way, seen from wherever', () => {
    fc.assert(
      fc.property(number(-60, 60), number(-0.6, 0.6), number(-0.6, 0.6), (turned, x, y) => {
        const target = pointAt(turned)
        const direction = unit([x, y, -1])
        const sight = { from: target.map((c, k) => c - 100 * direction[k]!) as unknown as Vec3, direction }
        const { position, off } = followed(pointAt, sight, wide)
        expect(position).toBeCloseTo(turned, 3)
        expect(off).toBeLessThan(1e-3)
      }),
    )
  })
  it('is as near as it comes where the line passes beside its way', () => {
    const sight = { from: [80, 45, 90] as Vec3, direction: [0, 0, -1] as Vec3 }
    const { position, off } = followed(pointAt, sight, wide)
    expect(position).toBeCloseTo((Math.atan2(45, 80) * 180) / Math.PI, 3)
    expect(off).toBeCloseTo(Math.hypot(80, 45) - 37.3, 6)
  })
  it('stops at the end of its travel, and comes back from there', () => {
    const sight = { from: [...pointAt(70).slice(0, 2), 90] as unknown as Vec3, direction: [0, 0, -1] as Vec3 }
    const ended = followed(pointAt, sight, { at: 0, from: -20, to: 30.5 })
    expect(ended.position).toBe(30.5)
    expect(ended.off).toBeCloseTo(2 * 37.3 * Math.sin(((70 - 30.5) / 2 / 180) * Math.PI), 6)
    const back = { from: [...pointAt(-5).slice(0, 2), 90] as unknown as Vec3, direction: [0, 0, -1] as Vec3 }
    expect(followed(pointAt, back, { at: 30.5, from: -20, to: 30.5 }).position).toBeCloseTo(-5, 3)
  })
  it('does not move what does not move it', () => {
    const sight = { from: [0, 0, 90] as Vec3, direction: [0, 0, -1] as Vec3 }
    expect(followed(() => [3, 4, 0], sight, { at: 2, from: 0, to: 9 })).toEqual({ position: 2, off: 5 })
  })
})

it('goes back no farther than to the last click, where it goes one way', () => {
  const freedom = { label: 'turning', unit: 'degrees', from: 0, to: 360, atRest: 0 } as const
  expect(openAt(freedom, 100)).toEqual({ from: 0, to: 360 })
  expect(openAt({ ...freedom, oneWay: true }, 85.1)).toEqual({ from: 85.1, to: 360 })
  expect(openAt({ ...freedom, oneWay: true, period: 20 }, 85.1)).toEqual({ from: 80, to: 360 })
  expect(openAt({ ...freedom, oneWay: true, period: 20 }, 80)).toEqual({ from: 80, to: 360 })
  expect(openAt({ ...freedom, from: -30, oneWay: true, period: 20 }, 0)).toEqual({ from: -10, to: 360 })
})
