import type { Reading } from './table.ts'

/** What repeated readings come to: their mean, how far the largest and the smallest lie apart, and how they scatter. */
export interface ReadingFigures {
  readonly count: number
  readonly mean: number
  /** largest less smallest */
  readonly spread: number
  /** sample standard deviation (n − 1); 0 for a single reading */
  readonly deviation: number
}

/** Undefined where nothing was read. In the unit of the readings. */
export function readingFigures(readings: readonly Reading[] = []): ReadingFigures | undefined {
  const values = readings.map(({ value }) => value)
  const count = values.length
  if (count === 0) return undefined
  const mean = values.reduce((sum, value) => sum + value, 0) / count
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0)
  return {
    count,
    mean,
    spread: Math.max(...values) - Math.min(...values),
    deviation: count > 1 ? Math.sqrt(squares / (count - 1)) : 0,
  }
}
