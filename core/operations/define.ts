import type { FaceName, Fields, SentencePart, ValuesOf, Versioned } from '../fields/index.ts'
import type { Scope, Solid } from '../kernel/index.ts'
import type { NamedSolid, SurfaceTelling } from '../naming/index.ts'
import type { Box, Frame, Vec3 } from '../place/index.ts'
import type { Offer, ProblemCode, ProblemData } from '../problems/index.ts'
import type { Construction, Eased } from '../walls/index.ts'

/** What a step does to its piece. Some act with a body that stands somewhere, others on what stands so far. */
export type OperationDefinition = BodyOperation | Treatment

interface OperationBase {
  /** stored in part files */
  readonly kind: string
  /** how the line begins: "Add" */
  readonly label: string
  /** in a few words, beside its label in a list */
  readonly hint: string
  /** how the number of its line looks */
  readonly look: 'more' | 'less' | 'within' | 'changed'
  /** what it leaves of the material where it acts */
  readonly material: 'more' | 'less' | 'other'
}

/** It acts with a body: a shape, a bundle, the shape of another step. */
export interface BodyOperation extends OperationBase {
  readonly acts: 'with-body'
  /** whether a new body stands on its seat or lies in it */
  readonly rest: 'on' | 'in'
  /**
   * Whether several in a row are one operation of the library. These may change places with what they do not meet; any
   * other keeps its place among all.
   */
  readonly gathers: boolean
  /** what is said of a body that did nothing, where that can be */
  readonly idle?: ProblemCode
  apply(work: BodyWork): Applied
}

/** It works on what stands so far, by its own fields. */
export interface Treatment<F extends Fields = Fields> extends OperationBase, Versioned {
  readonly acts: 'alone'
  /** further words it is found by */
  readonly words: readonly string[]
  /** what it does at a face that is selected: "Shift its top" */
  offer?(face: string): string
  /** fields that take the numbers typed behind its name, in order */
  readonly quick: readonly (keyof F & string)[]
  /** a path in a box of 32 by 24 */
  readonly icon: string
  /** the size that the drawing shows at a leader to one of its faces, and what stands before it */
  readonly leader?: { readonly field: keyof F & string; readonly form: 'radius' | 'leader' }
  readonly fields: F
  sentence(values: ValuesOf<F>): readonly SentencePart[]
  /** Why these values come to nothing, in plain words, with the field to blame; undefined where they do. */
  impossible?(values: ValuesOf<F>): { field: keyof F & string; detail: string } | undefined
  /** How far it reaches, where that is less than all that stands: it may change places with what it does not meet. */
  touches?(values: ValuesOf<F>): Box
  /** Faces that it moves along their normals, outward, by so many mm: what comes later stands on them where they are then. */
  moves?(values: ValuesOf<F>): { readonly faces: readonly FaceName[]; readonly by: number }
  /** Of what only takes material away along outer edges: from which, and how much. */
  eases?(values: ValuesOf<F>): Eased
  /** What the material reaches afterwards; as far as before by default. */
  grown?(values: ValuesOf<F>, material: Box): Box
  /**
   * What one body becomes: none, one or several.
   * @throws ProblemError
   */
  apply(values: ValuesOf<F>, work: TreatmentWork): readonly Solid[]
}

/** Keeps the fields' types while a definition is written; the registry holds them without. */
export function defineTreatment<const F extends Fields>(definition: Treatment<F>): Treatment {
  return definition as unknown as Treatment
}

export interface Acting {
  /** where it stands */
  readonly solid: Solid
  /** the same, ready to act: a little larger where it lies obliquely against others, which `closed` takes back */
  readonly grown: Solid
  /** ids that its surfaces carry, and nothing else */
  readonly originals: () => readonly number[]
}

export interface BodyWork {
  readonly scope: Scope
  /** what stands so far; undefined where nothing does */
  readonly standing: Solid | undefined
  /** the same with corners that were computed back where they were meant, for what stands flush on them */
  readonly meant: () => Solid | undefined
  readonly acting: readonly Acting[]
  closed(solid: Solid): Solid
}

export interface Applied {
  /** of the scope that it was given */
  readonly solid: Solid
  /** which of those that act did nothing, from 0 */
  readonly idle: readonly number[]
}

export interface TreatmentWork {
  readonly scope: Scope
  /** chord tolerance, mm */
  readonly fineness: number
  readonly solid: Solid
  /** the same, with how it came to be */
  readonly construction: Construction
  /** unit, away from the bed, as the solid stands */
  readonly up: Vec3
  /** where the planes lie that its fields name: seen along their normals, `u` to the right */
  readonly planes: Readonly<Record<string, Frame>>
  /** a solid's triangles with the faces that they are of, and its edges: of this one, or of what was made of it */
  readonly named: (solid: Solid) => NamedSolid
  /** Makes a solid's surfaces those of this step; `tell` names them. */
  own(solid: Solid, tell: SurfaceTelling): Solid
  /** The id of a surface of this step, for a solid that is made in runs; `tell` names what it is of. */
  ownRun(tell: SurfaceTelling): number
  /** What `make` makes, kept for the step's next change where the same key means the same solids. They may not be empty. */
  kept(key: string, make: () => readonly Solid[]): readonly Solid[]
  /** says what it found nothing of here, on the step's line: told where no body of the piece has any */
  miss<Code extends ProblemCode>(code: Code, data: ProblemData<Code>): void
  /** says what could not be done, on the step's line, with what would do instead */
  advise<Code extends ProblemCode>(code: Code, data: ProblemData<Code>, offer?: Offer): void
}
