import type { Offset } from '@makrel/core/document'
import { add, dot, pointIn, scaled, subtract, unit, type Vec3 } from '@makrel/core/place'
import type { StepGeometry } from '@makrel/core/planning'
import { formatNumber, mmPer, type PartUnit } from '@makrel/core/units'
import { type Projection, transformed } from './view.ts'

/** Dragging on the drawing, as arithmetic: rays, what a drag snaps to, and the texts that it writes. */

export interface Ray {
  readonly from: Vec3
  /** unit */
  readonly direction: Vec3
}

/** The line of sight through a pixel of the drawing. */
export function rayAt({ inverse, width, height }: Projection, x: number, y: number): Ray {
  const at = (depth: number): Vec3 => {
    const [px, py, pz, w] = transformed(inverse, [(x / width) * 2 - 1, 1 - (y / height) * 2, depth])
    return [px / w, py / w, pz / w]
  }
  const from = at(-1)
  return { from, direction: unit(subtract(at(1), from)) }
}

/** Where a ray meets a plane; undefined where it runs along it. */
export function onPlane({ from, direction }: Ray, point: Vec3, normal: Vec3): Vec3 | undefined {
  const slope = dot(direction, normal)
  if (Math.abs(slope) < 0.03) return undefined
  return add(from, scaled(direction, dot(subtract(point, from), normal) / slope))
}

/** How far along a line (unit direction) its point nearest to the ray lies; undefined where both run alike. */
export function alongLine({ from, direction }: Ray, point: Vec3, line: Vec3): number | undefined {
  const between = dot(direction, line)
  const slope = 1 - between * between
  if (slope < 1e-3) return undefined
  const away = subtract(from, point)
  return (dot(away, line) - dot(away, direction) * between) / slope
}

export interface Snap {
  /** where the shape's origin comes to lie, mm from the middle of the seat */
  readonly at: number
  /** why, for the label at the pointer; nothing where only the step size counts */
  readonly reason?: string
}

/** Something a dragged shape can line up with, in one direction of its seat. */
export interface SnapLine {
  readonly at: number
  readonly reason: string
}

/** The places in direction `i` of the seat (0 across, 1 along) that a shape lines up with. */
export function snapLines(
  i: 0 | 1,
  { seating, extent }: StepGeometry,
  others: readonly { readonly origin: Vec3; readonly label: string }[],
): SnapLine[] {
  const sides = i === 0 ? seating.sides.across : seating.sides.along
  const half = seating.size[i] / 2
  const [low, high] = extent[i]
  const edges: SnapLine[] =
    half > 0 && !(i === 0 && seating.round)
      ? [
          { at: -half - low, reason: `flush with the ${sides[0]} edge` },
          { at: half - high, reason: `flush with the ${sides[1]} edge` },
          { at: -half, reason: `centre on the ${sides[0]} edge` },
          { at: half, reason: `centre on the ${sides[1]} edge` },
        ]
      : []
  return [
    { at: 0, reason: half > 0 ? `centred ${sides[0]} to ${sides[1]}` : 'on the datum' },
    ...edges,
    ...others.map(({ origin, label }) => ({ at: pointIn(seating.frame, origin)[i], reason: `in line with ${label}` })),
  ]
}

/** The nearest line within `reach` mm, else the next whole step from the side that is measured from. */
export function snapped(at: number, lines: readonly SnapLine[], reach: number, step: number, mark: number): Snap {
  const near = lines
    .map((line) => ({ ...line, away: Math.abs(line.at - at) }))
    .filter(({ away }) => away <= reach)
    .sort((a, b) => a.away - b.away)[0]
  if (near) return { at: near.at, reason: near.reason }
  return { at: mark + Math.round((at - mark) / step) * step }
}

/**
 * An offset's text after its shape was moved by `mm` along the seat: a number is written anew, behind an expression the
 * move is added. From the high side the distance counts back.
 */
export function movedOffset(offset: Offset, value: number, mm: number, unit: PartUnit): string {
  return movedText(offset.by, value, offset.from === 'high' ? -mm : mm, unit)
}

/** A length's text with `mm` added; `value` is what the text comes to, in mm. */
export function movedText(text: string, value: number, mm: number, unit: PartUnit): string {
  const written = (length: number) => formatNumber(length / mmPer(unit), unit === 'mm' ? 4 : 5)
  if (/^\s*[-−+]?[\d.]+\s*(mm|cm|in|inch|")?\s*$/.test(text)) return written(value + mm)
  // What an earlier drag added behind the expression is taken together with this one.
  const [, base = text, sign = '+', tail = '0'] = /^(.*\S) ([+−-]) (\d+(?:\.\d+)?)$/.exec(text) ?? []
  const before = (sign === '+' ? 1 : -1) * Number(tail) * mmPer(unit)
  const shift = Number(written(before + mm))
  const whole = shift === 0 ? base : `${base} ${shift < 0 ? '-' : '+'} ${formatNumber(Math.abs(shift), 5)}`
  return whole
}

/** An angle's text turned by `degrees`. */
export function turnedText(text: string, value: number, degrees: number): string {
  if (/^\s*[-−+]?[\d.]+\s*(°|deg)?\s*$/.test(text)) return formatNumber(value + degrees, 3)
  return degrees === 0 ? text : `${text} ${degrees < 0 ? '-' : '+'} ${formatNumber(Math.abs(degrees), 3)}`
}
