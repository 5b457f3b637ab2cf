import {
  clearanceHole,
  clearances,
  type Family,
  type Item,
  looseHole,
  pitchDiameter,
  wrench,
} from '../../hardware/index.ts'
import { circumradius, segmentsFor } from '../../kernel/index.ts'
import { defineShape, discReach } from '../define.ts'
import { regularCorners } from '../prismatic.ts'
import { deep, deepened, depthField, reachField, reachWords, type Sunk } from '../sunk.ts'
import { bridgedOver, withBridge } from './bridged.ts'
import { below, type Hanging, hangFields, headFields, itemField } from './fields.ts'
import { type Stretch, turnedBox, turnedHole, turnedSurfaces } from './turned.ts'

interface Values extends Sunk, Hanging {
  readonly item: Item
  readonly way: 'close' | 'normal' | 'loose' | 'tapped' | 'formed'
  readonly seat: 'none' | 'seated'
  readonly sunk: number
}

/**
 * What the screw goes through, or is cut into: ISO 2306 drills a thread's diameter less its pitch. What forms its own thread goes
 * into a hole as wide as the middle of its ridges, or of its core and a third of them where no pitch is known: rules of thumb.
 */
function bore({ item: { sizes, family }, way }: Values): number | undefined {
  const thread = sizes.thread!
  if (way === 'tapped') return isForming(family) ? undefined : thread - sizes.pitch!
  if (way === 'formed')
    return sizes.core ? sizes.core + (thread - sizes.core) / 3 : pitchDiameter({ thread, pitch: sizes.pitch! })
  return isForming(family) ? looseHole({ thread }, way) : clearanceHole({ thread }, way)
}

/** It forms its own thread: no tap is made for it. */
const isForming = ({ columns }: Family) => 'core' in columns

/** From the face down: where its head goes, and the hole. Its head lies as far below the face as it says. */
function stretchesOf(v: Values, through: number): readonly Stretch[] {
  const across = bore(v) ?? v.item.sizes.thread!
  const wall = { name: 'wall', across, to: deep(v, through) }
  if (v.seat === 'none') return [wall]
  const { head, flats, headHeight, thread } = v.item.sizes
  const room = across - thread!
  if (isCone(v.item)) {
    const mouth = head! + room
    const cone = { name: 'countersink', across: mouth, narrows: across, to: v.sunk + (mouth - across) / 2 }
    return v.sunk > 0 ? [{ name: 'counterbore', across: mouth, to: v.sunk }, cone, wall] : [cone, wall]
  }
  const counterbore = flats === undefined ? head! + room : wrench * flats
  return [{ name: 'counterbore', across: counterbore, to: v.sunk + headHeight! }, wall]
}

/** Whether its head lies in a counterbore, on a ledge. */
const isCounterbored = ({ seat, item }: Pick<Values, 'seat' | 'item'>) => seat === 'seated' && !isCone(item)

const isCone = ({ family }: Item) => family.isCountersunk === true

const told = (mm: number) => Math.round(mm * 100) / 100

