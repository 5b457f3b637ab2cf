import type { Schema } from 'joi'
import { ProblemError } from '../problems/index.ts'
import { itemSchemas, type Outline, type Part, partSchema } from './format.ts'
import { checkLimits } from './limits.ts'
import { flattened, withContent } from './tree.ts'

/**
 * Refuses a part that could be shown and not be opened again: it holds more than is kept, or something that the reader would
 * not take. Parts share what an edit left alone, so that each thing is looked at once.
 * @throws ProblemError over-limit, cannot-keep
 */
export function checkKeepable(part: Part): void {
  checkLimits(part)
  const { measures, assets, variants, joints, readouts, views, poses, flexes, outlines, pieces } = part
  for (const measure of measures) check(measure, itemSchemas.measure, measure.name)
  for (const asset of assets) check(asset, itemSchemas.asset, asset.name)
  for (const variant of variants) check(variant, itemSchemas.variant, variant.name)
  for (const joint of joints) check(joint, itemSchemas.joint, joint.name)
  for (const readout of readouts) check(readout, itemSchemas.readout, readout.name)
  for (const view of views) check(view, itemSchemas.view, view.name)
  for (const pose of poses) check(pose, itemSchemas.pose, pose.name)
  for (const flex of flexes) check(flex, itemSchemas.flex, flex.name)
  for (const outline of outlines) checkOutline(outline)
  for (const piece of pieces)
    for (const step of flattened(piece.steps))
      check(
        step,
        itemSchemas.step,
        step.name,
        withContent(step, () => []),
      )
  const lists = [
    'measures',
    'assets',
    'variants',
    'joints',
    'readouts',
    'views',
    'poses',
    'flexes',
    'outlines',
  ] as const
  const empty = Object.fromEntries(lists.map((list) => [list, []]))
  const bare = pieces.map((piece) => ({ ...piece, steps: [] }))
  check({}, partSchema, '', { ...part, ...empty, pieces: bare })
}

function checkOutline(outline: Outline): void {
  if (sound.has(outline)) return
  const { name, points, curves, constraints, derived } = outline
  // Thousands of them may have moved: a schema is asked only where more than two numbers are to be looked at.
  for (const point of points)
    if (!(Math.abs(point.at[0]) <= 1e6 && Math.abs(point.at[1]) <= 1e6) || point.taken)
      check(point, itemSchemas.point, name)
  for (const curve of curves) check(curve, itemSchemas.curve, name)
  for (const constraint of constraints) check(constraint, itemSchemas.constraint, name)
  for (const one of derived) check(one, itemSchemas.derived, name)
  check(outline, itemSchemas.outline, name, { ...outline, points: [], curves: [], constraints: [], derived: [] })
}

/** What was looked at and found sound. */
const sound = new WeakSet<object>()

function check(thing: object, schema: Schema, name: string, looked: object = thing): void {
  if (sound.has(thing)) return
  const { error } = schema.validate(looked)
  if (error) throw new ProblemError('cannot-keep', { name: name ? `“${name}”: ` : '', detail: error.message })
  sound.add(thing)
}
