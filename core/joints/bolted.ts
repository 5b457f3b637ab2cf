import type { AnyValues } from '../fields/index.ts'
import { type Item, itemsFor, lengthFrom, lengthUpTo } from '../hardware/index.ts'
import type { Solid } from '../kernel/index.ts'
import { directionIn, type Frame, pointIn, world } from '../place/index.ts'
import {
  type HeldItem,
  hangFields,
  headFields,
  type ImpossibleBy,
  plainSurfaces,
  type ShapeContext,
  type ShapeDefinition,
  shapeOf,
  surfacesOf,
} from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { shown } from './words.ts'

interface Values {
  readonly item: Item
  readonly way: 'close' | 'normal' | 'loose'
  readonly seat: 'none' | 'seated'
  readonly sunk: number
  readonly first: number
  readonly second: number
  readonly end: 'pocket' | 'nut' | 'insert' | 'tapped' | 'formed'
  readonly nut: Item
  readonly insert: Item
  readonly gap: number
  readonly hang: 'plain' | 'bridged'
  readonly layer: number
}
type Field = 'item' | 'seat' | 'sunk' | 'first' | 'second' | 'nut' | 'insert' | 'end' | 'gap'

/** A nut is gone through by two pitches more, so that all of its thread bears: a rule of thumb. */
const pitchesOut = 2
/** In plastic a thread bites over so many times its diameter: a rule of thumb. */
const bites = 1.5
/** A blind hole goes on below the end of its screw, mm. */
const roomBelow = 1
const hardly = 1e-6

const unitOf = ({ family }: Item) => family.unit ?? 'mm'
const headOf = ({ item, seat, sunk }: Values) => {
  const { headHeight = 0 } = item.sizes
  if (item.family.isCountersunk) return { top: seat === 'seated' ? -sunk : 0, under: seat === 'seated' ? -sunk : 0 }
  return seat === 'seated' ? { top: -sunk, under: -sunk - headHeight } : { top: headHeight, under: 0 }
}
const gripOf = ({ first, second }: Values) => first + second

/** How deep the screw's end must come below the face at least, and may at most; mm. */
function reachOf(v: Values): { readonly least: number; readonly most: number } {
  const { thread, pitch = 0 } = v.item.sizes as { thread: number; pitch?: number }
  const far = Number.POSITIVE_INFINITY
  switch (v.end) {
    case 'pocket':
      return { least: gripOf(v), most: far }
    case 'nut':
      return { least: gripOf(v) + v.nut.sizes.height! + pitchesOut * pitch, most: far }
    case 'insert':
      return { least: v.first + Math.min(thread, v.insert.sizes.height!), most: v.first + v.insert.sizes.height! }
    default:
      return { least: v.first + bites * thread, most: gripOf(v) - roomBelow }
  }
}

/** The screw to take: the shortest that is sold and long enough, mm; undefined where it would come out too far, or none is sold. */
function lengthOf(v: Values): number | undefined {
  const { under } = headOf(v)
  const { least, most } = reachOf(v)
  const shortest = lengthFrom(least + under, unitOf(v.item))
  return shortest !== undefined && shortest - under <= most + hardly ? shortest : undefined
}

/** The far face, seen from there: its x is the joint's, its z points away from both pieces. */
const farFace = (v: Values): Frame => ({ origin: [0, 0, -gripOf(v)], u: [1, 0, 0], v: [0, -1, 0], n: [0, 0, -1] })
const between = (v: Values): Frame => ({ ...world, origin: [0, 0, -v.first] })

const screwHole = shapeOf('screw-hole')!
const nutPocket = shapeOf('nut-pocket')!
const insertHole = shapeOf('insert-hole')!

interface Hole {
  readonly shape: ShapeDefinition
  readonly values: AnyValues
  readonly sides: readonly (0 | 1)[]
  readonly at: Frame
}

/** What is cut, as holes of their own kinds: from which piece, where, and with which values. */
function holesOf(v: Values): readonly Hole[] {
  const { item, way, seat, sunk, end, hang, layer } = v
  const through = { item, way, seat, sunk, reach: 'blind', hang, layer }
  const both: readonly (0 | 1)[] = [0, 1]
  if (end === 'pocket' || end === 'nut') {
    const holes = [{ shape: screwHole, values: { ...through, depth: gripOf(v) + past }, sides: both, at: world }]
    if (end === 'nut') return holes
    const pocket = { item: v.nut, gap: v.gap, from: 'face', sunk: 0, out: 20, screw: 'none', hang, layer }
    return [...holes, { shape: nutPocket, values: pocket, sides: both, at: farFace(v) }]
  }
  const own = { shape: screwHole, values: { ...through, depth: v.first + past }, sides: [0] as const, at: world }
  const length = lengthOf(v)
  const end0 = length === undefined ? v.first : length - headOf(v).under
  const other: Pick<Hole, 'shape' | 'values'> =
    end === 'insert'
      ? {
          shape: insertHole,
          values: { item: v.insert, below: Math.max(roomBelow, end0 - v.first - v.insert.sizes.height! + roomBelow) },
        }
      : {
          shape: screwHole,
          values: { item, way: end, seat: 'none', sunk: 0, reach: 'blind', depth: end0 - v.first + roomBelow },
        }
  return [own, { ...other, sides: [1] as const, at: between(v) }]
}
/** Cuts go on past the face that they end at, mm. */
const past = 0.005

