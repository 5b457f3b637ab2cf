import { size } from '../../fields/index.ts'
import { type Ring, segmentsFor } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { bottomFace, topFace } from '../faces.ts'
import { cornerRounds, prismReach } from '../prismatic.ts'
import { sheetOfRings } from '../sheet.ts'
import { surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly inner: number
  readonly outer: number
  readonly turns: number
  readonly wide: number
  readonly height: number
  readonly wound: number
}

/** Corners of a turn where its extents are told: they are met to a hundred-thousandth of its radius. */
const dense = 1440

/**
 * A strip wound up flat, with an even pitch (Archimedes), counter-clockwise from its inner end on the right to its outer one. What turns
 * joins its inner end, what stays its outer one.
 */
export const flatSpiral = defineShape({
  kind: 'flat-spiral',
  label: 'flat spiral spring',
  words: ['spiral spring', 'torsion spring', 'clock spring', 'coil spring', 'mainspring'],
  shelf: 'machine',
  icon: 'M17 12 A1.5 1.5 0 0 0 14 12 A3.5 3.5 0 0 0 21 12 A5.5 5.5 0 0 0 10 12 A7.5 7.5 0 0 0 25 12 A9.5 9.5 0 0 0 6 12',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    inner: size('Inside diameter', '8', 'Diameter at the middle of its strip, where that begins.'),
    outer: size('Outside diameter', '30', 'Diameter at the middle of its strip, where that ends.'),
    turns: {
      kind: 'ratio',
      label: 'Turns',
      default: '4',
      least: 0.5,
      most: 60,
      meaning: 'Number of its turns.',
    },
    wide: size('Strip', '1.2', 'Width of its strip, the way it bends.'),
    height: size('Height', '6', 'Height of its strip, across the way it bends.'),
    wound: {
      kind: 'angle',
      label: 'Wound by',
      default: '60',
      above: 0,
      most: 3600,
      meaning: 'How far its inner end is turned against its outer one.',
    },
  },
  quick: ['inner', 'outer', 'turns', 'wide', 'height'],
  sentence: () => [
    'flat spiral spring from ⌀',
    { field: 'inner' },
    'to ⌀',
    { field: 'outer' },
    'in',
    { field: 'turns' },
    'turns, strip',
    { field: 'wide' },
    'wide and',
    { field: 'height' },
    'high, wound by',
    { field: 'wound' },
  ],
  impossible(v) {
    if (v.inner <= v.wide)
      return { field: 'inner', detail: `Its strip would meet itself at its middle: more than ${v.wide} mm.` }
    const room = (v.outer - v.inner) / 2 / v.turns - v.wide
    if (!(room > 0))
      return {
        field: 'turns',
        detail: `Its turns would run into each other: fewer, or a thinner strip than ${Number((room + v.wide).toFixed(3))} mm.`,
      }
    return undefined
  },
  box: (v) => {
    const ring = outline(v, dense)
    const [xs, ys] = [ring.map(([x]) => x), ring.map(([, y]) => y)]
    const [least, most] = [
      (all: readonly number[]) => all.reduce((a, b) => Math.min(a, b)),
      (all: readonly number[]) => all.reduce((a, b) => Math.max(a, b)),
    ]
    return { min: [least(xs), least(ys), 0], max: [most(xs), most(ys), v.height] }
  },
  reach: (v, d) => {
    const level = Math.hypot(d[0], d[1])
    const rounds = cornerRounds(outline(v, dense))
    // Not spread: a long spiral has more corners than a call takes.
    const far = rounds.reduce((most, { x, y }) => Math.max(most, x * d[0] + y * d[1]), Number.NEGATIVE_INFINITY)
    return prismReach([{ x: 0, y: 0, r: 0 }], 0, v.height, d) + (level > 0 ? far : 0)
  },
  surfaces: (v) =>
    surfacesOf(
      [topFace(v.height, v.outer, v.outer), bottomFace(0, v.outer, v.outer), { name: 'side' }, { name: 'end' }],
      {
        at([x, y], n) {
          if (n[2] > 0.9) return 'top'
          if (n[2] < -0.9) return 'bottom'
          // Its sides look to the middle or away from it, its ends along the strip.
          const far = Math.hypot(x, y)
          return far > 0 && Math.abs(x * n[0] + y * n[1]) < 0.5 * far ? 'end' : 'side'
        },
      },
    ),
  dimensions: (v) => {
    const r = v.inner / 2
    return [{ kind: 'linear', field: 'height', from: [r, 0, 0], to: [r, 0, v.height], offset: [0, -1, 0] }]
  },
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v, dense / 16)], v.height),
  solid: (v, { scope, fineness }) =>
    scope.extrude([outline(v, segmentsFor(v.outer / 2 + v.wide / 2, fineness))], v.height),
})

/** A strip that is bent evenly all along (Wahl, Mechanical Springs, spiral springs with both ends clamped). */
function facts({ inner, outer, turns, wide, height, wound }: Values, { stiffness }: SpringStuff): SpringFacts {
  const long = lengthOf({ inner, outer, turns })
  const degree = Math.PI / 180
  const rate = ((stiffness * height * wide ** 3) / (12 * long)) * degree
  return {
    ...{ rate, per: 'degree', travel: wound, force: rate * wound, strain: (wound * degree * wide) / (2 * long) },
    more: [{ label: 'Strip', text: `${Number(long.toFixed(1))} mm long` }],
  }
}

/** Of the middle of its strip: Simpson's rule over its whole angle. */
function lengthOf({ inner, outer, turns }: Pick<Values, 'inner' | 'outer' | 'turns'>): number {
  const whole = 2 * Math.PI * turns
  const rise = (outer - inner) / 2 / whole
  const steps = 200
  let sum = 0
  for (let i = 0; i <= steps; i++) {
    const weight = i === 0 || i === steps ? 1 : i % 2 === 1 ? 4 : 2
    sum += weight * Math.hypot(inner / 2 + (rise * whole * i) / steps, rise)
  }
  return (sum * whole) / steps / 3
}

/** Round its outer side and back along its inner one. */
function outline({ inner, outer, turns, wide }: Values, segments: number): Ring {
  const whole = 2 * Math.PI * turns
  const rise = (outer - inner) / 2 / whole
  const count = Math.max(4, Math.round(segments * turns))
  const at = (i: number, side: 1 | -1) => {
    const angle = (whole * i) / count
    const r = inner / 2 + rise * angle
    const size = Math.hypot(r, rise)
    // Square to the strip: mostly outwards, a little back.
    const [out, back] = [(side * wide * r) / size / 2, (side * wide * rise) / size / 2]
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
    return [(r + out) * cos + back * sin, (r + out) * sin - back * cos] as const
  }
  const forth = Array.from({ length: count + 1 }, (_, i) => at(i, 1))
  return [...forth, ...Array.from({ length: count + 1 }, (_, i) => at(count - i, -1))]
}
