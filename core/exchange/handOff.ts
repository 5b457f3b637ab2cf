import { type Compensation, type Stayed, scaledCompensation } from '../compensation/index.ts'
import { colourHex, flattened, kindWord } from '../document/index.ts'
import { liesOn } from '../fits/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { meshFigures, scaledMesh, type TriangleMesh, tidied } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { printPoseOf } from '../planning/index.ts'
import { ProblemError } from '../problems/index.ts'
import {
  asPrinted,
  type Built,
  type FiguresWay,
  figuresOf,
  isAlike,
  type Printed,
  type TwiceBuilt,
} from '../solids/index.ts'
import { formatArea, formatSize, type PartUnit } from '../units/index.ts'
import { type MeshFormat, unitText, type WrittenPiece } from './define.ts'
import { type Bounds, boundsOf, boxesOf, chosenOf, type FileSize, fileScale, scaleFor } from './fileSize.ts'
import { type FileUnit, unitNamed } from './fileUnits.ts'
import { type BoughtLine, hardwareOf, type PauseLine } from './hardware.ts'

/** How much a written file may differ from its solid: a millionth of its volume, beside rounding; a thousandth of a mm of size. */
const tolerance = { volume: 1e-6, bounds: 1e-3 } as const

/** Files hold numbers in single precision: each is rounded by no more than this share of it. */
const rounded = 2 ** -24

/** How much the volume of a file may be off, mm³: where walls are rounded outwards all over its surface, and a millionth. */
export function volumeTolerance({ min, max, area, solidVolume }: Receipt): number {
  const farthest = Math.max(...[...min, ...max].map(Math.abs))
  return tolerance.volume * solidVolume + area * farthest * rounded
}

/** The share of their volume that solids may lack or exceed in a file, because flats stand for their rounds, untold. */
const mostFlatsOff = 0.005

/** What was measured on the bytes of a written file, beside what they were written from. */
export interface Receipt extends Bounds {
  readonly format: string
  readonly file: string
  /** the name of the variant in force; empty where there is none */
  readonly variant: string
  /** the name of the pose that it stands in; empty where it is as drawn */
  readonly pose: string
  /** what its numbers mean, and whether it says so */
  readonly unit: string
  /** how many times as large as it is drawn */
  readonly scale: number
  /** what that follows from; undefined where it is as drawn */
  readonly size: FileSize | undefined
  readonly bytes: number
  readonly fineness: number
  readonly pieces: readonly string[]
  /** how many pieces the file holds, read back */
  readonly piecesRead: number
  readonly closed: boolean
  readonly oriented: boolean
  readonly triangles: number
  /** separate solids in the file */
  readonly solids: number
  /** mm³ of each closed cavity in them */
  readonly cavities: readonly number[]
  /** mm³, read back from the file, and of the solids themselves */
  readonly volume: number
  readonly solidVolume: number
  /** mm³ of the solids as they are meant, with true rounds, and how that was found */
  readonly trueVolume: number
  readonly trueWay: FiguresWay
  /** how far that may be off to either side, mm³; undefined where nothing tells */
  readonly trueError: number | undefined
  /** what is right in the file, and may still not be what is wanted */
  readonly warnings: readonly string[]
  /** mm², read back, as are the bounds */
  readonly area: number
  /** of the solids as they are drawn, before anything is made up for: mm³, mm */
  readonly drawn: Bounds & { readonly volume: number }
  /** what the file makes up for, and what stays as it is drawn in it; undefined where all of it is as drawn */
  readonly compensation: (Compensation & { readonly stayed: readonly StayedIn[] }) | undefined
  /** what has to be bought for it */
  readonly hardware: readonly BoughtLine[]
  /** what is put in while the print pauses */
  readonly pauses: readonly PauseLine[]
  /** steps left out because they are muted */
  readonly muted: readonly string[]
}

/** What stays as it is drawn, and of which piece, by its name. */
export interface StayedIn extends Stayed {
  readonly piece: string
  /** what the receipt says of it; undefined where it is not worth a word, or meant so */
  readonly warning?: string
}

export interface HandOff {
  readonly bytes: Uint8Array
  readonly receipt: Receipt
}

export interface HandOffOptions {
  readonly fineness: number
  /** the only piece to write; all where none is named */
  readonly piece?: string | undefined
  /** the name of the pose that the built part stands in */
  readonly pose?: string | undefined
  /** how large the file is; as drawn where that is not told */
  readonly size?: FileSize | undefined
  /** in which its numbers are; mm where that is not told */
  readonly unit?: FileUnit | undefined
}

/** What the files of a built part are written and measured with. */
export interface Leaving {
  /** the same part for measuring what it is meant to be */
  readonly twice: TwiceBuilt
  /** the part with what its printer does compensated for; else the file is as drawn */
  readonly compensated?: CompensatedPart | undefined
}

export interface CompensatedPart extends Pick<Printed, 'built' | 'stayed'> {
  readonly compensation: Compensation
}

