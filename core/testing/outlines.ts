import type { Outline } from '../document/index.ts'
import type { Section } from '../fields/index.ts'
import {
  arcBetween,
  arcThrough,
  arranged,
  circleSegment,
  Drawn,
  type DrawnCurve,
  line,
  outlineOf,
  type Segment,
  type Vec2,
} from '../plane/index.ts'

/** An outline with nothing in it. */
export function emptyOutline(id = 'o', on: Outline['on'] = { kind: 'bed' }): Outline {
  return { id, name: id, on, points: [], curves: [], constraints: [], derived: [], toggled: [] }
}

/** A drawing in short: points, curves with their points and size, and what holds them with its value. */
export interface OutlineDraft {
  readonly points: Readonly<Record<string, readonly [number, number]>>
  readonly curves: Readonly<Record<string, readonly [kind: string, points: readonly string[], size?: number]>>
  readonly hold: readonly (readonly [kind: string, of: readonly string[], value?: number])[]
}

/** Numbers from 0 to 1 that are the same each time (mulberry32). */
export function randomFrom(seed: number): () => number {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t ^= t + Math.imul(t ^ (t >>> 7), 61 | t)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

type Vec = readonly [number, number]

/**
 * A drawing whose conditions are measured off it, so that they can be met, and its points pushed away from there by up to
 * a share of the distance to their neighbours.
 */
export function randomSystem(random: () => number): {
  readonly parts: OutlineDraft
  readonly pushed: Readonly<Record<string, Vec>>
} {
  const count = 4 + Math.floor(random() * 8)
  const points: Record<string, Vec> = {}
  const curves: Record<string, readonly [string, readonly string[], number?]> = {}
  const hold: (readonly [string, readonly string[], number?])[] = []
  // A chain that goes round: no two points fall together and no two neighbouring lines are nearly one.
  for (let i = 0; i < count; i++) {
    const angle = (2 * Math.PI * (i + 0.6 * random())) / count
    const far = 20 + 20 * random()
    points[`p${i}`] = [far * Math.cos(angle), far * Math.sin(angle)]
  }
  const at = (i: number) => points[`p${i % count}`]!
  const line = (i: number) => `l${i % count}`
  const way = (i: number): Vec => [at(i + 1)[0] - at(i)[0], at(i + 1)[1] - at(i)[1]]
  for (let i = 0; i < count; i++) curves[line(i)] = ['line', [`p${i}`, `p${(i + 1) % count}`]]
  const rounds = Math.floor(random() * 3)
  for (let i = 0; i < rounds; i++) {
    points[`m${i}`] = [20 * (random() - 0.5), 20 * (random() - 0.5)]
    curves[`c${i}`] = ['circle', [`m${i}`], 2 + 4 * random()]
  }
  for (let i = 0; i < count; i++) {
    const [d, e] = [way(i), way(i + 1)]
    const pick = random()
    if (pick < 0.4) hold.push(['distance', [line(i)], Math.hypot(...d)])
    else if (pick < 0.55) hold.push(['distance-x', [`p${i}`, `p${(i + 2) % count}`], Math.abs(at(i + 2)[0] - at(i)[0])])
    else if (pick < 0.7) hold.push(['distance-y', [`p${i}`, `p${(i + 2) % count}`], Math.abs(at(i + 2)[1] - at(i)[1])])
    else if (pick < 0.85) {
      // At the corner that they share.
      const cosine = -(d[0] * e[0] + d[1] * e[1]) / (Math.hypot(...d) * Math.hypot(...e))
      hold.push(['angle', [line(i), line(i + 1)], (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI])
    }
  }
  for (let i = 0; i < rounds; i++) {
    const m = points[`m${i}`]!
    const r = curves[`c${i}`]![2]!
    hold.push(['radius', [`c${i}`], r])
    const k = Math.floor(random() * count)
    const d = way(k)
    const off = Math.abs(d[0] * (m[1] - at(k)[1]) - d[1] * (m[0] - at(k)[0])) / Math.hypot(...d)
    hold.push(['distance', [`m${i}`, line(k)], off])
    if (i > 0) hold.push(['distance', ['m0', `m${i}`], Math.hypot(m[0] - points.m0![0], m[1] - points.m0![1])])
  }
  if (random() < 0.5) hold.push(['fixed', ['p0']])
  const pushed = Object.fromEntries(
    Object.entries(points).map(([id, [x, y]]): [string, Vec] => [
      id,
      id === 'p0' ? [x, y] : [x + 3 * (random() - 0.5), y + 3 * (random() - 0.5)],
    ]),
  )
  return { parts: { points, curves, hold }, pushed }
}

/** Closed drawings of lines, arcs and cubics, and circles, that may cross one another and themselves; about 40 mm wide. */
export function randomDrawing(random: () => number): DrawnCurve[] {
  return Array.from({ length: 1 + Math.floor(random() * 3) }, (_, i): DrawnCurve[] => {
    const centre: Vec = [40 * random(), 40 * random()]
    if (random() < 0.25) return [circleCurve(centre, 3 + 10 * random(), `c${i}`)]
    const [count, far] = [3 + Math.floor(random() * 5), 8 + 15 * random()]
    const corners = Array.from({ length: count }, (_, k): Vec => {
      const angle = (2 * Math.PI * (k + 0.6 * random())) / count
      const away = far * (0.5 + 0.5 * random())
      return [centre[0] + away * Math.cos(angle), centre[1] + away * Math.sin(angle)]
    })
    return corners.map((p, k) => ({ id: `d${i}-${k}`, segments: [randomSide(random, p, corners[(k + 1) % count]!)] }))
  }).flat()
}

function randomSide(random: () => number, a: Vec, b: Vec): Segment {
  const [x, y] = [b[0] - a[0], b[1] - a[1]]
  const beside = (t: number, bulge: number): Vec => [a[0] + x * t - y * bulge, a[1] + y * t + x * bulge]
  const pick = random()
  const arc = pick > 0.4 && pick < 0.7 ? arcThrough(a, beside(0.5, 0.1 + 0.3 * random()), b) : undefined
  if (arc || pick < 0.7) return arc ?? line(a, b)
  const bulge = () => 1.2 * (random() - 0.5)
  return { kind: 'cubic', points: [a, beside(0.3, bulge()), beside(0.7, bulge()), b] }
}

/** A drawing of these curves, all that it encloses filled by nesting. */
export function drawnOf(curves: readonly DrawnCurve[], more: Partial<Pick<Drawn, 'lines' | 'sharp'>> = {}): Drawn {
  const arrangement = arranged(curves)
  return new Drawn({
    key: JSON.stringify(curves),
    name: 'Sample',
    loops: outlineOf(
      arrangement,
      arrangement.faces.filter(({ depth }) => depth % 2 === 0),
    ),
    open: arrangement.open,
    lines: new Map([
      ['x-axis', line([0, 0], [1, 0])],
      ['y-axis', line([0, 0], [0, 1])],
    ]),
    sharp: [],
    ...more,
  })
}

/** The sides of a polygon as curves of their own, `s1`, `s2`, …; open where it is not to close. */
export function polygonCurves(points: readonly Vec2[], closed = true): DrawnCurve[] {
  const sides = closed ? points : points.slice(0, -1)
  return sides.map((p, i) => ({ id: `s${i + 1}`, segments: [line(p, points[(i + 1) % points.length]!)] }))
}

export function rectangleCurves(x: number, y: number, width: number, height: number): DrawnCurve[] {
  return polygonCurves([
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ])
}

export function circleCurve(centre: Vec2, radius: number, id = 'c1'): DrawnCurve {
  return { id, segments: [circleSegment(centre, radius)] }
}

/** An outline that a kind of shape can be made from, for a field of it. */
export function sampleOf(kind: string, field: string): Drawn | readonly Section[] {
  if (field === 'sections')
    return [
      { outline: drawnOf(rectangleCurves(-10, -8, 20, 16)), height: 0 },
      { outline: drawnOf([circleCurve([0, 0], 6)]), height: 20 },
    ]
  if (field === 'path')
    return drawnOf([
      { id: 'a1', segments: [line([0, 0], [20, 0])] },
      { id: 'a2', segments: [arcBetween([20, 10], [20, 0], [30, 10], true)] },
    ])
  if (kind === 'rib')
    return drawnOf(
      polygonCurves(
        [
          [0, 12],
          [10, 0],
        ],
        false,
      ),
    )
  if (kind === 'revolve') return drawnOf(rectangleCurves(5, 0, 6, 9))
  if (kind === 'sweep' || kind === 'helix') return drawnOf([circleCurve([0, 0], 1.5)])
  return drawnOf([...rectangleCurves(-12, -8, 30, 20), circleCurve([0, 0], 4)])
}
