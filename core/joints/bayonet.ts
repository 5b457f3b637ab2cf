import { circumradius, type Ring, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { compose, turnedZ, type Vec3, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { gapField, upwardField } from './fields.ts'
import { closedOn, tube, turned } from './turned.ts'
import { gapsSaid, shown } from './words.ts'

interface Values {
  readonly plug: number
  readonly depth: number
  readonly lugs: number
  readonly lug: number
  readonly width: number
  readonly angle: number
  readonly wall: number
  readonly head: number
  readonly gap: number
  readonly upward: number
}

/**
 * A plug that is put into its socket, turned, and held: lugs of the plug run in slots of the socket, down and then round. The socket
 * stands on z = 0 and belongs to the first piece; plug and head are the second's. Drawn as it is locked.
 *
 *     ▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒   head
 *     ▓▓▓ |▒▒▒▒▒| ▓▓▓
 *     ▓▓▓ |▒▒▒▒▒| ▓▓▓   lugs and slots have 45° above and below,
 *     ▓▓ ◁|▒▒▒▒▒|▷ ▓▓   so that both print without support
 *     ▓▓▓ |▒▒▒▒▒| ▓▓▓
 */
export const bayonet = defineJoint({
  kind: 'bayonet',
  label: 'bayonet',
  words: ['bayonet mount', 'quarter turn'],
  icon: 'M5 22 V11 H9 V22 M23 22 V11 H27 V22 M12 22 V7 H20 V22 M7 7 V3 H25 V7 Z M9 16 L12 13.5 V18.5 Z M23 16 L20 13.5 V18.5 Z',
  comesApart: () => true,
  fields: {
    plug: {
      kind: 'length',
      label: 'Plug diameter',
      default: '20',
      above: 0,
      most: 500,
      meaning: 'Diameter of the plug without its lugs.',
    },
    depth: {
      kind: 'length',
      label: 'Depth',
      default: '12',
      above: 0,
      most: 500,
      meaning: 'How deep the plug goes into its socket; the socket is as high.',
    },
    lugs: { kind: 'count', label: 'Lugs', default: '3', least: 1, most: 12, meaning: 'Number of lugs round the plug.' },
    lug: {
      kind: 'length',
      label: 'Lug',
      default: '1.6',
      above: 0,
      most: 50,
      meaning: 'How far each lug stands out.',
    },
    width: { kind: 'length', label: 'Lug width', default: '4', above: 0, most: 200, meaning: 'Width of each lug.' },
    angle: {
      kind: 'angle',
      label: 'Turns by',
      default: '60',
      above: 0,
      most: 300,
      meaning: 'How far it is turned from where it comes out to where it is locked.',
    },
    wall: {
      kind: 'length',
      label: 'Wall',
      default: '2',
      above: 0,
      most: 100,
      meaning: 'Thickness of the socket behind its slots.',
    },
    head: {
      kind: 'length',
      label: 'Head',
      default: '3',
      above: 0,
      most: 200,
      meaning: 'Thickness of the head of the plug, which is as wide as the socket.',
    },
    gap: gapField('plug and socket'),
    upward: upwardField('plug, head and socket'),
  },
  sentence: () => [
    'bayonet',
    ', plug ⌀',
    { field: 'plug' },
    'and',
    { field: 'depth' },
    'deep with',
    { field: 'lugs' },
    'lugs',
    { field: 'width' },
    'wide and',
    { field: 'lug' },
    'out, turned by',
    { field: 'angle' },
    ', in a wall of',
    { field: 'wall' },
    ', head',
    { field: 'head' },
    ...gapsSaid,
  ],
  impossible(v) {
    if (v.lug <= v.gap)
      return { field: 'lug', detail: `The lugs do not reach into their slots: more than ${shown(v.gap)}.` }
    const least = foot(v) + lugHeight(v) + 2 * v.gap * Math.SQRT2
    if (v.depth <= least)
      return { field: 'depth', detail: `The lugs do not fit below the rim: deeper than ${shown(least)}.` }
    const taken = v.lugs * (v.angle + lugDegrees(v) + 2 * gapDegrees(v))
    if (taken > 340)
      return {
        field: 'angle',
        detail: `The slots run into one another: turn by less than ${shown(340 / v.lugs - lugDegrees(v) - 2 * gapDegrees(v))}°, or have fewer lugs.`,
      }
    return undefined
  },
  judged: (v) => ({
    facts: [
      { label: 'Held by', text: `${shown(v.lug - v.gap)} mm at each of ${v.lugs} lugs` },
      { label: 'Gap upward', text: `${shown(v.upward)} mm` },
    ],
    faults: [],
  }),
  box: (v) => ({ min: [-outside(v), -outside(v), 0], max: [outside(v), outside(v), v.depth + v.upward + v.head] }),
  dimensions: (v) => [
    {
      kind: 'linear',
      field: 'plug',
      from: [-v.plug / 2, 0, v.depth],
      to: [v.plug / 2, 0, v.depth],
      offset: [0, -1, 0],
    },
    { kind: 'linear', field: 'depth', from: [outside(v), 0, 0], to: [outside(v), 0, v.depth], offset: [1, 0, 0] },
  ],
  surfaces: (v, side) => {
    const names = side === 0 ? ['outside', 'bore', 'slot', 'rim'] : ['plug', 'lug', 'head', 'foot', 'room']
    return surfacesOf(plainSurfaces(...names), {
      at([x, y, z], n) {
        const wide = Math.hypot(x, y)
        const outward = wide > 0 ? (x * n[0] + y * n[1]) / wide : 0
        if (side === 0) {
          if (Math.abs(n[2]) > 0.99) return z > v.depth - 0.01 || z < 0.01 ? 'rim' : 'slot'
          if (outward > 0.9 && wide > outside(v) - v.wall / 2) return 'outside'
          return outward < -0.9 && wide < v.plug / 2 + v.gap + 0.5 * v.lug ? 'bore' : 'slot'
        }
        if (z > v.depth + v.upward / 2) return 'head'
        if (n[2] < -0.99) return z < v.upward + 0.01 ? 'foot' : 'lug'
        return outward > 0.9 && wide < v.plug / 2 + 0.01 ? 'plug' : wide > outside(v) + v.gap / 2 ? 'room' : 'lug'
      },
    })
  },
  freedoms: (v) => [
    { label: 'turning', unit: 'degrees', from: 0, to: v.angle, atRest: 0, told: { to: 'angle' } },
    { label: 'pulling', unit: 'mm', from: 0, to: v.depth, atRest: 0 },
  ],
  motion: (_, [angle = 0, out = 0]) => compose({ ...world, origin: [0, 0, out] as Vec3 }, turnedZ(angle)),
  solids(v, { scope, fineness }) {
    const each = Array.from({ length: v.lugs }, (_, i) => (360 * i) / v.lugs)
    const reach = v.plug / 2 + v.lug + v.gap
    const side = lugDegrees(v) / 2 + gapDegrees(v)
    const run = grown(v)
    const entry: Ring = [
      [v.plug / 2, run[0]![1]],
      [reach, run[1]![1]],
      [reach, v.depth + 1],
      [v.plug / 2, v.depth + 1],
    ]
    const slots = each.flatMap((at) => [
      sector(scope, run, at - side, at + v.angle + side, fineness, true),
      sector(scope, entry, at + v.angle - side, at + v.angle + side, fineness, true),
    ])
    const bore = v.plug / 2 + v.gap
    const socket = scope.difference(
      tube(
        scope,
        [
          [outside(v), 0],
          [outside(v), v.depth],
        ],
        [
          [bore, -1],
          [bore, v.depth + 1],
        ],
        fineness,
      ),
      slots,
    )
    const lugs = each.map((at) =>
      sector(scope, lugSection(v), at - lugDegrees(v) / 2, at + lugDegrees(v) / 2, fineness, false),
    )
    const up = v.depth + v.upward
    const plug = turned(
      scope,
      closedOn([
        [v.plug / 2, v.upward],
        [v.plug / 2, up],
        [outside(v), up],
        [outside(v), up + v.head],
      ]),
      fineness,
    )
    const solid = (radius: number, low: number, high: number) =>
      turned(
        scope,
        closedOn([
          [radius, low],
          [radius, high],
        ]),
        fineness,
        true,
      )
    return {
      cuts: [[solid(bore, 0, v.depth), ...slots], [solid(outside(v) + v.gap, 0, up)]],
      adds: [[socket], [scope.union([plug, ...lugs])]],
    }
  },
})

const degrees = (rad: number) => (rad * 180) / Math.PI
const outside = (v: Values) => v.plug / 2 + v.lug + v.gap + v.wall
/** What a lug takes of the way round, and the gap beside it, degrees. */
const lugDegrees = (v: Values) => degrees(v.width / (v.plug / 2 + v.lug))
const gapDegrees = (v: Values) => degrees(v.gap / (v.plug / 2))
/** Where lugs begin. */
const foot = (v: Values) => v.upward + v.wall
/** At the plug: 45° above and below, and a millimetre at the tip. */
const lugHeight = (v: Values) => 2 * v.lug + 1

function lugSection(v: Values): Ring {
  const [r, low, high] = [v.plug / 2, foot(v), foot(v) + lugHeight(v)]
  const within = Math.min(0.5, r / 2)
  return [
    [r - within, low],
    [r, low],
    [r + v.lug, low + v.lug],
    [r + v.lug, high - v.lug],
    [r, high],
    [r - within, high],
  ]
}

/** The same with the gap round it, from within the bore. */
function grown(v: Values): Ring {
  const [r, low, high] = [v.plug / 2, foot(v), foot(v) + lugHeight(v)]
  const more = v.gap * Math.SQRT2
  const reach = v.lug + v.gap
  return [
    [r, low - more],
    [r + reach, low + reach - more],
    [r + reach, high - reach + more],
    [r, high + more],
  ]
}

/** Part of a solid of revolution, from one angle to another. */
function sector(scope: Scope, corners: Ring, from: number, to: number, fineness: number, makesRoom: boolean): Solid {
  const segments = segmentsFor(Math.max(...corners.map(([r]) => r)), fineness, makesRoom)
  const wide = makesRoom ? circumradius(1, segments) : 1
  const solid = scope.revolved([corners.map(([r, z]) => [r * wide, z] as const)], segments, to - from)
  return scope.placed(solid, turnedZ(from))
}
