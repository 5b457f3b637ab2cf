import type { Ring } from '../../kernel/index.ts'
import { type Chain, type Drawn, flattenedChain, offsetLoops, widened } from '../../plane/index.ts'
import type { WallKind } from './common.ts'

/**
 * The region that a shape is made from, as flats: all that is filled, or a wall along the drawn lines. Of open lines the
 * left side, as they were drawn, is the inside.
 */
export function regionOf(outline: Drawn, wall: WallKind, thick: number, fineness: number, grow: boolean): Ring[] {
  if (wall === 'filled') return outline.rings(fineness, grow)
  const [inside, outside] = wall === 'inside' ? [thick, 0] : wall === 'outside' ? [0, thick] : [thick / 2, thick / 2]
  const flats = (chain: Chain) => flattenedChain(chain.segments, true, fineness, grow)
  const outer = outside > 0 ? offsetLoops(outline.loops, outside, 'sharp') : outline.loops
  const inner = inside > 0 ? offsetLoops(outline.loops, -inside, 'sharp') : outline.loops
  return [
    ...outer.map(flats),
    // What is inside of the wall runs the other way round.
    ...inner.map((chain) => flattenedChain(chain.segments, true, fineness, !grow).reverse()),
    ...outline.open.flatMap((chain) => widened(chain, inside, outside, 'square', 'sharp')).map(flats),
  ]
}
