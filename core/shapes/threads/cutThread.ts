import { size } from '../../fields/index.ts'
import { type Item, itemsFor } from '../../hardware/index.ts'
import type { Frame } from '../../place/index.ts'
import { defineShape } from '../define.ts'
import { type OnRound, onIts, roundFields } from '../hardware/roundFields.ts'
import { surfacesOf } from '../surfaces.ts'
import { impossibleThread, sectionOf, type ThreadValues, threadFields, threadSizes, threadWords } from './fields.ts'
import { helixOf, type Limit } from './helical.ts'
import { woundSleeve, woundSolid } from './wound.ts'

interface Values extends ThreadValues, OnRound {
  readonly length: number
  readonly upper: End
  readonly lower: End
}
type End = 'led' | 'run' | 'plain'

const ends = { led: 'led in', run: 'running out', plain: 'cut off square' }

/** A thread cut into a round face: into a bar as a die does, or into a bore as a tap does. */
export const cutThread = defineShape({
  kind: 'cut-thread',
  label: 'cut thread',
  words: ['thread', 'die', 'thread on a bar', 'thread in a bore', 'thread on a face'],
  shelf: 'machine',
  icon: 'M9 4 V20 A7 2.6 0 0 0 23 20 V4 A7 2.6 0 0 0 9 4 A7 2.6 0 0 0 23 4 M8 11 L24 8.5 M8 14.5 L24 12 M8 18 L24 15.5',
  operation: 'cut',
  seat: 'enters',
  mates: /^thread$/,
  fields: {
    ...threadFields('0'),
    ...roundFields('8'),
    length: size('Length', '12', 'Length along the axis.'),
    upper: {
      kind: 'choice',
      label: 'Upper end',
      default: 'led',
      choices: ends,
      meaning: 'Led in by a bevel of 45°, running out to the full diameter, or cut off square.',
    },
    lower: {
      kind: 'choice',
      label: 'Lower end',
      default: 'run',
      choices: ends,
      meaning: 'Led in by a bevel of 45°, running out to the full diameter, or cut off square.',
    },
  },
  quick: ['item', 'length'],
  roundOnly: true,
  onRound: (diameter, { across, inside, chosen }): Record<string, string> => ({
    round: diameter,
    on: inside ? 'inside' : 'outside',
    // As with a threaded hole, what goes round the other has the gap.
    ...(inside && { gap: 'slide' }),
    ...(chosen ? {} : startingWith(across, inside)),
  }),
  fitted: onIts,
  sentence: (v) => [
    'groove of',
    ...threadWords(v),
    ',',
    { field: 'length' },
    'long,',
    { field: 'upper' },
    'above,',
    { field: 'lower' },
    'below',
  ],
  impossible(v) {
    const own = impossibleThread(v, v.on)
    if (own) return own
    const { inner, outer, lead } = threadSizes(v, v.on)
    const bevels = [v.upper, v.lower].filter((end) => end !== 'plain').length
    const shortest = Math.ceil(100 * (lead / v.starts + bevels * (outer - inner + spare))) / 100
    if (v.length < shortest)
      return {
        field: 'length',
        detail: `Too short for one whole turn of its ridge with its ends: ${shortest} mm or more.`,
        nearest: { field: 'length', value: shortest },
      }
    return undefined
  },
  unfit(v) {
    const [least, most] = fittingRounds(v)
    const fits = (item: Item) => isWithin(v.round, fittingRounds({ ...v, item }))
    const shown = (mm: number) => Number(mm.toFixed(2))
    if (!isWithin(v.round, [least, most])) {
      const nearest = v.size === 'listed' ? fittingItem(v, v.round) : undefined
      const wide = `${shown(least)} to ${shown(most)} mm`
      return {
        field: v.size === 'listed' ? 'item' : 'diameter',
        detail:
          v.on === 'outside'
            ? `It is cut into a bar of ${wide}; this one is ⌀ ${shown(v.round)}.`
            : `It is cut into a bore of ${wide}; this one is ⌀ ${shown(v.round)}.`,
        ...(nearest && fits(nearest) && { instead: { field: 'item', text: nearest.id, shown: nearest.label } }),
        ...(v.size === 'own' && { nearest: { field: 'diameter', value: ownDiameter(v) } }),
      }
    }
    return undefined
  },
  box: (v) => {
    const far = aroundOf(v)
    const [axis, y] = [axisOf(v), v.length / 2]
    return { min: [-far, -y, axis - far], max: [far, y, axis + far] }
  },
  // As it is placed: by its middle, and by its ends along the axis.
  reach: (v, [, y]) => (Math.abs(y) * v.length) / 2,
  surfaces: (v) => {
    const axis = axisOf(v)
    return surfacesOf([{ name: 'thread' }, { name: 'end' }, { name: 'round' }], {
      at([x, , z], [a, b, c]) {
        if (Math.abs(b) > 0.999) return 'end'
        const far = Math.hypot(x, z - axis)
        return v.on === 'outside' && far > aroundOf(v) - 1e-3 && (a * x + c * (z - axis)) / far > 0 ? 'round' : 'thread'
      },
    })
  },
  isUneven: () => true,
  dimensions: () => [],
  solid(v, context) {
    const { fineness, overlap, scope } = context
    const section = sectionOf(v, v.on, fineness)!
    const half = v.length / 2
    const [low, high] = [-half - overlap, half + overlap]
    const { under, over } = limitsOf(v, { inner: section.inner, outer: section.outer })
    const winding = helixOf({ section, starts: v.starts, hand: v.hand, low, high, gauge: 0, under, over, fineness })
    const wound =
      v.on === 'outside' ? woundSleeve(winding, aroundOf(v) + 2 * overlap, context) : woundSolid(winding, context)
    const lying: Frame = { origin: [0, 0, axisOf(v)], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] }
    return scope.placed(wound, lying)
  },
})

