import {
  closeDistance,
  closeInside,
  type GearPair,
  insideAt,
  leastShift,
  overlapOf,
  pairAt,
  rootOf,
  toothSizes,
} from '../../gears/index.ts'
import {
  add,
  compose,
  cross,
  dot,
  type Frame,
  scaled,
  subtract,
  turnedAbout,
  type Vec3,
  world,
} from '../../place/index.ts'
import { shareAt, type ToothValues, teethOf, turnAt, wayOf } from '../../shapes/index.ts'
import type { Fitting, Judged } from '../define.ts'
import { type Mesh, near, rad, shown, type Wheel } from './wheels.ts'

/** Gears on parallel axes, a gear in a ring, a gear on a rack. */
export const parallel: Mesh = {
  impossible(one, two) {
    if (one.kind !== 'outside' && two.kind !== 'outside')
      return { field: 'second', detail: 'One of the two must be a gear with its teeth outside.' }
    if (one.kind === 'inside' || two.kind === 'inside') {
      const [small, large] = one.kind === 'inside' ? [two, one] : [one, two]
      if (large.teeth.count <= small.teeth.count)
        return {
          field: one.kind === 'inside' ? 'first' : 'second',
          detail: `A ring needs more than the ${small.teeth.count} teeth of what runs in it.`,
        }
    }
    const [a, b] = [one, two].map(({ values }) => values) as [ToothValues, ToothValues]
    if (a.run !== b.run)
      return { field: 'second', detail: 'Their teeth must run alike: straight, at an angle or as a herringbone.' }
    if (Math.abs(pitchAcross(one) / pitchAcross(two) - 1) > 1e-6)
      return {
        field: 'second',
        detail: `Modules don’t match: ${shown(pitchAcross(one))} and ${shown(pitchAcross(two))}, along the pressure angle.`,
      }
    if (a.run === 'straight') return undefined
    if (Math.abs(a.helix - b.helix) > 1e-9) return { field: 'second', detail: 'Their teeth must lean by one angle.' }
    const alike = one.kind === 'inside' || two.kind === 'inside'
    if ((a.hand === b.hand) !== alike)
      return {
        field: 'second',
        detail: alike ? 'A gear and its ring are of one hand.' : 'One must be right-hand and the other left-hand.',
      }
    return undefined
  },
  ratio: ratioOf,
  judged,
  settled,
  fitting,
}

const axis: Vec3 = [0, 0, 1]

/** From tooth to tooth along the line of action, as a module. */
function pitchAcross({ teeth }: Wheel): number {
  return teeth.module * Math.cos(rad(teeth.pressure))
}

/** What the second does for each degree, or mm, of the first. */
function ratioOf(a: Wheel, b: Wheel, second: Frame): number {
  if (a.kind === 'line') return degreesPerMm(b) * along(world.v, world.u)
  if (b.kind === 'line') return along(second.v, second.u) / degreesPerMm(a)
  const inside = a.kind === 'inside' || b.kind === 'inside'
  return ((inside ? 1 : -1) * a.teeth.count) / b.teeth.count
}

/** How far a gear turns while a rack goes on by 1 mm. */
function degreesPerMm({ teeth }: Wheel): number {
  return 180 / Math.PI / toothSizes(teeth).pitch
}

/** Whether the teeth of a rack that look along `v` go along `u` where what runs on them turns counter-clockwise. */
function along(v: Vec3, u: Vec3): 1 | -1 {
  return dot(cross(axis, v), u) < 0 ? 1 : -1
}

/** From the axis of the gear to the other one, or to the pitch line of the rack, mm. */
function distanceOf(a: Wheel, b: Wheel, { origin, v }: Frame): number {
  if (a.kind === 'line') return origin[1]
  if (b.kind === 'line') return -dot(origin, v)
  return Math.hypot(origin[0], origin[1])
}

/** The distance at which they run with nothing but their play. */
function closeOf(a: Wheel, b: Wheel): number {
  if (a.kind === 'line') return toothSizes(b.teeth).pitch + b.teeth.shift
  if (b.kind === 'line') return toothSizes(a.teeth).pitch + a.teeth.shift
  if (a.kind === 'inside') return closeInside(b.teeth, a.teeth)
  return b.kind === 'inside' ? closeInside(a.teeth, b.teeth) : closeDistance(a.teeth, b.teeth)
}

function pairOf(a: Wheel, b: Wheel, distance: number): GearPair {
  if (a.kind === 'inside') {
    const pair = insideAt(b.teeth, a.teeth, distance)
    const [ofGear, ofRing] = pair.clearance
    const [byGear, byRing] = pair.interferes
    // In the order of the joint: the ring is the first here.
    return { ...pair, clearance: [ofRing, ofGear], interferes: [byRing, byGear] }
  }
  return b.kind === 'inside' ? insideAt(a.teeth, b.teeth, distance) : pairAt(a.teeth, b.teeth, distance)
}

