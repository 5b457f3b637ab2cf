import { compose, turnedZ, type Vec3, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'
import { gapField, upwardField } from './fields.ts'
import { closedOn, tube, turned } from './turned.ts'
import { gapsSaid, shown } from './words.ts'

interface Values {
  readonly outside: number
  readonly wall: number
  readonly height: number
  readonly hold: number
  readonly gap: number
  readonly upward: number
}

/**
 * A tube that slides out of another one and is held at its end, printed one in the other. The outer tube stands on z = 0 and belongs
 * to the first piece; the inner one is the second's.
 *
 *     ▓▓╲ |▒|   |▒| ╱▓▓    lip of the outer tube, a cone of 45° below
 *     ▓▓ |▒|     |▒| ▓▓
 *     ▓▓ ╱▒|     |▒╲ ▓▓    flange of the inner one, a cone of 45° above, which
 *     ▓▓|▒▒|     |▒▒|▓▓    meets the lip when it is drawn out
 *    ──────────────────
 */
export const telescope = defineJoint({
  kind: 'telescope',
  label: 'telescoping tube',
  words: ['telescope', 'nested tubes', 'collapsible tube'],
  icon: 'M8 22 V11 H24 V22 M12 11 V3 H20 V11 M6 22 H26 M16 19 V14 M13.5 16 L16 13.5 L18.5 16',
  fields: {
    outside: {
      kind: 'length',
      label: 'Outside diameter',
      default: '24',
      above: 0,
      most: 1000,
      meaning: 'Outside diameter of the outer tube.',
    },
    height: {
      kind: 'length',
      label: 'Height',
      default: '40',
      above: 0,
      most: 1000,
      meaning: 'Height of the outer tube; the inner one ends with it.',
    },
    wall: {
      kind: 'length',
      label: 'Wall',
      default: '1.6',
      above: 0,
      most: 100,
      meaning: 'Thickness of both tubes.',
    },
    hold: {
      kind: 'length',
      label: 'Held by',
      default: '1',
      above: 0,
      most: 50,
      meaning: 'How far the lip of the outer tube overlaps the flange of the inner one.',
    },
    gap: gapField('both tubes'),
    upward: upwardField('the inner tube and what it stands on'),
  },
  sentence: () => [
    'telescoping tube',
    ', ⌀',
    { field: 'outside' },
    'and',
    { field: 'height' },
    'high with walls of',
    { field: 'wall' },
    ', held by',
    { field: 'hold' },
    ...gapsSaid,
  ],
  impossible(v) {
    const inner = body(v) - v.wall
    if (!(inner > 0.5))
      return {
        field: 'outside',
        detail: `Nothing is left within the inner tube: more than ⌀ ${shown(v.outside - 2 * inner + 1)}.`,
      }
    if (!(drawnOut(v) > 0))
      return {
        field: 'height',
        detail: `It could not be drawn out at all: make it higher than ${shown(v.height - drawnOut(v))}.`,
      }
    return undefined
  },
  judged: (v) => ({
    facts: [
      { label: 'Draws out', text: `${shown(drawnOut(v))} mm, to ${shown(v.height + drawnOut(v))} mm in all` },
      { label: 'Gap upward', text: `${shown(v.upward)} mm` },
    ],
    faults: [],
  }),
  box: (v) => ({ min: [-v.outside / 2, -v.outside / 2, 0], max: [v.outside / 2, v.outside / 2, v.height] }),
  dimensions: (v) => [
    { kind: 'linear', field: 'outside', from: [-v.outside / 2, 0, 0], to: [v.outside / 2, 0, 0], offset: [0, -1, 0] },
    {
      kind: 'linear',
      field: 'height',
      from: [v.outside / 2, 0, 0],
      to: [v.outside / 2, 0, v.height],
      offset: [1, 0, 0],
    },
  ],
  surfaces: (v, side) => {
    const names =
      side === 0
        ? ['outside', 'bore', 'lip', 'mouth', 'rim']
        : ['outside', 'bore', 'flange', 'foot', 'rim', 'clearance']
    return surfacesOf(plainSurfaces(...names), {
      at([x, y, z], n) {
        const wide = Math.hypot(x, y)
        const outward = wide > 0 ? (x * n[0] + y * n[1]) / wide : 0
        if (n[2] > 0.99) return 'rim'
        if (side === 0) {
          if (n[2] < -0.99) return 'rim'
          if (outward > 0) return 'outside'
          if (n[2] < -0.3) return 'lip'
          return wide < bore(v) - v.hold / 2 && z > v.height - lipHeight(v) ? 'mouth' : 'bore'
        }
        if (n[2] < -0.99) return 'foot'
        if (wide > bore(v)) return 'clearance'
        if (outward < 0) return 'bore'
        return n[2] > 0.3 || wide > body(v) + v.hold / 2 ? 'flange' : 'outside'
      },
    })
  },
  freedoms: (v) => [
    { label: 'drawing out', unit: 'mm', from: 0, to: drawnOut(v), atRest: 0 },
    { label: 'turning', unit: 'degrees', from: -180, to: 180, atRest: 0 },
  ],
  motion: (_, [out = 0, angle = 0]) => compose({ ...world, origin: [0, 0, out] as Vec3 }, turnedZ(angle)),
  solids(v, { scope, fineness }) {
    const [r, top] = [v.outside / 2, v.height]
    const outer = tube(
      scope,
      [
        [r, 0],
        [r, top],
      ],
      [
        [bore(v), -1],
        [bore(v), top - lipHeight(v)],
        [bore(v) - v.hold, top - v.wall],
        [bore(v) - v.hold, top + 1],
      ],
      fineness,
    )
    const inner = tube(
      scope,
      [
        [bore(v) - v.gap, v.upward],
        [bore(v) - v.gap, v.upward + v.wall],
        [body(v), v.upward + v.wall + v.hold],
        [body(v), top],
      ],
      [
        [body(v) - v.wall, v.upward - 1],
        [body(v) - v.wall, top + 1],
      ],
      fineness,
    )
    const solid = (radius: number) =>
      turned(
        scope,
        closedOn([
          [radius, 0],
          [radius, top],
        ]),
        fineness,
        true,
      )
    return { cuts: [[solid(bore(v))], [solid(r + v.gap)]], adds: [[outer], [inner]] }
  },
})

/** Of the outer tube, below its lip. */
const bore = (v: Values) => v.outside / 2 - v.wall
/** Of the inner tube, above its flange. */
const body = (v: Values) => bore(v) - v.hold - v.gap
/** From the top of the outer tube down to where its lip begins. */
const lipHeight = (v: Values) => v.wall + v.hold

/** How far it comes out until its flange is the gap away from the lip, square to both. */
function drawnOut(v: Values): number {
  // Both cones have one slope; the flange's lies the gap further in.
  const meets = v.height - lipHeight(v) - (v.upward + v.wall) + v.gap
  return meets - v.gap * Math.SQRT2
}
