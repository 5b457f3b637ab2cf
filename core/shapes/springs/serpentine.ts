import { size } from '../../fields/index.ts'
import { type Ring, segmentsFor } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { bottomFace, topFace } from '../faces.ts'
import { prismReach, type Round } from '../prismatic.ts'
import { sheetOfRings } from '../sheet.ts'
import { surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'
import { curvedStrain } from './strip.ts'

interface Values {
  readonly bends: number
  readonly legs: number
  readonly pitch: number
  readonly wide: number
  readonly height: number
  readonly travel: number
}

/**
 * A flat spring that winds to and fro along x: bends of half a turn, joined by legs along y; it begins and ends in the middle of its
 * width, at y = 0.
 *
 *       ╭─╮   ╭─╮
 *       │ │   │ │
 *     ──╯ │   │ ╰──   pulled and pressed along x
 *         │   │
 *         ╰───╯
 */
export const serpentine = defineShape({
  kind: 'serpentine',
  label: 'serpentine spring',
  words: ['meander spring', 'zigzag spring', 'flat spring', 'wave spring', 'S spring'],
  shelf: 'machine',
  icon: 'M3 12 V7 A3 3 0 0 1 9 7 V17 A3 3 0 0 0 15 17 V7 A3 3 0 0 1 21 7 V17 A3 3 0 0 0 27 17 V12',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    bends: {
      kind: 'count',
      label: 'Bends',
      default: '5',
      least: 1,
      most: 60,
      meaning: 'Number of its bends of half a turn.',
    },
    legs: size('Legs', '14', 'Length of each straight leg between two bends.'),
    pitch: size('Pitch', '5', 'From one leg to the next, middle to middle: twice the radius of its bends.'),
    wide: size('Strip', '1.6', 'Width of its strip, the way it bends.'),
    height: size('Height', '6', 'Height of its strip, across the way it bends.'),
    travel: size('Travel', '4', 'How far it is pressed or pulled together along its length.'),
  },
  quick: ['bends', 'legs', 'pitch', 'wide', 'height'],
  sentence: () => [
    'serpentine spring of',
    { field: 'bends' },
    'bends, legs',
    { field: 'legs' },
    'long and',
    { field: 'pitch' },
    'apart, strip',
    { field: 'wide' },
    'wide and',
    { field: 'height' },
    'high, moved by',
    { field: 'travel' },
  ],
  impossible: (v) =>
    v.wide >= 0.9 * v.pitch
      ? {
          field: 'wide',
          detail: `Its legs would run into each other: less than ${Number((0.9 * v.pitch).toFixed(3))} mm.`,
        }
      : undefined,
  box: (v) => {
    const deep = v.legs / 2 + v.pitch / 2 + v.wide / 2
    // With one bend it goes to one side only.
    return { min: [-v.wide / 2, v.bends > 1 ? -deep : 0, 0], max: [v.bends * v.pitch + v.wide / 2, deep, v.height] }
  },
  reach: (v, d) => prismReach(roundsOf(v), 0, v.height, d),
  surfaces: (v) =>
    surfacesOf([topFace(v.height, v.wide, v.legs), bottomFace(0, v.wide, v.legs), { name: 'side' }, { name: 'end' }], {
      at([, y], n) {
        if (n[2] > 0.9) return 'top'
        if (n[2] < -0.9) return 'bottom'
        return Math.abs(n[1]) > 0.99 && Math.abs(y) < 1e-6 ? 'end' : 'side'
      },
    }),
  dimensions: (v) => {
    const y = v.legs / 2
    const whole = {
      kind: 'linear',
      field: 'legs',
      from: [v.pitch, -y, 0],
      to: [v.pitch, y, 0],
      offset: [1, 0, 0],
    } as const
    return [
      // With one bend there is no whole leg.
      ...(v.bends > 1 ? [whole] : []),
      { kind: 'linear', field: 'pitch', from: [0, 0, v.height], to: [v.pitch, 0, v.height], offset: [0, -1, 0] },
    ]
  },
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v, flexFineness)], v.height),
  solid: (v, { scope, fineness }) => scope.extrude([outline(v, fineness)], v.height),
})

/**
 * Castigliano's theorem over legs and bends, with ends that can turn: a leg is moved by F L³ / 12 E I, a bend of radius r by
 * F r (π a² + 4 a r + π r² / 2) / E I with a = L / 2. Strain on the inside of a bend by Winkler's and Bach's theory of curved beams
 * (Timoshenko, Strength of Materials II).
 */
function facts({ bends, legs, pitch, wide, height, travel }: Values, { stiffness }: SpringStuff): SpringFacts {
  const [r, a] = [pitch / 2, legs / 2]
  const inertia = (height * wide ** 3) / 12
  const gives = bends * (legs ** 3 / 12 + r * (Math.PI * a * a + 4 * a * r + (Math.PI * r * r) / 2))
  const rate = (stiffness * inertia) / gives
  const force = rate * travel
  const moment = force * (a + r)
  const strain = curvedStrain(moment, { radius: r, wide, height, stiffness })
  return {
    ...{ rate, per: 'mm', travel, force, strain },
    more: [{ label: 'Room between legs', text: `${Number(((pitch - wide) * bends).toFixed(2))} mm in all` }],
  }
}

/** How near flats of its bends are to them in a flex test, mm. */
const flexFineness = 0.02

/** Rounds that its hull goes over. */
function roundsOf(v: Values): Round[] {
  const [r, a] = [v.pitch / 2, v.legs / 2]
  const ends = [0, v.bends * v.pitch].flatMap((x) =>
    [-1, 1].map((side) => ({ x: x + (side * v.wide) / 2, y: 0, r: 0 })),
  )
  const bends = Array.from({ length: v.bends }, (_, i) => ({
    ...{ x: (i + 0.5) * v.pitch, y: i % 2 === 0 ? a : -a, r: r + v.wide / 2 },
  }))
  return [...ends, ...bends]
}

/** Along one side of the strip and back along the other. */
function outline(v: Values, fineness: number): Ring {
  const side = (way: 1 | -1): (readonly [number, number])[] => {
    const points: (readonly [number, number])[] = [[(-way * v.wide) / 2, 0]]
    for (let i = 0; i < v.bends; i++) {
      const up = i % 2 === 0 ? 1 : -1
      const middle = (i + 0.5) * v.pitch
      // The left side is outside in bends that turn right.
      const radius = v.pitch / 2 + (way * up * v.wide) / 2
      const count = Math.max(2, Math.round(segmentsFor(v.pitch / 2 + v.wide / 2, fineness) / 2))
      for (let k = 0; k <= count; k++) {
        const at = Math.PI - (Math.PI * k) / count
        points.push([middle + radius * Math.cos(at), up * (v.legs / 2 + radius * Math.sin(at))])
      }
    }
    const last = v.bends % 2 === 0 ? 1 : -1
    points.push([v.bends * v.pitch - (last * way * v.wide) / 2, 0])
    return points
  }
  // Right side forth, left side back: counter-clockwise.
  return [...side(-1), ...side(1).toReversed()]
}
