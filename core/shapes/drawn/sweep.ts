import type { Ring } from '../../kernel/index.ts'
import { cross, scaled, type Vec3 } from '../../place/index.ts'
import {
  type Chain,
  type Drawn,
  directionAt,
  distance2,
  endOf,
  flattenedChain,
  line,
  nearestOn,
  startOf,
  type Vec2,
} from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { type DimensionLine, defineShape } from '../define.ts'
import { type NamedFace, plainSurfaces, surfacesOf } from '../surfaces.ts'
import { cloudBox, cloudOf, cloudReach, placingFineness } from './cloud.ts'
import { extentsOf, nothingIn, outlineField } from './common.ts'
import { corners, endFace, inOrderAhead, type Station, seenFromAhead, turnedBack } from './path.ts'
import { skinned } from './skin.ts'

interface Values {
  readonly outline: Drawn
  readonly path: Drawn
  readonly hold: 'following' | 'steady'
  readonly twist: number
}

/** An outline moved along the line of another one: its x to the right of the way, its y up. */
export const sweep = defineShape({
  kind: 'sweep',
  label: 'sweep',
  words: ['outline', 'along', 'path', 'bead', 'rail', 'bent pipe', 'wire', 'moulding'],
  shelf: 'outlines',
  icon: 'M3 20 C10 20 10 8 18 8 H29 M3 16 V23 H7 V16 Z M26 5 V11 M3 16 C9 16 10 4 18 4 H29 M7 23 C15 23 13 12 20 12 H29',
  operation: 'add',
  seat: 'stands',
  drawn: true,
  fields: {
    outline: {
      ...outlineField,
      label: 'Section',
      meaning: 'The drawing that is moved; its origin runs along the line.',
    },
    path: {
      ...outlineField,
      label: 'Line',
      meaning: 'The drawing whose line it is moved along: its first open one, or a closed one.',
    },
    hold: {
      kind: 'choice',
      label: 'Orientation',
      default: 'following',
      choices: { following: 'turning with the line', steady: 'facing one way' },
      meaning: 'Turning keeps the section square to the line; facing one way only moves it.',
      rare: true,
    },
    twist: {
      kind: 'angle',
      label: 'Twist',
      default: '0',
      least: -7200,
      most: 7200,
      meaning: 'How far the section is turned about the line from its beginning to its end.',
      rare: true,
    },
  },
  quick: [],
  sentence: () => [
    'sweep of',
    { field: 'outline' },
    'along',
    { field: 'path' },
    ',',
    { field: 'hold' },
    ', twisted by',
    { field: 'twist' },
  ],
  impossible(v) {
    const nothing = nothingIn(v.outline)
    if (nothing) return nothing
    const line = lineOf(v.path)
    if (!line) return { field: 'path', detail: 'This outline has no line to go along; draw one.' }
    if (line.closed && v.twist % 360 !== 0)
      return { field: 'twist', detail: 'Along a closed line it must come back as it began: twist by whole turns.' }
    if (v.hold === 'steady' && v.twist !== 0) return { field: 'twist', detail: 'What faces one way is not twisted.' }
    if (v.hold === 'steady' && line.closed)
      return { field: 'hold', detail: 'Facing one way needs an open line that does not turn back.' }
    return undefined
  },
  box: (v) => cloudBox(cloud(v)),
  reach: (v, d) => cloudReach(cloud(v), d),
  surfaces: (v) => surfacesOf([...endsOf(v), ...plainSurfaces('side')]),
  dimensions: (): readonly DimensionLine[] => [],
  solid(v, { scope, fineness, cuts }) {
    const { rings, line, way, stations, sections } = swept(v, fineness, cuts)
    const at = turnedBack(sections, stations, line.closed)
    if (at >= 0) throw new ProblemError('sweep-overlaps', { at: place(stations[at]!.origin) })
    const near = meetsItself(way, line.closed, reachBeside(v))
    if (near) throw new ProblemError('sweep-overlaps', { at: place([near[0], near[1], 0]) })
    return skinned(scope, {
      flat: seenFromAhead(rings),
      sections: sections.map((section) => inOrderAhead(section, rings)),
      closed: line.closed,
      fineness,
    })
  },
})

const cloud = (v: Values) => cloudOf(v, () => swept(v, placingFineness, false).sections.flat())

/** The section at all its stations. */
function swept(v: Values, fineness: number, cuts: boolean) {
  const rings = v.outline.rings(fineness, cuts)
  const line = lineOf(v.path)!
  const way = flattenedChain(line.segments, line.closed, fineness, cuts)
  const stations =
    v.hold === 'steady' ? steadyStations(way, line) : followingStations(way, line, v.twist, rings, fineness)
  return { rings, line, way, stations, sections: stations.map((station) => corners(station, rings)) }
}

/** The flats at both ends of an open line, square to it there. */
function endsOf({ outline, path, hold, twist }: Values): NamedFace[] {
  const line = lineOf(path)
  if (!line || line.closed || nothingIn(outline)) return []
  const [first, last] = [line.segments[0]!, line.segments.at(-1)!]
  const [begins, ends] = [directionAt(first, 0), directionAt(last, 1)]
  const into: Vec3 = [begins[0], begins[1], 0]
  const out: Vec3 = hold === 'steady' ? into : [ends[0], ends[1], 0]
  const at = (p: Vec2, way: Vec3, twisted: number) => ({
    origin: [p[0], p[1], 0] as const,
    ...sectionAxes(way, twisted),
  })
  return [
    endFace('start', outline, at(startOf(first), into, 0), scaled(into, -1)),
    endFace('end', outline, at(endOf(last), out, (twist * Math.PI) / 180), out),
  ]
}

