import { subMesh, type TriangleMesh } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { type Ring, ringArea } from '../plane/index.ts'
import { type Cut, Cutter, laidIn, type Plane, planeThrough, regionAt } from './section.ts'

export interface Section {
  readonly plane: Plane
  /** in the coordinates of the plane */
  readonly rings: readonly Ring[]
  /** mm² */
  readonly area: number
}

export interface NearDoor {
  /** a place in the neck, or near to it */
  readonly at: Vec3
  /** from a place on one side of it, through it, to one on the other, all of it inside the solid */
  readonly way: readonly Vec3[]
  /** how far from the place it may be narrower, mm */
  readonly within: number
}

/** From so many sections the search goes on. */
const starts = 4
/** They look another way, as a cosine, or lie elsewhere. */
const otherWay = 0.85
/** So many places on the way are looked at, along it and in so many directions. */
const [stations, ways] = [9, 12]
/** The search ends with steps of this share of how far it may be off. */
const finest = 0.002
/** Less of a section, as a share of it, is no gain. */
const hardlyAny = 1e-6
/** Planes look for sections in what is nearer than this first, as much as that may be narrower; then in so many times as much. */
const [local, wider] = [4, 3]

/** The least section through a place that parts its two sides; undefined where there is none. */
export function narrowestAt(mesh: TriangleMesh, door: NearDoor): Section | undefined {
  let best: Tried | undefined
  for (let reach = local * door.within; ; reach *= wider) {
    const near = trianglesNear(mesh, door.at, reach)
    const { found, isOpen } = searched(near, door)
    if (found) best = lesser(best, found)
    // A long narrow section may reach out of what is near, where a larger one does not.
    if ((best && !isOpen) || near.triangles.length === mesh.triangles.length) return best
  }
}

/** `isOpen`: what a plane along the way cuts, or one along a face, goes on beyond this mesh. */
function searched(mesh: TriangleMesh, { at, way: through, within }: NearDoor) {
  const cutter = new Cutter(mesh)
  let open = 0
  const cutAt = (normal: Vec3, along: number): Tried | undefined => {
    const plane = planeThrough(add(at, scaled(normal, along)), normal)
    // A plane that the way goes through there and back parts nothing.
    const crossings = through.flatMap((p, i) => {
      const before = through[i - 1]
      if (!before) return []
      const [from, to] = [dot(normal, subtract(before, plane.at)), dot(normal, subtract(p, plane.at))]
      return from >= 0 === to >= 0 ? [] : [add(before, scaled(subtract(p, before), from / (from - to)))]
    })
    if (crossings.length % 2 === 0) return undefined
    const place = crossings.reduce((best, p) => (norm(subtract(p, at)) < norm(subtract(best, at)) ? p : best))
    const cut = cutter.by(plane)
    const rings = regionAt(cut, laidIn(plane, place))
    if (!rings && cut.open.length > 0) open++
    const area = rings ? rings.reduce((sum, ring) => sum + ringArea(ring), 0) : 0
    return area > 0 ? { plane, rings: rings!, area, along, cut } : undefined
  }
  const leastAlong = (way: Vec3, places: readonly Vec3[]) =>
    places.flatMap((p) => cutAt(way, dot(way, subtract(p, at))) ?? []).reduce(lesser, undefined) ?? []
  const looked = [...alongWay(through, at, local * within), ...betweenFaces(mesh, at, within)]
  const tried = looked.flatMap(([[own], places]) => (own ? leastAlong(own, places) : []))
  const isOpen = open > 0
  tried.push(...looked.flatMap(([ways, places]) => ways.slice(1).flatMap((way) => leastAlong(way, places))))
  tried.sort((a, b) => a.area - b.area)
  const begun: Tried[] = []
  for (const each of tried) {
    const isNew = begun.every(
      ({ plane }) =>
        Math.abs(dot(plane.normal, each.plane.normal)) < otherWay ||
        Math.abs(dot(plane.normal, subtract(each.plane.at, plane.at))) > within / 2,
    )
    if (isNew && begun.length < starts) begun.push(each)
  }
  return { found: begun.map(descended).reduce(lesser, undefined), isOpen }

  /** How a section grows by each way to move its plane; a turn counts by what it moves as far away as the neck may be off. */
  function growthOf({ plane, rings, cut }: Tried): Vec3 {
    const [shift, alongU, alongV] = cutter.growth(plane, rings, cut)
    return [shift, alongU / within, alongV / within]
  }

  function moved({ plane: { normal, u, v, at: middle } }: Tried, [shift, turnU, turnV]: Vec3): Tried | undefined {
    const turned = unit(subtract(normal, add(scaled(u, turnU / within), scaled(v, turnV / within))))
    return cutAt(turned, dot(turned, subtract(add(middle, scaled(normal, shift)), at)))
  }

  /**
   * From a section on to lesser ones, the way in which they grow less fastest. Along a crease that is another one on either side of it, and
   * what they have in common leads along it (gradient sampling: Burke, Lewis and Overton, 2005).
   */
  function descended(start: Tried): Tried {
    let own = start
    for (let step = within / 4; step > finest * within; ) {
      const least = (way: Vec3) => {
        const steep = norm(way)
        const next = steep > 0 ? moved(own, scaled(way, -step / steep)) : undefined
        return next && next.area < (1 - hardlyAny) * own.area ? next : undefined
      }
      const next =
        least(growthOf(own)) ??
        least(inCommon([own, ...probes.flatMap((way) => moved(own, scaled(way, step)) ?? [])].map(growthOf)))
      if (next) {
        own = next
        step *= 1.3
      } else step /= 2
    }
    return own
  }
}

