import type { Arrangement, Chain, DrawnCurve, Face } from './arrangement.ts'
import { broken } from './breaking.ts'
import { facesOf } from './faces.ts'
import { looseEnds, openChains } from './loose.ts'
import { chainOf, type Half, halfEdges, sideOf, tracedLoops, withoutDangling } from './tracing.ts'

/**
 * Finds the regions that curves close off. They are broken where they meet; at each node the way goes on by the next
 * edge clockwise, so that each face is run round with it on the left.
 *
 * @throws RangeError where there are more than `mostEdges` stretches
 */
export function arranged(curves: readonly DrawnCurve[]): Arrangement {
  const { edges, nodes, crossed } = broken(curves)
  const used = withoutDangling(edges, nodes.length)
  const halves = halfEdges(edges, used)
  const loops = tracedLoops(edges, halves, () => true)
  const faces = facesOf(edges, loops)
  return {
    faces,
    crossed,
    loose: looseEnds(curves, edges, nodes),
    open: openChains(edges, used, nodes.length),
    edges,
  }
}

/** The loops round everything that is `filled`, without the edges between two faces that are. */
export function outlineOf(arrangement: Arrangement, filled: readonly Face[]): readonly Chain[] {
  const kept = new Set(filled.flatMap(({ sides }) => sides))
  const { edges } = arrangement
  const nodes = edges.reduce((most, { from, to }) => Math.max(most, from + 1, to + 1), 0)
  const halves = halfEdges(edges, withoutDangling(edges, nodes))
  const on = (half: Half) => kept.has(sideOf(half)) && !kept.has(~sideOf(half))
  return tracedLoops(edges, halves, on).map(({ halves: run }) => chainOf(edges, run))
}
