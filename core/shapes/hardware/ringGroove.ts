import { type Item, itemsFor } from '../../hardware/index.ts'
import { world } from '../../place/index.ts'
import { defineShape } from '../define.ts'
import { gapField, itemField } from './fields.ts'
import { type Groove, grooveBox, grooveReach, grooveSolid, grooveSurfaces, isGroove } from './grooved.ts'
import { type OnRound, onIts, roundFields } from './roundFields.ts'

interface Values extends OnRound {
  readonly item: Item
  readonly gap: number
}

const kindOn = (on: OnRound['on']) => (on === 'outside' ? ('shaft ring' as const) : ('bore ring' as const))

function grooveOf({ round, on, item: { sizes }, gap }: Values): Groove {
  return { round, on, floor: sizes.groove!, width: sizes.grooveWidth! + 2 * gap }
}

/** Of the rings for bars or for bores the one whose diameter is nearest. */
function ringFor(on: OnRound['on'], round: number): Item {
  const off = ({ sizes }: Item) => Math.abs(sizes.diameter! - round)
  return itemsFor([kindOn(on)]).toSorted((a, b) => off(a) - off(b))[0]!
}

/** A ring fits what is off its diameter by less than this share of the groove's depth. */
const near = 0.5
const shown = (mm: number) => Number(mm.toFixed(2))

/** A groove that a retaining ring snaps into, round a bar or inside a bore. */
export const ringGroove = defineShape({
  kind: 'ring-groove',
  label: 'groove for a ring',
  words: ['circlip', 'circlip groove', 'retaining ring', 'retaining ring groove', 'snap ring', 'snap ring groove'],
  shelf: 'holes',
  icon: 'M9 4 V9 M23 4 V9 M9 4 A7 2.4 0 0 0 23 4 A7 2.4 0 0 0 9 4 M9 9 A7 2.4 0 0 0 23 9 M11 10.5 V13 M21 10.5 V13 M9 13.5 A7 2.4 0 0 0 23 13.5 M9 13.5 V20 A7 2.4 0 0 0 23 20 V13.5',
  operation: 'cut',
  seat: 'enters',
  roundOnly: true,
  fields: {
    item: itemField('Ring', ['shaft ring', 'bore ring'], 'din-471 ⌀ 20'),
    gap: { ...gapField('0'), least: 0, meaning: 'Added to the width of the groove on each side: a fit, or a size.' },
    ...roundFields('20'),
  },
  quick: ['item', 'gap'],
  onRound: (diameter, { across, inside, chosen }): Record<string, string> => {
    const on = inside ? 'inside' : 'outside'
    return { round: diameter, on, ...(chosen ? {} : { item: ringFor(on, across).id }) }
  },
  fitted: onIts,
  sentence: () => ['groove for', { field: 'item' }, ', gap', { field: 'gap' }],
  impossible: (v) =>
    isGroove(grooveOf(v))
      ? undefined
      : { field: 'item', detail: `The groove of a ${v.item.label} isn’t in that round.` },
  unfit(v) {
    const { family, label, sizes } = v.item
    const [diameter, groove] = [sizes.diameter!, sizes.groove!]
    const nearest = ringFor(v.on, v.round)
    const instead = { instead: { field: 'item', text: nearest.id, shown: nearest.label } }
    const where = v.on === 'outside' ? 'a bar' : 'a bore'
    if (family.kind !== kindOn(v.on)) return { field: 'item', detail: `A ${label} doesn't go on ${where}.`, ...instead }
    if (Math.abs(v.round - diameter) <= (near * Math.abs(diameter - groove)) / 2 + 1e-9) return undefined
    return {
      field: 'item',
      detail: `It is for ${where} of ⌀ ${shown(diameter)}; this one is ⌀ ${shown(v.round)}.`,
      ...(nearest.id !== v.item.id && instead),
    }
  },
  box: (v) => grooveBox(grooveOf(v)),
  reach: (v, d) => grooveReach(grooveOf(v), d),
  surfaces: (v) => grooveSurfaces(grooveOf(v)),
  held: ({ item }) => ({ item, frame: world, pressed: 0, way: 'above' }),
  dimensions: () => [],
  solid: (v, context) => grooveSolid(grooveOf(v), context),
})