/** The section's x to the right of a level way, its y up; both turned about the way by so much, rad. */
function sectionAxes(way: Vec3, turned: number): { readonly x: Vec3; readonly y: Vec3 } {
  const right = cross(way, [0, 0, 1])
  const [c, s] = [Math.cos(turned), Math.sin(turned)]
  return { x: [right[0] * c, right[1] * c, s], y: [-right[0] * s, -right[1] * s, c] }
}

const place = ([x, y]: Vec3) => `${Math.round(x * 10) / 10}, ${Math.round(y * 10) / 10}`

function lineOf(path: Drawn): Chain | undefined {
  return path.open[0] ?? path.loops[0]
}

/** How far the section reaches beside the line, mm. */
function reachBeside({ outline, twist }: Values): number {
  const { min, max } = extentsOf(outline)
  if (twist === 0) return Math.max(-min[0], max[0], 0)
  return Math.max(...[min[0], max[0]].flatMap((x) => [min[1], max[1]].map((y) => Math.hypot(x, y))))
}

function followingStations(
  way: readonly Vec2[],
  line: Chain,
  twist: number,
  rings: readonly Ring[],
  fineness: number,
): Station[] {
  const { closed, segments } = line
  // The ends are square to the true line, not to its last flat.
  const ends = [directionAt(segments[0]!, 0), directionAt(segments.at(-1)!, 1)] as const
  const endAt = (i: number, count: number): Vec3 | undefined => {
    if (closed || (i > 0 && i < count - 1)) return undefined
    const [x, y] = ends[i === 0 ? 0 : 1]
    return [x, y, 0]
  }
  const points = twist === 0 ? way : divided(way, closed, twist, rings, fineness)
  const count = points.length
  const direction = (i: number): Vec3 => {
    const [a, b] = [points[(i + count) % count]!, points[(i + 1 + count) % count]!]
    const long = distance2(a, b) || 1
    return [(b[0] - a[0]) / long, (b[1] - a[1]) / long, 0]
  }
  const lengths = points.map((p, i) => distance2(p, points[(i + 1) % count]!))
  const total = lengths.slice(0, closed ? count : count - 1).reduce((a, b) => a + b, 0)
  let gone = 0
  return points.map(([px, py], i) => {
    const away = !closed && i === count - 1 ? direction(i - 1) : direction(i)
    const into = !closed && i === 0 ? away : direction(i - 1)
    const rad = ((twist * Math.PI) / 180) * (total === 0 ? 0 : gone / total)
    gone += lengths[i]!
    return { origin: [px, py, 0], into, away, ...sectionAxes(into, rad), square: endAt(i, count) }
  })
}

/** The way with stations near enough for the twist to be smooth. */
function divided(
  way: readonly Vec2[],
  closed: boolean,
  twist: number,
  rings: readonly Ring[],
  fineness: number,
): Vec2[] {
  const far = Math.max(...rings.flat().map(([x, y]) => Math.hypot(x, y)), fineness * 2)
  const step = 2 * Math.acos(Math.max(0, 1 - fineness / far))
  const total = way
    .slice(closed ? 0 : 1)
    .reduce((sum, p, i) => sum + distance2(p, way[closed ? (i + 1) % way.length : i]!), 0)
  const most = (total * step) / ((Math.abs(twist) * Math.PI) / 180)
  return way.flatMap((p, i) => {
    const next = way[(i + 1) % way.length]!
    if (!closed && i === way.length - 1) return [p]
    const parts = Math.max(1, Math.ceil(distance2(p, next) / most))
    return Array.from(
      { length: parts },
      (_, k): Vec2 => [p[0] + ((next[0] - p[0]) * k) / parts, p[1] + ((next[1] - p[1]) * k) / parts],
    )
  })
}

/** The section as it stands at the beginning, moved. */
function steadyStations(way: readonly Vec2[], line: Chain): Station[] {
  const [x, y] = directionAt(line.segments[0]!, 0)
  const along: Vec3 = [x, y, 0]
  return way.map((p) => ({ origin: [p[0], p[1], 0], into: along, away: along, ...sectionAxes(along, 0) }))
}

/** A place at which stretches far apart along the way come nearer than the section is wide; undefined where none do. */
function meetsItself(way: readonly Vec2[], closed: boolean, wide: number): Vec2 | undefined {
  const gone = [0]
  for (let i = 1; i < way.length; i++) gone.push(gone[i - 1]! + distance2(way[i]!, way[i - 1]!))
  const total = gone.at(-1)! + (closed ? distance2(way[0]!, way.at(-1)!) : 0)
  for (let i = 0; i < way.length; i++)
    for (let k = 0; k < (closed ? way.length : way.length - 1); k++) {
      const flat = line(way[k]!, way[(k + 1) % way.length]!)
      const { t, distance } = nearestOn(flat, way[i]!)
      const apart = Math.abs(gone[k]! + t * distance2(flat.from, flat.to) - gone[i]!)
      const between = closed ? Math.min(apart, total - apart) : apart
      // On a bend the way is at most half a turn longer than it is far.
      if (between > Math.PI * wide * 1.01 && distance < 2 * wide - 1e-6) return way[i]
    }
  return undefined
}
