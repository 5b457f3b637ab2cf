import { type ClosedSurface, coursesOf, directionOf, type Sense, type Surface } from '../edges/index.ts'
import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, perpendicular, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { hardlyTurned, runsOn } from './slabs.ts'

/**
 * Bodies that hold all that lies less than a thickness from the edges of one sense: tubes along them, and balls at their
 * ends. `thick` of an edge is that of the faces beside it; 0 where it has none.
 */
export function tubesOf(
  surface: Surface,
  sense: Sense,
  thick: (edge: number) => number,
  flats: (radius: number) => number,
): ClosedSurface[] {
  const { edges, chains } = surface.solid
  const wanted = edges.flatMap((edge, i) => {
    const isOf = (edge.bend > 0 ? 1 : -1) === sense && thick(i) > 0
    // Where slabs do not run on into each other there is a gap between them; a small one has a wedge.
    const turns = Math.abs(edge.bend) >= hardlyTurned
    return isOf && turns && chains[i]!.halfEdges.some((h) => !runsOn(surface, h)) ? [i] : []
  })
  const bodies: ClosedSurface[] = []
  const balls = new Map<number, number>()
  for (const { edges: own, halfEdges, closed } of coursesOf(surface, wanted)) {
    const radius = Math.max(...own.map(thick))
    const stops = halfEdges.map((h) => surface.at(surface.from(h)))
    if (!closed) stops.push(surface.at(surface.from(nextHalfEdge(halfEdges.at(-1)!))))
    const ways = halfEdges.map((h) => directionOf(surface, h))
    bodies.push(...alongWays(stops, ways, closed, radius, flats(radius)))
    if (closed) continue
    for (const h of [halfEdges[0]!, surface.twin(halfEdges.at(-1)!)]) {
      const vertex = surface.from(h)
      balls.set(vertex, Math.max(balls.get(vertex) ?? 0, radius))
    }
  }
  for (const [vertex, radius] of balls) bodies.push(ballAt(surface.at(vertex), radius, flats(radius)))
  return bodies
}

/** Bodies that hold all that lies less than `radius` from a line through all stops; it ends flat. */
export function tubesAlong(stops: readonly Vec3[], radius: number, flats: (radius: number) => number): ClosedSurface[] {
  const ways = stops.slice(1).map((to, i) => unit(subtract(to, stops[i]!)))
  return alongWays(stops, ways, false, radius, flats(radius))
}

function alongWays(
  stops: readonly Vec3[],
  ways: readonly Vec3[],
  closed: boolean,
  radius: number,
  count: number,
): ClosedSurface[] {
  // The flats touch the round from outside: nowhere is the wall thinner.
  const far = radius / Math.cos(Math.PI / count)
  const whole = tubeAlong(stops, ways, closed, far, count)
  const folds = foldsUp(whole, ways, closed, count)
  if (!folds.includes(true)) return [whole]
  const stopAt = (i: number) => stops[i % stops.length]!
  const bodies: ClosedSurface[] = []
  // Begun where what folds up begins, so that no stretch of it is parted.
  const begin = closed
    ? Math.max(
        0,
        folds.findIndex((each, i) => each && !folds[(i + ways.length - 1) % ways.length]),
      )
    : 0
  const order = ways.map((_, i) => (begin + i) % ways.length)
  const isRound = closed && !folds.includes(false)
  for (let k = 0; k < order.length; ) {
    const first = order[k]!
    const from = k
    while (k < order.length && folds[order[k]!] === folds[first]) k++
    const own = order.slice(from, k)
    if (!folds[first]) {
      const line = [stopAt(first), ...own.map((i) => stopAt(i + 1))]
      bodies.push(
        tubeAlong(
          line,
          own.map((i) => ways[i]!),
          false,
          far,
          count,
        ),
      )
      continue
    }
    bodies.push(...own.flatMap((i) => wedgeBetween(stops, ways, closed, i, far, count)))
    // What lies beyond the line that it folds up in is nearest to where it ends.
    if (!isRound) bodies.push(ballAt(stopAt(first), radius, count), ballAt(stopAt(own.at(-1)! + 1), radius, count))
  }
  return bodies
}

/** How far what lies between two mitres goes beyond them, mm, so that it overlaps what lies beside it. */
const overlap = 1e-3

/**
 * The part of a tube along one stretch that lies between the mitres at its ends, where that bends more tightly than it is wide: a
 * wedge, as its hull's points.
 */
function wedgeBetween(
  stops: readonly Vec3[],
  ways: readonly Vec3[],
  closed: boolean,
  i: number,
  radius: number,
  count: number,
): ClosedSurface[] {
  const n = ways.length
  const way = ways[i]!
  const beside = (k: number) => (closed ? ways[(k + n) % n]! : ways[Math.min(n - 1, Math.max(0, k))]!)
  const mitres = [
    { at: stops[i]!, normal: unit(add(beside(i - 1), way)), out: -overlap },
    { at: stops[(i + 1) % stops.length]!, normal: unit(add(way, beside(i + 1))), out: overlap },
  ] as const
  const u = perpendicular(way)
  const v = cross(way, u)
  const points: Vec3[] = []
  /** where a line along the tube crosses both mitres, as ways from its first end */
  const crossings = (across: Vec3) =>
    mitres.map(({ at, normal, out }) => dot(normal, subtract(at, add(stops[i]!, across))) / dot(normal, way) + out) as [
      number,
      number,
    ]
  const all = Array.from({ length: count }, (_, k) => {
    const rad = (2 * Math.PI * k) / count
    const across = add(scaled(u, radius * Math.cos(rad)), scaled(v, radius * Math.sin(rad)))
    const [from, to] = crossings(across)
    return { across, from, to, room: to - from }
  })
  all.forEach((one, k) => {
    const next = all[(k + 1) % count]!
    const on = (across: Vec3, along: number) => add(add(stops[i]!, across), scaled(way, along))
    if (one.room > 0) points.push(on(one.across, one.from), on(one.across, one.to))
    if (one.room > 0 === next.room > 0) return
    // Where the mitres cross.
    const share = one.room / (one.room - next.room)
    const across = add(one.across, scaled(subtract(next.across, one.across), share))
    points.push(on(across, crossings(across)[0]))
  })
  return points.length < 4 ? [] : [{ points, triangles: [] }]
}