/** Where else growth is looked at, in steps. */
const probes: readonly Vec3[] = [0, 1, 2].flatMap(
  (k) => [1, -1].map((sign) => [0, 1, 2].map((i) => (i === k ? sign : 0))) as unknown as Vec3[],
)
const rounds = 12

/** What ways have in common: what is nearest to nothing in their hull, nearly (Frank and Wolfe, 1956). */
function inCommon(ways: readonly Vec3[]): Vec3 {
  let least = ways[0]!
  for (let round = 0; round < rounds; round++) {
    const next = ways.reduce((best, way) => (dot(way, least) < dot(best, least) ? way : best))
    const apart = subtract(next, least)
    const long = dot(apart, apart)
    if (!(long > 0)) break
    least = add(least, scaled(apart, Math.min(1, Math.max(0, -dot(least, apart) / long))))
  }
  return least
}

interface Tried extends Section {
  /** how far from the place along its normal */
  readonly along: number
  readonly cut: Cut
}

function lesser(best: Tried | undefined, each: Tried): Tried {
  return best && best.area <= each.area ? best : each
}

/** Places on a way that are near to one, each with how the way goes there and other directions. */
function alongWay(through: readonly Vec3[], at: Vec3, reach: number): readonly Looked[] {
  const near = through.flatMap((p, i) => (norm(subtract(p, at)) < reach ? [i] : []))
  const chosen = [
    ...new Set(Array.from({ length: stations }, (_, k) => near[Math.round((k * (near.length - 1)) / (stations - 1))])),
  ]
  return chosen.flatMap((i): Looked[] => {
    if (i === undefined) return []
    const along = subtract(through[Math.min(through.length - 1, i + 2)]!, through[Math.max(0, i - 2)]!)
    return [[[...(norm(along) > 0 ? [unit(along)] : []), ...hemisphere(ways)], [through[i]!]]]
  })
}

/** Directions, the one that is likeliest first, and places that planes square to each of them go through. */
type Looked = readonly [ways: readonly Vec3[], places: readonly Vec3[]]

/** So many ways square to faces are tried, at so many places between faces along each. */
const [mostFaces, mostBetween] = [6, 8]
/** Faces whose normals differ by less look the same way, as a cosine; places nearer to each other than this are one, mm. */
const [sameWay, samePlace] = [0.98, 1e-3]

/** Ways square to the faces round a place, the largest first, and places along each that lie between two of its corners. */
function betweenFaces({ positions, triangles }: TriangleMesh, at: Vec3, within: number): readonly Looked[] {
  const corner = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!]
  const faces: { readonly way: Vec3; area: number }[] = []
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [corner(triangles[t]!), corner(triangles[t + 1]!), corner(triangles[t + 2]!)]
    const square = cross(subtract(b, a), subtract(c, a))
    const area = norm(square)
    if (!(area > 0)) continue
    const way = scaled(square, 1 / area)
    // What counts of a large one is what is near.
    const near = Math.min(area, within * within)
    const same = faces.find((face) => Math.abs(dot(face.way, way)) > sameWay)
    if (same) same.area += near
    else faces.push({ way, area: near })
  }
  faces.sort((a, b) => b.area - a.area)
  return faces.slice(0, mostFaces).map(({ way }) => {
    const levels: number[] = [-within, within]
    for (let i = 0; i < positions.length / 3; i++) {
      const along = dot(way, subtract(corner(i), at))
      if (Math.abs(along) < within) levels.push(along)
    }
    levels.sort((a, b) => a - b)
    const places = levels.flatMap((along, i) =>
      i > 0 && along - levels[i - 1]! > samePlace ? [(along + levels[i - 1]!) / 2] : [],
    )
    places.sort((a, b) => Math.abs(a) - Math.abs(b))
    return [[way], places.slice(0, mostBetween).map((along) => add(at, scaled(way, along)))]
  })
}

/** Directions all over half of a ball, about as far from each other (a spiral by the golden angle: Vogel, 1979). */
function hemisphere(count: number): readonly Vec3[] {
  const golden = Math.PI * (3 - Math.sqrt(5))
  return Array.from({ length: count }, (_, i) => {
    const z = (i + 0.5) / count
    const r = Math.sqrt(1 - z * z)
    return [r * Math.cos(i * golden), r * Math.sin(i * golden), z] as const
  })
}

/** Those triangles whose boxes come within `reach` of a place, along each axis. */
function trianglesNear(mesh: TriangleMesh, at: Vec3, reach: number): TriangleMesh {
  const { positions, triangles } = mesh
  return subMesh(mesh, (t) => {
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [0, 1, 2].map((i) => positions[3 * triangles[3 * t + i]! + k]!) as [number, number, number]
      if (Math.max(a, b, c) < at[k]! - reach || Math.min(a, b, c) > at[k]! + reach) return false
    }
    return true
  })
}
