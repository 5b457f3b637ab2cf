import type { Vec2 } from '@makrel/core/plane'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fitted, onLattice, type PlaneView, roundLength, toPlane, toScreen, zoomed } from './view.ts'

const coordinate = fc.integer({ min: -9000, max: 9000 }).map((steps) => steps / 37)
const place = fc.tuple(coordinate, coordinate)
const views = fc.record({
  centre: place,
  scale: fc.integer({ min: -29, max: 59 }).map((power) => 10 ** (power / 23)),
  width: fc.integer({ min: 400, max: 1900 }),
  height: fc.integer({ min: 300, max: 1100 }),
})
const near = (a: Vec2, b: Vec2, within: number) => {
  expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThanOrEqual(within)
}

describe('the plane on the screen', () => {
  it('is upright: up is up, right is right, and a millimetre is as many pixels as it says', () => {
    fc.assert(
      fc.property(views, place, (view, [x, y]) => {
        const [px, py] = toScreen(view, [x, y])
        near(toScreen(view, [x + 1, y]), [px + view.scale, py], 1e-6)
        near(toScreen(view, [x, y + 1]), [px, py - view.scale], 1e-6)
        near(toPlane(view, [px, py]), [x, y], 1e-6)
        near(toScreen(view, view.centre), [view.width / 2, view.height / 2], 1e-9)
      }),
    )
  })
  it('comes nearer about the pointer, and stops at its limits there too', () => {
    fc.assert(
      fc.property(views, place, fc.constantFrom(0.001, 0.8, 1.25, 1000), (view, pointer, by) => {
        const after = zoomed(view, by, pointer)
        near(toPlane(after, pointer), toPlane(view, pointer), 1e-5)
        expect(after.scale).toBeCloseTo(Math.min(400, Math.max(0.05, view.scale * by)), 9)
      }),
    )
  })
  it('shows all of what is fitted in, with room round it', () => {
    fc.assert(
      fc.property(views, place, fc.nat(900), fc.nat(900), (view, min, w, h) => {
        const max: Vec2 = [min[0] + w / 7, min[1] + h / 7]
        const after = fitted(view, { min, max })
        for (const corner of [min, max]) {
          const [x, y] = toScreen(after, corner)
          expect(Math.min(x, view.width - x)).toBeGreaterThan(Math.min(99, view.width / 2 - 1))
          expect(Math.min(y, view.height - y)).toBeGreaterThan(Math.min(99, view.height / 2 - 1))
        }
        // No nearer than that a dot fills the page.
        expect(after.scale).toBeLessThanOrEqual(60)
      }),
    )
    const empty = fitted({ centre: [85.1, 3], scale: 7, width: 960, height: 480 }, undefined)
    expect(empty).toEqual({ centre: [0, 0], scale: 4, width: 960, height: 480 })
  })
})

describe('round lengths', () => {
  it('are 1, 2 or 5 of a power of ten, the nearest to so many pixels', () => {
    fc.assert(
      fc.property(views, fc.integer({ min: 3, max: 300 }), (view: PlaneView, pixels) => {
        const length = roundLength(view, pixels, 'mm')
        const first = Number(length.toExponential().split('e')[0])
        expect([1, 2, 5]).toContain(Math.round(first * 1e6) / 1e6)
        const raw = pixels / view.scale
        // The bounds between them lie halfway: 1.5, 3.5 and 7.5.
        expect(raw / length).toBeGreaterThanOrEqual(0.7 - 1e-9)
        expect(raw / length).toBeLessThanOrEqual(1.75 + 1e-9)
      }),
    )
    const at = (scale: number) => roundLength({ centre: [0, 0], scale, width: 9, height: 9 }, 60, 'mm')
    expect([60, 42, 28, 18, 16, 8.1, 7.9].map(at)).toEqual([1, 1, 2, 2, 5, 5, 10])
  })
  it('of inches are on a rule, halves of halves, and whole ones above', () => {
    fc.assert(
      fc.property(views, fc.integer({ min: 3, max: 300 }), (view: PlaneView, pixels) => {
        const inches = roundLength(view, pixels, 'in') / 25.4
        const part = Math.log2(inches)
        if (inches < 0.9) expect(part).toBe(Math.round(part))
        else expect([1, 2, 5]).toContain(Math.round(Number(inches.toExponential().split('e')[0]) * 1e6) / 1e6)
        const raw = pixels / view.scale / 25.4
        expect(raw / inches).toBeGreaterThan(0.69)
        expect(raw / inches).toBeLessThan(1.76)
      }),
    )
    const at = (scale: number) => roundLength({ centre: [0, 0], scale, width: 9, height: 9 }, 60, 'in') / 25.4
    expect([2.4, 4, 9, 37, 110].map(at)).toEqual([1, 1 / 2, 1 / 4, 1 / 16, 1 / 64])
  })
  it('make the lattice that free places fall on, with few digits', () => {
    fc.assert(
      fc.property(views, place, fc.constantFrom('mm' as const, 'in' as const), (view, p, unit) => {
        const on = onLattice(view, p, unit)
        const step = roundLength(view, 6, unit)
        near(on, p, step * 0.7072 + 1e-6)
        for (const k of [0, 1] as const) {
          expect(Math.abs(on[k] / step - Math.round(on[k] / step))).toBeLessThan(1e-4)
          expect(Object.is(on[k], -0)).toBe(false)
        }
      }),
    )
  })
})
