import { size } from '../../fields/index.ts'
import {
  acrossAxis,
  gearRing,
  isoProfile,
  leastShift,
  pointedAt,
  rootOf,
  type Teeth,
  tipRadius,
  toothSizes,
} from '../../gears/index.ts'
import { type Ring, type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { flatsInUse } from '../../plane/index.ts'
import { defineShape } from '../define.ts'
import { diameterAt, heightBeside } from '../dimensions.ts'
import { skinned } from '../drawn/skin.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, roundFace, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import { type Bore, boreForms, boreReach, boreRing, impossibleBore } from './bores.ts'

interface Values extends Bore {
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
}

const inch = 25.4

/** A gear with involute teeth about the z axis, the middle of a tooth to the right of its lower face. */
export const gear = defineShape({
  kind: 'gear',
  label: 'gear',
  words: [
    ...['spur gear', 'pinion', 'toothed wheel', 'gear wheel', 'cogwheel', 'involute'],
    { word: 'helical gear', fields: { run: 'helical' } },
    { word: 'herringbone', fields: { run: 'herringbone' } },
    { word: 'double helical gear', fields: { run: 'herringbone' } },
  ],
  shelf: 'machine',
  icon: 'M14.6 3.7 L15 1.2 L17 1.2 L17.4 3.7 L18.9 4.1 L20.5 2.2 L22.2 3.2 L21.4 5.5 L22.5 6.6 L24.8 5.8 L25.8 7.5 L23.9 9.1 L24.3 10.6 L26.8 11 L26.8 13 L24.3 13.4 L23.9 14.9 L25.8 16.5 L24.8 18.2 L22.5 17.4 L21.4 18.5 L22.2 20.8 L20.5 21.8 L18.9 19.9 L17.4 20.3 L17 22.8 L15 22.8 L14.6 20.3 L13.1 19.9 L11.5 21.8 L9.8 20.8 L10.6 18.5 L9.5 17.4 L7.2 18.2 L6.2 16.5 L8.1 14.9 L7.7 13.4 L5.2 13 L5.2 11 L7.7 10.6 L8.1 9.1 L6.2 7.5 L7.2 5.8 L9.5 6.6 L10.6 5.5 L9.8 3.2 L11.5 2.2 L13.1 4.1 Z M17.2 9.3 A3 3 0 1 1 14.8 9.3 V7.8 H17.2 Z',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
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
      meaning: 'Pitch diameter for each tooth, across the teeth.',
    },
    perInch: {
      kind: 'ratio',
      label: 'Teeth per inch',
      default: '16',
      above: 0,
      most: 500,
      meaning: 'Teeth for each inch of the pitch diameter.',
    },
    pitch: {
      kind: 'length',
      label: 'Pitch',
      default: '5',
      above: 0,
      most: 300,
      meaning: 'From one tooth to the next along the pitch circle.',
    },
    height: size('Width', '8', 'Of its teeth, along its axis.'),
    run: {
      kind: 'choice',
      label: 'Teeth run',
      default: 'straight',
      choices: { straight: 'straight', helical: 'aslant', herringbone: 'as a herringbone' },
      meaning: 'Along the axis, on a helix, or on one and back again.',
    },
    helix: {
      kind: 'angle',
      label: 'Helix angle',
      default: '20',
      least: 1,
      most: 45,
      meaning: 'Of the teeth to the axis, on the pitch circle.',
    },
    hand: {
      kind: 'choice',
      label: 'Hand',
      default: 'right',
      choices: { right: 'right-hand', left: 'left-hand' },
      meaning: 'Which way the teeth turn as they rise; gears on parallel axes have opposite hands.',
    },
    play: {
      kind: 'length',
      label: 'Play',
      default: '0.1',
      least: 0,
      most: 5,
      meaning: 'How much thinner each tooth is, along the pitch circle; a fit by name follows the printer.',
    },
    bore: {
      kind: 'choice',
      label: 'Bore',
      default: 'round',
      choices: boreForms,
      meaning: 'How it sits on its shaft.',
    },
    hole: { ...size('Bore size', '5', 'Diameter of the bore, or its size across flats.'), takes: 'round' },
    flat: { ...size('Over the flat', '4.5', 'From the flat to the round opposite it.'), takes: 'round' },
    keyWidth: { ...size('Keyway width', '2', 'Width of the keyway.'), takes: 'flat' },
    keyDepth: size('Keyway depth', '1', 'How far the keyway reaches beyond the round of the bore.'),
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
  },
  quick: ['teeth', 'module', 'height'],
  sentence: (v) => [
    'gear of',
    { field: 'teeth' },
    'teeth,',
    { field: 'sized' },
    { field: { module: 'module', diametral: 'perInch', circular: 'pitch' }[v.sized] },
    ',',
    { field: 'height' },
    'wide, teeth',
    { field: 'run' },
    ...(v.run === 'straight' ? [] : ['at', { field: 'helix' }, { field: 'hand' }]),
    ', play',
    { field: 'play' },
    ', with',
    { field: 'bore' },
    ...(v.bore === 'none' ? [] : [{ field: 'hole' }]),
    ...(v.bore === 'flatted' ? [',', { field: 'flat' }, 'over the flat'] : []),
    ...(v.bore === 'keyed' ? [', keyway', { field: 'keyWidth' }, 'wide and', { field: 'keyDepth' }, 'deep'] : []),
  ],
  impossible(v) {
    const teeth = teethOf(v)
    const { root, thickness, module } = { ...toothSizes(teeth), module: teeth.module }
    if (thickness <= 0.2 * module) return { field: 'play', detail: 'So much play leaves next to nothing of its teeth.' }
    if (rootOf(teeth).form >= tipRadius(teeth) - 0.1 * module)
      return {
        field: 'teeth',
        detail: `So few teeth are cut away at their roots: take more, or a profile shift of ${shiftText(teeth)} or more.`,
      }
    if (pointedAt(teeth) < toothSizes(teeth).tip - 0.3 * module)
      return { field: 'shift', detail: 'Its teeth come to a point far below their tips: shift them less.' }
    const own = impossibleBore(v)
    if (own) return own
    const room = root - boreReach(v)
    if (v.bore !== 'none' && room <= 0.05 * root)
      return {
        field: 'hole',
        detail: `The bore must leave a wall below the teeth, whose roots are at ⌀ ${shown(2 * root)} mm.`,
      }
    return undefined
  },
  box: (v) => {
    const far = (rad: number) => farthest(v, rad)
    return {
      min: [-far(Math.PI), -far(-Math.PI / 2), 0],
      max: [far(0), far(Math.PI / 2), v.height],
    }
  },
  reach: (v, d) => reachOf(v, d),
  surfaces: (v) => {
    const { root } = toothSizes(teethOf(v))
    const inner = boreReach(v)
    return surfacesOf(
      [
        topFace(v.height, 2 * root, 2 * root),
        bottomFace(0, 2 * root, 2 * root),
        ...Array.from({ length: v.teeth }, (_, i) => ({ name: toothName(i) })),
        ...(v.bore === 'round' ? [roundFace('bore', -v.hole / 2, 0, v.height)] : []),
        ...(v.bore === 'none' || v.bore === 'round' ? [] : [{ name: 'bore' }]),
      ],
      {
        at: (p, n) => {
          if (Math.abs(n[2]) > 0.9) return n[2] > 0 ? 'top' : 'bottom'
          if (inner > 0 && Math.hypot(p[0], p[1]) < (inner + root) / 2) return 'bore'
          return toothName(Math.round((Math.atan2(p[1], p[0]) - turnAt(v, p[2])) / ((2 * Math.PI) / v.teeth)), v.teeth)
        },
      },
    )
  },
  edges: (v) => [
    circleEdge('teeth', 2 * tipRadius(teethOf(v))),
    ...(v.bore === 'round' ? [circleEdge('bore', v.hole)] : []),
  ],
  dimensions: (v) => [
    heightBeside([-farthest(v, Math.PI), 0], v.height),
    ...(v.bore === 'round' || v.bore === 'keyed' || v.bore === 'flatted'
      ? [diameterAt('hole', -Math.PI / 4, v.hole, v.height)]
      : []),
  ],
  prism: (v, { fineness }) =>
    v.run === 'straight' ? { low: 0, high: v.height, rings: () => ringsOf(v, fineness) } : undefined,
  solid(v, { scope, fineness }) {
    if (v.run === 'straight') return scope.extrude(ringsOf(v, fineness), v.height)
    const teeth = twisted(scope, v, fineness)
    const bore = boreRing(v, fineness)
    if (!bore) return teeth
    const through = scope.placed(scope.extrude([bore], v.height + 2), {
      origin: [0, 0, -1],
      u: [1, 0, 0],
      v: [0, 1, 0],
      n: [0, 0, 1],
    })
    return scope.difference(teeth, [through])
  },
})

