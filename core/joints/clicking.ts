import type { Ring, Scope, Solid } from '../kernel/index.ts'
import { turnedZ, world } from '../place/index.ts'
import type { DimensionLine, SpringFacts, SpringStuff } from '../shapes/index.ts'
import { barLine, type Captive, hole, holeLine, top } from './captive.ts'
import { gapField, upwardField } from './fields.ts'
import { closedOn, turned } from './turned.ts'
import { shown } from './words.ts'

/** A wheel that is held on a bar, and an arm beside it that bends out of the way of its rim. */
export interface Clicking extends Captive {
  readonly arm: number
  readonly thick: number
}

/** Plastic on plastic. */
export const friction = 0.3

/** The fields that all such wheels have, but for what is at their rim. */
export const clickingFields = {
  outside: {
    kind: 'length',
    label: 'Wheel diameter',
    default: '24',
    above: 0,
    most: 1000,
    meaning: 'Outside diameter of the wheel, at its rim.',
  },
  height: {
    kind: 'length',
    label: 'Wheel height',
    default: '6',
    above: 0,
    most: 500,
    meaning: 'Height of the wheel and of the arm beside it.',
  },
  bar: {
    kind: 'length',
    label: 'Bar diameter',
    default: '8',
    above: 0,
    most: 500,
    meaning: 'Diameter of the bar that the wheel turns on.',
  },
  hold: {
    kind: 'length',
    label: 'Held by',
    default: '1',
    above: 0,
    most: 50,
    meaning: 'How much wider the head of the bar is than the hole of the wheel, per side.',
    rare: true,
  },
  arm: {
    kind: 'length',
    label: 'Arm',
    default: '20',
    above: 0,
    most: 500,
    meaning: 'Length of the arm that bends, from its root to its tip.',
  },
  thick: {
    kind: 'length',
    label: 'Arm thickness',
    default: '1.2',
    above: 0,
    most: 50,
    meaning: 'Thickness of the arm, the way it bends.',
  },
  gap: gapField('the wheel, its bar and the arm'),
  upward: upwardField('the wheel and the arm and what they lie above'),
} as const

/** What such a wheel cannot be, with so much cut into its rim. */
export function clickingImpossible(v: Clicking, deep: number) {
  const least = 2 * (hole(v) + v.hold + deep)
  if (v.outside <= least)
    return {
      field: 'outside',
      detail: `The wheel has no wall left round the head of its bar: more than ⌀ ${shown(least)}.`,
    } as const
  if (v.height <= v.hold + v.gap)
    return {
      field: 'height',
      detail: `The wheel is lower than its bevel: make it higher than ${shown(v.hold + v.gap)}.`,
    } as const
  if (v.arm < 4 * v.thick)
    return {
      field: 'arm',
      detail: `Too short to bend: at least four times its thickness (${shown(4 * v.thick)}).`,
    } as const
  return undefined
}

/** The arm as a beam that is held at its root (Roark's Formulas for Stress and Strain, table of straight beams). */
export function armFacts(v: Clicking, lift: number, { stiffness }: SpringStuff): Omit<SpringFacts, 'more'> {
  const rate = (stiffness * v.height * v.thick ** 3) / (4 * v.arm ** 3)
  return { rate, per: 'mm', travel: lift, force: rate * lift, strain: (1.5 * v.thick * lift) / v.arm ** 2 }
}

/** The inner side of the arm is so far from the axis. */
export const armAt = (v: Clicking) => v.outside / 2 + v.gap

/** The block that the arm begins at: so wide, and so much deeper than the arm. */
const rootOf = (v: Clicking) => ({ wide: Math.max(4, 2 * v.thick), deep: Math.max(4, 2 * v.thick) })

/** Of what stands on the face. */
export function clickingBox(v: Clicking, past: number) {
  const { wide, deep } = rootOf(v)
  const r = v.outside / 2
  return {
    min: [Math.min(-r, -v.arm - wide), -r, 0],
    max: [Math.max(r, past), armAt(v) + Math.max(deep, v.thick), top(v)],
  } as const
}

/** Across its rim, and along its arm. */
export const clickingDimensions = (v: Clicking): DimensionLine[] => [
  {
    kind: 'linear',
    field: 'outside',
    from: [-v.outside / 2, 0, v.upward + v.height],
    to: [v.outside / 2, 0, v.upward + v.height],
    offset: [0, -1, 0],
  },
  {
    kind: 'linear',
    field: 'arm',
    from: [-v.arm, armAt(v) + v.thick, v.upward + v.height],
    to: [0, armAt(v) + v.thick, v.upward + v.height],
    offset: [0, 1, 0],
  },
]

