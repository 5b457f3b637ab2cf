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
import { defineShape, discReach, type ShapeContext } from '../define.ts'
import { diameterAt, heightBeside } from '../dimensions.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import {
  bodied,
  bodyFields,
  bodyHeight,
  bodySaid,
  bodySurfaceFinder,
  bodySurfaces,
  type Carried,
  impossibleBody,
  isPlain,
  type WheelBody,
} from './bodies.ts'
import { boreRing, boreSize, withAcross } from './bores.ts'
import { floored, largest } from './nearest.ts'
import {
  endingAs,
  playField,
  runningAs,
  shareAt,
  shiftText,
  sizedBy,
  type ToothValues,
  teethOf,
  toothCount,
  toothFinder,
  toothForm,
  toothName,
  toothRun,
  toothWords,
  twisted,
  twistOf,
} from './teeth.ts'

interface Values extends WheelBody, ToothValues {}

/** A gear with involute teeth about the z axis, the middle of a tooth to the right of its lower face. */
export const gear = defineShape({
  kind: 'gear',
  version: 2,
  upgrades: [withAcross],
  label: 'gear',
  words: [
    'spur',
    'timing gear',
    'teeth',
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
  mates: /^(?!bore$)/,
  deep: 'height',
  fields: {
    ...toothCount,
    height: size('Width', '8', 'Of its teeth, along its axis.'),
    ...toothRun,
    play: playField('How much thinner each tooth is along the pitch circle, or where it cuts, how much wider its room'),
    ...bodyFields,
    ...toothForm,
  },
  quick: ['teeth', 'module', 'height'],
  sentence: (v) => [...teethSaid(v, 'play'), ...endingAs(v), ...bodySaid(v)],
  cutting: (v) => teethSaid(v, 'room'),
  impossible(v) {
    const teeth = teethOf(v)
    const { thickness, module } = { ...toothSizes(teeth), module: teeth.module }
    if (thickness <= 0.2 * module) {
      const most = floored(v.play - (0.25 * module - thickness))
      const nearest = most >= 0 ? ({ field: 'play', value: most } as const) : undefined
      return { field: 'play', detail: 'That much play leaves next to nothing of its teeth.', nearest }
    }
    if (rootOf(teeth).form >= tipRadius(teeth) - 0.1 * module)
      return {
        field: 'teeth',
        detail: `Too few teeth: they are cut away at their roots. Use more, or a profile shift of ${shiftText(teeth)} or more.`,
        nearest: { field: 'shift', value: shiftText(teeth) },
      }
    if (isPointed(v))
      return {
        field: 'shift',
        detail: 'Its teeth come to a point far below their tips: shift them less.',
        nearest: { field: 'shift', value: largest(v.shift, (shift) => !isPointed({ ...v, shift })) },
      }
    return impossibleBody(v, carriedBy(v))
  },
  box: (v) => {
    const far = (rad: number) => farthest(v, rad)
    return {
      min: [-far(Math.PI), -far(-Math.PI / 2), 0],
      max: [far(0), far(Math.PI / 2), bodyHeight(v, v.height)],
    }
  },
  reach: (v, d) =>
    v.hub === 'none' ? reachOf(v, d) : Math.max(reachOf(v, d), discReach(v.hubWidth / 2, bodyHeight(v, v.height), d)),
  surfaces: (v) => {
    const carried = carriedBy(v)
    const [body, tooth] = [bodySurfaceFinder(v, carried), toothFinder(v)]
    const across = 2 * carried.root
    return surfacesOf(
      [
        topFace(v.height, across, across),
        bottomFace(0, across, across),
        ...Array.from({ length: v.teeth }, (_, i) => ({ name: toothName(i) })),
        ...bodySurfaces(v, carried),
      ],
      { at: (p, n) => body(p, n) ?? tooth(p) },
    )
  },
  edges: (v) => [
    circleEdge('teeth', 2 * tipRadius(teethOf(v))),
    ...(v.bore === 'round' ? [circleEdge('bore', v.hole)] : []),
    ...(v.hub === 'none' ? [] : [circleEdge('hub', v.hubWidth)]),
  ],
  dimensions: (v) => [
    heightBeside([-farthest(v, Math.PI), 0], v.height),
    ...(v.bore !== 'none' && boreSize(v) === 'hole' ? [diameterAt('hole', -Math.PI / 4, v.hole, v.height)] : []),
    ...(v.hub === 'none' ? [] : [diameterAt('hubWidth', Math.PI / 4, v.hubWidth, bodyHeight(v, v.height))]),
  ],
  prism: (v, context) =>
    v.run === 'straight' && (context.cuts || isPlain(v))
      ? { low: 0, high: v.height, rings: () => ringsOf(v, context) }
      : undefined,
  solid(v, context) {
    const { scope, fineness, cuts } = context
    if (v.run === 'straight' && (cuts || isPlain(v))) return scope.extrude(ringsOf(v, context), v.height)
    const outline = outlineOf(v, context)
    const teeth = v.run === 'straight' ? scope.extrude([outline], v.height) : twisted(scope, v, outline, fineness)
    return cuts ? teeth : bodied(scope, v, teeth, { ...carriedBy(v), far: tipRadius(teethOf(v)), fineness })
  },
})

/** What its body carries. */
function carriedBy(v: Values): Carried {
  return { root: toothSizes(teethOf(v)).root, height: v.height, words: toothWords(v) }
}

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
