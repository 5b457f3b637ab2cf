import { nextHalfEdge } from './halfEdges.ts'

/** The lines round triangles, as half-edges with these on their left. */
export function bordersOf(surface: { twin(h: number): number }, part: readonly number[]): number[][] {
  const own = new Set(part)
  const isBorder = (h: number) => !own.has((surface.twin(h) / 3) | 0)
  const open = new Set(part.flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2]).filter(isBorder))
  const rings: number[][] = []
  for (const first of open) {
    const ring: number[] = []
    for (let h = first; open.delete(h); ) {
      ring.push(h)
      h = nextHalfEdge(h)
      while (!isBorder(h)) h = nextHalfEdge(surface.twin(h))
    }
    rings.push(ring)
  }
  return rings
}
