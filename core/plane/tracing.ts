import type { Chain, Edge } from './arrangement.ts'
import { areaUnder, curvatureAt, directionAt, reversed, type Segment } from './segments.ts'

export const sideOf = ({ edge, forward }: Half) => (forward ? edge : ~edge)

/** Which edges are part of something closed: those that hang by one end are taken off until none is left. */
export function withoutDangling(edges: readonly Edge[], nodes: number): readonly boolean[] {
  const used = edges.map(() => true)
  const at = Array.from({ length: nodes }, (): number[] => [])
  edges.forEach(({ from, to }, i) => {
    at[from]!.push(i)
    at[to]!.push(i)
  })
  const degree = at.map((list) => list.length)
  const open = degree.flatMap((count, node) => (count === 1 ? [node] : []))
  for (let node = open.pop(); node !== undefined; node = open.pop())
    for (const i of at[node]!) {
      if (!used[i]) continue
      used[i] = false
      const { from, to } = edges[i]!
      for (const end of [from, to]) if (--degree[end]! === 1) open.push(end)
    }
  return used
}

export interface Half {
  readonly edge: number
  readonly forward: boolean
  readonly segment: Segment
  readonly from: number
  readonly to: number
  /** place in the order round its start, counter-clockwise */
  rank: number
}

/** Directions nearer to each other than this are one, rad. */
const sameDirection = 1e-7

/** Half-edges by the node they start from, counter-clockwise. */
export function halfEdges(edges: readonly Edge[], used: readonly boolean[]): ReadonlyMap<number, readonly Half[]> {
  const at = new Map<number, Half[]>()
  const put = (half: Half) => at.set(half.from, [...(at.get(half.from) ?? []), half])
  edges.forEach(({ segment, from, to }, edge) => {
    if (!used[edge]) return
    put({ edge, forward: true, segment, from, to, rank: 0 })
    put({ edge, forward: false, segment: reversed(segment), from: to, to: from, rank: 0 })
  })
  for (const list of at.values()) {
    const angle = new Map(
      list.map((half) => {
        const [x, y] = directionAt(half.segment, 0)
        const rad = Math.atan2(y, x)
        // Half a turn either way is the same direction.
        return [half, rad < sameDirection - Math.PI ? rad + 2 * Math.PI : rad]
      }),
    )
    // Those that leave in one direction are told apart by which way they bend.
    list.sort((a, b) => {
      const apart = angle.get(a)! - angle.get(b)!
      return Math.abs(apart) < sameDirection ? curvatureAt(a.segment, 0) - curvatureAt(b.segment, 0) : apart
    })
    list.forEach((half, i) => {
      half.rank = i
    })
  }
  return at
}

export interface Loop {
  readonly halves: readonly Half[]
  /** negative where it runs round the outside of something */
  readonly area: number
}

/** Runs round everything that `on` holds, each half-edge once. */
export function tracedLoops(
  edges: readonly Edge[],
  at: ReadonlyMap<number, readonly Half[]>,
  on: (half: Half) => boolean,
): Loop[] {
  const done = new Set<Half>()
  const loops: Loop[] = []
  const halfOf = (edge: number, forward: boolean) =>
    at
      .get(forward ? edges[edge]!.from : edges[edge]!.to)!
      .find((half) => half.edge === edge && half.forward === forward)!
  for (const list of at.values())
    for (const first of list) {
      if (done.has(first) || !on(first)) continue
      const halves: Half[] = []
      let half: Half | undefined = first
      while (half && !done.has(half)) {
        done.add(half)
        halves.push(half)
        const back: Half = halfOf(half.edge, !half.forward)
        const round: readonly Half[] = at.get(half.to)!
        // The next one clockwise from the way back that bounds something.
        half = Array.from(
          { length: round.length },
          (_, i) => round[(back.rank - 1 - i + 2 * round.length) % round.length]!,
        ).find(on)
      }
      loops.push({ halves, area: halves.reduce((sum, { segment }) => sum + areaUnder(segment), 0) })
    }
  return loops
}

export function chainOf(edges: readonly Edge[], halves: readonly Half[]): Chain {
  return {
    segments: halves.map(({ segment }) => segment),
    curves: halves.map(({ edge }) => edges[edge]!.curve),
    closed: true,
  }
}
