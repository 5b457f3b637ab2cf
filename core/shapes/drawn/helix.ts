import { size } from '../../fields/index.ts'
import { segmentsFor } from '../../kernel/index.ts'
import { add, scaled, type Vec3 } from '../../place/index.ts'
import { type Drawn, flatsInUse } from '../../plane/index.ts'
import { type DimensionLine, defineShape } from '../define.ts'
import { plainSurfaces, surfacesOf } from '../surfaces.ts'
import { cloudBox, cloudOf, cloudReach, placingFineness } from './cloud.ts'
import { extentsOf, nothingIn, outlineField } from './common.ts'
import { endFace, inOrderAhead, seenFromAhead } from './path.ts'
import { skinned } from './skin.ts'

interface Values {
  readonly outline: Drawn
  readonly diameter: number
  readonly pitch: number
  readonly turns: number
  readonly taper: number
  readonly hand: 'right' | 'left'
  readonly hold: 'upright' | 'following'
}

/** An outline wound round an axis: its x away from the axis, its y along it. */
export const helix = defineShape({
  kind: 'helix',
  label: 'helix',
  words: ['outline', 'spring', 'coil', 'thread', 'screw thread', 'spiral', 'worm', 'auger'],
  shelf: 'outlines',
  icon: 'M6 5 C6 9 26 7 26 10 S6 11 6 14 S26 14 26 17 S6 18 6 21 M26 10 V11 M6 14 V15',
  operation: 'add',
  mates: /./,
  seat: 'stands',
  fields: {
    outline: {
      ...outlineField,
      label: 'Section',
      meaning: 'The drawing that is wound; its origin runs along the helix.',
    },
    diameter: size('Diameter', '20', 'Of the helix that the origin of the section runs along, at its foot.'),
    pitch: size('Pitch', '5', 'How far it rises with each turn.'),
    turns: { kind: 'ratio', label: 'Turns', default: '5', above: 0, most: 500, meaning: 'How many turns it makes.' },
    taper: {
      kind: 'angle',
      label: 'Taper',
      default: '0',
      above: -80,
      most: 80,
      meaning: 'How far its cone leans inwards on the way up; negative outwards.',
      rare: true,
    },
    hand: {
      kind: 'choice',
      label: 'Hand',
      default: 'right',
      choices: { right: 'right-handed', left: 'left-handed' },
      meaning: 'Right-handed rises counter-clockwise as seen from above, as usual threads do.',
    },
    hold: {
      kind: 'choice',
      label: 'Section',
      default: 'upright',
      choices: { upright: 'upright', following: 'square to the helix' },
      meaning:
        'Upright keeps the section in a plane through the axis, as threads are drawn; square turns it with the way.',
      rare: true,
    },
  },
  quick: ['diameter', 'pitch', 'turns'],
  sentence: () => [
    'helix of',
    { field: 'outline' },
    ', ⌀',
    { field: 'diameter' },
    ', rising',
    { field: 'pitch' },
    'a turn,',
    { field: 'turns' },
    'turns,',
    { field: 'hand' },
    ', tapering by',
    { field: 'taper' },
    ', held',
    { field: 'hold' },
  ],
  impossible(v) {
    const nothing = nothingIn(v.outline)
    if (nothing) return nothing
    const { min, max } = extentsOf(v.outline)
    const tall = max[1] - min[1]
    // A turn must rise by more than the section is high, as measured along the axis; on a cone it also moves away.
    if (v.turns > 1 && v.pitch <= tall * stretchOf(v) + 1e-9 && Math.abs(radialStep(v)) <= max[0] - min[0] + 1e-9)
      return {
        field: 'pitch',
        detail: `The section is ${rounded(tall * stretchOf(v))} mm high along the axis: turns that rise by less than that overlap.`,
      }
    if (smallestRadius(v) + min[0] <= 1e-6)
      return {
        field: 'diameter',
        detail: 'The section would reach its axis and overlap itself; make the diameter larger.',
      }
    return undefined
  },
  box: (v) => cloudBox(cloud(v)),
  reach: (v, d) => cloudReach(cloud(v), d),
  surfaces(v) {
    if (nothingIn(v.outline)) return surfacesOf(plainSurfaces('side'))
    const [start, end] = [stationAt(v, 0), stationAt(v, v.turns)]
    return surfacesOf([
      endFace('start', v.outline, start, scaled(start.way, -1)),
      endFace('end', v.outline, end, end.way),
      ...plainSurfaces('side'),
    ])
  },
  dimensions: (v): readonly DimensionLine[] => [
    { kind: 'diameter', field: 'diameter', centre: [0, 0, 0], direction: [1, 0, 0], radius: v.diameter / 2 },
    {
      kind: 'linear',
      field: 'pitch',
      from: [v.diameter / 2, 0, 0],
      to: [v.diameter / 2, 0, v.pitch],
      offset: [1, 0, 0],
    },
  ],
  solid(v, { scope, fineness, cuts }) {
    const { rings, sections } = wound(v, fineness, cuts)
    // Away from the axis is to the right of a way that rises counter-clockwise, and to the left of one that rises clockwise.
    return v.hand === 'right'
      ? skinned(scope, { flat: seenFromAhead(rings), sections: sections.map((s) => inOrderAhead(s, rings)), fineness })
      : skinned(scope, { flat: rings, sections, fineness })
  },
})