/** Compensates the pieces that leave, for as long as they are used; for nothing where nothing is asked for. */
export async function withCompensation<T>(
  kernel: Kernel,
  built: Built,
  wanted: Pick<HandOffOptions, 'piece' | 'size'> & { readonly compensation: Compensation | undefined },
  use: (compensated: CompensatedPart | undefined) => Promise<T>,
): Promise<T> {
  const { compensation } = wanted
  if (!compensation) return use(undefined)
  const only = new Set(chosenOf(built, wanted.piece).map((each) => each.piece.id))
  // Of what leaves twice as large, half as much is made up for before.
  const compensated = asPrinted(kernel, built, scaledCompensation(compensation, 1 / fileScale(built, wanted)), only)
  try {
    return await use({ ...compensated, compensation })
  } finally {
    compensated.release()
  }
}

/**
 * Writes the pieces of a built part, reads the bytes back and measures them; the bytes are given only when they agree
 * with the solids.
 * @throws ProblemError export-nothing, export-differs, scale-limits
 */
export function handOff(built: Built, format: MeshFormat, options: HandOffOptions & Leaving): HandOff {
  const { compensated, unit = 'mm' } = options
  const chosen = chosenOf(built, options.piece)
  if (chosen.length === 0) {
    const detail = options.piece === undefined ? 'all of its pieces are left out' : 'there is no such piece'
    throw new ProblemError('export-nothing', { detail })
  }
  const empty = chosen.find(({ solid }) => !solid)
  if (empty) throw new ProblemError('export-nothing', { detail: `${empty.piece.name} has no solid` })
  const { part } = built.resolved
  const drawn = chosen.map(({ solid }) => solid!)
  const scale = scaleFor(options.size, drawn)
  const solids = chosen.map(
    ({ piece, solid }) => compensated?.built.pieces.find((own) => own.piece.id === piece.id)?.solid ?? solid!,
  )
  const written = chosen.map(
    ({ piece }, i): WrittenPiece => ({
      name: piece.name,
      colour: colourHex(piece.colour),
      mesh: tidied(scaledMesh(solids[i]!.mesh(), scale / unitNamed(unit).mm)),
    }),
  )
  const bytes = format.write(written, part.name, unit)
  const steps = (
    options.piece === undefined ? part.pieces : chosen.flatMap(({ piece, holds }) => holds ?? [piece])
  ).flatMap(({ steps: own }) => flattened(own))
  const variant = part.variants.find(({ id }) => id === part.variant)?.name ?? ''
  const piece = chosen.length === 1 && built.pieces.length > 1 ? chosen[0]!.piece.name : ''
  const pose = options.pose === printPoseOf(part)?.name ? '' : options.pose
  const name = [part.name, piece, variant, pose].filter(Boolean).join(' ')
  const figures = figuresOf(options.twice)
  const meant = chosen.map((each) => figures[each.piece.id]!)
  const warnings: string[] = []
  const receipt: Receipt = {
    warnings,
    format: format.id,
    file: `${fileName(name)}.${format.extension}`,
    variant,
    pose: options.pose ?? '',
    unit: unitText(format, unit),
    ...{ scale, size: options.size },
    bytes: bytes.length,
    fineness: options.fineness,
    pieces: chosen.map(({ piece }) => piece.name),
    ...hardwareOf(built, chosen, scale),
    muted: steps
      .filter((step) => !built.resolved.steps.get(step.id)!.present)
      .map((step) => step.name || kindWord(step)),
    ...measured(format, bytes, format.statesUnit ? 1 : unitNamed(unit).mm),
    solidVolume: volumeOf(solids) * scale ** 3,
    drawn: { volume: volumeOf(drawn), ...boxesOf(drawn) },
    compensation: compensated && {
      ...compensated.compensation,
      stayed: chosen.flatMap(({ piece: { id, name } }) =>
        (compensated.stayed.get(id) ?? []).map((stayed): StayedIn => {
          const isTold = stayed.area > stayedTold && stayed.why !== 'gap'
          return { ...stayed, piece: name, ...(isTold && { warning: stayedText(stayed, name, part.unit) }) }
        }),
      ),
    },
    trueVolume: meant.reduce((sum, { mass }) => sum + mass.volume, 0) * scale ** 3,
    trueWay: (['flats', 'extrapolated'] as const).find((own) => meant.some(({ way }) => way === own)) ?? 'exact',
    trueError: meant.some(({ error }) => !error)
      ? undefined
      : meant.reduce((sum, { error }) => sum + error!.volume, 0) * scale ** 3,
  }
  const { fine } = options.twice
  if (receipt.trueWay === 'flats' || chosen.some((each) => !isAlike(built, fine, each.piece.id)))
    warnings.push(
      'At another fineness it is another solid, with more or fewer bodies or cavities, or with other steps that failed: look at it as it is in the file.',
    )
  const off = (receipt.drawn.volume * scale ** 3) / receipt.trueVolume - 1
  if (Math.abs(off) > mostFlatsOff) {
    const size = `${(Math.abs(off) * 100).toPrecision(2)} % ${off < 0 ? 'less' : 'more'}`
    warnings.push(`It has ${size} volume than with true rounds; a smaller fineness comes nearer to them.`)
  }
  if (scale !== 1) {
    const [size, times] = [`${Number((scale * 100).toPrecision(6))} %`, Number(scale.toPrecision(6))]
    warnings.push(
      `It was proved at the size that it is drawn in: at ${size} its gaps, walls and threads are ${times} times as large.`,
    )
    const { bed, name } = built.resolved.printer
    if (!liesOn(receipt.max.map((high, i) => high - receipt.min[i]!) as unknown as Vec3, bed))
      warnings.push(`At this size it does not fit the bed of the ${name}.`)
  }
  warnings.push(...(receipt.compensation?.stayed ?? []).flatMap(({ warning }) => warning ?? []))
  if (compensated) {
    const [before, after] = [drawn, solids].map((all) => countsOf(all.map((solid) => tidied(solid.mesh()))))
    if (before!.solids !== after!.solids || before!.cavities !== after!.cavities)
      warnings.push(
        `As it is printed it has ${after!.solids} solids and ${after!.cavities} cavities, for ${before!.solids} and ${before!.cavities} as drawn: somewhere there is too little between them.`,
      )
  }
  const meshes = written.map(({ mesh }) => mesh)
  const apart = format.apart ? meshes.length : 1
  const difference =
    receipt.piecesRead === apart
      ? differs(receipt, solids, meshes, scale)
      : `it has ${receipt.piecesRead} pieces for ${apart}`
  if (difference) throw new ProblemError('export-differs', { format: format.label, detail: difference })
  return { bytes, receipt }
}

