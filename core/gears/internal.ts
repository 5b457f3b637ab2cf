import type { Ring } from '../plane/index.ts'
import { arc, ringOf, tipRadius, upperHalf } from './profile.ts'
import { type Teeth, toothSizes } from './teeth.ts'

/**
 * The teeth of the opening that an internal gear has: its spaces are the teeth of this, as deep as roots are and rounded there, and its
 * own tips reach in a little less than teeth do; between the flanks the opening is wider by `wider` along the pitch circle.
 */
export function openingOf(teeth: Teeth, wider: number): Teeth {
  const { addendum, dedendum, fillet } = teeth
  return { ...teeth, addendum: dedendum, dedendum: stub * addendum, round: fillet, relief: undefined, thinner: -wider }
}

/** A ring's tips reach in by so much of what teeth reach out: full ones would touch below the flanks of what runs in it. */
const stub = 0.8

/** The radius that the tips of an internal gear reach in to: never below the base circle, where flanks end. */
export function innerRadius(opening: Teeth): number {
  const { base, root } = toothSizes(opening)
  return Math.max(root, base * (1 + 1e-9))
}

/**
 * The outline of an opening about the origin, counter-clockwise, the middle of a tooth of it on the x axis. It lies nowhere within
 * the true curves, and no farther out than `fineness` mm, so that what runs in it has its room.
 */
export function openingRing(opening: Teeth, fineness: number): Ring {
  const { pressure } = toothSizes(opening)
  // Of what is wider by so much, flats lie between it and what is asked for.
  const wide = {
    ...opening,
    thinner: opening.thinner - (2 * fineness) / Math.cos(pressure),
    addendum: opening.addendum + fineness,
  }
  // The flats of an arc of so many parts touch it from outside.
  const inner = innerRadius(opening)
  const raised = inner / (1 - fineness / inner)
  const { flank, over } = upperHalf(wide, raised, fineness)
  return ringOf(opening.count, [...arc(raised, 0, flank[0]!.beside, fineness), ...flank.slice(1)], over)
}

/** How far an opening reaches out from the axis, mm. */
export function outerRadius(opening: Teeth): number {
  return tipRadius(opening)
}
