import type Joi from 'joi'
import { shippedMaterials, shippedPrinters, type WorkshopKind, type WorkshopThings } from '../fits/index.ts'
import { ProblemError } from '../problems/index.ts'
import { itemSchema } from './schemas.ts'

/** Printers and materials as files: JSON that says what it is, with the thing under the word for it. */

const words = { printers: 'printer', materials: 'material' } as const
const all = { abortEarly: false } as const
const schemaOf = (kind: WorkshopKind) => itemSchema(kind === 'printers' ? 'printer' : 'material').prefs(all)
/** What stands in for what a file does not say. */
const plain = { printers: shippedPrinters[0]!, materials: shippedMaterials[0]! } as const

export function writeThingFile<K extends WorkshopKind>(kind: K, thing: WorkshopThings[K]): string {
  const word = words[kind]
  return `${JSON.stringify({ format: `makrel-${word}`, version: 1, [word]: thing }, null, 2)}\n`
}

/** What is wrong with a value of a printer or material. */
export interface ThingFault {
  /** where it is: "fits.slide.round.gap" */
  readonly place: string
  readonly text: string
  /** the nearest value that can be */
  readonly offer: number | string | undefined
}

/** All that is wrong with the values of a thing. */
export function thingFaults(kind: WorkshopKind, thing: unknown): readonly ThingFault[] {
  const { error } = schemaOf(kind).validate(thing)
  return (error?.details ?? []).map((detail) => faultOf(kind, detail))
}

function faultOf(kind: WorkshopKind, { type, path, context }: Joi.ValidationErrorItem): ThingFault {
  const place = path.join('.')
  const limit = context?.limit as number | undefined
  const usual = path.reduce<unknown>(
    (at, name) => (typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[name] : undefined),
    plain[kind],
  )
  const offered = typeof usual === 'number' || typeof usual === 'string' ? usual : undefined
  switch (type) {
    case 'number.min':
      return { place, text: `must be at least ${limit}`, offer: limit }
    case 'number.max':
      return { place, text: `must be at most ${limit}`, offer: limit }
    case 'number.greater':
      return { place, text: `must be more than ${limit}`, offer: offered }
    case 'number.integer':
      return { place, text: 'must be a whole number', offer: Math.round(context?.value as number) }
    case 'number.base':
      return { place, text: 'must be a number', offer: offered }
    case 'any.required':
      return { place, text: 'is missing', offer: offered }
    case 'string.empty':
    case 'string.min':
      return { place, text: 'must not be empty', offer: offered }
    case 'string.max':
      return { place, text: `must have at most ${limit} letters`, offer: String(context?.value).slice(0, limit) }
    case 'object.unknown':
      return { place, text: 'is not known here', offer: undefined }
    default:
      return { place, text: 'cannot be read', offer: offered }
  }
}

/** A thing from a file; where something in it is wrong, what that is, and the thing with the nearest values that can be. */
export interface ReadThing<T> {
  readonly thing: T
  readonly faults: readonly ThingFault[]
}

/**
 * @throws ProblemError file-not-json, file-not-thing, file-newer
 */
export function readThingFile<K extends WorkshopKind>(kind: K, text: string): ReadThing<WorkshopThings[K]> {
  const word = words[kind]
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    throw new ProblemError('file-not-json', { detail: (error as Error).message })
  }
  const { format, version, [word]: found } = (raw ?? {}) as Record<string, unknown>
  if (format !== `makrel-${word}` || typeof found !== 'object' || found === null || Array.isArray(found))
    throw new ProblemError('file-not-thing', { word })
  if (typeof version === 'number' && version > 1) throw new ProblemError('file-newer', { version, known: 1 })
  const faults = thingFaults(kind, found)
  const thing = faults.length > 0 ? mended(kind, found) : found
  return { thing: thing as WorkshopThings[K], faults }
}

/** The plain thing of its kind with all that can be taken from this one, and the nearest to what cannot. */
function mended(kind: WorkshopKind, found: object): unknown {
  const take = (usual: unknown, own: unknown, path: readonly string[]): unknown => {
    // Where a gap comes from is told in one of several forms.
    if (path.at(-1) === 'origin') return own ?? usual
    if (typeof usual === 'object' && usual !== null) {
      const from = typeof own === 'object' && own !== null ? (own as Record<string, unknown>) : {}
      const all = Object.entries(usual).map(([name, each]) => [name, take(each, from[name], [...path, name])] as const)
      return Array.isArray(usual) ? all.map(([, each]) => each) : Object.fromEntries(all)
    }
    return own === undefined ? usual : own
  }
  let thing = take(plain[kind], found, [])
  // Each round puts right what the last one has found.
  for (let round = 0; round < 3; round++) {
    const faults = thingFaults(kind, thing)
    if (faults.length === 0) break
    for (const { place, offer } of faults) {
      const path = place.split('.')
      const origin = path.indexOf('origin')
      thing = origin < 0 ? withAt(thing, path, offer) : withAt(thing, path.slice(0, origin + 1), { kind: 'shipped' })
    }
  }
  return thing
}

function withAt(thing: unknown, [name, ...rest]: readonly string[], value: unknown): unknown {
  if (name === undefined) return value
  if (Array.isArray(thing)) return thing.map((each, i) => (String(i) === name ? withAt(each, rest, value) : each))
  const own = (typeof thing === 'object' && thing !== null ? thing : {}) as Record<string, unknown>
  return { ...own, [name]: withAt(own[name], rest, value) }
}
