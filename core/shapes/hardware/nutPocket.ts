import { clearanceHole, type Item, sidesOf as sidesBy } from '../../hardware/index.ts'
import { circumradius, type Ring, segmentsFor } from '../../kernel/index.ts'
import { defineShape, discReach } from '../define.ts'
import { roundFace, topFace } from '../faces.ts'
import { extruded, regularCorners } from '../prismatic.ts'
import { surfacesOf } from '../surfaces.ts'
import { bridgedOver, withBridge } from './bridged.ts'
import { below, gapField, type Hanging, hangFields, itemField, pressedBy, sunkField } from './fields.ts'

interface Values extends Hanging {
  readonly item: Item
  readonly gap: number
  readonly from: 'face' | 'side' | 'closed'
  readonly sunk: number
  readonly out: number
  readonly screw: 'through' | 'none'
}

const sidesOf = ({ family }: Item) => sidesBy(family)
/** From its axis to its corners, as a share of half of its width across flats. */
const toCorner = (item: Item) => 1 / Math.cos(Math.PI / sidesOf(item))

function sizesOf({ item, gap, sunk, from, screw }: Values) {
  const flats = item.sizes.flats! + 2 * gap
  const corner = (flats / 2) * toCorner(item)
  // What slides in from the side, or is covered, needs room above itself as well.
  const height = item.sizes.height! + (from === 'face' ? 0 : Math.max(0, gap))
  const hole = screw === 'through' ? clearanceHole({ thread: item.sizes.thread! }, 'normal') : undefined
  return { flats, corner, deep: sunk + height, hole: hole ?? 0 }
}

/** How wide its screw's hole is; where that is cut by something else, it is as wide. */
function acrossOf(v: Values): number {
  const thread = v.item.sizes.thread!
  return sizesOf(v).hole || (clearanceHole({ thread }, 'normal') ?? thread)
}

/** Its flats run the way that it slides in: to the right. */
function outlineOf(v: Values): Ring {
  const { corner } = sizesOf(v)
  const square = sidesOf(v.item) === 4
  return regularCorners(sidesOf(v.item), corner, square ? 45 : 0)
}