/** mm */
function moduleOf({ sized, module, perInch, pitch }: Values): number {
  return sized === 'module' ? module : sized === 'diametral' ? inch / perInch : pitch / Math.PI
}

function teethOf(v: Values): Teeth {
  const { teeth: count, pressure, shift, play: thinner } = v
  const helix = v.run === 'straight' ? 0 : v.helix
  return acrossAxis({ count, module: moduleOf(v), pressure, helix, shift, thinner, ...isoProfile })
}

const shown = (mm: number) => Math.round(mm * 100) / 100

/** Rounded up, so that it does what it says. */
function shiftText(teeth: Teeth): number {
  return Math.ceil((leastShift(teeth) / teeth.module) * 100) / 100
}

function ringsOf(v: Values, fineness: number): Ring[] {
  const bore = boreRing(v, fineness)
  return [gearRing(teethOf(v), fineness), ...(bore ? [bore.toReversed()] : [])]
}

/** Of each tooth, from the middle of the space before it to that of the space behind it: counted from the right, counter-clockwise. */
function toothName(i: number, count = Infinity): string {
  return `tooth ${(count === Infinity ? i : ((i % count) + count) % count) + 1}`
}

/** How far a section is turned, rad. */
function turnAt(v: Values, z: number): number {
  return twistOf(v) * (v.run === 'herringbone' ? 1 - Math.abs(1 - (2 * z) / v.height) : z / v.height)
}

