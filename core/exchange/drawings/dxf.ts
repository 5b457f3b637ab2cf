import { DxfWriter, Units } from '@tarikjabiri/dxf'
import DxfParser, { type IEntity } from 'dxf-parser'
import {
  arcBetween,
  asCubics,
  circleSegment,
  cross2,
  type DrawnCurve,
  distance2,
  leftOf,
  line,
  type Motion2,
  movedBy,
  norm2,
  plus,
  type Segment,
  times,
  turnedBy,
  type Vec2,
} from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import {
  type DrawingFormat,
  drawingLimits,
  isSound,
  type ReadDrawing,
  type ReadOptions,
  unsoundNote,
} from './define.ts'
import { soundGroups } from './dxfGroups.ts'

/** Drawing Exchange Format, as its reference describes it: the entities of a flat drawing, in the units of the header. */
export const dxf: DrawingFormat = {
  id: 'dxf',
  label: 'DXF',
  extension: 'dxf',
  mediaType: 'image/vnd.dxf',
  read,
  write,
}

/** mm per unit, by the header's $INSUNITS. */
const mmPer: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 2.54e-5,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
}

type Any = IEntity & Record<string, unknown>
interface XY {
  readonly x: number
  readonly y: number
}

function read(text: string, { mmPerUnit }: ReadOptions = {}): ReadDrawing {
  if (text.length > drawingLimits.characters)
    throw new ProblemError('file-too-large', { limit: `${drawingLimits.characters / 1e6} MB` })
  if (text.startsWith('AutoCAD Binary DXF'))
    throw new ProblemError('drawing-unreadable', { detail: 'it is a binary DXF; save it as a text DXF' })
  const notes = new Set<string>()
  const sound = soundGroups(text)
  let parsed: ReturnType<DxfParser['parseSync']>
  try {
    parsed = new DxfParser().parseSync(sound.text)
  } catch (error) {
    throw new ProblemError('drawing-unreadable', { detail: error instanceof Error ? error.message : String(error) })
  }
  if (!parsed?.entities) throw new ProblemError('drawing-unreadable', { detail: 'it has no section of entities' })
  const stated = mmPer[Number(parsed.header?.$INSUNITS ?? 0)]
  if (mmPerUnit === undefined && stated === undefined)
    notes.add(
      'It does not say what its numbers are, so they were taken as millimetres; read it again as inches if the size is wrong.',
    )
  const scale = mmPerUnit ?? stated ?? 1
  const chains: Segment[][] = []
  const left = new Map(sound.left)
  let count = 0
  let segments = 0
  let unsound = 0
  const visit = (entities: readonly IEntity[], motion: Motion2, depth: number): void => {
    if (depth > 12) throw new ProblemError('drawing-too-much', { what: 'blocks nested 12 deep' })
    for (const raw of entities) {
      if (++count > drawingLimits.elements)
        throw new ProblemError('drawing-too-much', { what: `${drawingLimits.elements} elements` })
      const entity = raw as Any
      if (entity.type === 'INSERT') {
        const block = parsed!.blocks?.[String(entity.name)]
        if (block?.entities)
          for (const own of insertions(entity, block.position)) visit(block.entities, joined(motion, own), depth + 1)
        continue
      }
      const chain = segmentsOf(entity, notes)
      if (!chain) {
        left.set(entity.type, (left.get(entity.type) ?? 0) + 1)
        continue
      }
      const own = mirroredX(entity) ? joined(motion, { origin: [0, 0], u: [-1, 0], v: [0, 1] }) : motion
      const whole = chain.flatMap((s) => transformed(s, own))
      const moved = whole.filter(isSound)
      unsound += whole.length - moved.length
      segments += moved.length
      if (segments > drawingLimits.segments)
        throw new ProblemError('drawing-too-much', { what: `${drawingLimits.segments} lines and curves` })
      if (moved.length > 0) chains.push(moved)
    }
  }
  visit(parsed.entities, { origin: [0, 0], u: [scale, 0], v: [0, scale] }, 0)
  for (const [type, number] of left)
    notes.add(`${number} of ${type} were left out: they are not lines of a flat drawing.`)
  if (unsound > 0) notes.add(unsoundNote(unsound))
  if (chains.length === 0) throw new ProblemError('drawing-empty', {})
  return { chains, notes: [...notes] }
}

