import { expect, it } from 'vitest'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { cutawayOf } from './index.ts'

const kernel = await testKernel()

/** Area of the triangles of the section's flats. */
function hatched(mesh: ReturnType<typeof cutawayOf>): number {
  if (!mesh) return 0
  const { positions, faceOf, faces } = mesh
  let area = 0
  for (let t = 0; t < faceOf.length; t++) {
    if (faces[faceOf[t]!]!.owner.kind !== 'section') continue
    const p = (i: number, k: number) => positions[9 * t + 3 * i + k]!
    const edge = (i: number) => [0, 1, 2].map((k) => p(i, k) - p(0, k)) as [number, number, number]
    const [a, b] = [edge(1), edge(2)]
    area += Math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]) / 2
  }
  return area
}

it('cuts a piece open with filled flats, from any of three sides, and leaves the part whole', async () => {
  const part = partOf([
    step('base', 'plate', { width: '60', depth: '40', height: '6' }),
    step('slot', 'slot', { length: '20', width: '10', ends: 'square' }, { place: onFace('base', 'top') }),
  ])
  const result = await built(kernel, part)
  const [piece] = result.pieces
  const live = kernel.live
  const area = (across: 'x' | 'y' | 'z', at: number) => hatched(cutawayOf(kernel, result, piece!, { across, at }))
  expect(area('x', 0)).toBeCloseTo((40 - 10) * 6, 3)
  expect(area('x', 25)).toBeCloseTo(40 * 6, 3)
  expect(area('y', 0)).toBeCloseTo((60 - 20) * 6, 3)
  expect(area('z', 3)).toBeCloseTo(60 * 40 - 200, 3)
  expect(cutawayOf(kernel, result, piece!, { across: 'z', at: -1 })).toBeUndefined()
  expect(piece!.solid!.volume()).toBeCloseTo((2400 - 200) * 6, 3)
  expect(kernel.live).toBe(live)
})
