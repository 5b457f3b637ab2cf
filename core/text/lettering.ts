import type { Ring } from '../plane/index.ts'
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

type Point = readonly [number, number]

/**
 * One line of text as contours. y = 0 is half of the cap height, so that capitals are centred; bent text stands about the
 * middle of its circle.
 */
export function lettering(text: string, font: FontData, options: LetteringOptions): Lettering {
  const { capHeight, spacing, align, fineness, bend } = options
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
  const start = align === 'left' ? 0 : align === 'right' ? -x : -x / 2
  const rings = placed.flatMap(({ contours, x: left, advance }) => {
    const middle = start + left + advance / 2
    return flattened(contours, scale, fineness).map((ring) =>
      ring.map(
        ([px, py]): Point =>
          bend ? onCircle(bend, middle, px - advance / 2, py) : [start + left + px, py - capHeight / 2],
      ),
    )
  })
  return { rings, width: x, missing: [...missing] }
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

/** Contours in mm, curves broken so that no chord is farther than `fineness` from its curve. */
function flattened(contours: string, scale: number, fineness: number): Ring[] {
  const rings: Point[][] = []
  for (const [, command, numbers] of contours.matchAll(/([MLQC])([^MLQCZ]*)/g)) {
    const values = (numbers!.match(/-?\d+/g) ?? []).map((text) => Number(text) * scale)
    const points = Array.from({ length: values.length / 2 }, (_, i): Point => [values[2 * i]!, values[2 * i + 1]!])
    if (command === 'M') rings.push([points[0]!])
    const ring = rings.at(-1)!
    const from = ring.at(-1)!
    if (command === 'L') ring.push(points[0]!)
    else if (command === 'Q') ring.push(...quadratic(from, points[0]!, points[1]!, fineness))
    else if (command === 'C') ring.push(...cubic(from, points[0]!, points[1]!, points[2]!, fineness))
  }
  return rings.map(distinct).filter((ring) => ring.length > 2)
}

/** The second difference of the controls bounds the distance of a chord: |p − 2q + r| / (4 n²) for n equal steps. */
function quadratic(p: Point, q: Point, r: Point, fineness: number): Point[] {
  const bow = Math.hypot(p[0] - 2 * q[0] + r[0], p[1] - 2 * q[1] + r[1])
  const steps = Math.max(1, Math.ceil(Math.sqrt(bow / (4 * fineness))))
  return Array.from({ length: steps }, (_, i) => {
    const t = (i + 1) / steps
    const [a, b, c] = [(1 - t) ** 2, 2 * t * (1 - t), t * t]
    return [a * p[0] + b * q[0] + c * r[0], a * p[1] + b * q[1] + c * r[1]]
  })
}

/** As above, with the larger of both second differences: 3/4 of it / n². */
function cubic(p: Point, q: Point, r: Point, s: Point, fineness: number): Point[] {
  const bow = Math.max(
    Math.hypot(p[0] - 2 * q[0] + r[0], p[1] - 2 * q[1] + r[1]),
    Math.hypot(q[0] - 2 * r[0] + s[0], q[1] - 2 * r[1] + s[1]),
  )
  const steps = Math.max(1, Math.ceil(Math.sqrt((0.75 * bow) / fineness)))
  return Array.from({ length: steps }, (_, i) => {
    const t = (i + 1) / steps
    const [a, b, c, d] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3]
    return [a * p[0] + b * q[0] + c * r[0] + d * s[0], a * p[1] + b * q[1] + c * r[1] + d * s[1]]
  })
}

function distinct(ring: readonly Point[]): Ring {
  return ring.filter((p, i) => {
    const before = ring[(i + ring.length - 1) % ring.length]!
    return Math.hypot(p[0] - before[0], p[1] - before[1]) > 1e-9
  })
}
