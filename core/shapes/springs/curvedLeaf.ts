import { size } from '../../fields/index.ts'
import { type Ring, segmentsFor } from '../../kernel/index.ts'
import { flatsInUse } from '../../plane/index.ts'
import { defineShape } from '../define.ts'
import { sheetOfRings } from '../sheet.ts'
import type { SpringFacts, SpringStuff } from './define.ts'
import { arcAlong, curvedStrain, stripBox, stripReach, stripSurfaces } from './strip.ts'

interface Values {
  readonly radius: number
  readonly span: number
  readonly thick: number
  readonly width: number
  readonly travel: number
}

/** A leaf that is curved, held at one end and pushed at the other one towards its middle, or away from it; it lies on its side. */
export const curvedLeaf = defineShape({
  kind: 'curved-leaf',
  label: 'curved leaf spring',
  words: ['curved spring', 'bow spring', 'C spring', 'arc spring'],
  shelf: 'machine',
  icon: 'M5 20 A12 12 0 0 1 27 20 M8 20 A9 9 0 0 1 24 20 M5 20 H8 M24 20 H27',
  operation: 'add',
  seat: 'stands',
  deep: 'width',
  fields: {
    radius: size('Radius', '20', 'Radius of the middle of the leaf.'),
    span: {
      kind: 'angle',
      label: 'Span',
      default: '120',
      least: 5,
      most: 350,
      meaning: 'How far round it goes, from where it is held to where it is pushed.',
    },
    thick: size('Thickness', '1.2', 'Thickness, the way it bends.'),
    width: size('Width', '8', 'Width across, which is its height as it is printed.'),
    travel: size('Travel', '2', 'How far its end is pushed, towards its middle or away.'),
  },
  quick: ['radius', 'span', 'thick', 'width'],
  sentence: () => [
    'curved leaf spring of radius',
    { field: 'radius' },
    'over',
    { field: 'span' },
    ',',
    { field: 'thick' },
    'thick and',
    { field: 'width' },
    'wide, pushed by',
    { field: 'travel' },
  ],
  impossible: (v) =>
    v.thick > v.radius / 3
      ? {
          field: 'thick',
          detail: `Too thick to be a spring: a third of its radius at most (${Number((v.radius / 3).toFixed(3))} mm).`,
        }
      : undefined,
  box: (v) => stripBox(outline(v, dense), v.width),
  reach: (v, d) => stripReach(outline(v, dense), v.width, d),
  // Its sides look to the middle or away from it, its ends along it.
  surfaces: (v) =>
    stripSurfaces(outline(v, dense), v.width, ([x, y], n) => Math.abs(x * n[0] + y * n[1]) < 0.5 * Math.hypot(x, y)),
  dimensions: (v) => {
    const at = ((90 - v.span / 2) * Math.PI) / 180
    const [x, y] = [Math.cos(at), Math.sin(at)]
    const far = v.radius + v.thick / 2
    const near = v.radius - v.thick / 2
    return [
      {
        ...{ kind: 'linear', field: 'thick', from: [near * x, near * y, v.width], to: [far * x, far * y, v.width] },
        offset: [y, -x, 0],
      },
      {
        ...{ kind: 'linear', field: 'width', from: [far * x, far * y, 0], to: [far * x, far * y, v.width] },
        offset: [x, y, 0],
      },
    ]
  },
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v, dense / 4)], v.width),
  solid: (v, { scope, fineness }) =>
    scope.extrude([outline(v, flats(v, segmentsFor(v.radius + v.thick / 2, fineness)))], v.width),
})

/** Castigliano's theorem: at an angle from its end the moment of a force F across it is F R sin; strain as of a curved beam. */
function facts({ radius, span, thick, width, travel }: Values, { stiffness }: SpringStuff): SpringFacts {
  const inertia = (width * thick ** 3) / 12
  const round = (span * Math.PI) / 180
  const rate = (stiffness * inertia) / (radius ** 3 * (round / 2 - Math.sin(2 * round) / 4))
  const force = rate * travel
  const moment = force * radius * (span < 90 ? Math.sin(round) : 1)
  return {
    ...{ rate, per: 'mm', travel, force },
    strain: curvedStrain(moment, { radius, wide: thick, height: width, stiffness }),
  }
}

/** Flats where its extents are told: they are met to a hundred-thousandth of its radius. */
const dense = 720
const flats = (v: Values, segments: number) => Math.max(2, flatsInUse((segments * v.span) / 360))

/** About the middle of its arc, which is open to the front. */
function outline({ radius, span, thick }: Values, count: number): Ring {
  const [from, to] = [90 - span / 2, 90 + span / 2]
  return [
    ...arcAlong(radius + thick / 2, from, to, count),
    ...arcAlong(radius - thick / 2, from, to, count).toReversed(),
  ]
}
