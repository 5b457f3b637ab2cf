import { minorDiameter, pitchDiameter } from '../threads.ts'
import type { ThreadForm } from './define.ts'

/** ISO 68-1, figures 1 and 2: triangles of 60°, flats of P/8 over the ridges and P/4 between those of a nut; a screw’s root is rounded by H/6. */
export const metric: ThreadForm = {
  id: 'metric',
  label: '60° (metric, unified)',
  standard: 'ISO 68-1:1998',
  flanks: [30, 30],
  pitchDiameter,
  outside: ({ thread, pitch }) => ({
    crest: thread,
    root: thread - (17 / 12) * triangle(pitch),
    crestRound: 0,
    rootRound: triangle(pitch) / 6,
  }),
  inside: (sizes) => ({ crest: sizes.thread, root: minorDiameter(sizes), crestRound: 0, rootRound: 0 }),
}

/** H, the height of the sharp triangle, mm. */
const triangle = (pitch: number) => (Math.sqrt(3) / 2) * pitch
