import { expect, it } from 'vitest'
import { endOf, line, startOf, type Vec2 } from '../plane/index.ts'
import { partingLoops } from './index.ts'

const drawn = (...points: readonly Vec2[]) => {
  const segments = points.slice(1).map((p, i) => line(points[i]!, p))
  return { loops: [], open: [{ segments, curves: segments.map((_, i) => `c${i}`), closed: false }] }
}

it('goes on straight at both ends of an open line, far past all that is drawn and all that is to be parted', () => {
  for (const far of [5, 800])
    for (const x of [0.3, 317.4]) {
      const loops = partingLoops(drawn([-x, 0], [0.1, 0], [x, 0]) as never, far)!
      expect(loops).toHaveLength(1)
      const { segments } = loops[0]!
      for (const [i, s] of segments.entries()) {
        const [to, next] = [endOf(s), startOf(segments[(i + 1) % segments.length]!)]
        expect(Math.hypot(to[0] - next[0], to[1] - next[1])).toBeLessThan(1e-9)
      }
      // To the left of it is half a disc of flats.
      const reach = Math.max(...segments.map((s) => Math.hypot(...startOf(s))))
      expect(reach).toBeGreaterThan(far + x)
      const area = (reach ** 2 / 2) * 12 * Math.sin(Math.PI / 12)
      const own = segments.map((s) => [startOf(s), endOf(s)] as const)
      const round = own.reduce((sum, [a, b]) => sum + (a[0] * b[1] - a[1] * b[0]) / 2, 0)
      expect(round / area).toBeCloseTo(1, 6)
    }
})
