import { size } from '../fields/index.ts'
import { arc, circumradius, type Ring, segmentsFor } from '../kernel/index.ts'
import { defineShape, discReach } from './define.ts'
import { mouthDimension } from './dimensions.ts'
import { circleEdge } from './edges.ts'
import { roundFace, topFace } from './faces.ts'
import { deep, deepened, depthField, reachField, reachWords, sinkEnd, sunkPrism, sunkSurfaces } from './sunk.ts'
import { plainSurfaces } from './surfaces.ts'

/** A round hole into a face: through or to a depth, plain, countersunk or counterbored. */
export const hole = defineShape({
  kind: 'hole',
  label: 'round hole',
  words: [
    'tapped hole',
    'tap hole',
    'insert hole',
    'dowel hole',
    'drain',
    'drain hole',
    'cable hole',
    'wire hole',
    'air hole',
    'finger hole',
    'socket hole',
    ...[
      'bore',
      'drill',
      'screw hole',
      'bolt hole',
      'pilot hole',
      'clearance hole',
      'pin hole',
      'through hole',
      'round cut',
    ],
    { word: 'blind hole', fields: { reach: 'blind' } },
    ...['countersink', 'countersunk hole', 'csk'].map((word) => ({
      word,
      fields: { mouth: 'countersink' },
      quick: ['diameter', 'head', { field: 'depth', with: { reach: 'blind' } }],
    })),
    ...['counterbore', 'counterbored hole', 'spotface'].map((word) => ({
      word,
      fields: { mouth: 'counterbore' },
      quick: ['diameter', 'head', 'headDepth', { field: 'depth', with: { reach: 'blind' } }],
    })),
  ],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M11.5 14 A5 2.2 0 0 1 21 14 A5 2.2 0 0 1 11.5 14',
  operation: 'cut',
  seat: 'enters',
  fields: {
    diameter: { ...size('Diameter', '5', 'Diameter of the hole; a pin of this size enters it.'), takes: 'round' },
    reach: reachField,
    depth: depthField,
    mouth: {
      kind: 'choice',
      label: 'Mouth',
      default: 'plain',
      choices: { plain: 'plain', countersink: 'countersunk', counterbore: 'counterbored' },
      meaning: 'The form of its mouth, for the head of a screw.',
    },
    head: { ...size('Head diameter', '10', 'Diameter of the countersink or counterbore at the face.'), takes: 'round' },
    headDepth: size('Head depth', '4', 'Depth of the counterbore.'),
    angle: {
      kind: 'angle',
      label: 'Countersink angle',
      default: '90',
      least: 30,
      most: 150,
      meaning: 'Angle between the flanks of the countersink.',
      rare: true,
    },
  },
  quick: ['diameter', { field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => [
    'round hole ⌀',
    { field: 'diameter' },
    ...reachWords(v),
    ', its mouth',
    { field: 'mouth' },
    ...(v.mouth === 'plain' ? [] : ['⌀', { field: 'head' }]),
    ...(v.mouth === 'counterbore' ? [{ field: 'headDepth' }, 'deep'] : []),
    ...(v.mouth === 'countersink' ? ['at', { field: 'angle' }] : []),
  ],
  impossible(v) {
    if (v.mouth !== 'plain' && v.head <= v.diameter)
      return { field: 'head', detail: `The head must be wider than the hole (${v.diameter} mm).` }
    const deep = v.mouth === 'countersink' ? sinkDepth(v) : v.mouth === 'counterbore' ? v.headDepth : 0
    if (v.reach !== 'through' && deep >= v.depth)
      return {
        field: 'depth',
        detail: `The mouth alone is ${Math.round(deep * 1000) / 1000} mm deep; the hole must be deeper.`,
      }
    return undefined
  },
  box: (v, through) => {
    const r = Math.max(v.diameter, v.mouth === 'plain' ? 0 : v.head) / 2
    return { min: [-r, -r, -deep(v, through)], max: [r, r, 0] }
  },
  // Holes are measured at their mouth.
  reach: (v, d) => discReach(v.diameter / 2, 0, d),
  // The wall of a through hole is measured from its mouth: how far down it goes is not its own to say.
  surfaces: (v) =>
    sunkSurfaces(
      v,
      v.diameter,
      v.diameter,
      [
        roundFace('wall', -v.diameter / 2, v.reach === 'through' ? 0 : -v.depth, 0),
        ...(v.mouth === 'counterbore'
          ? [topFace(-v.headDepth, v.head, v.head, 'ledge'), roundFace('counterbore', -v.head / 2, -v.headDepth, 0)]
          : []),
        ...(v.mouth === 'countersink' ? plainSurfaces('countersink') : []),
      ],
      (p) => (v.mouth === 'countersink' && Math.hypot(p[0], p[1]) > v.diameter / 2 + 0.05 ? 'countersink' : undefined),
    ),
  edges: (v) => (v.mouth === 'plain' ? [] : [circleEdge(v.mouth, v.head)]),
  upTo: deepened,
  dimensions: (v) => [
    mouthDimension('diameter', v.diameter),
    ...(v.mouth === 'plain'
      ? []
      : ([
          {
            kind: 'diameter',
            field: 'head',
            centre: [0, 0, 0],
            direction: [Math.SQRT1_2, Math.SQRT1_2, 0],
            radius: v.head / 2,
          },
        ] as const)),
    ...(v.reach === 'blind'
      ? ([
          {
            kind: 'linear',
            field: 'depth',
            from: [v.diameter / 2, 0, 0],
            to: [v.diameter / 2, 0, -v.depth],
            offset: [1, 0, 0],
          },
        ] as const)
      : []),
  ],
  prism(v, context) {
    if (v.mouth !== 'plain') return undefined
    return sunkPrism(v, context, () => {
      const segments = segmentsFor(v.diameter / 2, context.fineness, true)
      return [arc(0, 0, circumradius(v.diameter / 2, segments), 0, 360 - 360 / segments, segments - 1)]
    })
  },
  solid(v, { scope, fineness, through, overlap }) {
    const depth = deep(v, through)
    const widest = v.mouth === 'plain' ? v.diameter : v.head
    const segments = segmentsFor(widest / 2, fineness, true)
    const r = circumradius(v.diameter / 2, segments)
    const head = circumradius(v.head / 2, segments)
    // Half of the section, turned about the axis; the mouth goes on straight for `overlap` above the face.
    const profile: Ring = [
      [0, -depth],
      [r, -depth],
      ...(v.mouth === 'plain' ? ([[r, overlap]] as const) : []),
      ...(v.mouth === 'countersink'
        ? ([[r, -sinkDepth(v)], ...sinkEnd(head, (head - r) / sinkDepth(v), overlap)] as const)
        : []),
      ...(v.mouth === 'counterbore'
        ? ([
            [r, -v.headDepth],
            [head, -v.headDepth],
            [head, overlap],
          ] as const)
        : []),
      [0, overlap],
    ]
    return scope.revolve(profile, segments)
  },
})

function sinkDepth(v: { head: number; diameter: number; angle: number }): number {
  return (v.head - v.diameter) / 2 / Math.tan(((v.angle / 2) * Math.PI) / 180)
}
