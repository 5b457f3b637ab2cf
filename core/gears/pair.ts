import { innerRadius, outerRadius } from './internal.ts'
import { inv, inverseInv } from './involute.ts'
import { flankEnd, tipRadius } from './profile.ts'
import { rootOf } from './root.ts'
import { basePitch, type Teeth, toothSizes } from './teeth.ts'

/** Two gears that run together on parallel axes; both of one module and pressure angle across the axis. */
export interface GearPair {
  /** mm */
  readonly distance: number
  /** between the line of action and the pitch line, rad */
  readonly pressure: number
  /** turns of the first for one of the second */
  readonly ratio: number
  /** how many pairs of teeth touch on the average, in the section across the axis */
  readonly contact: number
  /** the play along the pitch circles that they run on, mm */
  readonly backlash: number
  /** what is left between the tip of each and the root of the other, mm */
  readonly clearance: readonly [number, number]
  /** whether the tip of the first, or of the second, reaches below the flank of the other */
  readonly interferes: readonly [boolean, boolean]
  /** whether each tooth meets each of the other before it meets one again */
  readonly hunting: boolean
}

/** The distance at which they run without play but for what their teeth are thinner by (ISO 21771, 5.3). @throws Error where they cannot */
export function closeDistance(one: Teeth, two: Teeth): number {
  const { pressure } = toothSizes(one)
  const tan = Math.tan(pressure)
  const teeth = one.count + two.count
  const sum = (2 * (one.shift + two.shift) * tan) / (one.module * teeth)
  const working = inverseInv(inv(pressure) + sum)
  return (((one.module * teeth) / 2) * Math.cos(pressure)) / Math.cos(working)
}

/** How two gears run at a distance, mm. @throws Error below that at which their base circles touch */
export function pairAt(one: Teeth, two: Teeth, distance: number): GearPair {
  const [a, b] = [toothSizes({ ...one, relief: undefined }), toothSizes({ ...two, relief: undefined })]
  const cosine = (a.base + b.base) / distance
  if (!(cosine < 1)) throw new Error('their base circles meet at this distance')
  const pressure = Math.acos(cosine)
  const [tipA, tipB] = [tipRadius(one), tipRadius(two)]
  // Along the line of action, from the point where it touches each base circle to where the other's tip reaches.
  const along = distance * Math.sin(pressure)
  const [reachA, reachB] = [Math.sqrt(tipA ** 2 - a.base ** 2), Math.sqrt(tipB ** 2 - b.base ** 2)]
  const contact = (reachA + reachB - along) / basePitch(one)
  const [runA, runB] = [a.base / Math.cos(pressure), b.base / Math.cos(pressure)]
  const thick = (gear: typeof a, run: number) => 2 * run * gear.halfAngle(run)
  const backlash = (2 * Math.PI * runA) / one.count - thick(a, runA) - thick(b, runB)
  const lowest = (reach: number, base: number) => (along - reach < 0 ? 0 : Math.hypot(base, along - reach))
  return {
    ...{ distance, pressure, ratio: two.count / one.count, contact, backlash },
    clearance: [distance - tipA - b.root, distance - tipB - a.root],
    interferes: [lowest(reachA, b.base) < rootOf(two).form - 1e-9, lowest(reachB, a.base) < rootOf(one).form - 1e-9],
    hunting: divisor(one.count, two.count) === 1,
  }
}

/** The distance at which a gear runs in an opening without play but for what is thinner (ISO 21771, 5.3, with an internal gear). @throws Error where it cannot */
export function closeInside(gear: Teeth, opening: Teeth): number {
  const { pressure } = toothSizes(gear)
  const more = opening.count - gear.count
  if (more <= 0) throw new Error('the ring must have more teeth')
  const working = inverseInv(
    inv(pressure) + (2 * (opening.shift - gear.shift) * Math.tan(pressure)) / (gear.module * more),
  )
  return (((gear.module * more) / 2) * Math.cos(pressure)) / Math.cos(working)
}

/** How a gear runs in an opening at a distance of their axes, mm. @throws Error below that at which they could touch */
export function insideAt(gear: Teeth, opening: Teeth, distance: number): GearPair {
  const [a, b] = [toothSizes({ ...gear, relief: undefined }), toothSizes(opening)]
  const cosine = (b.base - a.base) / distance
  if (!(b.base > a.base && cosine < 1)) throw new Error('their base circles meet at this distance')
  const pressure = Math.acos(cosine)
  const along = distance * Math.sin(pressure)
  const inner = innerRadius(opening)
  const tip = tipRadius(gear)
  const reach = Math.sqrt(tip ** 2 - a.base ** 2)
  const nearest = Math.sqrt(inner ** 2 - b.base ** 2)
  const run = a.base / Math.cos(pressure)
  const backlash =
    2 * (b.base / Math.cos(pressure)) * b.halfAngle(b.base / Math.cos(pressure)) - 2 * run * a.halfAngle(run)
  const lowest = nearest - along < 0 ? 0 : Math.hypot(a.base, nearest - along)
  return {
    ...{
      distance,
      pressure,
      ratio: opening.count / gear.count,
      contact: (reach - nearest + along) / basePitch(gear),
      backlash,
    },
    clearance: [outerRadius(opening) - distance - tip, inner - distance - a.root],
    // The tip of the gear may reach out past where the flanks of the ring end in their round.
    interferes: [Math.hypot(b.base, reach + along) > flankEnd(opening) + 1e-9, lowest < rootOf(gear).form - 1e-9],
    hunting: divisor(gear.count, opening.count) === 1,
  }
}

/** How many teeth more touch at once because they lean, over the width that both have (ISO 21771, 5.5.3); `module` across the axis. */
export function overlapOf(
  widths: readonly [number, number],
  { helix, module, run }: { readonly helix: number; readonly module: number; readonly run: string },
): number {
  if (run === 'straight') return 0
  const width = Math.min(...widths) / (run === 'herringbone' ? 2 : 1)
  return (width * Math.tan((helix * Math.PI) / 180)) / (Math.PI * module)
}

function divisor(a: number, b: number): number {
  return b === 0 ? a : divisor(b, a % b)
}
