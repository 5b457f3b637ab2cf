import { strFromU8, strToU8 } from 'fflate'
import type { MeshFormat, ReadPiece } from '../exchange/define.ts'
import { size } from '../fields/index.ts'
import { type Check, findingOf } from '../proof/define.ts'
import { mm3 } from '../proof/phrase.ts'
import { defineShape } from '../shapes/define.ts'
import { bottomFace, sideFaces, topFace } from '../shapes/faces.ts'
import { surfacesOf } from '../shapes/surfaces.ts'

/** A shape, a check and a format that are in no registry, for tests of how little a new one needs. */

export const cube = defineShape({
  kind: 'cube',
  label: 'cube',
  words: [],
  shelf: 'solids',
  icon: '',
  operation: 'add',
  seat: 'stands',
  fields: { side: size('Side', '10', 'Of all its edges.') },
  quick: ['side'],
  sentence: () => ['cube', { field: 'side' }],
  box: ({ side: s }) => ({ min: [-s / 2, -s / 2, 0], max: [s / 2, s / 2, s] }),
  surfaces: ({ side: s }) => surfacesOf([topFace(s, s, s), bottomFace(0, s, s), ...sideFaces(s, s, s)]),
  dimensions: () => [],
  solid: ({ side: s }, { scope }) =>
    scope.extrude(
      [
        [
          [-s / 2, -s / 2],
          [s / 2, -s / 2],
          [s / 2, s / 2],
          [-s / 2, s / 2],
        ],
      ],
      s,
    ),
})

const texts = { 'light-more': '{piece} has more than {most}.', 'light-less': '{piece} has less than {most}.' } as const

export const lightCheck: Check = {
  id: 'light',
  label: 'Light',
  meaning: 'No piece has more than 1 cm³.',
  texts,
  scope: 'piece',
  from: () => [],
  run: (_, { built: { piece }, figures }) => {
    const finding = findingOf('light', texts, [{ kind: 'piece', id: piece.id }])
    const told = { piece: piece.name, most: mm3(1000) }
    return [figures!.volume > 1000 ? finding('warning', 'light-more', told) : finding('pass', 'light-less', told)]
  },
}

export const jsonMesh: MeshFormat = {
  id: 'jm',
  label: 'JSON',
  extension: 'jm',
  mediaType: 'application/json',
  statesUnit: true,
  apart: true,
  write: (pieces) =>
    strToU8(JSON.stringify(pieces.map(({ name, mesh }) => [name, [...mesh.positions], [...mesh.triangles]]))),
  read: (bytes) =>
    (JSON.parse(strFromU8(bytes)) as [string, number[], number[]][]).map(
      ([name, positions, triangles]): ReadPiece => ({
        name,
        mesh: { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) },
        count: triangles.length / 3,
      }),
    ),
}
