import { circumradius, type Ring, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { compose, moved, turnedX, turnedY, turnedZ, type Vec3 } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { gapField } from './fields.ts'
import { shown } from './words.ts'

interface Values {
  readonly ball: number
  readonly neck: number
  readonly reach: number
  readonly wall: number
  readonly gap: number
  readonly lean: number
  readonly slits: number
  readonly slit: number
}

/**
 * A ball in a socket, printed in place. The socket stands on z = 0 and belongs to the first piece; ball and neck are the second's,
 * the neck along +z.
 *
 *         ┌┐ neck          mouth: a cone about the ball's middle, as wide as the neck
 *      ╲  ││  ╱            needs to lean by so much
 *     ▓▓╲ ││ ╱▓▓           the ball is held where the mouth is narrower than it
 *    ▓▓ ( ▒▒▒ ) ▓▓
 *    ▓▓  ╲▒▒▒╱  ▓▓         ball: a little flat below, so that it does not begin as a point;
 *    ▓▓▓▓▓▓▓▓▓▓▓▓▓         what hangs over of it lies one gap above the socket everywhere
 */
export const ballSocket = defineJoint({
  kind: 'ball-socket',
  label: 'ball and socket',
  words: ['ball joint', 'ball and socket joint', 'swivel', 'universal joint', 'ball mount'],
  icon: 'M8 11 A9 9 0 1 0 24 11 M11 14 A5 5 0 1 0 21 14 A5 5 0 1 0 11 14 M14.5 9 V2 M17.5 9 V2',
  fields: {
    ball: {
      kind: 'length',
      label: 'Ball diameter',
      default: '16',
      above: 0,
      most: 500,
      meaning: 'Diameter of the ball.',
    },
    neck: {
      kind: 'length',
      label: 'Neck diameter',
      default: '8',
      above: 0,
      most: 400,
      meaning: 'Diameter of the neck between the ball and the second piece.',
    },
    reach: {
      kind: 'length',
      label: 'Neck length',
      default: '16',
      above: 0,
      most: 500,
      meaning: 'From the middle of the ball to the end of its neck.',
    },
    wall: {
      kind: 'length',
      label: 'Socket wall',
      default: '2.4',
      above: 0,
      most: 100,
      meaning: 'Thickness of the socket round the ball, and of its floor.',
    },
    gap: gapField('the ball and its socket'),
    lean: {
      kind: 'angle',
      label: 'Leans',
      default: '20',
      above: 0,
      most: 80,
      meaning: 'How far the neck leans to any side before it meets the mouth of the socket.',
    },
    slits: {
      kind: 'count',
      label: 'Slits',
      default: '0',
      least: 0,
      most: 12,
      meaning: 'Slits down the wall of the socket, so that it gives and the ball can be pressed in.',
      rare: true,
    },
    slit: {
      kind: 'length',
      label: 'Slit width',
      default: '1',
      above: 0,
      most: 50,
      meaning: 'Width of each slit.',
      rare: true,
    },
  },
  sentence: (v) => [
    'ball and socket',
    ', ball ⌀',
    { field: 'ball' },
    'on a neck ⌀',
    { field: 'neck' },
    'and',
    { field: 'reach' },
    'long, in a wall of',
    { field: 'wall' },
    ', gap',
    { field: 'gap' },
    'per side, leaning',
    { field: 'lean' },
    ',',
    { field: 'slits' },
    'slits',
    ...(v.slits > 0 ? [{ field: 'slit' }, 'wide'] : []),
  ],
  impossible(v) {
    if (v.neck >= 0.9 * v.ball)
      return { field: 'neck', detail: `The neck leaves next to nothing of the ball: at most ${shown(0.9 * v.ball)}.` }
    if (!(held(v) > 0))
      return {
        field: 'lean',
        detail: `The mouth would be wider than the ball, which comes out then: lean less than ${shown(mostLean(v))}°.`,
      }
    if (v.reach <= mouthHeight(v) + v.gap)
      return {
        field: 'reach',
        detail: `The neck ends within its socket: make it longer than ${shown(mouthHeight(v) + v.gap)}.`,
      }
    if (v.slits > 0 && v.slits * v.slit > Math.PI * v.ball * 0.5)
      return { field: 'slit', detail: 'Slits this wide leave less than half of the wall.' }
    return undefined
  },
  judged(v) {
    const give = held(v)
    const slack = Math.max(0, v.lean)
    return {
      facts: [
        { label: 'Held by', text: `${shown(give)} mm all round, at a mouth ⌀ ${shown(2 * mouthRadius(v))}` },
        { label: 'Begins', text: `${shown(begins(v))} mm above the floor of its socket, ⌀ ${shown(footOf(v))}` },
        { label: 'Leans', text: `${shown(slack)}° to any side, and turns all round` },
      ],
      faults:
        give < loosest
          ? [
              {
                detail: `The mouth holds the ball by ${shown(give)} mm only: it may come out. Lean less, or take a thinner neck.`,
                rank: 'warning' as const,
              },
            ]
          : [],
    }
  },
  box: (v) => {
    const r = outside(v)
    return { min: [-r, -r, 0], max: [r, r, centre(v) + v.reach] }
  },
  dimensions: (v) => [
    {
      kind: 'linear',
      field: 'ball',
      from: [-v.ball / 2, 0, centre(v)],
      to: [v.ball / 2, 0, centre(v)],
      offset: [0, -1, 0],
    },
    {
      kind: 'linear',
      field: 'reach',
      from: [outside(v), 0, centre(v)],
      to: [outside(v), 0, centre(v) + v.reach],
      offset: [1, 0, 0],
    },
  ],
  surfaces: (v, side) => {
    const names = ['ball', 'flat', 'neck', 'neck end', 'room', 'outside', 'mouth', 'slit', 'floor', 'clearance']
    return surfacesOf(plainSurfaces(...names), {
      at([x, y, z], n) {
        const up = z - centre(v)
        const [far, wide] = [Math.hypot(x, y, up), Math.hypot(x, y)]
        if (side === 1) {
          if (far > outside(v) + v.gap / 2 && wide > v.neck / 2 + v.gap) return 'clearance'
          if (n[2] < -0.99 && Math.abs(up + v.ball / 2 - cutOff(v)) < 1e-3) return 'flat'
          if (n[2] > 0.99 && Math.abs(up - v.reach) < 0.01) return 'neck end'
          return far < (v.ball / 2) * 1.001 ? 'ball' : 'neck'
        }
        if (n[2] < -0.99 && z < 0.01) return 'floor'
        const inner = v.ball / 2 + v.gap
        // Which way it looks: to the middle, away from it, or neither.
        const outward = far > 0 ? (x * n[0] + y * n[1] + up * n[2]) / far : 0
        if (outward < -0.9 && far < 1.05 * inner) return 'room'
        if (outward > 0.5 || (wide > 0.98 * outside(v) && Math.abs(n[2]) < 0.1)) return 'outside'
        return v.slits > 0 && up < 0.98 * mouthHeight(v) && Math.abs(n[2]) < 0.1 ? 'slit' : 'mouth'
      },
    })
  },
  freedoms: (v) => [
    { label: 'leaning right', unit: 'degrees', from: -v.lean, to: v.lean, atRest: 0, told: { to: 'lean' } },
    { label: 'leaning back', unit: 'degrees', from: -v.lean, to: v.lean, atRest: 0, told: { to: 'lean' } },
    { label: 'turning', unit: 'degrees', from: -180, to: 180, atRest: 0 },
  ],
  motion(v, [right = 0, back = 0, turn = 0]) {
    // Together they lean no farther than each by itself may: straight towards where both point.
    const far = Math.hypot(right, back)
    const [towards, lean] = [(Math.atan2(back, right) * 180) / Math.PI, Math.min(far, v.lean)]
    const leaned = compose(compose(turnedZ(towards), turnedY(lean)), turnedZ(turn - towards))
    const about: Vec3 = [0, 0, centre(v)]
    return compose(moved(leaned, about), { ...turnedZ(0), origin: [0, 0, -centre(v)] })
  },
  solids(v, { scope, fineness }) {
    const inner = v.ball / 2 + v.gap
    const ring = (radius: number, isRoom: boolean) => sphere(scope, v, radius, fineness, isRoom)
    // Socket: a foot as wide as the ball's half, and a half ball on it, with room, mouth and slits taken out.
    const wide = segmentsFor(outside(v), fineness)
    const foot = scope.cylinder(centre(v), outside(v), outside(v), wide)
    const mouth = cone(scope, v, fineness)
    const slits = Array.from({ length: v.slits }, (_, i) => slitAt(scope, v, (360 * i) / v.slits))
    const socket = scope.difference(scope.union([foot, ring(outside(v), false)]), [ring(inner, true), mouth, ...slits])
    const flat = scope.placed(scope.cylinder(v.ball, v.ball, v.ball, 4), {
      ...turnedZ(0),
      origin: [0, 0, centre(v) - v.ball / 2 + cutOff(v) - v.ball],
    })
    const neck = scope.placed(scope.cylinder(v.reach, v.neck / 2, v.neck / 2, segmentsFor(v.neck / 2, fineness)), {
      ...turnedZ(0),
      origin: [0, 0, centre(v)],
    })
    const ball = scope.union([scope.difference(ring(v.ball / 2, false), [flat]), neck])
    const clear = scope.union([
      ring(outside(v) + v.gap, true),
      scope.cylinder(centre(v), outside(v) + v.gap, outside(v) + v.gap, wide),
    ])
    return { cuts: [[ring(inner, true), mouth], [clear]], adds: [[socket], [ball]] }
  },
})

/** Held by less than this a ball may come out of what is printed, mm. */
const loosest = 0.3
/** What the ball is cut off below, mm: about one layer, since its flat begins so much higher above the socket. */
const cutOff = ({ ball }: Pick<Values, 'ball'>) => Math.min(0.2, 0.04 * ball)

/** How far above the floor of its socket the ball begins to be printed, and how wide, mm. */
const begins = (v: Values) => v.gap + cutOff(v)
const footOf = (v: Values) => 2 * Math.sqrt(cutOff(v) * (v.ball - cutOff(v)))

const rad = (degrees: number) => (degrees * Math.PI) / 180
const outside = (v: Values) => v.ball / 2 + v.gap + v.wall
/** The height of the ball's middle: the socket's floor is as thick as its wall. */
const centre = (v: Values) => outside(v)

/** Half of the angle of the mouth, rad: what the neck with its gap takes, leaned as far as it may. */
function mouthAngle({ ball, neck, gap, lean }: Values): number {
  return rad(lean) + Math.asin(Math.min(1, (neck / 2 + gap) / (ball / 2 + gap)))
}

/** Of the mouth where it leaves the room of the ball. */
function mouthRadius(v: Values): number {
  return (v.ball / 2 + v.gap) * Math.sin(mouthAngle(v))
}

/** Above the middle of the ball, where the mouth leaves the outside of the socket. */
function mouthHeight(v: Values): number {
  return outside(v) * Math.cos(mouthAngle(v))
}

/** By how much the mouth is narrower than the ball, per side, mm; below 0 it is no mouth that holds. */
function held(v: Values): number {
  return mouthAngle(v) >= Math.PI / 2 ? -1 : v.ball / 2 - mouthRadius(v)
}

function mostLean(v: Values): number {
  let [low, high] = [0, 90]
  for (let i = 0; i < 40; i++) {
    const lean = (low + high) / 2
    if (held({ ...v, lean }) > loosest) low = lean
    else high = lean
  }
  return low
}

/** A ball about the middle; circumscribed where it makes room. */
function sphere(scope: Scope, v: Values, radius: number, fineness: number, isRoom: boolean): Solid {
  const segments = segmentsFor(radius, fineness, isRoom)
  const steps = segments / 2
  const [round, along] = isRoom ? [circumradius(1, segments), circumradius(1, segments)] : [1, 1]
  const ring: Ring = Array.from({ length: steps + 1 }, (_, i) => {
    const at = -Math.PI / 2 + (Math.PI * i) / steps
    return [i === 0 || i === steps ? 0 : radius * round * along * Math.cos(at), radius * along * Math.sin(at)] as const
  })
  return scope.placed(scope.revolve(ring, segments), { ...turnedZ(0), origin: [0, 0, centre(v)] })
}

/** The cone of the mouth, from the middle of the ball out past the socket. */
function cone(scope: Scope, v: Values, fineness: number): Solid {
  const high = 1.5 * outside(v)
  const wide = high * Math.tan(mouthAngle(v))
  const segments = segmentsFor(wide, fineness, true)
  const solid = scope.cylinder(high, 0, circumradius(wide, segments), segments)
  return scope.placed(solid, { ...turnedZ(0), origin: [0, 0, centre(v)] })
}

/** From the mouth down to the middle of the ball, through the wall on one side. */
function slitAt(scope: Scope, v: Values, degrees: number): Solid {
  const [far, half] = [1.5 * outside(v), v.slit / 2]
  const ring = [
    [0, -half],
    [far, -half],
    [far, half],
    [0, half],
  ] as const
  const box = scope.extrude([ring], far)
  return scope.placed(box, compose({ ...turnedZ(0), origin: [0, 0, centre(v)] }, compose(turnedZ(degrees), turnedX(0))))
}
