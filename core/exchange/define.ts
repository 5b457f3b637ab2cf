import type { TriangleMesh } from '../mesh/index.ts'

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

/** A mesh format. Lengths in mm on this side, whatever the file holds. */
export interface MeshFormat {
  readonly id: string
  readonly label: string
  readonly extension: string
  readonly mediaType: string
  /** whether the file says what its numbers mean */
  readonly unit: 'mm, stated in the file' | 'mm, not stated in the file'
  write(pieces: readonly WrittenPiece[], title: string): Uint8Array
  /** @throws ProblemError mesh-unreadable, mesh-empty, file-too-large */
  read(bytes: Uint8Array): ReadPiece[]
}

/** The largest mesh file that is read, bytes. */
export const mostMeshBytes = 400_000_000
