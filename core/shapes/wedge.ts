import { size } from '../fields/index.ts'
import { defineShape } from './define.ts'
import { blockDimensions } from './dimensions.ts'
import { bottomFace, sideFaces } from './faces.ts'
import { surfacesOf } from './surfaces.ts'

/** A wedge or gusset: a right triangle seen from the front, upright at its left, `thick` from front to back. */
export const wedge = defineShape({
  kind: 'wedge',
  label: 'wedge',
  words: [
    'gusset',
    'ramp',
    'rib',
    'brace',
    'web',
    'slope',
    'incline',
    'chock',
    'door stop',
    'right triangle',
    'corner brace',
    'support wedge',
  ],
  shelf: 'solids',
  icon: 'M5 18 V6 L21 18 Z M5 6 L11 4 L27 16 L21 18 M27 16',
  operation: 'add',
  seat: 'stands',
  fields: {
    length: size('Length', '20', 'Length of its foot, from left to right.'),
    height: size('Height', '15', 'Height of its upright side, at the left.'),
    thick: size('Thickness', '5', 'Size from front to back.'),
  },
  quick: ['length', 'height', 'thick'],
  sentence: () => ['wedge', { field: 'length' }, 'long,', { field: 'height' }, 'high and', { field: 'thick' }, 'thick'],
  box: (v) => ({ min: [-v.length / 2, -v.thick / 2, 0], max: [v.length / 2, v.thick / 2, v.height] }),
  reach: (v, d) =>
    Math.max(-v.length * d[0] * 0.5, v.length * d[0] * 0.5, -v.length * d[0] * 0.5 + v.height * d[2]) +
    (v.thick / 2) * Math.abs(d[1]),
  surfaces: (v) => {
    const slope = Math.hypot(v.length, v.height)
    return surfacesOf([
      bottomFace(0, v.length, v.thick),
      ...sideFaces(v.length, v.thick, v.height).filter(({ name }) => name !== 'right'),
      {
        name: 'slope',
        frame: {
          origin: [0, 0, v.height / 2],
          u: [v.length / slope, 0, -v.height / slope],
          v: [0, 1, 0],
          n: [v.height / slope, 0, v.length / slope],
        },
        size: [slope, v.thick],
        sides: { across: ['upper', 'lower'], along: ['front', 'back'] },
      },
    ])
  },
  dimensions: (v) => blockDimensions('length', 'thick', 'height', [v.length, v.thick, v.height]),
  solid: (v, { scope }) =>
    // Drawn as (left to right, up) and laid from back to front.
    scope.placed(
      scope.extrude(
        [
          [
            [-v.length / 2, 0],
            [v.length / 2, 0],
            [-v.length / 2, v.height],
          ],
        ],
        v.thick,
      ),
      {
        origin: [0, v.thick / 2, 0],
        u: [1, 0, 0],
        v: [0, 0, 1],
        n: [0, -1, 0],
      },
    ),
})
