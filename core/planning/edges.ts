import { add, compose, cross, dot, type Frame, norm, pointIn, pointOut, scaled, type Vec3 } from '../place/index.ts'
import {
  arcBetween,
  carried,
  circleSegment,
  lengthOf,
  line,
  type Segment,
  times,
  unit2,
  type Vec2,
} from '../plane/index.ts'
import { tried } from '../problems/index.ts'
import type { NamedFace, ShapeEdge } from '../shapes/index.ts'
import type { Plan } from './plan.ts'

/** An edge of a copy of a step as it is seen on a plane: its true curve there, mm. */
export interface SeenEdge {
  readonly step: string
  /** from 1 */
  readonly copy: number
  /** of the face that it bounds */
  readonly face: string
  readonly segment: Segment
}

/** Cosine of an angle that is still no angle. */
export const along = 0.9999

/**
 * The edges of a step as they are seen on a plane: flat faces that stand on it and those that cross it, rounds along it,
 * across it and aslant, and what the shape itself knows to be seen along its axis. From the plan alone, so that it follows
 * what is typed; what other steps take away or cover is not known here. `only`: of this copy.
 */
export function edgesSeen(plane: Frame, plan: Plan, step: string, only?: number): SeenEdge[] {
  const known = plan.geometry.get(step)
  const operand = plan.operands.get(step)
  if (!known) return []
  const { body, copies } = operand ?? {}
  if (body?.kind !== 'shape' || !copies) {
    const own = known.faces.flatMap((face) => traceOf(placedFace(known.frame, face), plane))
    return own.map((edge) => ({ step, copy: 1, face: edge.name, segment: edge.segment }))
  }
  return copies.flatMap(({ number, values, up }) => {
    // Within a bundle the operand stands where it was planned, and the geometry where the bundle brought it.
    const frame = known.made[number - 1]
    if (!frame || (only !== undefined && number !== only)) return []
    const larger = evenly(frame)
    const own =
      larger !== undefined && Math.abs(dot(frame.n, plane.n)) >= along * larger
        ? (tried(() => body.shape.edges?.(values, up)) ?? []).map((edge) => onPlane(edge, frame, larger, plane))
        : []
    const names = new Set(own.map(({ name }) => name))
    const faces = (tried(() => body.shape.surfaces(values).faces) ?? []).filter(({ name }) => !names.has(name))
    const traces = faces.flatMap((face) => traceOf(placedFace(frame, face), plane))
    // A side that its corners leave nothing of is there in name only.
    return [...own.filter(({ segment }) => lengthOf(segment) > 1e-9), ...traces].map(({ name, segment }) => ({
      step,
      copy: number,
      face: name,
      segment,
    }))
  })
}

/** How many times its size a step is made in all directions; undefined where these are not alike or not square to each other. */
function evenly({ u, v, n }: Frame): number | undefined {
  const larger = norm(u)
  const isEven = [v, n].every((d) => Math.abs(norm(d) - larger) < 1e-9 * larger)
  if (!isEven || Math.max(Math.abs(dot(u, v)), Math.abs(dot(u, n))) > 1e-9 * larger ** 2) return undefined
  // What is not scaled keeps its last digit.
  return Math.abs(larger - 1) < 1e-9 ? 1 : larger
}

function onPlane({ name, segment }: ShapeEdge, frame: Frame, larger: number, plane: Frame): ShapeEdge {
  const direction = (d: Vec3): Vec2 => [dot(d, plane.u), dot(d, plane.v)]
  const [x, y] = pointIn(plane, frame.origin)
  const seen = carried(segment, { origin: [x, y], u: direction(frame.u), v: direction(frame.v) })
  return { name, segment: seen.kind === 'arc' ? { ...seen, radius: seen.radius * larger } : seen }
}

/** A face where it is; its directions are as long as the step is scaled along them, and `n` stands on it. */
interface PlacedFace {
  readonly face: NamedFace
  readonly frame: Frame
  /** how many times its size the step is made; undefined where that is not so in all directions */
  readonly larger: number | undefined
}

function placedFace(step: Frame, face: NamedFace): PlacedFace {
  const { origin, u, v, n } = compose(step, face.frame)
  const across = cross(u, v)
  const square = scaled(across, 1 / (norm(across) || 1))
  return { face, frame: { origin, u, v, n: dot(square, n) < 0 ? scaled(square, -1) : square }, larger: evenly(step) }
}

