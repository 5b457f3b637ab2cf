import { size } from '../fields/index.ts'
import { defineShape } from './define.ts'
import { bottomFace, topFace } from './faces.ts'
import { surfacesOf } from './surfaces.ts'

interface Values {
  readonly width: number
  readonly depth: number
  readonly height: number
  readonly topWidth: number
  readonly topDepth: number
}

/** A pyramid on a rectangle, to a point, to an edge, or to a smaller or larger rectangle. */
export const pyramid = defineShape({
  kind: 'pyramid',
  label: 'pyramid',
  words: ['frustum', 'hopper', 'roof', 'tapered block', 'draft', 'tent', 'obelisk'],
  shelf: 'solids',
  icon: 'M4 16 L16 11 L28 15 L16 21 Z M4 16 L16 3 L28 15 M16 3 V21',
  operation: 'add',
  seat: 'stands',
  fields: {
    width: size('Width', '20', 'Size of its foot from left to right.'),
    depth: size('Depth', '20', 'Size of its foot from front to back.'),
    height: size('Height', '15', 'Height above its foot.'),
    topWidth: {
      kind: 'length',
      label: 'Width at the top',
      default: '0',
      least: 0,
      most: 10_000,
      meaning: 'Size of its top from left to right; 0 by 0 makes a point, one of them 0 an edge.',
    },
    topDepth: {
      kind: 'length',
      label: 'Depth at the top',
      default: '0',
      least: 0,
      most: 10_000,
      meaning: 'Size of its top from front to back.',
    },
  },
  quick: ['width', 'depth', 'height', 'topWidth', 'topDepth'],
  sentence: () => [
    'pyramid',
    { field: 'width' },
    '×',
    { field: 'depth' },
    'at its foot,',
    { field: 'height' },
    'high,',
    { field: 'topWidth' },
    '×',
    { field: 'topDepth' },
    'at its top',
  ],
  box: (v) => {
    const [x, y] = [Math.max(v.width, v.topWidth) / 2, Math.max(v.depth, v.topDepth) / 2]
    return { min: [-x, -y, 0], max: [x, y, v.height] }
  },
  reach: (v, d) => Math.max(...corners(v).map((p) => p[0] * d[0] + p[1] * d[1] + p[2] * d[2])),
  surfaces: (v) =>
    surfacesOf([
      ...(v.topWidth > 0 && v.topDepth > 0 ? [topFace(v.height, v.topWidth, v.topDepth)] : []),
      bottomFace(0, v.width, v.depth),
      ...slopes(v),
    ]),
  dimensions: (v) => {
    const [x, y] = [v.width / 2, v.depth / 2]
    return [
      { kind: 'linear', field: 'width', from: [-x, -y, 0], to: [x, -y, 0], offset: [0, -1, 0] },
      { kind: 'linear', field: 'depth', from: [x, -y, 0], to: [x, y, 0], offset: [1, 0, 0] },
      { kind: 'linear', field: 'height', from: [-x, -y, 0], to: [-x, -y, v.height], offset: [-1, 0, 0] },
    ]
  },
  solid: (v, { scope }) => scope.hull(corners(v)),
})

function corners(v: Values): readonly (readonly [number, number, number])[] {
  const level = (w: number, d: number, z: number) =>
    [
      [-w / 2, -d / 2, z],
      [w / 2, -d / 2, z],
      [w / 2, d / 2, z],
      [-w / 2, d / 2, z],
    ] as const
  return [...level(v.width, v.depth, 0), ...level(v.topWidth, v.topDepth, v.height)]
}

/** The four slopes; u runs level, v up the slope, both about the slope's middle. */
function slopes(v: Values) {
  const slope = (name: string, x: 0 | 1 | -1, y: 0 | 1 | -1) => {
    const [foot, top] = x === 0 ? [v.depth / 2, v.topDepth / 2] : [v.width / 2, v.topWidth / 2]
    const long = Math.hypot(foot - top, v.height)
    const [rise, out] = [v.height / long, (top - foot) / long]
    const middle = (foot + top) / 2
    const wide = x === 0 ? (v.width + v.topWidth) / 2 : (v.depth + v.topDepth) / 2
    return {
      name,
      frame: {
        origin: [x * middle, y * middle, v.height / 2],
        u: [-y, x, 0],
        v: [x * out, y * out, rise],
        n: [x * rise, y * rise, -out],
      },
      size: [wide, long],
      sides: { across: ['left', 'right'], along: ['foot', 'top'] },
    } as const
  }
  return [slope('front', 0, -1), slope('back', 0, 1), slope('left', -1, 0), slope('right', 1, 0)]
}
