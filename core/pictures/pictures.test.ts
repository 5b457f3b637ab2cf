import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { shapeOf, shapes } from '../shapes/index.ts'
import { type RenderMesh, renderMeshOf } from '../solids/index.ts'
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

it('covers what a triangle covers, and nothing beside it', () => {
  const place = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -373, max: 851 }).map((tenths) => tenths / 10)))
  fc.assert(
    fc.property(fc.tuple(place, place, place), (corners) => {
      // Seen from the front, from the right and from above.
      const [long, tall] = [Math.hypot(1, 0.55), Math.hypot(0.55, 1, 0.75)]
      const flat = corners.map(([x, y, z]) => {
        const away = Math.hypot(0.55, 1)
        return [(x! + 0.55 * y!) / long, (away * z! + (0.75 * (-0.55 * x! + y!)) / away) / tall] as const
      })
      const [a, b, c] = flat as [(typeof flat)[0], (typeof flat)[0], (typeof flat)[0]]
      const area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])
      const span = (k: 0 | 1) => Math.max(...flat.map((p) => p[k])) - Math.min(...flat.map((p) => p[k]))
      // What looks away is not drawn, and slivers are all edge.
      fc.pre(area > 0.3 * span(0) * span(1) && span(0) > 5 && span(1) > 5)
      const [w, h] = [120, 90]
      const mesh: RenderMesh = {
        ...{ positions: new Float32Array(corners.flat() as number[]), normals: new Float32Array(9).fill(0.57) },
        ...{ faceOf: new Uint32Array([0]), faces: [{ owner: { kind: 'step', id: 'base' }, face: '' }] as never },
        ...{ edges: new Float32Array(), edgeOf: new Uint32Array(), named: [] },
      }
      const { dots } = picture(mesh, w, h, look)
      let covered = 0
      for (let i = 3; i < dots.length; i += 4) covered += dots[i]! / 255
      const scale = 0.86 * Math.min(w / span(0), h / span(1))
      expect(covered / (scale ** 2 * (area / 2))).toBeCloseTo(1, 1)
    }),
    { numRuns: 30 },
  )
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
