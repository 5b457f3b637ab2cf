import { size } from '../fields/index.ts'
import { arc, circumradius, type Ring, segmentsFor } from '../kernel/index.ts'
import { uprightSides } from '../place/index.ts'
import { defineShape } from './define.ts'
import { bottomFace } from './faces.ts'
import { type NamedFace, surfacesOf } from './surfaces.ts'

/** Half of a round bar, lying on its flat side, its length from left to right. */
export const halfRound = defineShape({
  kind: 'half-round',
  label: 'half-round',
  words: [
    'cradle',
    'pipe saddle',
    'half pipe',
    'v-block',
    'half cylinder',
    'half bar',
    'semicircle',
    'd-bar',
    'd-shaft',
    'arch',
    'vault',
    'saddle',
  ],
  shelf: 'solids',
  icon: 'M4 18 A6 7 0 0 1 15 13 L28 8 A6 7 0 0 0 17 13 M4 18 L15 21 M15 21 A6 7 0 0 0 15 13 M15 21 L28 16 V8',
  operation: 'add',
  seat: 'stands',
  fields: {
    diameter: size('Diameter', '12', 'Diameter, which is its size from front to back.'),
    length: size('Length', '30', 'Length from left to right.'),
  },
  quick: ['diameter', 'length'],
  sentence: () => ['half-round ⌀', { field: 'diameter' }, 'and', { field: 'length' }, 'long'],
  box: (v) => ({ min: [-v.length / 2, -v.diameter / 2, 0], max: [v.length / 2, v.diameter / 2, v.diameter / 2] }),
  reach: (v, d) => {
    const r = v.diameter / 2
    // The farthest point of the half disc is on its arc, or one of its ends when looked at from below.
    return (v.length / 2) * Math.abs(d[0]) + (d[2] >= 0 ? r * Math.hypot(d[1], d[2]) : r * Math.abs(d[1]))
  },
  surfaces: (v) =>
    surfacesOf([
      bottomFace(0, v.length, v.diameter),
      ...([-1, 1] as const).map(
        (x): NamedFace => ({
          name: x < 0 ? 'left' : 'right',
          frame: { origin: [(x * v.length) / 2, 0, v.diameter / 4], u: [0, x, 0], v: [0, 0, 1], n: [x, 0, 0] },
          size: [v.diameter, v.diameter / 2],
          sides: { across: x < 0 ? ['back', 'front'] : ['front', 'back'], along: uprightSides.along },
        }),
      ),
      {
        name: 'round',
        frame: { origin: [0, 0, v.diameter / 2], u: [0, -1, 0], v: [1, 0, 0], n: [0, 0, 1] },
        size: [(Math.PI * v.diameter) / 2, v.length],
        sides: { across: ['back', 'front'], along: ['left', 'right'] },
        round: v.diameter / 2,
      },
    ]),
  dimensions: (v) => {
    const [x, r] = [v.length / 2, v.diameter / 2]
    return [
      { kind: 'linear', field: 'diameter', from: [x, -r, 0], to: [x, r, 0], offset: [1, 0, 0] },
      { kind: 'linear', field: 'length', from: [-x, -r, 0], to: [x, -r, 0], offset: [0, -1, 0] },
    ]
  },
  solid(v, { scope, fineness, cuts }) {
    const r = v.diameter / 2
    const segments = segmentsFor(r, fineness, cuts)
    const radius = cuts ? circumradius(r, segments) : r
    const half = cuts ? 180 / segments : 0
    const outline: Ring = [
      ...(cuts ? ([[r, 0]] as const) : []),
      ...arc(0, 0, radius, half, 180 - half, cuts ? segments / 2 - 1 : segments / 2),
      ...(cuts ? ([[-r, 0]] as const) : []),
    ]
    // Drawn as (front to back, up) and laid from left to right.
    return scope.placed(scope.extrude([outline], v.length), {
      origin: [-v.length / 2, 0, 0],
      u: [0, 1, 0],
      v: [0, 0, 1],
      n: [1, 0, 0],
    })
  },
})
