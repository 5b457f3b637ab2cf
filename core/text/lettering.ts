import {
  between2,
  carried,
  cubicTurn,
  distance2,
  endOf,
  flatsForTurn,
  flatsInUse,
  line,
  type Motion2,
  pointAt,
  type Ring,
  type Segment,
  stay,
  type Vec2,
} from '../plane/index.ts'
import type { FontData } from './fonts.ts'

export interface LetteringOptions {
  /** height of a capital letter, mm */
  readonly capHeight: number
  /** added between letters, mm */
  readonly spacing: number
  /** which point of the line stands at x = 0 */
  readonly align: 'left' | 'centre' | 'right'
  /** chord tolerance, mm */
  readonly fineness: number
  /** the circle that the letters stand on, their feet to its middle (`over`) or their heads (`under`); its diameter in mm */
  readonly bend?: { readonly side: 'over' | 'under'; readonly diameter: number } | undefined
}

export interface Lettering {
  /** contours as the font draws them: filled where they wind about a point (non-zero) */
  readonly rings: readonly Ring[]
  /** of the whole line, unbent, mm */
  readonly width: number
  /** characters that the font does not have */
  readonly missing: readonly string[]
}

type Point = Vec2

/**
 * One line of text as contours. y = 0 is half of the cap height, so that capitals are centred; bent text stands about the
 * middle of its circle.
 */
export function lettering(text: string, font: FontData, options: LetteringOptions): Lettering {
  const { capHeight, align, fineness, bend } = options
  const { placed, scale, width, missing } = laid(text, font, options)
  const start = startOf(align, width)
  const rings = placed.flatMap(({ contours, x: left, advance }) => {
    const middle = start + left + advance / 2
    return contoursOf(contours, font, scale).map((contour) =>
      flattened(contour, fineness).map(
        ([px, py]): Point =>
          bend ? onCircle(bend, middle, px - advance / 2, py) : [start + left + px, py - capHeight / 2],
      ),
    )
  })
  return { rings, width, missing }
}

/** The same line of text as true curves, a list for each contour; straight. */
export function letterCurves(
  text: string,
  font: FontData,
  options: Pick<LetteringOptions, 'capHeight' | 'spacing' | 'align'>,
): Segment[][] {
  const { placed, scale, width } = laid(text, font, options)
  const start = startOf(options.align, width)
  return placed.flatMap(({ contours, x }) => {
    const to: Motion2 = { ...stay, origin: [start + x, -options.capHeight / 2] }
    return contoursOf(contours, font, scale).map((contour) => contour.map((s) => carried(s, to)))
  })
}

function startOf(align: LetteringOptions['align'], width: number): number {
  return align === 'left' ? 0 : align === 'right' ? -width : -width / 2
}

/** The letters one behind the other from x = 0, mm. */
function laid(text: string, font: FontData, { capHeight, spacing }: Pick<LetteringOptions, 'capHeight' | 'spacing'>) {
  const scale = capHeight / font.capHeight
  const placed: { readonly contours: string; readonly x: number; readonly advance: number }[] = []
  const missing = new Set<string>()
  let x = 0
  let before = ''
  for (const character of text) {
    const glyph = glyphOf(font, character)
    if (!glyph) {
      missing.add(character)
      continue
    }
    if (before) x += (font.kerning[before + character] ?? 0) * scale + spacing
    const [advance, contours] = glyph
    placed.push({ contours, x, advance: advance * scale })
    x += advance * scale
    before = character
  }
  return { placed, scale, width: x, missing: [...missing] }
}

/** A few signs of the workshop that fonts lack look like letters they have. */
const stand: Readonly<Record<string, string>> = { '⌀': 'Ø', '−': '–', '×': 'x' }

function glyphOf(font: FontData, character: string): FontData['glyphs'][string] | undefined {
  const known = Object.hasOwn(font.glyphs, character) ? character : stand[character]
  return known === undefined ? undefined : font.glyphs[known]
}

/** A letter keeps its form; its middle stands at the arc length `along` from the top (or bottom) of the circle. */
function onCircle(
  { side, diameter }: NonNullable<LetteringOptions['bend']>,
  along: number,
  x: number,
  y: number,
): Point {
  const r = diameter / 2
  const rad = along / r
  const [s, c] = [Math.sin(rad), Math.cos(rad)]
  // Over: turned clockwise by the angle, y outwards. Under: counter-clockwise, y towards the middle.
  return side === 'over' ? [x * c + (r + y) * s, (r + y) * c - x * s] : [x * c + (r - y) * s, x * s - (r - y) * c]
}

/** The contours of a letter in mm as true curves. */
function contoursOf(glyph: string, font: FontData, scale: number): Segment[][] {
  return glyph
    .split(';')
    .filter(Boolean)
    .map((text) => {
      const [x, y, place] = text.split(' ').map(Number) as [number, number, number]
      return contourFrom([x, y], font.contours[place]!, scale)
    })
    .filter((contour) => contour.length > 1)
}

/** One contour. A quadratic is the cubic whose inner points lie two thirds of the way to its own. */
function contourFrom(start: Point, path: string, scale: number): Segment[] {
  const inMm = ([x, y]: Point): Point => [x * scale, y * scale]
  const segments: Segment[] = []
  // In units of the font, which are whole: what is added up there is exact.
  let [at, from] = [start, inMm(start)]
  for (const [, command, numbers] of path.matchAll(/([LQC])([^LQC]*)/g)) {
    const steps = numbers!.split(' ').map(Number)
    const points = Array.from({ length: steps.length / 2 }, (_, i): Point => {
      at = [at[0] + steps[2 * i]!, at[1] + steps[2 * i + 1]!]
      return inMm(at)
    })
    const to = points.at(-1)!
    if (command === 'L') {
      if (distance2(from, to) > 1e-9) segments.push(line(from, to))
    } else {
      const [q, r] = command === 'Q' ? [from, to].map((end) => between2(end, points[0]!, 2 / 3)) : points
      segments.push({ kind: 'cubic', points: [from, q!, r!, to] })
    }
    from = to
  }
  if (distance2(from, inMm(start)) > 1e-9) segments.push(line(from, inMm(start)))
  return segments
}

/** No chord is farther than `fineness` from its curve. */
function flattened(contour: readonly Segment[], fineness: number): Ring {
  return contour.flatMap((s) => (s.kind === 'cubic' ? cubic(...s.points, fineness) : [endOf(s)]))
}

/**
 * The larger second difference of the controls bounds the distance of a chord: 3/4 of it / n² for n equal steps (Wang
 * 1984).
 */
function cubic(p: Point, q: Point, r: Point, s: Point, fineness: number): Point[] {
  const bow = Math.max(
    Math.hypot(p[0] - 2 * q[0] + r[0], p[1] - 2 * q[1] + r[1]),
    Math.hypot(q[0] - 2 * r[0] + s[0], q[1] - 2 * r[1] + s[1]),
  )
  const steps = flatsInUse(
    Math.max(Math.sqrt((0.75 * bow) / fineness), flatsForTurn(cubicTurn([p, q, r, s]), fineness)),
  )
  const whole: Segment = { kind: 'cubic', points: [p, q, r, s] }
  return Array.from({ length: steps }, (_, i) => pointAt(whole, (i + 1) / steps))
}
