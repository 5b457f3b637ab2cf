import type { SolidMesh } from '../kernel/index.ts'
import { cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { BodyOperation } from './define.ts'

export const cut: BodyOperation = {
  kind: 'cut',
  label: 'Cut',
  hint: 'take away',
  look: 'less',
  material: 'less',
  acts: 'with-body',
  rest: 'in',
  gathers: true,
  idle: 'cut-removes-nothing',
  apply({ scope, standing, acting, closed }) {
    const rest = closed(
      scope.difference(
        standing!,
        acting.map(({ grown }) => grown),
      ),
    )
    // A cut leaves a surface of its own behind, unless it missed the solid, or took a whole body with it. One that only
    // touches it may leave a flat of no depth.
    const hollowed = hollowedBy(rest.mesh())
    const idle = acting.flatMap(({ originals, solid }, i) =>
      originals().some((id) => hollowed.has(id)) || scope.intersection([standing!, solid]).volume() > 1e-9 ? [] : [i],
    )
    return { solid: rest, idle }
  },
}

/** The originals of which surfaces are left that do not all look the same way. */
function hollowedBy({ positions, triangles, runs }: SolidMesh): ReadonlySet<number> {
  const first = new Map<number, Vec3>()
  const out = new Set<number>()
  const corner = (t: number, i: number): Vec3 => {
    const v = 3 * triangles[3 * t + i]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  for (const { original, from, to } of runs)
    for (let t = from; t < to && !out.has(original); t++) {
      const across = cross(subtract(corner(t, 1), corner(t, 0)), subtract(corner(t, 2), corner(t, 0)))
      const size = norm(across)
      // Slivers look anywhere.
      if (size < 1e-6) continue
      const normal = scaled(across, 1 / size)
      const known = first.get(original)
      if (!known) first.set(original, normal)
      else if (dot(known, normal) < 0.9999) out.add(original)
    }
  return out
}
