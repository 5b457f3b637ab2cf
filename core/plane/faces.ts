import type { Edge, Face } from './arrangement.ts'
import { boxAround, boxOfSegment } from './crossings.ts'
import { flattenedChain } from './flatten.ts'
import { pointAt } from './segments.ts'
import { chainOf, type Loop, sideOf } from './tracing.ts'
import { insideRings, type Ring } from './vectors.ts'

/** Bounded faces with the holes that lie in them, and how deep they are nested. */
export function facesOf(edges: readonly Edge[], loops: readonly Loop[]): Face[] {
  // A run there and back encloses nothing.
  const bounded = loops.filter(({ area }) => area > 1e-9)
  const outside = loops.filter(({ area }) => area < -1e-9)
  const size = Math.max(1e-3, ...bounded.map(({ area }) => Math.sqrt(area)))
  const ringOf = (loop: Loop): Ring =>
    flattenedChain(
      loop.halves.map(({ segment }) => segment),
      true,
      size / 5000,
      false,
    )
  const edgesOf = new Map(loops.map((loop) => [loop, new Set(loop.halves.map(({ edge }) => edge))]))
  // A component is what one outside loop runs round: the faces that share edges with it, directly or through others.
  const component = componentsOf(loops, edgesOf)
  const candidates = bounded.map((loop) => ({
    loop,
    of: component.get(loop)!,
    box: boxAround(loop.halves.map(({ segment }) => boxOfSegment(segment)))!,
    ring: undefined as Ring | undefined,
  }))
  const depths = new Map<number, number>()
  const holesOf = new Map<Loop, Loop[]>()
  for (const hole of outside) {
    const at = pointAt(hole.halves[0]!.segment, 0.5)
    const own = component.get(hole)!
    const around = candidates.filter((face) => {
      const { of, box, loop } = face
      if (of === own || at[0] < box.min[0] || at[0] > box.max[0] || at[1] < box.min[1] || at[1] > box.max[1])
        return false
      face.ring ??= ringOf(loop)
      return insideRings([face.ring], at)
    })
    depths.set(own, new Set(around.map(({ of }) => of)).size)
    // Directly inside: of all faces round it, this is the smallest.
    const [holder] = around.sort((m, n) => m.loop.area - n.loop.area)
    if (holder) holesOf.set(holder.loop, [...(holesOf.get(holder.loop) ?? []), hole])
  }
  const keys = keysOf(edges, bounded)
  return bounded.map((face) => {
    const holes = holesOf.get(face) ?? []
    return {
      key: keys.get(face)!,
      outer: chainOf(edges, face.halves),
      holes: holes.map((hole) => chainOf(edges, hole.halves)),
      area: face.area + holes.reduce((sum, { area }) => sum + area, 0),
      depth: depths.get(component.get(face)!) ?? 0,
      sides: [face, ...holes].flatMap((loop) => loop.halves.map(sideOf)),
    }
  })
}

function componentsOf(
  loops: readonly Loop[],
  edgesOf: ReadonlyMap<Loop, ReadonlySet<number>>,
): ReadonlyMap<Loop, number> {
  const byEdge = new Map<number, Loop[]>()
  for (const [loop, own] of edgesOf) for (const edge of own) byEdge.set(edge, [...(byEdge.get(edge) ?? []), loop])
  const byNode = new Map<number, Loop[]>()
  for (const loop of loops) for (const { from } of loop.halves) byNode.set(from, [...(byNode.get(from) ?? []), loop])
  const component = new Map<Loop, number>()
  let count = 0
  for (const start of loops) {
    if (component.has(start)) continue
    const open = [start]
    component.set(start, count)
    for (let loop = open.pop(); loop; loop = open.pop())
      for (const half of loop.halves)
        for (const other of [...byEdge.get(half.edge)!, ...byNode.get(half.from)!])
          if (!component.has(other)) {
            component.set(other, count)
            open.push(other)
          }
    count++
  }
  return component
}

/** Keys longer than this are shortened to a number that stands for them. */
const longestKey = 2000

/**
 * What each region is called by. Those that the same curves bound in the same way, as between a wave and a line across it,
 * are numbered as they come along the first of these curves.
 */
function keysOf(edges: readonly Edge[], loops: readonly Loop[]): ReadonlyMap<Loop, string> {
  const alike = new Map<string, Loop[]>()
  for (const loop of loops) {
    const key = boundsOf(edges, loop)
    alike.set(key, [...(alike.get(key) ?? []), loop])
  }
  const keys = new Map<Loop, string>()
  for (const [key, same] of alike) {
    const short = key.length > longestKey ? `many ${hashOf(key)}` : key
    const first = new Map(
      same.map((loop) => [loop, loop.halves.reduce((least, { edge }) => Math.min(least, edge), Infinity)]),
    )
    same.sort((a, b) => first.get(a)! - first.get(b)!)
    same.forEach((loop, i) => {
      keys.set(loop, i === 0 ? short : `${short} #${i + 1}`)
    })
  }
  return keys
}

function boundsOf(edges: readonly Edge[], { halves }: Loop): string {
  const names = new Set(halves.map(({ edge, forward }) => `${forward ? '+' : '-'}${edges[edge]!.curve}`))
  return [...names].sort().join(' ')
}

/** 64 bits of FNV-1a (Fowler, Noll, Vo), as text. */
function hashOf(text: string): string {
  let hash = 0xcbf29ce484222325n
  for (let i = 0; i < text.length; i++) hash = BigInt.asUintN(64, (hash ^ BigInt(text.charCodeAt(i))) * 0x100000001b3n)
  return hash.toString(36)
}