function tubeAlong(
  stops: readonly Vec3[],
  ways: readonly Vec3[],
  closed: boolean,
  radius: number,
  count: number,
): ClosedSurface {
  const last = ways.length - 1
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  // One direction across is carried along, so that rings are not turned against each other.
  let across = perpendicular(ways[0]!)
  stops.forEach((at, i) => {
    const before = ways[closed ? (i + last) % (last + 1) : Math.max(0, i - 1)]!
    const after = ways[Math.min(i, last)]!
    const sum = add(before, after)
    const way = scaled(sum, 1 / norm(sum))
    const beside = cross(way, across)
    const u = scaled(cross(beside, way), 1 / norm(beside))
    const v = cross(way, u)
    across = u
    // Where it turns, the ring is stretched as a mitre is.
    const stretch = 2 / norm(sum)
    const bent = cross(before, after)
    const out = norm(bent) > 1e-9 ? scaled(cross(way, bent), 1 / norm(bent)) : u
    for (let k = 0; k < count; k++) {
      const rad = (2 * Math.PI * k) / count
      const plain = add(scaled(u, radius * Math.cos(rad)), scaled(v, radius * Math.sin(rad)))
      const along = plain[0] * out[0] + plain[1] * out[1] + plain[2] * out[2]
      points.push(add(at, add(plain, scaled(out, along * (stretch - 1)))))
    }
  })
  const rings = stops.length
  for (let i = 0; i < (closed ? rings : rings - 1); i++) {
    const next = (i + 1) % rings
    // Round a closed course the carried direction may come back turned: it begins where it fits best.
    for (let k = 0; k < count; k++) {
      const [a, b] = [i * count + k, i * count + ((k + 1) % count)]
      const shift = closed && next === 0 ? nearestTurn(points, i * count, count) : 0
      const [c, d] = [next * count + ((k + shift) % count), next * count + ((k + 1 + shift) % count)]
      triangles.push([a, b, d], [a, d, c])
    }
  }
  if (!closed)
    for (let k = 1; k + 1 < count; k++) {
      const end = (rings - 1) * count
      triangles.push([0, k + 1, k], [end, end + k, end + k + 1])
    }
  return { points, triangles }
}

/** By stretch: whether a tube runs back somewhere on the inner side of its bends. */
function foldsUp({ points }: ClosedSurface, ways: readonly Vec3[], closed: boolean, count: number): boolean[] {
  const rings = points.length / count
  return ways.map((way, i) => {
    const next = (i + 1) % rings
    const shift = closed && next === 0 ? nearestTurn(points, i * count, count) : 0
    return Array.from({ length: count }, (_, k) => {
      const [p, q] = [points[i * count + k]!, points[next * count + ((k + shift) % count)]!]
      return dot(subtract(q, p), way)
    }).some((gone) => gone <= 0)
  })
}

/** By how many corners the first ring is turned against the one at `from`. */
function nearestTurn(points: readonly Vec3[], from: number, count: number): number {
  let best = { turn: 0, far: Number.POSITIVE_INFINITY }
  for (let turn = 0; turn < count; turn++) {
    const [p, q] = [points[from]!, points[turn]!]
    const far = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])
    if (far < best.far) best = { turn, far }
  }
  return best.turn
}

/** A ball whose flats touch it from outside, standing on its poles. */
function ballAt(centre: Vec3, radius: number, count: number): ClosedSurface {
  const rings = Math.max(2, Math.round(count / 2))
  const far = radius / Math.cos(Math.PI / count) ** 2
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  for (let i = 1; i < rings; i++)
    for (let k = 0; k < count; k++) {
      const [high, round] = [(Math.PI * i) / rings, (2 * Math.PI * k) / count]
      points.push(
        add(centre, [
          far * Math.sin(high) * Math.cos(round),
          far * Math.sin(high) * Math.sin(round),
          -far * Math.cos(high),
        ]),
      )
    }
  const [low, top] = [points.push(add(centre, [0, 0, -far])) - 1, points.push(add(centre, [0, 0, far])) - 1]
  for (let k = 0; k < count; k++) {
    const next = (k + 1) % count
    triangles.push([low, next, k])
    for (let i = 0; i + 2 < rings; i++) {
      const [a, b, c, d] = [i * count + k, i * count + next, (i + 1) * count + k, (i + 1) * count + next]
      triangles.push([a, b, d], [a, d, c])
    }
    triangles.push([(rings - 2) * count + k, (rings - 2) * count + next, top])
  }
  return { points, triangles }
}