function judged(a: Wheel, b: Wheel, second: Frame): Judged {
  const fault = (detail: string): Judged => ({ facts: [], faults: [{ detail, rank: 'fault' }] })
  if (Math.abs(second.n[2]) < 1 - 1e-9)
    return fault('Their axes must be parallel: stand them on faces that look one way.')
  if (a.values.run !== 'straight' && second.n[2] < 0)
    return fault('Teeth that run at an angle must stand the same way up.')
  const distance = distanceOf(a, b, second)
  const close = closeTried(a, b)
  if (close === undefined) return fault('They run at no distance: their profile shifts are too far below 0 together.')
  const isLine = a.kind === 'line' || b.kind === 'line'
  const where = isLine ? 'from the axis to the pitch line' : 'between their axes'
  const isRight = Math.abs(distance - close) <= near
  const standing = {
    label: 'Distance',
    text: `${shown(distance)} mm ${where}${isRight ? '' : `; ${shown(close)} is right`}`,
  }
  const gears = isLine ? undefined : tryPair(a, b, distance)
  const play = isLine
    ? a.teeth.thinner + b.teeth.thinner + 2 * (distance - close) * Math.tan(rad(a.teeth.pressure))
    : (gears?.backlash ?? 0)
  const faults: { detail: string; rank: 'fault' | 'warning' | 'advice' }[] = []
  const inside = a.kind === 'inside' || b.kind === 'inside'
  if (!(distance > 0) || (!isLine && !(gears && gears.contact > 0)))
    return {
      facts: [standing],
      faults: [{ detail: `They cannot run at ${shown(distance)} mm: ${shown(close)} mm is right.`, rank: 'warning' }],
    }
  const isFar = inside && distance > close
  if (!isRight)
    faults.push(
      play <= 0
        ? {
            detail: `They stand too ${isFar ? 'far apart' : 'near each other'}: their teeth overlap. ${shown(close)} mm is right.`,
            rank: 'warning',
          }
        : { detail: `They stand at ${shown(distance)} mm; ${shown(close)} mm is right.`, rank: 'advice' },
    )
  else if (play <= 0) faults.push({ detail: 'They have no play: give one of them some, or they jam.', rank: 'warning' })
  const facts = [standing, { label: 'Play', text: `${shown(play)} mm along the pitch circles` }]
  if (gears) {
    const small = a.teeth.count < b.teeth.count ? [a.teeth.count, b.teeth.count] : [b.teeth.count, a.teeth.count]
    facts.push({ label: 'Ratio', text: `${small[1]} : ${small[0]} = ${shown(small[1]! / small[0]!)}` })
    const overlap = overlapOf([a.values.height, b.values.height], { ...a.values, module: a.teeth.module })
    const contact = `${shown(gears.contact)} teeth at once`
    facts.push({
      label: 'Contact ratio',
      text: overlap > 0 ? `${contact}, and ${shown(overlap)} along their lean` : contact,
    })
    facts.push({ label: 'Working angle', text: `${shown((gears.pressure * 180) / Math.PI)}°` })
    facts.push({ label: 'Over the tips', text: gears.clearance.map((mm) => `${shown(mm)} mm`).join(' and ') })
    facts.push({
      label: 'Wear',
      text: gears.hunting ? 'each tooth meets all of the other one' : 'the same teeth meet again and again',
    })
    const under = [a, b].flatMap((wheel, i) =>
      wheel.kind === 'outside' && rootOf(wheel.teeth).undercut
        ? [
            `the ${i === 0 ? 'first' : 'second'}, below a profile shift of ${shown(leastShift(wheel.teeth) / moduleAcross(wheel))}`,
          ]
        : [],
    )
    if (under.length > 0) facts.push({ label: 'Undercut', text: under.join('; ') })
    if (gears.contact + overlap < 1.1)
      faults.push({
        detail: `Only ${shown(gears.contact)} teeth touch at once: they disengage. Bring them nearer.`,
        rank: 'warning',
      })
    for (const [i, meets] of gears.interferes.entries())
      if (meets)
        faults.push({
          detail: `Tips of the ${i === 0 ? 'first' : 'second'} reach below the flanks of the other: give the other a profile shift, or more teeth.`,
          rank: 'warning',
        })
    for (const [i, mm] of gears.clearance.entries())
      if (mm <= 0)
        faults.push({
          detail: `Tips of the ${i === 0 ? 'first' : 'second'} touch the roots of the other.`,
          rank: 'warning',
        })
  }
  return { facts, faults }
}