const xy = (p: unknown): Vec2 => [Number((p as XY | undefined)?.x ?? 0), Number((p as XY | undefined)?.y ?? 0)]

/** What is drawn looking from below has its x mirrored (object coordinates with the normal down). */
function mirroredX(entity: Any): boolean {
  const z = entity.extrusionDirectionZ ?? (entity.extrusionDirection as { z?: number } | undefined)?.z
  return ['ARC', 'CIRCLE', 'LWPOLYLINE', 'POLYLINE'].includes(entity.type) && Number(z ?? 1) < 0
}

function insertions(entity: Any, base: unknown): Motion2[] {
  const [sx, sy] = [Number(entity.xScale ?? 1), Number(entity.yScale ?? 1)]
  const rad = (Number(entity.rotation ?? 0) * Math.PI) / 180
  const [c, s] = [Math.cos(rad), Math.sin(rad)]
  const turned: Motion2 = { origin: [0, 0], u: [c * sx, s * sx], v: [-s * sy, c * sy] }
  const from = turnedBy(turned, xy(base))
  const columns = Math.min(200, Math.max(1, Number(entity.columnCount ?? 1)))
  const rows = Math.min(200, Math.max(1, Number(entity.rowCount ?? 1)))
  const at = xy(entity.position)
  return Array.from({ length: columns * rows }, (_, i) => {
    const [dx, dy] = [
      (i % columns) * Number(entity.columnSpacing ?? 0),
      Math.floor(i / columns) * Number(entity.rowSpacing ?? 0),
    ]
    return { ...turned, origin: [at[0] - from[0] + c * dx - s * dy, at[1] - from[1] + s * dx + c * dy] }
  })
}

function joined(a: Motion2, b: Motion2): Motion2 {
  return { origin: movedBy(a, b.origin), u: turnedBy(a, b.u), v: turnedBy(a, b.v) }
}

/** A segment under a motion that may change sizes; what is round and becomes uneven goes on as cubics. */
function transformed(s: Segment, motion: Motion2): Segment[] {
  const { u, v } = motion
  const size = norm2(u)
  const even = Math.abs(size - norm2(v)) < 1e-9 * size && Math.abs(u[0] * v[0] + u[1] * v[1]) < 1e-9 * size * size
  const at = (p: Vec2) => movedBy(motion, p)
  switch (s.kind) {
    case 'line':
      return [line(at(s.from), at(s.to))]
    case 'cubic':
      return [{ kind: 'cubic', points: s.points.map(at) as never }]
    case 'arc': {
      if (!even) return asCubics(s).flatMap((each) => transformed(each, motion))
      const start = turnedBy(motion, [Math.cos(s.startRad), Math.sin(s.startRad)])
      const sweepRad = cross2(u, v) < 0 ? -s.sweepRad : s.sweepRad
      return [
        {
          kind: 'arc',
          centre: at(s.centre),
          radius: s.radius * size,
          startRad: Math.atan2(start[1], start[0]),
          sweepRad,
        },
      ]
    }
    case 'ellipse':
      if (!even) return asCubics(s).flatMap((each) => transformed(each, motion))
      return [{ ...s, centre: at(s.centre), major: turnedBy(motion, s.major), minor: turnedBy(motion, s.minor) }]
  }
}

