import { size } from '../fields/index.ts'
import { defineShape } from './define.ts'
import { lengthAndWidth } from './dimensions.ts'
import { bottomFace, topFace } from './faces.ts'
import { prismReach } from './prismatic.ts'
import { roundEndAt, stadium, stadiumEnds, stadiumRounds } from './stadium.ts'
import { plainSurfaces, surfacesOf } from './surfaces.ts'

/** A post whose section is a stadium: a rectangle with half discs at its ends. */
export const post = defineShape({
  kind: 'post',
  label: 'stadium post',
  words: ['oblong', 'capsule', 'long boss', 'arm', 'link', 'stadium', 'pill', 'lozenge', 'strap'],
  shelf: 'solids',
  icon: 'M9 6 H23 A5 3 0 0 1 23 12 H9 A5 3 0 0 1 9 6 M4 9 V16 A5 3 0 0 0 9 19 H23 A5 3 0 0 0 28 16 V9',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  fields: {
    length: { ...size('Length', '30', 'Length over all, from left to right.'), takes: 'flat', takesWhenCut: true },
    width: {
      ...size('Width', '10', 'Size from front to back, and diameter of its ends.'),
      takes: 'flat',
      takesWhenCut: true,
    },
    height: size('Height', '10', 'Height of the post.'),
  },
  quick: ['length', 'width', 'height'],
  sentence: () => ['stadium post', { field: 'length' }, '×', { field: 'width' }, '×', { field: 'height' }],
  impossible: (v) =>
    v.length < v.width
      ? { field: 'length', detail: `It cannot be shorter than it is wide (${v.width} mm).` }
      : undefined,
  box: (v) => ({ min: [-v.length / 2, -v.width / 2, 0], max: [v.length / 2, v.width / 2, v.height] }),
  reach: (v, d) => prismReach(stadiumRounds(v.length, v.width), 0, v.height, d),
  surfaces: (v) =>
    surfacesOf(
      [
        topFace(v.height, v.length, v.width),
        bottomFace(0, v.length, v.width),
        ...(['front', 'back'] as const)
          .filter(() => v.length > v.width)
          .map((name) => {
            const y = name === 'front' ? -1 : 1
            return {
              name,
              frame: {
                origin: [0, (y * v.width) / 2, v.height / 2],
                u: [-y, 0, 0],
                v: [0, 0, 1],
                n: [0, y, 0],
              },
              size: [v.length - v.width, v.height],
              sides: { across: ['left', 'right'], along: ['bottom', 'top'] },
            } as const
          }),
        ...plainSurfaces('left', 'right'),
      ],
      {
        at: (p, normal) => roundEndAt(p, normal, v.length, v.width),
      },
    ),
  edges: (v) => stadiumEnds(v.length, v.width),
  dimensions: (v) => [
    ...lengthAndWidth(v.length, v.width),
    {
      kind: 'linear',
      field: 'height',
      from: [-v.length / 2, 0, 0],
      to: [-v.length / 2, 0, v.height],
      offset: [-1, 0, 0],
    },
  ],
  prism: (v, { fineness, cuts }) => ({
    low: 0,
    high: v.height,
    rings: () => [stadium(v.length, v.width, fineness, cuts)],
  }),
  solid: (v, { scope, fineness, cuts }) => scope.extrude([stadium(v.length, v.width, fineness, cuts)], v.height),
})
