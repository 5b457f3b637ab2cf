import type { FieldTexts, Place, ShapeStep } from '../document/index.ts'
import { onBed } from '../document/index.ts'
import {
  defaultFields,
  type IsName,
  isNumberField,
  lettersOff,
  matched,
  typedValues,
  understood,
  versionTold,
} from '../fields/index.ts'
import { isFitName } from '../fits/index.ts'
import { findItems, type ItemKind, namesSize } from '../hardware/index.ts'
import { restFor } from '../operations/index.ts'
import type { PartUnit } from '../units/index.ts'
import type { NamedForm, QuickField, ShapeDefinition } from './define.ts'
import { shapes } from './registry.ts'

/** A shape found by what was typed, with the numbers typed behind it already in its fields. */
export interface Found {
  readonly shape: ShapeDefinition
  readonly fields: FieldTexts
  /** the trade word that it was found by, where that asks for a form of it */
  readonly word?: string | undefined
  /** where the words ask for another one than that of the shape: a hexagonal hole is a prism that cuts */
  readonly operation?: string | undefined
  /** how many letters of what was typed its name is */
  readonly said?: number
  /** whether a name of it was typed to the end */
  readonly whole?: boolean
  /** its item was typed by its size */
  readonly chosen?: boolean
  /** whether all sizes that it asks for were typed behind it */
  readonly complete?: boolean
  /** what was typed behind it is no name of an item, but may be a size of it */
  readonly guessed?: boolean | undefined
  /** what was typed behind it and means nothing there */
  readonly left?: string | undefined
}

/**
 * Shapes whose label or words begin with what was typed, the best first: "plate 84 44 6", "hole 5.3", "bar wall*2 × 10",
 * "hexagon 13 10". Values are separated by spaces, × or x; an expression with spaces goes in brackets. What is not typed is
 * about as large in a part in inches as in one in mm. `isName`: whether a word is one of the part's names, which stand for sizes; any
 * word is where nothing tells.
 */
export function findShapes(
  typed: string,
  all: readonly ShapeDefinition[] = shapes,
  unit: PartUnit = 'mm',
  isName?: IsName,
): Found[] {
  const text = typed.trim().toLowerCase()
  if (text === '') return all.map((shape) => ({ shape, fields: defaultFields(shape.fields, unit) }))
  const found = all
    .map((shape) => {
      const fitting = namesOf(shape)
        .map(({ name, form, part }, i) => ({ name, form, part, i: part ? i + ofPart : i, ...matched(text, name) }))
        .filter(({ used }) => used > 0)
      const best = fitting.toSorted((a, b) => Number(b.whole) - Number(a.whole) || b.used - a.used || a.i - b.i)[0]
      return (
        best && {
          shape,
          form: best.form,
          order: best.i - 100 * best.used - (best.whole ? 1e4 : 0),
          said: Math.max(...fitting.map(({ used }) => used)),
          whole: best.whole && !best.part,
          rest: typed.trim().slice(best.used),
        }
      )
    })
    .filter((item) => item !== undefined)
  const forItems = all.flatMap((shape) => forItem(shape, typed, unit) ?? [])
  const named = found
    .sort((a, b) => a.order - b.order)
    .map(({ shape, form, said, whole, rest }) => {
      const { fields, left, guessed } = quickFields(shape, form, rest, isName)
      const told = { ...form?.fields, ...fields }
      return {
        ...{
          shape,
          said,
          whole,
          word: form?.word,
          operation: form?.operation,
          left: left.join(' ') || undefined,
          guessed,
        },
        complete: neededOf(shape, form).every((field) => field in told),
        fields: { ...defaultFields(shape.fields, unit), ...told },
      }
    })
    // What takes the most of it comes first.
    .sort((a, b) => wordsLeft(a) - wordsLeft(b))
  return [...forItems, ...named.filter(({ shape }) => forItems.every((each) => each.shape !== shape))]
}

const wordsLeft = ({ left, guessed }: Found) => (left ? left.split(' ').length : guessed ? 0.5 : 0)

/** What takes an item that was typed by its size: "M4 nut", "608", "countersunk M5". */
function forItem(shape: ShapeDefinition, typed: string, unit: PartUnit): Found | undefined {
  const own = itemFieldOf(shape)
  if (!own) return undefined
  // "nut pocket M4": what the shape is called is no word of the item.
  const called = new Set(namesOf(shape).flatMap(({ name }) => name.split(' ')))
  const rest = typed.split(/\s+/).filter((each) => !called.has(each.toLowerCase()))
  const [item] = [typed, rest.join(' ')].flatMap((text) =>
    text.trim() === '' ? [] : findItems(text, own.of).slice(0, 1),
  )
  if (!item || !namesSize(typed, item)) return undefined
  return {
    ...{ shape, said: typed.trim().length, whole: true, complete: true, chosen: true, word: item.label },
    fields: { ...defaultFields(shape.fields, unit), [own.field]: item.id },
  }
}

function itemFieldOf(shape: ShapeDefinition): { readonly field: string; readonly of: readonly ItemKind[] } | undefined {
  for (const [field, own] of Object.entries(shape.fields)) if (own.kind === 'item') return { field, of: own.of }
  return undefined
}

