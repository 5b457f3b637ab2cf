import type { Item } from '../../hardware/index.ts'
import { defineShape, discReach } from '../define.ts'
import { below, gapField, itemField, pressedBy, sunkField } from './fields.ts'
import { type Stretch, turnedBox, turnedHole, turnedSurfaces } from './turned.ts'

interface Values {
  readonly item: Item
  readonly gap: number
  readonly sunk: number
  readonly behind: 'shoulder' | 'floor' | 'open'
}

/** A shoulder reaches in over so much of the ring between bore and outside: it holds the outer ring, and touches nothing that turns. */
const shoulder = 0.2

/** From the face down: room for its flange where it has one, its seat, and the way behind it. */
function stretchesOf({ item: { sizes }, gap, sunk, behind }: Values, through: number): readonly Stretch[] {
  const { bore, outside, height } = sizes as { bore: number; outside: number; height: number }
  const seat = { name: 'seat', across: outside + 2 * gap, to: height + sunk }
  const flange = sizes.flange && {
    name: 'flange',
    across: sizes.flange + 2 * Math.max(gap, 0),
    to: sizes.flangeHeight! + sunk,
  }
  const above = flange ? [flange] : []
  if (behind === 'floor') return [...above, seat]
  const to = Math.max(through, seat.to + 1)
  if (behind === 'open') return [...above, { ...seat, to }]
  return [...above, seat, { name: 'wall', across: outside - shoulder * (outside - bore), to }]
}

/** A seat for a bearing, with a shoulder that its outer ring rests on, and room for its flange. */
export const bearingSeat = defineShape({
  kind: 'bearing-seat',
  label: 'seat for a bearing',
  words: ['bearing', 'bearing seat', 'bearing pocket', 'ball bearing', 'bearing housing', 'bush hole'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M9 14 A7 3 0 0 1 23 14 A7 3 0 0 1 9 14 M12 14.6 A4 1.6 0 0 1 20 14.6 A4 1.6 0 0 1 12 14.6',
  operation: 'cut',
  seat: 'enters',
  fields: {
    item: itemField('Bearing', ['bearing'], 'iso-15 608'),
    gap: gapField('snug'),
    sunk: sunkField('0', 'How far the bearing lies below the face.'),
    behind: {
      kind: 'choice',
      label: 'Behind it',
      default: 'shoulder',
      choices: {
        shoulder: 'through, with a shoulder for its outer ring',
        floor: 'closed',
        open: 'through, without a shoulder',
      },
      meaning: 'Through, the bearing can be pushed out again from behind.',
    },
  },
  quick: ['item', 'gap'],
  sentence: () => [
    'seat for',
    { field: 'item' },
    ', gap',
    { field: 'gap' },
    ', sunk by',
    { field: 'sunk' },
    ',',
    { field: 'behind' },
  ],
  impossible: ({ item, gap }) =>
    item.sizes.outside! + 2 * gap <= item.sizes.outside! - shoulder * (item.sizes.outside! - item.sizes.bore!)
      ? { field: 'gap', detail: 'With that gap the seat would be no wider than its shoulder.' }
      : undefined,
  box: (v, through) => turnedBox(stretchesOf(v, through)),
  reach: (v, d) => discReach(turnedBox(stretchesOf(v, 0)).max[0], 0, d),
  surfaces: (v) => turnedSurfaces(stretchesOf(v, farDown), v.behind !== 'floor'),
  held: ({ item, gap, sunk }) => ({ item, frame: below(sunk), pressed: pressedBy(gap), way: 'above' }),
  dimensions: () => [],
  solid: (v, context) => turnedHole(stretchesOf(v, context.through), context),
})
/** Where a through hole ends is not known to its surfaces, mm. */
const farDown = 1e4
