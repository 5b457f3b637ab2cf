import { size } from '../../fields/index.ts'
import type { Ring } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { blockDimensions } from '../dimensions.ts'
import { bottomFace, edgeFaces, sideFaces, topFace } from '../faces.ts'
import { cornerRounds, prismReach } from '../prismatic.ts'
import { sheetOfRings } from '../sheet.ts'
import { surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly web: number
  readonly thin: number
  readonly land: number
  readonly thick: number
  readonly width: number
  readonly fold: number
}

/**
 * A thin web between two lands, which folds: it lies on its side, so that its layers run along the web and not across it.
 *
 *     ┌────┐      ┌────┐
 *     │    └──────┘    │   web at the back, lands to the front
 *     └────────────────┘
 */
export const livingHinge = defineShape({
  kind: 'living-hinge',
  label: 'living hinge',
  words: ['flexure', 'film hinge', 'thin web', 'integral hinge', 'fold'],
  shelf: 'machine',
  icon: 'M3 6 H12 V15 H20 V6 H29 V18 H3 Z',
  operation: 'add',
  seat: 'stands',
  deep: 'width',
  fields: {
    web: size('Web', '4', 'Length of the web, from land to land.'),
    thin: size('Web thickness', '0.6', 'Thickness of the web, the way it folds.'),
    land: size('Lands', '6', 'Length of each land beside the web.'),
    thick: size('Land thickness', '3', 'Thickness of the lands.'),
    width: size('Width', '20', 'Width across, which is its height as it is printed.'),
    fold: {
      kind: 'angle',
      label: 'Folds by',
      default: '60',
      above: 0,
      most: 180,
      meaning: 'How far one land is folded against the other.',
    },
  },
  quick: ['web', 'thin', 'width'],
  sentence: () => [
    'living hinge, web',
    { field: 'web' },
    'long and',
    { field: 'thin' },
    'thick between lands',
    { field: 'land' },
    'long and',
    { field: 'thick' },
    'thick,',
    { field: 'width' },
    'wide, folded by',
    { field: 'fold' },
  ],
  impossible: (v) =>
    v.thin >= v.thick
      ? { field: 'thin', detail: `The web must be thinner than its lands (${v.thick} mm).` }
      : undefined,
  box: (v) => ({ min: [-half(v), -v.thick / 2, 0], max: [half(v), v.thick / 2, v.width] }),
  reach: (v, d) => prismReach(cornerRounds(outline(v)), 0, v.width, d),
  surfaces: (v) =>
    surfacesOf([
      topFace(v.width, 2 * half(v), v.thick),
      bottomFace(0, 2 * half(v), v.thick),
      // Both lands look to the front in one plane, and are one face.
      sideFaces(2 * half(v), v.thick, v.width)[0]!,
      ...edgeFaces('side', outline(v), v.width).filter((_, i) => i !== 0 && i !== 4),
    ]),
  dimensions: (v) => {
    const x = v.web / 2
    const y = v.thick / 2
    return [
      { kind: 'linear', field: 'web', from: [-x, y, v.width], to: [x, y, v.width], offset: [0, 1, 0] },
      ...blockDimensions('land', 'thick', 'width', [0, 0, v.width]).slice(2),
    ]
  },
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v)], v.width),
  solid: (v, { scope }) => scope.extrude([outline(v)], v.width),
})

/** A web that is bent evenly (Howell, Compliant Mechanisms, small-length flexural pivots with an end moment). */
function facts({ web, thin, width, fold }: Values, { stiffness }: SpringStuff): SpringFacts {
  const degree = Math.PI / 180
  const rate = ((stiffness * width * thin ** 3) / (12 * web)) * degree
  return {
    ...{ rate, per: 'degree', travel: fold, force: rate * fold, strain: (fold * degree * thin) / (2 * web) },
    more: [{ label: 'Folded round', text: `a radius of ${Number((web / (fold * degree)).toPrecision(3))} mm` }],
  }
}

const half = ({ web, land }: Pick<Values, 'web' | 'land'>) => web / 2 + land

/** Its lands reach to the front, its web lies at the back. */
function outline(v: Values): Ring {
  const [x, out, y] = [v.web / 2, half(v), v.thick / 2]
  const step = y - v.thin
  return [
    [-out, -y],
    [-x, -y],
    [-x, step],
    [x, step],
    [x, -y],
    [out, -y],
    [out, y],
    [-out, y],
  ]
}
