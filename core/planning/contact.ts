import type { Plan } from './plan.ts'

/**
 * Where a step stands on the outside of a round and touches it along a line only: how far it must be sunk, mm, to be joined
 * over the whole of its foot. Undefined for every other step.
 *
 *        |foot|          depth = r − √(r² − (w/2)²), the rise of the round under a foot of width w
 *     ___|____|___
 *       .´ r  `.
 */
export function sinkOntoRound(plan: Plan, stepId: string): number | undefined {
  const known = plan.geometry.get(stepId)
  const round = known?.seating.round
  if (!known || round === undefined || round <= 0) return undefined
  const { place, extent } = known
  if (place.rest !== 'on' || place.level || place.lift < 0) return undefined
  const half = (extent[0][1] - extent[0][0]) / 2
  const rise = half >= round ? round : round - Math.sqrt(round ** 2 - half ** 2)
  // To whole hundredths, and never to less than joins at all.
  return place.lift + Math.max(0.01, Math.ceil(rise * 100 - 1e-9) / 100)
}
