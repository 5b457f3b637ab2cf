import { size } from '../../fields/index.ts'
import {
  gearRing,
  openingOf,
  openingRing,
  pointedAt,
  rootOf,
  tipCorner,
  tipRadius,
  toothSizes,
} from '../../gears/index.ts'
import type { Ring } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { defineShape, type ShapeContext } from '../define.ts'
import { diameterAt, heightBeside } from '../dimensions.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, roundFace, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import { type Bore, boreForms, boreReach, boreRing, impossibleBore } from './bores.ts'
import {
  endingAs,
  runningAs,
  shareAt,
  shiftText,
  sizedBy,
  type ToothValues,
  teethOf,
  toothAt,
  toothCount,
  toothForm,
  toothName,
  toothRun,
  twisted,
  twistOf,
} from './teeth.ts'

interface Values extends Bore, ToothValues {}

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
  wheel: true,
  deep: 'height',
  fields: {
    ...toothCount,
    height: size('Width', '8', 'Of its teeth, along its axis.'),
    ...toothRun,
    play: {
      kind: 'length',
      label: 'Play',
      default: '0.1',
      least: 0,
      most: 5,
      meaning:
        'How much thinner each tooth is along the pitch circle, or where it cuts, how much wider its room; a fit by name follows the printer.',
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
    ...toothForm,
  },
  quick: ['teeth', 'module', 'height'],
  sentence: (v) => [
    ...teethSaid(v, 'play'),
    ...endingAs(v),
    ', with',
    { field: 'bore' },
    ...(v.bore === 'none' ? [] : [{ field: 'hole' }]),
    ...(v.bore === 'flatted' ? [',', { field: 'flat' }, 'over the flat'] : []),
    ...(v.bore === 'keyed' ? [', keyway', { field: 'keyWidth' }, 'wide and', { field: 'keyDepth' }, 'deep'] : []),
  ],
  cutting: (v) => teethSaid(v, 'room'),
  impossible(v) {
    const teeth = teethOf(v)
    const { root, thickness, module } = { ...toothSizes(teeth), module: teeth.module }
    if (thickness <= 0.2 * module) {
      const most = floored(v.play - (0.25 * module - thickness))
      const nearest = most >= 0 ? ({ field: 'play', value: most } as const) : undefined
      return { field: 'play', detail: 'So much play leaves next to nothing of its teeth.', nearest }
    }
    if (rootOf(teeth).form >= tipRadius(teeth) - 0.1 * module)
      return {
        field: 'teeth',
        detail: `So few teeth are cut away at their roots: take more, or a profile shift of ${shiftText(teeth)} or more.`,
        nearest: { field: 'shift', value: shiftText(teeth) },
      }
    if (isPointed(v))
      return {
        field: 'shift',
        detail: 'Its teeth come to a point far below their tips: shift them less.',
        nearest: { field: 'shift', value: largest(v.shift, (shift) => !isPointed({ ...v, shift })) },
      }
    const own = impossibleBore(v)
    if (own) return own
    const fits = (hole: number) => root - boreReach({ ...v, hole }) > 0.05 * root
    if (v.bore !== 'none' && !fits(v.hole)) {
      const most = largest(v.hole, fits)
      return {
        field: 'hole',
        detail: `The bore must leave a wall below the teeth, whose roots are at ⌀ ${shown(2 * root)} mm.`,
        nearest: most > 0 ? { field: 'hole', value: most } : undefined,
      }
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
          return toothAt(v, p)
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
  prism: (v, context) =>
    v.run === 'straight' ? { low: 0, high: v.height, rings: () => ringsOf(v, context) } : undefined,
  solid(v, context) {
    const { scope, fineness, cuts } = context
    if (v.run === 'straight') return scope.extrude(ringsOf(v, context), v.height)
    const teeth = twisted(scope, v, outlineOf(v, context), fineness)
    const bore = cuts ? undefined : boreRing(v, fineness)
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

function teethSaid(v: Values, play: string) {
  return [
    'gear of',
    { field: 'teeth' },
    'teeth,',
    ...sizedBy(v),
    ',',
    { field: 'height' },
    'wide',
    ...runningAs(v),
    `, ${play}`,
    { field: 'play' },
  ]
}

function isPointed(v: Values): boolean {
  const teeth = teethOf(v)
  return pointedAt(teeth) < toothSizes(teeth).tip - 0.3 * teeth.module
}

/** The largest hundredth below a value that will do; 0 where none does. */
function largest(from: number, will: (value: number) => boolean): number {
  let [low, high] = [0, from]
  if (!will(low)) return 0
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (will(middle)) low = middle
    else high = middle
  }
  return floored(low)
}

const floored = (value: number) => Math.floor(value * 100 + 1e-9) / 100
const shown = (mm: number) => Math.round(mm * 100) / 100

/** Where it takes material away it leaves an internal gear, and no bore. */
function outlineOf(v: Values, { cuts, fineness }: Pick<ShapeContext, 'cuts' | 'fineness'>): Ring {
  const teeth = teethOf(v)
  return cuts ? openingRing(openingOf(teeth, v.play), fineness) : gearRing(teeth, fineness)
}

function ringsOf(v: Values, context: Pick<ShapeContext, 'cuts' | 'fineness'>): Ring[] {
  const bore = context.cuts ? undefined : boreRing(v, context.fineness)
  return [outlineOf(v, context), ...(bore ? [bore.toReversed()] : [])]
}

/** How far a section that is not turned reaches in a direction, about the axis. */
function across(count: number, { radius, beside, round }: ReturnType<typeof tipCorner>, rad: number): number {
  const pitch = (2 * Math.PI) / count
  const off = Math.abs(rad - pitch * Math.round(rad / pitch)) - beside
  return round + radius * Math.cos(Math.max(0, off))
}

/** How far it reaches in a level direction, over all of its width. */
function farthest(v: Values, rad: number): number {
  const teeth = teethOf(v)
  const [tip, pitch, turn] = [tipRadius(teeth), (2 * Math.PI) / teeth.count, twistOf(v)]
  const [from, to] = [Math.min(rad, rad - turn), Math.max(rad, rad - turn)]
  if (Math.ceil(from / pitch) * pitch <= to) return tip
  const corner = tipCorner(teeth)
  return Math.max(across(v.teeth, corner, from), across(v.teeth, corner, to))
}

function reachOf(v: Values, d: Vec3): number {
  const teeth = teethOf(v)
  const level = Math.hypot(d[0], d[1])
  const rad = Math.atan2(d[1], d[0])
  const turn = twistOf(v)
  const corner = tipCorner(teeth)
  const at = (z: number) => level * across(v.teeth, corner, rad - turn * shareAt(v, z)) + z * d[2]
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