/** The sizes that are asked for behind a name: not those that another one brings along, nor those that are usually nothing. */
function neededOf(shape: ShapeDefinition, form: NamedForm | undefined): readonly string[] {
  const quick = (form?.quick ?? shape.quick) as readonly QuickField[]
  return quick.flatMap((each) => (typeof each === 'string' && shape.fields[each]?.default !== '0' ? [each] : []))
}

/** The names nearest to what was typed, where nothing begins with it: at most two letters off. */
export function nearestNames(typed: string, names: readonly string[] = allNames()): string[] {
  const [word = ''] = typed
    .trim()
    .toLowerCase()
    .split(/[\s\d]/)
  if (word.length < 3) return []
  const near = names
    .map((name) => ({ name, off: lettersOff(word, name.slice(0, word.length + 2)) }))
    .filter(({ off }) => off <= (word.length < 5 ? 1 : 2))
    .sort((a, b) => a.off - b.off)
  return [...new Set(near.map(({ name }) => name))].slice(0, 3)
}

/** Everything that a shape is found by. */
export function allNames(): string[] {
  return shapes.flatMap((shape) => namesOf(shape).map(({ name }) => name))
}

/** One word of several says less than any that was chosen, of whatever shape. */
const ofPart = 50

interface Named {
  readonly name: string
  readonly form?: NamedForm
  /** it is one word of a label of several */
  readonly part?: boolean
}

function namesOf(shape: ShapeDefinition): Named[] {
  const plain = (name: string) => ({ name: name.toLowerCase() })
  return [
    plain(shape.label),
    plain(shape.kind),
    ...shape.words.map((word) => (typeof word === 'string' ? { name: word } : { name: word.word, form: word })),
    ...shape.label.split(' ').map((name) => ({ ...plain(name), part: true })),
  ]
}

interface Typed {
  /** a number alone may be of something else */
  readonly guessed?: boolean
  readonly fields: FieldTexts
  /** values that nothing is made of */
  readonly left: readonly string[]
}

function quickFields(shape: ShapeDefinition, form: NamedForm | undefined, rest: string, isName?: IsName): Typed {
  const quick: readonly QuickField[] = form?.quick ?? (shape.quick as readonly QuickField[])
  const [first] = quick
  // Words are taken as they stand.
  if (typeof first === 'string' && shape.fields[first]?.kind === 'text')
    return { fields: rest.trim() === '' ? {} : { [first]: rest.trim() }, left: [] }
  const ofItem = typeof first === 'string' ? shape.fields[first] : undefined
  if (typeof first === 'string' && ofItem?.kind === 'item') {
    if (rest.trim() === '') return { fields: {}, left: [] }
    const [item] = findItems(rest, ofItem.of)
    return item
      ? { fields: { [first]: item.id }, left: [], guessed: !namesSize(rest, item) }
      : { fields: {}, left: [rest.trim()] }
  }
  const { values, beyond } = understood(typedValues(rest), isName)
  if (form?.take) {
    const taken = takenBy(form.take, values)
    return { ...taken, left: [...taken.left, ...beyond] }
  }
  const fields: Record<string, string> = {}
  let at = 0
  for (const each of quick) {
    const value = values[at++]
    if (value === undefined) break
    const { field, with: others } = typeof each === 'string' ? { field: each, with: {} } : each
    // "hole 8 slide 3": a fit's name goes with the size before it.
    const own = shape.fields[field]
    const next = values[at]
    const isFit = own && isNumberField(own) && own.takes && next !== undefined && isFitName(next)
    if (isFit) at++
    Object.assign(fields, others, { [field]: isFit ? `${value} ${next}` : value })
  }
  return { fields, left: [...values.slice(at), ...beyond] }
}

/** Values at the end that change nothing, whatever they are, are of no use to it. */
function takenBy(take: NonNullable<NamedForm['take']>, values: readonly string[]): Typed {
  const told = (own: readonly string[]) => JSON.stringify(take(own))
  const any = '?'
  let used = values.length
  while (used > 0 && told([...values.slice(0, used - 1), any]) === told(values.slice(0, used - 1))) used--
  return { fields: take(values), left: values.slice(used) }
}

/** A new step of this shape, on the bed in the middle, ready to be placed. */
export function newStep(
  id: string,
  { shape, fields, operation = shape.operation }: Found,
  place: Partial<Place> = {},
): ShapeStep {
  const stands = { ...onBed, rest: restFor(operation), ...place }
  return {
    kind: 'shape',
    id,
    name: '',
    mute: false,
    when: '',
    operation,
    fields,
    place: shape.wheel ? byAxis(stands) : stands,
    repeats: [],
    omit: [],
    ghost: false,
    shape: shape.kind,
    ...versionTold(shape),
  }
}

function byAxis(place: Place): Place {
  const own = (offset: Place['across']) => (offset.to === 'centre' ? { ...offset, to: 'own' as const } : offset)
  return { ...place, across: own(place.across), along: own(place.along) }
}
