import type { Solid } from '../kernel/index.ts'
import {
  compose,
  cross,
  dot,
  type Frame,
  levelSides,
  norm,
  pointIn,
  scaled,
  subtract,
  unit,
  uprightSides,
  type Vec3,
} from '../place/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import type { namedSolid } from './named.ts'

/** Triangles that look this much the same way are of one flat. */
const sameWay = 1 - 1e-6
/** Flats in the same plane lie no farther apart than this, mm. */
const samePlane = 1e-4
/** A straight side this long, as a share of a face's extent, tells which way the face lies. */
const tellingSide = 0.25

/**
 * The flat faces of a step on a solid, as steps can stand on them: the largest flat of each name, with its middle, its extents
 * along its own straight sides, and the bed's words for its sides. `space` is what the solid stands in, in the bed's frame.
 */
export function flatFacesOf(
  solid: Solid,
  { mesh, flat, faceOf, faces }: ReturnType<typeof namedSolid>,
  step: string,
  space: Frame,
): NamedFace[] {
  const corners = solid.corners()
  const corner = (v: number): Vec3 => [corners[3 * v]!, corners[3 * v + 1]!, corners[3 * v + 2]!]
  const flats = new Map<string, Flat[]>()
  faceOf.forEach((face, t) => {
    const { owner, face: name } = faces[face]!
    if (owner.kind !== 'step' || owner.id !== step) return
    const points = [0, 1, 2].map((i) => corner(mesh.triangles[3 * t + i]!)) as unknown as Triangle
    const across = cross(subtract(points[1], points[0]), subtract(points[2], points[0]))
    const area = norm(across) / 2
    const n: Vec3 = [flat[3 * t]!, flat[3 * t + 1]!, flat[3 * t + 2]!]
    const all = flats.get(name) ?? []
    flats.set(name, all)
    const known = all.find(
      (each) => dot(each.n, n) > sameWay && Math.abs(dot(subtract(points[0], each.at), n)) < samePlane,
    )
    if (known) {
      known.area += area
      known.triangles.push(points)
    } else all.push({ n, at: points[0], area, triangles: [points] })
  })
  return [...flats].flatMap(([name, all]) => {
    const whole = all.reduce((sum, { area }) => sum + area, 0)
    const largest = all.reduce((best, each) => (each.area > best.area * (1 + 1e-9) ? each : best))
    // What is round is many narrow flats: none of them is a face to stand on.
    return largest.area < whole * 0.2 ? [] : [faceOfFlat(name, largest, space)]
  })
}

type Triangle = readonly [Vec3, Vec3, Vec3]
interface Flat {
  readonly n: Vec3
  readonly at: Vec3
  area: number
  readonly triangles: Triangle[]
}

function faceOfFlat(name: string, { triangles }: Flat, space: Frame): NamedFace {
  const out = triangles.map((triangle) => triangle.map((p) => placedIn(space, p)) as unknown as Triangle)
  const n = settled(normalOf(out))
  const level = Math.abs(n[2]) > sameWay
  const plain = level ? ([n[2] > 0 ? 1 : -1, 0, 0] as const) : settled(unit(cross([0, 0, 1], n)))
  const u = level ? alongSide(out, plain, n) : plain
  const v = settled(cross(n, u))
  const frame: Frame = { origin: [0, 0, 0], u, v, n }
  const own = out.flat().map((p) => pointIn(frame, p))
  const range = (i: 0 | 1 | 2) => [Math.min(...own.map((p) => p[i])), Math.max(...own.map((p) => p[i]))] as const
  const [[left, right], [low, high]] = [range(0), range(1)]
  const depth = own.reduce((sum, p) => sum + p[2], 0) / own.length
  const middle = [(left + right) / 2, (low + high) / 2, depth] as const
  return {
    name,
    frame: { ...frame, origin: settled(compose(frame, { ...frame, origin: middle }).origin) },
    size: [tidy(right - left), tidy(high - low)],
    sides: level ? (n[2] > 0 ? levelSides : { across: ['right', 'left'], along: levelSides.along }) : uprightSides,
  }
}

/** Along the longest straight side of a level face, or square to it, whichever is nearer to `plain`. */
function alongSide(triangles: readonly Triangle[], plain: Vec3, n: Vec3): Vec3 {
  const count = new Map<string, number>()
  const sides = triangles.flatMap((t) => [0, 1, 2].map((i) => [t[i]!, t[(i + 1) % 3]!] as const))
  const key = ([a, b]: readonly [Vec3, Vec3]) =>
    [a, b]
      .map((p) => p.map((x) => x.toFixed(6)).join())
      .sort()
      .join('|')
  for (const side of sides) count.set(key(side), (count.get(key(side)) ?? 0) + 1)
  const outer = sides.filter((side) => count.get(key(side)) === 1)
  const long = ([a, b]: readonly [Vec3, Vec3]) => norm(subtract(b, a))
  const longest = outer.reduce((best, side) => (long(side) > long(best) + 1e-6 ? side : best), outer[0] ?? sides[0]!)
  const points = triangles.flat()
  const extent = Math.max(...points.map((p) => norm(subtract(p, points[0]!))))
  if (long(longest) < tellingSide * extent) return plain
  const side = unit(subtract(longest[1], longest[0]))
  const turned = cross(n, side)
  return settled(
    [side, scaled(side, -1), turned, scaled(turned, -1)].reduce((best, each) =>
      dot(each, plain) > dot(best, plain) + 1e-9 ? each : best,
    ),
  )
}

/** Weighted by area: slivers look anywhere. */
function normalOf(triangles: readonly Triangle[]): Vec3 {
  const sum = triangles.reduce<Vec3>(
    (all, [a, b, c]) => {
      const across = cross(subtract(b, a), subtract(c, a))
      return [all[0] + across[0], all[1] + across[1], all[2] + across[2]]
    },
    [0, 0, 0],
  )
  return unit(sum)
}

function placedIn(space: Frame, p: Vec3): Vec3 {
  return compose(space, { ...space, origin: p }).origin
}

/** Without what arithmetic adds to the last digits, so that what stands there is square and flush. */
function settled(v: Vec3): Vec3 {
  return v.map(tidy) as unknown as Vec3
}
function tidy(x: number): number {
  return Math.round(x * 1e9) / 1e9 + 0
}
