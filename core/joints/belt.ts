import type { ValuesOf } from '../fields/index.ts'
import { type Frame, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint, type Judged } from './define.ts'
import { ownMotion, positionOf } from './mesh/turning.ts'
import { shown } from './words.ts'

const pulleys = ['ring', 'bar', 'hole', 'gear']

const fields = {
  first: {
    kind: 'step',
    label: 'First pulley',
    default: '',
    rather: pulleys,
    side: 0,
    meaning: 'The step of the first piece that the belt goes round, about its axis.',
  },
  second: {
    kind: 'step',
    label: 'Second pulley',
    default: '',
    rather: pulleys,
    side: 1,
    meaning: 'The step of the second piece that the belt goes round, about its axis.',
  },
  firstDiameter: {
    kind: 'length',
    label: 'First diameter',
    default: '20',
    above: 0,
    most: 1000,
    meaning: 'Diameter of the middle of the belt round the first pulley.',
  },
  secondDiameter: {
    kind: 'length',
    label: 'Second diameter',
    default: '40',
    above: 0,
    most: 1000,
    meaning: 'Diameter of the middle of the belt round the second pulley.',
  },
  run: {
    kind: 'choice',
    label: 'Belt',
    default: 'open',
    choices: { open: 'open', crossed: 'crossed' },
    meaning: 'Open: both turn the same way. Crossed: opposite ways.',
  },
} as const

type Values = ValuesOf<typeof fields>

/** A belt, a cord or a chain round two pulleys that the maker has built: it adds nothing, and turns them together. */
export const belt = defineJoint({
  kind: 'belt',
  label: 'belt',
  words: ['pulley belt', 'sprocket', 'chain drive', 'timing belt'],
  icon: 'M9 7 A5 5 0 1 0 9 17 M24 4 A8 8 0 0 1 24 20 M9 7 L24 4 M9 17 L24 20',
  fields,
  sentence: () => [
    'belt',
    ',',
    { field: 'run' },
    ', round',
    { field: 'first' },
    'at ⌀',
    { field: 'firstDiameter' },
    'and',
    { field: 'second' },
    'at ⌀',
    { field: 'secondDiameter' },
  ],
  box: () => ({ min: [0, 0, 0], max: [0, 0, 0] }),
  dimensions: () => [],
  surfaces: () => surfacesOf(plainSurfaces('belt')),
  solids: () => ({ cuts: [[], []], adds: [[], []] }),
  freedoms: () => [{ label: 'turning', unit: 'degrees', from: -360, to: 360, atRest: 0 }],
  motion: () => world,
  between: {
    steps: ({ first, second }) => [first.id, second.id],
    motions: (v, second, [at = 0]) => [ownMotion(round, world, at), ownMotion(round, second, at * ratioOf(v))],
    positions: (v, second, side, motion) => {
      const at = positionOf(round, side === 0 ? world : second, motion)
      return [side === 0 ? at : at / ratioOf(v)]
    },
    judged,
    puts: { label: 'Put the second beside the first', done: 'Both pulleys stand at one height, their axes parallel.' },
    settled: (_, second) => levelled(second),
  },
})

const round = { kind: 'outside' } as const

/** What the second does for each degree of the first. */
const ratioOf = ({ run, firstDiameter, secondDiameter }: Values) =>
  ((run === 'crossed' ? -1 : 1) * firstDiameter) / secondDiameter

/** Parallel to the first, and at its height. */
function levelled(second: Frame): Frame {
  const { origin, n, u } = second
  const at = [origin[0], origin[1], 0] as const
  if (isParallel(n)) return { ...second, origin: at }
  const way = n[2] < 0 ? -1 : 1
  const level = Math.hypot(u[0], u[1])
  const [x, y] = level > 1e-9 ? [u[0] / level, u[1] / level] : [1, 0]
  return { origin: at, u: [x, y, 0], v: [-way * y, way * x, 0], n: [0, 0, way] }
}

const isParallel = (n: Frame['n']) => Math.abs(n[2]) > 1 - 1e-9

/** The length of a belt over both: of an open one and of a crossed one, exactly. */
export function beltLength(distance: number, [d1, d2]: readonly [number, number], run: string): number {
  const [sum, crossed] = [run === 'crossed' ? d1 + d2 : d1 - d2, run === 'crossed']
  const lean = Math.asin(sum / 2 / distance)
  const straight = 2 * distance * Math.cos(lean)
  return crossed ? straight + (Math.PI / 2 + lean) * (d1 + d2) : straight + (Math.PI / 2) * (d1 + d2) + lean * (d1 - d2)
}

function judged(v: Values, second: Frame): Judged {
  if (!isParallel(second.n))
    return { facts: [], faults: [{ detail: 'Their axes must be parallel for a belt to run.', rank: 'fault' }] }
  const distance = Math.hypot(second.origin[0], second.origin[1])
  const both = [v.firstDiameter, v.secondDiameter] as const
  const least = (both[0] + both[1]) / 2
  if (distance <= least)
    return {
      facts: [],
      faults: [
        {
          detail: `Their axes are ${shown(distance)} mm apart: the belt's rounds would meet within ${shown(least)} mm.`,
          rank: 'fault',
        },
      ],
    }
  const aside = Math.abs(second.origin[2])
  return {
    facts: [
      { label: 'Ratio', text: `the second turns ${shown(Math.abs(ratioOf(v)))} times as far` },
      { label: 'Axes', text: `${shown(distance)} mm apart` },
      { label: 'Belt', text: `${shown(beltLength(distance, both, v.run))} mm long` },
    ],
    faults:
      aside > 0.01
        ? [
            {
              detail: `The second stands ${shown(aside)} mm higher or lower: the belt runs at an angle.`,
              rank: 'advice',
            },
          ]
        : [],
  }
}