/** A bevel begins so far off the ridges, mm. */
const spare = 0.1
const hardly = 1e-6

/** The axis lies below a bar's seat, and above a bore's. */
const axisOf = ({ on, round }: Values) => (on === 'outside' ? -round / 2 : round / 2)

/** What reaches out farthest: the bar that is cut, or the thread in a bore with its lead-in. */
function aroundOf(v: Values): number {
  const { outer } = threadSizes(v, v.on)
  if (v.on === 'outside') return Math.max(v.round / 2, outer)
  return v.upper === 'led' || v.lower === 'led' ? outer + spare : outer
}

function limitsOf(v: Values, { inner, outer }: { readonly inner: number; readonly outer: number }) {
  const [under, over]: [Limit[], Limit[]] = [[], []]
  const half = v.length / 2
  for (const [end, z, out] of [
    [v.upper, half, 1],
    [v.lower, -half, -1],
  ] as const) {
    if (end === 'plain') continue
    const opens = (end === 'led') === (v.on === 'inside')
    // Towards an end that opens the radius grows, towards another one it shrinks.
    if (opens) over.push({ z, radius: v.on === 'inside' ? outer + spare : Math.max(outer, v.round / 2), slope: out })
    else under.push({ z, radius: v.on === 'outside' ? inner - spare : Math.min(inner, v.round / 2), slope: -out })
  }
  return { under, over }
}

/** Bars that a thread can be cut into have two thirds of its ridges, and not more than half of its depth to spare; bores the other way. */
function fittingRounds(v: Values): readonly [number, number] {
  const { inner, outer } = threadSizes(v, v.on)
  const deep = outer - inner
  return v.on === 'outside'
    ? [2 * (outer - deep / 3), 2 * (outer + deep / 2)]
    : [2 * (inner - deep / 2), 2 * (inner + deep / 3)]
}

function isWithin(round: number, [least, most]: readonly [number, number]): boolean {
  return round > least - hardly && round < most + hardly
}

function ownDiameter(v: Values): number {
  const { inner, outer } = threadSizes(v, v.on)
  const by = v.on === 'outside' ? v.round - 2 * outer : v.round - 2 * inner
  return Math.round(1000 * (v.diameter + by)) / 1000
}

/** Of the series of the item that is there, or else of the first one, the size whose ridges come to a round. */
function fittingItem(v: Pick<Values, 'on' | 'item'>, round: number): Item | undefined {
  const { family } = v.item
  return nearestTo(
    itemsFor(['thread']).filter((item) => item.family === family),
    round,
    v.on === 'inside',
  )
}

function nearestTo(items: readonly Item[], round: number, inside: boolean): Item | undefined {
  const off = ({ sizes, family }: Item) => {
    const own = { thread: sizes.thread!, pitch: sizes.pitch!, ...(sizes.root && { root: sizes.root }) }
    return Math.abs(round - (inside ? family.form!.inside(own).root : family.form!.outside(own).crest))
  }
  return items.toSorted((a, b) => off(a) - off(b))[0]
}

/** What is proposed on a round: the coarse thread of that size, or one of its own where no table has it. */
function startingWith(round: number, inside: boolean): Record<string, string> {
  const item = nearestTo(itemsFor(['thread']), round, inside)
  if (!item) return {}
  const half = item.family.form![inside ? 'inside' : 'outside'](item.sizes as never)
  const [at, deep] = [inside ? half.root : half.crest, half.crest - half.root]
  if (Math.abs(at - round) < deep / 6) return { item: item.id }
  const pitch = Math.max(0.5, Math.round(round / 8) / 2)
  const diameter = inside ? Math.round(100 * (round + 1.0825 * pitch)) / 100 : round
  return { size: 'own', diameter: `${diameter} mm`, pitch: `${pitch} mm` }
}