/** Undefined for what is no line of a flat drawing. */
function segmentsOf(entity: Any, notes: Set<string>): Segment[] | undefined {
  switch (entity.type) {
    case 'LINE': {
      const [a, b] = entity.vertices as unknown[]
      return [line(xy(a), xy(b))]
    }
    case 'CIRCLE':
      return [circleSegment(xy(entity.center), Number(entity.radius))]
    case 'ARC': {
      const [from, to] = [Number(entity.startAngle), Number(entity.endAngle)]
      return [
        {
          kind: 'arc',
          centre: xy(entity.center),
          radius: Number(entity.radius),
          startRad: from,
          sweepRad: turnTo(from, to),
        },
      ]
    }
    case 'ELLIPSE': {
      const major = xy(entity.majorAxisEndPoint)
      const [from, to] = [Number(entity.startAngle ?? 0), Number(entity.endAngle ?? 2 * Math.PI)]
      return [
        {
          kind: 'ellipse',
          centre: xy(entity.center),
          major,
          minor: times(leftOf(major), Number(entity.axisRatio)),
          startRad: from,
          sweepRad: turnTo(from, to),
        },
      ]
    }
    case 'LWPOLYLINE':
    case 'POLYLINE':
      return polyline(entity)
    case 'SPLINE':
      return spline(entity, notes)
    default:
      return undefined
  }
}

/** Counter-clockwise from one angle to another; the same angle is a whole turn. */
function turnTo(from: number, to: number): number {
  const whole = 2 * Math.PI
  const turn = (((to - from) % whole) + whole) % whole
  return turn < 1e-12 ? whole : turn
}

/** A bulge is the tangent of a quarter of the arc's angle, positive to the left. */
function polyline(entity: Any): Segment[] {
  const vertices = (entity.vertices as (XY & { bulge?: number })[]) ?? []
  const last = entity.shape ? vertices.length : vertices.length - 1
  return Array.from({ length: Math.max(0, last) }, (_, i): Segment => {
    const [v, w] = [vertices[i]!, vertices[(i + 1) % vertices.length]!]
    const [a, b] = [xy(v), xy(w)]
    const bulge = v.bulge ?? 0
    if (Math.abs(bulge) < 1e-9 || distance2(a, b) < 1e-12) return line(a, b)
    const chord: Vec2 = [b[0] - a[0], b[1] - a[1]]
    // The middle lies off the chord by (1 − b²) / 4b of its length, to the left of it.
    const centre = plus([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], times(leftOf(chord), (1 - bulge * bulge) / (4 * bulge)))
    return arcBetween(centre, a, b, bulge > 0)
  })
}

/** Each span between two knots is a cubic: its ends and the directions there say which (de Boor 1978, ch. X). */
function spline(entity: Any, notes: Set<string>): Segment[] {
  const control = ((entity.controlPoints as unknown[]) ?? []).map(xy)
  const degree = Number(entity.degreeOfSplineCurve ?? 3)
  const knots = (entity.knotValues as number[]) ?? []
  if (control.length < 2) {
    const fit = ((entity.fitPoints as unknown[]) ?? []).map(xy)
    notes.add('A spline had only the points it passes through; these were joined straight.')
    return fit.slice(1).map((p, i) => line(fit[i]!, p))
  }
  if (degree < 1 || degree > 3 || knots.length !== control.length + degree + 1) {
    notes.add('A spline of a kind that is not read was replaced by straight lines between its points.')
    return control.slice(1).map((p, i) => line(control[i]!, p))
  }
  // See `weighed` of dxfGroups.ts.
  const weights = ((entity.controlPoints as { z?: unknown }[]) ?? []).map(({ z }) => Number(z))
  const weighed = entity.rational === true && weights.every((w) => Number.isFinite(w) && w > 0)
  if (entity.rational && !weighed) notes.add('Weights of a rational spline could not be read, and were taken as equal.')
  const even = !weighed || weights.every((w) => Math.abs(w / weights[0]! - 1) < 1e-12)
  const out: Segment[] = []
  for (let i = degree; i < control.length; i++) {
    const [low, high] = [knots[i]!, knots[i + 1]!]
    if (high - low < 1e-12) continue
    // A weighed span is no cubic: it is taken as so many that no difference is left.
    const parts = even ? 1 : weighedParts
    for (let k = 0; k < parts; k++) {
      const [from, to] = [k, k + 1].map((n) => low + ((high - low) * n) / parts) as [number, number]
      const third = (to - from) / 3
      const at = (u: number) =>
        even ? deBoor(control, knots, degree, i, u) : weighedAt(control, weights, knots, degree, i, u)
      const [[a, da], [b, db]] = [at(from), at(to)]
      if (degree === 1) out.push(line(a, b))
      else out.push({ kind: 'cubic', points: [a, plus(a, times(da, third)), plus(b, times(db, -third)), b] })
    }
  }
  return out
}

