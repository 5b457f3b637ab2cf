import { size } from '../fields/index.ts'
import type { Vec3 } from '../place/index.ts'
import { type FontName, fontField, fonts, type Lettering, lettering } from '../text/index.ts'
import { defineShape } from './define.ts'
import { topFace } from './faces.ts'
import { plainSurfaces, surfacesOf } from './surfaces.ts'
import { wrapped, wrappedSurfaces } from './wrapped.ts'

interface Values {
  readonly text: string
  readonly font: FontName
  readonly size: number
  readonly depth: number
  readonly spacing: number
  readonly align: 'left' | 'centre' | 'right'
  readonly line: 'straight' | 'over' | 'under'
  readonly circle: number
  readonly wrap: 'flat' | 'outside' | 'inside'
  readonly round: number
}

/** Lettering, raised where it adds and sunk where it cuts; straight or round a circle, flat or wrapped about a round bar. */
export const text = defineShape({
  kind: 'text',
  label: 'text',
  words: [
    'stamp',
    'sign',
    'plaque',
    'date',
    'logo text',
    'lettering',
    'letters',
    'label',
    'inscription',
    'number',
    'name',
    'mark',
    'engraving',
    'words',
    'nameplate',
  ],
  shelf: 'labels',
  icon: 'M5 19 L10 5 H12 L17 19 M7 14 H15 M19 19 V9 H23 A2.4 2.4 0 0 1 23 14 H19 H24 A2.5 2.5 0 0 1 24 19 Z',
  operation: 'add',
  seat: 'stands',
  deep: 'depth',
  fields: {
    text: {
      kind: 'text',
      label: 'Words',
      default: 'Port',
      most: 200,
      meaning: 'The words; `{wall}` in them stands for the value of an expression.',
    },
    font: fontField,
    size: {
      kind: 'length',
      label: 'Cap height',
      default: '8',
      above: 0,
      most: 1000,
      meaning: 'Height of a capital letter.',
    },
    depth: {
      kind: 'length',
      label: 'Height of the letters',
      default: '0.8',
      above: 0,
      most: 1000,
      meaning: 'How far they are raised, or sunk where they cut.',
    },
    spacing: {
      kind: 'length',
      label: 'Spacing',
      default: '0',
      least: -100,
      most: 1000,
      meaning: 'Added between letters; negative draws them together.',
      rare: true,
    },
    align: {
      kind: 'choice',
      label: 'Measured at',
      default: 'centre',
      choices: { left: 'its beginning', centre: 'its middle', right: 'its end' },
      meaning: 'The point of the line that is its centre for placing, so that it stays when the words change.',
      rare: true,
    },
    line: {
      kind: 'choice',
      label: 'Line',
      default: 'straight',
      choices: { straight: 'in a straight line', over: 'over a circle', under: 'under a circle' },
      meaning: 'Straight, or round a circle: on top of it, or inside at its bottom.',
      rare: true,
    },
    circle: size('Circle', '40', 'Diameter of the circle that the letters stand on.'),
    wrap: {
      kind: 'choice',
      label: 'On',
      default: 'flat',
      choices: { flat: 'flat', outside: 'wrapped about a round', inside: 'wrapped inside a bore' },
      meaning: 'Flat, or bent about the axis of a round bar or bore that runs along the height of the letters.',
      rare: true,
    },
    round: size('Diameter of the round', '30', 'Diameter of the bar or bore that it is wrapped on.'),
  },
  quick: ['text'],
  onRound: (diameter, { inside }) => ({ round: diameter, wrap: inside ? 'inside' : 'outside' }),
  fitted: (v, round) =>
    v.wrap === 'flat' ? v : { ...v, round: 2 * Math.abs(round), wrap: round < 0 ? 'inside' : 'outside' },
  sentence: (v) => [
    'text',
    { field: 'text' },
    'in',
    { field: 'font' },
    'letters',
    { field: 'size' },
    'tall and',
    { field: 'depth' },
    'deep, spaced by',
    { field: 'spacing' },
    ', measured at',
    { field: 'align' },
    ',',
    { field: 'line' },
    ...(v.line === 'straight' ? [] : ['⌀', { field: 'circle' }]),
    ',',
    { field: 'wrap' },
    ...(v.wrap === 'flat' ? [] : ['⌀', { field: 'round' }]),
  ],
  impossible(v) {
    const { missing, rings, width } = lettered(v, roughly)
    if (missing.length > 0) {
      const signs = missing.slice(0, 5).map((character) => `“${character}”`)
      return {
        field: 'text',
        detail: `There is no letter for ${signs.join(', ')} in this font; use other words or another font.`,
      }
    }
    if (rings.length === 0)
      return { field: 'text', detail: 'There is nothing to see of these words; type some letters.' }
    if (v.line !== 'straight' && v.wrap !== 'flat')
      return { field: 'line', detail: 'Words run round a circle or are wrapped about a round, not both.' }
    if (v.line !== 'straight' && width > Math.PI * v.circle)
      return {
        field: 'circle',
        detail: `The words are ${round(width)} mm long and go round this circle more than once.`,
      }
    if (v.wrap !== 'flat' && width > Math.PI * v.round)
      return {
        field: 'round',
        detail: `The words are ${round(width)} mm long and go round this diameter more than once.`,
      }
    if (v.wrap !== 'flat' && v.depth >= v.round / 2)
      return { field: 'depth', detail: 'The letters would reach the axis of what they are wrapped on.' }
    return undefined
  },
  box: (v) => {
    const { low, high } = extent(v)
    const wrapped = v.wrap !== 'flat'
    // A wrapped line leaves its seat by at most the whole diameter.
    const away = wrapped ? Math.min(v.round, high[0] - low[0]) + v.depth : 0
    return {
      min: [Math.min(low[0], wrapped ? -v.round / 2 - v.depth : Infinity), low[1], -away],
      max: [Math.max(high[0], wrapped ? v.round / 2 + v.depth : -Infinity), high[1], v.depth + away],
    }
  },
  // As it lies flat: that is how words are placed.
  reach: (v, d: Vec3) => {
    const { rings } = lettered(v, roughly)
    let far = -Infinity
    for (const ring of rings) for (const [x, y] of ring) far = Math.max(far, x * d[0] + y * d[1])
    return far + Math.max(0, v.depth * d[2])
  },
  surfaces: (v) => {
    if (v.wrap !== 'flat') return wrappedSurfaces({ side: v.wrap, diameter: v.round })
    const { low, high } = extent(v)
    const face = topFace(v.depth, high[0] - low[0], high[1] - low[1], 'face')
    const middle: Vec3 = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, v.depth]
    return surfacesOf([{ ...face, frame: { ...face.frame, origin: middle } }, ...plainSurfaces('side', 'back')], {
      at: (_, normal) => (normal[2] < -0.999 ? 'back' : undefined),
    })
  },
  dimensions: (v) => {
    const { low } = extent(v)
    if (v.line !== 'straight' || v.wrap !== 'flat') return []
    return [
      {
        kind: 'linear',
        field: 'size',
        from: [low[0], -v.size / 2, v.depth],
        to: [low[0], v.size / 2, v.depth],
        offset: [-1, 0, 0],
      },
    ]
  },
  isUneven: ({ wrap }) => wrap !== 'flat',
  solid(v, { scope, fineness, cuts, overlap }) {
    const rings = scope.filled(lettered(v, fineness).rings)
    if (v.wrap === 'flat') return scope.extrude(rings, v.depth)
    return wrapped(rings, { depth: v.depth, side: v.wrap, diameter: v.round }, { scope, fineness, cuts, overlap })
  },
})

/** Fine enough for sizes and messages, mm. */
const roughly = 0.002

/** Words are laid out often with the same values: for messages, extents and the solid. */
const known = new WeakMap<object, Map<number, Lettering>>()

function lettered(v: Values, fineness: number): Lettering {
  const layouts = known.get(v) ?? new Map<number, Lettering>()
  known.set(v, layouts)
  const laid =
    layouts.get(fineness) ??
    lettering(v.text, fonts[v.font].data, {
      capHeight: v.size,
      spacing: v.spacing,
      align: v.align,
      fineness,
      bend: v.line === 'straight' ? undefined : { side: v.line, diameter: v.circle },
    })
  layouts.set(fineness, laid)
  return laid
}

function extent(v: Values): { readonly low: readonly [number, number]; readonly high: readonly [number, number] } {
  const points = lettered(v, roughly).rings.flat()
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x, y] of points) {
    x0 = Math.min(x0, x)
    y0 = Math.min(y0, y)
    x1 = Math.max(x1, x)
    y1 = Math.max(y1, y)
  }
  return { low: [x0, y0], high: [x1, y1] }
}

function round(mm: number): number {
  return Math.round(mm * 10) / 10
}
