import type { Offset, Place, Repeat } from '../document/index.ts'
import {
  type AnyValues,
  type AssetValue,
  type FieldDefinition,
  type Fields,
  type FieldValue,
  type FieldWorking,
  fieldKind,
  isNumberField,
  type OutlineText,
  plainDefault,
  type StepValue,
} from '../fields/index.ts'
import { besideOf, type FitPair } from '../fits/index.ts'
import { evaluate, filledTemplate, holds, type Names, type ValueKind } from '../measures/index.ts'
import { withRegions } from '../outline/index.ts'
import type { OffsetValue, PlaceValues } from '../place/index.ts'
import type { Drawn } from '../plane/index.ts'
import { guarded, type Offer, type OfferedText, type Problem, problem } from '../problems/index.ts'
import { mostCopies, type RepeatDefinition, repeatOf } from '../repeats/index.ts'
import type { ResolvedOutline } from './outlines.ts'

type Path = readonly string[]

export interface ResolvedRepeat {
  readonly definition: RepeatDefinition
  readonly values: AnyValues
}

/** Where what fields refer to is found. */
export interface FieldSources {
  outline(id: string): ResolvedOutline | undefined
  asset(hash: string): AssetValue | undefined
  step(id: string, side?: 0 | 1): StepValue | undefined
  readonly layerHeight: number
}
const noSources: FieldSources = {
  ...{ outline: () => undefined, asset: () => undefined, step: () => undefined },
  layerHeight: 0,
}

/** Computes the expressions of one step or joint and collects what goes wrong, so that all of it is told at once. */
export class FieldWork {
  readonly problems: Problem[] = []
  private readonly names: Names
  private readonly sources: FieldSources

  constructor(names: Names, sources: Partial<FieldSources> = {}) {
    this.names = names
    this.sources = { ...noSources, ...sources }
  }

  /** `what` owns the fields: "shape", "joint" or "repeat". */
  fields(
    what: string,
    { fields, impossible }: { readonly fields: Fields; impossible?(values: AnyValues): Fault | undefined },
    texts: Readonly<Record<string, string>>,
    path: Path,
  ): AnyValues | undefined {
    for (const field of Object.keys(texts))
      if (!Object.hasOwn(fields, field)) {
        const data = { field, kind: what, known: Object.keys(fields).join(', ') }
        this.problems.push(problem('field-unknown', [...path, 'fields', field], data, { rank: 'warning' }))
      }
    const values: Record<string, FieldValue> = {}
    let sound = true
    for (const [name, definition] of Object.entries(fields)) {
      // A field that the file does not have yet (a later addition) has its default.
      const value = this.field(definition, texts[name] ?? plainDefault(definition), [...path, 'fields', name])
      if (value === undefined) sound = false
      else values[name] = value
    }
    if (!sound) return undefined
    const told = this.problems.length
    const fault = guarded(path, this.problems, () => impossible?.(values))
    if (this.problems.length > told) return undefined
    if (!fault) return values
    this.problems.push(impossibleTold(fault, fields, path))
    return undefined
  }

  private field(definition: FieldDefinition, text: string, path: Path): FieldValue | undefined {
    return fieldKind(definition.kind)!.resolve(definition, text, this.working(path, definition))
  }

  private working(path: Path, definition: FieldDefinition): FieldWorking {
    return {
      number: (text, kind, takes) => this.number(text, kind, path, takes),
      filled: (text) => this.attempted(path, () => filledTemplate(text, this.names)),
      outline: (chosen) => this.outline(chosen, path),
      asset: (hash) => this.sources.asset(hash),
      layerHeight: this.sources.layerHeight,
      step: (id, side) => this.sources.step(id, side),
      tell: (code, data, nearest) => {
        const more =
          typeof nearest === 'number'
            ? { offer: offerOf(definition, path, nearest) }
            : { instead: nearest && { field: path.at(-1)!, ...nearest } }
        this.problems.push(problem(code, path, data, more))
        return undefined
      },
    }
  }

  private checked<T>(fault: Problem | undefined, value: T): T | undefined {
    if (fault) this.problems.push(fault)
    return fault ? undefined : value
  }

