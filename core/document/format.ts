import type { FieldKind } from '../fields/index.ts'
import { measureKinds } from '../measures/index.ts'
import { type Dimension, partUnits } from '../units/index.ts'
import {
  again,
  anyOf,
  byKind,
  type Described,
  date,
  flag,
  list,
  named,
  number,
  oneOf,
  optional,
  pairOf,
  record,
  type Typed,
  table,
  text,
  textLike,
  whole,
} from './described.ts'
import { flex } from './flexFormat.ts'
import { expression, fieldTexts, hash, id, name, note, repeats, triple } from './formatTerms.ts'
import { documentLimits } from './limits.ts'
import { load, readPoint, stance } from './loadFormat.ts'
import { derived, outline, outlineConstraint, outlineCurve, outlinePoint } from './outlineFormat.ts'
import { place } from './placeFormat.ts'
import { pose } from './poseFormat.ts'
import { material, printer } from './printerFormat.ts'

export type { KeptFlex } from './flexFormat.ts'
export type { FieldTexts, Repeat, Triple } from './formatTerms.ts'
export { type KeptLoad, type LoadWay, loadWays, type ReadPoint, type Stance } from './loadFormat.ts'
export type * from './outlineFormat.ts'
export {
  type HeldFrame,
  type Level,
  type LevelPoint,
  levelPoints,
  type Offset,
  type Pivot,
  type PivotLine,
  type Place,
  pivotLines,
  type Seat,
  type Until,
} from './placeFormat.ts'
export { type KeptPose, type Laid, type Laying, layings } from './poseFormat.ts'

export const currentVersion = 14

/** What two operations are called that bundles are put together from; all of them are in the registry of operations. */
export const adds = 'add'
export const cuts = 'cut'

const line = {
  id,
  name,
  mute: flag,
  /** a condition; where it does not hold, the step is left out. Empty: always */
  when: expression,
}

/** A step that acts with a body of its own, at all places where its repeats put it. */
const acting = {
  ...line,
  /** what it does to its piece; the kinds are those of the registry of operations */
  operation: id,
  fields: fieldTexts,
  place,
  repeats,
  /** numbers of the copies that are left out, from 1 in the order of the repeats */
  omit: list(whole(1), { most: documentLimits.omitted }),
  ghost: flag,
}

/** of the fields of its kind; those of the first version are not told */
const version = optional(whole(2, 1000))

const shapeStep = record({ kind: oneOf('shape'), ...acting, shape: id, version })
/** It has the shape of another step. Its fields say how large. */
const sameStep = record({ kind: oneOf('same'), ...acting, of: name })
/** What it holds acts as one body. Its fields say how large. */
const bundleStep = record({
  kind: oneOf('bundle'),
  ...acting,
  steps: list(again<unknown>('step'), { most: documentLimits.steps }),
})
/** It works on what stands so far, without a body of its own. */
const treatmentStep = record({ kind: oneOf('treatment'), ...line, operation: id, fields: fieldTexts, version })

export interface ShapeStep extends Typed<typeof shapeStep> {}
export interface SameStep extends Typed<typeof sameStep> {}
export interface BundleStep extends Omit<Typed<typeof bundleStep>, 'steps'> {
  readonly steps: readonly Step[]
}
export interface TreatmentStep extends Typed<typeof treatmentStep> {}
export type BodyStep = ShapeStep | SameStep | BundleStep
/** One line of the build sheet. */
export type Step = BodyStep | TreatmentStep

const step = named(
  'step',
  byKind(
    'kind',
    { shape: shapeStep, same: sameStep, bundle: bundleStep, treatment: treatmentStep },
    'a shape, a bundle, the shape of another step or a treatment',
  ),
) as Described<Step>

const measure = record({
  id,
  name,
  kind: oneOf(...measureKinds),
  expression,
  note,
  choices: optional(list(name, { most: documentLimits.choices })),
  readings: optional(list(record({ value: number(), at: date }), { most: documentLimits.readings })),
})

/** A named set of values: measure -> the expression that it has in this variant, in place of its own. */
const variant = record({ id, name, values: table(id, expression, { most: documentLimits.measures }) })

/**
 * What is read off the part and can be used by its name. It belongs to the faces that it was taken between: a step's
 * face by its name, or the step's own axis and middle where that is empty.
 */
const readout = record({ id, name, kind: id, of: list(readPoint, { most: 2 }), note })

/** What ties two pieces that move. `place` stands on the bed. */
const joint = record({ id, name, kind: id, pieces: pairOf(id), fields: fieldTexts, place, version })

/** Where the part is looked at from, and how near; lengths in mm. */
const view = record({
  id,
  name,
  /** unit, from the part towards the eye */
  from: triple,
  /** in the middle of the view */
  target: triple,
  /** of the view, across its height */
  tall: number({ above: 0 }),
  parallel: flag,
})

export const pieceColours = ['pewter', 'sand', 'slate', 'sage', 'clay'] as const

