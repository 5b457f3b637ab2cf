import type { ValuesOf } from '../fields/index.ts'
import { type Frame, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { bevels } from './mesh/bevel.ts'
import { crossed } from './mesh/crossed.ts'
import { parallel } from './mesh/parallel.ts'
import { ownMotion, positionOf } from './mesh/turning.ts'
import { type Mesh, type Wheel, wheelOf } from './mesh/wheels.ts'

const wheels = ['gear', 'ring-gear', 'rack', 'worm', 'bevel-gear']

const fields = {
  first: {
    kind: 'step',
    label: 'First wheel',
    default: '',
    of: wheels,
    side: 0,
    meaning: 'What runs in the other: a gear, ring gear, rack, worm or bevel gear of the first piece.',
  },
  second: {
    kind: 'step',
    label: 'Second wheel',
    default: '',
    of: wheels,
    side: 1,
    meaning: 'A gear, ring gear, rack, worm or bevel gear of the second piece, which turns with the first.',
  },
} as const

type Values = ValuesOf<typeof fields>

/** Two wheels whose teeth run in each other. */
export const gearMesh = defineJoint({
  kind: 'gear-mesh',
  label: 'gear mesh',
  words: ['gear pair', 'in mesh', 'gear train'],
  icon: 'M10 6 A5 5 0 1 1 9.99 6 Z M22 5 A6 6 0 1 1 21.99 5 Z M15.5 9 V14',
  fields,
  sentence: () => ['gear mesh of', { field: 'first' }, 'with', { field: 'second' }],
  impossible({ first, second }) {
    for (const [field, { shape, adds }] of [
      ['first', first],
      ['second', second],
    ] as const)
      if (!adds && (shape === 'worm' || shape === 'bevel-gear'))
        return { field, detail: 'What a worm or a bevel gear is cut from has no teeth that run with others.' }
    const [one, two] = [wheelOf(first), wheelOf(second)]
    return meshOf(one, two).impossible(one, two)
  },
  box: () => ({ min: [0, 0, 0], max: [0, 0, 0] }),
  dimensions: () => [],
  surfaces: () => surfacesOf(plainSurfaces('teeth')),
  solids: () => ({ cuts: [[], []], adds: [[], []] }),
  freedoms({ first }) {
    const wheel = wheelOf(first)
    const pitch = Math.PI * wheel.teeth.module
    return wheel.kind === 'line'
      ? [
          {
            label: 'sliding',
            unit: 'mm',
            from: -wheel.teeth.count * pitch,
            to: wheel.teeth.count * pitch,
            atRest: 0,
            period: pitch,
          },
        ]
      : [{ label: 'turning', unit: 'degrees', from: 0, to: 360, atRest: 0, period: 360 / wheel.teeth.count }]
  },
  motion: () => world,
  between: {
    steps: ({ first, second }) => [first.id, second.id],
    motions: (v, second, [at = 0]) => [
      ownMotion(wheelOf(v.first), world, at),
      ownMotion(wheelOf(v.second), second, at * ratioOf(v, second)),
    ],
    positions(v, second, side, motion) {
      const at = positionOf(wheelOf(side === 0 ? v.first : v.second), side === 0 ? world : second, motion)
      const ratio = side === 0 ? 1 : ratioOf(v, second)
      // What cannot run yet does not turn.
      return [ratio === 0 ? 0 : at / ratio]
    },
    judged(v, second) {
      const [one, two] = wheelsOf(v)
      return meshOf(one, two).judged(one, two, second)
    },
    puts: { label: 'Put the second in mesh', done: 'The second wheel stands in mesh with the first.' },
    settled(v, second) {
      const [one, two] = wheelsOf(v)
      return meshOf(one, two).settled(one, two, second)
    },
    fitting(v, second) {
      const [one, two] = wheelsOf(v)
      return meshOf(one, two).fitting?.(one, two, second)
    },
  },
})

function wheelsOf({ first, second }: Values): readonly [Wheel, Wheel] {
  return [wheelOf(first), wheelOf(second)]
}

/** How two wheels run in each other. A new way is its file and its line here. */
function meshOf(one: Wheel, two: Wheel): Mesh {
  const has = (kind: Wheel['kind']) => one.kind === kind || two.kind === kind
  if (has('worm')) return crossed
  if (has('bevel')) return bevels
  return parallel
}

/** What the second does for each degree, or mm, of the first. */
function ratioOf(v: Values, second: Frame): number {
  const [one, two] = wheelsOf(v)
  return meshOf(one, two).ratio(one, two, second)
}