/** The figures of all pieces in a file, read from its bytes; `mm`: how many each of its numbers is. */
function measured(format: MeshFormat, bytes: Uint8Array, mm: number) {
  const read = format.read(bytes).map((piece) => ({ ...piece, mesh: scaledMesh(piece.mesh, mm) }))
  const figures = read.map(({ mesh }) => meshFigures(mesh))
  const sum = (of: (f: (typeof figures)[number]) => number) => figures.reduce((total, f) => total + of(f), 0)
  return {
    closed: figures.every((f) => f.closed),
    oriented: figures.every((f) => f.oriented),
    piecesRead: read.length,
    // Those that the file holds, not only those that have a body to bound.
    triangles: read.reduce((total, { count }) => total + count, 0),
    solids: sum((f) => f.solids),
    cavities: figures.flatMap((f) => f.cavities),
    volume: sum((f) => f.volume),
    area: sum((f) => f.area),
    ...boundsOf(figures),
  }
}

/** So much may stay as it is drawn, untold, mm². */
const stayedTold = 0.5

const stayedWhy: Readonly<Record<Exclude<Stayed['why'], 'gap'>, string>> = {
  thin: 'of walls stay as drawn: made thinner they would lose a line',
  folds: 'of walls stay as drawn: there is no room to move them',
  foot: 'of the first layer stay as wide as drawn: made narrower less than a line would be left',
}

function stayedText({ why, area, at }: Stayed, piece: string, unit: PartUnit): string {
  const place = at.map((x) => formatSize(x, unit)).join(', ')
  return `${piece}: ${formatArea(area, unit)} ${stayedWhy[why as keyof typeof stayedWhy]} (most of it near ${place} ${unit}).`
}

function volumeOf(solids: readonly Solid[]): number {
  return solids.reduce((sum, solid) => sum + solid.volume(), 0)
}

function countsOf(meshes: readonly TriangleMesh[]) {
  const all = meshes.map(meshFigures)
  return {
    solids: all.reduce((sum, { solids }) => sum + solids, 0),
    cavities: all.reduce((sum, { cavities }) => sum + cavities.length, 0),
  }
}

/** In what a written file is not the solids it was written from, or undefined. */
export function differs(
  receipt: Receipt,
  solids: readonly Solid[],
  meshes: readonly TriangleMesh[] = solids.map((solid) => tidied(solid.mesh())),
  scale = 1,
): string | undefined {
  if (!receipt.closed) return 'its surface is not closed'
  if (!receipt.oriented) return 'its triangles do not all face outwards'
  const own = countsOf(meshes)
  const counts = [
    ['bodies', receipt.solids, own.solids],
    ['cavities', receipt.cavities.length, own.cavities],
  ] as const
  for (const [what, found, meant] of counts) if (found !== meant) return `it has ${found} ${what} for ${meant}`
  const off = Math.abs(receipt.volume - receipt.solidVolume)
  if (!(off <= volumeTolerance(receipt)))
    return `its volume is off by ${((off / receipt.solidVolume) * 100).toFixed(4)} %`
  const { min, max } = boxesOf(solids)
  for (const i of [0, 1, 2]) {
    const apart = Math.max(Math.abs(receipt.min[i]! - scale * min[i]!), Math.abs(receipt.max[i]! - scale * max[i]!))
    if (!(apart <= tolerance.bounds)) return `its size is off by ${apart.toFixed(4)} mm`
  }
  return undefined
}

/** A name that every file system takes: letters, digits, dot, dash; spaces become dashes. */
export function fileName(name: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}.-]+/gu, '-')
    .replace(/^[-.]+|[-.]+$/g, '')
  return plain.slice(0, 80) || 'part'
}
