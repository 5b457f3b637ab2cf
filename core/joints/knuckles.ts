import { circumradius, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import type { Freedom } from '../mechanism/index.ts'
import { type Box, type Frame, turnedAbout } from '../place/index.ts'
import { type DimensionLine, plainSurfaces, surfacesOf } from '../shapes/index.ts'
import type { JointSolids } from './define.ts'
import { gapField } from './fields.ts'

/** Knuckles about a pin: what hinges are made of. */
export interface Knuckles {
  readonly length: number
  readonly knuckle: number
  readonly pin: number
  readonly made: string
  readonly seat: number
  readonly count: number
  readonly leaf: number
  readonly gap: number
  readonly travel: number
}

/** The fields that hinges have beside how many knuckles there are. */
export const knuckleFields = {
  length: {
    kind: 'length',
    label: 'Length',
    default: '40',
    above: 0,
    most: 1000,
    meaning: 'Length of all knuckles along the pin.',
  },
  knuckle: {
    kind: 'length',
    label: 'Knuckle diameter',
    default: '9',
    above: 0,
    most: 200,
    meaning: 'Outside diameter of the knuckles.',
  },
  made: {
    kind: 'choice',
    label: 'Pin',
    default: 'printed',
    choices: { printed: 'printed', separate: 'separate' },
    meaning: 'A pin that is printed in place, or one of metal that is pushed in.',
    rare: true,
  },
  pin: { kind: 'length', label: 'Pin diameter', default: '4', above: 0, most: 180, meaning: 'Diameter of the pin.' },
  seat: {
    kind: 'length',
    label: 'Room of the pin',
    default: 'press',
    least: 0,
    most: 5,
    meaning: 'Gap between a separate pin and the outer knuckles that hold it, per side.',
    rare: true,
  },
  leaf: {
    kind: 'length',
    label: 'Leaf thickness',
    default: '4',
    above: 0,
    most: 100,
    meaning: 'Thickness of the leaves where they meet the knuckles.',
  },
  gap: gapField('everything that moves'),
  travel: {
    kind: 'angle',
    label: 'Travel',
    default: '180',
    above: 0,
    most: 270,
    meaning: 'How far the second piece folds up from flat.',
  },
} as const

/** What a hinge reads as after its length and its knuckles. */
export const knuckleWords = ({ made }: Pick<Knuckles, 'made'>) =>
  [
    'on a',
    { field: 'made' },
    'pin ⌀',
    { field: 'pin' },
    ...(made === 'separate' ? ([', held with', { field: 'seat' }, 'of room'] as const) : []),
    ', gap',
    { field: 'gap' },
    'per side, joining leaves',
    { field: 'leaf' },
    'thick, folding',
    { field: 'travel' },
  ] as const

/** What hinges cannot be, however many knuckles they have. */
export function knucklesImpossible(v: Knuckles) {
  if (v.pin / 2 + Math.max(v.gap, v.made === 'separate' ? v.seat : 0) >= v.knuckle / 2)
    return { field: 'pin', detail: 'The pin and its gap leave nothing of the knuckle round it.' } as const
  if (v.leaf > v.knuckle)
    return { field: 'leaf', detail: 'The leaves cannot be thicker than the knuckles are wide.' } as const
  return undefined
}

type Leaves = Omit<Knuckles, 'count'>

/** What a hinge is, of knuckles that alternate along its pin, one gap apart. */
export const knuckled = {
  comesApart: ({ made = 'printed' }: Readonly<Record<string, string>>) => made === 'separate',
  box: (v: Leaves): Box => ({ min: [-v.knuckle / 2, -v.length / 2, 0], max: [v.knuckle / 2, v.length / 2, v.knuckle] }),
  dimensions: (v: Leaves): DimensionLine[] => {
    const [r, y] = [v.knuckle / 2, v.length / 2]
    return [
      { kind: 'linear', field: 'length', from: [r, -y, r], to: [r, y, r], offset: [1, 0, 0] },
      { kind: 'linear', field: 'knuckle', from: [r, -y, 0], to: [r, -y, v.knuckle], offset: [0, -1, 0] },
    ]
  },
  surfaces: (v: Leaves) => {
    const radii = { knuckle: v.knuckle / 2, pin: v.pin / 2, bore: v.pin / 2 + v.gap, room: v.knuckle / 2 + v.gap }
    return surfacesOf(plainSurfaces('arm', 'knuckle end', ...Object.keys(radii)), {
      at([x, , z], n) {
        if (Math.abs(n[1]) > 0.999) return 'knuckle end'
        const up = z - v.knuckle / 2
        const r = Math.hypot(x, up)
        // What looks away from the axis, or to it, is the round that lies nearest; all else is flat.
        if (Math.abs(x * n[0] + up * n[2]) < 0.999 * r) return 'arm'
        const [name, radius] = Object.entries(radii).reduce((best, each) =>
          Math.abs(each[1] - r) < Math.abs(best[1] - r) ? each : best,
        )
        return Math.abs(radius - r) < 0.1 * radius ? name : 'arm'
      },
    })
  },
  freedoms: (v: Leaves): Freedom[] => [
    { label: 'folding', unit: 'degrees', from: 0, to: v.travel, printed: 0, told: { to: 'travel' } },
  ],
  motion: (v: Leaves, [folded = 0]: readonly number[]): Frame => turnedAbout([0, 0, v.knuckle / 2], [0, -1, 0], folded),
  solids(v: Knuckles, { scope, fineness }: { readonly scope: Scope; readonly fineness: number }): JointSolids {
    const width = knuckleWidth(v)
    const start = (i: number) => -v.length / 2 + i * (width + v.gap)
    const owner = (i: number): 0 | 1 => (i % 2 === 0 ? 0 : 1)
    const cuts: [Solid[], Solid[]] = [[], []]
    const adds: [Solid[], Solid[]] = [[], []]
    for (let i = 0; i < v.count; i++) {
      const mine = owner(i)
      const body = scope.union([
        round(scope, v, v.knuckle / 2, start(i), width, fineness, false),
        arm(scope, v, mine, start(i), width),
      ])
      const bore = mine === 1 ? v.gap : v.made === 'separate' ? v.seat : undefined
      const bored =
        bore === undefined
          ? body
          : scope.difference(body, [round(scope, v, v.pin / 2 + bore, start(i) - 1, width + 2, fineness, true)])
      adds[mine].push(bored)
      // The other leaf keeps a gap round this knuckle and beside it; a leaf that ends at the gap loses nothing.
      cuts[mine === 0 ? 1 : 0].push(
        round(scope, v, v.knuckle / 2 + v.gap, start(i) - v.gap, width + 2 * v.gap, fineness, true),
      )
    }
    if (v.made === 'printed') adds[0].push(round(scope, v, v.pin / 2, -v.length / 2, v.length, fineness, false))
    return { cuts, adds: [[scope.union(adds[0])], [scope.union(adds[1])]] }
  },
}

/** Of each knuckle along the pin. */
export function knuckleWidth(v: Knuckles): number {
  return (v.length - (v.count - 1) * v.gap) / v.count
}

/** A round about the axis from y = `from`; circumscribed where it makes room. */
function round(
  scope: Scope,
  v: Knuckles,
  radius: number,
  from: number,
  length: number,
  fineness: number,
  room: boolean,
): Solid {
  const segments = segmentsFor(radius, fineness, room)
  const bar = scope.cylinder(
    length,
    room ? circumradius(radius, segments) : radius,
    room ? circumradius(radius, segments) : radius,
    segments,
  )
  return scope.placed(bar, { origin: [0, from, v.knuckle / 2], u: [0, 0, 1], v: [1, 0, 0], n: [0, 1, 0] })
}

/** From the axis into its leaf, 1 mm past the leaf's edge so that they are one. */
function arm(scope: Scope, v: Knuckles, owner: 0 | 1, from: number, width: number): Solid {
  const far = v.knuckle / 2 + v.gap + 1
  const [x0, x1] = owner === 0 ? [-far, 0] : [0, far]
  const ring = [
    [x0, from],
    [x1, from],
    [x1, from + width],
    [x0, from + width],
  ] as const
  return scope.extrude([ring], v.leaf)
}
