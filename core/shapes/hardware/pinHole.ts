import type { Item } from '../../hardware/index.ts'
import { defineShape, discReach } from '../define.ts'
import { deep, deepened, depthField, reachField, reachWords, type Sunk } from '../sunk.ts'
import { below, gapField, itemField, pressedBy } from './fields.ts'
import { type Stretch, turnedBox, turnedHole, turnedSurfaces } from './turned.ts'

interface Values extends Sunk {
  readonly item: Item
  readonly gap: number
}

const acrossOf = ({ item, gap }: Values) => item.sizes.diameter! + 2 * gap

function stretchesOf(v: Values, through: number): readonly Stretch[] {
  return [{ name: 'wall', across: acrossOf(v), to: deep(v, through) }]
}

/** A hole for a dowel pin. */
export const pinHole = defineShape({
  kind: 'pin-hole',
  label: 'hole for a pin',
  words: ['dowel hole', 'dowel pin hole', 'dowel pin', 'parallel pin'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M13 14 V6 A3 1.3 0 0 1 19 6 V14 A3 1.3 0 0 1 13 14',
  operation: 'cut',
  seat: 'enters',
  fields: {
    item: itemField('Pin', ['pin'], 'iso-2338 ⌀ 4'),
    gap: gapField('press'),
    reach: reachField,
    depth: depthField,
  },
  quick: ['item', { field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => ['hole for', { field: 'item' }, ', gap', { field: 'gap' }, ',', ...reachWords(v)],
  impossible: (v) =>
    acrossOf(v) <= 0 ? { field: 'gap', detail: 'With that gap there would be no hole left.' } : undefined,
  box: (v, through) => turnedBox(stretchesOf(v, through)),
  reach: (v, d) => discReach(acrossOf(v) / 2, 0, d),
  surfaces: (v) => turnedSurfaces(stretchesOf(v, v.depth), v.reach === 'through'),
  upTo: deepened,
  held: (v, through) => ({
    ...{ item: v.item, frame: below(-(v.item.sizes.headHeight ?? 0)) },
    ...{ length: deep(v, through), pressed: pressedBy(v.gap), way: 'above' },
  }),
  dimensions: (v) => {
    if (v.reach !== 'blind') return []
    const x = acrossOf(v) / 2
    return [{ kind: 'linear', field: 'depth', from: [x, 0, 0], to: [x, 0, -v.depth], offset: [1, 0, 0] }]
  },
  solid: (v, context) => turnedHole(stretchesOf(v, context.through), context),
})
