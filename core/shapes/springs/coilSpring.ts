import { size } from '../../fields/index.ts'
import { arc, type Scope, segmentsFor } from '../../kernel/index.ts'
import { type Frame, pointOut, turnedZ, type Vec3 } from '../../place/index.ts'
import { defineShape } from '../define.ts'
import { cloudOf, cloudReach, placingFineness } from '../drawn/cloud.ts'
import { skinned } from '../drawn/skin.ts'
import { prismReach } from '../prismatic.ts'
import { plainSurfaces, surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly works: string
  readonly diameter: number
  readonly wire: number
  readonly pitch: number
  readonly turns: number
  readonly travel: number
}

/**
 * A wire wound round an axis, right-handed. One that is pressed stands between two flat rings, which print and rest well; one that is
 * pulled ends in hooks, in the plane of its axis.
 */
export const coilSpring = defineShape({
  kind: 'coil-spring',
  label: 'coil spring',
  words: [
    'helical spring',
    'compression spring',
    { word: 'tension spring', fields: { works: 'pulled' } },
    { word: 'extension spring', fields: { works: 'pulled' } },
    'pressure spring',
  ],
  shelf: 'machine',
  icon: 'M8 4 H24 M8 20 H24 M8 4 C8 8 24 5 24 8.5 S8 9 8 12 S24 12 24 15.5 S8 16 8 20',
  operation: 'add',
  seat: 'stands',
  fields: {
    works: {
      kind: 'choice',
      label: 'Works',
      default: 'pressed',
      choices: { pressed: 'pressed', pulled: 'pulled' },
      meaning: 'Pressed between flat rings at its ends, or pulled by hooks.',
    },
    diameter: size('Diameter', '16', 'Diameter of the middle of its wire.'),
    wire: size('Wire', '2.4', 'Thickness of its wire.'),
    pitch: size('Pitch', '5', 'How far it rises with each turn.'),
    turns: { kind: 'ratio', label: 'Turns', default: '5', least: 1, most: 100, meaning: 'Number of active coils.' },
    travel: size('Travel', '6', 'How far it is pressed or pulled.'),
  },
  quick: ['diameter', 'wire', 'pitch', 'turns'],
  sentence: () => [
    'coil spring',
    { field: 'works' },
    'by',
    { field: 'travel' },
    ', ⌀',
    { field: 'diameter' },
    'of wire ⌀',
    { field: 'wire' },
    'in',
    { field: 'turns' },
    'turns, rising',
    { field: 'pitch' },
    'a turn',
  ],
  impossible(v) {
    if (v.diameter < 3 * v.wire)
      return {
        field: 'wire',
        detail: `Too thick to be a spring: a third of its diameter at most (${Number((v.diameter / 3).toFixed(3))} mm).`,
      }
    const least = 1.1 * v.wire
    if (v.pitch < least)
      return {
        field: 'pitch',
        detail: `Its turns would run into each other: ${Number(least.toFixed(3))} mm at least.`,
      }
    if (v.pitch > v.diameter) return { field: 'pitch', detail: `Too steep to be a spring: ${v.diameter} mm at most.` }
    if (v.works === 'pressed' && v.travel > roomIn(v))
      return { field: 'travel', detail: `Its turns meet before that: ${Number(roomIn(v).toFixed(3))} mm at most.` }
    return undefined
  },
  box: (v) => {
    const r = (v.diameter + v.wire) / 2
    return { min: [-r, -r, 0], max: [r, r, tall(v)] }
  },
  // Pressed, it lies within the round over both its rings.
  reach: (v, d) =>
    v.works === 'pressed'
      ? prismReach([{ x: 0, y: 0, r: (v.diameter + v.wire) / 2 }], 0, tall(v), d)
      : cloudReach(
          cloudOf(v, () => cloud(v)),
          d,
        ),
  surfaces: (v) =>
    surfacesOf(plainSurfaces(...(v.works === 'pressed' ? ['top', 'bottom', 'end'] : ['hook']), 'wire'), {
      at([x, y, z], n) {
        const [low, high] = [foot(v), foot(v) + v.pitch * v.turns]
        if (v.works === 'pulled') return z < low - 1e-6 || z > high + 1e-6 ? 'hook' : 'wire'
        if (z < 1e-6 && n[2] < -0.9) return 'bottom'
        if (z > tall(v) - 1e-6 && n[2] > 0.9) return 'top'
        const wide = Math.hypot(x, y)
        const isRing = z < v.wire + 1e-6 || z > tall(v) - v.wire - 1e-6
        const isFlat = Math.abs(n[2]) > 0.999 || Math.abs(Math.abs(wide - v.diameter / 2) - v.wire / 2) < 0.01
        return isRing && isFlat ? 'end' : 'wire'
      },
    }),
  dimensions: (v) => [
    {
      ...{ kind: 'diameter', field: 'diameter', centre: [0, 0, v.works === 'pressed' ? 0 : foot(v)] },
      ...{ direction: [1, 0, 0], radius: v.diameter / 2 },
    },
    {
      ...{ kind: 'linear', field: 'pitch', from: [v.diameter / 2, 0, foot(v)] },
      ...{ to: [v.diameter / 2, 0, foot(v) + v.pitch], offset: [1, 0, 0] },
    },
  ],
  spring: facts,
  solid(v, { scope, fineness }) {
    const coil = wound(v, scope, fineness)
    if (v.works === 'pulled') {
      return scope.union([coil, ...ends(v).map((frame) => scope.placed(hook(v, scope, fineness), frame))])
    }
    return scope.union([coil, ring(v, scope, fineness, 0), ring(v, scope, fineness, tall(v) - v.wire)])
  },
})

