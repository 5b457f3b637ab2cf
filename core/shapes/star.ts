import { size } from '../fields/index.ts'
import type { Ring } from '../kernel/index.ts'
import { defineShape } from './define.ts'
import { diameterAt, heightBeside, leftmost } from './dimensions.ts'
import { bottomFace, edgeFaces, topFace } from './faces.ts'
import { cornerRounds, prismReach, regularCorners } from './prismatic.ts'
import { surfacesOf } from './surfaces.ts'

interface Values {
  readonly points: number
  readonly outer: number
  readonly inner: number
  readonly height: number
}

/** A star prism, a point to the back. */
export const star = defineShape({
  kind: 'star',
  label: 'star',
  words: [
    ...['serration', 'spline', 'twelve-point', 'rosette', 'cog', 'gear blank', 'asterisk'],
    ...['knurled bar', 'knurled wheel'].map((word) => ({
      word,
      fields: { points: '36', inner: '19' },
      quick: ['outer', 'inner', 'height'],
    })),
  ],
  shelf: 'solids',
  icon: 'M16 3 L18.5 9 L27 9.5 L20.5 13.5 L23 20 L16 16.5 L9 20 L11.5 13.5 L5 9.5 L13.5 9 Z',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    points: { kind: 'count', label: 'Points', default: '5', least: 3, most: 120, meaning: 'Number of its points.' },
    outer: size('Diameter over its points', '20', 'Diameter of the circle round its points.'),
    inner: {
      kind: 'length',
      label: 'Diameter between its points',
      default: '10',
      above: 0,
      meaning: 'Diameter of the circle through the corners between its points.',
    },
    height: size('Height', '5', 'Height of the star.'),
  },
  quick: ['points', 'outer', 'inner', 'height'],
  sentence: () => [
    'star of',
    { field: 'points' },
    'points, ⌀',
    { field: 'outer' },
    'over them and ⌀',
    { field: 'inner' },
    'between,',
    { field: 'height' },
    'high',
  ],
  impossible: (v) =>
    v.inner >= v.outer
      ? { field: 'inner', detail: `Between its points it must be smaller than over them (${v.outer} mm).` }
      : undefined,
  box: (v) => {
    const ring = outline(v)
    const [xs, ys] = [ring.map(([x]) => x), ring.map(([, y]) => y)]
    return { min: [Math.min(...xs), Math.min(...ys), 0], max: [Math.max(...xs), Math.max(...ys), v.height] }
  },
  reach: (v, d) => prismReach(cornerRounds(outline(v)), 0, v.height, d),
  surfaces: (v) =>
    surfacesOf([
      topFace(v.height, v.inner, v.inner),
      bottomFace(0, v.inner, v.inner),
      ...edgeFaces('flank', outline(v), v.height),
    ]),
  dimensions: (v) => {
    const valley = Math.PI / 2 - Math.PI / v.points
    return [
      diameterAt('outer', Math.PI / 2, v.outer, v.height),
      diameterAt('inner', valley, v.inner, v.height),
      heightBeside(leftmost(outline(v)), v.height),
    ]
  },
  solid: (v, { scope }) => scope.extrude([outline(v)], v.height),
})

function outline({ points, outer, inner }: Values): Ring {
  const tips = regularCorners(points, outer / 2, 90)
  const valleys = regularCorners(points, inner / 2, 90 + 180 / points)
  return tips.flatMap((tip, i) => [tip, valleys[i]!])
}
