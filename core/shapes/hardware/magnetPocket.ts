import type { Item } from '../../hardware/index.ts'
import { type Frame, world } from '../../place/index.ts'
import { defineShape, discReach } from '../define.ts'
import { below, gapField, itemField, pressedBy, sunkField } from './fields.ts'
import { loweredSurfaces, type Stretch, turnedBox, turnedHole, turnedSurfaces } from './turned.ts'

interface Values {
  readonly item: Item
  readonly gap: number
  readonly sunk: number
  readonly open: 'face' | 'closed'
}

const acrossOf = ({ item, gap }: Values) => item.sizes.diameter! + 2 * gap

/** Covered, it has room above the magnet, or the next layer would drag on it. */
const roomAbove = ({ open, gap }: Values) => (open === 'closed' ? Math.max(0, gap) : 0)
/** From its upper end down. */
const stretchesOf = (v: Values): readonly Stretch[] => [
  { name: 'wall', across: acrossOf(v), to: v.item.sizes.height! + roomAbove(v) + (v.open === 'closed' ? 0 : v.sunk) },
]
/** Where its upper end lies: at the face, or covered by so much. */
const roofOf = ({ open, sunk }: Values) => (open === 'closed' ? sunk : 0)
const lowered = (by: number): Frame => ({ ...world, origin: [0, 0, -by] })

/** A pocket that a disc magnet is pushed or glued into. */
export const magnetPocket = defineShape({
  kind: 'magnet-pocket',
  label: 'pocket for a magnet',
  words: ['magnet', 'magnet pocket', 'magnet hole'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M11 13 A5 2.2 0 0 1 21 13 A5 2.2 0 0 1 11 13 M11 13 V15 A5 2.2 0 0 0 21 15 V13',
  operation: 'cut',
  seat: 'enters',
  fields: {
    item: itemField('Magnet', ['magnet'], 'usual-magnet 6 × 2'),
    gap: gapField('snug'),
    sunk: sunkField(
      '0.2',
      'How far the magnet lies below the face, so that it rubs on nothing; covered, how much is above it.',
    ),
    open: {
      kind: 'choice',
      label: 'Open',
      default: 'face',
      choices: { face: 'to the face', closed: 'to no side' },
      meaning: 'Open to no side, the magnet is put in while the print pauses, and the layers above close over it.',
    },
  },
  quick: ['item', 'gap'],
  sentence: () => [
    'pocket for',
    { field: 'item' },
    ', gap',
    { field: 'gap' },
    ', sunk by',
    { field: 'sunk' },
    ', open',
    { field: 'open' },
  ],
  impossible: (v) =>
    acrossOf(v) <= 0
      ? { field: 'gap', detail: 'With that gap there would be no pocket left.' }
      : v.open === 'closed' && v.sunk <= 0
        ? {
            field: 'sunk',
            detail: 'Nothing would cover it; the magnet must lie deeper.',
            nearest: { field: 'sunk', value: 1 },
          }
        : undefined,
  box: (v) => {
    const { min, max } = turnedBox(stretchesOf(v))
    const down = roofOf(v)
    return { min: [min[0], min[1], min[2] - down], max: [max[0], max[1], max[2] - down] }
  },
  reach: (v, d) => discReach(acrossOf(v) / 2, 0, d),
  surfaces: (v) => loweredSurfaces(turnedSurfaces(stretchesOf(v), false), roofOf(v)),
  held: (v) => ({
    ...{ item: v.item, frame: below(v.open === 'closed' ? v.sunk + roomAbove(v) : v.sunk), pressed: pressedBy(v.gap) },
    room: roomAbove(v),
    way: v.open === 'closed' ? 'closed in' : 'above',
  }),
  dimensions: () => [],
  solid: (v, context) => {
    const overlap = v.open === 'closed' ? 0 : context.overlap
    return context.scope.placed(turnedHole(stretchesOf(v), { ...context, overlap }), lowered(roofOf(v)))
  },
})
