import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import type { Sense, Station } from './ball.ts'
import { type ClosedSurface, intoStrip, stripOf } from './body.ts'

/** The point of three planes, each through its point with its normal; undefined where they have none in common. */
export function meetingOf(planes: readonly { readonly point: Vec3; readonly normal: Vec3 }[]): Vec3 | undefined {
  const [a, b, c] = planes.map(({ normal }) => normal) as [Vec3, Vec3, Vec3]
  const whole = dot(a, cross(b, c))
  if (Math.abs(whole) < 1e-6) return undefined
  const [d, e, f] = planes.map(({ point, normal }) => dot(point, normal)) as [number, number, number]
  const sum = add(add(scaled(cross(b, c), d), scaled(cross(c, a), e)), scaled(cross(a, b), f))
  return scaled(sum, 1 / whole)
}

/** What a corner of three rounded edges is made of; everything in the order of the edges, counter-clockwise as seen from outside. */
export interface BallCorner {
  readonly vertex: Vec3
  readonly centre: Vec3
  /** where the ball touches the face after each edge */
  readonly contacts: readonly Vec3[]
  /** outward, of the same faces */
  readonly normals: readonly Vec3[]
  /** across each edge, from the face before it to that after it */
  readonly arcs: readonly (readonly Vec3[])[]
  /** over each edge, where its strip ends */
  readonly overs: readonly Vec3[]
  /** unit, in which each strip goes on from there */
  readonly ways: readonly Vec3[]
}

/** The body that is left at a corner between three strips and the ball that touches all three faces. */
export function ballCornerOf(corner: BallCorner, sense: Sense, clear: number): ClosedSurface {
  const { vertex, centre, contacts, normals, arcs, overs, ways } = corner
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  const put = (p: Vec3) => points.push(p) - 1
  const face = (a: number, b: number, c: number) => triangles.push(sense > 0 ? [a, b, c] : [a, c, b])
  const lifted = (p: Vec3, n: Vec3) => add(p, scaled(n, sense * clear))
  const tips = contacts.map((at, j) => put(lifted(at, normals[j]!)))
  const raised = meetingOf(normals.map((normal) => ({ point: lifted(vertex, normal), normal })))
  const top = put(raised ?? lifted(vertex, unit(normals.reduce(add))))
  const over = overs.map(put)
  const own = arcs.map((arc) => arc.map(put))
  for (let j = 0; j < 3; j++) {
    const next = (j + 1) % 3
    const before = (j + 2) % 3
    face(top, over[j]!, tips[j]!)
    face(top, tips[j]!, over[next]!)
    const cap = [over[j]!, tips[before]!, ...own[j]!, tips[j]!]
    const far = intoStrip(
      cap.map((i) => points[i]!),
      overs[j]!,
      ways[j]!,
    ).map(put)
    cap.forEach((a, i) => {
      const k = (i + 1) % cap.length
      face(a, cap[k]!, far[k]!)
      face(a, far[k]!, far[i]!)
      if (i > 0 && k > 0) face(far[0]!, far[i]!, far[k]!)
    })
  }
  // The ball is seen from outside the body: from the other side.
  const loop = [own[1]!, own[2]!, own[0]!]
  for (const [a, b, c] of ballPatch(centre, loop, points)) face(a, c, b)
  return { points, triangles }
}

/**
 * Triangles of the piece of a ball between three arcs that follow one another counter-clockwise, as places in `points`; those
 * within it are added there. Ends of arcs that meet are different places with the same numbers.
 */
