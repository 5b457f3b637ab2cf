import { ProblemError } from '../problems/index.ts'
import { bodiesOf } from './comesTo.ts'
import type { Outline, Part, Step } from './format.ts'
import { contentOf, flattened, hasBody, isBundle } from './tree.ts'

/** Sizes that keep a part file within what can be built and shown: of the reader, the page and the server alike. */
export const documentLimits = {
  /** of a part file, as it is written */
  bytes: 16_000_000,
  measures: 500,
  variants: 60,
  pieces: 40,
  steps: 1000,
  allSteps: 5000,
  /** bodies, each “same” counted as what it is the same as */
  bodies: 10_000,
  joints: 40,
  readouts: 200,
  choices: 60,
  outlines: 100,
  outlinePoints: 12_000,
  outlineCurves: 6000,
  outlineConstraints: 6000,
  derived: 200,
  toggled: 1000,
  curvePoints: 201,
  assets: 60,
  /** characters of an asset, as text */
  asset: 12_000_000,
  /** of one that is a picture under a drawing */
  picture: 900_000,
  readings: 100,
  views: 40,
  poses: 40,
  flexes: 40,
  loads: 40,
  stances: 40,
  setAside: 200,
  about: 100,
  repeats: 3,
  omitted: 2000,
  /** bundles within bundles */
  nesting: 12,
  text: 400,
  field: 20_000,
  name: 120,
  /** characters of an edge's name: those of the faces that it lies between and ends at */
  edge: 4000,
  note: 2000,
} as const

/** Bytes of a text as a file holds it. */
export function bytesOf(text: string): number {
  return new TextEncoder().encode(text).length
}

/** What goes over a limit, how far it may go, and what else can be done. */
interface Over {
  readonly what: string
  readonly limit: string
  readonly way: string
}

/**
 * Refuses a part that could be shown and not be opened again: the lists and texts that can grow while it is edited, and its
 * size as a file. Parts share what an edit left alone, so that each thing is looked at once.
 * @throws ProblemError over-limit
 */
export function checkLimits(part: Part): void {
  const over = overLimit(part)
  if (over) throw new ProblemError('over-limit', { ...over })
}

function overLimit(part: Part): Over | undefined {
  const { pieces, outlines } = part
  const steps = pieces.flatMap((piece) => flattened(piece.steps))
  const bundle = 'repeat steps, or make bundles of them'
  const split = 'split it into several outlines, or import it with fewer points'
  const all: readonly (readonly [number, keyof typeof documentLimits, string, string])[] = [
    [part.measures.length, 'measures', 'measures in a part', 'remove some that are not used'],
    [part.variants.length, 'variants', 'variants of a part', 'copy the part for more'],
    [pieces.length, 'pieces', 'pieces in a part', 'make another part of some'],
    [part.joints.length, 'joints', 'joints in a part', 'make another part of some'],
    [part.readouts.length, 'readouts', 'read-outs in a part', 'remove some that are not used'],
    [part.views.length, 'views', 'kept views of a part', 'remove some'],
    [part.poses.length, 'poses', 'poses of a part', 'remove some'],
    [part.flexes.length, 'flexes', 'flex tests of a part', 'remove some'],
    [part.loads.length, 'loads', 'loads of a part', 'remove some'],
    [part.stances.length, 'stances', 'faces that have to lie so', 'remove some'],
    [part.assets.length, 'assets', 'pictures and meshes in a part', 'remove some'],
    [outlines.length, 'outlines', 'outlines in a part', 'remove some that nothing is made of'],
    // What bundles hold counts as well.
    [steps.length, 'allSteps', 'steps in a part', 'repeat steps, or make another part of some'],
    [deepest(pieces.flatMap((piece) => piece.steps)), 'nesting', 'bundles within bundles', 'dissolve one of them'],
    [bodiesOf(part), 'bodies', 'bodies, with what is the same as others', 'repeat a step in a row or a grid'],
    ...pieces.map((piece) => [piece.steps.length, 'steps', `steps in a list (${piece.name})`, bundle] as const),
    ...steps.map((step) => [contentOf(step).length, 'steps', 'steps in a bundle', bundle] as const),
    ...outlines.flatMap(({ name, points, curves, constraints, derived, toggled }) => [
      [points.length, 'outlinePoints', `points in “${name}”`, split] as const,
      [curves.length, 'outlineCurves', `curves in “${name}”`, split] as const,
      [constraints.length, 'outlineConstraints', `constraints in “${name}”`, split] as const,
      [derived.length, 'derived', `derived things in “${name}”`, 'make some of them curves of its own'] as const,
      [toggled.length, 'toggled', `regions taken or left out in “${name}”`, split] as const,
    ]),
  ]
  for (const [count, name, what, way] of all) {
    const limit = documentLimits[name]
    if (count > limit) return { what: `${count} ${what}`, limit: String(limit), way }
  }
  for (const step of steps) {
    const long = longText(step)
    if (long) return long
  }
  const bytes = sizeOf(part)
  // Not to the last byte: it is the sum of its parts.
  if (bytes < documentLimits.bytes * 0.97) return undefined
  return {
    what: `a file of ${(bytes / 1e6).toFixed(1)} MB`,
    limit: `${documentLimits.bytes / 1e6} MB`,
    way: 'use smaller pictures and meshes, or split it',
  }
}

/** How many lists lie within one another, as the reader counts them. */
function deepest(steps: readonly Step[]): number {
  return 1 + steps.reduce((most, step) => Math.max(most, isBundle(step) ? deepest(step.steps) : 0), 0)
}

const withinLimits = new WeakSet<object>()

function longText(step: Step): Over | undefined {
  if (withinLimits.has(step)) return undefined
  const { fields, when, name } = step
  const place = hasBody(step) ? step.place : undefined
  const way = 'give parts of it names in the measures table'
  const texts: readonly (readonly [string, keyof typeof documentLimits])[] = [
    ...Object.values(fields).map((text) => [text, 'field'] as const),
    ...[when, ...(place ? [place.across.by, place.along.by, place.lift, place.turn, place.tilt, place.lean] : [])].map(
      (text) => [text, 'text'] as const,
    ),
    [name, 'name'],
  ]
  for (const [text, limit] of texts)
    if (text.length > documentLimits[limit])
      return { what: `${text.length} characters in one value`, limit: String(documentLimits[limit]), way }
  withinLimits.add(step)
  return undefined
}

const sizes = new WeakMap<object, number>()

/** About how many bytes a part is as a file: what it consists of, each set in as deep as it stands. */
function sizeOf({ pieces, outlines, assets, ...rest }: Part): number {
  const own = (thing: Step | Outline, depth: number): number => {
    const known = sizes.get(thing)
    if (known !== undefined) return known
    const text = JSON.stringify(thing, null, 2)
    const lines = text.split('\n').length
    const size = bytesOf(text) + lines * 2 * depth
    sizes.set(thing, size)
    return size
  }
  return (
    bytesOf(JSON.stringify(rest, null, 2)) +
    assets.reduce((sum, { data }) => sum + data.length + 300, 0) +
    outlines.reduce((sum, outline) => sum + own(outline, 2), 0) +
    pieces.reduce((sum, piece) => sum + piece.steps.reduce((all, step) => all + own(step, 4), 500), 0)
  )
}
