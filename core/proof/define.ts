import { type Edit, findStep, kindWord, type SetAside } from '../document/index.ts'
import type { FaceName } from '../fields/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import type { LaidPlace, Sections } from '../layers/index.ts'
import type { KnownSurfaces, MeshFigures, TriangleTree } from '../mesh/index.ts'
import type { SolidEdge } from '../naming/index.ts'
import type { Vec2 } from '../plane/index.ts'
import type { ResolvedPart } from '../planning/index.ts'
import type { Built, BuiltPiece, facesOf, TwiceBuilt } from '../solids/index.ts'
import { type Clause, clause, type Texts, type ValuesIn } from './phrase.ts'

/** What a finding says about the part. A fault must be mended before printing; a pass says what was found sound. */
export type FindingRank = 'pass' | 'advice' | 'warning' | 'fault'

/** What a check has found, as data; it is said in words once, at the end of the proof. */
export interface Found extends Clause {
  readonly check: string
  readonly rank: FindingRank
  /** what it is about, to be selected: pieces, steps, joints or measures by id */
  readonly about: readonly { readonly kind: 'piece' | 'step' | 'joint' | 'measure'; readonly id: string }[]
  /** it is about the chosen printer alone: the solid is sound, and another printer may take it */
  readonly ofPrinter?: true
  /** where on the part it is */
  readonly marks?: readonly Mark[]
  /** what would put it right, each by itself */
  readonly cures?: readonly FoundCure[]
  /** what was built to put it right, and did not, or made something else worse */
  readonly tried?: readonly Clause[]
  /** how far it is beyond what it should be, or how much of it is: more is worse */
  readonly by?: number
  /** what would put it right, if a size of what it is about can be made larger for it */
  readonly resize?: Resize
  /** where it is bridged over too far */
  readonly spanned?: Spanned
  /** faces of a piece between which it is thin */
  readonly between?: { readonly piece: string; readonly faces: readonly FaceName[] }
  /** triangles of a piece below which nothing is */
  readonly under?: { readonly piece: string; readonly triangles: readonly number[] }
}

/** A size that is asked for, mm; `after`: what is said of it then, with its `size` left open. */
export interface Resize {
  readonly from: number
  readonly to: number
  /** what is tried where that is not enough */
  readonly orTo?: number
  readonly after: Clause
}

/** What is bridged over too far: a stretch of it, where webs could stand. Lengths in mm, the middle on the bed. */
export interface Spanned {
  readonly piece: string
  readonly middle: Vec2
  /** unit: the way that its lines run */
  readonly along: Vec2
  /** how long they are, and how far the first lies from the last */
  readonly long: number
  readonly wide: number
  /** from what is below it to its underside */
  readonly low: number
  readonly high: number
}

/** What was found, in words as well. */
export interface Finding extends Omit<Found, 'cures' | 'resize' | 'spanned' | 'between' | 'under' | 'tried'> {
  readonly text: string
  /** it was set aside, and is no worse since: it counts for nothing */
  readonly aside?: SetAside
  readonly cures?: readonly Cure[]
  readonly tried?: readonly string[]
}

/** Something to be seen on the part; x, y, z of each corner, mm. */
export type Mark =
  /** a value all over the surfaces of these pieces: worked out when it is looked at, see `fieldOf` */
  | { readonly kind: 'field'; readonly field: string; readonly pieces: readonly string[] }
  | { readonly kind: 'lines'; readonly points: Float32Array }
  /** `as`: what a change puts there, or takes away */
  | { readonly kind: 'triangles'; readonly points: Float32Array; readonly as?: 'added' | 'removed' }
  /** `values`: one for each point, shown on a scale */
  | {
      readonly kind: 'points'
      readonly points: Float32Array
      readonly values?: {
        readonly of: Float32Array
        readonly unit: 'mm' | 'degrees'
        readonly from: number
        readonly to: number
      }
    }

/** Edits that put a finding right, made and undone as one. */
interface CureIn<Words> {
  /** what it does: "Lower it by 3 mm" */
  readonly label: Words
  readonly edits: readonly Edit[]
  /** it puts something where nothing was: it may border on what it likes, or open, close and part openings as well */
  readonly free?: 'borders' | 'all'
  /** in words for a maker: how it is, and how it will be */
  readonly before: Words
  readonly after: Words
}
export type FoundCure = CureIn<Clause>
export type Cure = CureIn<string>

