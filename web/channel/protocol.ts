import type { Edit, KeptFlex, KeptPose, Part, Patch, Readout } from '@makrel/core/document'
import type { BroughtIn, FileSize, FileUnit, OpenedMesh, ReadDrawing, Receipt } from '@makrel/core/exchange'
import type { FlexResult } from '@makrel/core/flex'
import type { LayerHeights } from '@makrel/core/layers'
import type { Judged, Lying } from '@makrel/core/lying'
import type { Wanted } from '@makrel/core/mechanism'
import type { Picture } from '@makrel/core/pictures'
import type { Box, Frame } from '@makrel/core/place'
import type { PackedRings } from '@makrel/core/plane'
import type { SolidReadings } from '@makrel/core/planning'
import type { Result } from '@makrel/core/problems'
import type { Finding, Mark, Reach, SurfaceField, SwingPosition } from '@makrel/core/proof'
import type { CutPlane, PartDrawing, PieceFigures, RenderMesh } from '@makrel/core/solids'

/** What the page asks of its workers, by name: arguments in, answer out. Most are about the part as it was sent last. */
export interface Calls {
  /** Builds the part. `have` names the drawings that the page has already: piece -> key. */
  build: { in: { have: Readonly<Record<string, string>> }; out: BuildAnswer }
  /** Makes ready for edits of these steps of the part that was built last, while nothing else is to be done. */
  prepare: { in: { steps: readonly string[] }; out: undefined }
  /** Builds the part anew a few times and throws that away, while nobody waits: what a worker has run a few times takes a third of the time. */
  practise: { in: Record<never, never>; out: undefined }
  ghost: { in: { step: string }; out: RenderMesh | undefined }
  /** The items that the part takes, as bodies in their places: of each step or joint all of its own in one. */
  items: { in: Record<never, never>; out: readonly { readonly id: string; readonly mesh: RenderMesh }[] }
  /** how much material there is because of a step, mm³ */
  effect: { in: { step: string }; out: number | undefined }
  proof: { in: Record<never, never>; out: readonly Finding[] }
  /** The same, with what was tried to put things right: that may take seconds, and nothing else waits for it. */
  cures: { in: Record<never, never>; out: readonly Finding[] }
  /** What edits would add to the part and take away, as marks on the drawing: of what is offered to put something right. */
  change: { in: { edits: readonly Edit[] }; out: readonly Mark[] }
  /** what each piece comes to, by its id */
  figures: { in: Record<never, never>; out: Readonly<Record<string, PieceFigures>> }
  /** A value all over the pieces that a finding is about. */
  field: { in: { mark: Extract<Mark, { kind: 'field' }> }; out: SurfaceField }
  /** The part that a file holds; answered by the reader's own worker, as the next one. */
  readPart: { in: { text: string }; out: Result<Part> }
  /** A mesh file in its own numbers, and what these most likely mean. */
  openMesh: { in: { file: string; bytes: Uint8Array; bed: readonly [number, number, number] }; out: Result<OpenedMesh> }
  bringIn: { in: { opened: OpenedMesh; unit: FileUnit }; out: Result<readonly BroughtIn[]> }
  /** What a file from elsewhere draws. */
  readDrawing: {
    in: { name: string; text: string; mmPerUnit: number | undefined }
    out: Result<ReadDrawing>
  }
  /** Pictures of kinds of shapes, of those that have a solid of their own. */
  pictures: { in: { width: number; height: number }; out: readonly ShapePicture[] }
  /** A tree of the triangles of a drawing, in which what lies under the pointer is found. */
  tree: { in: { positions: Float32Array }; out: PickTree }
  /** What was on the drawing as the bytes of a picture: read off the graphics card and compressed where nobody waits for it. */
  compress: { in: { bitmap: ImageBitmap }; out: Blob }
  /** `compensated`: for what the printer and the material do */
  section: { in: { z: number; compensated: boolean }; out: readonly PieceSection[] }
  /** All pieces cut open by a plane. */
  cutaway: { in: CutPlane; out: readonly PieceMesh[] }
  /** what these read-outs come to that are taken off the solids */
  read: { in: { readouts: readonly Readout[] }; out: SolidReadings['values'] }
  /** The drawings of one step's own shape alone, or of the part as it is without the step. */
  inspect: { in: { step: string; show: 'alone' | 'without' | 'until' }; out: readonly PieceMesh[] }
  areas: { in: { heights: LayerHeights; count: number; compensated: boolean }; out: readonly number[] }
  /** All pieces with joints at these positions, the latest last, and how all have moved, by their ids. */
  swing: { in: { wanted: Wanted; joint: string }; out: { at: SwingPosition; motions: Readonly<Record<string, Frame>> } }
  /** one position of the whole travel */
  sweep: { in: { wanted: Wanted; joint: string }; out: SwingPosition }
  /** How far one freedom goes both ways before something meets; undefined where it goes as far as it may. */
  reach: {
    in: { wanted: Wanted; joint: string; index: number; ends: readonly (readonly [from: number, to: number])[] }
    out: readonly (Reach | undefined)[]
  }
  /** Where all pieces have moved to in a pose, by the ids of the part's, and the box that they are in there. */
  posed: { in: { pose: KeptPose }; out: { motions: Readonly<Record<string, Frame>>; box: Box | undefined } }
  /** How something flat of the part bends. */
  flex: { in: { flex: KeptFlex }; out: FlexResult }
  /** Where its pieces would lie side by side. */
  spread: { in: { pose: KeptPose }; out: KeptPose['laid'] }
  /** Ways in which what is printed together can lie, the best first, each with a picture. */
  lying: { in: { width: number; height: number }; out: readonly PicturedLying[] }
  handOff: {
    in: HandOffWanted
    out: { bytes: Uint8Array; receipt: Receipt; findings: readonly Finding[] }
  }
  /** the same for every variant: one archive, a receipt and a proof for each */
  handOffVariants: {
    in: HandOffWanted
    out: {
      file: string
      bytes: Uint8Array
      written: readonly { readonly receipt: Receipt; readonly findings: readonly Finding[] }[]
    }
  }
}

