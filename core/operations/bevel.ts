import { bevelForm } from '../edges/index.ts'
import { size } from '../fields/index.ts'
import { defineTreatment } from './define.ts'
import { withEdges } from './edged.ts'

/** Edges cut off, or filled, along a flat from one face to the other. */
export const bevel = defineTreatment({
  kind: 'bevel',
  label: 'Bevel',
  hint: 'outer edges cut off, inner ones filled, flat',
  look: 'changed',
  material: 'other',
  acts: 'alone',
  words: ['chamfer', 'bevel edges', 'break edges', 'slope'],
  quick: ['size'],
  icon: 'M5 21V14L15 4H27',
  leader: { field: 'size', form: 'leader' },
  fields: {
    edges: { kind: 'edges', label: 'Edges', default: 'outer', meaning: 'Which edges are bevelled.' },
    size: size('Size', '1', 'How far the bevel goes along each face; the more level one where that is not the same.'),
    form: {
      kind: 'choice',
      label: 'Form',
      default: 'even',
      choices: { even: 'on both faces', distances: 'on the more level face and', angle: 'on the more level face at' },
      meaning: 'The same distance on both faces, a distance on each, or one distance and the angle from that face.',
    },
    other: size('Other size', '2', 'How far it goes along the face that stands steeper.'),
    angle: {
      kind: 'angle',
      label: 'Angle',
      default: '30',
      least: 5,
      most: 85,
      meaning: 'The angle between the bevel and the more level face.',
    },
    swap: {
      kind: 'choice',
      label: 'Which face comes first',
      default: 'level',
      choices: { level: 'as said', steep: 'the other way round' },
      meaning: 'Which of both faces the first distance is measured on.',
      rare: true,
    },
  },
  sentence: ({ form }) => [
    { field: 'edges' },
    'by',
    { field: 'size' },
    { field: 'form' },
    ...(form === 'distances' ? [{ field: 'other' }, 'on the other,', { field: 'swap' }] : []),
    ...(form === 'angle' ? [{ field: 'angle' }, ',', { field: 'swap' }] : []),
  ],
  apply({ edges, size: first, form, other, angle, swap }, work) {
    const second = form === 'distances' ? other : first
    const sizes = form === 'angle' ? { first, angle } : { first, second }
    return [withEdges(work, edges, bevelForm(sizes, swap === 'steep'), { word: 'bevel', size: first, field: 'size' })]
  },
})
