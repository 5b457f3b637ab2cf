import type { Chain } from './arrangement.ts'
import { carried, directionAt, lengthOf, pointAt, reversed, type Segment, stretch } from './segments.ts'
import { cross2, type Motion2, type Vec2 } from './vectors.ts'

/** mm */
export function chainLength({ segments }: Pick<Chain, 'segments'>): number {
  return segments.reduce((sum, s) => sum + lengthOf(s), 0)
}

/** The place `far` mm along a chain, and the direction there; past its end it stays at the end. */
export function alongChain(
  { segments }: Pick<Chain, 'segments'>,
  far: number,
): { readonly at: Vec2; readonly way: Vec2 } {
  let left = far
  for (const [i, s] of segments.entries()) {
    const long = lengthOf(s)
    if (left > long && i < segments.length - 1) {
      left -= long
      continue
    }
    const t = paramAtLength(s, Math.min(left, long), long)
    return { at: pointAt(s, t), way: directionAt(s, t) }
  }
  return { at: [0, 0], way: [1, 0] }
}

/** Lines and arcs are run through evenly; of others the length to t is halved down on. */
function paramAtLength(s: Segment, far: number, long: number): number {
  if (long === 0) return 0
  if (s.kind === 'line' || s.kind === 'arc') return far / long
  let [low, high] = [0, 1]
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (lengthOf(stretch(s, 0, middle)) < far) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** The same stretches run through the other way. */
export function reversedChain({ segments, curves, closed }: Chain): Chain {
  return { segments: segments.map(reversed).reverse(), curves: [...curves].reverse(), closed }
}

/** A loop carried by a motion that keeps sizes; what lies to its left does so afterwards, also where that mirrors. */
export function carriedLoop(loop: Chain, motion: Motion2): Chain {
  const moved = { ...loop, segments: loop.segments.map((s) => carried(s, motion)) }
  return cross2(motion.u, motion.v) < 0 ? reversedChain(moved) : moved
}
