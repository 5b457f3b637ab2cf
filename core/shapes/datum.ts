import { levelSides, type Vec3 } from '../place/index.ts'
import { defineShape } from './define.ts'
import { type NamedFace, surfacesOf } from './surfaces.ts'

/**
 * Something to measure from and to stand on, wherever it is set: a point, the axis through it, and three planes. It adds
 * and takes nothing.
 *
 *            n  plane (looks along its normal)
 *            |     v   plane to the back
 *            |   /
 *            | /
 *      point +-------- u   plane to the right
 */
export const datum = defineShape({
  kind: 'datum',
  label: 'datum',
  words: [
    'construction point',
    'zero',
    'reference',
    'datum plane',
    'datum point',
    'axis',
    'origin',
    'centre line',
    'plane',
    'marker',
  ],
  shelf: 'datums',
  icon: 'M4 19 L13 8 H28 L19 19 Z M16 13.5 V3 M13.5 5.5 L16 3 L18.5 5.5 M16 13.5 H22 M16 13.5 L12.5 17',
  operation: 'add',
  seat: 'enters',
  datum: true,
  fields: {},
  quick: [],
  sentence: () => ['datum'],
  box: () => ({ min: [0, 0, 0], max: [0, 0, 0] }),
  surfaces: () =>
    surfacesOf([
      plane('plane', [1, 0, 0], [0, 1, 0], [0, 0, 1]),
      plane('plane to the right', [0, 1, 0], [0, 0, 1], [1, 0, 0]),
      plane('plane to the back', [-1, 0, 0], [0, 0, 1], [0, 1, 0]),
    ]),
  dimensions: () => [],
  solid() {
    throw new Error('a datum has no solid')
  },
})

/** Without an extent: it is measured from its middle, as the bed is. */
function plane(name: string, u: Vec3, v: Vec3, n: Vec3): NamedFace {
  return { name, frame: { origin: [0, 0, 0], u, v, n }, size: [0, 0], sides: levelSides }
}
