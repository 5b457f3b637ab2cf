import type { Item } from '../../hardware/index.ts'
import { defineShape, discReach } from '../define.ts'
import { below, itemField } from './fields.ts'
import { type Stretch, turnedBox, turnedHole, turnedSurfaces } from './turned.ts'

interface Values {
  readonly item: Item
  readonly below: number
}

/** The lead-in is a bevel of 45° out to the knurl, so that the insert stands upright while it is pressed in. */
function stretchesOf({ item: { sizes }, below }: Values): readonly Stretch[] {
  const { hole, outside, height } = sizes as { hole: number; outside: number; height: number }
  return [
    { name: 'lead-in', across: outside, narrows: hole, to: (outside - hole) / 2 },
    { name: 'wall', across: hole, to: height + below },
  ]
}

/** An insert melts and pushes what is round it: so much must be there, mm. A rule of thumb. */
export const wallRound = ({ sizes }: Item) => Math.max(1.6, 0.35 * sizes.outside!)

/** A hole into which a threaded insert is pressed hot. */
export const insertHole = defineShape({
  kind: 'insert-hole',
  label: 'hole for an insert',
  words: ['insert', 'threaded insert', 'heat-set insert', 'heat insert', 'brass insert'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M11 14 A5 2.2 0 0 1 21 14 A5 2.2 0 0 1 11 14 M12.5 14 L12.5 16 M14.5 15 L14.5 17.5 M16.5 15 L16.5 17.5 M19 14.5 L19 16.5',
  operation: 'cut',
  seat: 'enters',
  fields: {
    item: itemField('Insert', ['insert'], 'usual-insert M3'),
    below: {
      kind: 'length',
      label: 'Room below',
      default: '1',
      least: 0,
      most: 1000,
      meaning: 'How much deeper than the insert it is: room for what the insert pushes ahead, and for the screw.',
    },
  },
  quick: ['item', 'below'],
  sentence: () => ['hole for', { field: 'item' }, ', with', { field: 'below' }, 'of room below it'],
  box: (v) => turnedBox(stretchesOf(v)),
  reach: (v, d) => discReach(v.item.sizes.hole! / 2, 0, d),
  surfaces: (v) => turnedSurfaces(stretchesOf(v), false),
  held: ({ item }) => ({ item, frame: below(0), pressed: 0, way: 'above', wall: wallRound(item) }),
  dimensions: () => [],
  solid: (v, context) => turnedHole(stretchesOf(v), context),
})
