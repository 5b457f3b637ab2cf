import type { FitPair } from '../fits/index.ts'
import type { ValueKind } from '../measures/index.ts'
import type { Drawn } from '../plane/index.ts'
import type { OfferedText, ProblemCode, ProblemData } from '../problems/index.ts'
import type { AssetValue } from './kinds/asset.ts'
import type { StepValue } from './kinds/step.ts'

/** What all kinds of field have in common. */
export interface FieldBase {
  readonly kind: string
  readonly label: string
  readonly default: string
  /** what it means, in a sentence */
  readonly meaning: string
  /** rarely changed: shown behind "more" */
  readonly rare?: boolean
}

/** What kind of value an expression in a field gives: `any` within a text. */
export type FieldExpression = ValueKind | 'any'

/** What a field's text may refer to, and what takes its place. What is not given stays. */
export interface FieldReferences {
  outline?(chosen: OutlineText): OutlineText
  /** by its hash */
  asset?(hash: string): string
  /** by its id; undefined where nothing takes its place */
  step?(id: string): string | undefined
}

/** What an outline field says: which outline, and which of its regions by their keys; undefined: all that are filled. */
export interface OutlineText {
  readonly outline: string
  readonly regions: readonly string[] | undefined
}

/** What a field is worked out with. All of it tells at the field what is wrong, and is undefined then. */
export interface FieldWorking {
  /** `takes`: what goes into it may have its fit named behind it */
  number(text: string, kind: ValueKind, takes?: FitPair): number | undefined
  /** words with the expressions in them filled in */
  filled(text: string): string | undefined
  /** what an outline comes to, or those of its regions that are chosen */
  outline(chosen: OutlineText): Drawn | undefined
  asset(hash: string): AssetValue | undefined
  /** of the printer, mm; 0 where nothing is printed */
  readonly layerHeight: number
  /** a step by its id, where it is sound; of a joint's piece where a side is given */
  step(id: string, side?: 0 | 1): StepValue | undefined
  /** `nearest`: a value of the field that would do; of one that holds no number, its text and how that is called */
  tell<Code extends ProblemCode>(
    code: Code,
    data: ProblemData<Code>,
    nearest?: number | Omit<OfferedText, 'field'>,
  ): undefined
}

/**
 * A kind of field: all that is known of its text, in one place. Renaming, units, copying and removing, "used by", and the
 * order in which things are worked out come from it. `D` declares a field of the kind, `V` is what it comes to.
 */
export interface FieldKindDefinition<D extends FieldBase, V> {
  /** the text with each of its expressions put through `change` */
  mapExpressions(text: string, change: (expression: string, kind: FieldExpression) => string): string
  /** the text with all that it refers to put through `references` */
  mapReferences(text: string, references: FieldReferences): string
  /** undefined where something is wrong, which has been told then */
  resolve(definition: D, text: string, working: FieldWorking): V | undefined
}

/** For kinds whose text refers to nothing. */
export const refersToNothing = (text: string): string => text
/** For kinds whose text holds no expressions. */
export const holdsNoExpressions = (text: string): string => text
