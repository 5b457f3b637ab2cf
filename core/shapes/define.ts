import type { FieldTexts } from '../document/index.ts'
import type { Fields, SentencePart, ValuesOf, Versioned } from '../fields/index.ts'
import type { Item } from '../hardware/index.ts'
import type { Ring, Scope, Solid } from '../kernel/index.ts'
import type { Box, Frame, Vec3 } from '../place/index.ts'
import type { OfferedText } from '../problems/index.ts'
import type { ShapeEdge } from './edges.ts'
import type { Sheet } from './sheet.ts'
import type { SpringFacts, SpringStuff } from './springs/define.ts'
import type { Surfaces } from './surfaces.ts'

/** A drafting dimension in the shape's own frame. The line runs beside `from`–`to`, moved by `offset`. */
export type DimensionLine =
  | {
      readonly kind: 'linear'
      readonly field: string
      readonly from: Vec3
      readonly to: Vec3
      /** unit direction from the measured points towards the dimension line */
      readonly offset: Vec3
    }
  | {
      readonly kind: 'diameter' | 'radius'
      readonly field: string
      readonly centre: Vec3
      /** in the plane of the circle, unit */
      readonly direction: Vec3
      readonly radius: number
    }

export interface ShapeContext {
  readonly scope: Scope
  /** chord tolerance, mm */
  readonly fineness: number
  /** whether the shape takes material away: its outer rounds are then circumscribed, so that a bore takes its pin */
  readonly cuts: boolean
  /** how deep a "through" shape must go to clear everything there is, mm */
  readonly through: number
  /** straight up from the bed, in the shape's own frame, for shapes that know it */
  readonly up: Vec3
  /** how far a cut that begins at a face reaches out of it, mm, so that no skin stays */
  readonly overlap: number
  /** what stands already, in the shape's own frame, for shapes that go on to what they meet; undefined where nothing does */
  readonly material?: Solid | undefined
}

export interface Prism {
  readonly low: number
  readonly high: number
  /** outer rings counter-clockwise, holes clockwise */
  rings(): readonly Ring[]
}

/** What a trade word asks for: "hexagon 13 10" is a prism with six sides, 13 across its flats and 10 high. */
export interface NamedForm {
  readonly word: string
  /** what it sets, whatever is typed behind it */
  readonly fields?: FieldTexts
  readonly operation?: string
  /** what the numbers typed behind it are, in order; those of the shape by default */
  readonly quick?: readonly QuickField[]
  /** where they are not fields as they stand: what they come to */
  take?(values: readonly string[]): FieldTexts
}

/** A round face that a new step goes on. */
export interface RoundOn {
  /** diameter, mm */
  readonly across: number
  /** of a bore, not of a bar */
  readonly inside: boolean
  /** its item was typed, and stays */
  readonly chosen: boolean
}

/** An item that is bought, where it lies in what was made for it. */
export interface HeldItem {
  readonly item: Item
  /** in the frame of what holds it: the middle of its upper end, `n` the way that it comes from */
  readonly frame: Frame
  /** of what comes in many lengths, how far it reaches here, mm */
  readonly length?: number | undefined
  /** the length to buy, mm, where it can be told */
  readonly bought?: number | undefined
  /** it is pressed in by so much on each side, mm */
  readonly pressed: number
  /** how it gets there: from above, from the side (along `u`), or before the layers above it are laid */
  readonly way: 'above' | 'side' | 'closed in'
  /** of a joint: in which of its pieces it lies before these are put together; in both where that is not told */
  readonly side?: 0 | 1
  /** room above it where it is closed in, mm */
  readonly room?: number
  /** it needs so much material round it, mm */
  readonly wall?: number | undefined
  /** material that it is told to go through, by the width of its hole and depths below its upper end, mm */
  readonly through?: { readonly across: number; readonly from: number; readonly to: number } | undefined
  /** from which depth to which its thread is to bite, below its upper end, mm */
  readonly bites?: { readonly from: number; readonly to: number } | undefined
}

/** A field that a typed number fills; `with` sets others along with it. */
export type QuickField = string | { readonly field: string; readonly with: FieldTexts }

/** A typed value as part of an expression: "wall + 2" in brackets, "12.5" as it is. */
export function operandText(value: string): string {
  return /^[\p{L}\p{N}_.]+$/u.test(value.trim()) ? value.trim() : `(${value.trim()})`
}

/** Why values make no shape, with the field to blame, and what would do for a field where that can be told. */
export interface ImpossibleBy<Field extends string> {
  readonly field: Field
  readonly detail: string
  readonly nearest?: { readonly field: Field; readonly value: number } | undefined
  /** the same of a field that holds no number */
  readonly instead?: OfferedText | undefined
}

