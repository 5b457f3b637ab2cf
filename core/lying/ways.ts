import type { Laid } from '../document/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { dot, type Vec3 } from '../place/index.ts'
import { flatsOf, turnFor } from '../solids/index.ts'

/** Ways to lie on each side, whatever of it touches the bed. */
const sides = ['bottom', 'top', 'front', 'back', 'left', 'right'] as const
/** More flats than these are not judged, nor those of less than this share of all. */
const [mostFlats, leastShare] = [10, 0.02]
/** Ways nearer to each other than this are one, as a cosine: 1°. */
const sameWay = Math.cos(Math.PI / 180)

/**
 * The ways in which points can lie on a bed: on each of their sides, also where only an edge or a corner touches, and on the larger flats of
 * their hull; `asked`: ways that are to be among them as well, as they point down.
 */
export function waysToLie(
  kernel: Kernel,
  points: readonly Vec3[],
  asked: readonly Vec3[] = [],
): readonly Laid['down'][] {
  const flats = flatsOf(kernel, points)
  const all = flats.reduce((sum, { area }) => sum + area, 0)
  const none = (): Vec3 => [0, 0, -1]
  /** which way of it points down */
  const wayOf = (down: Laid['down']): Vec3 => {
    const { u, v, n } = turnFor(down, none)
    // The row of the turn that tells how high something lies, the other way round.
    return [-u[2], -v[2], -n[2]]
  }
  const ways: Laid['down'][] = [...sides]
  const known = ways.map(wayOf)
  for (const way of asked) {
    if (known.some((own) => dot(own, way) > sameWay)) continue
    known.push(way)
    ways.push(way)
  }
  for (const { way, area } of [...flats].sort((a, b) => b.area - a.area).slice(0, mostFlats)) {
    if (area < leastShare * all || known.some((own) => dot(own, way) > sameWay)) continue
    known.push(way)
    ways.push(way)
  }
  return ways
}
