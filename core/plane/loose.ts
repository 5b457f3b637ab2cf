import { type Chain, type DrawnCurve, type Edge, joinWithin, type LooseEnd } from './arrangement.ts'
import { type Box2, boxesMeet, boxOfSegment } from './crossings.ts'
import { endOf, nearestOn, pointAt, reversed, type Segment, startOf } from './segments.ts'
import { distance2, type Vec2 } from './vectors.ts'

/** A curve that ends within this of another one was hardly meant to end there, mm. */
const nearMiss = 0.6

/** Ends of curves at which nothing goes on, with what they nearly meet. */
export function looseEnds(curves: readonly DrawnCurve[], edges: readonly Edge[], nodes: readonly Vec2[]): LooseEnd[] {
  const degree = new Uint32Array(nodes.length)
  for (const { from, to } of edges) {
    degree[from]!++
    degree[to]!++
  }
  const boxed = curves.flatMap(({ id, segments }) => segments.map((s) => ({ id, s, box: boxOfSegment(s) })))
  return edges.flatMap(({ curve, segment, from, to }) =>
    ([from, to] as const).flatMap((node, i): LooseEnd[] => {
      if (degree[node]! !== 1 || from === to) return []
      const at = i === 0 ? startOf(segment) : endOf(segment)
      let near: LooseEnd['near']
      const here: Box2 = { min: at, max: at }
      for (const { id, s, box } of boxed) {
        if (!boxesMeet(box, here, nearMiss)) continue
        // Its own curve counts only by its other end.
        const candidates = id === curve ? [startOf(s), endOf(s)] : [pointAt(s, nearestOn(s, at).t)]
        for (const place of candidates) {
          const distance = distance2(place, at)
          if (distance <= joinWithin || distance > nearMiss || (near && near.distance <= distance)) continue
          near = { at: place, distance, curve: id }
        }
      }
      return [{ at, curve, near }]
    }),
  )
}

/** What bounds nothing, as chains through nodes at which exactly two such edges meet. */
export function openChains(edges: readonly Edge[], used: readonly boolean[], nodes: number): Chain[] {
  const at = Array.from({ length: nodes }, (): number[] => [])
  edges.forEach(({ from, to }, i) => {
    if (used[i]) return
    at[from]!.push(i)
    at[to]!.push(i)
  })
  const done = new Set<number>()
  const walk = (start: number, first: number): Chain => {
    const segments: Segment[] = []
    const curves: string[] = []
    let [node, index]: [number, number | undefined] = [start, first]
    while (index !== undefined) {
      done.add(index)
      const { segment, curve, from, to }: Edge = edges[index]!
      const forward: boolean = from === node
      segments.push(forward ? segment : reversed(segment))
      curves.push(curve)
      node = forward ? to : from
      index = at[node]!.length === 2 ? at[node]!.find((i) => !done.has(i)) : undefined
    }
    return { segments, curves, closed: false }
  }
  const chains: Chain[] = []
  at.forEach((list, node) => {
    if (list.length === 2) return
    for (const i of list) if (!done.has(i)) chains.push(walk(node, i))
  })
  // A chain begins where it was drawn from.
  const drawn = new Set(edges.map(({ segment }) => segment))
  return chains.map((chain) =>
    drawn.has(chain.segments[0]!)
      ? chain
      : { ...chain, segments: chain.segments.map(reversed).reverse(), curves: [...chain.curves].reverse() },
  )
}