type More = Partial<Pick<Found, 'ofPrinter' | 'marks' | 'cures' | 'by' | 'resize' | 'spanned' | 'between' | 'under'>>

/** What a check finds about these, one finding at a time. */
export function findingOf<T extends Texts>(check: string, texts: T, about: Found['about']) {
  return <C extends keyof T & string>(rank: FindingRank, code: C, values: ValuesIn<T[C]>, more: More = {}): Found => ({
    ...{ check, rank, about },
    ...clause(texts, code, values),
    ...more,
  })
}

export interface ProofPiece {
  readonly built: BuiltPiece
  /** undefined where the piece has no material */
  readonly figures: MeshFigures | undefined
}

export interface ProofContext {
  readonly kernel: Kernel
  readonly built: Built
  readonly pieces: readonly ProofPiece[]
  /** the part at two finenesses, for what is measured as it is meant; without it, figures are those of the flats */
  twice?: (() => Promise<TwiceBuilt>) | undefined
  /** The edges of a piece, found when they are first asked for. */
  edges(piece: ProofPiece): readonly SolidEdge[]
  /** The faces of a piece that has material, and which of them each triangle is of; named when that is first asked for. */
  faces(piece: ProofPiece): ReturnType<typeof facesOf>
  /** The layers of a piece that has material; each is cut when it is first asked for. */
  sections(piece: ProofPiece): Sections
  /** What its printer lays of a piece that has material, in groups of places that hang together. */
  laid(piece: ProofPiece): Promise<readonly (readonly LaidPlace[])[]>
  /** The surface of a piece that has material, to be asked what is near; made when it is first asked for. */
  tree(piece: ProofPiece): TriangleTree
  /** The same of any solid, such as one at the second fineness. */
  surface(solid: Solid): TriangleTree
  /** What was told of triangles of surfaces in this proof, and in those before. */
  readonly surfaces: KnownSurfaces
  /** All that the sheet of a part comes to, in a text: for what follows from more of it than can be named. */
  sheet(): string
  /**
   * What a check finds of some pieces, found once for all that it follows from: their solids, and `from`, all else that it looks at. The
   * same pieces with the same of these have the same findings.
   */
  kept(
    check: string,
    pieces: readonly ProofPiece[],
    from: unknown,
    find: () => readonly Found[] | Promise<readonly Found[]>,
  ): Promise<readonly Found[]>
  /**
   * To be waited for now and then by what takes long: others get their turn.
   * @throws BuildAborted where nobody waits for the proof any more
   */
  pause(): Promise<void>
}

type Findings = readonly Found[] | Promise<readonly Found[]>

interface CheckBase {
  readonly id: string
  readonly label: string
  /** what it looks at, in a sentence */
  readonly meaning: string
  /** all that it may say */
  readonly texts: Texts
}

/**
 * A check looks at the whole part, or at each piece that has material by itself: one that fails takes no other away. `from`: all that its
 * findings follow from beside the solids and names of the pieces; without it a check keeps what it finds of each pair, or each test, by itself.
 */
export type Check =
  | (CheckBase & {
      readonly scope: 'part'
      from?(context: ProofContext): unknown
      run(context: ProofContext): Findings
    })
  | (CheckBase & {
      readonly scope: 'piece'
      from(context: ProofContext, piece: ProofPiece): unknown
      run(context: ProofContext, piece: ProofPiece): Findings
    })

/** "Step 3 of Piece 1 (plate)"; what it is called where it has a name. */
export function stepName(resolved: ResolvedPart, id: string): string {
  const found = findStep(resolved.part, id)
  if (!found) return 'A step'
  const { piece, step, index, bundles } = found
  const place = bundles.length > 0 ? `${bundles.at(-1)!.name || 'a bundle'} in ${piece.name}` : piece.name
  return `Step ${index + 1} of ${place} (${step.name || (resolved.steps.get(id)?.shape?.label ?? kindWord(step))})`
}
