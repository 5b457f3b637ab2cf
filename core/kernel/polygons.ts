import type { Manifold, ManifoldToplevel } from 'manifold-3d'
import type { Ring } from '../plane/index.ts'
import { failed } from './checks.ts'

/** Rings as the library takes them. */
export function polygonsOf(rings: readonly Ring[]): [number, number][][] {
  return rings.map((ring) =>
    ring.map(([x, y]) => {
      if (!Number.isFinite(x) || !Number.isFinite(y)) failed('one of its points is not at a finite place')
      return [x, y]
    }),
  )
}

/** Points of an outline nearer to each other than this are one, mm. */
const samePoint = 1e-8

/** A ring without points that repeat the one before. */
export function cleaned(ring: readonly [number, number][]): [number, number][] {
  const kept: [number, number][] = []
  const apart = (a: readonly [number, number], b: readonly [number, number]) =>
    Math.abs(a[0] - b[0]) > samePoint || Math.abs(a[1] - b[1]) > samePoint
  for (const point of ring) if (kept.length === 0 || apart(kept.at(-1)!, point)) kept.push(point)
  while (kept.length > 1 && !apart(kept.at(-1)!, kept[0]!)) kept.pop()
  return kept
}

/** What the library's own extrusion is made of: unlike that one it does not send points through the plane, which rounds them. */
interface Extruding {
  readonly Vector_vec2: new () => Vector<{ x: number; y: number }>
  readonly Vector2_vec2: new () => Vector<Vector<{ x: number; y: number }>>
  _Extrude(
    polygons: Vector<Vector<{ x: number; y: number }>>,
    height: number,
    divisions: number,
    twist: number,
    top: { x: number; y: number },
  ): Manifold
}
interface Vector<T> {
  push_back(value: T): void
  delete(): void
}

/** In so many steps, turned evenly by so many degrees from its foot to its head. */
export function extruded(
  library: ManifoldToplevel,
  polygons: readonly [number, number][][],
  height: number,
  steps = 1,
  degrees = 0,
): Manifold {
  const { Vector_vec2, Vector2_vec2, _Extrude } = library as unknown as Extruding
  const all = new Vector2_vec2()
  try {
    for (const polygon of polygons) {
      const ring = new Vector_vec2()
      for (const [x, y] of polygon) ring.push_back({ x, y })
      all.push_back(ring)
      ring.delete()
    }
    return _Extrude(all, height, steps - 1, degrees, { x: 1, y: 1 })
  } finally {
    all.delete()
  }
}
