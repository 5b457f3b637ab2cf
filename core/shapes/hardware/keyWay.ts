import { size } from '../../fields/index.ts'
import { type Item, itemsFor } from '../../hardware/index.ts'
import type { Ring } from '../../kernel/index.ts'
import { world } from '../../place/index.ts'
import { defineShape, discReach } from '../define.ts'
import { topFace } from '../faces.ts'
import { extruded } from '../prismatic.ts'
import { stadium } from '../stadium.ts'
import { surfacesOf } from '../surfaces.ts'
import { gapField, itemField } from './fields.ts'
import { type OnRound, onIts, roundFields } from './roundFields.ts'

interface Values extends OnRound {
  readonly item: Item
  readonly gap: number
  readonly length: number
  readonly ends: 'round' | 'square'
}

function waySizes({ item: { sizes }, gap, round, on }: Values) {
  const width = sizes.width! + 2 * gap
  // At its sides a bore stands above the middle, where its depth is measured.
  const rise = on === 'inside' ? round / 2 - Math.sqrt(Math.max(0, round ** 2 - width ** 2)) / 2 : 0
  return { width, deep: on === 'outside' ? sizes.inShaft! : sizes.inHub!, rise }
}

const isFor = ({ sizes }: Item, round: number) => round > sizes.shaftFrom! - 1e-9 && round <= sizes.shaftTo! + 1e-9

/** The key of the standard for a shaft of this diameter, or the one for the nearest. */
function keyFor(round: number): Item {
  const off = ({ sizes }: Item) => Math.max(sizes.shaftFrom! - round, round - sizes.shaftTo!)
  return itemsFor(['key']).toSorted((a, b) => off(a) - off(b))[0]!
}

const shown = (mm: number) => Number(mm.toFixed(2))

/** A way for a key along a round: in a shaft, or in the bore of what sits on it. */
export const keyWay = defineShape({
  kind: 'key-way',
  label: 'way for a key',
  words: ['key', 'keyway', 'keyseat', 'key slot', 'parallel key'],
  shelf: 'holes',
  icon: 'M3 12 A9 9 0 0 1 21 12 A9 9 0 0 1 3 12 M3 12 A9 9 0 0 0 9 20.5 M15 20.5 A9 9 0 0 0 21 12 M9.5 3.4 V7 H14.5 V3.4 M14.5 3.4 L20 1.5 M21 12 L28 9.5',
  operation: 'cut',
  seat: 'enters',
  roundOnly: true,
  fields: {
    item: itemField('Key', ['key'], 'din-6885-1 6 × 6'),
    gap: { ...gapField('snug_flat'), meaning: 'Gap to the key on each of its sides: the name of a fit, or a size.' },
    length: size('Length', '20', 'Length along the axis.'),
    ends: {
      kind: 'choice',
      label: 'Ends',
      default: 'round',
      choices: { round: 'rounded', square: 'square' },
      meaning: 'The form of its two ends: square where it goes out of the end of the round.',
    },
    ...roundFields('20'),
  },
  quick: ['item', 'length'],
  onRound: (diameter, { across, inside, chosen }): Record<string, string> => ({
    round: diameter,
    ...(inside ? { on: 'inside', ends: 'square' } : { on: 'outside' }),
    ...(chosen ? {} : { item: keyFor(across).id }),
  }),
  fitted: onIts,
  sentence: () => [
    'way for',
    { field: 'item' },
    ', gap',
    { field: 'gap' },
    ',',
    { field: 'length' },
    'long with ends',
    { field: 'ends' },
  ],
  impossible(v) {
    const { width } = waySizes(v)
    if (width <= 0) return { field: 'gap', detail: 'With that gap there would be no way left.' }
    return v.ends === 'round' && v.length < width
      ? {
          field: 'length',
          detail: `Rounded ends need a length of at least its width, ${shown(width)} mm.`,
          nearest: { field: 'length', value: Math.ceil(100 * width) / 100 },
        }
      : undefined
  },
  unfit({ item, round, on }) {
    if (isFor(item, round)) return undefined
    const nearest = keyFor(round)
    const where = on === 'outside' ? 'shafts' : 'bores'
    return {
      field: 'item',
      detail: `It is for ${where} over ${item.sizes.shaftFrom} and up to ${item.sizes.shaftTo} mm; this one is ⌀ ${shown(round)}.`,
      ...(nearest.id !== item.id && { instead: { field: 'item', text: nearest.id, shown: nearest.label } }),
    }
  },
  box(v) {
    const { width, deep, rise } = waySizes(v)
    return { min: [-width / 2, -v.length / 2, -deep], max: [width / 2, v.length / 2, rise] }
  },
  reach: (v, d) => (v.ends === 'round' ? discReach(waySizes(v).width / 2, 0, d) : 0) + endReach(v, d[1]),
  surfaces(v) {
    const { width, deep } = waySizes(v)
    return surfacesOf([topFace(-deep, width, v.length, 'floor'), { name: 'sides' }, { name: 'mouth' }], {
      within: true,
      at: (_, normal) => (normal[2] < -0.999 ? 'floor' : normal[2] > 0.999 ? 'mouth' : 'sides'),
    })
  },
  // A key lies in two ways: it is the shaft's.
  held: ({ item, length, on }) =>
    on === 'outside' ? { item, frame: world, length, bought: length, pressed: 0, way: 'above' } : undefined,
  dimensions: () => [],
  solid(v, { scope, fineness, overlap }) {
    const { width, deep, rise } = waySizes(v)
    const [x, y] = [width / 2, v.length / 2]
    const square: Ring = [
      [-x, -y],
      [x, -y],
      [x, y],
      [-x, y],
    ]
    // A stadium lies from left to right; a way runs along the axis.
    const ring = (): Ring =>
      v.ends === 'square' ? square : stadium(v.length, width, fineness, true).map(([a, b]) => [-b, a] as const)
    return extruded(scope, { low: -deep, high: rise + overlap, rings: () => [ring()] })
  },
})

/** How far the middles of its ends, or its ends, lie along a direction. */
function endReach(v: Values, y: number): number {
  const { width } = waySizes(v)
  return Math.abs(y) * (v.ends === 'round' ? (v.length - width) / 2 : v.length / 2)
}