/** A hole that a screw goes through, or that its thread is cut into, with room for its head. */
export const screwHole = defineShape({
  kind: 'screw-hole',
  label: 'hole for a screw',
  words: ['screw', 'bolt', 'machine screw', 'screw clearance'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M11 14 A5 2.2 0 0 1 21 14 A5 2.2 0 0 1 11 14 M13.5 14 A2.5 1.1 0 0 1 18.5 14 A2.5 1.1 0 0 1 13.5 14',
  operation: 'cut',
  seat: 'enters',
  fields: {
    item: itemField('Screw', ['screw', 'set screw'], 'iso-4762 M4'),
    way: {
      kind: 'choice',
      label: 'Clearance',
      default: 'normal',
      choices: {
        close: 'close clearance',
        normal: 'normal clearance',
        loose: 'loose clearance',
        tapped: 'drilled for a tap',
        formed: 'for a thread that the screw forms',
      },
      meaning:
        'Clearance by ISO 273 or ASME B18.2.8, the drill for its thread by ISO 2306, or as wide as the middle of its ridges where it forms its thread in plastic.',
    },
    ...headFields,
    reach: reachField,
    depth: depthField,
    ...hangFields,
  },
  quick: ['item', { field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => [
    'hole for',
    { field: 'item' },
    ',',
    { field: 'way' },
    ', its head',
    { field: 'seat' },
    ...(v.seat === 'seated' ? [',', { field: 'sunk' }, 'below it'] : []),
    ',',
    ...reachWords(v),
    ...(isCounterbored(v) ? [', printed', { field: 'hang' }] : []),
  ],
  impossible(v) {
    const { item, seat } = v
    if (seat === 'seated' && item.family.kind === 'set screw')
      return { field: 'seat', detail: `A ${item.family.label} has no head; it lies nowhere but in its hole.` }
    if (v.way === 'tapped' && isForming(item.family))
      return {
        field: 'way',
        detail: 'This screw forms its own thread; no tap is made for it.',
        instead: { field: 'way', text: 'formed', shown: 'for a thread that the screw forms' },
      }
    if (bore(v) === undefined)
      return {
        field: 'way',
        detail: `No table says how wide the ${v.way} hole for ${item.label} is; ${clearances.join(', ')} are known of M1.6 to M20 and 1/4 to 1/2 in.`,
      }
    const [head, wall] = stretchesOf(v, 0).slice(-2)
    if (wall && v.reach !== 'through' && head!.to >= wall.to)
      return {
        field: 'depth',
        detail: `Its head alone goes ${told(head!.to)} mm deep; the hole must be deeper.`,
        nearest: { field: 'depth', value: Math.ceil(head!.to) + 1 },
      }
    return undefined
  },
  box: (v, through) => turnedBox(stretchesOf(v, through)),
  reach: (v, d) => discReach((bore(v) ?? v.item.sizes.thread!) / 2, 0, d),
  surfaces(v) {
    const stretches = stretchesOf(v, farDown)
    const plain = turnedSurfaces(stretches, v.reach === 'through')
    return isCounterbored(v) && v.hang === 'bridged'
      ? withBridge(plain, { across: stretches[1]!.across, depth: stretches[0]!.to, layer: v.layer })
      : plain
  },
  upTo: deepened,
  held(v, through) {
    const { item, seat, sunk, way } = v
    const { thread, headHeight = 0 } = item.sizes
    const across = bore(v) ?? thread!
    // With its head on the face it stands above that; a cone lies in the face all the same.
    const top = seat === 'seated' || item.family.kind === 'set screw' ? -sunk : isCone(item) ? 0 : headHeight
    const under = isCone(item) ? 0 : headHeight
    const length = deep(v, through) + top - under
    const bites = way === 'tapped' || way === 'formed'
    return {
      ...{ item, frame: below(-top), length, pressed: Math.max(0, (thread! - across) / 2), way: 'above' },
      ...(bites && { bites: { from: Math.max(headHeight, top), to: top + deep(v, through) } }),
    }
  },
  dimensions: (v) => {
    if (v.reach !== 'blind') return []
    const [x, z] = [(bore(v) ?? 0) / 2, -v.depth]
    return [{ kind: 'linear', field: 'depth', from: [x, 0, 0], to: [x, 0, z], offset: [1, 0, 0] }]
  },
  solid(v, context) {
    const stretches = stretchesOf(v, context.through)
    const hole = turnedHole(stretches, context)
    if (!isCounterbored(v) || v.hang === 'plain') return hole
    const { scope, fineness } = context
    const [head, wall] = stretches as readonly [Stretch, Stretch]
    const segments = segmentsFor(head.across / 2, fineness, true)
    const outline = regularCorners(segments, circumradius(head.across / 2, segments), 0)
    const mouth = [head.across / 2, head.across / 2] as const
    const across = 2 * circumradius(wall.across / 2, segments)
    return scope.union([hole, ...bridgedOver(scope, { mouth, outline }, { across, depth: head.to, layer: v.layer })])
  },
})
/** Where a through hole ends is not known to its surfaces; below all that its head needs, mm. */
const farDown = 1e4
