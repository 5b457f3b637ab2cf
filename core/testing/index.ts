import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import {
  type BodyStep,
  type BundleStep,
  hasBody,
  newPart,
  type Part,
  type Place,
  type Repeat,
  type SameStep,
  type ShapeStep,
  type Step,
  type TreatmentStep,
} from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { type CompiledLibrary, compileLibrary, Kernel, loadLibrary } from '../kernel/index.ts'
import { ProblemError } from '../problems/index.ts'
import type { Mark } from '../proof/index.ts'
import { repeatOf } from '../repeats/index.ts'
import { shapeOf } from '../shapes/index.ts'
import { newStep } from '../shapes/search.ts'
import { Builder, type Built, Measurer, type TwiceBuilt } from '../solids/index.ts'

export { emptyOutline } from './outlines.ts'
export { inTurn, runs, seed } from './sample.ts'

/** Helpers for tests only: a kernel under Node, and short ways to write parts. */
export async function testKernel(): Promise<Kernel> {
  compiled ??= compileLibrary(readFileSync(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm')))
  return new Kernel(await loadLibrary(await compiled))
}
let compiled: Promise<CompiledLibrary> | undefined

export function step(
  id: string,
  shape: string,
  fields: Record<string, string> = {},
  more: { place?: Partial<Place>; operation?: string; repeats?: ShapeStep['repeats']; mute?: boolean } = {},
): ShapeStep {
  const definition = shapeOf(shape)!
  const plain = newStep(id, { shape: definition, fields: { ...defaultFields(definition.fields), ...fields } })
  const operation = more.operation ?? plain.operation
  return {
    ...plain,
    operation,
    place: { ...plain.place, rest: operation === 'add' ? 'on' : 'in', ...more.place },
    repeats: more.repeats ?? [],
    mute: more.mute ?? false,
  }
}

type More = Partial<Omit<ShapeStep, 'kind' | 'shape' | 'place'>> & { readonly place?: Partial<Place> }

function acting(id: string, { place, ...more }: More): Omit<ShapeStep, 'kind' | 'shape'> {
  const { kind: _, shape: __, version: ___, ...plain } = step(id, 'plate')
  const own = { from: 'centre', to: 'own', by: '0' } as const
  return { ...plain, fields: {}, ...more, place: { ...plain.place, across: own, along: own, ...place } }
}

/** The places of a mark; none of a field, which is worked out when it is looked at. */
export function pointsOf(mark: Mark | undefined): Float32Array {
  return mark && mark.kind !== 'field' ? mark.points : new Float32Array()
}

/** A step that has a body, for what is expected of its place. @throws Error where it has none */
export function bodied(step: Step | undefined): BodyStep {
  if (!step || !hasBody(step)) throw new Error(`${step?.id ?? 'nothing'} has no body`)
  return step
}

/** A bundle of these steps, where they stand. */
export function bundleOf(id: string, steps: readonly Step[], more: More = {}): BundleStep {
  return { ...acting(id, more), kind: 'bundle', steps }
}

/** The shape of another step, where that stands. */
export function sameAs(id: string, of: string, more: More = {}): SameStep {
  return { ...acting(id, more), kind: 'same', of }
}

/** What works on all that stands before it. */
export function treatment(operation: string, fields: Record<string, string>, id = 't'): TreatmentStep {
  return { kind: 'treatment', id, name: '', mute: false, when: '', operation, fields }
}

/** A repeat with these fields over its defaults. */
export function repeat(kind: string, fields: Record<string, string> = {}): Repeat {
  return { kind, fields: { ...defaultFields(repeatOf(kind)!.fields), ...fields } }
}

export function onFace(stepId: string, face: string): Partial<Place> {
  return { on: { kind: 'face', step: stepId, face } }
}

/** A part of one piece made of these steps. */
export function partOf(steps: readonly Step[], change: Partial<Part> = {}): Part {
  const part = newPart({ part: 'test', piece: 'p1' }, 'Test')
  return { ...part, pieces: [{ ...part.pieces[0]!, steps }], ...change }
}

export async function built(
  kernel: Kernel,
  part: Part,
  fineness = 0.01,
  builder = new Builder(kernel),
): Promise<Built> {
  return builder.build(part, { fineness })
}

/** The part at the two finenesses that it is measured at. */
export function builtTwice(kernel: Kernel, part: Part): Promise<TwiceBuilt> {
  return new Measurer(kernel).twice(part)
}

/** A generator of repeatable numbers in [0, 1) (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed
  return () => {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
}

/** The code of the problem that `work` throws, or "none". */
export function codeOf(work: () => unknown): string {
  try {
    work()
    return 'none'
  } catch (error) {
    if (error instanceof ProblemError) return error.code
    throw error
  }
}
export { real } from './sample.ts'
