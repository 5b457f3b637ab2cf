import { describe, expect, it } from 'vitest'
import { shapeOf, shapes } from '../shapes/index.ts'
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

it('shades a round without a jump from dot to dot', async () => {
  const made = await built(kernel, samplePart(shapeOf('ball')!)!, 0.8)
  const [w, h] = [96, 80]
  const { width, height, dots } = picture(renderMeshOf(made, made.pieces[0]!)!, w, h, look)
  const middle = Math.round(height / 2)
  const bright = Array.from({ length: width }, (_, x) => {
    const i = 4 * (middle * width + x)
    return dots[i + 3]! < 250 ? undefined : dots[i]! + dots[i + 1]! + dots[i + 2]!
  })
  // From its left half inward, where no line is drawn.
  const covered = bright.flatMap((value, x) => (value === undefined ? [] : [x]))
  const [from, to] = [covered[0]! + 6, covered.at(-1)! - 6]
  expect(to - from).toBeGreaterThan(20)
  for (let x = from; x < to; x++) expect(Math.abs(bright[x + 1]! - bright[x]!)).toBeLessThan(12)
})