/** Pressed, its wire begins in the middle of its ring; pulled, above its hook. */
const foot = (v: Values) => (v.works === 'pressed' ? v.wire / 2 : (v.diameter + v.wire) / 2)

/** Between its outermost surfaces. */
const tall = (v: Values) => 2 * foot(v) + v.pitch * v.turns

/** How far it can be pressed: between all turns, and to both rings. */
const roomIn = (v: Values) => (v.pitch - v.wire) * v.turns

/** Poisson's ratio that is taken for all materials. */
const poisson = 0.36

/**
 * F / s = G d⁴ / (8 D³ n), and shear on the inside of the coil by Wahl's factor (Wahl, Mechanical Springs); compared by the strain of a bar
 * that is pulled as hard (von Mises).
 */
function facts(v: Values, { stiffness }: SpringStuff): SpringFacts {
  const shear = stiffness / (2 * (1 + poisson))
  const rate = (shear * v.wire ** 4) / (8 * v.diameter ** 3 * v.turns)
  const force = rate * v.travel
  const index = v.diameter / v.wire
  const wahl = (4 * index - 1) / (4 * index - 4) + 0.615 / index
  const stress = (8 * force * v.diameter * wahl) / (Math.PI * v.wire ** 3)
  return {
    ...{ rate, per: 'mm', travel: v.travel, force, strain: (Math.sqrt(3) * stress) / stiffness },
    more: [
      { label: 'Length', text: `${Number(tall(v).toFixed(2))} mm` },
      ...(v.works === 'pressed'
        ? [{ label: 'Room', text: `${Number(roomIn(v).toFixed(2))} mm until its turns meet` }]
        : []),
    ],
  }
}

/** The wire, its section square to its way. */
function sectionsOf(v: Values, fineness: number) {
  const r = v.wire / 2
  const ring = arc(0, 0, r, 0, 360, segmentsFor(r, fineness)).slice(0, -1)
  const steps = Math.max(4, Math.ceil(segmentsFor(v.diameter / 2 + r, fineness) * v.turns))
  const lead = Math.atan2(v.pitch, Math.PI * v.diameter)
  const [c, s] = [Math.cos(lead), Math.sin(lead)]
  const sections = Array.from({ length: steps + 1 }, (_, i) => {
    const at = (2 * Math.PI * v.turns * i) / steps
    const [x, y, z] = [Math.cos(at), Math.sin(at), foot(v) + (v.pitch * v.turns * i) / steps]
    // Away from the axis is to the right of a way that rises counter-clockwise: seen from ahead, the other way round.
    return ring.toReversed().map(([out, up]): Vec3 => {
      const far = v.diameter / 2 + out
      return [far * x + up * s * y, far * y - up * s * x, z + up * c]
    })
  })
  return { ring, sections }
}

function wound(v: Values, scope: Scope, fineness: number) {
  const { ring, sections } = sectionsOf(v, fineness)
  return skinned(scope, { flat: [ring], sections, fineness })
}

/** Points that a pulled one lies within the hull of. */
function cloud(v: Values): Vec3[] {
  const { ring, sections } = sectionsOf(v, placingFineness)
  const count = segmentsFor((v.diameter + v.wire) / 2, placingFineness)
  const hooks = ends(v).flatMap((frame) =>
    Array.from({ length: count + 1 }, (_, i) => ((hooked * i) / count) * (Math.PI / 180)).flatMap((at) =>
      ring.map(([x, y]): Vec3 => {
        const far = v.diameter / 2 + x
        return pointOut(frame, [far * Math.cos(at), y, -far * Math.sin(at)])
      }),
    ),
  )
  return [...sections.flat(), ...hooks]
}

/** Where both hooks stand: the upper one turned over, about the line through the axis that its begin lies on. */
function ends(v: Values): readonly Frame[] {
  const { u, v: across } = turnedZ(360 * v.turns)
  return [
    { origin: [0, 0, foot(v)], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
    {
      origin: [0, 0, foot(v) + v.pitch * v.turns],
      u,
      v: [-across[0], -across[1], 0],
      n: [0, 0, -1],
    },
  ]
}

/** A flat ring as wide and as high as the wire. */
function ring(v: Values, scope: Scope, fineness: number, low: number) {
  const segments = segmentsFor((v.diameter + v.wire) / 2, fineness)
  const [near, far] = [(v.diameter - v.wire) / 2, (v.diameter + v.wire) / 2]
  return scope.revolve(
    [
      [near, low],
      [far, low],
      [far, low + v.wire],
      [near, low + v.wire],
    ],
    segments,
  )
}

/** How far round a hook goes, degrees: it stays open. */
const hooked = 165

/** From where the coil begins, down and round below it in the plane of the axis; about the middle of its round. */
function hook(v: Values, scope: Scope, fineness: number) {
  const r = v.wire / 2
  const section = arc(v.diameter / 2, 0, r, 0, 360, segmentsFor(r, fineness)).slice(0, -1)
  const round = scope.revolved([section], segmentsFor(v.diameter / 2 + r, fineness), hooked)
  // Revolved about z from x; turned so that it goes from x down through −z.
  return scope.placed(round, { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] })
}
