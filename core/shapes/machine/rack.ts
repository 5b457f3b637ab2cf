import { size } from '../../fields/index.ts'
import { rackReach, rackRing } from '../../gears/index.ts'
import type { Ring } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { flatsInUse } from '../../plane/index.ts'
import { defineShape } from '../define.ts'
import { heightBeside } from '../dimensions.ts'
import { bottomFace, sideFaces, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import {
  alongTeeth,
  endingAs,
  playField,
  runningAs,
  shareAt,
  sizedBy,
  type ToothValues,
  teethOf,
  toothCount,
  toothForm,
  toothName,
  toothRun,
  wayOf,
} from './teeth.ts'

interface Values extends Omit<ToothValues, 'shift'> {
  readonly back: number
}

const { shift: _shift, ...form } = toothForm

/** A straight bar with teeth to the back, lying on its side: its pitch line on the x axis, its middle at the origin. */
export const rack = defineShape({
  kind: 'rack',
  label: 'rack',
  words: ['gear rack', 'toothed bar', 'straight teeth', { word: 'helical rack', fields: { run: 'helical' } }],
  shelf: 'machine',
  icon: 'M2 20 V13 H4.5 L6 7 H8 L9.5 13 H11.5 L13 7 H15 L16.5 13 H18.5 L20 7 H22 L23.5 13 H25.5 L27 7 H28.5 L30 13 V20 Z',
  operation: 'add',
  mates: /^tooth/,
  seat: 'stands',
  deep: 'height',
  fields: {
    ...toothCount,
    teeth: { ...toothCount.teeth, default: '16', least: 1 },
    height: size('Width', '8', 'Of its teeth, which is its height as it lies.'),
    back: size('Back', '4', 'From the roots of its teeth to its back.'),
    ...toothRun,
    play: playField('How much thinner each tooth is, along the pitch line'),
    ...form,
  },
  quick: ['teeth', 'module', 'height'],
  sentence: (v) => [
    'rack of',
    { field: 'teeth' },
    'teeth,',
    ...sizedBy(whole(v)),
    ',',
    { field: 'height' },
    'wide with a back of',
    { field: 'back' },
    ...runningAs(whole(v)),
    ', play',
    { field: 'play' },
    ...endingAs(whole(v)),
  ],
  impossible(v) {
    const { module, pressure, addendum, thinner } = teethOf(whole(v))
    const top = (Math.PI * module) / 2 - thinner - 2 * addendum * Math.tan((pressure * Math.PI) / 180)
    if (top <= 0.05 * module) return { field: 'play', detail: 'That much play leaves nothing of its tips.' }
    return undefined
  },
  box: (v) => boxOf(v),
  reach: (v, d) => {
    const teeth = teethOf(whole(v))
    const level = rackReach({ teeth, back: v.back }, [d[0], d[1]])
    return level + Math.max(...[0, 0.5, 1].map((share) => sheared(v, v.height * share, d)))
  },
  surfaces: (v) => {
    const { min, max } = boxOf(v)
    const [long, deep] = [max[0] - min[0], max[1] - min[1]]
    const teeth = teethOf(whole(v))
    const pitch = Math.PI * teeth.module
    const [front] = sideFaces(long, 2 * -min[1], v.height)
    const names = Array.from({ length: v.teeth }, (_, i) => ({ name: toothName(i) }))
    return surfacesOf(
      [
        topFace(v.height, long, deep),
        bottomFace(0, long, deep),
        { ...front!, name: 'back' },
        { name: 'left' },
        { name: 'right' },
        ...names,
      ],
      {
        at: ([x, y, z], n) => {
          if (Math.abs(n[2]) > 0.9) return n[2] > 0 ? 'top' : 'bottom'
          if (n[1] < -0.99 && y < min[1] + 0.01) return 'back'
          const along = x - shearOf(v) * shareAt(whole(v), z)
          if (Math.abs(along) > (v.teeth * pitch) / 2 - 1e-4 && Math.abs(n[0]) > 0.5)
            return along < 0 ? 'left' : 'right'
          const i = Math.round(along / pitch + (v.teeth - 1) / 2)
          return toothName(Math.min(v.teeth - 1, Math.max(0, i)))
        },
      },
    )
  },
  dimensions: (v) => [heightBeside([boxOf(v).min[0], 0], v.height)],
  prism: (v, { fineness }) =>
    v.run === 'straight' ? { low: 0, high: v.height, rings: () => [outlineOf(v, fineness)] } : undefined,
  solid(v, { scope, fineness }) {
    const outline = outlineOf(v, fineness)
    if (v.run === 'straight') return scope.extrude([outline], v.height)
    const way = shearOf(v)
    return alongTeeth(
      scope,
      whole(v),
      (share) => outline.map(([x, y]) => [x + way * share, y] as const),
      flatsInUse(1),
      fineness,
    )
  },
})

/** How far a section at a height has been moved along a direction. */
function sheared(v: Values, z: number, d: Vec3): number {
  return d[0] * shearOf(v) * shareAt(whole(v), z) + d[2] * z
}

function whole(v: Values): ToothValues {
  return { ...v, shift: 0 }
}

/** How far its upper end is moved along it: seen from its teeth, those of a right-hand one rise to the right. */
function shearOf(v: Values): number {
  return -wayOf(whole(v))
}

function outlineOf(v: Values, fineness: number): Ring {
  return rackRing({ teeth: teethOf(whole(v)), back: v.back }, fineness)
}

function boxOf(v: Values) {
  const { module, addendum, dedendum } = teethOf(whole(v))
  const half = (v.teeth * Math.PI * module) / 2
  const way = shearOf(v)
  return {
    min: [-half + Math.min(0, way), -dedendum - v.back, 0] as const,
    max: [half + Math.max(0, way), addendum, v.height] as const,
  }
}
