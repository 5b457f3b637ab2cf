import { SaxesParser } from 'saxes'
import svgpath from 'svgpath'
import {
  arcBetween,
  type DrawnCurve,
  distance2,
  endOf,
  line,
  norm2,
  pointAt,
  type Segment,
  segmentReach,
  startOf,
  type Vec2,
} from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { escaped } from '../xml.ts'
import {
  type DrawingFormat,
  drawingLimits,
  isSound,
  type ReadDrawing,
  type ReadOptions,
  unsoundNote,
} from './define.ts'

/** Scalable Vector Graphics 1.1 and 2 (W3C): paths and simple shapes with their transforms; y runs down there. */
export const svg: DrawingFormat = {
  id: 'svg',
  label: 'SVG',
  extension: 'svg',
  mediaType: 'image/svg+xml',
  read,
  write,
}

/** mm of the units of CSS (CSS Values 3, 6.2): an inch is 96 px. */
const mmPer: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  px: 25.4 / 96,
  q: 0.25,
  '': 25.4 / 96,
}

interface Element {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: readonly Element[]
}

function read(text: string, { mmPerUnit }: ReadOptions = {}): ReadDrawing {
  if (text.length > drawingLimits.characters)
    throw new ProblemError('file-too-large', { limit: `${drawingLimits.characters / 1e6} MB` })
  const root = parsed(text).find(({ name }) => name === 'svg')
  if (!root) throw new ProblemError('drawing-unreadable', { detail: 'it has no svg element' })
  const notes = new Set<string>()
  const scale = scaleOf(root, notes, mmPerUnit)
  const chains: Segment[][] = []
  const byId = new Map<string, Element>()
  const index = (element: Element): void => {
    if (element.attributes.id) byId.set(element.attributes.id, element)
    for (const child of element.children) index(child)
  }
  index(root)
  let count = 0
  let segments = 0
  let unsound = 0
  let work = 0
  const visit = (element: Element, transforms: readonly string[], depth: number): void => {
    if (depth > drawingLimits.nesting)
      throw new ProblemError('drawing-too-much', { what: `elements nested ${drawingLimits.nesting} deep` })
    if (++count > drawingLimits.elements)
      throw new ProblemError('drawing-too-much', { what: `${drawingLimits.elements} elements` })
    const { name, attributes, children } = element
    if (unseen(attributes)) return
    if ((attributes.transform?.length ?? 0) > drawingLimits.transform)
      throw new ProblemError('drawing-too-much', { what: `${drawingLimits.transform} characters of one transform` })
    const own = attributes.transform ? [...transforms, attributes.transform] : transforms
    if (containers.has(name)) {
      for (const child of children) visit(child, own, depth + 1)
      return
    }
    if (name === 'use') {
      const target = byId.get((attributes.href ?? attributes['xlink:href'] ?? '').replace(/^#/, ''))
      const moved = `translate(${number(attributes.x)} ${number(attributes.y)})`
      if (target) visit(target.name === 'symbol' ? { ...target, name: 'g' } : target, [...own, moved], depth + 1)
      return
    }
    if (name === 'text') notes.add('Words were left out: turn them into paths in the program that made them.')
    if (name === 'image') notes.add('Pictures were left out.')
    const path = pathOf(element)
    if (!path) return
    // Before it is taken apart: what is used often is gone through as often.
    work += path.length + own.reduce((sum, transform) => sum + transform.length, 0)
    if (path.length > drawingLimits.path || work > drawingLimits.work)
      throw new ProblemError('drawing-too-much', { what: `${drawingLimits.segments} lines and curves` })
    for (const whole of segmentsOf(path, own, scale)) {
      const chain = whole.filter(isSound)
      unsound += whole.length - chain.length
      segments += chain.length
      if (segments > drawingLimits.segments)
        throw new ProblemError('drawing-too-much', { what: `${drawingLimits.segments} lines and curves` })
      if (chain.length > 0) chains.push(chain)
    }
  }
  for (const child of root.children) visit(child, [], 1)
  if (unsound > 0) notes.add(unsoundNote(unsound))
  if (chains.length === 0) throw new ProblemError('drawing-empty', {})
  return { chains, notes: [...notes] }
}

const containers = new Set(['svg', 'g', 'a', 'switch'])

function unseen({ display, visibility, style = '' }: Readonly<Record<string, string>>): boolean {
  return display === 'none' || visibility === 'hidden' || /display\s*:\s*none|visibility\s*:\s*hidden/.test(style)
}

/** The elements of a drawing, those that others hold within them. */
function parsed(text: string): readonly Element[] {
  interface Growing extends Element {
    readonly children: Growing[]
  }
  const all: Growing[] = []
  const open: Growing[] = []
  let count = 0
  const parser = new SaxesParser({ xmlns: false, position: false })
  parser.on('error', ({ message }) => {
    throw new ProblemError('drawing-unreadable', { detail: `it is not well formed: ${message.replace(/\.$/, '')}` })
  })
  // Entities could name each other without end; no drawing needs them.
  parser.on('doctype', (declared) => {
    if (/<!ENTITY/i.test(declared))
      throw new ProblemError('drawing-unreadable', { detail: 'it declares entities of its own, which are not read' })
  })
  parser.on('opentag', ({ name, attributes }) => {
    if (open.length > drawingLimits.nesting * 2)
      throw new ProblemError('drawing-too-much', { what: `elements nested ${drawingLimits.nesting} deep` })
    if (++count > drawingLimits.elements)
      throw new ProblemError('drawing-too-much', { what: `${drawingLimits.elements} elements` })
    const element: Growing = { name: name.replace(/^svg:/, ''), attributes: { ...attributes }, children: [] }
    ;(open.at(-1)?.children ?? all).push(element)
    open.push(element)
  })
  parser.on('closetag', () => {
    open.pop()
  })
  parser.write(text).close()
  return all
}

const number = (text: string | undefined) => (text === undefined ? 0 : Number.parseFloat(text) || 0)

/** mm per unit of the drawing, from its size and what it shows of it. */
function scaleOf({ attributes }: Element, notes: Set<string>, given: number | undefined): number {
  if (given !== undefined) return given
  const box = (attributes.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const length = (text: string | undefined) => {
    const [, value, unit = ''] = /^\s*([\d.]+(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '') ?? []
    const each = mmPer[unit.toLowerCase()]
    return value === undefined || each === undefined
      ? undefined
      : { mm: Number(value) * each, stated: unit !== '' && unit !== 'px' }
  }
  const [width, height] = [length(attributes.width), length(attributes.height)]
  const viewed = box.length === 4 && box.every(Number.isFinite) && box[2]! > 0 && box[3]! > 0
  if (!width?.stated && !height?.stated)
    notes.add('It states no size in mm or inches, so 96 of its units were taken as an inch.')
  if (!viewed) return mmPer.px!
  const scales = [width && width.mm / box[2]!, height && height.mm / box[3]!].filter(
    (scale): scale is number => scale !== undefined && scale > 0,
  )
  // Kept in proportion, as it is shown (SVG 2, 8.8: meet).
  return scales.length === 0 ? mmPer.px! : Math.min(...scales)
}

/** The path of a path or simple shape (SVG 2, ch. 10); undefined for anything else. */
function pathOf({ name, attributes: a }: Element): string | undefined {
  switch (name) {
    case 'path':
      return a.d
    case 'line':
      return `M${number(a.x1)} ${number(a.y1)}L${number(a.x2)} ${number(a.y2)}`
    case 'polyline':
    case 'polygon': {
      const points = (a.points ?? '').trim()
      return points === '' ? undefined : `M${points}${name === 'polygon' ? 'Z' : ''}`
    }
    case 'circle':
      return ellipsePath(number(a.cx), number(a.cy), number(a.r), number(a.r))
    case 'ellipse':
      return ellipsePath(number(a.cx), number(a.cy), number(a.rx), number(a.ry))
    case 'rect': {
      const [x, y, w, h] = [number(a.x), number(a.y), number(a.width), number(a.height)]
      if (w <= 0 || h <= 0) return undefined
      const rx = Math.min(number(a.rx ?? a.ry), w / 2)
      const ry = Math.min(number(a.ry ?? a.rx), h / 2)
      if (rx <= 0 || ry <= 0) return `M${x} ${y}h${w}v${h}h${-w}Z`
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`
      return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}Z`
    }
    default:
      return undefined
  }
}

function ellipsePath(cx: number, cy: number, rx: number, ry: number): string | undefined {
  if (rx <= 0 || ry <= 0) return undefined
  return `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`
}

/** True curves in mm with y up. What cannot be read of a path is left out, as it would not be shown either. */
function segmentsOf(d: string, transforms: readonly string[], scale: number): Segment[][] {
  const path = [...transforms]
    .reverse()
    .reduce((so, transform) => so.transform(transform), svgpath(d))
    .scale(scale, -scale)
    .abs()
    .unshort()
  const chains: Segment[][] = []
  let chain: Segment[] = []
  let [start, at]: [Vec2, Vec2] = [
    [0, 0],
    [0, 0],
  ]
  const to = (segment: Segment | undefined, end: Vec2) => {
    if (segment) chain.push(segment)
    at = end
  }
  const straight = (end: Vec2) => to(distance2(at, end) > 1e-9 ? line(at, end) : undefined, end)
  path.iterate((raw) => {
    // Its flags may come as text.
    const [command, ...n] = [raw[0], ...raw.slice(1).map(Number)] as [string, ...number[]]
    switch (command) {
      case 'M':
        if (chain.length > 0) chains.push(chain)
        chain = []
        at = [n[0]!, n[1]!]
        start = at
        break
      case 'L':
        straight([n[0]!, n[1]!])
        break
      case 'H':
        straight([n[0]!, at[1]])
        break
      case 'V':
        straight([at[0], n[0]!])
        break
      case 'C':
        to({ kind: 'cubic', points: [at, [n[0]!, n[1]!], [n[2]!, n[3]!], [n[4]!, n[5]!]] }, [n[4]!, n[5]!])
        break
      case 'Q': {
        // Raised by one degree.
        const [c, end]: [Vec2, Vec2] = [
          [n[0]!, n[1]!],
          [n[2]!, n[3]!],
        ]
        const third = (p: Vec2): Vec2 => [p[0] + (2 / 3) * (c[0] - p[0]), p[1] + (2 / 3) * (c[1] - p[1])]
        to({ kind: 'cubic', points: [at, third(at), third(end), end] }, end)
        break
      }
      case 'A':
        to(arcTo(at, n as never), [n[5]!, n[6]!])
        break
      case 'Z':
      case 'z':
        straight(start)
        if (chain.length > 0) chains.push(chain)
        chain = []
        break
    }
  })
  if (chain.length > 0) chains.push(chain)
  return chains
}

/** From its ends to its middle (SVG 2, B.2.4). */
function arcTo(
  from: Vec2,
  [rx0, ry0, turn, large, sweep, x, y]: readonly [number, number, number, number, number, number, number],
): Segment | undefined {
  const to: Vec2 = [x, y]
  if (distance2(from, to) < 1e-12) return undefined
  if (rx0 === 0 || ry0 === 0) return line(from, to)
  const rad = (turn * Math.PI) / 180
  const [c, s] = [Math.cos(rad), Math.sin(rad)]
  const half: Vec2 = [(from[0] - x) / 2, (from[1] - y) / 2]
  const p: Vec2 = [c * half[0] + s * half[1], -s * half[0] + c * half[1]]
  const spread = (p[0] / rx0) ** 2 + (p[1] / ry0) ** 2
  const grow = Math.sqrt(Math.max(1, spread))
  const [rx, ry] = [Math.abs(rx0) * grow, Math.abs(ry0) * grow]
  // Of half a turn and of what grows to one the middle is that of the chord: the root would make 1e-8 of a rounded digit.
  const root = spread > 1 - 1e-13 ? 0 : Math.sqrt(1 / spread - 1) * (large === sweep ? -1 : 1)
  const m: Vec2 = [(root * rx * p[1]) / ry, (-root * ry * p[0]) / rx]
  const centre: Vec2 = [c * m[0] - s * m[1] + (from[0] + x) / 2, s * m[0] + c * m[1] + (from[1] + y) / 2]
  if (Math.abs(rx - ry) < 1e-9 * rx) return arcBetween(centre, from, to, sweep === 1)
  const startRad = Math.atan2((p[1] - m[1]) / ry, (p[0] - m[0]) / rx)
  const endRad = Math.atan2((-p[1] - m[1]) / ry, (-p[0] - m[0]) / rx)
  const whole = 2 * Math.PI
  let sweepRad = (((endRad - startRad) % whole) + whole) % whole
  if (sweep === 0 && sweepRad > 0) sweepRad -= whole
  return { kind: 'ellipse', centre, major: [rx * c, rx * s], minor: [-ry * s, ry * c], startRad, sweepRad }
}

const shown = (value: number) => String(Math.round(value * 1e6) / 1e6)
const place = ([x, y]: Vec2) => `${shown(x)} ${shown(-y)}`

/** In mm, stated in the file; one path for all, its holes by the even-odd rule. */
function write(curves: readonly DrawnCurve[], title: string): string {
  const all = curves.flatMap(({ segments }) => segments)
  const reach = (d: Vec2) => all.reduce((far, s) => Math.max(far, segmentReach(s, d)), -Infinity)
  const [x0, x1, y0, y1] =
    all.length === 0 ? [0, 1, 0, 1] : [-reach([-1, 0]), reach([1, 0]), -reach([0, -1]), reach([0, 1])]
  const [w, h] = [x1 - x0 + 2, y1 - y0 + 2]
  const name = escaped(title)
  const box = `${shown(x0 - 1)} ${shown(-y1 - 1)} ${shown(w)} ${shown(h)}`
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${shown(w)}mm" height="${shown(h)}mm" viewBox="${box}">
  <title>${name}</title>
  <path fill="none" stroke="#000" stroke-width="0.2" d="${pathData(curves)}"/>
</svg>
`
}

function pathData(curves: readonly DrawnCurve[]): string {
  let out = ''
  let last: Vec2 | undefined
  for (const s of curves.flatMap(({ segments }) => segments)) {
    const from = startOf(s)
    if (!last || distance2(last, from) > 1e-7) out += `M${place(from)}`
    out += segmentData(s)
    last = endOf(s)
  }
  return out
}

function segmentData(s: Segment): string {
  const end = place(endOf(s))
  switch (s.kind) {
    case 'line':
      return `L${end}`
    case 'cubic':
      return `C${place(s.points[1])} ${place(s.points[2])} ${end}`
    default: {
      const [rx, ry, turn] =
        s.kind === 'arc'
          ? [s.radius, s.radius, 0]
          : [norm2(s.major), norm2(s.minor), (-Math.atan2(s.major[1], s.major[0]) * 180) / Math.PI]
      const mirrored = s.kind === 'ellipse' && s.major[0] * s.minor[1] - s.major[1] * s.minor[0] < 0
      // Their y runs down: left turns are drawn as right ones.
      const flag = s.sweepRad > 0 !== mirrored ? 0 : 1
      const radii = `A${shown(rx)} ${shown(ry)} ${shown(turn)}`
      if (Math.abs(s.sweepRad) < 1.9 * Math.PI)
        return `${radii} ${Math.abs(s.sweepRad) > Math.PI ? 1 : 0} ${flag} ${end}`
      return `${radii} 0 ${flag} ${place(pointAt(s, 0.5))}${radii} 0 ${flag} ${end}`
    }
  }
}
