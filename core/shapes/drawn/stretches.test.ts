import { expect, it } from 'vitest'
import { nearestOn, type Vec2 } from '../../plane/index.ts'
import { circleCurve, drawnOf, polygonCurves, randomDrawing, randomFrom } from '../../testing/outlines.ts'
import { curveAt, stretchesOf } from './stretches.ts'

/** How near a point is to the nearest stretch of one curve, or of all. */
function distanceTo(outline: ReturnType<typeof drawnOf>, p: Vec2, curve?: string): number {
  return Math.min(
    ...stretchesOf(outline)
      .filter((s) => curve === undefined || s.curve === curve)
      .map(({ segment }) => nearestOn(segment, p).distance),
  )
}

it('finds the curve nearest to any point, inside, outside and far off', () => {
  for (let seed = 1; seed <= 150; seed++) {
    const random = randomFrom(seed)
    const outline = drawnOf(randomDrawing(random))
    if (stretchesOf(outline).length === 0) continue
    for (const wide of [1, 1.7, 40]) {
      const p: Vec2 = [20 + wide * 60 * (random() - 0.5), 20 + wide * 60 * (random() - 0.5)]
      expect(distanceTo(outline, p, curveAt(outline, p)!), `seed ${seed}`).toBeCloseTo(distanceTo(outline, p), 8)
    }
  }
})

it('finds it among thousands of segments', () => {
  const points = Array.from({ length: 3000 }, (_, i): Vec2 => {
    const turn = (2 * Math.PI * i) / 3000
    const r = 85.1 + 3 * Math.sin(37 * turn)
    return [15.3 + r * Math.cos(turn), r * Math.sin(turn)]
  })
  const outline = drawnOf([...polygonCurves(points), circleCurve([15.3, 0], 1 / 3)])
  for (const i of [0, 1, 977, 2999]) {
    const [a, b] = [points[i]!, points[(i + 1) % 3000]!]
    expect(curveAt(outline, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2])).toBe(`s${i + 1}`)
  }
  expect(curveAt(outline, [15.3 + 2, 0.1])).toBe('c1')
})

it('takes the first of two that meet, and tells nothing of an empty outline', () => {
  const outline = drawnOf(
    polygonCurves([
      [0, 0],
      [37.3, 0],
      [0, 15.3],
    ] as const),
  )
  expect(curveAt(outline, [37.3, 0])).toBe('s1')
  expect(curveAt(drawnOf([]), [1, 2])).toBeUndefined()
})
