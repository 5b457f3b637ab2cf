import { size } from '../../fields/index.ts'
import { tipRadius, toothSizes, type Worm, wormPitch, wormProfile } from '../../gears/index.ts'
import { type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { defineShape } from '../define.ts'
import { diameterAt, heightBeside } from '../dimensions.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, roundFace, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import { type Bore, boreFields, boreReach, boreRing, boreSaid, impossibleBoreIn } from './bores.ts'
import { largest } from './nearest.ts'
import {
  moduleOf,
  playField,
  sizedBy,
  type ToothValues,
  teethOf,
  toothCount,
  toothForm,
  toothRun,
  twistOf,
} from './teeth.ts'

export interface WormValues
  extends Bore,
    Pick<ToothValues, 'sized' | 'module' | 'perInch' | 'pitch' | 'height' | 'hand' | 'pressure' | 'play' | 'root'> {
  readonly starts: number
  readonly diameter: number
}

const { teeth: _teeth, ...sizes } = toothCount
/** A steeper one is a gear whose teeth lean. */
const steepest = 45

/** A worm about the z axis: threads whose section is that of teeth, to run with a gear on a crossed axis. */
export const worm = defineShape({
  kind: 'worm',
  label: 'worm',
  words: ['worm gear', 'worm drive', 'worm screw', 'gear screw', 'screw gear'],
  shelf: 'machine',
  icon: 'M4 8 H28 V16 H4 Z M7 8 L10 4.5 H12 L9 19.5 H7 L10 4.5 M14 8 L16 4.5 H18 L15 19.5 H13 L16 4.5 M20 8 L22 4.5 H24 L21 19.5 H19 L22 4.5',
  operation: 'add',
  seat: 'stands',
  wheel: true,
  mates: /^(?!bore$)/,
  deep: 'height',
  fields: {
    starts: {
      kind: 'count',
      label: 'Starts',
      default: '1',
      least: 1,
      most: 12,
      meaning: 'Number of its starts: each turn moves the gear on by that many teeth.',
    },
    ...sizes,
    diameter: size('Pitch diameter', '16', 'Of the circle that its threads run on, half-way down.'),
    height: size('Length', '30', 'Length along its axis.'),
    hand: toothRun.hand,
    play: playField('How much thinner its threads are along its axis'),
    ...boreFields,
    pressure: toothForm.pressure,
    root: toothForm.root,
  },
  quick: ['module', 'diameter', 'height'],
  sentence: (v) => [
    'worm of',
    { field: 'starts' },
    v.starts === 1 ? 'start,' : 'starts,',
    ...sizedBy(v),
    ', pitch ⌀',
    { field: 'diameter' },
    ',',
    { field: 'height' },
    'long,',
    { field: 'hand' },
    ', play',
    { field: 'play' },
    ...boreSaid(v),
  ],
  impossible(v) {
    const module = moduleOf(v)
    const thinnest = (v.starts * module) / Math.sin((steepest * Math.PI) / 180)
    const least = Math.ceil(Math.max(thinnest, 2.5 * module + 1) * 100) / 100
    if (v.diameter < least)
      return {
        field: 'diameter',
        detail: `Too thin: the worm has no core, or threads steeper than ${steepest}°: ${least} mm or more.`,
        nearest: { field: 'diameter', value: least },
      }
    const own = wormOf(v)
    const { root } = toothSizes(own.teeth)
    const ends = (play: number) => {
      const { tip, ...teeth } = toothSizes(teethOf(asTeeth({ ...v, play })))
      return teeth.halfAngle(tip) > 0 && teeth.thickness * Math.tan((own.lead * Math.PI) / 180) >= 0.4 * module
    }
    if (!ends(v.play))
      return {
        field: 'play',
        detail: 'That much play leaves next to nothing of its threads.',
        nearest: { field: 'play', value: largest(v.play, ends) },
      }
    const pitch = wormPitch(own)
    if (v.height < pitch) {
      const value = Math.ceil(pitch * 100) / 100
      return {
        field: 'height',
        detail: `A worm is as long as from one thread to the next, ${value} mm, or longer.`,
        nearest: { field: 'height', value },
      }
    }
    return impossibleBoreIn(v, { root, wall: 0.5, below: 'the threads, whose roots are' })
  },
  box: (v) => {
    const r = tipRadius(wormOf(v).teeth)
    return { min: [-r, -r, 0], max: [r, r, v.height] }
  },
  reach: (v, d) => reachOf(v, d),
  surfaces: (v) => {
    const own = wormOf(v)
    const { root } = toothSizes(own.teeth)
    const [pitch, inner, twist] = [(2 * Math.PI) / v.starts, boreReach(v), twistOf(asTeeth(v)) / v.height]
    return surfacesOf(
      [
        topFace(v.height, 2 * root, 2 * root),
        bottomFace(0, 2 * root, 2 * root),
        ...Array.from({ length: v.starts }, (_, i) => ({ name: threadName(i) })),
        ...(v.bore === 'round' ? [roundFace('bore', -v.hole / 2, 0, v.height)] : []),
        ...(v.bore === 'none' || v.bore === 'round' ? [] : [{ name: 'bore' }]),
      ],
      {
        at: ([x, y, z], n) => {
          if (Math.abs(n[2]) > 0.99 && (z < 1e-3 || z > v.height - 1e-3)) return n[2] > 0 ? 'top' : 'bottom'
          if (inner > 0 && Math.hypot(x, y) < (inner + root) / 2) return 'bore'
          const turns = Math.round((Math.atan2(y, x) - twist * z) / pitch)
          return threadName(((turns % v.starts) + v.starts) % v.starts)
        },
      },
    )
  },
  edges: (v) => [
    circleEdge('threads', 2 * tipRadius(wormOf(v).teeth)),
    ...(v.bore === 'round' ? [circleEdge('bore', v.hole)] : []),
  ],
  dimensions: (v) => [
    heightBeside([-tipRadius(wormOf(v).teeth), 0], v.height),
    diameterAt('diameter', -Math.PI / 4, v.diameter, v.height),
  ],
  solid(v, { scope, fineness, cuts }) {
    const threads = threaded(scope, v, fineness)
    const bore = cuts ? undefined : boreRing(v, fineness)
    if (!bore) return threads
    const through = scope.placed(scope.extrude([bore], v.height + 2), {
      ...{ origin: [0, 0, -1], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
    })
    return scope.difference(threads, [through])
  },
})

/**
 * Its threads wound on beyond both ends, and cut off there. What is turned step by step is their section along the axis: that across
 * it goes nearly all the way round, and twisted, each of its flats would be folded by a step.
 */
function threaded(scope: Scope, v: WormValues, fineness: number): Solid {
  const worm = wormOf(v)
  const profile = wormProfile(worm, fineness)
  const steps = segmentsFor(tipRadius(worm.teeth), fineness)
  const sense = v.hand === 'right' ? 1 : -1
  const pitch = wormPitch(worm)
  const lead = pitch * v.starts
  // All threads over one turn of the axis, one above the other, but for the last point, which begins the next turn.
  const column = Array.from({ length: v.starts }, (_, i) => i).flatMap((i) =>
    profile.slice(0, -1).map(({ radius, along }) => ({ radius, along: along + i * pitch })),
  )
  const rows = steps * (Math.ceil(v.height / lead) + 3)
  const points: Vec3[] = []
  // The middle of the first thread is at angle 0 on the lower face: a turn and a pitch before that it begins.
  const put = (row: number, { radius, along }: (typeof column)[number]) => {
    const rad = (sense * 2 * Math.PI * (row % steps)) / steps
    points.push([radius * Math.cos(rad), radius * Math.sin(rad), along + (row / steps - 1) * lead - pitch])
  }
  for (let row = 0; row <= rows; row++) for (const point of column) put(row, point)
  const count = column.length
  const [first] = column
  // The column's end is its beginning a turn later: beyond the last rows that has points of its own.
  for (let row = rows + 1; row <= rows + steps; row++) put(row, first!)
  const at = (row: number, k: number): number => {
    if (k < count) return row <= rows ? row * count + k : (rows + 1) * count + (row - rows - 1)
    return at(row + steps, 0)
  }
  const triangles: (readonly [number, number, number])[] = []
  const turned = (a: number, b: number, c: number) => triangles.push(sense > 0 ? [a, b, c] : [a, c, b])
  for (let row = 0; row < rows; row++)
    for (let k = 0; k < count; k++) {
      const [a, b, c, d] = [at(row, k), at(row + 1, k), at(row + 1, k + 1), at(row, k + 1)]
      turned(a, b, c)
      turned(a, c, d)
    }
  // Both ends are closed towards the axis, outside of what is kept.
  for (const [row, way] of [
    [0, 1],
    [rows, -1],
  ] as const) {
    const ring = Array.from({ length: count + 1 }, (_, k) => at(row, k))
    const helix = Array.from({ length: steps + 1 }, (_, k) => at(row + k, 0))
    const middle = points.length
    const [low, high] = [points[ring[0]!]![2], points[ring[count]!]![2]]
    points.push([0, 0, way > 0 ? low - pitch : high + pitch])
    const flat = [
      ...ring.map((i): readonly [number, number] => [Math.hypot(points[i]![0], points[i]![1]), points[i]![2]]),
    ]
    const corners = [...ring, middle]
    for (const [a, b, c] of scope.triangulated([[...flat, [0, points[middle]![2]] as const]])) {
      const [p, q, r] = [corners[a]!, corners[b]!, corners[c]!]
      if (way > 0) turned(p, q, r)
      else turned(p, r, q)
    }
    for (let k = 0; k < steps; k++) {
      const [p, q] = [helix[k]!, helix[k + 1]!]
      if (way > 0) turned(middle, q, p)
      else turned(middle, p, q)
    }
  }
  const long = scope.surface(points, triangles)
  return scope.trimmed(scope.trimmed(long, [0, 0, 1], 0), [0, 0, -1], -v.height)
}

const threadName = (i: number) => `thread ${i + 1}`

/** The same threads as teeth that lean. */
export function asTeeth(v: WormValues): ToothValues {
  const lead = leadOf(v)
  return {
    ...v,
    teeth: v.starts,
    run: 'helical',
    helix: 90 - lead,
    shift: 0,
    // Round the pitch circle they go farther than along the axis.
    play: v.play / Math.tan((lead * Math.PI) / 180),
    tips: 'sharp',
    tip: 1,
  }
}

/** degrees */
export function leadOf(v: Pick<WormValues, 'starts' | 'diameter' | 'sized' | 'module' | 'perInch' | 'pitch'>): number {
  return (Math.asin(Math.min(1, (v.starts * moduleOf(v)) / v.diameter)) * 180) / Math.PI
}

function wormOf(v: WormValues): Worm {
  return { teeth: teethOf(asTeeth(v)), lead: leadOf(v), fillet: v.root * moduleOf(v) }
}

/** The farthest point: of the section at an end, or of a tip within the last pitch before it, where a thread goes by. */
function reachOf(v: WormValues, d: Vec3): number {
  const { teeth } = wormOf(v)
  const { root, halfAngle } = toothSizes(teeth)
  const tip = tipRadius(teeth)
  const level = Math.hypot(d[0], d[1])
  const rad = Math.atan2(d[1], d[0])
  const pitch = (2 * Math.PI) / v.starts
  const twist = twistOf(asTeeth(v)) / v.height
  const at = (z: number, radius: number) => {
    const from = rad - twist * z
    const off = Math.max(0, Math.abs(from - pitch * Math.round(from / pitch)) - halfAngle(radius))
    return level * radius * Math.cos(off) + z * d[2]
  }
  const end = d[2] >= 0 ? v.height : 0
  let far = at(end, root)
  for (let i = 1; i <= flanked; i++) far = Math.max(far, at(end, root + ((tip - root) * i) / flanked))
  const one = Math.min(v.height, wormPitch(wormOf(v)))
  const [low, high] = d[2] >= 0 ? [v.height - one, v.height] : [0, one]
  let best = { z: low, far: at(low, tip) }
  const places = 256
  for (let i = 1; i <= places; i++) {
    const z = low + ((high - low) * i) / places
    if (at(z, tip) > best.far) best = { z, far: at(z, tip) }
  }
  let step = (high - low) / places
  for (let i = 0; i < 40; i++) {
    for (const z of [best.z - step, best.z + step])
      if (z >= 0 && z <= v.height && at(z, tip) > best.far) best = { z, far: at(z, tip) }
    step *= 0.7
  }
  return Math.max(far, best.far)
}

/** At so many radii a flank is looked at for the farthest. */
const flanked = 200
