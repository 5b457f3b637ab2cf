import type { ThreadForm } from './define.ts'

/** DIN 405-1: flanks of 30° together, ridges and roots rounded; a nut is 0.05 of the pitch farther out. */
export const round: ThreadForm = {
  id: 'round',
  label: 'round, 30°',
  standard: 'DIN 405-1:1997',
  flanks: [15, 15],
  pitchDiameter: ({ thread, pitch }) => thread - pitch / 2,
  outside: ({ thread, pitch }) => ({
    crest: thread,
    root: thread - pitch,
    crestRound: 0.23851 * pitch,
    rootRound: 0.23851 * pitch,
  }),
  inside: ({ thread, pitch }) => ({
    crest: thread + 0.1 * pitch,
    root: thread - 0.9 * pitch,
    crestRound: 0.22105 * pitch,
    rootRound: 0.25597 * pitch,
  }),
}