/** What is seen of a face on a plane: an edge, two at most. */
function traceOf(placed: PlacedFace, plane: Frame): ShapeEdge[] {
  const { face, frame, larger } = placed
  if (face.round === undefined) return flatTrace(placed, plane)
  if (larger === undefined) return []
  const size = [face.size[0] * larger, face.size[1] * larger] as const
  const square = { ...frame, u: scaled(frame.u, 1 / larger), v: scaled(frame.v, 1 / larger) }
  return roundTrace({ face: { ...face, size }, frame: square, larger: 1 }, face.round * larger, plane)
}

/** A flat face that stands on the plane is seen edge-on; one that leans is an edge where it goes through the plane. */
function flatTrace({ face, frame }: PlacedFace, plane: Frame): ShapeEdge[] {
  const leans = dot(frame.n, plane.n)
  if (Math.abs(leans) >= along || norm(frame.u) === 0 || norm(frame.v) === 0) return []
  const [w, h] = [face.size[0] / 2, face.size[1] / 2]
  const corners = [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ].map(([x, y]) => pointIn(plane, pointOut(frame, [x!, y!, 0])))
  const points: Vec2[] =
    Math.abs(leans) < 1e-6
      ? corners.map(([x, y]) => [x, y])
      : corners.flatMap((a, i): Vec2[] => {
          const b = corners[(i + 1) % 4]!
          if (a[2] > 1e-9 === b[2] > 1e-9) return Math.abs(a[2]) < 1e-9 ? [[a[0], a[1]]] : []
          const t = a[2] / (a[2] - b[2])
          return [[a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]]
        })
  if (points.length < 2) return []
  const d3 = cross(plane.n, frame.n)
  const d = unit2([dot(d3, plane.u), dot(d3, plane.v)])
  const reach = (p: Vec2) => p[0] * d[0] + p[1] * d[1]
  const sorted = [...points].sort((a, b) => reach(a) - reach(b))
  const [from, to] = [sorted[0]!, sorted.at(-1)!]
  return reach(to) - reach(from) < 1e-6 ? [] : [{ name: face.name, segment: line(from, to) }]
}

function roundTrace({ face, frame }: PlacedFace, round: number, plane: Frame): ShapeEdge[] {
  const { name, size } = face
  const radius = Math.abs(round)
  const turn = size[0] / radius
  const whole = turn > 2 * Math.PI - 1e-6
  const axis = frame.v
  const centre = add(frame.origin, scaled(frame.n, -round))
  const leans = dot(axis, plane.n)
  const [cx, cy, away] = pointIn(plane, centre)
  if (Math.abs(leans) >= along) {
    if (whole) return [{ name, segment: circleSegment([cx, cy], radius) }]
    // Half of it to each side of the line along which its frame touches it.
    const [mx, my] = pointIn(plane, frame.origin)
    const middle: Vec2 = [mx - cx, my - cy]
    const turned = (rad: number): Vec2 => [
      cx + middle[0] * Math.cos(rad) - middle[1] * Math.sin(rad),
      cy + middle[0] * Math.sin(rad) + middle[1] * Math.cos(rad),
    ]
    return [{ name, segment: arcBetween([cx, cy], turned(-turn / 2), turned(turn / 2), true) }]
  }
  if (!whole) return []
  const level: Vec2 = [dot(axis, plane.u), dot(axis, plane.v)]
  const run = unit2(level)
  const beside: Vec2 = times([-run[1], run[0]], radius)
  if (Math.abs(leans) < 1e-6) {
    const half = times(run, size[1] / 2)
    const side = (by: number, called: string): ShapeEdge => ({
      name: called,
      segment: line(
        [cx - half[0] + beside[0] * by, cy - half[1] + beside[1] * by],
        [cx + half[0] + beside[0] * by, cy + half[1] + beside[1] * by],
      ),
    })
    return size[1] > 1e-6 ? [side(1, `left of ${name}`), side(-1, `right of ${name}`)] : []
  }
  // Cut aslant: an ellipse about where its axis goes through the plane. How far down a through hole goes is not known.
  const t = -away / leans
  const slant = Math.sqrt(1 - leans * leans) / Math.abs(leans)
  if (size[1] > 1e-6 && Math.abs(t) - radius * slant > size[1] / 2) return []
  const at: Vec2 = [cx + level[0] * t, cy + level[1] * t]
  const segment: Segment = {
    kind: 'ellipse',
    centre: at,
    major: times(run, radius / Math.abs(leans)),
    minor: beside,
    startRad: 0,
    sweepRad: 2 * Math.PI,
  }
  return [{ name, segment }]
}
