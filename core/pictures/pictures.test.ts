import { describe, expect, it } from 'vitest'
import { shapes } from '../shapes/index.ts'
import { renderMeshOf } from '../solids/index.ts'
import { built, testKernel } from '../testing/index.ts'
import { picture, samplePart } from './index.ts'

const kernel = await testKernel()
type Colour = readonly [number, number, number]
const [grey, blue, black]: readonly Colour[] = [
  [200, 200, 200],
  [40, 80, 160],
  [0, 0, 0],
]
const look = { colourOf: (step: string) => (step === 'base' ? grey! : blue!), line: black! }

describe.each(shapes.filter((shape) => samplePart(shape)).map((shape) => [shape.kind, shape] as const))(
  '%s',
  (_, shape) => {
    it('is shown by a sound part, in a picture that is neither empty nor full', async () => {
      const made = await built(kernel, samplePart(shape)!, 0.2)
      expect(made.problems.filter(({ rank }) => rank === 'fault')).toEqual([])
      const [piece] = made.pieces
      const { width, height, dots } = picture(renderMeshOf(made, piece!)!, 88, 64, look)
      expect(dots).toHaveLength(4 * width * height)
      let [covered, dark, own] = [0, 0, 0]
      for (let i = 0; i < dots.length; i += 4) {
        if (dots[i + 3]! < 128) continue
        covered++
        if (dots[i]! + dots[i + 1]! + dots[i + 2]! < 120) dark++
        if (dots[i + 2]! > dots[i]! + 20) own++
      }
      const all = width * height
      expect(covered / all).toBeGreaterThan(0.08)
      expect(covered / all).toBeLessThan(0.85)
      // Lines round it, and its own colour where it can be seen.
      expect(dark).toBeGreaterThan(15)
      expect(own).toBeGreaterThan(5)
    })
  },
)

it('has no picture of what has no solid of its own', () => {
  expect(shapes.filter((shape) => !samplePart(shape)).map(({ kind }) => kind)).toEqual(['rib', 'datum', 'mesh'])
})
