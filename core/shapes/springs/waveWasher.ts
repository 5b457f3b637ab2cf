import { size } from '../../fields/index.ts'
import { type Scope, segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { flatsForTurn, flatsInUse } from '../../plane/index.ts'
import { defineShape } from '../define.ts'
import { cloudOf, cloudReach, placingFineness } from '../drawn/cloud.ts'
import { skinned } from '../drawn/skin.ts'
import { circleEdge } from '../edges.ts'
import { plainSurfaces, surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly outer: number
  readonly inner: number
  readonly thick: number
  readonly rise: number
  readonly waves: number
  readonly travel: number
}

/** A flat ring that goes up and down in waves all round, which are pressed flat. */
export const waveWasher = defineShape({
  kind: 'wave-washer',
  label: 'wave washer',
  words: ['wave spring', 'wavy washer', 'spring washer'],
  shelf: 'machine',
  icon: 'M3 13 C6 6 10 6 13 12 S20 18 23 12 S28 8 29 11 M3 16 C6 9 10 9 13 15 S20 21 23 15 S28 11 29 14 M3 13 V16 M29 11 V14',
  operation: 'add',
  seat: 'stands',
  fields: {
    outer: size('Outside diameter', '30', 'Diameter over its outside.'),
    inner: size('Inside diameter', '22', 'Diameter of its hole.'),
    thick: size('Thickness', '1.2', 'Thickness of the ring, straight up.'),
    rise: size('Rise', '2', 'From the lowest to the highest of its middle: how far it can be pressed.'),
    waves: { kind: 'count', label: 'Waves', default: '3', least: 2, most: 24, meaning: 'Number of its waves.' },
    travel: size('Travel', '1', 'How far it is pressed.'),
  },
  quick: ['outer', 'inner', 'thick', 'rise', 'waves'],
  sentence: () => [
    'wave washer ⌀',
    { field: 'outer' },
    'with a hole ⌀',
    { field: 'inner' },
    ',',
    { field: 'thick' },
    'thick, in',
    { field: 'waves' },
    'waves',
    { field: 'rise' },
    'high, pressed by',
    { field: 'travel' },
  ],
  impossible(v) {
    if (v.inner >= 0.95 * v.outer)
      return {
        field: 'inner',
        detail: `Nothing is left of the ring: less than ${Number((0.95 * v.outer).toFixed(3))} mm.`,
      }
    // As steep as 45° at its inside.
    const most = v.inner / v.waves
    if (v.rise > most)
      return { field: 'rise', detail: `Too steep to be a washer: ${Number(most.toFixed(3))} mm at most.` }
    if (v.travel > v.rise) return { field: 'travel', detail: `It is flat before that: ${v.rise} mm at most.` }
    return undefined
  },
  box: (v) => {
    const r = v.outer / 2
    return { min: [-r, -r, 0], max: [r, r, v.rise + v.thick] }
  },
  reach: (v, d) =>
    cloudReach(
      cloudOf(v, () => sectionsOf(v, placingFineness).sections.flat()),
      d,
    ),
  surfaces: (v) =>
    surfacesOf(plainSurfaces('upper side', 'underside', 'outside', 'hole'), {
      at([x, y], n) {
        if (Math.abs(n[2]) > 0.5) return n[2] > 0 ? 'upper side' : 'underside'
        return Math.hypot(x, y) > (v.outer + v.inner) / 4 ? 'outside' : 'hole'
      },
    }),
  edges: (v) => [circleEdge('outside', v.outer), circleEdge('hole', v.inner)],
  dimensions: (v) => [
    { kind: 'diameter', field: 'outer', centre: [0, 0, 0], direction: [1, 0, 0], radius: v.outer / 2 },
  ],
  spring: facts,
  solid: (v, { scope, fineness }) => waving(v, scope, fineness),
})

/** Formulas of wave washers (SAE, Spring Design Manual, washers): F / s = E b t³ N⁴ Do / (2.4 D³ Di), stress 3 π F D / (4 b t² N²). */
function facts({ outer, inner, thick, waves, travel }: Values, { stiffness }: SpringStuff): SpringFacts {
  const [middle, wide] = [(outer + inner) / 2, (outer - inner) / 2]
  const rate = ((stiffness * wide * thick ** 3 * waves ** 4) / (2.4 * middle ** 3)) * (outer / inner)
  const force = rate * travel
  return {
    ...{ rate, per: 'mm', travel, force },
    strain: (3 * Math.PI * force * middle) / (4 * wide * thick ** 2 * waves ** 2) / stiffness,
  }
}

/** Its section in its place all round, upright, a full turn of it. */
function sectionsOf(v: Values, fineness: number) {
  const round = segmentsFor(v.outer / 2, fineness)
  // Rounds of the waves are met as well, and each wave is like the others, its top and its foot among them.
  const curve = Math.max(round, Math.PI * v.waves * Math.sqrt(v.rise / 2 / (2 * fineness)))
  const each = 4 * flatsInUse(Math.max(curve / v.waves, flatsForTurn(Math.PI, fineness)) / 4)
  const count = each * v.waves
  const [near, far] = [v.inner / 2 / Math.cos(Math.PI / count), v.outer / 2]
  const flat = [
    [near, 0],
    [far, 0],
    [far, v.thick],
    [near, v.thick],
  ] as const
  const sections = Array.from({ length: count }, (_, i) => {
    const at = (2 * Math.PI * i) / count
    const low = (v.rise / 2) * (1 + Math.cos(v.waves * at))
    // Seen from ahead: x away from the axis is to the left.
    return flat.toReversed().map(([r, z]): Vec3 => [r * Math.cos(at), r * Math.sin(at), low + z])
  })
  return { flat, sections }
}

function waving(v: Values, scope: Scope, fineness: number) {
  const { flat, sections } = sectionsOf(v, fineness)
  return skinned(scope, { flat: [flat], sections, closed: true, fineness })
}