/** Undefined where teeth are shifted so far that they touch at no distance. */
function closeTried(a: Wheel, b: Wheel): number | undefined {
  try {
    return closeOf(a, b)
  } catch {
    return undefined
  }
}

function tryPair(a: Wheel, b: Wheel, distance: number): GearPair | undefined {
  try {
    return pairOf(a, b, distance)
  } catch {
    return undefined
  }
}

/** The second moved straight to the right distance, and turned or slid until its teeth stand in the middle of the spaces. */
function settled(a: Wheel, b: Wheel, second: Frame): Frame | undefined {
  if (Math.abs(second.n[2]) < 1 - 1e-9) return undefined
  const more = closeOf(a, b) - distanceOf(a, b, second)
  const away = awayOf(a, b, second)
  // From the gear that goes in it to the middle of a ring it is the other way.
  const moved = { ...second, origin: add(second.origin, scaled(away, b.kind === 'inside' ? -more : more)) }
  const opposite = b.kind === 'outside' && a.kind !== 'inside'
  const from = toothBeside(a, world, away, [0, 0, 0], moved.origin)
  const sense = opposite ? -1 : 1
  const to =
    b.kind === 'line'
      ? toothBeside(b, moved, away, moved.origin, [0, 0, moved.origin[2]])
      : sense * toothBeside(b, moved, scaled(away, sense), moved.origin, moved.origin)
  const share = from - 0.5 - to
  const pitches = share - Math.round(share)
  const t = cross(axis, away)
  if (b.kind === 'line') return { ...moved, origin: add(moved.origin, scaled(t, pitches * Math.PI * b.teeth.module)) }
  const turn = turnedAbout(moved.origin, axis, (sense * pitches * 360) / b.teeth.count)
  return compose(turn, moved)
}

/** The direction from the first wheel to where they meet. */
function awayOf(a: Wheel, b: Wheel, { origin, v }: Frame): Vec3 {
  if (a.kind === 'line') return [0, 1, 0]
  if (b.kind === 'line') return scaled(v, -1)
  const size = Math.hypot(origin[0], origin[1])
  const flat: Vec3 = size > 1e-9 ? [origin[0] / size, origin[1] / size, 0] : [1, 0, 0]
  return b.kind === 'inside' ? scaled(flat, -1) : flat
}

/**
 * How far a tooth stands beside where it is looked for, in pitches, counter-clockwise about the axis as seen from the wheel's middle:
 * of a gear or ring in a direction from its middle, at the height of `other`; of a rack beside the middle of `other`, along the same way.
 */
function toothBeside({ kind, teeth, values }: Wheel, { u }: Frame, away: Vec3, own: Vec3, other: Vec3): number {
  const height = other[2] - own[2]
  if (kind === 'line') {
    const pitch = Math.PI * teeth.module
    const sheared = wayOf(values) * shareAt(values, height)
    const beside = (dot(subtract(own, other), u) - sheared) / pitch - (teeth.count - 1) / 2
    return beside * Math.sign(dot(u, cross(axis, away)))
  }
  const turned = Math.atan2(u[1], u[0]) + turnAt(values, height) - Math.atan2(away[1], away[0])
  return (turned * teeth.count) / (2 * Math.PI) + (kind === 'inside' ? 0.5 : 0)
}

/** Across the teeth, which is what a profile shift is told in. */
function moduleAcross({ teeth, values }: Wheel): number {
  return values.run === 'straight' ? teeth.module : teeth.module * Math.cos(rad(values.helix))
}

/** A profile shift with which two gears are right at the distance that they stand at: of the second, or of the first where that would be undercut. */
function fitting(a: Wheel, b: Wheel, second: Frame): Fitting | undefined {
  if (a.kind !== 'outside' || b.kind !== 'outside') return undefined
  const distance = distanceOf(a, b, second)
  if (!(Math.abs((closeTried(a, b) ?? 0) - distance) > near)) return undefined
  for (const [side, own, other] of [
    [1, b, a],
    [0, a, b],
  ] as const) {
    const shifted = (shift: number) => teethOf({ ...own.values, shift })
    const at = (shift: number) => closeTried(other, { ...own, teeth: shifted(shift) }) ?? 0
    let [low, high] = [leastOffered, mostOffered]
    if (at(low) > distance || at(high) < distance) continue
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2
      if (at(middle) < distance) low = middle
      else high = middle
    }
    const shift = Number(((low + high) / 2).toFixed(5))
    if (rootOf(shifted(shift)).undercut) continue
    const label = `Keep the distance: shift the ${side === 0 ? 'first' : 'second'} by ${shown(shift)}`
    return { side, fields: { shift: `${shift}` }, label }
  }
  return undefined
}

/** Beyond these teeth are undercut or pointed, as a rule. */
const [leastOffered, mostOffered] = [-0.5, 1]
