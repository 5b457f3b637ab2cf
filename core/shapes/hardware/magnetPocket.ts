import type { Item } from '../../hardware/index.ts'
import { defineShape, discReach } from '../define.ts'
import { gapField, itemField, sunkField } from './fields.ts'
import { type Stretch, turnedBox, turnedHole, turnedSurfaces } from './turned.ts'

interface Values {
  readonly item: Item
  readonly gap: number
  readonly sunk: number
}

const acrossOf = ({ item, gap }: Values) => item.sizes.diameter! + 2 * gap

function stretchesOf(v: Values): readonly Stretch[] {
  return [{ name: 'wall', across: acrossOf(v), to: v.item.sizes.height! + v.sunk }]
}

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
    sunk: sunkField('0.2', 'How far the magnet lies below the face, so that it rubs on nothing.'),
  },
  quick: ['item', 'gap'],
  sentence: () => ['pocket for', { field: 'item' }, ', gap', { field: 'gap' }, ', sunk by', { field: 'sunk' }],
  impossible: (v) =>
    acrossOf(v) <= 0 ? { field: 'gap', detail: 'With that gap there would be no pocket left.' } : undefined,
  box: (v) => turnedBox(stretchesOf(v)),
  reach: (v, d) => discReach(acrossOf(v) / 2, 0, d),
  surfaces: (v) => turnedSurfaces(stretchesOf(v), false),
  dimensions: () => [],
  solid: (v, context) => turnedHole(stretchesOf(v), context),
})
