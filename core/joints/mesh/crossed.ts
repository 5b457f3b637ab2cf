import {
  type CrossedAxes,
  crossedAxes,
  crossedDistance,
  crossedPair,
  crossedPhase,
  crossedRatio,
  type LeaningTeeth,
  leanFor,
  tracesApart,
} from '../../gears/index.ts'
import { add, compose, cross, type Frame, norm, scaled, turnedAbout, type Vec3 } from '../../place/index.ts'
import { turnAt, twistOf } from '../../shapes/index.ts'
import type { Fitting, Judged } from '../define.ts'
import { type Mesh, near, rad, shown, type Wheel } from './wheels.ts'

/** A worm and a gear, whose axes cross beside each other. */
export const crossed: Mesh = {
  impossible: impossibleWorm,
  ratio: ratioCrossed,
  judged: judgedCrossed,
  settled: settledCrossed,
  fitting: fittingCrossed,
}

/** Teeth that cross by less run alike, rad. */
const alike = 1e-3
/** What turns by friction alone slips back on threads that are steeper, degrees; about what dry plastic does. */
const holdsBelow = 5

const degrees = (radians: number) => (radians * 180) / Math.PI

function leaning({ teeth, values }: Wheel): LeaningTeeth {
  const lean = values.run === 'straight' ? 0 : rad(values.helix) * (values.hand === 'right' ? 1 : -1)
  return { teeth, lean, normal: rad(values.pressure), turnAt: (height) => turnAt(values, height) }
}

/** Across the teeth, from one to the next along the line of action, as a module. */
function pitchAcross(wheel: Wheel): number {
  const { lean, normal } = leaning(wheel)
  return wheel.teeth.module * Math.cos(lean) * Math.cos(normal)
}

/** Why a worm and another wheel can never run together; undefined where they may. */
function impossibleWorm(one: Wheel, two: Wheel): { field: 'first' | 'second'; detail: string } | undefined {
  const field = one.kind === 'worm' ? 'second' : 'first'
  const other = one.kind === 'worm' ? two : one
  if (other.kind !== 'outside') return { field, detail: 'A worm runs with a gear whose teeth are outside.' }
  if (other.values.run === 'herringbone')
    return { field, detail: 'A worm runs with a gear whose teeth are straight or at an angle, not with a herringbone.' }
  const [a, b] = [pitchAcross(one), pitchAcross(two)]
  if (Math.abs(a / b - 1) > 1e-6)
    return {
      field: 'second',
      detail: `Modules don’t match: ${shown(a)} and ${shown(b)}, along the pressure angle.`,
    }
  return undefined
}

/** Degrees of the second for each of the first. */
function ratioCrossed(one: Wheel, two: Wheel, second: Frame): number {
  const axes = crossedAxes(second)
  return axes ? crossedRatio(leaning(one), leaning(two), second, axes) : 0
}

function judgedCrossed(one: Wheel, two: Wheel, second: Frame): Judged {
  const axes = crossedAxes(second)
  if (!axes) {
    const detail = 'The axis of the worm must cross that of the gear, beside it: lay one of them on its side.'
    return { facts: [], faults: [{ detail, rank: 'fault' }] }
  }
  const [a, b] = [leaning(one), leaning(two)]
  const close = crossedDistance(a, b)
  const pair = crossedPair(a, b, axes.distance)
  const isRight = Math.abs(axes.distance - close) <= near
  const [worm, gear] = one.kind === 'worm' ? [one, two] : [two, one]
  const lead = 90 - worm.values.helix
  const facts = [
    {
      label: 'Distance',
      text: `${shown(axes.distance)} mm between their axes${isRight ? '' : `; ${shown(close)} is right`}`,
    },
    { label: 'Play', text: `${shown(pair.backlash)} mm across the teeth` },
    {
      label: 'Ratio',
      text: `${gear.teeth.count} : ${worm.teeth.count} = ${shown(gear.teeth.count / worm.teeth.count)}`,
    },
    { label: 'Contact ratio', text: `${shown(pair.contact)} teeth at once` },
    {
      label: 'Lead angle',
      text: `${shown(lead)}°: ${lead < holdsBelow ? 'holds what it carries by itself, as a rule' : 'the gear can turn it back'}`,
    },
    { label: 'Over the tips', text: pair.clearance.map((mm) => `${shown(mm)} mm`).join(' and ') },
  ]
  return { facts, faults: faultsOf([a, b], [one, two], second, axes) }
}

/** The teeth that the gear needs on these axes. */
function teethNeeded(
  [a, b]: readonly [LeaningTeeth, LeaningTeeth],
  [one]: readonly [Wheel, Wheel],
  second: Frame,
  axes: CrossedAxes,
): Omit<Fitting, 'label'> & { readonly words: string } {
  const side = one.kind === 'worm' ? 1 : 0
  const lean = Number(degrees(leanFor(side, a, b, second, axes)).toFixed(3))
  if (Math.abs(lean) < 0.05) return { side, words: 'straight teeth', fields: { run: 'straight' } }
  const hand = lean > 0 ? 'right' : 'left'
  const helix = `${Math.abs(lean)}`
  return { side, words: `teeth at ${helix}°, ${hand}-hand`, fields: { run: 'helical', helix, hand } }
}

