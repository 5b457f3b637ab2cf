import type { Ring } from '../kernel/index.ts'
import { turnedZ } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import {
  armAt,
  armFacts,
  type Clicking,
  clickingAt,
  clickingBends,
  clickingBox,
  clickingDimensions,
  clickingFields,
  clickingImpossible,
  clickingNames,
  clickingSolids,
} from './clicking.ts'
import { defineJoint } from './define.ts'
import { gapsSaid, shown } from './words.ts'

interface Values extends Clicking {
  readonly teeth: number
  readonly depth: number
}

/**
 * A wheel that turns one way only, clockwise as seen from above: an arm that bends is its pawl, whose end the steep side of a tooth runs
 * against the other way. It stands on z = 0, printed in place: bar and pawl belong to the first piece, the wheel is the second's.
 *
 *    ▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓      arm, from its root on the left
 *    ▓▓▓         ╲▓▓▓▓      pawl, the gap from the tooth
 *      ___...---‾‾╲ ▓|‾--.. wheel: steep sides look to the pawl's end
 */
export const ratchet = defineJoint({
  kind: 'ratchet',
  label: 'ratchet and pawl',
  words: ['ratchet', 'pawl', 'one-way'],
  icon: 'M3 4 H20 V10 L14 6 H3 Z M8 22 L9 15 L13 17 L14 10 L20 14 V11 L25 15 L27 13 L28 22',
  fields: {
    teeth: {
      kind: 'count',
      label: 'Teeth',
      default: '18',
      least: 3,
      most: 360,
      meaning: 'Number of teeth of the wheel.',
    },
    depth: {
      kind: 'length',
      label: 'Tooth depth',
      default: '1.6',
      above: 0,
      most: 50,
      meaning: 'Depth of the teeth at their steep sides.',
    },
    ...clickingFields,
    outside: { ...clickingFields.outside, default: '30' },
  },
  sentence: () => [
    'ratchet and pawl',
    ', wheel ⌀',
    { field: 'outside' },
    'and',
    { field: 'height' },
    'high with',
    { field: 'teeth' },
    'teeth',
    { field: 'depth' },
    'deep, on a bar ⌀',
    { field: 'bar' },
    'that holds it by',
    { field: 'hold' },
    ', its pawl',
    { field: 'arm' },
    'long and',
    { field: 'thick' },
    'thick',
    ...gapsSaid,
  ],
  impossible(v) {
    const wrong = clickingImpossible(v, v.depth)
    if (wrong) return wrong
    if (v.depth >= (0.7 * Math.PI * v.outside) / v.teeth)
      return {
        field: 'depth',
        detail: `Too steep: the pawl can’t slide up the teeth. Less than ${shown((0.7 * Math.PI * v.outside) / v.teeth)}.`,
      }
    if (lift(v) < least)
      return {
        field: 'depth',
        detail: `The pawl reaches ${shown(Math.max(0, lift(v)))} mm into the teeth, ${least} mm would hold: deeper teeth, or fewer.`,
      }
    return undefined
  },
  judged: (v) => ({
    facts: [
      { label: 'Turns', text: `one way, clicking every ${shown(360 / v.teeth)}°` },
      { label: 'Holds within', text: `${shown(360 / v.teeth + play(v))}° the other way` },
      { label: 'Reaches in', text: `${shown(lift(v))} mm` },
      { label: 'Gap upward', text: `${shown(v.upward)} mm` },
    ],
    faults: [],
  }),
  /** Held against turning back until the pawl buckles: fixed at its root, pinned at its tip (Euler). */
  spring(v, stuff) {
    const inertia = (v.height * v.thick ** 3) / 12
    const buckles = (2.046 * Math.PI ** 2 * stuff.stiffness * inertia) / v.arm ** 2
    const turn = buckles * (v.outside / 2)
    return {
      ...armFacts(v, lift(v), stuff),
      more: [{ label: 'Holds up to', text: `${Number(turn.toPrecision(3))} N mm, where its pawl buckles` }],
    }
  },
  box: (v) => clickingBox(v, 0),
  dimensions: clickingDimensions,
  surfaces: (v, side) =>
    surfacesOf(plainSurfaces(...clickingNames[side], ...(side === 1 ? ['tooth'] : [])), {
      at: clickingAt(v, side, () => 'tooth'),
    }),
  freedoms: (v) => [
    { label: 'turning', unit: 'degrees', from: 0, to: 360, atRest: 0, period: 360 / v.teeth, oneWay: true },
  ],
  motion: (_, [angle = 0]) => turnedZ(-angle),
  solids: (v, context) => clickingSolids(v, { tip: [pawl(v)], rim: [wheel(v)], lift: lift(v) }, context),
  bends: (v, { scope }) => clickingBends(v, v.depth + v.gap, 0, scope),
})

/** A pawl that reaches less far into the teeth slips, mm. */
const least = 0.3

/** How far the wheel turns back, printed, until the steep side meets the pawl, degrees. */
const play = (v: Values) => (Math.asin(v.gap / inner(v)) * 180) / Math.PI

const inner = (v: Values) => v.outside / 2 - v.depth

/** Where the steep side before the pawl begins and its tooth ends, and the tip of the tooth behind. */
function slope(v: Values) {
  const [turn, pitch] = [Math.asin(Math.min(1, v.gap / inner(v))), (2 * Math.PI) / v.teeth]
  const r = v.outside / 2
  return [
    [inner(v) * Math.sin(turn), inner(v) * Math.cos(turn)],
    [r * Math.sin(turn - pitch), r * Math.cos(turn - pitch)],
  ] as const
}

/** The tip of the pawl lies at x = 0, the gap from the slope below it. */
function tipAt(v: Values): number {
  const [low, high] = slope(v)
  const along = [high[0] - low[0], high[1] - low[1]] as const
  const size = Math.hypot(...along)
  // Square to the slope, away from the axis.
  const n = [along[1] / size, -along[0] / size] as const
  return (v.gap + n[0] * low[0] + n[1] * low[1]) / n[1]
}

/** How far the pawl is bent as a tooth passes. */
const lift = (v: Values) => v.outside / 2 - tipAt(v)

/** Below the arm, at its end: steep before the tooth, and behind at 45°. */
function pawl(v: Values): Ring {
  const [y, tip] = [armAt(v), tipAt(v)]
  return [
    [0, tip],
    [0, y + v.thick],
    [tip - y, y + v.thick],
    [tip - y, y],
  ]
}

function wheel(v: Values): Ring {
  const start = Math.asin(v.gap / inner(v))
  const r = v.outside / 2
  return Array.from({ length: v.teeth }, (_, i) => {
    const at = Math.PI / 2 - start + (2 * Math.PI * i) / v.teeth
    return [
      [r * Math.cos(at), r * Math.sin(at)],
      [inner(v) * Math.cos(at), inner(v) * Math.sin(at)],
    ] as const
  }).flat()
}
