import {
  boxesMeet,
  boxOfSegment,
  distance2,
  dot2,
  minus,
  nearestOn,
  plus,
  pointAt,
  type Segment,
  times,
  type Vec2,
} from '../plane/index.ts'
import { itself, leavingDirection, type Spot, type Wish } from './sketch.ts'
import type { SolvedOutline } from './solved.ts'

/** What a place of the pointer is taken for while drawing; told at the pointer, and left out where it is refused. */
export interface Inferred {
  readonly spot: Spot
  /** what the curve that ends here will be held by */
  readonly wishes: readonly Wish[]
  /** in words, for the pointer */
  readonly told: readonly string[]
  /** lines that show what it is level with, from there to here */
  readonly guides: readonly (readonly [Vec2, Vec2])[]
}

export interface InferOptions {
  /** how near counts as meant, mm */
  readonly within: number
  /** the point that a line is drawn from, with its id where it has one */
  readonly from?: Spot | undefined
  /** whether a line is being drawn, which can be level, upright, tangent, … */
  readonly line?: boolean
  /** nothing is inferred */
  readonly refused?: boolean
}

/**
 * Reads what is meant by a place: first the nearest point, then a curve or its middle, then for a line its direction, then
 * being level with other points.
 */
export function infer(
  solved: SolvedOutline,
  at: Vec2,
  { within, from, line = false, refused = false }: InferOptions,
): Inferred {
  const plain: Inferred = { spot: { at }, wishes: [], told: [], guides: [] }
  if (refused) return plain
  const onto = snapped(solved, at, within)
  const direction = line && from ? directed(solved, from, onto?.spot.at ?? at, within, onto !== undefined) : undefined
  if (onto)
    return { ...plain, spot: onto.spot, told: [onto.told, ...(direction?.told ?? [])], wishes: direction?.wishes ?? [] }
  if (direction) return { ...plain, spot: { at: direction.at }, wishes: direction.wishes, told: direction.told }
  return levelled(solved, at, within) ?? plain
}

function snapped(
  solved: SolvedOutline,
  at: Vec2,
  within: number,
): { readonly spot: Spot; readonly told: string } | undefined {
  let best: { readonly id: string; readonly at: Vec2; readonly distance: number } | undefined
  for (const [id, place] of solved.points) {
    if (id === 'x-end' || id === 'y-end') continue
    const distance = distance2(place, at)
    if (distance <= within && (!best || distance < best.distance)) best = { id, at: place, distance }
  }
  if (best)
    return {
      spot: { at: best.at, point: best.id },
      told: best.id === 'origin' ? 'on the origin' : `on point ${best.id}`,
    }
  let near:
    | { readonly id: string; readonly segment: Segment; readonly t: number; readonly distance: number }
    | undefined
  for (const [id, segments] of solved.drawnCurves)
    for (const segment of segments) {
      if (!boxesMeet(boxOfSegment(segment), { min: at, max: at }, within)) continue
      const { t, distance } = nearestOn(segment, at)
      if (distance <= within && (!near || distance < near.distance)) near = { id, segment, t, distance }
    }
  for (const [id, way] of [
    ['x-axis', [1, 0]],
    ['y-axis', [0, 1]],
  ] as const) {
    const foot = times(way, dot2(at, way))
    const distance = distance2(foot, at)
    if (distance <= within / 2 && (!near || distance < near.distance))
      return { spot: { at: foot, hold: { kind: 'on', of: id } }, told: `on the ${id.replace('-', ' ')}` }
  }
  if (!near) return undefined
  const middle = pointAt(near.segment, 0.5)
  if (near.segment.kind === 'line' && distance2(middle, at) <= within)
    return { spot: { at: middle, hold: { kind: 'midpoint', of: near.id } }, told: `midpoint of ${near.id}` }
  return { spot: { at: pointAt(near.segment, near.t), hold: { kind: 'on', of: near.id } }, told: `on ${near.id}` }
}

/** What is asked of the direction of a line from `from` to `to`, and where it then ends. `kept`: its end stays where it is. */
function directed(solved: SolvedOutline, from: Spot, to: Vec2, within: number, kept: boolean) {
  const way = minus(to, from.at)
  const [dx, dy] = way
  const far = Math.hypot(dx, dy)
  if (far < 1e-9) return undefined
  // A point that is there already is met only if it lies so.
  const limit = kept ? 1e-6 : within
  const tries: { readonly off: number; readonly at: Vec2; readonly wish: Wish; readonly told: string }[] = [
    { off: Math.abs(dy), at: [to[0], from.at[1]], wish: { kind: 'horizontal', of: [itself] }, told: 'horizontal' },
    { off: Math.abs(dx), at: [from.at[0], to[1]], wish: { kind: 'vertical', of: [itself] }, told: 'vertical' },
  ]
  for (const [id, segments] of solved.drawnCurves) {
    if (segments.length === 0) continue
    const leaving = from.point === undefined ? undefined : leavingDirection(segments, from.at)
    const straight = segments.length === 1 && segments[0]!.kind === 'line'
    const along = (d: Vec2, kind: string, told: string) => {
      const reach = dot2(way, d)
      const foot = plus(from.at, times(d, reach))
      tries.push({ off: distance2(foot, to), at: foot, wish: { kind, of: [id, itself] }, told })
    }
    if (leaving && !straight) along(leaving, 'tangent', `tangent to ${id}`)
    if (leaving && straight) along([-leaving[1], leaving[0]], 'perpendicular', `perpendicular to ${id}`)
  }
  const [best] = tries.filter(({ off }) => off <= limit).sort((a, b) => a.off - b.off)
  return best && { at: kept ? to : best.at, wishes: [best.wish], told: [best.told] }
}

/** Level with or above a point, both where two are near; it is told, and nothing is held by it. */
function levelled(solved: SolvedOutline, at: Vec2, within: number): Inferred | undefined {
  let across: Vec2 | undefined
  let upright: Vec2 | undefined
  for (const [id, place] of solved.points) {
    if (id === 'x-end' || id === 'y-end') continue
    if (Math.abs(place[1] - at[1]) <= within / 2 && (!across || distance2(place, at) < distance2(across, at)))
      across = place
    if (Math.abs(place[0] - at[0]) <= within / 2 && (!upright || distance2(place, at) < distance2(upright, at)))
      upright = place
  }
  if (!across && !upright) return undefined
  const here: Vec2 = [upright?.[0] ?? at[0], across?.[1] ?? at[1]]
  return {
    spot: { at: here },
    wishes: [],
    told: [across ? 'level with a point' : '', upright ? 'above a point' : ''].filter(Boolean),
    guides: [across, upright].filter((place): place is Vec2 => place !== undefined).map((place) => [place, here]),
  }
}

/** The curve that ends at a point, with the direction in which it would go on; for arcs that run on from it. */
export function goingOn(
  solved: SolvedOutline,
  point: string,
): { readonly curve: string; readonly way: Vec2 } | undefined {
  const at = solved.points.get(point)
  for (const { id, points, helper } of [...solved.outline.curves].reverse()) {
    const segments = solved.drawnCurves.get(id)!
    if (helper || segments.length === 0 || !at || !points.includes(point)) continue
    const way = leavingDirection(segments, at)
    if (way) return { curve: id, way }
  }
  return undefined
}
