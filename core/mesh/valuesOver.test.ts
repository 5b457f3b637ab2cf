import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cross, dot, norm, subtract, type Vec3 } from '../place/index.ts'
import { runs } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { valuesOver } from './index.ts'

/** A flat of two triangles, turned by some angle about x and moved. */
function flat(x: number, y: number, angle: number, lift: number) {
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const at = (u: number, v: number) => [u, v * c, v * s + lift]
  const positions = Float32Array.from([...at(0, 0), ...at(x, 0), ...at(x, y), ...at(0, y)])
  return { positions, triangles: Uint32Array.from([0, 1, 2, 0, 2, 3]) }
}

const cornersOf = (points: Float32Array, triangle: number) =>
  [0, 1, 2].map((k) => [...points.subarray(9 * triangle + 3 * k, 9 * triangle + 3 * k + 3)] as unknown as Vec3)
const middle = (corners: readonly Vec3[]) =>
  [0, 1, 2].map((k) => corners.reduce((sum, corner) => sum + corner[k]!, 0) / 3) as unknown as Vec3

const faces = fc.record({
  x: real(3, 60),
  y: real(3, 60),
  angle: real(-1.4, 1.4),
  lift: real(-20, 20),
  over: fc.tuple(...[1, 2].map(() => real(0.05, 0.95))),
  away: real(0.05, 1),
})

it('finds a point that comes near the middle of a large face, and tells what it is between corners', async () => {
  await fc.assert(
    fc.asyncProperty(faces, async ({ x, y, angle, lift, over, away }) => {
      const [u, v] = [over[0]! * x, over[1]! * y]
      const [c, s] = [Math.cos(angle), Math.sin(angle)]
      const point: Vec3 = [u, v * c - away * s, v * s + lift + away * c]
      const value = (place: Vec3) => norm(subtract(place, point))
      const { points, values } = await valuesOver(flat(x, y, angle, lift), value, { below: 1.5, side: 0.8 })
      expect(Math.min(...values) - away).toBeLessThan(0.25)
      let [between, atCorners] = [0, 0]
      for (let t = 0; t < values.length / 3; t++) {
        const corners = cornersOf(points, t)
        const told = (values[3 * t]! + values[3 * t + 1]! + values[3 * t + 2]!) / 3
        between = Math.max(between, Math.abs(told - value(middle(corners))))
        for (const [k, corner] of corners.entries())
          atCorners = Math.max(atCorners, Math.abs(values[3 * t + k]! - value(corner)))
      }
      // Over a tip the value bends by no more than half of the shortest sides.
      expect(between).toBeLessThan(0.25)
      expect(atCorners).toBeLessThan(1e-4)
    }),
    { numRuns: runs(100) },
  )
})

it('leaves no gap between its triangles', async () => {
  await fc.assert(
    fc.asyncProperty(faces, async ({ x, y, angle, lift, over, away }) => {
      const point: Vec3 = [over[0]! * x, over[1]! * y * Math.cos(angle), over[1]! * y * Math.sin(angle) + lift + away]
      // Of all of it, so that only the four sides of the flat are borders.
      const value = (place: Vec3) => norm(subtract(place, point))
      const { points } = await valuesOver(flat(x, y, angle, lift), value, { below: 200, side: 8 })
      const sides = new Map<string, number>()
      const key = (corner: Vec3) => corner.map((each) => each.toFixed(3)).join(' ')
      let area = 0
      for (let t = 0; t < points.length / 9; t++) {
        const corners = cornersOf(points, t)
        for (let k = 0; k < 3; k++) {
          const ends = [key(corners[k]!), key(corners[(k + 1) % 3]!)].sort().join(' | ')
          sides.set(ends, (sides.get(ends) ?? 0) + 1)
        }
        const [a, b, c] = corners as [Vec3, Vec3, Vec3]
        // One that is turned over would take from it.
        area += dot(cross(subtract(b, a), subtract(c, a)), [0, -Math.sin(angle), Math.cos(angle)]) / 2
      }
      expect(area / (x * y)).toBeCloseTo(1, 4)
      expect(Math.max(...sides.values())).toBe(2)
      const borders = [...sides].filter(([, count]) => count === 1)
      const long = borders.reduce((sum, [ends]) => {
        const [p, q] = ends.split(' | ').map((end) => end.split(' ').map(Number) as unknown as Vec3) as [Vec3, Vec3]
        return sum + norm(subtract(p, q))
      }, 0)
      expect(long / (2 * (x + y))).toBeCloseTo(1, 2)
    }),
    { numRuns: runs(100) },
  )
})