function fittingCrossed(one: Wheel, two: Wheel, second: Frame): Fitting | undefined {
  const axes = crossedAxes(second)
  const teeth = [leaning(one), leaning(two)] as const
  if (!axes || tracesApart(...teeth, second, axes) <= alike) return undefined
  const { side, words, fields } = teethNeeded(teeth, [one, two], second, axes)
  return { side, fields, label: `Give the gear ${words}` }
}

function faultsOf(
  [a, b]: readonly [LeaningTeeth, LeaningTeeth],
  [one, two]: readonly [Wheel, Wheel],
  second: Frame,
  axes: CrossedAxes,
): Judged['faults'] {
  const faults: { detail: string; rank: 'fault' | 'warning' | 'advice' }[] = []
  const warn = (detail: string) => faults.push({ detail, rank: 'warning' })
  const apart = tracesApart(a, b, second, axes)
  if (apart > alike) {
    const needed = teethNeeded([a, b], [one, two], second, axes)
    warn(`Their teeth cross at ${shown(degrees(apart))}°: on these axes the gear needs ${needed.words}.`)
  }
  const close = crossedDistance(a, b)
  const { backlash, contact, interferes } = crossedPair(a, b, axes.distance)
  if (Math.abs(axes.distance - close) > near) {
    if (backlash <= 0) warn(`They stand too near each other: their teeth overlap. ${shown(close)} mm is right.`)
    else
      faults.push({ detail: `They stand at ${shown(axes.distance)} mm; ${shown(close)} mm is right.`, rank: 'advice' })
  } else if (backlash <= 0) warn('They have no play: give one of them some, or they jam.')
  if (contact < 1.1) warn(`Only ${shown(contact)} teeth touch at once: they disengage. Bring them nearer.`)
  for (const [i, { values, kind }] of [one, two].entries()) {
    const height = axes.heights[i]!
    if (height < 0 || height > values.height)
      warn(
        kind === 'worm'
          ? 'The worm ends beside the gear: move it along its axis.'
          : 'The worm passes beside the teeth of the gear: put its axis at half their width.',
      )
  }
  for (const [i, meets] of interferes.entries())
    if (meets)
      warn(
        `Tips of the ${i === 0 ? 'first' : 'second'} reach below the flanks of the other: give the gear more teeth, or a profile shift.`,
      )
  return faults
}

/**
 * The second moved to the right distance, with the worm at half the width of the gear, and its teeth in the middle of the spaces: a
 * gear is turned for that, a worm is slid along its axis, which comes to the same.
 */
function settledCrossed(one: Wheel, two: Wheel, second: Frame): Frame | undefined {
  const lying = laidAcross(second)
  // A worm may lie anywhere along itself, where it is long enough.
  const there = meshedFrom(one, two, lying, false)
  const axes = there && crossedAxes(there)
  if (!axes) return undefined
  const reaches = [one, two].every(({ values }, i) => axes.heights[i]! >= 0 && axes.heights[i]! <= values.height)
  return reaches ? there : meshedFrom(one, two, lying, true)
}

/** What stands along the first is laid on its side, so that it goes by that; what meets its axis is moved a little aside. */
function laidAcross(second: Frame): Frame {
  if (crossedAxes(second)) return second
  const { origin, n } = second
  const far = Math.hypot(origin[0], origin[1])
  const out: Vec3 = far > 1e-6 ? [origin[0] / far, origin[1] / far, 0] : [1, 0, 0]
  const isAlong = Math.abs(n[2]) > 1 - 1e-6
  const lying = isAlong ? compose(turnedAbout(origin, out, 90), second) : second
  if (crossedAxes(lying)) return lying
  const aside = cross([0, 0, 1], lying.n)
  return { ...lying, origin: add(lying.origin, scaled(aside, 1 / norm(aside))) }
}

function meshedFrom(one: Wheel, two: Wheel, second: Frame, middlesWorm: boolean): Frame | undefined {
  const axes = crossedAxes(second)
  if (!axes) return undefined
  const [a, b] = [leaning(one), leaning(two)]
  const more = scaled(axes.away, crossedDistance(a, b) - axes.distance)
  const ways: readonly Vec3[] = [[0, 0, 1], second.n]
  // Moved along an axis, the second takes the foot of the perpendicular along on the first, and leaves it behind on itself.
  const middled = [one, two].map(({ kind, values }, i) =>
    kind === 'worm' && !middlesWorm
      ? ([0, 0, 0] as const)
      : scaled(ways[i]!, (i === 0 ? 1 : -1) * (values.height / 2 - axes.heights[i]!)),
  )
  const moved = { ...second, origin: [more, ...middled].reduce(add, second.origin) }
  const there = crossedAxes(moved)
  if (!there) return undefined
  const pitches = crossedPhase(a, b, moved, there)
  const turn = (2 * Math.PI * pitches) / two.teeth.count
  if (two.kind !== 'worm') return compose(turnedAbout(moved.origin, moved.n, degrees(turn)), moved)
  // What stands higher shows a section that has turned less.
  const rise = twistOf(two.values) / two.values.height
  return { ...moved, origin: add(moved.origin, scaled(moved.n, -turn / rise)) }
}
