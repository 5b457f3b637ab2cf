import type { FieldTexts } from '../../document/index.ts'
import { size } from '../../fields/index.ts'
import { type Bevel, bevelRing, bevelSizes } from '../../gears/index.ts'
import { type Ring, type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { defineShape, discReach } from '../define.ts'
import { diameterAt } from '../dimensions.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, roundFace, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import { type Bore, boreFields, boreReach, boreRing, boreSaid, boreSize, impossibleBoreIn } from './bores.ts'
import { floored } from './nearest.ts'
import { moduleOf, playField, sizedBy, type ToothValues, toothCount, toothForm, toothName } from './teeth.ts'

export interface BevelValues
  extends Bore,
    Pick<ToothValues, 'teeth' | 'sized' | 'module' | 'perInch' | 'pitch' | 'pressure' | 'play'> {
  /** teeth of the gear that it runs with, and the angle of their axes, degrees */
  readonly mate: number
  readonly axes: number
  /** of the teeth along the cone */
  readonly width: number
  /** from the base to the outer end of the roots */
  readonly back: number
}

/** A gear and its mate with as many teeth: how many, and the module. */
function mitreOf([teeth, module]: readonly string[]): FieldTexts {
  return { ...(teeth === undefined ? {} : { teeth, mate: teeth }), ...(module === undefined ? {} : { module }) }
}

/** Tips lie on a cone that is no flatter, rad. */
const flattest = (85 * Math.PI) / 180

/** A straight bevel gear about the z axis, on its back, its apex above it. */
export const bevelGear = defineShape({
  kind: 'bevel-gear',
  label: 'bevel gear',
  words: [
    ...['straight bevel gear', 'cone gear', 'conical gear', 'angle drive', 'crown wheel'],
    ...['mitre gear', 'miter gear'].map((word) => ({ word, take: mitreOf })),
  ],
  shelf: 'machine',
  icon: 'M3 20 H29 L26.5 17.5 H5.5 Z M5.5 17.5 L12 6 H20 L26.5 17.5 M8.5 17.5 L13.4 6 M11.8 17.5 L14.9 6 M16 17.5 V6 M20.2 17.5 L17.1 6 M23.5 17.5 L18.6 6',
  operation: 'add',
  seat: 'stands',
  wheel: true,
  mates: /^(?!bore$)/,
  fields: {
    ...toothCount,
    teeth: { ...toothCount.teeth, least: 8, most: 200 },
    mate: {
      ...toothCount.teeth,
      label: 'Teeth of its mate',
      least: 8,
      most: 200,
      meaning: 'Number of teeth of the bevel gear that it runs with: the cones of both follow from it.',
    },
    width: size('Face width', '6', 'Of its teeth, along the cone.'),
    back: size('Back', '3', 'From the base to the outer end of the roots of its teeth.'),
    axes: {
      kind: 'angle',
      label: 'Angle of the axes',
      default: '90',
      least: 30,
      most: 150,
      meaning: 'Between its axis and that of its mate.',
      rare: true,
    },
    play: playField('How much thinner each tooth is along the pitch circle'),
    ...boreFields,
    pressure: toothForm.pressure,
  },
  quick: ['teeth', 'mate', 'module'],
  sentence: (v) => [
    'bevel gear of',
    { field: 'teeth' },
    'teeth to run with',
    { field: 'mate' },
    ',',
    ...sizedBy(v),
    'at the outer end,',
    { field: 'width' },
    'wide, back',
    { field: 'back' },
    ', axes at',
    { field: 'axes' },
    ', play',
    { field: 'play' },
    ...boreSaid(v),
  ],
  impossible(v) {
    const bevel = bevelOf(v)
    const { tip, root, pitch, distance, halfAngle } = bevelSizes(bevel)
    if (!(pitch > 0 && tip < flattest)) {
      const fits = (mate: number) => {
        const own = bevelSizes(bevelOf({ ...v, mate }))
        return own.pitch > 0 && own.tip < flattest
      }
      const mate = Array.from({ length: 200 }, (_, i) => v.mate + i + 1).find(fits)
      return {
        field: 'mate',
        detail: 'With too few teeth on its mate, its own cone is all but flat, or past that.',
        nearest: mate !== undefined && mate <= 200 ? { field: 'mate', value: mate } : undefined,
      }
    }
    if (root <= 0.03)
      return { field: 'mate', detail: 'With too many teeth on its mate, its own cone has no room for roots.' }
    const widest = floored(distance * 0.5)
    if (v.width > widest)
      return {
        field: 'width',
        detail: `Teeth reach no farther in than half-way to the apex: ${widest} mm or less.`,
        nearest: { field: 'width', value: widest },
      }
    const module = bevel.module
    const thick = (play: number) => (Math.PI * module) / 2 - play
    if (thick(v.play) < 0.8 * module)
      return {
        field: 'play',
        detail: 'That much play leaves next to nothing of its teeth.',
        nearest: { field: 'play', value: floored((Math.PI / 2 - 0.8) * module) },
      }
    if (halfAngle(tip) <= 0)
      return {
        field: 'pressure',
        detail: 'Its teeth come to a point below their tips: take a smaller pressure angle or play.',
      }
    return impossibleBoreIn(v, { root: conesOf(v).innerRoot[0], wall: 0.5, below: 'the teeth, whose roots end' })
  },
  box: (v) => {
    const { outerTip, innerTip } = conesOf(v)
    const far = (rad: number) => Math.max(tipReach(v, outerTip[0], rad), conesOf(v).outerRoot[0])
    return {
      min: [-far(Math.PI), -far(-Math.PI / 2), 0],
      max: [far(0), far(Math.PI / 2), Math.max(innerTip[1], outerTip[1])],
    }
  },
  reach: (v, d) => {
    const { outerTip, innerTip, outerRoot } = conesOf(v)
    const level = Math.hypot(d[0], d[1])
    const rad = Math.atan2(d[1], d[0])
    const tips = [outerTip, innerTip].map(([r, z]) => level * tipReach(v, r, rad) + z * d[2])
    return Math.max(...tips, discReach(outerRoot[0], 0, d), discReach(outerRoot[0], v.back, d))
  },
  surfaces: (v) => {
    const { innerRoot, outerRoot } = conesOf(v)
    const inner = boreReach(v)
    return surfacesOf(
      [
        topFace(innerRoot[1], 2 * innerRoot[0], 2 * innerRoot[0]),
        bottomFace(0, 2 * outerRoot[0], 2 * outerRoot[0]),
        roundFace('outside', outerRoot[0], 0, v.back),
        ...Array.from({ length: v.teeth }, (_, i) => ({ name: toothName(i) })),
        ...(v.bore === 'round' ? [roundFace('bore', -v.hole / 2, 0, innerRoot[1])] : []),
        ...(v.bore === 'none' || v.bore === 'round' ? [] : [{ name: 'bore' }]),
      ],
      {
        at: ([x, y, z], n) => {
          const r = Math.hypot(x, y)
          if (n[2] < -0.999 && z < 1e-3) return 'bottom'
          if (n[2] > 0.999 && Math.abs(z - innerRoot[1]) < 1e-3 && r < innerRoot[0] + 1e-3) return 'top'
          if (Math.abs(n[2]) < 0.01) {
            if (inner > 0 && r < inner + 0.25) return 'bore'
            if (z < v.back + 1e-3 && x * n[0] + y * n[1] > 0) return 'outside'
          }
          return toothName(Math.round((Math.atan2(y, x) * v.teeth) / (2 * Math.PI)), v.teeth)
        },
      },
    )
  },
  edges: (v) => [
    circleEdge('outside', 2 * conesOf(v).outerRoot[0]),
    ...(v.bore === 'round' ? [circleEdge('bore', v.hole)] : []),
  ],
  dimensions: (v) => {
    const { outerRoot, innerRoot, outerPitch, innerPitch } = conesOf(v)
    return [
      {
        kind: 'linear',
        field: 'back',
        from: [-outerRoot[0], 0, 0],
        to: [-outerRoot[0], 0, v.back],
        offset: [-1, 0, 0],
      },
      {
        kind: 'linear',
        field: 'width',
        from: [outerPitch[0], 0, outerPitch[1]],
        to: [innerPitch[0], 0, innerPitch[1]],
        offset: [0, -1, 0],
      },
      ...(v.bore !== 'none' && boreSize(v) === 'hole' ? [diameterAt('hole', -Math.PI / 4, v.hole, innerRoot[1])] : []),
    ]
  },
  solid(v, { scope, fineness, cuts }) {
    const solid = scope.intersection([rays(scope, v, fineness), blank(scope, v, fineness)])
    const bore = cuts ? undefined : boreRing(v, fineness)
    if (!bore) return solid
    const through = scope.placed(scope.extrude([bore], conesOf(v).apex + 2), {
      ...{ origin: [0, 0, -1], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
    })
    return scope.difference(solid, [through])
  },
})

export function bevelOf(v: BevelValues): Bevel {
  const module = moduleOf(v)
  return {
    ...{ count: v.teeth, mate: v.mate, axes: v.axes, pressure: v.pressure, module },
    ...{ addendum: module, dedendum: 1.25 * module, thinner: v.play },
  }
}

/** How high its apex lies over its base, mm. */
export function apexOf(v: BevelValues): number {
  return conesOf(v).apex
}

/** Where its cones end, as [radius, height]. */
function conesOf(v: BevelValues) {
  const { distance, pitch, tip, root } = bevelSizes(bevelOf(v))
  const at = (angle: number, along: number) => {
    const ray = along / Math.cos(angle - pitch)
    return [ray * Math.sin(angle), ray * Math.cos(angle)] as const
  }
  const apex = v.back + at(root, distance)[1]
  const placed = (angle: number, along: number) => {
    const [r, depth] = at(angle, along)
    return [r, apex - depth] as const
  }
  const inner = distance - v.width
  return {
    apex,
    outerPitch: placed(pitch, distance),
    innerPitch: placed(pitch, inner),
    outerTip: placed(tip, distance),
    outerRoot: placed(root, distance),
    innerTip: placed(tip, inner),
    innerRoot: placed(root, inner),
    /** on the ends of the teeth, beyond their tips */
    beyond: (along: 'outer' | 'inner') => placed(tip + 0.05, along === 'outer' ? distance : inner),
  }
}

/** How far the tips on a circle reach in a level direction, seen from the axis. */
function tipReach(v: BevelValues, radius: number, rad: number): number {
  const { tip, halfAngle } = bevelSizes(bevelOf(v))
  const pitch = (2 * Math.PI) / v.teeth
  const off = Math.abs(rad - pitch * Math.round(rad / pitch)) - Math.max(0, halfAngle(tip))
  return radius * Math.cos(Math.max(0, off))
}

/** All rays of its section from the apex, between a level below its base and one above its teeth. */
function rays(scope: Scope, v: BevelValues, fineness: number): Solid {
  const { apex, innerRoot, innerTip } = conesOf(v)
  const bevel = bevelOf(v)
  const depths = [apex + 1, 0.7 * (apex - Math.max(innerRoot[1], innerTip[1]))] as const
  const [low, high] = depths.map((depth) => bevelRing(bevel, depth, fineness)) as [Ring, Ring]
  const count = low.length
  const points = [
    ...low.map(([x, y]): Vec3 => [x, y, apex - depths[0]]),
    ...high.map(([x, y]): Vec3 => [x, y, apex - depths[1]]),
  ]
  const caps = scope.triangulated([low])
  const sides = low.flatMap((_, i) => {
    const k = (i + 1) % count
    return [[i, k, count + k] as const, [i, count + k, count + i] as const]
  })
  return scope.surface(points, [
    ...caps.map(([a, b, c]) => [a, c, b] as const),
    ...caps.map(([a, b, c]) => [count + a, count + b, count + c] as const),
    ...sides,
  ])
}

/** What is turned about the axis: its back, and the ends of its teeth, which are square to the pitch cone. */
function blank(scope: Scope, v: BevelValues, fineness: number): Solid {
  const { outerRoot, innerRoot, beyond } = conesOf(v)
  const outline: Ring = [
    [0, 0],
    [outerRoot[0], 0],
    outerRoot,
    beyond('outer'),
    beyond('inner'),
    innerRoot,
    [0, innerRoot[1]],
  ]
  return scope.revolve(outline, segmentsFor(beyond('outer')[0], fineness))
}
