import { type Item, itemsFor } from '../../hardware/index.ts'
import { world } from '../../place/index.ts'
import { defineShape } from '../define.ts'
import { gapField, itemField } from './fields.ts'
import { type Groove, grooveBox, grooveReach, grooveSolid, grooveSurfaces, isGroove } from './grooved.ts'
import { type OnRound, onIts, roundFields } from './roundFields.ts'

interface Values extends OnRound {
  readonly item: Item
  readonly gap: number
  readonly squeeze: number
}

/** A groove is so much wider than the cord, for room when that is squeezed (ISO 3601-2: 1.3 to 1.5). */
const wider = 1.35
/** An O-ring is stretched by this much over the floor of a groove in a bar, or as it lies in a bore pressed together (ISO 3601-2). */
const stretches = { least: -0.01, most: 0.08 } as const
const pressed = { least: -0.03, most: 0.01 } as const

/** The cord, less what it is squeezed by, fills the groove and the gap between bar and bore. */
function grooveOf({ round, on, item: { sizes }, gap, squeeze }: Values): Groove {
  const room = sizes.cord! * (1 - squeeze)
  const floor = on === 'outside' ? round + 2 * gap - 2 * room : round - 2 * gap + 2 * room
  return { round, on, floor, width: wider * sizes.cord! }
}

/** By how much the ring is longer in its groove than by itself: on a bar its inside lies on the floor, in a bore its outside. */
function stretchOf(v: Values): number {
  const { inside, cord } = v.item.sizes as { inside: number; cord: number }
  const { floor } = grooveOf(v)
  return v.on === 'outside' ? floor / inside - 1 : floor / (inside + 2 * cord) - 1
}

function fits(v: Values): boolean {
  const { least, most } = v.on === 'outside' ? stretches : pressed
  const by = stretchOf(v)
  return by >= least && by <= most
}

/** The ring that lies best in a groove of this round: among those that fit the thickest, or else the one that is nearest to it. */
function ringFor(v: Omit<Values, 'item'>): Item {
  const all = itemsFor(['o-ring']).map((item) => ({ item, by: stretchOf({ ...v, item }), fits: fits({ ...v, item }) }))
  const best = v.on === 'outside' ? 0.03 : -0.01
  const thick = (item: Item) => Math.abs(item.sizes.cord! - v.round / 10)
  const good = all.filter((each) => each.fits).sort((a, b) => thick(a.item) - thick(b.item))
  return (good[0] ?? all.sort((a, b) => Math.abs(a.by - best) - Math.abs(b.by - best))[0]!).item
}

const percent = (share: number) => `${Number((100 * share).toFixed(1))} %`

/** A groove for an O-ring, round a bar that goes into a bore, or inside a bore that takes a bar. */
export const sealGroove = defineShape({
  kind: 'seal-groove',
  label: 'groove for an O-ring',
  words: ['o-ring', 'oring', 'o-ring groove', 'seal', 'seal groove', 'gland'],
  shelf: 'holes',
  icon: 'M9 4 V20 M23 4 V20 M9 4 A7 2.4 0 0 0 23 4 A7 2.4 0 0 0 9 4 M9 20 A7 2.4 0 0 0 23 20 M7.5 12 A8.5 3 0 0 0 24.5 12 M7.5 14.5 A8.5 3 0 0 0 24.5 14.5 M7.5 12 A1.4 1.4 0 0 0 7.5 14.5 M24.5 12 A1.4 1.4 0 0 1 24.5 14.5',
  operation: 'cut',
  seat: 'enters',
  roundOnly: true,
  fields: {
    item: itemField('O-ring', ['o-ring'], 'usual-o-ring 16 × 2'),
    gap: {
      ...gapField('slide'),
      least: 0,
      meaning: 'Gap between the bar and the bore that it seals, on each side: the name of a fit, or a size.',
    },
    squeeze: {
      kind: 'ratio',
      label: 'Squeeze',
      default: '0.2',
      least: 0.08,
      most: 0.35,
      meaning: 'How much thinner its cord is pressed: 0.1 to 0.2 where it moves, 0.15 to 0.3 where it rests.',
    },
    ...roundFields('20'),
  },
  quick: ['item', 'gap'],
  onRound: (diameter, { across, inside, chosen }): Record<string, string> => {
    const on = inside ? 'inside' : 'outside'
    const item = ringFor({ round: across, on, gap: 0.2, squeeze: 0.2 }).id
    return { round: diameter, on, ...(chosen ? {} : { item }) }
  },
  fitted: onIts,
  sentence: () => ['groove for', { field: 'item' }, ', gap', { field: 'gap' }, ', squeezed by', { field: 'squeeze' }],
  impossible(v) {
    const room = v.item.sizes.cord! * (1 - v.squeeze)
    if (v.gap >= room)
      return {
        field: 'gap',
        detail: 'The gap alone is as wide as its squeezed cord: there would be no groove.',
        nearest: { field: 'gap', value: Math.floor(50 * room) / 100 },
      }
    return isGroove(grooveOf(v)) ? undefined : { field: 'item', detail: 'Its groove would leave nothing of the bar.' }
  },
  unfit(v) {
    if (fits(v)) return undefined
    const nearest = ringFor(v)
    const by = stretchOf(v)
    const { least, most } = v.on === 'outside' ? stretches : pressed
    const done = by > 0 ? `stretched by ${percent(by)}` : `pressed together by ${percent(-by)}`
    const some = fits({ ...v, item: nearest })
    const none = some ? '' : ' No O-ring in the tables fits this round.'
    return {
      field: 'item',
      detail: `In this groove it would be ${done}; ${percent(least)} to ${percent(most)} will do.${none}`,
      ...(some && { instead: { field: 'item', text: nearest.id, shown: nearest.label } }),
    }
  },
  box: (v) => grooveBox(grooveOf(v)),
  reach: (v, d) => grooveReach(grooveOf(v), d),
  surfaces: (v) => grooveSurfaces(grooveOf(v)),
  held: ({ item }) => ({ item, frame: world, pressed: 0, way: 'above' }),
  dimensions: () => [],
  solid: (v, context) => grooveSolid(grooveOf(v), context),
})