/** A picture of a kind of shape, by the kind. */
export interface ShapePicture extends Picture {
  readonly kind: string
}

export interface HandOffWanted {
  readonly format: string
  readonly fineness: number
  readonly piece?: string | undefined
  /** the id of a pose, or empty for how it is drawn; how it is printed where none is told */
  readonly pose?: string | undefined
  /** with what the printer and the material do made up for */
  readonly compensated: boolean
  /** how large it is; as drawn where that is not told */
  readonly size?: FileSize | undefined
  readonly unit: FileUnit
}

export interface BuildAnswer extends PartDrawing {
  readonly buildMs: number
}

export interface PickTree {
  readonly roots: readonly ArrayBuffer[]
  /** places of triangles, in the order of the tree */
  readonly order: Uint32Array | Uint16Array
}

export interface PieceMesh {
  readonly piece: string
  readonly mesh: RenderMesh | undefined
}

export interface PieceSection {
  readonly piece: string
  /** mm² */
  readonly area: number
  readonly rings: PackedRings
}

export interface PicturedLying extends Omit<Lying, 'ways'> {
  readonly ways: readonly (Judged & { readonly picture: Picture })[]
}

export type CallName = keyof Calls

/** Who answers what: each kind of worker, with its calls. */
export const answering = {
  solids: ['build', 'prepare', 'practise', 'ghost', 'items', 'cutaway', 'inspect', 'pictures'],
  checks: [
    'proof',
    'cures',
    'figures',
    'change',
    'field',
    'effect',
    'read',
    'section',
    'areas',
    'swing',
    'sweep',
    'reach',
    'posed',
    'spread',
    'lying',
    'flex',
    'handOff',
    'handOffVariants',
  ],
  picking: ['tree', 'compress'],
  files: ['readPart', 'readDrawing', 'openMesh', 'bringIn'],
} as const satisfies Readonly<Record<string, readonly CallName[]>>
export type NameOf<K extends keyof typeof answering> = (typeof answering)[K][number]

/** What takes long and is not watched: other calls to the same worker are answered before it, and in between. */
export const patient: readonly CallName[] = [
  ...(['prepare', 'practise', 'proof', 'figures', 'cures', 'lying'] as const),
  ...(['handOff', 'handOffVariants'] as const),
]

/** Calls that nobody waits for any more once this one is made: of most kinds only the latest is wanted. */
export const overtakes: Partial<Readonly<Record<CallName, readonly CallName[]>>> = {
  build: ['build', 'prepare', 'practise'],
  ...{
    prepare: ['prepare'],
    cutaway: ['cutaway'],
    inspect: ['inspect'],
    proof: ['proof', 'figures', 'cures', 'lying'],
    field: ['field'],
    change: ['change'],
    effect: ['effect'],
  },
  ...{
    read: ['read'],
    section: ['section'],
    areas: ['areas'],
    swing: ['swing', 'reach'],
    reach: ['reach'],
    flex: ['flex'],
  },
  ...{ handOff: ['handOff', 'handOffVariants'], handOffVariants: ['handOff', 'handOffVariants'] },
}

/** The part that a call is about: whole, or what has changed since the one that was sent before. */
export type PartSent = { readonly whole: Part } | { readonly patch: Patch }

export interface Request<N extends CallName = CallName> {
  readonly id: number
  readonly name: N
  readonly input: Calls[N]['in']
  readonly part?: PartSent | undefined
}
/** What a call came to is not wanted any more. */
export interface Cancelling {
  readonly cancel: number
}
export type Response = { readonly id: number } & (
  | { readonly ok: true; readonly output: unknown }
  | { readonly ok: false; readonly message: string }
)
/** How far a call is, before it is answered. */
export interface Progress {
  readonly id: number
  readonly done: number
  readonly of: number
  /** what is known already */
  readonly found?: readonly Finding[] | undefined
}
