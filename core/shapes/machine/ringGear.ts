import { size } from '../../fields/index.ts'
import { innerRadius, openingOf, openingRing, outerRadius, type Teeth } from '../../gears/index.ts'
import { type Ring, segmentsFor } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { heightBeside } from '../dimensions.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, roundFace, topFace } from '../faces.ts'
import { regularCorners } from '../prismatic.ts'
import { surfacesOf } from '../surfaces.ts'
import {
  playField,
  runningAs,
  sizedBy,
  type ToothValues,
  teethOf,
  toothCount,
  toothForm,
  toothName,
  toothRun,
  turnAt,
  twisted,
} from './teeth.ts'

interface Values extends Omit<ToothValues, 'tips' | 'tip'> {
  readonly rim: number
}

const { tips: _tips, tip: _tip, ...form } = toothForm

/** A ring with teeth inside, about the z axis: the middle of a space to the right of its lower face. */
export const ringGear = defineShape({
  kind: 'ring-gear',
  label: 'ring gear',
  words: ['internal gear', 'inside teeth', { word: 'helical ring gear', fields: { run: 'helical' } }],
  shelf: 'machine',
  icon: 'M16 1 A11 11 0 1 1 15.99 1 Z M16 4.5 L17 6.4 L19.2 5.2 L19.4 7.4 L21.9 7.4 L21.3 9.5 L23.6 10.4 L22.2 12 L23.6 13.6 L21.3 14.5 L21.9 16.6 L19.4 16.6 L19.2 18.8 L17 17.6 L16 19.5 L15 17.6 L12.8 18.8 L12.6 16.6 L10.1 16.6 L10.7 14.5 L8.4 13.6 L9.8 12 L8.4 10.4 L10.7 9.5 L10.1 7.4 L12.6 7.4 L12.8 5.2 L15 6.4 Z',
  operation: 'add',
  seat: 'stands',
  wheel: true,
  mates: /^(?!bore$)/,
  deep: 'height',
  fields: {
    ...toothCount,
    teeth: { ...toothCount.teeth, default: '48', least: 12 },
    height: size('Width', '8', 'Of its teeth, along its axis.'),
    rim: size('Rim', '4', 'From the roots of its teeth to its outside.'),
    ...toothRun,
    play: playField('How much wider its spaces are along the pitch circle'),
    ...form,
  },
  quick: ['teeth', 'module', 'height'],
  sentence: (v) => [
    'ring gear of',
    { field: 'teeth' },
    'teeth,',
    ...sizedBy(whole(v)),
    ',',
    { field: 'height' },
    'wide with a rim of',
    { field: 'rim' },
    ...runningAs(whole(v)),
    ', play',
    { field: 'play' },
  ],
  impossible(v) {
    const opening = openingAs(v)
    if (innerRadius(opening) > outerRadius(opening) - 0.5 * opening.module)
      return { field: 'teeth', detail: 'Too few teeth: they have next to no flanks inside a ring. Use more.' }
    return undefined
  },
  box: (v) => {
    const r = outsideOf(v)
    return { min: [-r, -r, 0], max: [r, r, v.height] }
  },
  reach: (v, d) => outsideOf(v) * Math.hypot(d[0], d[1]) + Math.max(0, v.height * d[2]),
  surfaces: (v) => {
    const r = outsideOf(v)
    const pitch = (2 * Math.PI) / v.teeth
    return surfacesOf(
      [
        topFace(v.height, 2 * r, 2 * r),
        bottomFace(0, 2 * r, 2 * r),
        roundFace('outside', r, 0, v.height),
        ...Array.from({ length: v.teeth }, (_, i) => ({ name: toothName(i) })),
      ],
      {
        at: ([x, y, z], n) => {
          if (Math.abs(n[2]) > 0.9) return n[2] > 0 ? 'top' : 'bottom'
          if (Math.hypot(x, y) > r - v.rim / 2) return 'outside'
          return toothName(Math.floor((Math.atan2(y, x) - turnAt(whole(v), z)) / pitch), v.teeth)
        },
      },
    )
  },
  edges: (v) => [circleEdge('outside', 2 * outsideOf(v))],
  dimensions: (v) => [
    heightBeside([-outsideOf(v), 0], v.height),
    {
      kind: 'linear',
      field: 'rim',
      from: [outsideOf(v) - v.rim, 0, v.height],
      to: [outsideOf(v), 0, v.height],
      offset: [0, -1, 0],
    },
  ],
  prism: (v, { fineness }) =>
    v.run === 'straight'
      ? {
          low: 0,
          high: v.height,
          rings: () => [roundOf(v, fineness), openingRing(openingAs(v), fineness).toReversed()],
        }
      : undefined,
  solid(v, { scope, fineness }) {
    const inside = openingRing(openingAs(v), fineness)
    const round = roundOf(v, fineness)
    if (v.run === 'straight') return scope.extrude([round, inside.toReversed()], v.height)
    const longer = { ...whole(v), height: v.height + 2 }
    const frame = { origin: [0, 0, -1], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] } as const
    // Its teeth stand at its lower face as they would without what goes beyond it.
    const turned = turnAt(longer, 1)
    const back = {
      ...frame,
      u: [Math.cos(turned), -Math.sin(turned), 0],
      v: [Math.sin(turned), Math.cos(turned), 0],
    } as const
    if (v.run === 'herringbone')
      return scope.difference(scope.extrude([round], v.height), [twisted(scope, whole(v), inside, fineness)])
    return scope.difference(scope.extrude([round], v.height), [
      scope.placed(twisted(scope, longer, inside, fineness), back),
    ])
  },
})

function whole(v: Values): ToothValues {
  return { ...v, tips: 'sharp', tip: 1 }
}

function openingAs(v: Values): Teeth {
  return openingOf(teethOf({ ...whole(v), play: 0 }), v.play)
}

function outsideOf(v: Values): number {
  return outerRadius(openingAs(v)) + v.rim
}

function roundOf(v: Values, fineness: number): Ring {
  const r = outsideOf(v)
  return regularCorners(segmentsFor(r, fineness), r)
}
