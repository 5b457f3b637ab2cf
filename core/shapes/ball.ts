import type { FieldTexts } from '../document/index.ts'
import { size } from '../fields/index.ts'
import { circumradius, type Ring, segmentsFor } from '../kernel/index.ts'
import { flatsInUse, lengthOf } from '../plane/index.ts'
import { defineShape, discReach, operandText } from './define.ts'
import { circleEdge } from './edges.ts'
import { bottomFace, topFace } from './faces.ts'
import { surfacesOf } from './surfaces.ts'

interface Values {
  readonly diameter: number
  readonly form: 'whole' | 'part'
  readonly from: number
  readonly to: number
}

/** A ball, or the part of one between two heights above its lowest point. It stands on its lowest point or its lower cut. */
export const ball = defineShape({
  kind: 'ball',
  label: 'ball',
  words: [
    'sphere',
    'globe',
    'knob',
    'bead',
    { word: 'hemisphere', take: halfOf },
    { word: 'half ball', take: halfOf },
    { word: 'dome', take: halfOf },
  ],
  shelf: 'solids',
  icon: 'M26 12 A10 10 0 1 1 6 12 A10 10 0 1 1 26 12 M6 12 A10 3.2 0 0 0 26 12',
  operation: 'add',
  seat: 'stands',
  fields: {
    diameter: { ...size('Diameter', '20', 'Diameter of the ball.'), takes: 'round', takesWhenCut: true },
    form: {
      kind: 'choice',
      label: 'How much of it',
      default: 'whole',
      choices: { whole: 'whole', part: 'only the part' },
      meaning: 'All of the ball, or what lies between two heights.',
    },
    from: {
      kind: 'length',
      label: 'Lower cut',
      default: '10',
      least: 0,
      meaning: 'Height of the lower cut above the lowest point of the whole ball; 0 leaves it round.',
    },
    to: {
      kind: 'length',
      label: 'Upper cut',
      default: '20',
      above: 0,
      meaning: 'Height of the upper cut above the lowest point of the whole ball; the diameter leaves it round.',
    },
  },
  quick: ['diameter'],
  sentence: (v) => [
    'ball ⌀',
    { field: 'diameter' },
    ',',
    { field: 'form' },
    ...(v.form === 'part' ? ['from', { field: 'from' }, 'to', { field: 'to' }, 'above its lowest point'] : []),
  ],
  impossible(v) {
    if (v.form === 'whole') return undefined
    if (v.to > v.diameter + 1e-9)
      return { field: 'to', detail: `The upper cut lies above the ball, which is ${v.diameter} mm high.` }
    return v.from < v.to ? undefined : { field: 'to', detail: 'The upper cut must lie above the lower one.' }
  },
  box: (v) => {
    const { low, high, middle, r } = heights(v)
    const w = middle > high ? radiusAt(r, high - middle) : middle < low ? radiusAt(r, low - middle) : r
    return { min: [-w, -w, 0], max: [w, w, high - low] }
  },
  reach: (v, d) => {
    const { low, high, middle, r } = heights(v)
    // The farthest point of the whole ball, or else of the rim of the cut that takes it away.
    const z = middle + r * d[2]
    if (z > high) return discReach(radiusAt(r, high - middle), high - low, d)
    if (z < low) return discReach(radiusAt(r, low - middle), 0, d)
    return r + (middle - low) * d[2]
  },
  surfaces: (v) => {
    const { low, high, middle, r } = heights(v)
    const [top, foot] = [2 * radiusAt(r, high - middle), 2 * radiusAt(r, low - middle)]
    return surfacesOf([
      ...(top > 1e-9 ? [topFace(high - low, top, top)] : []),
      ...(foot > 1e-9 ? [bottomFace(0, foot, foot)] : []),
      { name: 'round' },
    ])
  },
  edges: (v) => {
    const { low, high, middle, r } = heights(v)
    return [
      ...(low < middle && middle < high ? [circleEdge('round', 2 * r)] : []),
      ...([low, high] as const)
        .map((z, i) => circleEdge(i === 0 ? 'rim of bottom' : 'rim of top', 2 * radiusAt(r, z - middle)))
        .filter(({ segment }) => lengthOf(segment) > 1e-6),
    ]
  },
  dimensions: (v) => {
    const { low, middle, r } = heights(v)
    return [{ kind: 'diameter', field: 'diameter', centre: [0, 0, middle - low], direction: [1, 0, 0], radius: r }]
  },
  solid(v, { scope, fineness, cuts }) {
    const { low, high, middle, r } = heights(v)
    const segments = segmentsFor(r, fineness, cuts)
    // What cuts lies outside of the true ball both along and round its axis, so that a ball of this size goes in.
    const radius = cuts ? circumradius(r, segments) : r
    const widen = cuts ? 1 / Math.cos(Math.PI / segments) : 1
    // Both ends are corners, and there are half as many flats between them at four times the fineness.
    const angleAt = (z: number) => Math.asin(Math.min(1, Math.max(-1, (z - middle) / radius)))
    const [from, to] = v.form === 'whole' ? [-Math.PI / 2, Math.PI / 2] : [angleAt(low), angleAt(high)]
    const flats = flatsInUse((segments * (to - from)) / (2 * Math.PI))
    const round = Array.from({ length: flats + 1 }, (_, i) => {
      const rad = from + ((to - from) * i) / flats
      return [radius * Math.cos(rad) * widen, middle + radius * Math.sin(rad)] as const
    })
    const profile: Ring = [[0, round[0]![1]], ...round.filter(([x]) => x > 1e-9), [0, round.at(-1)![1]]]
    return scope.revolve(
      profile.map(([x, z]) => [x, z - low] as const),
      segments,
    )
  },
})

/** The upper half, by its diameter. */
function halfOf([diameter = '20']: readonly string[]): FieldTexts {
  return { diameter, form: 'part', from: `${operandText(diameter)} / 2`, to: diameter }
}

/** Heights in the whole ball, whose lowest point is 0. */
function heights({ diameter, form, from, to }: Values) {
  const whole = form === 'whole'
  return { low: whole ? 0 : from, high: whole ? diameter : to, middle: diameter / 2, r: diameter / 2 }
}

function radiusAt(r: number, z: number): number {
  return Math.sqrt(Math.max(0, r * r - z * z))
}
