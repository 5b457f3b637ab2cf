import type { Schema } from 'joi'
import { ProblemError } from '../problems/index.ts'
import type { Outline, Part } from './format.ts'
import { checkLimits } from './limits.ts'
import { itemSchema, partSchema } from './schemas.ts'
import { flattened, withContent } from './tree.ts'

/**
 * Refuses a part that could be shown and not be opened again: it holds more than is kept, or something that the reader would
 * not take. Parts share what an edit left alone, so that each thing is looked at once.
 * @throws ProblemError over-limit, cannot-keep
 */
export function checkKeepable(part: Part): void {
  checkLimits(part)
  const { outlines, pieces } = part
  for (const list of ownLists) {
    const [schema, nameOf] = items[list]
    for (const item of part[list]) check(item, itemSchema(schema), nameOf(item))
  }
  for (const outline of outlines) checkOutline(outline)
  for (const piece of pieces)
    for (const step of flattened(piece.steps))
      check(
        step,
        itemSchema('step'),
        step.name,
        withContent(step, () => []),
      )
  checkRest(part)
}

/** Says that what a part consists of was looked at before, by whoever kept it: only what is edited of it is looked at. */
export function takeForKeepable(part: Part): void {
  const { outlines, pieces } = part
  for (const list of lists) for (const each of part[list]) sound.add(each)
  for (const { points, curves, constraints, derived } of outlines)
    for (const each of [...points, ...curves, ...constraints, ...derived]) sound.add(each)
  for (const piece of pieces) for (const step of flattened(piece.steps)) sound.add(step)
  lastRest = restOf(part)
}

/** All of a part but its lists, and all of its pieces but their steps. */
function restOf({ pieces, ...rest }: Part): readonly unknown[] {
  const others = Object.entries(rest).flatMap(([key, value]) => (isList(key) ? [] : [key, value]))
  return [...others, ...pieces.flatMap(({ steps: _, ...piece }) => Object.entries(piece).flat())]
}

/** of the part that was looked at last */
let lastRest: readonly unknown[] = []

function checkRest(part: Part): void {
  const rest = restOf(part)
  if (rest.length === lastRest.length && rest.every((each, i) => each === lastRest[i])) return
  const empty = Object.fromEntries(lists.map((list) => [list, []]))
  const bare = part.pieces.map((piece) => ({ ...piece, steps: [] }))
  check({}, partSchema(), '', { ...part, ...empty, pieces: bare })
  lastRest = rest
}

const byName = (item: object) => ('name' in item ? String(item.name) : '')

/** The lists of a part whose items are looked at one by one: the schema of an item, and what it is called in a message. */
const items = {
  measures: ['measure', byName],
  assets: ['asset', byName],
  variants: ['variant', byName],
  joints: ['joint', byName],
  readouts: ['readout', byName],
  views: ['view', byName],
  poses: ['pose', byName],
  flexes: ['flex', byName],
  loads: ['load', byName],
  stances: ['stance', () => ''],
  setAside: ['setAside', (item: object) => ('reason' in item ? String(item.reason) : '')],
} as const
const ownLists = Object.keys(items) as (keyof typeof items)[]
/** These, and outlines, whose own lists are looked at as well. */
const lists = [...ownLists, 'outlines'] as const
const isList = (key: string) => (lists as readonly string[]).includes(key)

function checkOutline(outline: Outline): void {
  if (sound.has(outline)) return
  const { name, points, curves, constraints, derived } = outline
  // Thousands of them may have moved: a schema is asked only where more than two numbers are to be looked at.
  for (const point of points)
    if (!(Math.abs(point.at[0]) <= 1e6 && Math.abs(point.at[1]) <= 1e6) || point.taken)
      check(point, itemSchema('point'), name)
  for (const curve of curves) check(curve, itemSchema('curve'), name)
  for (const constraint of constraints) check(constraint, itemSchema('constraint'), name)
  for (const one of derived) check(one, itemSchema('derived'), name)
  check(outline, itemSchema('outline'), name, { ...outline, points: [], curves: [], constraints: [], derived: [] })
}

/** What was looked at and found sound. */
const sound = new WeakSet<object>()

function check(thing: object, schema: Schema, name: string, looked: object = thing): void {
  if (sound.has(thing)) return
  const { error } = schema.validate(looked)
  if (error) throw new ProblemError('cannot-keep', { name: name ? `“${name}”: ` : '', detail: error.message })
  sound.add(thing)
}
