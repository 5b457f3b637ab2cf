import { circumradius, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { compose, turnedZ, type Vec3, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { gapField } from './fields.ts'
import { shown } from './words.ts'

interface Values {
  readonly bar: number
  readonly shaft: number
  readonly through: number
  readonly under: number
  readonly knob: number
  readonly head: number
  readonly gap: number
  readonly room: 'cut' | 'there'
}

/**
 * A key that is put through a slot and turned by a quarter: its bar then lies across the slot. The slot goes through the first piece
 * below z = 0, along x; knob, shaft and bar are the second's. Drawn as it is locked.
 *
 *      ▒▒▒▒▒▒▒▒▒▒▒     knob
 *     ▓▓▓▓ |▒| ▓▓▓▓    what it goes through
 *         ▒▒▒▒▒        bar, seen from its end: it lies along y
 */
export const twistLock = defineJoint({
  kind: 'twist-lock',
  label: 'twist lock',
  words: ['twist', 'lock', 'twist and lock'],
  icon: 'M6 3 H26 V8 H6 Z M3 11 H13 V15 H3 Z M19 11 H29 V15 H19 Z M14.5 8 V17 H17.5 V8 M9 17 H23 V21 H9 Z',
  comesApart: () => true,
  version: 2,
  // Earlier ones stood on what has room below it.
  upgrades: [(fields) => ({ ...fields, room: 'there' })],
  fields: {
    bar: { kind: 'length', label: 'Bar', default: '16', above: 0, most: 500, meaning: 'Length of the bar of the key.' },
    shaft: {
      kind: 'length',
      label: 'Shaft diameter',
      default: '6',
      above: 0,
      most: 300,
      meaning: 'Diameter of the shaft; the bar is as wide.',
    },
    through: {
      kind: 'length',
      label: 'Through',
      default: '4',
      above: 0,
      most: 500,
      meaning: 'Thickness of what it goes through, below the face that the lock stands on.',
    },
    under: {
      kind: 'length',
      label: 'Bar thickness',
      default: '3',
      above: 0,
      most: 200,
      meaning: 'Thickness of the bar, below what it goes through.',
    },
    knob: {
      kind: 'length',
      label: 'Knob diameter',
      default: '20',
      above: 0,
      most: 500,
      meaning: 'Diameter of the knob, which covers the slot.',
    },
    head: { kind: 'length', label: 'Knob', default: '5', above: 0, most: 200, meaning: 'Height of the knob.' },
    gap: gapField('the key and its slot, and between it and both sides of what it goes through'),
    room: {
      kind: 'choice',
      label: 'Room below',
      default: 'cut',
      choices: { cut: 'with room cut for its bar', there: 'where there is room for its bar' },
      meaning:
        'Whether room for the bar to turn is cut below what it goes through: into a thick piece, but not into a wall.',
    },
  },
  sentence: () => [
    'twist lock',
    ', bar',
    { field: 'bar' },
    'long on a shaft ⌀',
    { field: 'shaft' },
    'through',
    { field: 'through' },
    ',',
    { field: 'under' },
    'thick below, knob ⌀',
    { field: 'knob' },
    'and',
    { field: 'head' },
    'high, gap',
    { field: 'gap' },
    'per side,',
    { field: 'room' },
  ],
  impossible(v) {
    if (held(v) <= 0)
      return {
        field: 'bar',
        detail: `It would hold nothing when it is turned: longer than ${shown(v.shaft + 2 * v.gap)}.`,
      }
    if (v.knob / 2 <= v.bar / 2 + v.gap)
      return { field: 'knob', detail: `The knob falls into its slot: more than ⌀ ${shown(v.bar + 2 * v.gap)}.` }
    return undefined
  },
  judged: (v) => ({
    facts: [
      { label: 'Held by', text: `${shown(held(v))} mm at each end of its bar` },
      {
        label: 'Needs below',
        text: `${shown(v.through + v.gap + v.under)} mm${v.room === 'cut' ? '' : ', and room for its bar to turn'}`,
      },
    ],
    faults: [],
  }),
  // Of what stands on the face: shaft and bar lie below it.
  box: (v) => ({ min: [-v.knob / 2, -v.knob / 2, 0], max: [v.knob / 2, v.knob / 2, v.gap + v.head] }),
  dimensions: (v) => [
    {
      kind: 'linear',
      field: 'knob',
      from: [-v.knob / 2, 0, v.gap + v.head],
      to: [v.knob / 2, 0, v.gap + v.head],
      offset: [0, -1, 0],
    },
  ],
  surfaces: (v, side) => {
    const names =
      side === 0
        ? v.room === 'cut'
          ? ['slot', 'room']
          : ['slot']
        : ['knob', 'knob side', 'knob underside', 'shaft', 'bar', 'bar underside']
    return surfacesOf(plainSurfaces(...names), {
      at([, , z], n) {
        if (side === 0) return v.room === 'cut' && z < -v.through + 1e-3 ? 'room' : 'slot'
        if (z > v.gap - 1e-3) return n[2] > 0.9 ? 'knob' : n[2] < -0.9 ? 'knob underside' : 'knob side'
        if (z < -v.through - v.gap + 1e-3) return n[2] < -0.9 ? 'bar underside' : 'bar'
        return 'shaft'
      },
    })
  },
  freedoms: (v) => [
    { label: 'turning', unit: 'degrees', from: 0, to: 90, atRest: 0 },
    { label: 'pulling', unit: 'mm', from: 0, to: v.through + v.gap + v.under, atRest: 0 },
  ],
  motion: (_, [angle = 0, out = 0]) => compose({ ...world, origin: [0, 0, out] as Vec3 }, turnedZ(-angle)),
  solids(v, { scope, fineness }) {
    const below = -v.through - v.gap - v.under
    const disc = (radius: number, low: number, high: number, room: boolean) => {
      const segments = segmentsFor(radius, fineness, room)
      const wide = room ? circumradius(radius, segments) : radius
      return lifted(scope, scope.cylinder(high - low, wide, wide, segments), low)
    }
    /** As long as a disc is wide, and so wide across. */
    const bar = (radius: number, wide: number, low: number, high: number, room: boolean) => {
      const ring = [
        [-2 * radius, -wide / 2],
        [2 * radius, -wide / 2],
        [2 * radius, wide / 2],
        [-2 * radius, wide / 2],
      ] as const
      return scope.intersection([disc(radius, low, high, room), lifted(scope, scope.extrude([ring], high - low), low)])
    }
    const top = v.gap + v.head
    const slot = scope.union([
      bar(v.bar / 2 + v.gap, v.shaft + 2 * v.gap, -v.through - 1, 1, true),
      disc(v.shaft / 2 + v.gap, -v.through - 1, 1, true),
    ])
    const key = scope.union([
      disc(v.knob / 2, v.gap, top, false),
      disc(v.shaft / 2, below, top, false),
      scope.placed(bar(v.bar / 2, v.shaft, below, -v.through - v.gap, false), turnedZ(90)),
    ])
    // As deep below the bar as there is a gap above it.
    const room = v.room === 'cut' ? [disc(v.bar / 2 + v.gap, below - v.gap, -v.through, true)] : []
    return { cuts: [[slot, ...room], []], adds: [[], [key]] }
  },
})

/** At each end of the bar, beside the slot. */
const held = ({ bar, shaft, gap }: Values) => (bar - shaft) / 2 - gap

function lifted(scope: Scope, solid: Solid, z: number): Solid {
  return scope.placed(solid, { ...world, origin: [0, 0, z] })
}
