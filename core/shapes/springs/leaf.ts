import { size } from '../../fields/index.ts'
import type { Ring } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { blockDimensions } from '../dimensions.ts'
import { bottomFace, edgeFaces, topFace } from '../faces.ts'
import { cornerRounds, prismReach } from '../prismatic.ts'
import { sheetOfRings } from '../sheet.ts'
import { surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly length: number
  readonly thick: number
  readonly width: number
  readonly held: string
  readonly travel: number
}

/** A straight leaf that is bent across its thickness; it lies on its side, so that its layers run along it. */
export const leaf = defineShape({
  kind: 'leaf-spring',
  label: 'leaf spring',
  words: ['diving board', 'spring arm', 'flexible arm', 'leaf', 'flat spring', 'cantilever', 'blade', 'tongue'],
  shelf: 'machine',
  icon: 'M3 14 C10 8 22 8 29 14 M3 17 C10 11 22 11 29 17 M3 14 V17 M29 14 V17',
  operation: 'add',
  seat: 'stands',
  deep: 'width',
  fields: {
    length: size('Length', '30', 'Length that is free to bend.'),
    thick: size('Thickness', '1.2', 'Thickness, the way it bends.'),
    width: size('Width', '8', 'Width across, which is its height as it is printed.'),
    held: {
      kind: 'choice',
      label: 'Held',
      default: 'one',
      choices: { one: 'held at one end', both: 'held at both ends', lying: 'lying on both ends' },
      meaning: 'How it is held: pushed at its other end, or in its middle.',
    },
    travel: size('Travel', '2', 'How far it is pushed.'),
  },
  quick: ['length', 'thick', 'width'],
  sentence: () => [
    'leaf spring',
    { field: 'length' },
    'long,',
    { field: 'thick' },
    'thick and',
    { field: 'width' },
    'wide,',
    { field: 'held' },
    ', pushed by',
    { field: 'travel' },
  ],
  impossible: (v) =>
    v.thick > v.length / 4
      ? {
          field: 'thick',
          detail: `Too thick to be a spring: a quarter of its length at most (${v.length / 4} mm).`,
        }
      : undefined,
  box: (v) => ({ min: [-v.length / 2, -v.thick / 2, 0], max: [v.length / 2, v.thick / 2, v.width] }),
  reach: (v, d) => prismReach(cornerRounds(outline(v)), 0, v.width, d),
  surfaces: (v) =>
    surfacesOf([
      topFace(v.width, v.length, v.thick),
      bottomFace(0, v.length, v.thick),
      ...edgeFaces('side', outline(v), v.width),
    ]),
  dimensions: (v) => blockDimensions('length', 'thick', 'width', [v.length, v.thick, v.width]),
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v)], v.width),
  solid: (v, { scope }) => scope.extrude([outline(v)], v.width),
})

/** F = k E I x / L³, and the moment where it is bent most, as a share of F L (Roark's Formulas, straight beams). */
const cases: Readonly<Record<string, readonly [k: number, moment: number]>> = {
  one: [3, 1],
  both: [192, 1 / 8],
  lying: [48, 1 / 4],
}

function facts({ length, thick, width, held, travel }: Values, { stiffness }: SpringStuff): SpringFacts {
  const [k, moment] = cases[held]!
  const inertia = (width * thick ** 3) / 12
  const rate = (k * stiffness * inertia) / length ** 3
  const force = rate * travel
  return {
    ...{ rate, per: 'mm', travel, force },
    strain: (moment * force * length * thick) / (2 * stiffness * inertia),
  }
}

function outline({ length, thick }: Values): Ring {
  const [x, y] = [length / 2, thick / 2]
  return [
    [-x, -y],
    [x, -y],
    [x, y],
    [-x, y],
  ]
}
