import { size } from '../../fields/index.ts'
import type { Ring } from '../../kernel/index.ts'
import type { Frame } from '../../place/index.ts'
import { defineShape } from '../define.ts'
import { surfacesOf } from '../surfaces.ts'
import { type OnRound, onIts, roundFields } from './roundFields.ts'

interface Values extends OnRound {
  readonly pattern: 'straight' | 'diamond'
  readonly pitch: number
  readonly length: number
}

/** DIN 82:1973: grooves of 90°, along the axis (RAA) or crossing each other at 30° to it (RGE); sharp ridges print badly, so a little of each is left. */
const lean = Math.PI / 6
const land = 0.15

const leanOf = ({ pattern }: Values) => (pattern === 'diamond' ? lean : 0)
/** As many grooves as come nearest to the pitch, which is measured across them. */
const countOf = (v: Values) => Math.round((Math.PI * v.round * Math.cos(leanOf(v))) / v.pitch)
/** The pitch that this comes to, mm. */
const pitchOf = (v: Values) => (Math.PI * v.round * Math.cos(leanOf(v))) / countOf(v)
const deepOf = (v: Values) => ((1 - land) * pitchOf(v)) / 2

/** Grooves across the axis, which lies in the middle. Each ends in an arc just outside the bar; `step`: of its turn, rad. */
function grooves(v: Values, overlap: number, step: number): readonly Ring[] {
  const [r, count] = [v.round / 2, countOf(v)]
  const bottom = r - deepOf(v)
  // Its sides lean by 45° where it is cut square to itself, and so more along the round where it leans.
  const slope = 1 / Math.cos(leanOf(v))
  const far = r + overlap
  // Where a side comes to the arc: (bottom + t)² + (slope t)² = far².
  const [square, half] = [1 + slope ** 2, bottom]
  const t = (Math.sqrt(half ** 2 + square * (far ** 2 - bottom ** 2)) - half) / square
  const to = Math.atan2(slope * t, bottom + t)
  // Chords of the arc lie outside the bar, and so do diagonals from one step to the next.
  const out = far / Math.cos(to / chords + step / 2)
  const arc = Array.from({ length: chords + 1 }, (_, i) => to * ((2 * i) / chords - 1))
  return Array.from({ length: count }, (_, i) => {
    const at = (2 * Math.PI * i) / count
    const point = (radius: number, angle: number) =>
      [radius * Math.cos(at + angle), radius * Math.sin(at + angle)] as const
    return [point(bottom, 0), ...arc.map((angle) => point(out, angle))]
  })
}
const chords = 4

/** Grooves all round a bar, for fingers to hold it by. */
export const knurl = defineShape({
  kind: 'knurl',
  label: 'knurl',
  words: ['knurling', 'knurled', 'diamond knurl', 'grip grooves', 'serrated grip'],
  shelf: 'machine',
  icon: 'M9 4 V20 A7 2.6 0 0 0 23 20 V4 A7 2.6 0 0 0 9 4 A7 2.6 0 0 0 23 4 M9 10 L16 7 L23 10 M9 15 L16 12 L23 15 M9 8 L16 11 L23 8 M9 13 L16 16 L23 13 M9 18 L16 21 L23 18',
  operation: 'cut',
  seat: 'enters',
  roundOnly: true,
  fields: {
    pattern: {
      kind: 'choice',
      label: 'Pattern',
      default: 'diamond',
      choices: { straight: 'straight', diamond: 'crossed' },
      meaning: 'Grooves along the axis, or crossing each other at 30° to it (DIN 82, RAA and RGE).',
    },
    pitch: {
      ...size('Pitch', '2', 'From one groove to the next, across them; as many as come nearest to it all round.'),
      least: 0.4,
      most: 20,
    },
    length: size('Length', '10', 'Length along the axis.'),
    ...roundFields('20'),
  },
  quick: ['length', 'pitch'],
  onRound: (diameter, { inside }): Record<string, string> => ({ round: diameter, on: inside ? 'inside' : 'outside' }),
  fitted: onIts,
  sentence: () => ['knurl,', { field: 'pattern' }, ', pitch', { field: 'pitch' }, ',', { field: 'length' }, 'long'],
  impossible(v) {
    if (countOf(v) >= fewest) return undefined
    const most = Math.floor((100 * Math.PI * v.round * Math.cos(leanOf(v))) / fewest) / 100
    return {
      field: 'pitch',
      detail: `Fewer than ${fewest} grooves would be no knurl; on this round the pitch is at most ${most} mm.`,
      nearest: { field: 'pitch', value: most },
    }
  },
  unfit: (v) =>
    v.on === 'outside'
      ? undefined
      : { field: 'pattern', detail: 'A knurl goes on the outside of a bar, not into a bore.' },
  box: (v) => ({ min: [-v.round / 2, -v.length / 2, -v.round], max: [v.round / 2, v.length / 2, 0] }),
  // As it is placed: by its middle, and by its ends along the axis.
  reach: (v, [, y]) => (Math.abs(y) * v.length) / 2,
  surfaces: () =>
    surfacesOf([{ name: 'grooves' }, { name: 'end' }], {
      within: true,
      at: (_, [, b]) => (Math.abs(b) > 0.999 ? 'end' : 'grooves'),
    }),
  dimensions: () => [],
  solid(v, { scope, fineness, overlap }) {
    const r = v.round / 2
    const turn = (v.length * Math.tan(leanOf(v))) / r
    // A step of a turn dips so far into its arc: little enough for its upper side to stay outside the bar.
    const most = Math.min(fineness, littleDip)
    const steps = Math.max(1, Math.ceil(turn / (2 * Math.acos(1 - most / r))))
    const rings = grooves(v, overlap, turn / steps)
    const body =
      turn === 0
        ? scope.extrude(rings, v.length)
        : scope.union([turn, -turn].map((each) => scope.helical(rings, v.length, steps, each)))
    const lying: Frame = { origin: [0, -v.length / 2, -v.round / 2], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] }
    return scope.placed(body, lying)
  },
})

const fewest = 8
/** mm */
const littleDip = 0.004
