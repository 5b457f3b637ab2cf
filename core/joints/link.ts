import { circumradius, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { type Frame, turnedAbout } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { type Bored, boreRing, boresField, boresJudged, boresSaid, isRoof, withRoundBores } from './bores.ts'
import { defineJoint } from './define.ts'
import { gapField } from './fields.ts'
import { shown } from './words.ts'

interface Values {
  readonly eye: number
  readonly width: number
  readonly pin: number
  readonly cheek: number
  readonly reach: number
  readonly gap: number
  readonly from: number
  readonly to: number
  readonly bores: string
}

/**
 * An eye on a pin between two cheeks, printed in place: how links of a chain hang together. The axis runs along y at half the height
 * of the eye; the first piece lies at x < 0 and carries cheeks and pin, the second one at x > 0 the eye.
 *
 *      y       ┌──────────┐
 *      ^       │ ▓▓▓▓▓▓▓▓▓│    cheek
 *      |  ▓▓▓▓▓│  ├──┐
 *         ▓▓▓▓▓│  │▒▒│▒▒▒▒▒▒  eye on the pin
 *         ▓▓▓▓▓│  ├──┘
 *              │ ▓▓▓▓▓▓▓▓▓│    cheek
 */
export const link = defineJoint({
  kind: 'link',
  version: 2,
  upgrades: [withRoundBores],
  label: 'link',
  words: ['chain link', 'links', 'shackle'],
  icon: 'M3 6 H12 M3 18 H12 M12 6 A6 6 0 0 1 18 12 A6 6 0 0 1 12 18 M10 12 A3 3 0 1 0 16 12 A3 3 0 1 0 10 12 M18 9.5 H29 M18 14.5 H29',
  chains: true,
  fields: {
    eye: {
      kind: 'length',
      label: 'Eye diameter',
      default: '10',
      above: 0,
      most: 500,
      meaning: 'Outside diameter of eye and cheeks, which are as high.',
    },
    width: {
      kind: 'length',
      label: 'Eye width',
      default: '5',
      above: 0,
      most: 500,
      meaning: 'Width of the eye along its pin.',
    },
    pin: { kind: 'length', label: 'Pin diameter', default: '4', above: 0, most: 400, meaning: 'Diameter of the pin.' },
    cheek: {
      kind: 'length',
      label: 'Cheeks',
      default: '2.4',
      above: 0,
      most: 200,
      meaning: 'Thickness of each cheek.',
    },
    reach: {
      kind: 'length',
      label: 'Reach',
      default: '12',
      above: 0,
      most: 1000,
      meaning: 'From the axis to where each side goes on, in its own piece.',
    },
    gap: gapField('eye, pin and cheeks'),
    from: {
      kind: 'angle',
      label: 'Swings from',
      default: '-90',
      least: -90,
      most: 0,
      meaning: 'How far the second piece swings down from straight.',
    },
    to: {
      kind: 'angle',
      label: 'Swings to',
      default: '90',
      least: 0,
      most: 90,
      meaning: 'How far the second piece swings up from straight.',
    },
    bores: boresField,
  },
  sentence: () => [
    'link',
    ', eye ⌀',
    { field: 'eye' },
    'and',
    { field: 'width' },
    'wide on a pin ⌀',
    { field: 'pin' },
    ...boresSaid,
    'between cheeks of',
    { field: 'cheek' },
    ', reaching',
    { field: 'reach' },
    'to both sides, gap',
    { field: 'gap' },
    'per side, swinging from',
    { field: 'from' },
    'to',
    { field: 'to' },
  ],
  impossible(v) {
    if (v.pin / 2 + v.gap >= v.eye / 2)
      return { field: 'pin', detail: 'The pin and its gap leave nothing of the eye round it.' }
    if (v.reach <= v.eye / 2 + v.gap)
      return {
        field: 'reach',
        detail: `Both cheeks must be joined behind the eye: reach more than ${shown(v.eye / 2 + v.gap)}.`,
      }
    if (v.from === v.to)
      return { field: 'to', detail: 'A travel of 0 moves nothing: let it swing to one side at least.' }
    return undefined
  },
  judged(v, up) {
    const bores = boresJudged(bored(v), v.gap, up)
    const facts = [
      { label: 'Wall of the eye', text: `${shown(v.eye / 2 - v.pin / 2 - v.gap)} mm round its pin` },
      { label: 'Width', text: `${shown(2 * outer(v))} mm in all` },
    ]
    return { facts: [...facts, ...bores.facts], faults: bores.faults }
  },
  box: (v) => ({ min: [-v.reach, -outer(v), 0], max: [v.reach, outer(v), v.eye] }),
  dimensions: (v) => [
    { kind: 'linear', field: 'eye', from: [0, -outer(v), 0], to: [0, -outer(v), v.eye], offset: [0, -1, 0] },
    { kind: 'linear', field: 'reach', from: [0, outer(v), 0], to: [v.reach, outer(v), 0], offset: [0, 1, 0] },
  ],
  surfaces: (v, side) => {
    const names =
      side === 0
        ? ['cheek', 'inside', 'pin', 'bridge', 'outside', 'end', 'room']
        : ['eye', 'bore', 'side', 'arm', 'end', 'room']
    return surfacesOf(plainSurfaces(...names), {
      at([x, y, z], n) {
        const up = z - v.eye / 2
        const far = Math.hypot(x, up)
        const outward = far > 0 ? (x * n[0] + up * n[2]) / far : 0
        if (Math.abs(n[0]) > 0.99 && Math.abs(Math.abs(x) - v.reach) < 1e-3) return 'end'
        if (Math.abs(n[1]) > 0.99) {
          if (side === 1) return far > v.eye / 2 + v.gap / 2 && x < 0 ? 'room' : 'side'
          return Math.abs(y) > outer(v) - 1e-3 ? 'outside' : 'inside'
        }
        if (far < v.pin / 2 + v.gap / 2 && side === 0) return 'pin'
        if (side === 1 && far < v.eye / 2 && isRoof(bored(v), v.gap, -outward * far)) return 'bore'
        if (far < v.pin / 2 + 1.5 * v.gap && side === 1 && outward < 0) return 'bore'
        if (side === 0) return n[0] > 0.99 && x < 0 ? 'bridge' : outward < -0.99 ? 'room' : 'cheek'
        return outward < -0.9 ? 'room' : x > 0 && Math.abs(n[2]) > 0.99 ? 'arm' : 'eye'
      },
    })
  },
  freedoms: (v) => [
    { label: 'swinging', unit: 'degrees', from: v.from, to: v.to, atRest: 0, told: { from: 'from', to: 'to' } },
  ],
  motion: (v, [up = 0]): Frame => turnedAbout([0, 0, v.eye / 2], [0, -1, 0], up),
  solids(v, { scope, fineness, up }) {
    const [r, half] = [v.eye / 2, v.width / 2]
    const inner = half + v.gap
    const cheeks = [-outer(v), inner].flatMap((y) => [
      round(scope, v, r, y, v.cheek, fineness, false),
      block(scope, [-v.reach, 0], [y, y + v.cheek], v.eye),
    ])
    const bridge = block(scope, [-v.reach, -r - v.gap], [-outer(v), outer(v)], v.eye)
    const pin = round(scope, v, v.pin / 2, -outer(v), 2 * outer(v), fineness, false)
    const eye = scope.union([
      round(scope, v, r, -half, v.width, fineness, false),
      block(scope, [0, v.reach], [-half, half], v.eye),
    ])
    const bore = scope.placed(scope.extrude([boreRing(bored(v), v.gap, up, fineness)], v.width + 2), {
      ...{ origin: [0, half + 1, v.eye / 2], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] },
    } as const)
    const rooms = [-outer(v) - v.gap, half].map((y) =>
      round(scope, v, r + v.gap, y, v.cheek + 2 * v.gap, fineness, true),
    )
    return {
      cuts: [[round(scope, v, r + v.gap, -inner, 2 * inner, fineness, true)], rooms],
      adds: [[scope.union([...cheeks, bridge, pin])], [scope.difference(eye, [bore])]],
    }
  },
})

const bored = (v: Values): Bored => ({ bores: v.bores, pin: v.pin / 2, round: v.eye / 2 })

/** Half of its whole width along the pin. */
const outer = (v: Values) => v.width / 2 + v.gap + v.cheek

/** A round about the axis from y on; circumscribed where it makes room. */
function round(
  scope: Scope,
  v: Values,
  radius: number,
  y: number,
  length: number,
  fineness: number,
  makesRoom: boolean,
): Solid {
  const segments = segmentsFor(radius, fineness, makesRoom)
  const wide = makesRoom ? circumradius(radius, segments) : radius
  const bar = scope.cylinder(length, wide, wide, segments)
  return scope.placed(bar, { origin: [0, y, v.eye / 2], u: [0, 0, 1], v: [1, 0, 0], n: [0, 1, 0] })
}

type Stretch = readonly [from: number, to: number]

function block(scope: Scope, [x0, x1]: Stretch, [y0, y1]: Stretch, height: number): Solid {
  const ring = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ] as const
  return scope.extrude([ring], height)
}
