import type { ThreadForm } from './define.ts'

/** DIN 513-1: a flank of 3°, towards the head of its screw, that carries, and one of 30°. A screw’s root is rounded. */
export const buttress: ThreadForm = {
  id: 'buttress',
  label: 'buttress, 3° and 30°',
  standard: 'DIN 513-1:1985',
  flanks: [3, 30],
  pitchDiameter: ({ thread, pitch }) => thread - 0.75 * pitch,
  outside: ({ thread, pitch }) => ({
    crest: thread,
    root: thread - 2 * 0.86777 * pitch,
    crestRound: 0,
    rootRound: 0.12427 * pitch,
  }),
  inside: ({ thread, pitch }) => ({ crest: thread, root: thread - 1.5 * pitch, crestRound: 0, rootRound: 0 }),
}
