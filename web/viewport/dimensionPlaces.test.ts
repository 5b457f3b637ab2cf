import type { Vec3 } from '@makrel/core/place'
import { workOut } from '@makrel/core/planning'
import { onFace, partOf, repeat, step } from '@makrel/core/testing'
import { Matrix4, PerspectiveCamera } from 'three'
import { expect, it } from 'vitest'
import { selectedDimensions } from './dimensionLines.ts'
import { dimensionsApart, dimensionText, takenPlaces } from './dimensionPlaces.ts'
import type { Projection } from './view.ts'

/** Looked at from so far away, mm, round and above the middle of the part. */
function seenFrom(turn: number, rise: number, far: number): Projection {
  const [width, height] = [868, 680]
  const camera = new PerspectiveCamera(22, width / height, 1, 5000)
  camera.up.set(0, 0, 1)
  const eye: Vec3 = [
    far * Math.sin(turn) * Math.cos(rise),
    -far * Math.cos(turn) * Math.cos(rise),
    far * Math.sin(rise),
  ]
  camera.position.set(...eye)
  camera.lookAt(0, 0, 0)
  camera.updateMatrixWorld()
  const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
  const pixelsPerMm = height / 2 / Math.tan((11 * Math.PI) / 180)
  return { matrix: matrix.elements, inverse: matrix.clone().invert().elements, eye, width, height, pixelsPerMm }
}

const part = partOf([
  step('b', 'plate', { width: '84', depth: '44', height: '6' }),
  step(
    'h',
    'hole',
    { diameter: '5.3', mouth: 'countersink', head: '10.6' },
    {
      place: {
        ...onFace('b', 'top'),
        across: { from: 'high', to: 'centre', by: '13' },
        along: { from: 'low', to: 'centre', by: '11' },
      },
      repeats: [repeat('row', { direction: 'across', count: '2', spacing: '-22' })],
    },
  ),
  step('t', 'plate', { width: '8.1', depth: '3.3', height: '2.2' }, { place: { ...onFace('b', 'top'), lift: '1.3' } }),
])
const box = { min: [-42, -22, 0], max: [42, 22, 6] } as const

it.each(['b', 'h', 't'])(
  'no value of step %s lies on another one, or under what can be pressed, however it is looked at',
  (id) => {
    const worked = workOut(part)
    const selection = { kind: 'step', id } as const
    let seen = 0
    for (let turn = -1.3; turn < 1.4; turn += 0.31)
      for (const rise of [0.2, 0.62, 1.1, 1.5])
        for (const far of [170, 330, 900]) {
          const view = seenFrom(turn, rise, far)
          const taken = takenPlaces(part, worked, selection, box, view)
          const dimensions = selectedDimensions(part, worked.resolved, worked.plan, selection, box)
          const labels = dimensionsApart(dimensions, view, 'mm', taken).map(({ dimension, layout: { text } }) => ({
            at: text,
            // As wide as a narrow letter is, at the least.
            size: [7 * dimensionText(dimension, 'mm').length + 8, 20],
          }))
          const all = [...labels, ...taken.map(({ at, size }) => ({ at, size: [size, size] }))]
          for (const [i, a] of labels.entries())
            for (const b of all.slice(i + 1)) {
              const apart = [0, 1].some((k) => Math.abs(a.at[k]! - b.at[k]!) >= (a.size[k]! + b.size[k]!) / 2 - 1)
              expect([turn, rise, far, a.at, b.at, apart]).toEqual([turn, rise, far, a.at, b.at, true])
              seen++
            }
        }
    expect(seen).toBeGreaterThan(500)
  },
)