/** A pocket that holds a nut, so that it need not be held while its screw is turned. */
export const nutPocket = defineShape({
  kind: 'nut-pocket',
  label: 'pocket for a nut',
  words: ['nut', 'nut pocket', 'nut trap', 'captive nut', 'nut slot'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M10.5 14 L13 12 H19 L21.5 14 L19 16 H13 Z M14 14 A2 0.9 0 0 1 18 14 A2 0.9 0 0 1 14 14',
  operation: 'cut',
  seat: 'enters',
  fields: {
    item: itemField('Nut', ['nut'], 'iso-4032 M4'),
    gap: gapField('snug_flat'),
    from: {
      kind: 'choice',
      label: 'Open',
      default: 'face',
      choices: { face: 'to the face', side: 'to the right-hand side', closed: 'to no side' },
      meaning:
        'The nut goes in from the face, or through a slot below it, in which it slides to where the screw is; open to no side, it is put in while the print pauses.',
    },
    sunk: sunkField(
      '0',
      'How far the top of the nut lies below the face; of one that slides in or is covered, how much is above it.',
    ),
    out: {
      kind: 'length',
      label: 'Way in',
      default: '20',
      above: 0,
      most: 10_000,
      meaning: 'How far from the axis of the screw the slot ends: out of the side of what it is cut into.',
    },
    screw: {
      kind: 'choice',
      label: 'Screw',
      default: 'through',
      choices: { through: 'with a hole for its screw', none: 'without a hole for its screw' },
      meaning: 'Whether the screw’s own hole is cut as well, by the normal clearance of ISO 273.',
    },
    ...hangFields,
  },
  quick: ['item', 'gap'],
  sentence: ({ from, screw }) => [
    'pocket for',
    { field: 'item' },
    ', gap',
    { field: 'gap' },
    ', open',
    { field: 'from' },
    ', its top',
    { field: 'sunk' },
    'below the face',
    ...(from === 'side' ? [', the slot', { field: 'out' }, 'long from the axis'] : []),
    ',',
    { field: 'screw' },
    ...(screw === 'through' ? [', printed', { field: 'hang' }] : []),
  ],
  impossible(v) {
    const { flats, corner } = sizesOf(v)
    const [own, item] = [v.item.sizes.flats!, v.item.label]
    if (flats <= 0) return { field: 'gap', detail: 'With that gap there would be no pocket left.' }
    const most = (own * (toCorner(v.item) - 1)) / 2
    if (v.gap >= most)
      return {
        field: 'gap',
        detail: `With that gap the ${item} turns in its pocket; it is held by less than ${rounded(most)} mm on each side.`,
        nearest: { field: 'gap', value: rounded(most / 2) },
      }
    if (v.from === 'side' && v.out <= corner)
      return {
        field: 'out',
        detail: `The slot must go on past the nut, whose corners reach ${rounded(corner)} mm out.`,
        nearest: { field: 'out', value: Math.ceil(2 * corner) },
      }
    if (v.from === 'closed' && v.sunk <= 0)
      return {
        field: 'sunk',
        detail: 'Nothing would cover it; the nut must lie deeper.',
        nearest: { field: 'sunk', value: 1 },
      }
    if (v.screw === 'through' && sizesOf(v).hole === 0)
      return { field: 'screw', detail: `No table says how wide the hole for the screw of ${item} is.` }
    return undefined
  },
  box(v, through) {
    const { flats, corner, deep, hole } = sizesOf(v)
    const x = sidesOf(v.item) === 4 ? flats / 2 : corner
    const right = v.from === 'side' ? Math.max(x, v.out) : x
    const top = v.from !== 'face' && hole === 0 ? -v.sunk : 0
    return { min: [-x, -flats / 2, -Math.max(deep, hole > 0 ? through : 0)], max: [right, flats / 2, top] }
  },
  reach: (v, d) => discReach(sizesOf(v).flats / 2, 0, d),
  surfaces(v) {
    const { flats, deep, hole } = sizesOf(v)
    const floor = topFace(-deep, flats, flats, 'floor')
    const isSlot = v.from === 'side'
    const isCovered = v.from !== 'face'
    const screw =
      hole > 0
        ? [
            roundFace(
              'wall',
              -hole / 2,
              ...(isCovered && v.sunk > 0 ? ([-v.sunk, 0] as const) : ([-deep - 1, -deep] as const)),
            ),
          ]
        : []
    const names = ['flats', 'mouth', 'bottom', ...(isCovered ? ['roof'] : []), ...(isSlot ? ['way in'] : [])].map(
      (name) => ({ name }),
    )
    const plain = surfacesOf([floor, ...screw, ...names], {
      within: true,
      at(p, normal) {
        if (normal[2] > 0.999) return isCovered && p[2] < 0.01 - v.sunk && v.sunk > 0 ? 'roof' : 'mouth'
        if (normal[2] < -0.999) return p[2] < -deep - 0.01 ? 'bottom' : 'floor'
        if (isSlot && normal[0] > 0.999 && p[0] > v.out - 0.01) return 'way in'
        return hole > 0 && Math.hypot(p[0], p[1]) < hole / 2 + 0.1 ? 'wall' : 'flats'
      },
    })
    return v.hang === 'bridged' ? withBridge(plain, { across: acrossOf(v), depth: deep, layer: v.layer }) : plain
  },
  held: ({ item, gap, from, sunk }) => ({
    ...{ item, frame: below(sunk + (from === 'face' ? 0 : Math.max(0, gap))), pressed: pressedBy(gap) },
    room: Math.max(0, gap),
    way: from === 'face' ? 'above' : from === 'side' ? 'side' : 'closed in',
  }),
  dimensions: () => [],
  solid(v, { scope, fineness, through, overlap }) {
    const { flats, deep, hole } = sizesOf(v)
    const isSlot = v.from === 'side'
    // A slot right under the face is open to it.
    const top = v.from !== 'face' && v.sunk > 0 ? -v.sunk : overlap
    const between = (rings: readonly Ring[], low: number, high: number) =>
      extruded(scope, { low, high, rings: () => rings })
    const bodies = [between([outlineOf(v)], -deep, top)]
    if (isSlot) {
      const slot: Ring = [
        [0, -flats / 2],
        [v.out, -flats / 2],
        [v.out, flats / 2],
        [0, flats / 2],
      ]
      bodies.push(between([slot], -deep, top))
    }
    if (hole > 0) {
      const segments = segmentsFor(hole / 2, fineness, true)
      const ring = regularCorners(segments, circumradius(hole / 2, segments), 0)
      bodies.push(between([ring], -Math.max(through, deep + 1), overlap))
    }
    if (v.hang === 'bridged') {
      const wide = acrossOf(v)
      const across = 2 * circumradius(wide / 2, segmentsFor(wide / 2, fineness, true))
      const mouth = [sizesOf(v).corner, flats / 2] as const
      bodies.push(...bridgedOver(scope, { mouth, outline: outlineOf(v) }, { across, depth: deep, layer: v.layer }))
    }
    return bodies.length > 1 ? scope.union(bodies) : bodies[0]!
  },
})

function rounded(mm: number): number {
  return Math.floor(mm * 1000) / 1000
}
