import { defineShape } from '../define.ts'
import { importedMesh } from './importedMesh.ts'

/** A closed mesh that was brought in from a file, standing on its lowest point. */
export const mesh = defineShape({
  kind: 'mesh',
  label: 'mesh',
  words: ['import', 'stl', '3mf', 'obj', 'model', 'from a file', 'scan', 'existing part'],
  shelf: 'imported',
  icon: 'M4 16 L10 5 L20 3 L28 11 L24 20 L12 21 Z M10 5 L14 13 L28 11 M4 16 L14 13 L12 21 M14 13 L24 20 M14 13 L20 3',
  operation: 'add',
  seat: 'stands',
  fitsFaces: true,
  version: 2,
  // They keep the names that their faces had.
  upgrades: [(fields) => ({ ...fields, names: 'size' })],
  fields: {
    mesh: {
      kind: 'asset',
      label: 'Mesh',
      default: '',
      of: 'mesh',
      meaning: 'The closed mesh that was brought in: STL, 3MF or OBJ.',
    },
    names: {
      kind: 'choice',
      label: 'Which face is its top',
      default: 'place',
      choices: { place: 'the highest flat', size: 'the largest flat' },
      meaning: 'Which of the flats that face up is called top; likewise front, left and so on.',
    },
  },
  quick: [],
  sentence: () => ['mesh', { field: 'mesh' }],
  box: (v) => importedMesh(v.mesh).box,
  reach: (v, d) => importedMesh(v.mesh).reach(d),
  surfaces: (v) => importedMesh(v.mesh).surfaces(v.names),
  dimensions: () => [],
  solid(v, { scope }) {
    const { positions, triangles } = importedMesh(v.mesh)
    return scope.meshed({ positions, triangles })
  },
})