/** A finding of a proof that was looked at and is meant to be so: it is told, but counts for nothing until it is worse. */
const setAside = record({
  id,
  /** what found it, and what it said, as data */
  check: id,
  code: id,
  /** the steps, pieces, joints and measures that it is about */
  about: list(id, { most: documentLimits.about }),
  reason: text({ least: 1, most: documentLimits.note }),
  /** how bad it was: how far beyond its limit; left out, what it said in words, which it must still say */
  by: optional(number()),
  said: text({ most: documentLimits.note }),
})

/** One body that prints as one solid. */
const piece = record({
  id,
  name,
  /** one of the muted tints by name, or any colour as #rrggbb */
  colour: anyOf(oneOf(...pieceColours), textLike<`#${string}`>(/^#[0-9a-f]{6}$/)),
  steps: list(step, { most: documentLimits.steps }),
})

/** What was brought in from a file and is referred to by its hash: a picture, a mesh. Once for all who use it. */
const asset = record({
  hash,
  /** of the file that it came from */
  name,
  /** data: URL */
  data: textLike(/^data:[a-z]+\/[a-z0-9.+-]+;base64,[A-Za-z0-9+/=]+$/, {
    most: documentLimits.asset,
    told: 'must be data in base64',
  }),
})

const listOf = <T>(item: Described<T>, most: number, least?: number) =>
  list(item, { most, distinct: 'id', ...(least === undefined ? {} : { least }) })

/** A part: one document. All numbers a maker typed are kept as typed, as expressions. */
const part = record({
  format: oneOf('makrel-part'),
  version: oneOf(currentVersion),
  id,
  name: text({ least: 1, most: documentLimits.name }),
  unit: oneOf(...partUnits),
  /** as they were when the part was last changed with them: it is what it was designed as wherever it is opened */
  printer,
  material,
  note,
  measures: listOf(measure, documentLimits.measures),
  variants: listOf(variant, documentLimits.variants),
  /** the variant in force; empty for the measures as they are typed */
  variant: text({ most: 64 }),
  /** pictures and meshes; where it is kept, apart from the rest and once for all its states */
  assets: list(asset, { most: documentLimits.assets, distinct: 'hash' }),
  outlines: listOf(outline, documentLimits.outlines),
  pieces: listOf(piece, documentLimits.pieces, 1),
  joints: listOf(joint, documentLimits.joints),
  readouts: listOf(readout, documentLimits.readouts),
  /** the step of dragging and arrow keys, a length as it is shown; empty for that of the unit */
  stepSize: text({ most: 40 }),
  /** ways of looking at it that were kept by name */
  views: listOf(view, documentLimits.views),
  /** ways in which its pieces stand that were kept by name */
  poses: listOf(pose, documentLimits.poses),
  /** the pose that it is printed in; empty for how it is drawn */
  printPose: text({ most: 64 }),
  /** how flat things of it bend */
  flexes: listOf(flex, documentLimits.flexes),
  /** what it has to bear */
  loads: listOf(load, documentLimits.loads),
  /** the least that a wall of it may be thick, a length; empty where nothing is asked for */
  leastWall: expression,
  /** how faces of it have to lie when it is printed, where that matters */
  stances: listOf(stance, documentLimits.stances),
  setAside: listOf(setAside, documentLimits.setAside),
})

export interface Asset extends Typed<typeof asset> {}
export interface Variant extends Typed<typeof variant> {}
export interface Readout extends Typed<typeof readout> {}
export interface Joint extends Typed<typeof joint> {}
export interface SetAside extends Typed<typeof setAside> {}
export interface KeptView extends Typed<typeof view> {}
export interface Piece extends Typed<typeof piece> {}
export type PieceColour = Piece['colour']
export interface Part extends Typed<typeof part> {}

/** The structure of a part file of the current version. */
export const partFormat = part

/** What the lists of a part hold, each by itself. */
export const itemFormats = {
  ...{
    measure,
    asset,
    variant,
    step,
    joint,
    readout,
    view,
    pose,
    flex,
    load,
    stance,
    setAside,
    printer,
    material,
    outline,
  },
  ...{ point: outlinePoint, curve: outlineCurve, constraint: outlineConstraint, derived },
} as const

/** What has fields. */
export type FieldOwner =
  | { readonly shape: string }
  /** a bundle, or the shape of another step: how large it is made */
  | { readonly made: true }
  | { readonly treatment: string }
  | { readonly joint: string }
  | { readonly repeat: string }
  | { readonly curve: string }
  | { readonly constraint: string }
  | { readonly derived: string }

export interface FieldKindOf {
  /** The kind of value that a field holds, or undefined where the owner or the field is not known. */
  (owner: FieldOwner, field: string): FieldKind | undefined
  /** What a read-out measures, or undefined where it is not known. */
  (owner: { readonly readout: string }): Dimension | undefined
}