/** The item of a kind whose thread a screw has. */
function matching(kind: 'nut' | 'insert', { sizes }: Item, rather: Item): Item | undefined {
  const own = itemsFor([kind]).filter(
    (each) =>
      Math.abs(each.sizes.thread! - sizes.thread!) < hardly &&
      Math.abs(each.sizes.pitch! - (sizes.pitch ?? 0)) < hardly,
  )
  return own.find(({ family }) => family === rather.family) ?? own[0]
}

/** Two pieces held together by a screw along one axis: its head in the first one's face, and what it is screwed into in the second. */
export const bolted = defineJoint({
  kind: 'bolted',
  label: 'bolt through both',
  words: ['bolt', 'bolted', 'screw', 'screwed together', 'bolt through', 'screw through'],
  icon: 'M3 10 H13 V22 H3 Z M19 10 H29 V22 H19 Z M3 10 V14 H29 V10 M9 4 H23 V8 H9 Z M14 8 V21 M18 8 V21 M12 18 H20',
  comesApart: () => true,
  fields: {
    item: {
      kind: 'item',
      label: 'Screw',
      of: ['screw'],
      default: 'iso-4762 M4',
      meaning: 'The screw; its length follows.',
    },
    way: {
      kind: 'choice',
      label: 'Clearance',
      default: 'normal',
      choices: { close: 'close clearance', normal: 'normal clearance', loose: 'loose clearance' },
      meaning: 'Clearance by ISO 273 or ASME B18.2.8.',
    },
    ...headFields,
    first: {
      kind: 'length',
      label: 'Through the first',
      default: '8',
      above: 0,
      most: 1000,
      meaning: 'How thick the first piece is along the axis, from the face down.',
    },
    second: {
      kind: 'length',
      label: 'Through the second',
      default: '8',
      above: 0,
      most: 1000,
      meaning: 'How thick the second piece is along the axis, below the first.',
    },
    end: {
      kind: 'choice',
      label: 'Screwed into',
      default: 'pocket',
      choices: {
        pocket: 'a nut in a pocket',
        nut: 'a nut on the far face',
        insert: 'an insert in the second piece',
        tapped: 'a thread cut with a tap',
        formed: 'a thread that the screw forms',
      },
      meaning: 'What holds its thread.',
    },
    nut: { kind: 'item', label: 'Nut', of: ['nut'], default: 'iso-4032 M4', meaning: 'The nut.' },
    insert: { kind: 'item', label: 'Insert', of: ['insert'], default: 'usual-insert M4', meaning: 'The insert.' },
    gap: {
      kind: 'length',
      label: 'Gap',
      default: 'snug_flat',
      least: -1,
      most: 10,
      meaning: 'Gap to the nut in its pocket on each side: the name of a fit, or a size.',
    },
    ...hangFields,
  },
  sentence: ({ seat, end }) => [
    'bolt through both',
    ',',
    { field: 'item' },
    ',',
    { field: 'way' },
    ', its head',
    { field: 'seat' },
    ...(seat === 'seated' ? [',', { field: 'sunk' }, 'below it'] : []),
    ', through',
    { field: 'first' },
    'of the first and',
    { field: 'second' },
    'of the second, into',
    { field: 'end' },
    ...(end === 'pocket' ? [',', { field: 'nut' }, ', gap', { field: 'gap' }] : []),
    ...(end === 'nut' ? [',', { field: 'nut' }] : []),
    ...(end === 'insert' ? [',', { field: 'insert' }] : []),
    ', printed',
    { field: 'hang' },
  ],
  impossible(v): ImpossibleBy<Field> | undefined {
    for (const kind of ['nut', 'insert'] as const) {
      if (v.end !== kind && !(kind === 'nut' && v.end === 'pocket')) continue
      const own = v[kind]
      const fitting = matching(kind, v.item, own)
      if (fitting?.id === own.id) continue
      return {
        field: kind,
        detail: `The ${own.label} has another thread than the ${v.item.label}.`,
        ...(fitting && { instead: { field: kind, text: fitting.id, shown: fitting.label } }),
      }
    }
    const { under } = headOf(v)
    if (-under >= v.first - hardly)
      return {
        field: 'first',
        detail: `Its head alone goes ${shown(-under)} mm deep; the first piece must be thicker.`,
      }
    for (const { shape, values } of holesOf(v)) {
      const fault = shape.impossible?.(values)
      if (fault)
        return {
          field: fault.field in values && fault.field in fieldsHere ? (fault.field as Field) : 'end',
          detail: fault.detail,
        }
    }
    if (v.end === 'pocket' && v.nut.sizes.height! >= v.second - hardly)
      return {
        field: 'second',
        detail: `The pocket for the nut is ${shown(v.nut.sizes.height!)} mm deep; the second piece must be thicker.`,
      }
    if (lengthOf(v) === undefined) {
      const { least, most } = reachOf(v)
      if (!Number.isFinite(most))
        return { field: 'second', detail: `No screw that is sold ends ${shown(least)} mm below the face or farther.` }
      const longest = lengthUpTo(most + under, unitOf(v.item))
      const known = longest === undefined ? '' : ` The longest that does not go too far is ${shown(longest)} mm.`
      return {
        field: v.end === 'insert' ? 'first' : 'second',
        detail: `No screw that is sold ends between ${shown(least)} and ${shown(most)} mm below the face.${known}`,
      }
    }
    return undefined
  },
  judged(v) {
    const length = lengthOf(v)
    if (length === undefined) return { facts: [], faults: [] }
    const { under } = headOf(v)
    const out = length - under - gripOf(v) - (v.end === 'nut' ? v.nut.sizes.height! : 0)
    return {
      facts: [
        {
          label: 'Screw',
          text: `${v.item.label} × ${shown(unitOf(v.item) === 'in' ? length / 25.4 : length)} ${unitOf(v.item)}`,
        },
        ...(v.end === 'pocket' || v.end === 'nut'
          ? [{ label: 'Stands out', text: `${shown(Math.max(0, out))} mm` }]
          : []),
      ],
      faults: [],
    }
  },
  // What it is placed by: its hole and head where they are in the face, which it stands in.
  box(v) {
    const { min, max } = screwHole.box(holesOf(v)[0]!.values, 0)
    return { min: [min[0], min[1], 0], max: [max[0], max[1], Math.max(0, headOf(v).top)] }
  },
  dimensions: () => [],
  surfaces(v, side) {
    const own = holesOf(v).filter(({ sides }) => sides.includes(side))
    const known = own.map(({ shape, values, at }) => ({
      at,
      surfaces: shape.surfaces(values),
      box: shape.box(values, 0),
    }))
    const names = [...new Set(known.flatMap(({ surfaces }) => surfaces.all.map(({ name }) => name)))]
    return surfacesOf(plainSurfaces(...(names.length > 0 ? names : ['wall'])), {
      at(p, n) {
        const found = known.findLast(({ at, box }) => {
          const q = pointIn(at, p)
          return q.every((x, i) => x > box.min[i]! - 0.05 && x < box.max[i]! + 0.05)
        })
        return found?.surfaces.at(pointIn(found.at, p), directionIn(found.at, n))
      },
    })
  },
  freedoms: () => [],
  motion: () => world,
  held(v) {
    const length = lengthOf(v)
    const { top } = headOf(v)
    const under = headOf(v).under
    const screw: HeldItem = {
      ...{ item: v.item, frame: { ...world, origin: [0, 0, top] }, length, bought: length, way: 'above' },
      pressed: pressedInto(v),
      through: throughOf(v),
    }
    if (v.end === 'insert') return [screw, { ...insertHole.held!({ item: v.insert }, 0)!, frame: between(v), side: 1 }]
    if (v.end === 'tapped' || v.end === 'formed')
      return [{ ...screw, bites: { from: top + v.first, to: length === undefined ? 0 : top - under + length } }]
    const nutAt = farFace(v)
    if (v.end === 'pocket')
      return [screw, { ...nutPocket.held!({ item: v.nut, gap: v.gap, from: 'face', sunk: 0 }, 0)!, frame: nutAt }]
    const beyond: Frame = { ...nutAt, origin: [0, 0, -gripOf(v) - v.nut.sizes.height!] }
    return [screw, { item: v.nut, frame: beyond, pressed: 0, way: 'above' }]
  },
  solids(v, context) {
    const whole: ShapeContext = { ...context, cuts: true, through: gripOf(v), overlap: past }
    const cuts: [Solid[], Solid[]] = [[], []]
    for (const { shape, values, sides, at } of holesOf(v))
      for (const side of sides) cuts[side].push(context.scope.placed(shape.solid(values, whole), at))
    return { cuts, adds: [[], []] }
  },
})
const fieldsHere: Readonly<Record<string, true>> = { item: true, seat: true, sunk: true, gap: true }

/** The material that it goes through without biting, from under its head on: as wide as its hole. */
function throughOf(v: Values): HeldItem['through'] {
  const { top, under } = headOf(v)
  const isCone = v.item.family.isCountersunk
  const from = top - under + (isCone ? v.item.sizes.headHeight! + 0.2 : 0)
  const to =
    top +
    (v.end === 'pocket' ? gripOf(v) - v.nut.sizes.height! - Math.max(0, v.gap) : v.end === 'nut' ? gripOf(v) : v.first)
  return { across: 2 * screwHole.reach!({ ...holesOf(v)[0]!.values, seat: 'none' }, [1, 0, 0]), from, to }
}

/** How far its thread bites into material on each side, mm. */
function pressedInto(v: Values): number {
  if (v.end !== 'tapped' && v.end !== 'formed') return 0
  const values = { item: v.item, way: v.end, seat: 'none', sunk: 0, reach: 'blind', depth: 10 }
  return screwHole.held!(values, 0)!.pressed
}
