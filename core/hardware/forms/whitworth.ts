import type { ThreadForm, ThreadHalf, ThreadSizes } from './define.ts'

/** ISO 228-1: triangles of 55°, ridges and roots rounded alike, a sixth of the sharp triangle off on either side. */
const half = ({ thread, pitch }: ThreadSizes): ThreadHalf => ({
  crest: thread,
  root: thread - 2 * depth * pitch,
  crestRound: rounding * pitch,
  rootRound: rounding * pitch,
})
/** 2/3 H / P, and r / P, as ISO 228-1 has them. */
const depth = 0.640327
const rounding = 0.137329

const section = {
  flanks: [27.5, 27.5],
  pitchDiameter: ({ thread, pitch }: ThreadSizes) => thread - depth * pitch,
  outside: half,
  inside: half,
} as const

export const whitworth: ThreadForm = {
  id: 'pipe',
  label: '55° (pipe)',
  standard: 'ISO 228-1:2000',
  ...section,
}

/** ISO 7-1: the same on a cone of 1 in 16. */
export const taperedWhitworth: ThreadForm = {
  id: 'taper-pipe',
  label: '55°, tapered',
  standard: 'ISO 7-1:1994',
  taper: 1 / 16,
  ...section,
}
