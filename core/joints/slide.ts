import { type Ring, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { type Frame, type Vec3, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { gapField, upwardField } from './fields.ts'
import { gapsSaid, shown } from './words.ts'

interface Values {
  readonly form: string
  readonly length: number
  readonly width: number
  readonly thick: number
  readonly neck: number
  readonly depth: number
  readonly wide: number
  readonly from: number
  readonly to: number
  readonly ends: string
  readonly gap: number
  readonly upward: number
}

/**
 * A tongue that runs in a groove, printed in place. The groove is cut into the first piece below z = 0, along y; the tongue, with a
 * carriage on it, is the second's.
 *
 *       ░░░░░░░░░░░░░░░     carriage, the upward gap above z = 0
 *     ▓▓▓▓▓ |░░░░░| ▓▓▓▓▓
 *     ▓▓▓▓ /░░░░░░░\ ▓▓▓▓   dovetail, T (with 45° under its roof) or a round with a roof
 *     ▓▓▓ /░░░░░░░░░\ ▓▓▓   of 45° print without support; a plain round does where its
 *     ▓▓▓             ▓▓▓   neck is wide
 */
export const slide = defineJoint({
  kind: 'slide',
  label: 'slide',
  words: ['slider', 'sliding joint', 'drawer', 'linear slide', 'dovetail slide', 'runner'],
  icon: 'M3 22 V12 H11 L8 18 H24 L21 12 H29 V22 Z M11 12 V8 H6 V3 H26 V8 H21 V12',
  comesApart: ({ ends = 'closed' }) => ends !== 'closed',
  fields: {
    form: {
      kind: 'choice',
      label: 'Form',
      default: 'dovetail',
      choices: { dovetail: 'dovetail', tee: 'T', round: 'round', drop: 'teardrop' },
      meaning: 'Section of the tongue; a teardrop is a round with a roof of 45° up to its neck.',
    },
    length: {
      kind: 'length',
      label: 'Length',
      default: '30',
      above: 0,
      most: 1000,
      meaning: 'Length of tongue and carriage.',
    },
    width: {
      kind: 'length',
      label: 'Carriage width',
      default: '24',
      above: 0,
      most: 1000,
      meaning: 'Width of the carriage on the tongue.',
    },
    thick: {
      kind: 'length',
      label: 'Carriage thickness',
      default: '3',
      above: 0,
      most: 200,
      meaning: 'Thickness of the carriage.',
    },
    neck: {
      kind: 'length',
      label: 'Neck',
      default: '8',
      above: 0,
      most: 500,
      meaning: 'Width of the tongue where it enters the groove.',
    },
    wide: {
      kind: 'length',
      label: 'Foot',
      default: '13',
      above: 0,
      most: 500,
      meaning: 'Width of the tongue where it is widest.',
    },
    depth: {
      kind: 'length',
      label: 'Depth',
      default: '5',
      above: 0,
      most: 200,
      meaning:
        'How deep the tongue goes below the face that the slide stands on; of a round one or a teardrop its foot and neck tell that.',
    },
    from: {
      kind: 'length',
      label: 'Slides from',
      default: '-15',
      least: -1000,
      most: 0,
      meaning: 'How far it slides to the front from where it is drawn.',
    },
    to: {
      kind: 'length',
      label: 'Slides to',
      default: '15',
      least: 0,
      most: 1000,
      meaning: 'How far it slides to the back.',
    },
    ends: {
      kind: 'choice',
      label: 'Ends',
      default: 'closed',
      choices: { closed: 'closed at both ends', front: 'open at the front', open: 'open at both ends' },
      meaning: 'Where the groove stops the tongue; where it is open, the tongue comes out.',
    },
    gap: gapField('tongue and groove'),
    upward: upwardField('the carriage and the face below it, and the tongue and the floor of its groove'),
  },
  sentence: (v) => [
    'slide',
    ':',
    { field: 'form' },
    'tongue',
    { field: 'length' },
    'long, neck',
    { field: 'neck' },
    ', foot',
    { field: 'wide' },
    'wide',
    ...(isRound(v) ? [] : ['and', { field: 'depth' } as const, 'deep']),
    ', with a carriage',
    { field: 'width' },
    'wide and',
    { field: 'thick' },
    'thick, from',
    { field: 'from' },
    'to',
    { field: 'to' },
    'in a groove',
    { field: 'ends' },
    ...gapsSaid,
  ],
  impossible(v) {
    const hold = (v.wide - v.neck) / 2
    if (hold <= v.gap)
      return {
        field: 'wide',
        detail: `The tongue would lift out of its groove: wider than ${shown(v.neck + 2 * v.gap)} at its foot.`,
      }
    if (v.form === 'dovetail' && v.depth < 0.8 * hold)
      return {
        field: 'depth',
        detail: `Too flat: the dovetail would print in mid-air. Deeper than ${shown(0.8 * hold)}.`,
      }
    if (v.form === 'tee' && v.depth <= hold + 0.8)
      return { field: 'depth', detail: `There is no room for the T below its neck: deeper than ${shown(hold + 0.8)}.` }
    if (v.width <= v.neck) return { field: 'width', detail: 'The carriage must be wider than the neck below it.' }
    if (v.from === v.to) return { field: 'to', detail: 'A travel of 0 moves nothing: let it slide one way at least.' }
    return undefined
  },
  judged: (v, up) => ({
    facts: [
      { label: 'Held by', text: `${shown((v.wide - v.neck) / 2 - v.gap)} mm on each side` },
      {
        label: 'Needs below',
        text: `${shown(deepest(v) + v.upward)} mm of its face, ${shown(v.wide + 2 * v.gap)} mm wide`,
      },
      { label: 'Gap upward', text: `${shown(v.upward)} mm` },
    ],
    faults:
      v.form === 'round' && up[2] > 0.99 && hangs(v) > 45.05
        ? [
            {
              detail: `Its groove hangs over by ${shown(hangs(v))}° beside the neck: let it be a teardrop, or its neck wider.`,
              rank: 'advice' as const,
            },
          ]
        : [],
  }),
  // Of what stands on the face: the tongue lies below it.
  box: (v) => ({
    min: [-v.width / 2, -v.length / 2, 0],
    max: [v.width / 2, v.length / 2, v.upward + v.thick],
  }),
  dimensions: (v) => {
    const [x, y, z] = [v.width / 2, v.length / 2, v.upward + v.thick]
    return [
      { kind: 'linear', field: 'length', from: [x, -y, z], to: [x, y, z], offset: [1, 0, 0] },
      { kind: 'linear', field: 'width', from: [-x, -y, z], to: [x, -y, z], offset: [0, -1, 0] },
    ]
  },
  surfaces: (v, side) => {
    const names =
      side === 0
        ? ['flank', 'floor', 'end']
        : ['flank', 'foot', 'end', 'carriage', 'carriage underside', 'carriage side']
    return surfacesOf(plainSurfaces(...names), {
      at([x, , z], n) {
        if (Math.abs(n[1]) > 0.99) return 'end'
        if (side === 0) return n[2] > 0.99 && z < -deepest(v) ? 'floor' : 'flank'
        if (n[2] > 0.99 && z > v.upward) return 'carriage'
        if (n[2] < -0.99) return z > 0 ? 'carriage underside' : 'foot'
        return z > v.upward - 1e-3 && Math.abs(x) > v.width / 2 - 1e-3 ? 'carriage side' : 'flank'
      },
    })
  },
  freedoms: (v) => [
    { label: 'sliding', unit: 'mm', from: v.from, to: v.to, atRest: 0, told: { from: 'from', to: 'to' } },
  ],
  motion: (_, [along = 0]): Frame => ({ ...world, origin: [0, along, 0] as Vec3 }),
  solids(v, { scope, fineness }) {
    const half = v.length / 2
    const section = tongue(v, fineness)
    const grown = scope.inset([section], -v.gap)
    // The floor lies the upward gap below, where that is more.
    const sunk = grown.map((ring) => ring.map(([x, z]) => [x, z - Math.max(0, v.upward - v.gap)] as const))
    const mouth: Ring = [
      [-v.neck / 2 - v.gap, -0.5],
      [v.neck / 2 + v.gap, -0.5],
      [v.neck / 2 + v.gap, 1],
      [-v.neck / 2 - v.gap, 1],
    ]
    const open = v.ends === 'open'
    const front = open || v.ends === 'front' ? -past : v.from - half - v.gap
    const back = open ? past : v.to + half + v.gap
    const groove = along(scope, scope.filled([...grown, ...sunk, mouth]), front, back)
    const top = v.upward + v.thick
    const carriage: Ring = [
      [-v.width / 2, v.upward],
      [v.width / 2, v.upward],
      [v.width / 2, top],
      [-v.width / 2, top],
    ]
    const stem: Ring = [
      [-v.neck / 2, -0.5],
      [v.neck / 2, -0.5],
      [v.neck / 2, top],
      [-v.neck / 2, top],
    ]
    return {
      cuts: [[groove], []],
      adds: [[], [along(scope, scope.filled([section, stem, carriage]), -half, half)]],
    }
  },
})

/** Beyond any piece, mm. */
const past = 3000
const isRound = ({ form }: Pick<Values, 'form'>) => form === 'round' || form === 'drop'
/** Of the round: how far from upright its upper side leans where it meets the neck, degrees. */
const hangs = ({ wide, neck }: Values) => 90 - (Math.asin(Math.min(1, neck / wide)) * 180) / Math.PI
/** Whether the round has a roof: it is steep enough by itself below a wide neck. */
const hasRoof = (v: Values) => v.form === 'drop' && hangs(v) > 45
/** Of the round: how far its middle lies below the neck. */
function middle(v: Values): number {
  if (hasRoof(v)) return (v.wide * Math.SQRT2 - v.neck) / 2
  return Math.sqrt(Math.max(0, v.wide ** 2 - v.neck ** 2)) / 2
}

/** How far the tongue goes below z = 0. */
const deepest = (v: Values) => (isRound(v) ? middle(v) + v.wide / 2 : v.depth)

/** The tongue's section below z = 0, counter-clockwise. */
function tongue(v: Values, fineness: number): Ring {
  const [neck, wide] = [v.neck / 2, v.wide / 2]
  if (isRound(v)) {
    const count = segmentsFor(wide, fineness)
    const start = hasRoof(v) ? Math.PI / 4 : Math.atan2(middle(v), neck)
    // Round from where the right end of the neck, or its flank, meets it, below, to the left.
    const round = Array.from({ length: count + 1 }, (_, i) => {
      const at = start - (i * (Math.PI + 2 * start)) / count
      return [wide * Math.cos(at), -middle(v) + wide * Math.sin(at)] as const
    })
    const [right, left]: Ring = [
      [neck, 0],
      [-neck, 0],
    ]
    return (hasRoof(v) ? [right!, ...round, left!] : round).toReversed()
  }
  const right: (readonly [number, number])[] =
    v.form === 'tee'
      ? [
          [neck, 0],
          [neck, -(v.depth - (wide - neck)) / 2],
          [wide, -(v.depth - (wide - neck)) / 2 - (wide - neck)],
          [wide, -v.depth],
        ]
      : [
          [neck, 0],
          [wide, -v.depth],
        ]
  return [...right.map(([x, z]) => [-x, z] as const), ...right.toReversed()]
}

/** A section in x and z along y. */
function along(scope: Scope, rings: readonly Ring[], from: number, to: number): Solid {
  return scope.placed(scope.extrude(rings, to - from), {
    origin: [0, to, 0],
    u: [1, 0, 0],
    v: [0, 0, 1],
    n: [0, -1, 0],
  })
}
