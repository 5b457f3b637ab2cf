import type { Box } from '../place/index.ts'
import type { SolidReadings } from '../planning/index.ts'
import type { Problem } from '../problems/index.ts'
import type { Built } from './builder.ts'
import { type RenderMesh, renderMeshOf } from './renderMesh.ts'

/** A piece as it is drawn, and what its flats come to. */
export interface PieceDrawing {
  readonly id: string
  /** the piece of the part that it is, or was parted from */
  readonly of: string
  /** the same key means the same solid */
  readonly key: string
  readonly bounds: Box | undefined
  /** mm³ and mm² */
  readonly volume: number
  readonly area: number
  readonly triangles: number
  /** left out where whoever asks has the drawing of this key already */
  readonly mesh?: RenderMesh | undefined
}

/** All that a page shows of a part that was built. */
export interface PartDrawing {
  readonly pieces: readonly PieceDrawing[]
  /** problems found only by building; those of expressions and places are found by arithmetic */
  readonly problems: readonly Problem[]
  /** what was read off the solids, by the read-out's id */
  readonly readings: SolidReadings
}

/** Larger drawings take longer to keep than to make, triangles. */
export const mostTrianglesKept = 150_000

/** `have`: the drawings that whoever asks has already, piece -> key. */
export function drawingOf(built: Built, have: Readonly<Record<string, string>> = {}): PartDrawing {
  return {
    pieces: built.pieces.map((piece) => ({
      id: piece.piece.id,
      of: piece.of,
      key: piece.key,
      bounds: piece.solid?.bounds(),
      volume: piece.solid?.volume() ?? 0,
      area: piece.solid?.area() ?? 0,
      triangles: piece.solid?.triangleCount() ?? 0,
      ...(have[piece.piece.id] === piece.key ? {} : { mesh: renderMeshOf(built, piece) }),
    })),
    problems: built.buildProblems,
    readings: built.solidReadings,
  }
}

/** The drawing as it is kept for another time: keys are of the worker that built it, and another one's are others. */
export function keptDrawing<T extends PartDrawing>(drawing: T): T {
  return { ...drawing, pieces: drawing.pieces.map((piece) => ({ ...piece, key: keptKey(piece.key) })) }
}

export const keptKey = (of: string) => `kept ${of}`
