import { circumradius, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { type Frame, turnedAbout } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { gapField } from './fields.ts'

interface Values {
  readonly length: number
  readonly knuckle: number
  readonly pin: number
  readonly count: number
  readonly leaf: number
  readonly gap: number
  readonly travel: number
}

/**
 * Two leaves turning about a pin that is printed in place. The axis runs along y at half the knuckle's height; the first
 * piece lies at x < 0 and carries the outer knuckles and the pin, the second one at x > 0 has the bored ones between.
 *
 *      y
 *      ^   A ─┤▓▓▓├        knuckles alternate along the axis, one gap apart;
 *      |      ├░░░┤─ B     the pin (ø pin) is one with A's,
 *      |   A ─┤▓▓▓├        B's are bored to ø pin + 2 gap.
 *                          Leaves begin at x = ±(knuckle / 2 + gap).
 */
export const pinHinge = defineJoint({
  kind: 'pin-hinge',
  label: 'pin hinge',
  icon: 'M3 15 H13 M19 15 H29 M13 9 H19 V21 H13 Z M16 5 V24',
  fields: {
    length: {
      kind: 'length',
      label: 'Length',
      default: '40',
      above: 0,
      most: 1000,
      meaning: 'Length of all knuckles along the pin.',
    },
    count: {
      kind: 'count',
      label: 'Knuckles',
      default: '5',
      least: 3,
      most: 31,
      meaning: 'Number of knuckles; odd, so that both ends belong to the first piece.',
    },
    knuckle: {
      kind: 'length',
      label: 'Knuckle diameter',
      default: '9',
      above: 0,
      most: 200,
      meaning: 'Outside diameter of the knuckles.',
    },
    pin: { kind: 'length', label: 'Pin diameter', default: '4', above: 0, most: 180, meaning: 'Diameter of the pin.' },
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
  },
  sentence: () => [
    'pin hinge',
    { field: 'length' },
    'long with',
    { field: 'count' },
    'knuckles ⌀',
    { field: 'knuckle' },
    'on a pin ⌀',
    { field: 'pin' },
    ', gap',
    { field: 'gap' },
    'per side, joining leaves',
    { field: 'leaf' },
    'thick, folding',
    { field: 'travel' },
  ],
  impossible(v) {
    if (v.count % 2 === 0)
      return { field: 'count', detail: 'The number of knuckles must be odd, so that the pin is held at both ends.' }
    if (knuckleWidth(v) < 1)
      return { field: 'count', detail: 'The knuckles would be thinner than 1 mm; use fewer, or a longer hinge.' }
    if (v.pin / 2 + v.gap >= v.knuckle / 2)
      return { field: 'pin', detail: 'The pin and its gap leave nothing of the knuckle round it.' }
    if (v.leaf > v.knuckle) return { field: 'leaf', detail: 'The leaves cannot be thicker than the knuckles are wide.' }
    return undefined
  },
  box: (v) => ({ min: [-v.knuckle / 2, -v.length / 2, 0], max: [v.knuckle / 2, v.length / 2, v.knuckle] }),
  dimensions: (v) => {
    const [r, y] = [v.knuckle / 2, v.length / 2]
    return [
      { kind: 'linear', field: 'length', from: [r, -y, r], to: [r, y, r], offset: [1, 0, 0] },
      { kind: 'linear', field: 'knuckle', from: [r, -y, 0], to: [r, -y, v.knuckle], offset: [0, -1, 0] },
    ]
  },
  surfaces: (v) => {
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
  freedoms: (v) => [{ label: 'folding', unit: 'degrees', from: 0, to: v.travel, printed: 0, told: { to: 'travel' } }],
  motion: (v, [folded = 0]): Frame => turnedAbout([0, 0, v.knuckle / 2], [0, -1, 0], folded),
  solids(v, { scope, fineness }) {
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
      const bored =
        mine === 1
          ? scope.difference(body, [round(scope, v, v.pin / 2 + v.gap, start(i) - 1, width + 2, fineness, true)])
          : body
      adds[mine].push(bored)
      // The other leaf keeps a gap round this knuckle and beside it; a leaf that ends at the gap loses nothing.
      cuts[mine === 0 ? 1 : 0].push(
        round(scope, v, v.knuckle / 2 + v.gap, start(i) - v.gap, width + 2 * v.gap, fineness, true),
      )
    }
    adds[0].push(round(scope, v, v.pin / 2, -v.length / 2, v.length, fineness, false))
    return { cuts, adds: [[scope.union(adds[0])], [scope.union(adds[1])]] }
  },
})

function knuckleWidth(v: Values): number {
  return (v.length - (v.count - 1) * v.gap) / v.count
}

/** A round about the axis from y = `from`; circumscribed where it makes room. */
function round(
  scope: Scope,
  v: Values,
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
function arm(scope: Scope, v: Values, owner: 0 | 1, from: number, width: number): Solid {
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
