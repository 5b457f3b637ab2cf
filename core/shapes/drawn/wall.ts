import { Drawn, offsetLoops, reversedChain, widened } from '../../plane/index.ts'
import type { WallKind } from './common.ts'
import { Kept } from './kept.ts'

const walls = new Kept()

/**
 * The drawing that a shape is made from: as it is where it is filled, or a wall along its lines. Of open lines the left
 * side, as they were drawn, is the inside.
 */
export function walled(outline: Drawn, wall: WallKind, thick: number): Drawn {
  if (wall === 'filled') return outline
  return walls.get(outline, `${wall} ${thick}`, () => wallOf(outline, wall, thick))
}

/** The same of a shape's values. */
export function regionOf({ outline, wall, thick }: Walled): Drawn {
  return walled(outline, wall, thick)
}

interface Walled {
  readonly outline: Drawn
  readonly wall: WallKind
  readonly thick: number
}

function wallOf(outline: Drawn, wall: Exclude<WallKind, 'filled'>, thick: number): Drawn {
  const [inside, outside] = wall === 'inside' ? [thick, 0] : wall === 'outside' ? [0, thick] : [thick / 2, thick / 2]
  const outer = outside > 0 ? offsetLoops(outline.loops, outside, 'sharp') : outline.loops
  const inner = inside > 0 ? offsetLoops(outline.loops, -inside, 'sharp') : outline.loops
  return new Drawn({
    key: `${outline.key}|${wall}|${thick}`,
    name: outline.name,
    loops: [
      ...outer,
      // What is inside of the wall is no part of it.
      ...inner.map(reversedChain),
      ...outline.open.flatMap((c) => widened(c, inside, outside, 'square', 'sharp')),
    ],
    open: [],
    lines: outline.lines,
    sharp: outline.sharp,
  })
}
