import { size } from '../fields/index.ts'
import { arc, type Ring, segmentsFor } from '../kernel/index.ts'
import { defineShape } from './define.ts'
import { arcEdge, lineEdge } from './edges.ts'
import { bottomFace, topFace } from './faces.ts'
import { prismReach, type Round } from './prismatic.ts'
import { plainSurfaces, surfacesOf } from './surfaces.ts'

/**
 * A heart prism, its tip to the front: a square of side s standing on a corner, with half discs of diameter s on its two
 * back sides. Over all s (1/√2 + 1) wide and s (3/4·√2 + 1/2) long; area s² (1 + π/4). The tip lies as far before the
 * origin as the lobes reach behind it.
 */
export const heart = defineShape({
  kind: 'heart',
  label: 'heart',
  words: ['love heart', 'charm', 'tag'],
  shelf: 'solids',
  icon: 'M16 20 L6.5 11 A5.6 5.6 0 0 1 15 4.5 L16 5.5 L17 4.5 A5.6 5.6 0 0 1 25.5 11 Z',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    width: size('Width', '20', 'Width over both lobes.'),
    height: size('Height', '5', 'Thickness, away from the face it stands on.'),
  },
  quick: ['width', 'height'],
  sentence: () => ['heart', { field: 'width' }, 'wide and', { field: 'height' }, 'high'],
  box: (v) => {
    const half = halfLength(v.width)
    return { min: [-v.width / 2, -half, 0], max: [v.width / 2, half, v.height] }
  },
  reach: (v, d) => prismReach(rounds(v.width), 0, v.height, d),
  surfaces: (v) => {
    const [lobe] = rounds(v.width) as [Round]
    // The lobes reach down to where the straight sides begin.
    const side = lobe.y - lobe.r * Math.SQRT1_2
    return surfacesOf(
      [
        topFace(v.height, v.width / 2, v.width / 2),
        bottomFace(0, v.width / 2, v.width / 2),
        ...plainSurfaces('right side', 'right lobe', 'left lobe', 'left side'),
      ],
      {
        at(p, normal) {
          if (Math.abs(normal[2]) > 0.5) return undefined
          return `${p[0] > 0 ? 'right' : 'left'} ${p[1] < side ? 'side' : 'lobe'}`
        },
      },
    )
  },
  edges(v) {
    const [right, left, tip] = rounds(v.width) as [Round, Round, Round]
    const out = right.r * Math.SQRT1_2
    return [
      lineEdge('right side', [tip.x, tip.y], [right.x + out, right.y - out]),
      arcEdge('right lobe', [right.x, right.y], right.r, -45, 135),
      arcEdge('left lobe', [left.x, left.y], left.r, 45, 225),
      lineEdge('left side', [left.x - out, left.y - out], [tip.x, tip.y]),
    ]
  },
  dimensions: (v) => [
    { kind: 'linear', field: 'width', from: [-v.width / 2, 0, 0], to: [v.width / 2, 0, 0], offset: [0, 1, 0] },
    {
      kind: 'linear',
      field: 'height',
      from: [-v.width / 2, 0, 0],
      to: [-v.width / 2, 0, v.height],
      offset: [-1, 0, 0],
    },
  ],
  solid(v, { scope, fineness }) {
    const [right, left, tip] = rounds(v.width) as [Round, Round, Round]
    const steps = segmentsFor(right.r, fineness) / 2
    const outline: Ring = [
      [tip.x, tip.y],
      ...arc(right.x, right.y, right.r, -45, 135, steps),
      ...arc(left.x, left.y, left.r, 45, 225, steps).slice(1),
    ]
    return scope.extrude([outline], v.height)
  },
})

const side = (width: number) => width / (Math.SQRT1_2 + 1)
const halfLength = (width: number) => (side(width) * (0.75 * Math.SQRT2 + 0.5)) / 2

/** The two lobes and the tip, whose hull is the heart's. */
function rounds(width: number): Round[] {
  const s = side(width)
  const tip = -halfLength(width)
  // The square's middle lies its half diagonal behind the tip; the lobes' middles are on its sides' middles.
  const [x, y] = [s / (2 * Math.SQRT2), tip + s * Math.SQRT1_2 + s / (2 * Math.SQRT2)]
  return [
    { x, y, r: s / 2 },
    { x: -x, y, r: s / 2 },
    { x: 0, y: tip, r: 0 },
  ]
}
