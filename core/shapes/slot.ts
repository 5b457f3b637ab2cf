import { size } from '../fields/index.ts'
import { scaled } from '../place/index.ts'
import { defineShape } from './define.ts'
import { lengthAndWidth } from './dimensions.ts'
import { sideFaces } from './faces.ts'
import { cornerRounds, extruded, prismReach } from './prismatic.ts'
import { roundEndAt, stadium, stadiumEnds, stadiumRounds } from './stadium.ts'
import { deep, deepened, depthField, reachField, reachWords, type Sunk, sunkPrism, sunkSurfaces } from './sunk.ts'
import { type NamedFace, plainSurfaces } from './surfaces.ts'

interface Values {
  readonly length: number
  readonly width: number
  readonly ends: 'round' | 'square'
}

/** A slot into a face, its length from left to right. */
export const slot = defineShape({
  kind: 'slot',
  label: 'slot',
  words: [
    ...['vent', 'grille', 'louvre', 'louver', 'hand hole', 'cable slot'],
    ...['long hole', 'oblong hole', 'groove', 'keyway'],
    ...['window', 'rectangular hole', 'rectangular cut', 'notch', 'cutout', 'letterbox', 't-slot'].map((word) => ({
      word,
      fields: { ends: 'square' },
    })),
    ...[
      'pocket',
      'recess',
      'rectangular pocket',
      'mortise',
      'channel',
      'dado',
      'rabbet',
      'trench',
      'cable channel',
    ].map((word) => ({
      word,
      fields: { ends: 'square', reach: 'blind' },
      quick: ['length', 'width', 'depth'],
    })),
    {
      word: 'square hole',
      fields: { ends: 'square' },
      take: ([side, depth]) => ({
        ...(side ? { length: side, width: side } : { length: '10', width: '10' }),
        ...(depth ? { depth, reach: 'blind' } : {}),
      }),
    },
  ],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M11 14.5 L17 11.5 A2 1 0 0 1 21 13 L15 16 A2 1 0 0 1 11 14.5',
  operation: 'cut',
  seat: 'enters',
  fields: {
    length: { ...size('Length', '20', 'Length over all, from left to right.'), takes: 'flat' },
    width: { ...size('Width', '5', 'Size from front to back; a pin of this size slides in it.'), takes: 'flat' },
    ends: {
      kind: 'choice',
      label: 'Ends',
      default: 'round',
      choices: { round: 'rounded', square: 'square' },
      meaning: 'The form of its two ends.',
    },
    reach: reachField,
    depth: depthField,
  },
  quick: ['length', 'width', { field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => [
    'slot',
    { field: 'length' },
    '×',
    { field: 'width' },
    'with ends',
    { field: 'ends' },
    ',',
    ...reachWords(v),
  ],
  impossible: (v) =>
    v.ends === 'round' && v.length < v.width
      ? { field: 'length', detail: `With rounded ends it cannot be shorter than it is wide (${v.width} mm).` }
      : undefined,
  box: (v, through) => ({
    min: [-v.length / 2, -v.width / 2, -deep(v, through)],
    max: [v.length / 2, v.width / 2, 0],
  }),
  // Measured at its mouth.
  reach: (v, d) =>
    prismReach(v.ends === 'round' ? stadiumRounds(v.length, v.width) : cornerRounds(rectangle(v)), 0, 0, d),
  surfaces: (v) =>
    sunkSurfaces(
      v,
      v.length,
      v.width,
      [...walls(v), ...(v.ends === 'round' ? plainSurfaces('left wall', 'right wall') : [])],
      (p, normal) => {
        const end = v.ends === 'round' ? roundEndAt(p, normal, v.length, v.width) : undefined
        return end && `${end} wall`
      },
    ),
  edges: (v) => (v.ends === 'round' ? stadiumEnds(v.length, v.width) : []),
  upTo: deepened,
  dimensions: (v) => [
    ...lengthAndWidth(v.length, v.width),
    ...(v.reach === 'blind'
      ? ([
          {
            kind: 'linear',
            field: 'depth',
            from: [-v.length / 2, 0, 0],
            to: [-v.length / 2, 0, -v.depth],
            offset: [-1, 0, 0],
          },
        ] as const)
      : []),
  ],
  prism,
  solid: (v, context) => extruded(context.scope, prism(v, context)),
})

/** The flat walls, seen from within: those of a slot that goes through are measured from its mouth. */
function walls(v: Values & Sunk): NamedFace[] {
  const depth = v.reach === 'through' ? 0 : v.depth
  const long = v.ends === 'square' ? v.length : v.length - v.width
  if (long <= 0) return []
  const sides = sideFaces(long, v.width, depth).filter(
    ({ name }) => v.ends === 'square' || name === 'front' || name === 'back',
  )
  return sides.map((face) => {
    const { u, v: up, n, origin } = face.frame
    const [low, high] = face.sides.across
    return {
      ...face,
      name: `${face.name} wall`,
      frame: { origin: [origin[0], origin[1], -depth / 2], u: scaled(u, -1), v: up, n: scaled(n, -1) },
      sides: { ...face.sides, across: [high, low] },
    }
  })
}

function prism(v: Values & Sunk, context: Parameters<typeof sunkPrism>[1] & { readonly fineness: number }) {
  const outline = () => (v.ends === 'round' ? stadium(v.length, v.width, context.fineness, true) : rectangle(v))
  return sunkPrism(v, context, () => [outline()])
}

function rectangle({ length, width }: Values) {
  const [x, y] = [length / 2, width / 2]
  return [
    [-x, -y],
    [x, -y],
    [x, y],
    [-x, y],
  ] as const
}
