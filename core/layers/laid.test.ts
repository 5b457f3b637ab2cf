import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { Ring } from '../kernel/index.ts'
import { runs, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { laidGroups, type Sections } from './index.ts'

const kernel = await testKernel()
const line = 0.44

/** A strip about a point, turned about the origin. */
function strip([x, y]: readonly [number, number], long: number, wide: number, angle: number): Ring {
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  return [
    [x - long / 2, y - wide / 2],
    [x + long / 2, y - wide / 2],
    [x + long / 2, y + wide / 2],
    [x - long / 2, y + wide / 2],
  ].map(([u, v]) => [c * u! - s * v!, s * u! + c * v!])
}

/** How many groups the printer lays of these layers. */
async function groupsOf(layers: readonly (readonly Ring[])[]): Promise<number> {
  const sections = { at: (z: number) => layers[Math.floor(z / 0.2)]!, films: () => [] } as Pick<
    Sections,
    'at' | 'films'
  >
  const heights = { firstLayer: 0.2, layerHeight: 0.2 }
  const groups = await laidGroups(kernel, sections, { heights, lineWidth: line, height: 0.2 * layers.length })
  return groups.length
}

const number = (low: number, high: number) => real(low, high)
const angle = number(0, 2 * Math.PI)

it('a wall of one line lies on the one below where they share a quarter of it, wherever along that it begins', async () => {
  const off = fc.oneof(number(0, 0.37), number(0.42, 2))
  await fc.assert(
    fc.asyncProperty(off, number(-7, 7), number(1, 5), angle, fc.boolean(), async (by, x, long, turn, isUp) => {
      // 0.5 wide each: as much of that is shared as is left of it.
      const layers = [[strip([0, 0], 20, 0.5, turn)], [strip([x, by], long, 0.5, turn)]]
      expect(await groupsOf(isUp ? layers : layers.toReversed())).toBe(by < 0.4 ? 1 : 2)
    }),
    { numRuns: runs(100) },
  )
})

it('what is thicker lies on what is below where they share a whole line', async () => {
  const shared = fc.oneof(number(0.02, 0.4), number(0.46, 3))
  await fc.assert(
    fc.asyncProperty(shared, number(-7, 7), number(1, 5), angle, async (both, x, long, turn) => {
      const layers = [[strip([0, 0], 20, 4, turn)], [strip([x, 4 - both], long, 4, turn)]]
      expect(await groupsOf(layers)).toBe(both < line ? 2 : 1)
    }),
    { numRuns: runs(100) },
  )
})

it('strips that cross lie on each other, wherever they do', async () => {
  await fc.assert(
    fc.asyncProperty(number(-9, 9), number(-3, 3), angle, async (x, y, turn) => {
      const up = strip([y, -x], 8, 1.1, turn + Math.PI / 2)
      expect(await groupsOf([[strip([0, 0], 20, 1.3, turn)], [up]])).toBe(1)
    }),
    { numRuns: runs(100) },
  )
})
