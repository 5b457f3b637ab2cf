import { size } from '../../fields/index.ts'
import { circumradius, segmentsFor } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { circleEdge } from '../edges.ts'
import { plainSurfaces, surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly outer: number
  readonly inner: number
  readonly thick: number
  readonly rise: number
  readonly travel: number
}

/** A ring that is a flat cone, which is pressed flat. It stands on its outer rim. */
export const discSpring = defineShape({
  kind: 'disc-spring',
  label: 'ring spring washer',
  words: ['disc spring', 'conical washer', 'spring washer', 'cone washer', 'cupped washer'],
  shelf: 'machine',
  icon: 'M2 18 L10 8 H22 L30 18 L27 18 L20.5 11 H11.5 L5 18 Z',
  operation: 'add',
  seat: 'stands',
  fields: {
    outer: size('Outside diameter', '30', 'Diameter over its outside.'),
    inner: size('Inside diameter', '15', 'Diameter of its hole.'),
    thick: size('Thickness', '1.2', 'Thickness of the ring, straight up.'),
    rise: size('Rise', '1.5', 'How much higher its inside lies than its outside: how far it can be pressed.'),
    travel: size('Travel', '0.8', 'How far it is pressed.'),
  },
  quick: ['outer', 'inner', 'thick', 'rise'],
  sentence: () => [
    'ring spring washer ⌀',
    { field: 'outer' },
    'with a hole ⌀',
    { field: 'inner' },
    ',',
    { field: 'thick' },
    'thick, rising by',
    { field: 'rise' },
    ', pressed by',
    { field: 'travel' },
  ],
  impossible(v) {
    if (v.inner >= 0.9 * v.outer)
      return {
        field: 'inner',
        detail: `Nothing is left of the ring: less than ${Number((0.9 * v.outer).toFixed(3))} mm.`,
      }
    if (v.rise > 0.4 * (v.outer - v.inner))
      return {
        field: 'rise',
        detail: `Too steep to be a washer: ${Number((0.4 * (v.outer - v.inner)).toFixed(3))} mm at most.`,
      }
    if (v.travel > v.rise) return { field: 'travel', detail: `It is flat before that: ${v.rise} mm at most.` }
    return undefined
  },
  box: (v) => {
    const r = v.outer / 2
    return { min: [-r, -r, 0], max: [r, r, v.rise + v.thick] }
  },
  reach: (v, d) => {
    const level = Math.hypot(d[0], d[1])
    return Math.max(
      ...[
        [v.outer / 2, 0],
        [v.outer / 2, v.thick],
        [v.inner / 2, v.rise + v.thick],
        [v.inner / 2, v.rise],
      ].map(([r, z]) => r! * level + z! * d[2]),
    )
  },
  surfaces: (v) =>
    surfacesOf(plainSurfaces('upper side', 'underside', 'outside', 'hole'), {
      at([x, y], n) {
        if (Math.abs(n[2]) < 0.1 * Math.hypot(n[0], n[1]))
          return Math.hypot(x, y) > (v.outer + v.inner) / 4 ? 'outside' : 'hole'
        return n[2] > 0 ? 'upper side' : 'underside'
      },
    }),
  edges: (v) => [circleEdge('outside', v.outer), circleEdge('hole', v.inner)],
  dimensions: (v) => {
    const r = v.outer / 2
    return [
      { kind: 'diameter', field: 'outer', centre: [0, 0, 0], direction: [1, 0, 0], radius: r },
      { kind: 'linear', field: 'thick', from: [r, 0, 0], to: [r, 0, v.thick], offset: [1, 0, 0] },
    ]
  },
  spring: facts,
  solid(v, { scope, fineness }) {
    const segments = segmentsFor(v.outer / 2, fineness)
    const [r, hole] = [v.outer / 2, circumradius(v.inner / 2, segments)]
    return scope.revolve(
      [
        [r, 0],
        [r, v.thick],
        [hole, v.rise + v.thick],
        [hole, v.rise],
      ],
      segments,
    )
  },
})

/** Poisson's ratio that is taken for all materials. */
const poisson = 0.36

/** Almen and Laszlo (The Uniform-Section Disk Spring, 1936), as EN 16984 has it; stress at the upper edge of the hole, where it is pressed most. */
function facts({ outer, inner, thick, rise, travel }: Values, { stiffness }: SpringStuff): SpringFacts {
  const ratio = outer / inner
  const log = Math.log(ratio)
  const k1 = ((ratio - 1) / ratio) ** 2 / ((ratio + 1) / (ratio - 1) - 2 / log) / Math.PI
  const k2 = ((6 / Math.PI) * ((ratio - 1) / log - 1)) / log
  const k3 = ((3 / Math.PI) * (ratio - 1)) / log
  const [h, s] = [rise / thick, travel / thick]
  const base = (4 * stiffness) / (1 - poisson ** 2) / (k1 * outer ** 2)
  const force = base * thick ** 4 * s * ((h - s) * (h - s / 2) + 1)
  const strain = ((base * thick ** 2) / stiffness) * s * (k2 * (h - s / 2) + k3)
  return {
    ...{ rate: force / travel, per: 'mm', travel, force, strain },
    more: [{ label: 'Pressed flat', text: `${Number((base * thick ** 4 * h).toPrecision(3))} N` }],
  }
}
