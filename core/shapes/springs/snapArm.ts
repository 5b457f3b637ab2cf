import { size } from '../../fields/index.ts'
import type { Ring } from '../../kernel/index.ts'
import { defineShape } from '../define.ts'
import { bottomFace, edgeFaces, topFace } from '../faces.ts'
import { cornerRounds, prismReach } from '../prismatic.ts'
import { sheetOfRings } from '../sheet.ts'
import { type NamedFace, surfacesOf } from '../surfaces.ts'
import type { SpringFacts, SpringStuff } from './define.ts'

interface Values {
  readonly length: number
  readonly thick: number
  readonly width: number
  readonly hook: number
  readonly flat: number
  readonly angle: number
}

/** Of printed plastics on one another, about. */
const friction = 0.3

/**
 * An arm with a hook that snaps in: it lies on z = 0, its root at y = 0, its hook looks to the right.
 *
 *        /|        entry, at an angle to the way it is pushed
 *       | |_
 *       |  _|      flat of the hook
 *       | |        arm, which bends to the left by the depth of the hook
 *     ──┴─┴──
 */
export const snapArm = defineShape({
  kind: 'snap-arm',
  label: 'snap arm',
  words: [
    'snap',
    'snap hook',
    'barb',
    'detent arm',
    'clasp',
    'snap fit',
    'cantilever snap',
    'latch',
    'hook',
    'clip arm',
    'catch',
  ],
  shelf: 'machine',
  icon: 'M12 22 V6 L15 2 L20 7 V10 H16 V22 M7 22 H25',
  operation: 'add',
  seat: 'stands',
  deep: 'width',
  fields: {
    length: size('Length', '20', 'From its root to its hook.'),
    thick: size('Thickness', '2', 'Thickness of the arm, the way it bends.'),
    width: size('Width', '6', 'Width of the arm, across the way it bends.'),
    hook: size('Hook', '1.2', 'How deep the hook is, and how far the arm bends to let it by.'),
    flat: size('Flat', '1', 'Length of the flat of the hook.'),
    angle: {
      kind: 'angle',
      label: 'Entry',
      default: '30',
      least: 10,
      most: 80,
      meaning: 'Angle of the entry of the hook against the way it is pushed in.',
    },
  },
  quick: ['length', 'thick', 'width', 'hook'],
  sentence: () => [
    'snap arm',
    { field: 'length' },
    'long,',
    { field: 'thick' },
    'thick and',
    { field: 'width' },
    'wide, with a hook of',
    { field: 'hook' },
    ', flat',
    { field: 'flat' },
    'and entering at',
    { field: 'angle' },
  ],
  impossible: (v) =>
    v.angle > 80
      ? { field: 'angle', detail: 'Too steep to push in: 80° at most.' }
      : v.length < 2 * v.thick
        ? { field: 'length', detail: `Too short to be a spring: at least twice its thickness (${2 * v.thick} mm).` }
        : undefined,
  box: (v) => ({ min: [-v.thick / 2, 0, 0], max: [v.thick / 2 + v.hook, tip(v), v.width] }),
  reach: (v, d) => prismReach(cornerRounds(outline(v)), 0, v.width, d),
  surfaces: (v) =>
    surfacesOf([
      along(topFace(v.width, v.thick, v.length), v.length / 2),
      along(bottomFace(0, v.thick, v.length), v.length / 2),
      ...edgeFaces('side', outline(v), v.width),
    ]),
  dimensions: (v) => {
    const [x, y] = [v.thick / 2, v.length]
    return [
      { kind: 'linear', field: 'length', from: [-x, 0, 0], to: [-x, y, 0], offset: [-1, 0, 0] },
      { kind: 'linear', field: 'thick', from: [-x, 0, 0], to: [x, 0, 0], offset: [0, -1, 0] },
      { kind: 'linear', field: 'width', from: [x, 0, 0], to: [x, 0, v.width], offset: [0, -1, 0] },
    ]
  },
  spring: facts,
  sheet: (v) => sheetOfRings([outline(v)], v.width),
  solid: (v, { scope }) => scope.extrude([outline(v)], v.width),
})

/** A beam that is held at one end (Roark's Formulas for Stress and Strain, table of straight beams), bent by its hook. */
function facts({ length, thick, width, hook, angle }: Values, { stiffness }: SpringStuff): SpringFacts {
  const rate = (stiffness * width * thick ** 3) / (4 * length ** 3)
  const slope = Math.tan((angle * Math.PI) / 180)
  const push = (rate * hook * (friction + slope)) / (1 - friction * slope)
  return {
    ...{ rate, per: 'mm', travel: hook, force: rate * hook, strain: (1.5 * thick * hook) / length ** 2 },
    more: [
      {
        label: 'Pushed in with',
        text:
          push > 0
            ? `${Number(push.toPrecision(3))} N, at a friction of ${friction}`
            : 'it sticks: take a smaller entry',
      },
    ],
  }
}

/** A face with its middle so far along the arm. */
function along(face: NamedFace, y: number): NamedFace {
  const { origin } = face.frame
  return { ...face, frame: { ...face.frame, origin: [origin[0], y, origin[2]] } }
}

const tip = ({ length, flat, hook, angle }: Values) => length + flat + hook / Math.tan((angle * Math.PI) / 180)

function outline(v: Values): Ring {
  const x = v.thick / 2
  return [
    [-x, 0],
    [x, 0],
    [x, v.length],
    [x + v.hook, v.length],
    [x + v.hook, v.length + v.flat],
    [x, tip(v)],
    [-x, tip(v)],
  ]
}
