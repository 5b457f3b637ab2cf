import { size } from '../fields/index.ts'
import { arc, type Ring, segmentsFor } from '../kernel/index.ts'
import { defineShape } from './define.ts'
import { blockDimensions } from './dimensions.ts'
import { bottomFace, sideFaces, topFace } from './faces.ts'
import { type NamedFace, surfacesOf } from './surfaces.ts'

/** A wall standing across a face, with a plain or a half-round head. */
export const upright = defineShape({
  kind: 'upright',
  label: 'upright',
  words: [
    'l bracket',
    'angle bracket',
    'back wall',
    'side wall',
    'rib wall',
    'screen',
    'wall',
    'flange',
    'lug',
    'ear',
    'stand',
    'fin',
    'tab',
    'partition',
    'cheek',
    'backplate',
    'divider',
  ],
  shelf: 'solids',
  icon: 'M10 21 V9 A5 5 0 0 1 20 9 V21 Z M20 9 L23 8 V19 L20 21 M15 4 L18 3.4 A5 5 0 0 1 23 8',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    thick: size('Thickness', '5', 'Size from left to right.'),
    width: size('Width', '30', 'Size from front to back.'),
    height: size('Height', '30', 'From the face it stands on to its highest point.'),
    head: {
      kind: 'choice',
      label: 'Head',
      default: 'plain',
      choices: { plain: 'plain', round: 'rounded' },
      meaning: 'A rounded head is a half circle over the whole width.',
    },
  },
  quick: ['thick', 'width', 'height'],
  sentence: () => [
    'upright',
    { field: 'thick' },
    'thick,',
    { field: 'width' },
    'wide and',
    { field: 'height' },
    'high, its head',
    { field: 'head' },
  ],
  impossible: (v) =>
    v.head === 'round' && v.height < v.width / 2 - 1e-9
      ? { field: 'height', detail: `A rounded head needs half of the width as height at least (${v.width / 2} mm).` }
      : undefined,
  box: (v) => ({ min: [-v.thick / 2, -v.width / 2, 0], max: [v.thick / 2, v.width / 2, v.height] }),
  // Its broad sides first: what is added to an upright is mostly meant for them.
  surfaces: (v) => {
    const [front, back, left, right] = sideFaces(v.thick, v.width, v.height) as [
      NamedFace,
      NamedFace,
      NamedFace,
      NamedFace,
    ]
    // Under a rounded head the narrow sides end where the round begins.
    const narrow =
      v.head === 'plain'
        ? [front, back]
        : v.height > v.width / 2
          ? sideFaces(v.thick, v.width, v.height - v.width / 2).slice(0, 2)
          : []
    return surfacesOf([
      ...[right, left],
      ...(v.head === 'plain' ? [topFace(v.height, v.thick, v.width)] : []),
      ...narrow,
      ...headOf(v),
      bottomFace(0, v.thick, v.width),
    ])
  },
  dimensions: (v) => blockDimensions('thick', 'width', 'height', [v.thick, v.width, v.height]),
  solid(v, { scope, fineness }) {
    // Drawn flat as (front to back, up), then stood up: x of the outline becomes y, its y becomes z.
    const half = v.width / 2
    const outline: Ring =
      v.head === 'plain'
        ? [
            [-half, 0],
            [half, 0],
            [half, v.height],
            [-half, v.height],
          ]
        : [
            ...(v.height > half + 1e-9
              ? ([
                  [-half, 0],
                  [half, 0],
                ] as const)
              : []),
            ...arc(0, v.height - half, half, 0, 180, segmentsFor(half, fineness) / 2),
          ]
    return scope.placed(scope.extrude([outline], v.thick), {
      origin: [-v.thick / 2, 0, 0],
      u: [0, 1, 0],
      v: [0, 0, 1],
      n: [1, 0, 0],
    })
  },
})

/** A rounded head, entered from above; it runs from left to right. */
function headOf({
  head,
  thick,
  width,
  height,
}: {
  readonly head: 'plain' | 'round'
  readonly thick: number
  readonly width: number
  readonly height: number
}): NamedFace[] {
  if (head === 'plain') return []
  return [
    {
      name: 'head',
      frame: { origin: [0, 0, height], u: [0, -1, 0], v: [1, 0, 0], n: [0, 0, 1] },
      size: [(Math.PI * width) / 2, thick],
      sides: { across: ['back', 'front'], along: ['left', 'right'] },
      round: width / 2,
    },
  ]
}
