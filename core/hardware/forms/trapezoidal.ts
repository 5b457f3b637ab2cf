import type { ThreadForm, ThreadSizes } from './define.ts'

/** ISO 2901: flanks of 30° together, half a pitch deep, and clearance over the ridges by ISO 2904, table 1. */
export const trapezoidal: ThreadForm = {
  id: 'trapezoidal',
  label: 'trapezoidal, 30°',
  standard: 'ISO 2904:1977',
  flanks: [15, 15],
  pitchDiameter: ({ thread, pitch }) => thread - pitch / 2,
  outside: (sizes) => ({
    crest: sizes.thread,
    root: sizes.thread - sizes.pitch - 2 * overCrests(sizes),
    crestRound: 0,
    rootRound: 0,
  }),
  inside: (sizes) => ({
    crest: sizes.thread + 2 * overCrests(sizes),
    root: sizes.thread - sizes.pitch,
    crestRound: 0,
    rootRound: 0,
  }),
}

/** a_c, mm. */
function overCrests({ pitch }: ThreadSizes): number {
  return pitch < 2 ? 0.15 : pitch < 6 ? 0.25 : pitch < 14 ? 0.5 : 1
}
