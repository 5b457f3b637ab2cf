import type { FieldTexts } from '../document/index.ts'
import { size } from '../fields/index.ts'
import { arc, type Ring, roundedRectangle, segmentsFor } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { boxReach, defineShape } from './define.ts'
import { blockDimensions } from './dimensions.ts'
import { arcEdge, lineEdge, type ShapeEdge } from './edges.ts'
import { bottomFace, sideFaces, topFace } from './faces.ts'
import { cornerRounds, prismReach } from './prismatic.ts'
import { plainSurfaces, surfacesOf } from './surfaces.ts'

/** A plate or block: its upright corners may be rounded, its upper and lower edges rounded or bevelled. */
export const plate = defineShape({
  kind: 'plate',
  label: 'plate',
  words: [
    'tenon',
    'finger',
    'plank',
    'cover',
    'shelf',
    'platform',
    'enclosure',
    'case bottom',
    'cleat',
    'riser',
    ...[
      'block',
      'box',
      'base',
      'slab',
      'cuboid',
      'leaf',
      'brick',
      'bracket',
      'tile',
      'sheet',
      'strip',
      'flat bar',
      'panel',
    ],
    ...['rectangle', 'rectangular block', 'tray', 'bar stock', 'foot', 'lid', 'body', 'beam'],
    ...['cube', 'square block'].map((word) => ({ word, take: evenOf })),
    {
      word: 'square',
      take: ([side, height]) => ({ ...(side ? { width: side, depth: side } : {}), ...(height ? { height } : {}) }),
    },
    { word: 'rounded plate', quick: ['width', 'depth', 'height', 'corner'], fields: { corner: '3' } },
  ],
  shelf: 'solids',
  icon: 'M4 14 L16 8 L28 12 L16 18 Z M4 14 V17 L16 21 V18 M28 12 V15 L16 21',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    width: { ...size('Width', '40', 'Size from left to right.'), takes: 'flat', takesWhenCut: true },
    depth: { ...size('Depth', '30', 'Size from front to back.'), takes: 'flat', takesWhenCut: true },
    height: size('Height', '5', 'Thickness, away from the face it stands on.'),
    corners: {
      kind: 'choice',
      label: 'Corners',
      default: 'round',
      choices: { round: 'rounded', bevel: 'bevelled' },
      meaning: 'How the four upright corners are finished.',
    },
    corner: {
      kind: 'length',
      label: 'Corner radius',
      default: '0',
      least: 0,
      meaning: 'Radius of the four upright corners, or width of their bevel at 45°.',
    },
    top: {
      kind: 'choice',
      label: 'Upper edge',
      default: 'sharp',
      choices: { sharp: 'sharp', round: 'rounded', bevel: 'bevelled' },
      meaning: 'How its upper edge is finished.',
      rare: true,
    },
    topSize: {
      kind: 'length',
      label: 'Upper edge size',
      default: '1',
      above: 0,
      meaning: 'Radius of the rounding, or width of the bevel at 45°.',
    },
    bottom: {
      kind: 'choice',
      label: 'Lower edge',
      default: 'sharp',
      choices: { sharp: 'sharp', round: 'rounded', bevel: 'bevelled' },
      meaning: 'How its lower edge is finished.',
      rare: true,
    },
    bottomSize: {
      kind: 'length',
      label: 'Lower edge size',
      default: '1',
      above: 0,
      meaning: 'Radius of the rounding, or width of the bevel at 45°.',
    },
  },
  quick: ['width', 'depth', 'height', 'corner'],
  sentence: (v) => [
    'plate',
    { field: 'width' },
    '×',
    { field: 'depth' },
    '×',
    { field: 'height' },
    ', corners',
    { field: 'corners' },
    { field: 'corner' },
    ', upper edge',
    { field: 'top' },
    ...(v.top === 'sharp' ? [] : [{ field: 'topSize' }]),
    ', lower edge',
    { field: 'bottom' },
    ...(v.bottom === 'sharp' ? [] : [{ field: 'bottomSize' }]),
  ],
  impossible(v) {
    const half = Math.min(v.width, v.depth) / 2
    if (v.corner > half + 1e-9)
      return {
        field: 'corner',
        detail: `The corners can take half of the shorter side at most (${round(half)} mm).`,
      }
    const edges = edgeHeight(v.top, v.topSize) + edgeHeight(v.bottom, v.bottomSize)
    const field = v.top === 'sharp' ? 'bottomSize' : 'topSize'
    if (edges > v.height + 1e-9)
      return { field, detail: `The edges take ${round(edges)} mm of its ${round(v.height)} mm height.` }
    if (Math.max(edgeHeight(v.top, v.topSize), edgeHeight(v.bottom, v.bottomSize)) >= half)
      return { field, detail: `An edge must be smaller than half of the shorter side (${round(half)} mm).` }
    return undefined
  },
  box: (v) => ({ min: [-v.width / 2, -v.depth / 2, 0], max: [v.width / 2, v.depth / 2, v.height] }),
  reach: (v, d) => {
    if (v.corners === 'bevel') return prismReach(cornerRounds(outline(v, 1)), 0, v.height, d)
    // A box whose sides are drawn in by the corner radius, and a round of that radius about it.
    const drawnIn = {
      min: [v.corner - v.width / 2, v.corner - v.depth / 2, 0],
      max: [v.width / 2 - v.corner, v.depth / 2 - v.corner, v.height],
    } as const
    return boxReach(drawnIn, d) + v.corner * Math.hypot(d[0], d[1])
  },
  surfaces: (v) =>
    surfacesOf(
      [
        topFace(v.height, v.width, v.depth),
        bottomFace(0, v.width, v.depth),
        ...sideFaces(v.width, v.depth, v.height),
        ...(v.corner > 0 ? plainSurfaces('corner') : []),
        ...(v.top === 'sharp' ? [] : plainSurfaces('upper edge')),
        ...(v.bottom === 'sharp' ? [] : plainSurfaces('lower edge')),
      ],
      {
        at(p, normal) {
          if (Math.abs(normal[2]) <= 0.02 || Math.abs(normal[2]) >= 0.999) return undefined
          // Slivers that a cut leaves may look anywhere.
          const upper = p[2] > v.height / 2
          if ((upper ? v.top : v.bottom) === 'sharp') return undefined
          return upper ? 'upper edge' : 'lower edge'
        },
      },
    ),
  edges: (v) => (v.corner > 0 ? cornered(v) : []),
  dimensions: (v) => [
    ...blockDimensions('width', 'depth', 'height', [v.width, v.depth, v.height]),
    ...(v.corner > 0 && v.corners === 'round'
      ? ([
          {
            kind: 'radius',
            field: 'corner',
            centre: [v.width / 2 - v.corner, v.depth / 2 - v.corner, v.height],
            direction: [Math.SQRT1_2, Math.SQRT1_2, 0],
            radius: v.corner,
          },
        ] as const)
      : []),
  ],
  prism(v, { fineness }) {
    if (v.top !== 'sharp' || v.bottom !== 'sharp') return undefined
    return { low: 0, high: v.height, rings: () => [outline(v, fineness)] }
  },
  solid(v, { scope, fineness }) {
    if (v.top === 'sharp' && v.bottom === 'sharp') return scope.extrude([outline(v, fineness)], v.height)
    const segments = cornerSegments(v, fineness)
    // Convex: the hull of its outline drawn in by the edge's profile at each height.
    const layers = [
      ...edgeProfile(v.bottom, v.bottomSize, fineness).map(({ inset, drop }) => ({ inset, z: drop })),
      ...edgeProfile(v.top, v.topSize, fineness).map(({ inset, drop }) => ({ inset, z: v.height - drop })),
    ]
    return scope.hull(layers.flatMap(({ inset, z }) => insetRing(v, inset, segments).map(([x, y]): Vec3 => [x, y, z])))
  },
})

