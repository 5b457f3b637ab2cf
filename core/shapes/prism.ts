import { size } from '../fields/index.ts'
import { circumradius } from '../kernel/index.ts'
import { uprightSides } from '../place/index.ts'
import { defineShape, type NamedForm } from './define.ts'
import { diameterAt, heightBeside, leftmost } from './dimensions.ts'
import { bottomFace, topFace } from './faces.ts'
import { cornerRounds, prismReach, regularCorners } from './prismatic.ts'
import { type NamedFace, surfacesOf } from './surfaces.ts'

interface Values {
  readonly sides: number
  readonly across: 'flats' | 'corners'
  readonly size: number
  readonly front: 'flat' | 'corner'
  readonly height: number
}

/** Typed by their names, polygons take their size and height. */
function manySided(words: readonly string[], sides: string): NamedForm[] {
  return words.map((word) => ({ word, fields: { sides }, quick: ['size', 'height'] }))
}
const holed = { operation: 'cut', fields: { sides: '6', cutReach: 'through' }, quick: ['size', 'height'] } as const

/** A regular prism. Across flats is the diameter of the circle inside, for any number of sides. */
export const prism = defineShape({
  kind: 'prism',
  label: 'prism',
  words: [
    ...['polygon', 'across flats', 'facets'],
    ...manySided(['triangle', 'triangular bar', 'arrow', 'arrowhead'], '3'),
    ...manySided(['square bar', 'diamond'], '4'),
    ...manySided(['pentagon'], '5'),
    ...manySided(['hexagon', 'hex', 'hex bar', 'hex head', 'nut'], '6'),
    ...manySided(['heptagon'], '7'),
    ...manySided(['octagon'], '8'),
    ...manySided(['decagon'], '10'),
    ...manySided(['dodecagon'], '12'),
    ...['hex hole', 'hexagonal hole', 'hexagon hole', 'nut hole', 'honeycomb'].map((word) => ({ ...holed, word })),
    ...['nut pocket', 'nut trap', 'hex pocket', 'hex socket'].map((word) => ({
      ...holed,
      word,
      fields: { sides: '6', cutReach: 'depth' },
    })),
    {
      word: 'triangular hole',
      operation: 'cut',
      fields: { sides: '3', cutReach: 'through' },
      quick: ['size', 'height'],
    },
  ],
  shelf: 'solids',
  icon: 'M6 8 L11 4.5 H21 L26 8 L21 11.5 H11 Z M6 8 V17 L11 20.5 H21 L26 17 V8 M11 11.5 V20.5 M21 11.5 V20.5',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    sides: { kind: 'count', label: 'Sides', default: '6', least: 3, most: 64, meaning: 'Number of its sides.' },
    size: { ...size('Size', '13', 'Size across its flats or across its corners.'), takes: 'flat', takesWhenCut: true },
    across: {
      kind: 'choice',
      label: 'Measured across',
      default: 'flats',
      choices: { flats: 'across flats', corners: 'across corners' },
      meaning:
        'Across flats: diameter of the circle that touches its flats. Across corners: of the one round its corners.',
    },
    height: size('Height', '10', 'Height of the prism.'),
    front: {
      kind: 'choice',
      label: 'To the front',
      default: 'flat',
      choices: { flat: 'a flat', corner: 'a corner' },
      meaning: 'Whether a flat or a corner looks to the front.',
    },
  },
  quick: ['sides', 'size', 'height'],
  sentence: () => [
    'prism of',
    { field: 'sides' },
    'sides,',
    { field: 'size' },
    { field: 'across' },
    'and',
    { field: 'height' },
    'high, with',
    { field: 'front' },
    'to the front',
  ],
  box: (v) => {
    const ring = outline(v)
    const [xs, ys] = [ring.map(([x]) => x), ring.map(([, y]) => y)]
    return { min: [Math.min(...xs), Math.min(...ys), 0], max: [Math.max(...xs), Math.max(...ys), v.height] }
  },
  reach: (v, d) => prismReach(cornerRounds(outline(v)), 0, v.height, d),
  surfaces: (v) => {
    const { inner, outer } = radii(v)
    const width = 2 * Math.sqrt(outer ** 2 - inner ** 2)
    const flats = Array.from({ length: v.sides }, (_, i): NamedFace => {
      const rad = ((firstCorner(v) + 180 / v.sides + (360 * i) / v.sides) * Math.PI) / 180
      const n = [Math.cos(rad), Math.sin(rad), 0] as const
      return {
        name: `flat ${i + 1}`,
        frame: { origin: [n[0] * inner, n[1] * inner, v.height / 2], u: [-n[1], n[0], 0], v: [0, 0, 1], n },
        size: [width, v.height],
        sides: uprightSides,
      }
    })
    return surfacesOf([topFace(v.height, 2 * inner, 2 * inner), bottomFace(0, 2 * inner, 2 * inner), ...flats])
  },
  dimensions: (v) => {
    // To the middle of a flat, or to a corner.
    const rad = ((firstCorner(v) + (v.across === 'flats' ? 180 / v.sides : 0)) * Math.PI) / 180
    return [diameterAt('size', rad, v.size, v.height), heightBeside(leftmost(outline(v)), v.height)]
  },
  prism: (v) => ({ low: 0, high: v.height, rings: () => [outline(v)] }),
  solid: (v, { scope }) => scope.extrude([outline(v)], v.height),
})

/** Radius of the circle inside and of the one round the corners. */
function radii({ sides, across, size }: Values) {
  const outer = across === 'flats' ? circumradius(size / 2, sides) : size / 2
  return { inner: outer * Math.cos(Math.PI / sides), outer }
}

/** Direction of the first corner in degrees; the front is at −90. Flats are counted from the front, counter-clockwise. */
function firstCorner({ sides, front }: Values): number {
  return front === 'corner' ? -90 : -90 - 180 / sides
}

function outline(v: Values) {
  return regularCorners(v.sides, radii(v).outer, firstCorner(v))
}
