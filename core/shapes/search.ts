import type { Effect, FieldTexts, Place, Step } from '../document/index.ts'
import { onBed, restFor } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import type { ShapeDefinition } from './define.ts'
import { shapes } from './registry.ts'

/** A shape found by what was typed, with the numbers typed behind it already in its fields. */
export interface Found {
  readonly shape: ShapeDefinition
  readonly fields: FieldTexts
  /** where the words ask for another one than that of the shape: a square hole is a plate that cuts */
  readonly effect?: Effect | undefined
}

/**
 * Shapes whose label or words begin with what was typed, the best first: "plate 84 44 6", "hole 5.3", "bar wall*2 × 10".
 * Values are separated by spaces or ×; an expression with spaces goes in brackets.
 */
export function findShapes(typed: string, all: readonly ShapeDefinition[] = shapes): Found[] {
  const text = typed.trim().toLowerCase()
  if (text === '') return all.map((shape) => ({ shape, fields: defaultFields(shape.fields) }))
  const found = all
    .map((shape) => {
      const names = [shape.label, shape.kind, ...shape.label.split(' '), ...shape.words]
      const best = names
        .map((name, i) => ({ name, i, used: matched(text, name) }))
        .filter(({ used }) => used > 0)
        .sort((a, b) => b.used - a.used || a.i - b.i)[0]
      return best && { shape, order: best.i - 100 * best.used, rest: typed.trim().slice(best.used) }
    })
    .filter((item) => item !== undefined)
  return found
    .sort((a, b) => a.order - b.order)
    .map(({ shape, rest }) => ({ shape, fields: { ...defaultFields(shape.fields), ...quickFields(shape, rest) } }))
}

/** How many characters of `text` the name explains: the whole name, or all of `text` as its beginning. */
function matched(text: string, name: string): number {
  if (text.startsWith(name) && !/^[\p{L}]/u.test(text.slice(name.length))) return name.length
  return name.startsWith(text) ? text.length : 0
}

function quickFields(shape: ShapeDefinition, rest: string): FieldTexts {
  const [first] = shape.quick
  // Words are taken as they stand.
  if (typeof first === 'string' && shape.fields[first]?.kind === 'text')
    return rest.trim() === '' ? {} : { [first]: rest.trim() }
  const values = rest.match(/(?:\([^()]*\)|[^\s×(]|(?<=\d)\s+(?=(?:mm|cm|in|m|ft)\b))+/g) ?? []
  const fields: Record<string, string> = {}
  for (const [i, quick] of shape.quick.entries()) {
    const value = values[i]
    if (value === undefined) break
    const { field, with: others } = typeof quick === 'string' ? { field: quick, with: {} } : quick
    Object.assign(fields, others, { [field]: value.replace(/^⌀/, '').replace(/^\((.*)\)$/, '$1') })
  }
  return fields
}

/** A new step of this shape, on the bed in the middle, ready to be placed. */
export function newStep(id: string, { shape, fields, effect = shape.effect }: Found, place: Partial<Place> = {}): Step {
  return {
    id,
    name: '',
    effect,
    shape: shape.kind,
    fields,
    place: { ...onBed, rest: restFor(effect), ...place },
    repeats: [],
    omit: [],
    ghost: false,
    mute: false,
    when: '',
  }
}