/** Bar, root and arm with what is at its tip; and the wheel, of rings. The arm runs along x past the rim at y = `armAt`. */
export function clickingSolids(
  v: Clicking,
  { tip, rim, lift }: { readonly tip: readonly Ring[]; readonly rim: readonly Ring[]; readonly lift: number },
  { scope, fineness }: { readonly scope: Scope; readonly fineness: number },
) {
  const y = armAt(v)
  const { wide, deep } = rootOf(v)
  const high = v.upward + v.height
  const bar = turned(scope, closedOn(barLine(v, 0)), fineness)
  const root = scope.extrude([rectangle(-v.arm - wide, -v.arm, y, y + deep)], high)
  // A little into its root, so that they are one.
  const beam = rectangle(-v.arm - wide / 2, 0, y, y + v.thick)
  const arm = lifted(scope, scope.extrude(scope.filled([beam, ...tip]), v.height), v.upward)
  const bored = turned(scope, closedOn(holeLine(v)), fineness, true)
  const wheel = scope.difference(lifted(scope, scope.extrude(rim, v.height), v.upward), [bored])
  const round = turned(
    scope,
    closedOn([
      [v.outside / 2 + v.gap, 0],
      [v.outside / 2 + v.gap, high + v.gap],
    ]),
    fineness,
    true,
  )
  // Room for the arm to go back into.
  const back = y + v.thick + Math.max(v.thick, lift) + v.gap
  const swings = scope.extrude([rectangle(-v.arm, extent(tip), y, back)], high + v.gap)
  return {
    cuts: [[round, swings], [turned(scope, closedOn(barLine(v, v.gap)), fineness, true)]],
    adds: [[scope.union([bar, root, arm])], [wheel]],
  } as const
}

/** The arm with its tip: what bends out of the way. */
export function clickingBends(v: Clicking, reach: number, past: number, scope: Scope) {
  const y = armAt(v)
  const held = rectangle(-v.arm, past + 0.1, y - reach - 0.1, y + v.thick + 0.1)
  return [[lifted(scope, scope.extrude([held], v.height + v.upward), v.upward / 2)], []] as const
}

const extent = (rings: readonly Ring[]) => Math.max(0, ...rings.flatMap((ring) => ring.map(([x]) => x)))

/** What all such wheels are called by; what of the second is at its rim is told by `rim`. */
export function clickingAt(v: Clicking, side: 0 | 1, rim: (wide: number) => string) {
  const high = v.upward + v.height
  return ([x, y, z]: readonly [number, number, number], n: readonly [number, number, number]): string => {
    const wide = Math.hypot(x, y)
    const outward = wide > 0 ? (x * n[0] + y * n[1]) / wide : 0
    if (side === 0) {
      if (y > armAt(v) - 1e-3 || wide > v.outside / 2 - 1e-3 || (wide > hole(v) + v.hold + 1e-3 && z > 0)) {
        if (Math.abs(n[2]) > 0.99) return x < -v.arm ? 'root' : 'arm edge'
        return x < -v.arm - 1e-3 || (n[0] > 0.99 && Math.abs(x + v.arm) < 1e-3) ? 'root' : 'arm'
      }
      if (n[2] > 0.99) return 'top'
      return n[2] < -0.3 || wide > v.bar / 2 + 0.01 ? 'head' : 'bar'
    }
    if (n[2] < -0.99) return 'underside'
    if (n[2] > 0.99 && z > high - 1e-3) return 'upper side'
    if (wide < hole(v) + v.hold + 1e-3 && outward < 0) return Math.abs(n[2]) < 0.1 ? 'hole' : 'bevel'
    return rim(wide)
  }
}

export const clickingNames = [
  ['bar', 'head', 'top', 'root', 'arm', 'arm edge'],
  ['hole', 'bevel', 'underside', 'upper side'],
] as const

export function rectangle(x0: number, x1: number, y0: number, y1: number): Ring {
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ]
}

function lifted(scope: Scope, solid: Solid, z: number): Solid {
  return scope.placed(solid, { ...world, origin: [0, 0, z] })
}

/** A ring turned about the axis. */
export function turnedRing(ring: Ring, degrees: number): Ring {
  const { u, v } = turnedZ(degrees)
  return ring.map(([x, y]) => [x * u[0] + y * v[0], x * u[1] + y * v[1]] as const)
}
