import { arc, type Ring, type Scope, segmentsFor } from '../kernel/index.ts'
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
  friction,
  turnedRing,
} from './clicking.ts'
import { defineJoint } from './define.ts'
import { gapsSaid, shown } from './words.ts'

interface Values extends Clicking {
  readonly clicks: number
  readonly lift: number
}

/**
 * A wheel that stays where it clicks: an arm that bends has a nose, which lies in a notch of the rim. It stands on z = 0, printed in
 * place: bar and arm belong to the first piece, the wheel is the second's.
 *
 *    ▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓▓     arm, from its root on the left
 *    ▓▓▓  ___  ╲▓▓╱ ___     nose, with flanks of 45°, the gap from its notch
 *       ╱░░░░░╲____╱░░░╲    wheel
 */
export const detent = defineJoint({
  kind: 'detent',
  label: 'detent',
  words: ['click stop', 'click', 'indexing'],
  icon: 'M3 3 H29 M3 3 V8 M18 3 L20 7 H22 L24 3 M11 17 A10 10 0 0 1 17.5 8 L20 10 H22 L24.5 8 A10 10 0 0 1 31 17',
  fields: {
    clicks: {
      kind: 'count',
      label: 'Clicks',
      default: '12',
      least: 1,
      most: 360,
      meaning: 'Clicks per turn.',
    },
    lift: {
      kind: 'length',
      label: 'Lift',
      default: '0.5',
      above: 0,
      most: 20,
      meaning: 'How far the arm is bent as the rim passes below its nose.',
    },
    ...clickingFields,
  },
  sentence: () => [
    'detent',
    ', wheel ⌀',
    { field: 'outside' },
    'and',
    { field: 'height' },
    'high, on a bar ⌀',
    { field: 'bar' },
    'that holds it by',
    { field: 'hold' },
    ', clicking at',
    { field: 'clicks' },
    'places, its arm',
    { field: 'arm' },
    'long and',
    { field: 'thick' },
    'thick, lifted by',
    { field: 'lift' },
    ...gapsSaid,
  ],
  impossible(v) {
    const round = Math.PI * v.outside
    const each = notchWidth(v)
    if (v.clicks * each > 0.95 * round)
      return {
        field: 'clicks',
        detail: `Its notches would run into each other: ${Math.floor((0.95 * round) / each)} at most.`,
      }
    return clickingImpossible(v, v.lift + v.gap)
  },
  judged: (v) => ({
    facts: [
      { label: 'Clicks', text: `every ${shown(360 / v.clicks)}°` },
      { label: 'Play', text: `${shown((2 * v.gap * Math.SQRT2 * 180) / (Math.PI * (v.outside / 2)))}° in a notch` },
      { label: 'Gap upward', text: `${shown(v.upward)} mm` },
    ],
    faults: [],
  }),
  spring(v, stuff) {
    const facts = armFacts(v, v.lift, stuff)
    const turn = facts.force * ((friction + 1) / (1 - friction)) * (v.outside / 2)
    return { ...facts, more: [{ label: 'Turned over by', text: `${Number(turn.toPrecision(3))} N mm` }] }
  },
  box: (v) => clickingBox(v, 0),
  dimensions: clickingDimensions,
  surfaces: (v, side) =>
    surfacesOf(plainSurfaces(...clickingNames[side], ...(side === 1 ? ['rim', 'notch'] : [])), {
      at: clickingAt(v, side, (wide) => (wide > v.outside / 2 - 0.02 - 0.004 * v.outside ? 'rim' : 'notch')),
    }),
  freedoms: (v) => [{ label: 'turning', unit: 'degrees', from: -180, to: 180, atRest: 0, period: 360 / v.clicks }],
  motion: (_, [angle = 0]) => turnedZ(angle),
  solids: (v, context) =>
    clickingSolids(v, { tip: [nose(v)], rim: rimOf(v, context.scope, context.fineness), lift: v.lift }, context),
  bends: (v, { scope }) => clickingBends(v, v.lift + v.gap, halfWide(v), scope),
})

/** Flat of the nose at its tip, mm. */
const flat = 0.8
/** Half as wide as the nose is at the arm. */
const halfWide = (v: Values) => flat / 2 + v.lift + v.gap
/** Of a notch where it meets the rim: the nose there, and the gap on both sides. */
const notchWidth = (v: Values) => flat + 2 * v.lift + 2 * v.gap * Math.SQRT2

/** The nose below the arm, at its tip: its middle lies over the axis, its flanks at 45°. */
function nose(v: Values): Ring {
  const [y, half] = [armAt(v), halfWide(v)]
  return [
    [-flat / 2, v.outside / 2 - v.lift],
    [flat / 2, v.outside / 2 - v.lift],
    [half, y],
    [half, y + v.thick],
    [-half, y + v.thick],
    [-half, y],
  ]
}

function rimOf(v: Values, scope: Scope, fineness: number): Ring[] {
  const r = v.outside / 2
  const rim = arc(0, 0, r, 0, 360, segmentsFor(r, fineness)).slice(0, -1)
  const [notch] = scope.inset([nose(v)], -v.gap)
  const notches = Array.from({ length: v.clicks }, (_, i) => turnedRing(notch!, (360 * i) / v.clicks))
  return scope.withoutRegions([rim], notches)
}
