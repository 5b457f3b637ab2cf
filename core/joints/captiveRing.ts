import { turnedZ } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { barLine, hole, ringOn, top } from './captive.ts'
import { defineJoint } from './define.ts'
import { gapField, upwardField } from './fields.ts'
import { closedOn, turned } from './turned.ts'
import { gapsSaid, shown } from './words.ts'

/**
 * A ring that turns on a bar and cannot leave it, printed in place. The bar stands on z = 0 and belongs to the first piece; the ring is
 * the second's.
 *
 *        ╲▓▓▓▓▓▓▓▓╱      head: a cone of 45°, which prints without support,
 *     ▒▒▒ ╲▓▓▓▓▓▓╱ ▒▒▒   wider than the hole of the ring by `hold`
 *     ▒▒▒▒ |▓▓▓▓| ▒▒▒▒   the ring floats the upward gap above z = 0, its hole beveled
 *     ▒▒▒▒ |▓▓▓▓| ▒▒▒▒   along the cone
 *    ─────────────────
 */
export const captiveRing = defineJoint({
  kind: 'captive-ring',
  label: 'captive ring',
  words: ['loose ring', 'spinning ring', 'rotating ring'],
  icon: 'M4 12 A12 5 0 1 0 28 12 A12 5 0 1 0 4 12 M4 12 V18 A12 5 0 0 0 28 18 V12 M12 12 A4 1.8 0 1 0 20 12 M12 12 V3 H20 V12',
  fields: {
    bar: {
      kind: 'length',
      label: 'Bar diameter',
      default: '8',
      above: 0,
      most: 500,
      meaning: 'Diameter of the bar that the ring turns on.',
    },
    outside: {
      kind: 'length',
      label: 'Ring diameter',
      default: '20',
      above: 0,
      most: 1000,
      meaning: 'Outside diameter of the ring.',
    },
    height: {
      kind: 'length',
      label: 'Ring height',
      default: '8',
      above: 0,
      most: 500,
      meaning: 'Height of the ring.',
    },
    hold: {
      kind: 'length',
      label: 'Held by',
      default: '1.2',
      above: 0,
      most: 50,
      meaning: 'How much wider the head of the bar is than the hole of the ring, per side.',
    },
    gap: gapField('the bar and its ring'),
    upward: upwardField('the ring and what it lies on'),
  },
  sentence: () => [
    'captive ring',
    ', ⌀',
    { field: 'outside' },
    'and',
    { field: 'height' },
    'high, on a bar ⌀',
    { field: 'bar' },
    'with a head that holds it by',
    { field: 'hold' },
    ...gapsSaid,
  ],
  impossible(v) {
    if (v.outside / 2 <= hole(v) + v.hold)
      return {
        field: 'outside',
        detail: `The ring has no wall left beside the head: more than ⌀ ${shown(2 * (hole(v) + v.hold))}.`,
      }
    if (v.height <= v.hold + v.gap)
      return {
        field: 'height',
        detail: `The ring is lower than its bevel: make it higher than ${shown(v.hold + v.gap)}.`,
      }
    return undefined
  },
  judged: (v) => ({
    facts: [
      { label: 'Held by', text: `${shown(v.hold)} mm all round` },
      { label: 'Gap upward', text: `${shown(v.upward)} mm` },
    ],
    faults: [],
  }),
  box: (v) => {
    const r = v.outside / 2
    return { min: [-r, -r, 0], max: [r, r, top(v)] }
  },
  dimensions: (v) => [
    {
      kind: 'linear',
      field: 'outside',
      from: [-v.outside / 2, 0, v.upward],
      to: [v.outside / 2, 0, v.upward],
      offset: [0, -1, 0],
    },
    {
      kind: 'linear',
      field: 'height',
      from: [v.outside / 2, 0, v.upward],
      to: [v.outside / 2, 0, v.upward + v.height],
      offset: [1, 0, 0],
    },
  ],
  surfaces: (v, side) => {
    const names =
      side === 0 ? ['bar', 'head', 'top', 'room'] : ['hole', 'bevel', 'outside', 'underside', 'upper side', 'clearance']
    return surfacesOf(plainSurfaces(...names), {
      at([x, y, z], n) {
        const wide = Math.hypot(x, y)
        const outward = wide > 0 ? (x * n[0] + y * n[1]) / wide : 0
        if (side === 0) {
          if (wide > v.outside / 2 + v.gap / 2 || (wide > hole(v) + v.hold + 0.01 && Math.abs(outward) < 0.99))
            return 'room'
          if (n[2] > 0.99) return 'top'
          return n[2] < -0.3 || wide > v.bar / 2 + 0.01 ? 'head' : 'bar'
        }
        if (n[2] < -0.99) return 'underside'
        if (n[2] > 0.99) return 'upper side'
        if (outward > 0.9 && Math.abs(wide - v.outside / 2) < 0.02 * v.outside) return 'outside'
        if (outward < -0.95 && Math.abs(wide - hole(v)) < 0.05 * v.bar + 0.01) return 'hole'
        return outward < 0 && z > v.upward ? 'bevel' : 'clearance'
      },
    })
  },
  freedoms: () => [{ label: 'turning', unit: 'degrees', from: -180, to: 180, atRest: 0 }],
  motion: (_, [angle = 0]) => turnedZ(angle),
  solids(v, { scope, fineness }) {
    const bar = turned(scope, closedOn(barLine(v, 0)), fineness)
    const ring = ringOn(scope, v, fineness)
    const room = turned(
      scope,
      closedOn([
        [v.outside / 2 + v.gap, 0],
        [v.outside / 2 + v.gap, v.upward + v.height + v.gap],
      ]),
      fineness,
      true,
    )
    return { cuts: [[room], [turned(scope, closedOn(barLine(v, v.gap)), fineness, true)]], adds: [[bar], [ring]] }
  },
})