export function ballPatch(
  centre: Vec3,
  arcs: readonly (readonly number[])[],
  points: Vec3[],
): readonly (readonly [number, number, number])[] {
  const corners = arcs.map((arc) => subtract(points[arc[0]!]!, centre))
  const radius = norm(corners[0]!)
  const level = Math.max(...arcs.map(({ length }) => length - 1))
  // Within: the grid of the triangle without its rim, which is a grid of three levels less.
  const rows: number[][] = []
  for (let i = 1; i < level - 1; i++) {
    const row: number[] = []
    for (let k = 1; k < level - i; k++) {
      const weights = [level - i - k, k, i]
      const sum = corners.map((corner, c) => scaled(corner, weights[c]!)).reduce(add)
      row.push(points.push(add(centre, scaled(unit(sum), radius))) - 1)
    }
    rows.push(row)
  }
  const triangles: [number, number, number][] = []
  for (let i = 0; i + 1 < rows.length; i++)
    for (let k = 0; k + 1 < rows[i]!.length; k++) {
      triangles.push([rows[i]![k]!, rows[i]![k + 1]!, rows[i + 1]![k]!])
      if (k + 1 < rows[i + 1]!.length) triangles.push([rows[i]![k + 1]!, rows[i + 1]![k + 1]!, rows[i + 1]![k]!])
    }
  if (rows.length === 0) {
    // Nothing within: from the middle of the longest side, or all of it where the sides are one flat each.
    const rim = arcs.flatMap((arc) => arc.slice(0, -1))
    const middle = points.push(add(centre, scaled(unit(corners.reduce(add)), radius))) - 1
    if (level === 1) return [[rim[0]!, rim[1]!, rim[2]!]]
    return rim.map((a, i) => [a, rim[(i + 1) % rim.length]!, middle])
  }
  const inner = [rows[0]!, rows.map((row) => row.at(-1)!), rows.map((row) => row[0]!).reverse()]
  return [...triangles, ...arcs.flatMap((arc, side) => zipped(arc, inner[side]!, points))]
}

/** Triangles between two lines of points that run the same way, `inner` to the left of `outer`. */
function zipped(
  outer: readonly number[],
  inner: readonly number[],
  points: readonly Vec3[],
): [number, number, number][] {
  const triangles: [number, number, number][] = []
  const apart = (a: number, b: number) => norm(subtract(points[a]!, points[b]!))
  let [i, k] = [0, 0]
  while (i + 1 < outer.length || k + 1 < inner.length) {
    const onOuter =
      k + 1 >= inner.length ||
      (i + 1 < outer.length && apart(outer[i + 1]!, inner[k]!) <= apart(outer[i]!, inner[k + 1]!))
    if (onOuter) triangles.push([outer[i]!, outer[i + 1]!, inner[k]!])
    else triangles.push([outer[i]!, inner[k + 1]!, inner[k]!])
    if (onOuter) i++
    else k++
  }
  return triangles
}

/** A ball that goes on round an edge of the other sense, which two rounded edges of one face end at. */
export interface PivotCorner {
  readonly vertex: Vec3
  /** unit, along that edge, away from the vertex */
  readonly axis: Vec3
  /** outward, of the face that both have in common */
  readonly normal: Vec3
  /** unit, from the edge to the centre, first and last */
  readonly from: Vec3
  readonly to: Vec3
  readonly radii: readonly [number, number]
}

/** The ball of a pivot when it has gone a share of its way; the common face lies on the left. */
export function pivotAt({ vertex, axis, normal, from, to, radii }: PivotCorner, share: number, sense: Sense): Station {
  const turn = Math.atan2(dot(cross(from, to), axis), dot(from, to))
  const side = cross(axis, from)
  const u = add(scaled(from, Math.cos(share * turn)), scaled(side, Math.sin(share * turn)))
  const radius = radii[0] + (radii[1] - radii[0]) * share
  // Under the face by the radius, and by as much away from the edge.
  const deep = (-sense * radius - radius * dot(u, normal)) / dot(axis, normal)
  const foot = add(vertex, scaled(axis, deep))
  const centre = add(foot, scaled(u, radius))
  const contact = { bulge: 0, curve: 0, past: -1, face: -1 }
  const along = scaled(unit(cross(u, axis)), -sense)
  return {
    ...{ edge: vertex, along, centre, radius },
    left: { ...contact, at: add(centre, scaled(normal, sense * radius)), normal },
    right: { ...contact, at: foot, normal: scaled(u, -sense) },
  }
}

/** The body that a ball cuts off, or fills in, while it goes round an edge; `ways` unit, in which it comes and goes. */
export function pivotOf(
  corner: PivotCorner,
  arcs: readonly (readonly Vec3[])[],
  ways: readonly [Vec3, Vec3],
  sense: Sense,
  clear: number,
): ClosedSurface {
  const { vertex, axis, normal } = corner
  const over = add(vertex, scaled(axis, (sense * clear) / dot(axis, normal)))
  const profiles = arcs.map((arc) => [...arc, over, add(arc[0]!, scaled(normal, sense * clear))])
  const all = [
    intoStrip(profiles[0]!, over, scaled(ways[0], -1)),
    ...profiles,
    intoStrip(profiles.at(-1)!, over, ways[1]),
  ]
  return stripOf(all, false, sense, profiles[0]!.length - 2)
}
