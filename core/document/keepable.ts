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
  const {
    measures,
    assets,
    variants,
    joints,
    readouts,
    views,
    poses,
    flexes,
    loads,
    stances,
    setAside,
    outlines,
    pieces,
  } = part
  for (const measure of measures) check(measure, itemSchema('measure'), measure.name)
  for (const asset of assets) check(asset, itemSchema('asset'), asset.name)
  for (const variant of variants) check(variant, itemSchema('variant'), variant.name)
  for (const joint of joints) check(joint, itemSchema('joint'), joint.name)
  for (const readout of readouts) check(readout, itemSchema('readout'), readout.name)
  for (const view of views) check(view, itemSchema('view'), view.name)
  for (const pose of poses) check(pose, itemSchema('pose'), pose.name)
  for (const flex of flexes) check(flex, itemSchema('flex'), flex.name)
  for (const load of loads) check(load, itemSchema('load'), load.name)
  for (const stance of stances) check(stance, itemSchema('stance'), '')
  for (const aside of setAside) check(aside, itemSchema('setAside'), aside.reason)
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
  const {
    measures,
    assets,
    variants,
    joints,
    readouts,
    views,
    poses,
    flexes,
    loads,
    stances,
    setAside,
    outlines,
    pieces,
  } = part
  for (const all of [
    measures,
    assets,
    variants,
    joints,
    readouts,
    views,
    poses,
    flexes,
    loads,
    stances,
    setAside,
    outlines,
  ])
    for (const each of all) sound.add(each)
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

const lists = [
  'measures',
  'assets',
  'variants',
  'joints',
  'readouts',
  'views',
  'poses',
  'flexes',
  'loads',
  'stances',
  'setAside',
  'outlines',
] as const
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
