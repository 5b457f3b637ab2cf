import type { ThreadSize } from './define.ts'

/** Coarse threads of the preferred sizes: ISO 261:1998, table 2. */
export const metricCoarse: Readonly<Record<string, ThreadSize>> = Object.fromEntries(
  [
    [1.6, 0.35],
    [2, 0.4],
    [2.5, 0.45],
    [3, 0.5],
    [4, 0.7],
    [5, 0.8],
    [6, 1],
    [8, 1.25],
    [10, 1.5],
    [12, 1.75],
    [16, 2],
    [20, 2.5],
  ].map(([thread, pitch]) => [`M${thread}`, { thread: thread!, pitch: pitch! }]),
)

/** Unified coarse threads: ASME B1.1-2003, table 1; by diameter in inches and threads to the inch. */
export const unifiedCoarse: Readonly<Record<string, ThreadSize>> = Object.fromEntries(
  (
    [
      ['#4', 0.112, 40],
      ['#6', 0.138, 32],
      ['#8', 0.164, 32],
      ['#10', 0.19, 24],
      ['1/4', 1 / 4, 20],
      ['5/16', 5 / 16, 18],
      ['3/8', 3 / 8, 16],
      ['1/2', 1 / 2, 13],
    ] as const
  ).map(([size, diameter, toTheInch]) => [
    `${size}-${toTheInch}`,
    { thread: 25.4 * diameter, pitch: 25.4 / toTheInch },
  ]),
)

/** Of a thread of 60° as ISO 68-1:1998 draws it: its pitch diameter, d − 3√3/8 P, mm. */
export function pitchDiameter({ thread, pitch }: ThreadSize): number {
  return thread - ((3 * Math.sqrt(3)) / 8) * pitch
}

/** The same: the minor diameter of an inside thread, d − 5√3/8 P, mm. */
export function minorDiameter({ thread, pitch }: ThreadSize): number {
  return thread - ((5 * Math.sqrt(3)) / 8) * pitch
}