/** Into so many cubics a span of a rational spline is broken: a quarter circle is then right to less than a millionth. */
const weighedParts = 16

/** Point and change of a rational span at `u`: the quotient of two plain ones (Piegl and Tiller 1997, ch. 4). */
function weighedAt(
  control: readonly Vec2[],
  weights: readonly number[],
  knots: readonly number[],
  degree: number,
  i: number,
  u: number,
): readonly [Vec2, Vec2] {
  const over = control.map(([x, y], k): Vec2 => [x * weights[k]!, y * weights[k]!])
  const under = weights.map((w): Vec2 => [w, 0])
  const [[x, y], [dx, dy]] = deBoor(over, knots, degree, i, u)
  const [[w], [dw]] = deBoor(under, knots, degree, i, u)
  return [
    [x / w, y / w],
    [(dx - (x / w) * dw) / w, (dy - (y / w) * dw) / w],
  ]
}

/** Point and change of the span `i` at `u`. */
function deBoor(
  control: readonly Vec2[],
  knots: readonly number[],
  degree: number,
  i: number,
  u: number,
): readonly [Vec2, Vec2] {
  let row = control.slice(i - degree, i + 1)
  let change: Vec2 = [0, 0]
  for (let level = 1; level <= degree; level++) {
    if (level === degree) {
      const span = knots[i + 1]! - knots[i]!
      change = times([row[1]![0] - row[0]![0], row[1]![1] - row[0]![1]], degree / span)
    }
    row = row.slice(1).map((p, k): Vec2 => {
      const [low, high] = [knots[i - degree + level + k]!, knots[i + 1 + k]!]
      const share = high === low ? 0 : (u - low) / (high - low)
      return [row[k]![0] + (p[0] - row[k]![0]) * share, row[k]![1] + (p[1] - row[k]![1]) * share]
    })
  }
  return [row[0]!, change]
}

/** In mm, stated in the header. */
function write(curves: readonly DrawnCurve[]): string {
  const writer = new DxfWriter()
  writer.setUnits(Units.Millimeters)
  const at = ([x, y]: Vec2) => ({ x, y, z: 0 })
  const degrees = (rad: number) => (rad * 180) / Math.PI
  for (const s of curves.flatMap(({ segments }) => segments)) {
    switch (s.kind) {
      case 'line':
        writer.addLine(at(s.from), at(s.to))
        break
      case 'arc': {
        if (Math.abs(s.sweepRad) > 2 * Math.PI - 1e-9) {
          writer.addCircle(at(s.centre), s.radius)
          break
        }
        // Arcs run counter-clockwise there.
        const [from, to] =
          s.sweepRad > 0 ? [s.startRad, s.startRad + s.sweepRad] : [s.startRad + s.sweepRad, s.startRad]
        writer.addArc(at(s.centre), s.radius, degrees(from), degrees(to))
        break
      }
      case 'ellipse':
        for (const each of Math.abs(s.sweepRad) > 2 * Math.PI - 1e-9 ? [] : asCubics(s))
          addCubic(writer, each.points, at)
        if (Math.abs(s.sweepRad) > 2 * Math.PI - 1e-9) {
          const [long, short] = norm2(s.major) >= norm2(s.minor) ? [s.major, s.minor] : [s.minor, s.major]
          writer.addEllipse(at(s.centre), at(long), norm2(short) / norm2(long), 0, 2 * Math.PI)
        }
        break
      case 'cubic':
        addCubic(writer, s.points, at)
        break
    }
  }
  return writer.stringify()
}

function addCubic(
  writer: DxfWriter,
  points: readonly Vec2[],
  at: (p: Vec2) => { x: number; y: number; z: number },
): void {
  writer.addSpline({ controlPoints: points.map(at), degreeCurve: 3, knots: [0, 0, 0, 0, 1, 1, 1, 1] })
}