/** How far the teeth turn from the lower face to the upper one, or to the middle of a herringbone, rad. */
function twistOf(v: Values): number {
  if (v.run === 'straight') return 0
  const long = v.run === 'herringbone' ? v.height / 2 : v.height
  const turn = (long * Math.tan((v.helix * Math.PI) / 180)) / toothSizes(teethOf(v)).pitch
  return v.hand === 'right' ? turn : -turn
}

function twisted(scope: Scope, v: Values, fineness: number): Solid {
  const ring = gearRing(teethOf(v), fineness)
  const [turn, both] = [twistOf(v), v.run === 'herringbone']
  const far = tipRadius(teethOf(v))
  const steps = flatsInUse((segmentsFor(far, fineness) * Math.abs(turn)) / (2 * Math.PI))
  const section = (rad: number, z: number) => turnedBy(ring, rad).map(([x, y]): Vec3 => [x, y, z])
  const count = both ? 2 * steps : steps
  const sections = Array.from({ length: count + 1 }, (_, k) => {
    const share = both ? 1 - Math.abs(1 - k / steps) : k / steps
    return section(turn * share, (v.height * k) / count)
  })
  return skinned(scope, { flat: [ring], lastFlat: [turnedBy(ring, both ? 0 : turn)], sections, fineness })
}

function turnedBy(ring: Ring, rad: number): Ring {
  const [c, s] = [Math.cos(rad), Math.sin(rad)]
  return ring.map(([x, y]) => [c * x - s * y, s * x + c * y] as const)
}

/** How far a section that is not turned reaches in a direction, about the axis. */
function across(teeth: Teeth, rad: number): number {
  const [tip, pitch] = [tipRadius(teeth), (2 * Math.PI) / teeth.count]
  const off = Math.abs(rad - pitch * Math.round(rad / pitch)) - toothSizes(teeth).halfAngle(tip)
  return off <= 0 ? tip : tip * Math.cos(off)
}

/** How far it reaches in a level direction, over all of its width. */
function farthest(v: Values, rad: number): number {
  const teeth = teethOf(v)
  const [tip, pitch, turn] = [tipRadius(teeth), (2 * Math.PI) / teeth.count, twistOf(v)]
  const [from, to] = [Math.min(rad, rad - turn), Math.max(rad, rad - turn)]
  if (Math.ceil(from / pitch) * pitch <= to) return tip
  return Math.max(across(teeth, from), across(teeth, to))
}

function reachOf(v: Values, d: Vec3): number {
  const teeth = teethOf(v)
  const level = Math.hypot(d[0], d[1])
  const rad = Math.atan2(d[1], d[0])
  const turn = twistOf(v)
  const at = (z: number) => level * across(teeth, rad - turnAt(v, z)) + z * d[2]
  const ends = Math.max(at(0), at(v.height))
  if (turn === 0) return ends
  // Between them a tooth may come by: as many places as tell one from the next, and the best of them made better.
  const places = 64
  let best = { z: 0, far: ends }
  for (let i = 0; i <= places; i++) {
    const z = (v.height * i) / places
    if (at(z) > best.far) best = { z, far: at(z) }
  }
  let step = v.height / places
  for (let i = 0; i < 40; i++) {
    for (const z of [best.z - step, best.z + step]) {
      if (z < 0 || z > v.height) continue
      if (at(z) > best.far) best = { z, far: at(z) }
    }
    step *= 0.7
  }
  return best.far
}
