import type { DrawnCurve, Segment } from '../../plane/index.ts'

/** What was found in a file: chains of true curves in mm, y up, and what should be known about them. */
export interface ReadDrawing {
  readonly chains: readonly (readonly Segment[])[]
  /** in plain words: what was left out, and what was taken for granted */
  readonly notes: readonly string[]
}

export interface ReadOptions {
  /** mm per unit of the file, where the file does not say; or instead of what it says */
  readonly mmPerUnit?: number | undefined
}

/** A format of flat drawings. */
export interface DrawingFormat {
  readonly id: string
  readonly label: string
  readonly extension: string
  readonly mediaType: string
  /** @throws ProblemError drawing-unreadable, drawing-empty, drawing-too-much, file-too-large */
  read(text: string, options?: ReadOptions): ReadDrawing
  write(curves: readonly DrawnCurve[], title: string): string
}

/** What a drawing may hold at most: more is refused before it is taken apart. */
export const drawingLimits = { characters: 8_000_000, elements: 20_000, nesting: 40, segments: 20_000 } as const
