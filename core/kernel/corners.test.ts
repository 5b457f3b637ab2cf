import { describe, expect, it } from 'vitest'
import { testKernel } from '../testing/index.ts'
import { grown, ungrown } from './corners.ts'

const kernel = await testKernel()
const growth = 0.01

/** The corners of a solid at a height. */
function cornersAt(raw: Parameters<typeof grown>[0], height: number): readonly string[] {
  const { vertProperties, numProp } = raw.getMesh()
  const found = new Set<string>()
  for (let i = 0; i < vertProperties.length; i += numProp)
    if (Math.abs(vertProperties[i + 2]! - height) < 1e-5)
      found.add([vertProperties[i]!, vertProperties[i + 1]!].map((x) => x.toFixed(4)).join())
  return [...found]
}

describe('a solid grown out of a plane, and back', () => {
  // A prism with one side as short as a step that growing leaves.
  const ring = [
    [3.1, 2],
    [18.4, 2],
    [18.4, 2.02],
    [3.1, 15.3],
  ] as const
  const height = 7.3
  const top = { normal: [0, 0, 1], offset: height } as const
  it('reaches out by so much, there alone', () => {
    kernel.scope((scope) => {
      const raw = grown(scope.extrude([ring], height).raw, [top], growth)
      expect(raw.boundingBox().max[2]).toBeCloseTo(height + growth, 6)
      expect(raw.boundingBox().min[2]).toBe(0)
      raw.delete()
    })
  })
  it('comes back to it, and joins corners that lie near one another in the plane, no others', () => {
    kernel.scope((scope) => {
      const out = grown(scope.extrude([ring], height).raw, [top], growth)
      const back = ungrown(out, [top], growth)
      expect(back.boundingBox().max[2]).toBeCloseTo(height, 6)
      expect(cornersAt(back, height)).toHaveLength(3)
      expect(cornersAt(back, 0)).toHaveLength(4)
      out.delete()
      back.delete()
    })
  })
  it('leaves alone what stands further out than it was grown', () => {
    kernel.scope((scope) => {
      const raw = scope.extrude([ring], height).raw
      const low = ungrown(raw, [{ ...top, offset: height - 1.3 * growth }], growth)
      expect(low.boundingBox().max[2]).toBeCloseTo(height, 6)
      low.delete()
    })
  })
})