export interface ShapeDefinition<F extends Fields = Fields> extends Versioned {
  /** stored in part files */
  readonly kind: string
  readonly label: string
  /** further words it is found by; some of them ask for a certain form of it */
  readonly words: readonly (string | NamedForm)[]
  readonly shelf: Shelf
  /** its drawing on the shelf: SVG path data in a 32 × 24 box */
  readonly icon: string
  /** what it does unless something else is chosen */
  readonly operation: string
  /** its solid depends on which way is up, whatever it stands on */
  readonly knowsUp?: boolean
  /** it goes on to what stands before it, and is built after that */
  readonly meets?: boolean
  /** what it is measured by and stood on; it adds and takes nothing */
  readonly datum?: boolean
  /** for what can go up to a face: whether these values ask for it, and the values that go as deep as was found, mm */
  readonly upTo?: {
    wanted(values: ValuesOf<F>): boolean
    to(values: ValuesOf<F>, depth: number): ValuesOf<F>
    /** it goes up from where it stands, not down */
    readonly rises?: boolean
  }
  /** the field that is its depth where it cuts: beside that, it can go through */
  readonly deep?: keyof F & string
  /** what is drawn stands where it was drawn, not about its middle: "centred" is then the middle of its extents */
  readonly drawn?: boolean
  /** it is several bodies that hang in one another, and is meant to be */
  readonly loose?: boolean
  /** whether its flats are not halved where the fineness is a quarter, as those of all others are */
  isUneven?(values: ValuesOf<F>): boolean
  /** its flat faces are fitted to its triangles, whose corners lie a little off them */
  readonly fitsFaces?: boolean
  /** it is placed by its axis, whatever its extents are to all sides */
  readonly wheel?: boolean
  /** those of its faces, by their names, that run on another part with a gap that was asked for: they are printed as they are drawn */
  readonly mates?: RegExp
  /** it is for round faces alone */
  readonly roundOnly?: boolean
  /** Why it does not go on the round that its values were fitted to; undefined where it does. */
  unfit?(values: ValuesOf<F>): ImpossibleBy<keyof F & string> | undefined
  /** On a round face of this signed radius (negative in a bore): the values that fit it, whatever was typed. */
  fitted?(values: ValuesOf<F>, round: number): ValuesOf<F>
  /** holes begin at the face and go in; solids stand on it */
  readonly seat: 'stands' | 'enters'
  /** whether its own origin stays on the seat, whatever reaches below; a hole's always does */
  straddles?(values: ValuesOf<F>): boolean
  readonly fields: F
  /** What a new one begins with on a round face of this diameter, as text. */
  onRound?(diameter: string, face: RoundOn): FieldTexts
  /** fields that numbers typed behind its name fill, in order; `with` sets others along with one */
  readonly quick: readonly ((keyof F & string) | { readonly field: keyof F & string; readonly with: FieldTexts })[]
  sentence(values: ValuesOf<F>): readonly SentencePart[]
  /** what is said instead where it takes material away */
  cutting?(values: ValuesOf<F>): readonly SentencePart[]
  /** Why these values make no shape, in plain words, with the field to blame; undefined where they do. */
  impossible?(values: ValuesOf<F>): ImpossibleBy<keyof F & string> | undefined
  /** True extents in the shape's own frame, without any overlap. `through` as in the context. */
  box(values: ValuesOf<F>, through: number): Box
  /** How far it reaches along a unit direction from its origin; the box's corners by default. */
  reach?(values: ValuesOf<F>, direction: Vec3): number
  /** The item that it is for, where it lies. `through` as in the context. */
  held?(values: ValuesOf<F>, through: number): HeldItem | undefined
  /** Of a spring: what it does, in a material, as its formula has it. */
  spring?(values: ValuesOf<F>, stuff: SpringStuff): SpringFacts
  /** For values that are flat, upright all round: what of its plane it fills, and how thick it is, mm. */
  sheet?(values: ValuesOf<F>): Sheet | undefined
  /** For values that make a prism along z: between which heights, and its outline. Its solid is that outline extruded. */
  prism?(values: ValuesOf<F>, context: Omit<ShapeContext, 'scope'>): Prism | undefined
  /** All its surfaces, those to stand on among them, and which of them a point is on. */
  surfaces(values: ValuesOf<F>): Surfaces
  /** Edges that its faces, seen along its axis, do not give: rounds, mouths, shortened sides. `up` as in the context. */
  edges?(values: ValuesOf<F>, up: Vec3): readonly ShapeEdge[]
  dimensions(values: ValuesOf<F>): readonly DimensionLine[]
  /**
   * The solid, standing on z = 0 about the z axis ("stands") or going down from it ("enters").
   * @throws ProblemError too-many-triangles, kernel-failed
   */
  solid(values: ValuesOf<F>, context: ShapeContext): Solid
}

export const shelves = ['solids', 'holes', 'machine', 'outlines', 'labels', 'datums', 'imported'] as const
export type Shelf = (typeof shelves)[number]

/** Keeps the fields' types while a definition is written; the registry holds them without. */
export function defineShape<const F extends Fields>(definition: ShapeDefinition<F>): ShapeDefinition {
  return definition as unknown as ShapeDefinition
}

/** How far the eight corners of a box reach along a direction. */
export function boxReach({ min, max }: Box, d: Vec3): number {
  const along = (i: 0 | 1 | 2) => Math.max(min[i] * d[i], max[i] * d[i])
  return along(0) + along(1) + along(2)
}

/** How far a disc reaches along a direction: of `radius` about the z axis at height `z`. */
export function discReach(radius: number, z: number, d: Vec3): number {
  return radius * Math.hypot(d[0], d[1]) + z * d[2]
}
