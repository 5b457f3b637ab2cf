import { bevelContact, bevelSizes } from '../../gears/index.ts'
import {
  add,
  compose,
  cross,
  dot,
  type Frame,
  norm,
  scaled,
  subtract,
  turnedAbout,
  type Vec3,
} from '../../place/index.ts'
import type { Judged } from '../define.ts'
import { type Mesh, near, rad, shown, type Wheel } from './wheels.ts'

/** Two bevel gears, whose axes meet in the apex of both. */
export const bevels: Mesh = { impossible, ratio, judged, settled }

/** Axes that are so near to the angle that teeth were made for are at it, degrees. */
const nearAngle = 0.01
const own: Vec3 = [0, 0, 1]

function impossible(one: Wheel, two: Wheel): { field: 'first' | 'second'; detail: string } | undefined {
  const [a, b] = [one.cone?.bevel, two.cone?.bevel]
  const field = a ? 'second' : 'first'
  if (!a || !b) return { field, detail: 'A bevel gear runs with another one only.' }
  if (Math.abs((a.module * Math.cos(rad(a.pressure))) / (b.module * Math.cos(rad(b.pressure))) - 1) > 1e-6)
    return {
      field,
      detail: `Modules don’t match: ${shown(a.module)} at ${shown(a.pressure)}°, and ${shown(b.module)} at ${shown(b.pressure)}°.`,
    }
  if (a.mate !== b.count || b.mate !== a.count)
    return {
      field,
      detail: `They are not made for each other: one with ${a.count} teeth for ${a.mate}, the other with ${b.count} for ${b.mate}.`,
    }
  if (Math.abs(a.axes - b.axes) > nearAngle)
    return { field, detail: `They are made for axes at ${shown(a.axes)}°, and at ${shown(b.axes)}°.` }
  return undefined
}

/** Where the axis of the other one lies, seen along the axis of each: from its own axis to where they meet, unit. */
function outward(second: Frame): readonly [Vec3, Vec3] | undefined {
  const { n } = second
  const between = (axis: Vec3, other: Vec3) => subtract(scaled(axis, dot(axis, other)), other)
  const [a, b] = [between(own, n), between(n, own)]
  const sine = norm(a)
  return sine < 1e-6 ? undefined : [scaled(a, 1 / sine), scaled(b, 1 / sine)]
}

function ratio({ teeth: a }: Wheel, { teeth: b }: Wheel, second: Frame): number {
  const out = outward(second)
  if (!out) return 0
  const [one, two] = [cross(own, out[0]), cross(second.n, out[1])]
  return (a.count / b.count) * Math.sign(dot(one, two))
}

function judged(one: Wheel, two: Wheel, second: Frame): Judged {
  const [a, b] = [one.cone!, two.cone!]
  const angle = (Math.acos(Math.max(-1, Math.min(1, second.n[2]))) * 180) / Math.PI
  const apart = norm(subtract(apexOfSecond(two, second), scaled(own, a.apex)))
  const isRight = apart <= 2 * near
  const faults: { detail: string; rank: 'fault' | 'warning' | 'advice' }[] = []
  if (Math.abs(angle - a.bevel.axes) > nearAngle)
    faults.push({
      detail: `Their axes cross at ${shown(angle)}°; their teeth are made for ${shown(a.bevel.axes)}°. Tilt one of them.`,
      rank: 'fault',
    })
  else if (!isRight)
    faults.push({
      detail: `The points of their cones are ${shown(apart)} mm apart; they belong together.`,
      rank: 'warning',
    })
  else if (a.bevel.thinner + b.bevel.thinner <= 0)
    faults.push({ detail: 'They have no play: give one of them some, or they jam.', rank: 'warning' })
  const [small, large] = [a.bevel.count, b.bevel.count].sort((x, y) => x - y) as [number, number]
  const sizes = bevelSizes(a.bevel)
  return {
    facts: [
      { label: 'Axes', text: `${shown(angle)}°${isRight ? ', meeting in the points of both cones' : ''}` },
      { label: 'Play', text: `${shown(a.bevel.thinner + b.bevel.thinner)} mm along the pitch circles` },
      { label: 'Ratio', text: `${large} : ${small} = ${shown(large / small)}` },
      { label: 'Contact ratio', text: `${shown(bevelContact(a.bevel, b.bevel))} teeth at once` },
      { label: 'Cone distance', text: `${shown(sizes.distance)} mm from the point to the pitch circles` },
    ],
    faults,
  }
}

function apexOfSecond({ cone }: Wheel, { origin, n }: Frame): Vec3 {
  return add(origin, scaled(n, cone!.apex))
}

/** The second at the angle that both are made for, leaning over the first from where it is. */
function leanedOver({ cone }: Wheel, second: Frame): Frame {
  const { origin, n } = second
  const axes = rad(cone!.bevel.axes)
  const level = Math.hypot(n[0], n[1])
  if (Math.abs(Math.atan2(level, n[2]) - axes) < rad(nearAngle)) return second
  const far = Math.hypot(origin[0], origin[1])
  const [x, y] =
    level > 1e-6 ? [n[0] / level, n[1] / level] : far > 1e-6 ? [-origin[0] / far, -origin[1] / far] : [-1, 0]
  const to: Vec3 = [Math.sin(axes) * x, Math.sin(axes) * y, Math.cos(axes)]
  const about = cross(n, to)
  const degrees = (Math.atan2(norm(about), dot(n, to)) * 180) / Math.PI
  // What stands on its head turns about any level line.
  const line: Vec3 = norm(about) > 1e-9 ? scaled(about, 1 / norm(about)) : [-y, x, 0]
  return compose(turnedAbout(origin, line, degrees), second)
}

/** The second with the point of its cone in that of the first, turned until its teeth stand in the middle of the spaces. */
function settled(one: Wheel, two: Wheel, second: Frame): Frame | undefined {
  const leaned = leanedOver(two, second)
  const out = outward(leaned)
  if (!out) return undefined
  const more = subtract(scaled(own, one.cone!.apex), apexOfSecond(two, leaned))
  const moved = { ...leaned, origin: add(leaned.origin, more) }
  // By how many pitches a tooth lies beside where both meet, counter-clockwise.
  const beside = ({ teeth }: Wheel, { u, v }: Pick<Frame, 'u' | 'v'>, way: Vec3) =>
    (-Math.atan2(dot(way, v), dot(way, u)) * teeth.count) / (2 * Math.PI)
  const sense = Math.sign(ratio(one, two, leaned))
  const first = beside(one, { u: [1, 0, 0], v: [0, 1, 0] }, out[0])
  const share = sense * (first - 0.5) - beside(two, leaned, out[1])
  const pitches = share - Math.round(share)
  return compose(turnedAbout(moved.origin, moved.n, (360 * pitches) / two.teeth.count), moved)
}
