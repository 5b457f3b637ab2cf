import type { FieldTexts } from '../document/index.ts'
import { size } from '../fields/index.ts'
import { circumradius, segmentsFor } from '../kernel/index.ts'
import { defineShape, discReach, operandText } from './define.ts'
import { heightBeside } from './dimensions.ts'
import { circleEdge } from './edges.ts'
import { bottomFace, roundFace, topFace } from './faces.ts'
import { type Surface, surfacesOf } from './surfaces.ts'

/** A round bar: straight or tapered, solid or a tube. */
export const bar = defineShape({
  kind: 'bar',
  label: 'round bar',
  words: [
    'feet',
    'bumper',
    'knob stem',
    'handle bar',
    'pole',
    'plug',
    'roller',
    'hub',
    'pedestal',
    'dial',
    'cap',
    ...['cylinder', 'rod', 'pin', 'peg', 'boss', 'dowel', 'shaft', 'axle', 'post', 'pillar', 'column', 'stud'],
    ...['disc', 'disk', 'circle', 'round', 'wheel', 'button', 'coin'],
    ...['tube', 'pipe', 'sleeve', 'bush', 'bushing'].map((word) => ({ word, take: tubeOf })),
    ...['spacer', 'standoff', 'stand-off'].map((word) => ({ word, take: spacerOf })),
    ...['cone', 'point', 'spike'].map((word) => ({ word, fields: { form: 'tapered', end: '0' } })),
    ...['taper', 'tapered bar', 'truncated cone', 'conical frustum'].map((word) => ({
      word,
      fields: { form: 'tapered' },
      quick: ['diameter', 'end', 'height'],
    })),
  ],
  shelf: 'solids',
  icon: 'M8 7 A8 3 0 0 1 24 7 A8 3 0 0 1 8 7 M8 7 V18 A8 3 0 0 0 24 18 V7',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    diameter: { ...size('Diameter', '10', 'Diameter at the foot.'), takes: 'round', takesWhenCut: true },
    height: size('Length', '20', 'Length along its axis.'),
    form: {
      kind: 'choice',
      label: 'Form',
      default: 'straight',
      choices: { straight: 'straight', tapered: 'tapered' },
      meaning: 'A tapered bar has another diameter at its end.',
    },
    end: {
      kind: 'length',
      label: 'End diameter',
      default: '6',
      least: 0,
      most: 10_000,
      meaning: 'Diameter at the end away from the foot; 0 makes a point.',
    },
    core: {
      kind: 'choice',
      label: 'Inside',
      default: 'solid',
      choices: { solid: 'solid', tube: 'hollow' },
      meaning: 'A hollow bar is a tube, open at both ends.',
    },
    bore: {
      kind: 'length',
      label: 'Bore',
      default: '5',
      above: 0,
      takes: 'round',
      meaning: 'Inside diameter of a tube.',
    },
  },
  quick: ['diameter', 'height'],
  sentence: (v) => [
    'round bar ⌀',
    { field: 'diameter' },
    ',',
    { field: 'height' },
    'long,',
    { field: 'form' },
    ...(v.form === 'tapered' ? ['to ⌀', { field: 'end' }] : []),
    'and',
    { field: 'core' },
    ...(v.core === 'tube' ? ['with a bore of', { field: 'bore' }] : []),
  ],
  impossible: (v) => {
    const least = v.form === 'tapered' ? Math.min(v.diameter, v.end) : v.diameter
    return v.core === 'tube' && v.bore >= least
      ? { field: 'bore', detail: `The bore must be smaller than the bar (${least} mm at its thinnest).` }
      : undefined
  },
  box: (v) => {
    const r = Math.max(v.diameter, v.form === 'tapered' ? v.end : 0) / 2
    return { min: [-r, -r, 0], max: [r, r, v.height] }
  },
  reach: (v, d) =>
    Math.max(discReach(v.diameter / 2, 0, d), discReach((v.form === 'tapered' ? v.end : v.diameter) / 2, v.height, d)),
  surfaces: (v) => {
    const end = v.form === 'tapered' ? v.end : v.diameter
    return surfacesOf([
      ...(end > 0 ? [topFace(v.height, end, end, 'end')] : []),
      bottomFace(0, v.diameter, v.diameter, 'foot'),
      ...rounds(v),
    ])
  },
  edges: (v) =>
    v.form === 'straight'
      ? []
      : [circleEdge('rim of foot', v.diameter), ...(v.end > 0 ? [circleEdge('rim of end', v.end)] : [])],
  dimensions: (v) => {
    const [r, e] = [v.diameter / 2, (v.form === 'tapered' ? v.end : v.diameter) / 2]
    return [
      { kind: 'diameter', field: 'diameter', centre: [0, 0, 0], direction: [1, 0, 0], radius: r },
      heightBeside([-Math.max(r, e), 0], v.height),
      ...(v.form === 'tapered'
        ? ([{ kind: 'diameter', field: 'end', centre: [0, 0, v.height], direction: [1, 0, 0], radius: e }] as const)
        : []),
      ...(v.core === 'tube'
        ? ([
            { kind: 'diameter', field: 'bore', centre: [0, 0, v.height], direction: [0, 1, 0], radius: v.bore / 2 },
          ] as const)
        : []),
    ]
  },
  solid(v, { scope, fineness, cuts, overlap }) {
    const [low, high] = [v.diameter / 2, (v.form === 'tapered' ? v.end : v.diameter) / 2]
    const segments = segmentsFor(Math.max(low, high), fineness, cuts)
    // What cuts is circumscribed, so that the bore it leaves takes a bar of that diameter; a tube's bore is the reverse.
    const outer = (r: number) => (cuts ? circumradius(r, segments) : r)
    const body = scope.cylinder(v.height, outer(low), outer(high), segments)
    if (v.core === 'solid') return body
    const boreSegments = segmentsFor(v.bore / 2, fineness, !cuts)
    const inner = cuts ? v.bore / 2 : circumradius(v.bore / 2, boreSegments)
    const bore = scope.cylinder(v.height + 2 * overlap, inner, inner, boreSegments)
    return scope.difference(body, [
      scope.placed(bore, { origin: [0, 0, -overlap], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }),
    ])
  },
})

/** Outside diameter, wall and length, as tubes are sold. */
function tubeOf([diameter, wall, height]: readonly string[]): FieldTexts {
  return {
    core: 'tube',
    ...(diameter ? { diameter, bore: `${operandText(diameter)} / 2` } : {}),
    ...(diameter && wall ? { bore: `${operandText(diameter)} - 2 * ${operandText(wall)}` } : {}),
    ...(height ? { height } : {}),
  }
}

/** Outside diameter, bore and length. */
function spacerOf([diameter, bore, height]: readonly string[]): FieldTexts {
  return {
    core: 'tube',
    ...(diameter ? { diameter, bore: bore ?? `${operandText(diameter)} / 2` } : {}),
    ...(height ? { height } : {}),
  }
}

/** A bar's round, which only a straight one can be stood on, and the bore of a tube, which goes straight through whatever the outside does. */
function rounds(v: {
  readonly diameter: number
  readonly height: number
  readonly form: 'straight' | 'tapered'
  readonly core: 'solid' | 'tube'
  readonly bore: number
}): Surface[] {
  return [
    v.form === 'straight' ? roundFace('side', v.diameter / 2, 0, v.height) : { name: 'side' },
    ...(v.core === 'tube' ? [roundFace('bore', -v.bore / 2, 0, v.height)] : []),
  ]
}
