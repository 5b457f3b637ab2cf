import { size } from '../../fields/index.ts'
import { type Ring, segmentsFor } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { sheetOfRings } from '../sheet.ts'
import type { SpringFacts, SpringStuff } from './define.ts'
import { arcAlong, curvedStrain, stripBox, stripReach, stripSurfaces } from './strip.ts'

interface Values {
  readonly legs: number
  readonly apart: number
  readonly thick: number
  readonly width: number
  readonly travel: number
}

/**
 * A leaf that is folded back on itself round a bend of half a turn: a hairpin, whose legs run along x and are pressed together, or pulled
 * apart, at their ends. It lies on its side.
 *
 *     ┌─────────────╮
 *     └───────────╮ │
 *     ┌───────────╯ │
 *     └─────────────╯
 */
export const foldedLeaf = defineShape({
  kind: 'folded-leaf',
  label: 'folded leaf spring',
  words: ['hairpin spring', 'U spring', 'clip spring', 'tweezers', 'V spring'],
  shelf: 'machine',
  icon: 'M3 5 H21 A7 7 0 0 1 21 19 H3 M3 8.5 H21 A3.5 3.5 0 0 1 21 15.5 H3 M3 5 V8.5 M3 15.5 V19',
  operation: 'add',
  seat: 'stands',
  deep: 'width',
  fields: {
    legs: size('Legs', '30', 'Length of each leg, from its end to the bend.'),
    apart: size('Apart', '8', 'From leg to leg, middle to middle: twice the radius of the bend.'),
    thick: size('Thickness', '1.4', 'Thickness, the way it bends.'),
    width: size('Width', '8', 'Width across, which is its height as it is printed.'),
    travel: size('Travel', '4', 'How far the ends of its legs are pressed together, both of them counted.'),
  },
  quick: ['legs', 'apart', 'thick', 'width'],
  sentence: () => [
    'folded leaf spring with legs',
    { field: 'legs' },
    'long and',
    { field: 'apart' },
    'apart,',
    { field: 'thick' },
    'thick and',
    { field: 'width' },
    'wide, pressed by',
    { field: 'travel' },
  ],
  impossible: (v) =>
    v.thick >= 0.9 * v.apart
      ? {
          field: 'thick',
          detail: `Its legs would run into each other: less than ${Number((0.9 * v.apart).toFixed(3))} mm.`,
        }
      : v.travel > v.apart - v.thick
        ? {
            field: 'travel',
            detail: `Its legs meet before that: ${Number((v.apart - v.thick).toFixed(3))} mm at most.`,
          }
        : undefined,
  box: (v) => stripBox(outline(v, dense), v.width),
  reach: (v, d) => stripReach(outline(v, dense), v.width, d),
  surfaces: (v) => stripSurfaces(outline(v, dense), v.width, ([x], n) => n[0] < -0.99 && Math.abs(x) < 1e-6),
  dimensions: (v) => {
    const [y, t] = [v.apart / 2, v.thick / 2]
    return [
      { kind: 'linear', field: 'legs', from: [0, -y - t, 0], to: [v.legs, -y - t, 0], offset: [0, -1, 0] },
      { kind: 'linear', field: 'apart', from: [0, -y, v.width], to: [0, y, v.width], offset: [-1, 0, 0] },
      { kind: 'linear', field: 'width', from: [v.legs, y + t, 0], to: [v.legs, y + t, v.width], offset: [0, 1, 0] },
    ]
  },
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v, dense / 8)], v.width),
  solid: (v, { scope, fineness }) =>
    scope.extrude([outline(v, Math.max(4, segmentsFor((v.apart + v.thick) / 2, fineness) / 2))], v.width),
})

/**
 * Castigliano's theorem over half of it, twice: F (L³ / 3 + r (π L² / 2 + 2 L r + π r² / 4)) / E I; strain in the middle of the bend, whose
 * moment is F (L + r), as of a curved beam.
 */
function facts({ legs, apart, thick, width, travel }: Values, { stiffness }: SpringStuff): SpringFacts {
  const r = apart / 2
  const inertia = (width * thick ** 3) / 12
  const gives = 2 * (legs ** 3 / 3 + r * ((Math.PI * legs ** 2) / 2 + 2 * legs * r + (Math.PI * r * r) / 4))
  const rate = (stiffness * inertia) / gives
  const force = rate * travel
  return {
    ...{ rate, per: 'mm', travel, force },
    strain: curvedStrain(force * (legs + r), { radius: r, wide: thick, height: width, stiffness }),
    more: [{ label: 'Room between legs', text: `${Number((apart - thick).toFixed(2))} mm` }],
  }
}

/** Flats of half a turn where its extents are told. */
const dense = 720

/** From the end of the lower leg along its outside, round the bend, and back inside. */
function outline({ legs, apart, thick }: Values, count: number): Ring {
  const [inner, outer] = [apart / 2 - thick / 2, apart / 2 + thick / 2]
  const bend = (radius: number) => arcAlong(radius, -90, 90, count).map(([x, y]) => [x + legs, y] as const)
  return [[0, -outer], ...bend(outer), [0, outer], [0, inner], ...bend(inner).toReversed(), [0, -inner]]
}
