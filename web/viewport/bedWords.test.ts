import { dot, type Vec3 } from '@makrel/core/place'
import { real } from '@makrel/core/testing'
import fc from 'fast-check'
import { Matrix4, PerspectiveCamera } from 'three'
import { expect, it } from 'vitest'
import { bedWords, type Seen } from './bedWords.ts'

const bed = [220, 180, 240] as const
const box = { min: [-41.3, -22.7, 0], max: [42.1, 21.9, 62] } as const

function seenFrom(eye: Vec3, width = 868, height = 680): Seen {
  const camera = new PerspectiveCamera(22, width / height, 1, 10_000)
  camera.up.set(0, 0, 1)
  camera.position.set(...eye)
  camera.lookAt(0, 0, 0)
  camera.updateMatrixWorld()
  camera.updateProjectionMatrix()
  const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
  return { matrix: matrix.elements, eye, width, height }
}

/** Where a place is seen, pixels to the right and up from the middle. */
function on({ matrix: m, width, height }: Seen, [x, y, z]: Vec3): readonly [number, number] {
  const row = (r: number) => m[r]! * x + m[r + 4]! * y + m[r + 8]! * z + m[r + 12]!
  return [(row(0) / row(3)) * (width / 2), (row(1) / row(3)) * (height / 2)]
}

const outwards: Readonly<Record<string, Vec3>> = {
  front: [0, -1, 0],
  right: [1, 0, 0],
  back: [0, 1, 0],
  left: [-1, 0, 0],
}

it('read from left to right and stand up, each on its own side and clear of the part, from wherever one looks', () => {
  fc.assert(
    fc.property(real(0, 360), real(17, 89), fc.boolean(), real(300, 2000), (round, up, below, away) => {
      const [a, b] = [(round * Math.PI) / 180, ((below ? -up : up) * Math.PI) / 180]
      const eye: Vec3 = [away * Math.cos(a) * Math.cos(b), away * Math.sin(a) * Math.cos(b), away * Math.sin(b)]
      const seen = seenFrom(eye)
      const words = bedWords(bed, box, seen)
      // Farther off all of the bed is seen.
      if (away > 1500) expect(words.length).toBeGreaterThan(1)
      for (const { word, at, along, up: high, high: mm } of words) {
        const way = outwards[word]!
        expect(dot(at, way)).toBeGreaterThan(22)
        expect(dot(at, way)).toBeLessThanOrEqual(110)
        expect(Math.abs(dot(along, way)) + Math.abs(dot(along, high))).toBe(0)
        const [from, right, top] = [at, add(at, along), add(at, high)].map((each) => on(seen, each))
        // Straight along the eye's own way a word reads upwards; what runs together far away leans it over by some degrees.
        const lean = (to: readonly [number, number], k: 0 | 1) =>
          (to[k] - from![k]) / Math.hypot(to[0] - from![0], to[1] - from![1])
        expect(lean(right!, 0)).toBeGreaterThan(-0.05)
        expect(lean(top!, 1)).toBeGreaterThan(-0.25)
        expect(mm).toBeGreaterThan(0)
        // Never in mirror writing.
        const [dx, dy, ux, uy] = [right![0] - from![0], right![1] - from![1], top![0] - from![0], top![1] - from![1]]
        expect(dx * uy - dy * ux).toBeGreaterThan(0)
        expect(Math.abs(from![0])).toBeLessThanOrEqual(868 / 2)
      }
    }),
    { numRuns: 300 },
  )
})

it('are none of them seen edge-on', () => {
  for (const eye of [
    [0, -800, 0.3],
    [800, 0, 15],
    [-800, 0, -3],
  ] as const)
    expect(bedWords(bed, box, seenFrom(eye))).toEqual([])
})

function add(a: Vec3, b: Vec3): Vec3 {
  return [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
}
