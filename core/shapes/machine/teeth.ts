import { acrossAxis, isoProfile, leastShift, type Teeth, tipRadius, toothSizes } from '../../gears/index.ts'
import { type Ring, type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { flatsInUse } from '../../plane/index.ts'
import { skinned } from '../drawn/skin.ts'

/** How the teeth of gears, rings and racks are given. */
export interface ToothValues {
  readonly teeth: number
  readonly sized: 'module' | 'diametral' | 'circular'
  readonly module: number
  readonly perInch: number
  readonly pitch: number
  readonly height: number
  readonly run: 'straight' | 'helical' | 'herringbone'
  readonly helix: number
  readonly hand: 'right' | 'left'
  readonly pressure: number
  readonly shift: number
  readonly play: number
  readonly root: number
  readonly tips: 'sharp' | 'rounded' | 'relieved'
  readonly tip: number
}

/** How many they are, and how large. */
export const toothCount = {
  teeth: { kind: 'count', label: 'Teeth', default: '24', least: 5, most: 400, meaning: 'Number of its teeth.' },
  sized: {
    kind: 'choice',
    label: 'Tooth size by',
    default: 'module',
    choices: { module: 'module', diametral: 'diametral pitch', circular: 'circular pitch' },
    meaning: 'What the size of its teeth is given by. Gears that run together have the same.',
  },
  module: {
    kind: 'length',
    label: 'Module',
    default: '1.5',
    above: 0,
    most: 100,
    meaning: 'Pitch diameter per tooth, measured across the teeth.',
  },
  perInch: {
    kind: 'ratio',
    label: 'Teeth per inch',
    default: '16',
    above: 0,
    most: 500,
    meaning: 'Teeth per inch of pitch diameter.',
  },
  pitch: {
    kind: 'length',
    label: 'Pitch',
    default: '5',
    above: 0,
    most: 300,
    meaning: 'From one tooth to the next along the pitch circle.',
  },
} as const

/** What is left between teeth that run in each other, of which `meaning` says where it is. */
export const playField = (meaning: string) =>
  ({
    kind: 'length',
    label: 'Play',
    default: '0.1',
    least: 0,
    most: 5,
    meaning: `${meaning}; a fit by name follows the printer.`,
  }) as const

/** Which way they run. */
export const toothRun = {
  run: {
    kind: 'choice',
    label: 'Teeth run',
    default: 'straight',
    choices: { straight: 'straight', helical: 'at an angle', herringbone: 'as a herringbone' },
    meaning: 'Along the axis, on a helix, or on one and back again.',
  },
  helix: {
    kind: 'angle',
    label: 'Helix angle',
    default: '20',
    least: 1,
    most: 45,
    meaning: 'Angle of the teeth to the axis, on the pitch circle.',
  },
  hand: {
    kind: 'choice',
    label: 'Hand',
    default: 'right',
    choices: { right: 'right-hand', left: 'left-hand' },
    meaning: 'Which way the teeth turn as they rise; gears on parallel axes have opposite hands.',
  },
} as const

/** What is rarely anything but usual. */
export const toothForm = {
  pressure: {
    kind: 'angle',
    label: 'Pressure angle',
    default: '20',
    least: 10,
    most: 35,
    meaning: 'How far the flanks lean, on the pitch circle. Gears that run together have the same.',
    rare: true,
  },
  shift: {
    kind: 'ratio',
    label: 'Profile shift',
    default: '0',
    least: -1,
    most: 1.5,
    meaning: 'How far the teeth are moved outward, in modules: small gears get stronger, and are not undercut.',
    rare: true,
  },
  root: {
    kind: 'ratio',
    label: 'Round at the roots',
    default: '0.38',
    least: 0,
    most: 0.5,
    meaning: 'Tip radius of the cutter that leaves the roots, in modules; at most what fits between the flanks.',
    rare: true,
  },
  tips: {
    kind: 'choice',
    label: 'Tips',
    default: 'sharp',
    choices: { sharp: 'sharp', rounded: 'rounded', relieved: 'relieved' },
    meaning:
      'As cut; with rounded corners; or with tip relief: the flanks stand back a little near the tip, so that teeth meet softly.',
    rare: true,
  },
  tip: {
    kind: 'length',
    label: 'Round or relief of the tips',
    default: '0.2',
    above: 0,
    most: 10,
    meaning: 'Radius of the corners, or how far the flanks stand back at the tip.',
    rare: true,
  },
} as const

const inch = 25.4

/** mm */
export function moduleOf({
  sized,
  module,
  perInch,
  pitch,
}: Pick<ToothValues, 'sized' | 'module' | 'perInch' | 'pitch'>): number {
  return sized === 'module' ? module : sized === 'diametral' ? inch / perInch : pitch / Math.PI
}

/** In the section across the axis. */
export function teethOf(v: ToothValues): Teeth {
  const { teeth: count, pressure, shift, play: thinner, tips, tip } = v
  const helix = v.run === 'straight' ? 0 : v.helix
  const teeth = acrossAxis({
    count,
    module: moduleOf(v),
    pressure,
    helix,
    shift,
    thinner,
    ...isoProfile,
    fillet: v.root,
  })
  if (tips === 'rounded') return { ...teeth, round: tip }
  if (tips === 'relieved')
    return { ...teeth, relief: { amount: tip, from: toothSizes(teeth).tip - 0.8 * teeth.addendum } }
  return teeth
}

export const sizedBy = (v: Pick<ToothValues, 'sized'>) =>
  [
    { field: 'sized' },
    { field: ({ module: 'module', diametral: 'perInch', circular: 'pitch' } as const)[v.sized] },
  ] as const

/** What is engraved on wheels: how many teeth, and how large. */
export function toothWords({ teeth, sized, module, perInch, pitch }: ToothValues): string {
  const short = (x: number) => `${Number(x.toFixed(3))}`
  const size = { module: `M${short(module)}`, diametral: `DP${short(perInch)}`, circular: `CP${short(pitch)}` }[sized]
  return `${teeth}T ${size}`
}

export const runningAs = (v: ToothValues) => [
  ', teeth',
  { field: 'run' },
  ...(v.run === 'straight' ? [] : ['at', { field: 'helix' }, { field: 'hand' }]),
]

export const endingAs = (v: ToothValues) => [
  ', tips',
  { field: 'tips' },
  ...(v.tips === 'sharp' ? [] : ['by', { field: 'tip' }]),
]

/** Rounded up, so that it does what it says. */
export function shiftText(teeth: Teeth): number {
  return Math.ceil((leastShift(teeth) / teeth.module) * 100) / 100
}

/** Of each tooth, from the middle of the space before it to that of the space behind it: counted from the right, counter-clockwise. */
export function toothName(i: number, count = Number.POSITIVE_INFINITY): string {
  return `tooth ${(count === Number.POSITIVE_INFINITY ? i : ((i % count) + count) % count) + 1}`
}

/** Which tooth a point is of, about the z axis: asked of each triangle, so that what all share is worked out once. */
export function toothFinder(v: ToothValues): (point: Vec3) => string {
  const [twist, pitch] = [twistOf(v), (2 * Math.PI) / v.teeth]
  const names = Array.from({ length: v.teeth }, (_, i) => toothName(i))
  return ([x, y, z]) => {
    const i = Math.round((Math.atan2(y, x) - twist * shareAt(v, z)) / pitch) % v.teeth
    return names[i < 0 ? i + v.teeth : i]!
  }
}

/** How far a section is turned, rad. */
export function turnAt(v: ToothValues, z: number): number {
  return twistOf(v) * shareAt(v, z)
}

/** The share of their whole way that teeth have gone at a height. */
export function shareAt({ run, height }: ToothValues, z: number): number {
  return run === 'herringbone' ? 1 - Math.abs(1 - (2 * z) / height) : z / height
}

/** How far the teeth go round from the lower face to the upper one, or to the middle of a herringbone, mm on the pitch circle. */
export function wayOf(v: ToothValues): number {
  if (v.run === 'straight') return 0
  const long = v.run === 'herringbone' ? v.height / 2 : v.height
  const way = long * Math.tan((v.helix * Math.PI) / 180)
  return v.hand === 'right' ? way : -way
}

/** The same as a turn, rad. */
export function twistOf(v: ToothValues): number {
  return v.run === 'straight' ? 0 : wayOf(v) / toothSizes(teethOf(v)).pitch
}

/** A ring that turns as the teeth do, from the lower face to the upper one. */
export function twisted(scope: Scope, v: ToothValues, ring: Ring, fineness: number): Solid {
  const turn = twistOf(v)
  const far = tipRadius(teethOf(v))
  const steps = flatsInUse((segmentsFor(far, fineness) * Math.abs(turn)) / (2 * Math.PI))
  if (v.run !== 'herringbone') return scope.helical([ring], v.height, steps, turn)
  // It turns back from its middle, where a section has to lie.
  return scope.twisted([ring], v.height, 2 * steps, (share) => turn * shareAt(v, share * v.height))
}

/** A section that changes along the teeth, in so many steps up, or up and back. */
export function alongTeeth(
  scope: Scope,
  v: ToothValues,
  section: (share: number) => Ring,
  steps: number,
  fineness: number,
): Solid {
  const count = v.run === 'herringbone' ? 2 * steps : steps
  const sections = Array.from({ length: count + 1 }, (_, k) => {
    const z = (v.height * k) / count
    return section(shareAt(v, z)).map(([x, y]): Vec3 => [x, y, z])
  })
  return skinned(scope, {
    flat: [section(0)],
    lastFlat: [section(v.run === 'herringbone' ? 0 : 1)],
    sections,
    fineness,
  })
}
