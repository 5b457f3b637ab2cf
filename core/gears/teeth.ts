import { inv, inverseInv, pressureAt } from './involute.ts'

/**
 * The teeth of a gear in the section across its axis: what a rack-shaped cutter leaves that rolls on the pitch circle. All
 * lengths in mm, `pressure` in degrees.
 */
export interface Teeth {
  readonly count: number
  /** pitch diameter by number of teeth, across the axis */
  readonly module: number
  /** of the cutter's flanks, across the axis */
  readonly pressure: number
  /** how far the cutter is drawn out from the pitch circle */
  readonly shift: number
  /** tip of the teeth above the cutter's middle line, and how far the cutter reaches below that */
  readonly addendum: number
  readonly dedendum: number
  /** of the cutter's tip */
  readonly fillet: number
  /** how much thinner each tooth is along the pitch circle */
  readonly thinner: number
  /** the corners at the tip are rounded by so much */
  readonly round?: number
  /** flanks stand back by so much at the tip, from `from` up (a radius), so that teeth meet softly */
  readonly relief?: { readonly amount: number; readonly from: number } | undefined
}

/** What a maker gives: sizes across the teeth (normal to them) in units of the module, where teeth may run aslant. */
export interface GearSizes {
  readonly count: number
  /** mm */
  readonly module: number
  /** degrees */
  readonly pressure: number
  /** of the teeth to the axis, degrees; its sign does not matter here */
  readonly helix: number
  /** of the profile, in modules */
  readonly shift: number
  /** in modules: 1, 1.25 and 0.38 by ISO 53 profile A */
  readonly addendum: number
  readonly dedendum: number
  readonly fillet: number
  /** mm along the pitch circle */
  readonly thinner: number
}

export const isoProfile = { addendum: 1, dedendum: 1.25, fillet: 0.38 } as const

const radians = (degrees: number) => (degrees * Math.PI) / 180
const degrees = (rad: number) => (rad * 180) / Math.PI

/**
 * The section across the axis (ISO 21771, 4.3.2). The cutter's round is an ellipse there; the circle that takes its place ends
 * the straight flank at the same depth.
 */
export function acrossAxis(sizes: GearSizes): Teeth {
  const { count, module, helix, shift, thinner } = sizes
  const cosine = Math.cos(radians(helix))
  const normal = radians(sizes.pressure)
  const pressure = Math.atan(Math.tan(normal) / cosine)
  return {
    count,
    module: module / cosine,
    pressure: degrees(pressure),
    shift: shift * module,
    addendum: sizes.addendum * module,
    dedendum: sizes.dedendum * module,
    fillet: (sizes.fillet * module * (1 - Math.sin(normal))) / (1 - Math.sin(pressure)),
    thinner,
  }
}

/** Radii and angles of a gear's teeth. */
export interface ToothSizes {
  /** of the pitch, base, tip and root circles */
  readonly pitch: number
  readonly base: number
  readonly tip: number
  readonly root: number
  /** rad */
  readonly pressure: number
  /** of a tooth along the pitch circle */
  readonly thickness: number
  /** half of a tooth at a radius, seen from the axis, rad; below 0 past the point that both flanks meet in */
  halfAngle(radius: number): number
}

/** ISO 21771, 4.2 to 4.6. */
export function toothSizes(teeth: Teeth): ToothSizes {
  const { count, module, shift, addendum, dedendum, thinner, relief } = teeth
  const pressure = radians(teeth.pressure)
  const pitch = (count * module) / 2
  const base = pitch * Math.cos(pressure)
  const tip = pitch + addendum + shift
  const thickness = (Math.PI * module) / 2 + 2 * shift * Math.tan(pressure) - thinner
  const middle = thickness / (2 * pitch) + inv(pressure)
  return {
    ...{ pitch, base, tip, root: pitch - dedendum + shift, pressure, thickness },
    halfAngle(radius) {
      const back = relief && radius > relief.from ? (relief.amount * (radius - relief.from)) / (tip - relief.from) : 0
      return middle - inv(pressureAt(base, radius)) - back / base
    },
  }
}

/** The radius that both flanks of a tooth meet at, where its halves come to nothing. */
export function pointedAt(teeth: Teeth): number {
  const { base, halfAngle } = toothSizes({ ...teeth, relief: undefined })
  const atBase = halfAngle(base)
  return atBase <= 0 ? base : base / Math.cos(inverseInv(atBase))
}

/** The least profile shift, mm, at which the cutter does not eat into the flanks that it made (ISO 21771, 4.8). */
export function leastShift({ count, module, pressure, dedendum, fillet }: Teeth): number {
  const alpha = radians(pressure)
  const straight = dedendum - fillet * (1 - Math.sin(alpha))
  return straight - ((count * module) / 2) * Math.sin(alpha) ** 2
}

/** How many teeth a calliper best spans, so that it touches them near their middle. */
export function teethSpanned(teeth: Teeth): number {
  const { pitch, base } = toothSizes(teeth)
  const at = Math.acos(Math.min(1, base / (pitch + teeth.shift)))
  const best = (teeth.count / Math.PI) * (Math.tan(at) - inv(radians(teeth.pressure))) + 0.5
  return Math.max(
    1,
    Math.min(
      teeth.count - 1,
      Math.round(best - (2 * teeth.shift * Math.tan(radians(teeth.pressure))) / (Math.PI * teeth.module)),
    ),
  )
}

/**
 * What a calliper reads over `k` teeth of a straight gear, mm: along the base circle, k − 1 base pitches and one tooth (DIN 3960).
 */
export function spanOver(teeth: Teeth, k: number): number {
  const { base, halfAngle } = toothSizes({ ...teeth, relief: undefined })
  return (k - 1) * basePitch(teeth) + 2 * base * halfAngle(base)
}

/** From one flank to the next along their common normal, mm. */
export function basePitch({ module, pressure }: Teeth): number {
  return Math.PI * module * Math.cos(radians(pressure))
}

/** Over two pins of a diameter that lie in opposite spaces of a straight gear, mm (DIN 3960). @throws Error where a pin is too thin to rest on the flanks */
export function overPins(teeth: Teeth, pin: number): number {
  const { base, halfAngle } = toothSizes({ ...teeth, relief: undefined })
  const space = Math.PI / teeth.count - halfAngle(base)
  const away = inverseInv(pin / (2 * base) - space)
  const middle = base / Math.cos(away)
  const across = teeth.count % 2 === 0 ? 2 * middle : 2 * middle * Math.cos(Math.PI / (2 * teeth.count))
  return across + pin
}
