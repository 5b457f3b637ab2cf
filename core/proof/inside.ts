import type { Solid } from '../kernel/index.ts'
import { shellsOf } from '../mesh/index.ts'
import { type Frame, pointOut, unit, type Vec3, world } from '../place/index.ts'

/** Along no edge of anything that was drawn. */
const askew = unit([0.5773, 0.3371, 0.7438])

/**
 * Whether any body of a solid lies in the material of another one, where their surfaces do not meet: how often a ray that leaves a corner of it
 * goes out and in. `frame`: where the first one stands in the frame of the other.
 */
export function isIn(inner: Solid, outer: Solid, frame: Frame = world): boolean {
  const bounds = outer.bounds()
  if (!bounds) return false
  return cornersOf(inner).some((corner) => {
    const p = pointOut(frame, corner)
    if (p.some((x, k) => x < bounds.min[k]! || x > bounds.max[k]!)) return false
    return outer.crossings(p, askew).length % 2 === 1
  })
}

const known = new WeakMap<Solid, readonly Vec3[]>()

/** A corner of each shell: what meets nothing lies in material with all of a shell, or with nothing of it. */
function cornersOf(solid: Solid): readonly Vec3[] {
  const before = known.get(solid)
  if (before) return before
  const { positions, triangles } = solid.mesh()
  const corners: Vec3[] = []
  for (const [t, shell] of shellsOf(solid.mesh()).shellOf.entries()) {
    const v = 3 * triangles[3 * t]!
    corners[shell] ??= [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  known.set(solid, corners)
  return corners
}