/** As long as it is wide and high. */
function evenOf([side = '20']: readonly string[]): FieldTexts {
  return { width: side, depth: side, height: side }
}

interface Outline {
  readonly width: number
  readonly depth: number
  readonly corner: number
  readonly corners: 'round' | 'bevel'
}

/** Sides shortened by the corners between them. */
function cornered({ width, depth, corner, corners }: Outline): ShapeEdge[] {
  const [x, y] = [width / 2, depth / 2]
  const [a, b] = [x - corner, y - corner]
  const between = (name: string, centre: Vec2, from: number, start: Vec2, end: Vec2) =>
    corners === 'round' ? arcEdge(name, centre, corner, from, from + 90) : lineEdge(name, start, end)
  return [
    lineEdge('front', [-a, -y], [a, -y]),
    between('corner right front', [a, -b], -90, [a, -y], [x, -b]),
    lineEdge('right', [x, -b], [x, b]),
    between('corner right back', [a, b], 0, [x, b], [a, y]),
    lineEdge('back', [a, y], [-a, y]),
    between('corner left back', [-a, b], 90, [-a, y], [-x, b]),
    lineEdge('left', [-x, b], [-x, -b]),
    between('corner left front', [-a, -b], 180, [-x, -b], [-a, -y]),
  ]
}

/** A bevel is a round of one flat. */
function cornerSegments({ corner, corners }: Outline, fineness: number): number {
  return corner > 0 && corners === 'round' ? segmentsFor(corner, fineness) : 4
}

function outline(v: Outline, fineness: number) {
  return roundedRectangle(v.width, v.depth, v.corner, cornerSegments(v, fineness))
}

function round(mm: number): number {
  return Math.round(mm * 1000) / 1000
}

function edgeHeight(finish: string, size: number): number {
  return finish === 'sharp' ? 0 : size
}

/** From the face inwards: how far the outline is drawn in at a distance from the face. */
function edgeProfile(finish: string, size: number, fineness: number): { inset: number; drop: number }[] {
  if (finish === 'sharp') return [{ inset: 0, drop: 0 }]
  if (finish === 'bevel')
    return [
      { inset: size, drop: 0 },
      { inset: 0, drop: size },
    ]
  return arc(size, size, size, 270, 180, segmentsFor(size, fineness) / 4).map(([inset, drop]) => ({
    inset: Math.max(0, inset),
    drop: Math.max(0, drop),
  }))
}

/** Drawn in by `inset` all round: a round gets smaller by as much, a bevel by what its own flat and two sides leave it. */
function insetRing(v: Outline, inset: number, segments: number): Ring {
  const less = v.corners === 'round' ? inset : inset * (2 - Math.SQRT2)
  return roundedRectangle(v.width - 2 * inset, v.depth - 2 * inset, Math.max(0, v.corner - less), segments)
}
