import type { Ring, Scope, Solid } from '../kernel/index.ts'
import { type Frame, turnedZ, type Vec3, world } from '../place/index.ts'
import { plainSurfaces, type SpringFacts, type SpringStuff, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { shown } from './words.ts'

interface Values {
  readonly form: string
  readonly length: number
  readonly thin: number
  readonly height: number
  readonly wide: number
  readonly turn: number
  readonly shift: number
}

/**
 * Thin webs that bend, in one with both pieces: no gap, no play. They stand on z = 0 between two blocks, the first piece's at x < 0 and
 * the second's at x > 0.
 *
 *     web              cross-spring        parallel guide
 *    ▓▓▓   ▒▒▒         ▓▓▓╲   ╱▒▒▒         ▓▓▓─────▒▒▒
 *    ▓▓▓───▒▒▒         ▓▓▓  ╳  ▒▒▒         ▓▓▓     ▒▒▒
 *    ▓▓▓   ▒▒▒         ▓▓▓╱   ╲▒▒▒         ▓▓▓─────▒▒▒
 *                      (above each other)
 */
export const flexure = defineJoint({
  kind: 'flexure',
  label: 'flexure',
  words: ['flexible joint', 'compliant joint'],
  icon: 'M2 4 H10 V20 H2 Z M22 4 H30 V20 H22 Z M10 12 H22',
  fields: {
    form: {
      kind: 'choice',
      label: 'Form',
      default: 'web',
      choices: { web: 'a web', cross: 'a cross-spring', guide: 'a parallel guide' },
      meaning: 'One web that bends, two that cross above each other, or two side by side that guide straight.',
    },
    length: {
      kind: 'length',
      label: 'Web length',
      default: '12',
      above: 0,
      most: 500,
      meaning: 'Length of each web, between the blocks.',
    },
    thin: {
      kind: 'length',
      label: 'Web thickness',
      default: '0.8',
      above: 0,
      most: 20,
      meaning: 'Thickness of each web, the way it bends.',
    },
    height: {
      kind: 'length',
      label: 'Height',
      default: '10',
      above: 0,
      most: 500,
      meaning: 'Height of webs and blocks.',
    },
    wide: {
      kind: 'length',
      label: 'Block width',
      default: '14',
      above: 0,
      most: 500,
      meaning: 'Width of the blocks that the webs end in; those of a parallel guide lie at their edges.',
    },
    turn: {
      kind: 'angle',
      label: 'Turns by',
      default: '15',
      above: 0,
      most: 90,
      meaning: 'How far it turns to either side.',
    },
    shift: {
      kind: 'length',
      label: 'Moves by',
      default: '1',
      above: 0,
      most: 100,
      meaning: 'How far a parallel guide lets the second piece go to either side.',
    },
  },
  sentence: (v) => [
    'flexure',
    ',',
    { field: 'form' },
    ',',
    { field: 'length' },
    'long and',
    { field: 'thin' },
    'thick,',
    { field: 'height' },
    'high, between blocks',
    { field: 'wide' },
    'wide,',
    ...(v.form === 'guide' ? ['moving by', { field: 'shift' } as const] : ['turning by', { field: 'turn' } as const]),
    'to either side',
  ],
  impossible(v) {
    if (v.thin > v.length / 4)
      return {
        field: 'thin',
        detail: `Too thick to bend: a quarter of its length at most (${shown(v.length / 4)}).`,
      }
    const least = v.form === 'web' ? v.thin : v.form === 'cross' ? v.length / Math.SQRT2 + 2 * v.thin : 4 * v.thin
    if (v.wide < least) return { field: 'wide', detail: `The blocks are too narrow for it: ${shown(least)} at least.` }
    if (v.form === 'cross' && v.height < 4 * crossGap)
      return {
        field: 'height',
        detail: `Too low for two webs one above the other: ${shown(4 * crossGap)} at least.`,
      }
    if (v.form === 'guide' && v.shift > v.length / 3)
      return { field: 'shift', detail: `Too far: it no longer runs straight. ${shown(v.length / 3)} at most.` }
    return undefined
  },
  judged: (v) => ({
    facts: [
      ...(v.form === 'guide'
        ? [{ label: 'Draws nearer by', text: `${shown(nearer(v, v.shift))} mm at the end of its way` }]
        : []),
      ...(v.form === 'cross'
        ? [{ label: 'Bridge', text: `${shown(v.length)} mm, where its upper web is printed` }]
        : []),
    ],
    faults: [],
  }),
  spring,
  joins: () => true,
  box: (v) => ({
    min: [-span(v) / 2 - block, -v.wide / 2, 0],
    max: [span(v) / 2 + block, v.wide / 2, v.height],
  }),
  dimensions: (v) => [
    {
      kind: 'linear',
      field: 'wide',
      from: [-span(v) / 2, -v.wide / 2, v.height],
      to: [-span(v) / 2, v.wide / 2, v.height],
      offset: [-1, 0, 0],
    },
    {
      kind: 'linear',
      field: 'height',
      from: [span(v) / 2, -v.wide / 2, 0],
      to: [span(v) / 2, -v.wide / 2, v.height],
      offset: [0, -1, 0],
    },
  ],
  surfaces: (v, side) =>
    surfacesOf(plainSurfaces('block top', 'block bottom', 'block', ...(side === 0 ? ['web', 'web edge'] : [])), {
      at([x], n) {
        const isBlock = side === 1 || x < -span(v) / 2 + 1e-3
        if (Math.abs(n[2]) < 0.99) return isBlock ? 'block' : 'web'
        return isBlock ? (n[2] > 0 ? 'block top' : 'block bottom') : 'web edge'
      },
    }),
  freedoms: (v) =>
    v.form === 'guide'
      ? [{ label: 'moving', unit: 'mm', from: -v.shift, to: v.shift, atRest: 0, told: { to: 'shift' } }]
      : [{ label: 'turning', unit: 'degrees', from: -v.turn, to: v.turn, atRest: 0, told: { to: 'turn' } }],
  motion: (v, [at = 0]): Frame =>
    v.form === 'guide' ? { ...world, origin: [-nearer(v, at), at, 0] as Vec3 } : turnedZ(at),
  solids(v, { scope }) {
    const half = span(v) / 2
    const blocks = [-half - block, half].map((x) => plate(scope, [rectangle(x, x + block, v.wide)], 0, v.height))
    const room = plate(scope, [rectangle(-half, half, v.wide)], 0, v.height)
    return { cuts: [[room], [room]], adds: [[scope.union([blocks[0]!, ...webs(v, scope, 0)])], [blocks[1]!]] }
  },
  bends: (v, { scope }) => [webs(v, scope, 0.01), []],
})

/** Length of each block along x, and how far the webs go into them, mm. */
const block = 4
const into = 1

/** From block to block. */
const span = (v: Values) => (v.form === 'cross' ? v.length / Math.SQRT2 : v.length)

/** How much nearer a parallel guide comes as it moves (Awtar, Characteristics of Beam-Based Flexure Modules, 2007). */
const nearer = (v: Values, at: number) => (0.6 * at * at) / v.length

/** Webs from inside the first block to inside the second; to be taken away, a little thicker, and none of what is inside the first. */
function webs(v: Values, scope: Scope, more: number): Solid[] {
  const half = span(v) / 2
  const start = more > 0 ? -half : -half - into
  const held = plate(scope, [rectangle(start, half + into + more, v.wide)], -1, v.height + 1)
  const web = (y: number, low: number, high: number, turn: number) => {
    const thick = v.thin + 2 * more
    const long = v.length / 2 + 2 * into + v.thin
    const beam = rectangle(-long, long, thick).map(([x, across]) => [x, across + y] as const)
    return scope.intersection([scope.placed(plate(scope, [beam], low - more, high + more), turnedZ(turn)), held])
  }
  if (v.form === 'guide') return [-1, 1].map((side) => web((side * (v.wide - v.thin)) / 2, 0, v.height, 0))
  if (v.form === 'web') return [web(0, 0, v.height, 0)]
  const middle = v.height / 2
  return [web(0, 0, middle - crossGap / 2, 45), web(0, middle + crossGap / 2, v.height, -45)]
}

/** Between webs above each other, mm. */
const crossGap = 0.6

/**
 * A web is bent evenly where it turns, M = E I θ / L; two that cross in their middles do twice that (Haringx, The Cross-Spring Pivot,
 * 1949); two that guide straight give 24 E I / L³, each bent by 6 E I x / L² at its ends.
 */
function spring(v: Values, { stiffness }: SpringStuff): SpringFacts {
  const webs = v.form === 'web' ? 1 : 2
  const high = v.form === 'cross' ? (v.height - crossGap) / 2 : v.height
  const inertia = (high * v.thin ** 3) / 12
  if (v.form === 'guide') {
    const rate = (webs * 12 * stiffness * inertia) / v.length ** 3
    return { rate, per: 'mm', travel: v.shift, force: rate * v.shift, strain: (3 * v.thin * v.shift) / v.length ** 2 }
  }
  const degree = Math.PI / 180
  const rate = ((webs * stiffness * inertia) / v.length) * degree
  return {
    ...{ rate, per: 'degree', travel: v.turn, force: rate * v.turn },
    strain: (v.thin * v.turn * degree) / (2 * v.length),
  }
}

function rectangle(x0: number, x1: number, wide: number): Ring {
  return [
    [x0, -wide / 2],
    [x1, -wide / 2],
    [x1, wide / 2],
    [x0, wide / 2],
  ]
}

function plate(scope: Scope, rings: readonly Ring[], low: number, high: number): Solid {
  return scope.placed(scope.extrude(rings, high - low), { ...world, origin: [0, 0, low] })
}