  /** What is wrong with the outline itself is told there; here, that it cannot be used. Regions that are gone are left out. */
  private outline({ outline: id, regions }: OutlineText, path: Path): Drawn | undefined {
    const found = this.sources.outline(id)
    if (!found) return this.checked(problem(id === '' ? 'outline-choose' : 'outline-missing', path, {}), undefined)
    const { name } = found.outline
    const { drawn, gone } = regions ? withRegions(found, regions) : { drawn: found.drawn, gone: [] }
    if (!drawn) return this.checked(problem('outline-broken', path, { name }), undefined)
    if (regions && gone.length === regions.length)
      return this.checked(problem('regions-none', path, { name }), undefined)
    if (gone.length > 0)
      this.problems.push(problem('region-gone', path, { name, count: gone.length }, { rank: 'warning' }))
    return drawn
  }

  /** A dimension of an outline. */
  dimension(field: FieldDefinition, text: string, path: Path): number | undefined {
    return this.field(field, text, path) as number | undefined
  }

  private number(text: string, kind: ValueKind, path: Path, takes?: FitPair): number | undefined {
    return this.attempted(path, () => evaluate(text, kind, this.names, besideOf(takes)).value)
  }

  /** Whether a step's condition holds; one that cannot be read leaves the step in. */
  condition(text: string, owner: Path): boolean {
    return text.trim() === '' || (this.attempted([...owner, 'when'], () => holds(text, this.names)) ?? true)
  }

  private attempted<T>(path: Path, work: () => T): T | undefined {
    return guarded(path, this.problems, work)
  }

  place(place: Place, owner: Path): PlaceValues | undefined {
    const path = [...owner, 'place']
    const across = this.offset(place.across, [...path, 'across'])
    const along = this.offset(place.along, [...path, 'along'])
    const lift = this.number(place.lift, 'length', [...path, 'lift'])
    const turn = this.number(place.turn, 'angle', [...path, 'turn'])
    const tilt = this.number(place.tilt, 'angle', [...path, 'tilt'])
    const lean = this.number(place.lean, 'angle', [...path, 'lean'])
    const pivot = place.pivot && this.number(place.pivot.by, 'angle', [...path, 'pivot'])
    const less = place.until && this.number(place.until.less, 'length', [...path, 'until'])
    if (!across || !along || lift === undefined) return undefined
    if (turn === undefined || tilt === undefined || lean === undefined) return undefined
    if ((place.pivot && pivot === undefined) || (place.until && less === undefined)) return undefined
    return { across, along, rest: place.rest, lift, turn, tilt, lean, pivot, less }
  }

  private offset(offset: Offset, path: Path): OffsetValue | undefined {
    const by = this.number(offset.by, 'length', path)
    return by === undefined ? undefined : { from: offset.from, to: offset.to, by }
  }

  repeats(repeats: readonly Repeat[], owner: Path): readonly ResolvedRepeat[] | undefined {
    const resolved = repeats.map(({ kind, fields }, i) => {
      const path = [...owner, 'repeats', String(i)]
      const definition = repeatOf(kind)
      if (!definition) this.problems.push(problem('repeat-unknown', path, { kind }, { rank: 'warning' }))
      const values = definition && this.fields('repeat', definition, fields, path)
      // A kind that is not known yet makes no copies, and the step is there.
      return definition ? values && { definition, values } : null
    })
    if (resolved.includes(undefined)) return undefined
    const known = resolved.filter((each): each is ResolvedRepeat => Boolean(each))
    const path = [...owner, 'repeats', '0']
    const count = this.attempted(path, () =>
      known.reduce((product, { definition, values }) => product * definition.count(values), 1),
    )
    if (count === undefined) return undefined
    const fault =
      count > mostCopies
        ? problem('copies-too-many', path, { count, limit: mostCopies })
        : Number.isInteger(count) && count > 0
          ? undefined
          : problem('step-failed', path, { detail: `it makes ${count} copies` })
    return this.checked(fault, known)
  }
}

/** A value for a field, by the last word of a path. */
function offerOf(definition: FieldDefinition, path: Path, value: number): Offer | undefined {
  return isNumberField(definition) ? { field: path.at(-1)!, value, kind: definition.kind } : undefined
}

/** Why values of a step or joint at `path` come to nothing, at the field to blame, with what would do. */
export function impossibleTold({ field, detail, nearest, instead }: Fault, fields: Fields, path: Path): Problem {
  const offer = nearest && offerOf(fields[nearest.field]!, [nearest.field], nearest.value)
  return problem('shape-impossible', [...path, 'fields', field], { detail }, { offer, instead })
}

interface Fault {
  readonly field: string
  readonly detail: string
  readonly nearest?: { readonly field: string; readonly value: number }
  readonly instead?: OfferedText | undefined
}
