import { type DrawnCurve, distance2, type Segment } from '../../plane/index.ts'

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
export const drawingLimits = {
  characters: 8_000_000,
  elements: 20_000,
  nesting: 40,
  segments: 20_000,
  /** characters of one path, and of the transforms of one element */
  path: 1_500_000,
  transform: 20_000,
  /** characters of all paths and transforms, each as often as it is used */
  work: 4_000_000,
} as const

/** Farther from its origin than this no flat part is drawn, mm. */
const farthest = 1e7

/** Whether a segment is one that can be drawn: its numbers are finite, none is beyond all parts, and it is longer than nothing. */
export function isSound(s: Segment): boolean {
  const numbers =
    s.kind === 'line'
      ? [...s.from, ...s.to]
      : s.kind === 'cubic'
        ? s.points.flat()
        : s.kind === 'arc'
          ? [...s.centre, s.radius, s.sweepRad, s.startRad]
          : [...s.centre, ...s.major, ...s.minor, s.sweepRad, s.startRad]
  if (!numbers.every((value) => Number.isFinite(value) && Math.abs(value) <= farthest)) return false
  return !(s.kind === 'line' && distance2(s.from, s.to) < 1e-9) && !(s.kind === 'arc' && !(s.radius > 1e-9))
}

/** What is said of segments that are none. */
export function unsoundNote(count: number): string {
  const what = count === 1 ? '1 stretch was' : `${count} stretches were`
  return `${what} left out: their numbers cannot be read, or lie kilometres away.`
}
