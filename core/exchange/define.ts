import type { TriangleMesh } from '../mesh/index.ts'
import { type FileUnit, unitNamed } from './fileUnits.ts'

/** A piece as it is written to a file. */
export interface WrittenPiece {
  readonly name: string
  readonly mesh: TriangleMesh
  /** #rrggbb */
  readonly colour?: string | undefined
}

/** A piece as it was found in a file. */
export interface ReadPiece extends WrittenPiece {
  /** triangles that the file holds, those without area too */
  readonly count: number
}

/** A mesh format. What is read is in mm where the file states its unit, else in the file's own numbers. */
export interface MeshFormat {
  readonly id: string
  readonly label: string
  readonly extension: string
  readonly mediaType: string
  /** whether the file says what its numbers mean; else they are read as they stand */
  readonly statesUnit: boolean
  /** whether the file keeps its pieces apart; else all of them are one mesh in it */
  readonly apart: boolean
  /** The pieces' coordinates are in `unit` already, mm where none is told. */
  write(pieces: readonly WrittenPiece[], title: string, unit?: FileUnit): Uint8Array
  /** @throws ProblemError mesh-unreadable, mesh-empty, file-too-large */
  read(bytes: Uint8Array): ReadPiece[]
}

/** "inches, not stated in the file" */
export function unitText({ statesUnit }: MeshFormat, unit: FileUnit = 'mm'): string {
  return `${unitNamed(unit).label}, ${statesUnit ? '' : 'not '}stated in the file`
}

/** The largest mesh file that is read, bytes; of an archive, of what is unpacked. */
export const mostMeshBytes = 400_000_000

/** Triangles of a mesh file at most, all its pieces together, each as often as it is placed. */
export const mostMeshTriangles = 8_000_000

/** Farther from its origin than this nothing that is printed reaches, mm: ten kilometres. */
const farthest = 1e7

/** What is wrong with the coordinates of a mesh file, in words; undefined where they are sound. */
export function coordinateFault(positions: ArrayLike<number>): string | undefined {
  for (let i = 0; i < positions.length; i++) {
    const value = positions[i]!
    if (!Number.isFinite(value)) return 'it holds coordinates that are not numbers'
    if (Math.abs(value) > farthest) return 'it holds coordinates that lie kilometres away'
  }
  return undefined
}

/** The shortest decimal that is the same number in single precision: 4.9, not 4.9000001. Nine digits always tell. */
export function decimal(value: number): string {
  for (let digits = 6; digits < 9; digits++) {
    const short = Number(value.toPrecision(digits))
    if (Math.fround(short) === Math.fround(value)) return String(short)
  }
  return String(Number(value.toPrecision(9)))
}