const cloud = (v: Values) => cloudOf(v, () => wound(v, placingFineness, false).sections.flat())

/** The section all along the helix. */
function wound(v: Values, fineness: number, cuts: boolean) {
  const rings = v.outline.rings(fineness, cuts)
  const far =
    Math.max(v.diameter / 2, smallestRadius(v), v.diameter / 2 + radialStep(v) * v.turns) + extentsOf(v.outline).max[0]
  const steps = Math.max(2, flatsInUse(segmentsFor(far, fineness, cuts) * v.turns))
  const sections = Array.from({ length: steps + 1 }, (_, i) => {
    const { origin, x: out, y: up } = stationAt(v, (v.turns * i) / steps)
    return rings.flat().map(([x, y]): Vec3 => add(origin, add(scaled(out, x), scaled(up, y))))
  })
  return { rings, sections }
}

/** Where the section stands after so many turns: its x away from the axis, its y up, and the way that it looks. */
function stationAt(v: Values, turn: number): { readonly [K in 'origin' | 'x' | 'y' | 'way']: Vec3 } {
  const sense = v.hand === 'right' ? 1 : -1
  const rad = 2 * Math.PI * turn * sense
  const r = v.diameter / 2 + radialStep(v) * turn
  const out: Vec3 = [Math.cos(rad), Math.sin(rad), 0]
  const round: Vec3 = [-Math.sin(rad) * sense, Math.cos(rad) * sense, 0]
  // Square to the way, the section leans back by the lead angle.
  const lead = v.hold === 'upright' ? 0 : Math.atan2(v.pitch, 2 * Math.PI * r)
  const [c, s] = [Math.cos(lead), Math.sin(lead)]
  return {
    origin: [out[0] * r, out[1] * r, v.pitch * turn],
    x: out,
    y: [-round[0] * s, -round[1] * s, c],
    way: [round[0] * c, round[1] * c, s],
  }
}

/** Change of the radius with each turn, mm. */
function radialStep({ taper, pitch }: Values): number {
  return -pitch * Math.tan((taper * Math.PI) / 180)
}

function smallestRadius(v: Values): number {
  return v.diameter / 2 + Math.min(0, radialStep(v) * v.turns)
}

/** How much higher a section is along the axis that stands square to the helix. */
function stretchOf(v: Values): number {
  if (v.hold === 'upright') return 1
  const slope = v.pitch / (2 * Math.PI * Math.max(1e-9, smallestRadius(v)))
  return Math.sqrt(1 + slope * slope)
}

function rounded(mm: number): number {
  return Math.round(mm * 100) / 100
}
