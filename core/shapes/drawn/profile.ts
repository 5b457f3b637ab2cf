import type { Ring } from '../../kernel/index.ts'
import {
  type Chain,
  carriedLoop,
  cross2,
  Drawn,
  dot2,
  flattenedChain,
  type LineSegment,
  line,
  type Motion2,
  minus,
  movedBy,
  unit2,
  united,
  type Vec2,
} from '../../plane/index.ts'
import type { WallKind } from './common.ts'
import { Kept } from './kept.ts'
import { subdivided } from './subdivide.ts'
import { walled } from './wall.ts'

export interface Turned {
  readonly outline: Drawn
  /** id of the line that it is turned about */
  readonly axis: string
  readonly smooth: number
  readonly wall: WallKind
  readonly thick: number
}

/** How far the outline reaches to both sides of its axis, mm. */
export function sidesOf(outline: Drawn, axis: LineSegment): { readonly left: number; readonly right: number } {
  const [x, y] = unit2(minus(axis.to, axis.from))
  const at = dot2(axis.from, [-y, x])
  return { left: Math.max(0, outline.reach([-y, x]) - at), right: Math.max(0, outline.reach([y, -x]) + at) }
}

/** The motion into the plane whose x is the distance from the axis, on the side that the outline is on, and whose y is the way along it. */
export function aboutAxis(outline: Drawn, axis: LineSegment): Motion2 {
  const [x, y] = unit2(minus(axis.to, axis.from))
  const { left, right } = sidesOf(outline, axis)
  const side = left >= right ? 1 : -1
  return { origin: [side * cross2(axis.from, [x, y]), 0], u: [-side * y, x], v: [side * x, y] }
}

const profiles = new Kept()

/**
 * What is turned, beside the upright axis: smoothed, and as a wall where it is one. A wall goes round the whole of what is
 * turned, so that its mirror image on the other side of the axis belongs to it. `fineness` and `grow` (see `flattened`)
 * count where it is smoothed; else its curves are true.
 */
export function profileOf(turned: Turned, fineness: number, grow: boolean): Drawn {
  const { outline, axis, smooth, wall, thick } = turned
  const key = [axis, wall, wall === 'filled' ? 0 : thick, smooth, ...(smooth > 0 ? [fineness, grow] : [])].join('|')
  return profiles.get(outline, key, () => build(turned, key, fineness, grow))
}

function build({ outline, axis, smooth, wall, thick }: Turned, key: string, fineness: number, grow: boolean): Drawn {
  const motion = aboutAxis(outline, outline.lines.get(axis)!)
  const beside = (loops: readonly Chain[]) => loops.map((loop) => carriedLoop(loop, motion))
  const plain = { name: outline.name, open: [], lines: new Map<string, LineSegment>(), sharp: [] }
  const own = new Drawn({ ...plain, key: `${outline.key}|${key}`, loops: beside(outline.loops) })
  const loops =
    smooth === 0 ? own.loops : smoothed(own.rings(fineness, grow), smooth, sharpOf(outline, motion), fineness / 20)
  if (wall === 'filled') return new Drawn({ ...own, loops })
  const mirror: Motion2 = { origin: [0, 0], u: [-1, 0], v: [0, 1] }
  const whole = united([...loops, ...loops.map((loop) => carriedLoop(loop, mirror))])
  const open = smooth === 0 ? outline.open : smoothedLines(outline, smooth, fineness)
  const opened = walled(new Drawn({ ...outline, key: `${outline.key}|${key}`, loops: [], open }), wall, thick)
  return new Drawn({
    ...own,
    loops: [...walled(new Drawn({ ...own, loops: whole }), wall, thick).loops, ...beside(opened.loops)],
  })
}

/** Open lines subdivided as closed ones are; their ends stay. */
function smoothedLines(outline: Drawn, levels: number, fineness: number): Chain[] {
  return outline.open.map(({ segments }) => {
    const points = flattenedChain(segments, false, fineness, false)
    const ends = [points[0]!, points.at(-1)!]
    const sharp = [...ends, ...outline.sharp]
    // There and back again is a ring, which keeps to the line where its ends are sharp.
    const there = subdivided(
      [...points, ...points.slice(1, -1).reverse()],
      levels,
      (p) => near(p, sharp),
      fineness / 20,
    )
    const last = there.findIndex((p) => Math.hypot(p[0] - ends[1]![0], p[1] - ends[1]![1]) < 1e-9)
    const own = there.slice(0, last + 1)
    const lines = own.slice(1).map((p, i) => line(own[i]!, p))
    return { segments: lines, curves: lines.map(() => ''), closed: false }
  })
}

function near(p: Vec2, points: readonly Vec2[]): boolean {
  return points.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < 1e-6)
}

function sharpOf(outline: Drawn, motion: Motion2): Vec2[] {
  return outline.sharp.map((p) => movedBy(motion, p))
}

/** Subdivided but for what is marked to stay sharp, and for what lies on the axis. */
function smoothed(rings: readonly Ring[], levels: number, sharp: readonly Vec2[], within: number): Chain[] {
  return rings.map((ring) => {
    const points = subdivided(ring, levels, (p) => p[0] < 1e-6 || near(p, sharp), within)
    const segments = points.map((p, i) => line(p, points[(i + 1) % points.length]!))
    return { segments, curves: segments.map(() => ''), closed: true }
  })
}
