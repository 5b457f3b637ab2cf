import type { FieldTexts } from '../document/index.ts'
import { size } from '../fields/index.ts'
import { circumradius, type Ring, segmentsFor } from '../kernel/index.ts'
import { defineShape, operandText } from './define.ts'
import { circleEdge } from './edges.ts'
import { bottomFace, roundFace, topFace } from './faces.ts'
import { prismReach } from './prismatic.ts'
import { plainSurfaces, surfacesOf } from './surfaces.ts'

/** Outside diameter, bore and thickness. */
function washerOf([diameter, bore, height]: readonly string[]): FieldTexts {
  return {
    section: 'square',
    height: height ?? '2',
    ...(diameter ? { diameter, thick: `${operandText(diameter)} / 4` } : {}),
    ...(diameter && bore ? { thick: `(${operandText(diameter)} - ${operandText(bore)}) / 2` } : {}),
  }
}

interface Values {
  readonly diameter: number
  readonly section: 'round' | 'square'
  readonly thick: number
  readonly height: number
}

/** A ring lying flat, of round or square section, measured over its outside. */
export const ring = defineShape({
  kind: 'ring',
  label: 'ring',
  words: [
    'seal',
    'bangle',
    'bracelet',
    'grommet',
    'ferrule',
    'shaft collar',
    ...['torus', 'o-ring', 'hoop', 'eye', 'loop', 'donut'],
    ...['washer', 'collar', 'shim', 'flat ring', 'annulus', 'gasket'].map((word) => ({ word, take: washerOf })),
  ],
  shelf: 'solids',
  icon: 'M28 11 A12 6 0 1 1 4 11 A12 6 0 1 1 28 11 M22 10.5 A6 2.4 0 1 1 10 10.5 A6 2.4 0 1 1 22 10.5 M4 11 V14 A12 6 0 0 0 28 14 V11',
  operation: 'add',
  seat: 'stands',
  fields: {
    diameter: size('Outside diameter', '30', 'Diameter over the outside of the ring.'),
    section: {
      kind: 'choice',
      label: 'Section',
      default: 'round',
      choices: { round: 'round', square: 'square' },
      meaning: 'The form of the section through the ring.',
    },
    thick: {
      kind: 'length',
      label: 'Thickness',
      default: '5',
      above: 0,
      meaning: 'Diameter of a round section; width of a square one, from its inside to its outside.',
    },
    height: size('Height', '5', 'Height of a square section.'),
  },
  quick: ['diameter', 'thick'],
  sentence: (v) => [
    'ring ⌀',
    { field: 'diameter' },
    'outside, its section',
    { field: 'section' },
    ',',
    { field: 'thick' },
    'thick',
    ...(v.section === 'square' ? ['and', { field: 'height' }, 'high'] : []),
  ],
  impossible: (v) =>
    v.thick * 2 >= v.diameter
      ? { field: 'thick', detail: `Twice its thickness must be less than its outside diameter (${v.diameter} mm).` }
      : undefined,
  box: (v) => {
    const r = v.diameter / 2
    return { min: [-r, -r, 0], max: [r, r, tall(v)] }
  },
  reach: (v, d) => {
    if (v.section === 'square') return prismReach([{ x: 0, y: 0, r: v.diameter / 2 }], 0, v.height, d)
    const small = v.thick / 2
    return (v.diameter / 2 - small) * Math.hypot(d[0], d[1]) + small + small * d[2]
  },
  surfaces: (v) => {
    if (v.section !== 'square') {
      const middle = (v.diameter - v.thick) / 2
      return surfacesOf(plainSurfaces('outside', 'inside'), {
        at: (p) => (Math.hypot(p[0], p[1]) > middle ? 'outside' : 'inside'),
      })
    }
    const [outer, inner] = [v.diameter / 2, v.diameter / 2 - v.thick]
    return surfacesOf([
      topFace(v.height, v.diameter, v.diameter),
      bottomFace(0, v.diameter, v.diameter),
      roundFace('outside', outer, 0, v.height),
      ...(inner > 1e-9 ? [roundFace('inside', -inner, 0, v.height)] : []),
    ])
  },
  edges: (v) =>
    v.section === 'square'
      ? []
      : [
          circleEdge('outside', v.diameter),
          ...(v.diameter > 2 * v.thick ? [circleEdge('inside', v.diameter - 2 * v.thick)] : []),
        ],
  dimensions: (v) => {
    const [r, z] = [v.diameter / 2, tall(v)]
    return [
      { kind: 'diameter', field: 'diameter', centre: [0, 0, z / 2], direction: [1, 0, 0], radius: r },
      { kind: 'linear', field: 'thick', from: [-r, 0, z], to: [v.thick - r, 0, z], offset: [0, 0, 1] },
    ]
  },
  solid(v, { scope, fineness, cuts }) {
    const [outer, inner, half] = [v.diameter / 2, v.diameter / 2 - v.thick, v.thick / 2]
    const segments = segmentsFor(outer, fineness, true)
    const around = 1 / Math.cos(Math.PI / segments)
    // Flats lie inside the true ring where material ends on the outside, and outside of it round its eye; a cut the reverse.
    const widened = (x: number, middle: number) => (x > middle === cuts ? x * around : x)
    if (v.section === 'square') {
      const [a, b] = [cuts ? inner : inner * around, cuts ? outer * around : outer]
      return scope.revolve(
        [
          [a, 0],
          [b, 0],
          [b, v.height],
          [a, v.height],
        ],
        segments,
      )
    }
    const steps = segmentsFor(half, fineness, cuts)
    const radius = cuts ? circumradius(half, steps) : half
    const profile: Ring = Array.from({ length: steps }, (_, i) => {
      const rad = (2 * Math.PI * i) / steps
      const x = outer - half + radius * Math.cos(rad)
      return [widened(x, outer - half), half + radius * Math.sin(rad)] as const
    })
    return scope.revolve(profile, segments)
  },
})

function tall(v: Values): number {
  return v.section === 'square' ? v.height : v.thick
}
