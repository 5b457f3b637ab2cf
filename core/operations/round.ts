import { ballForm } from '../edges/index.ts'
import { size } from '../fields/index.ts'
import { defineTreatment } from './define.ts'
import { withEdges } from './edged.ts'

/** Outer edges are rounded off, inner ones are filled, as by a ball that rolls along them. */
export const round = defineTreatment({
  kind: 'round',
  label: 'Round',
  hint: 'outer edges rounded off, inner ones filled',
  look: 'changed',
  material: 'other',
  acts: 'alone',
  words: ['fillet', 'round edges', 'ease', 'break edges', 'blend', 'fill corners', 'edge'],
  quick: ['radius'],
  icon: 'M5 21V14A10 10 0 0 1 15 4H27',
  leader: { field: 'radius', form: 'radius' },
  fields: {
    edges: { kind: 'edges', label: 'Edges', default: 'outer', meaning: 'Which edges are rounded.' },
    radius: size('Radius', '1', 'Radius of the ball that rolls along the edges.'),
    end: {
      kind: 'choice',
      label: 'Along the edge',
      default: 'even',
      choices: { even: 'all along', running: 'running to' },
      meaning: 'Whether the radius stays, or runs evenly to another one at the end of each run of edges.',
      rare: true,
    },
    to: size('Radius at the end', '2', 'Radius at the other end of each run of edges.'),
  },
  sentence: ({ end }) => [
    { field: 'edges' },
    'by',
    { field: 'radius' },
    { field: 'end' },
    ...(end === 'running' ? [{ field: 'to' }] : []),
  ],
  eases: ({ edges, radius, end, to }) =>
    end === 'running' ? { edges, ball: () => Math.max(radius, to) } : { edges, radius, ball: () => radius },
  apply({ edges, radius, end, to }, work) {
    const last = end === 'running' ? to : radius
    return [
      withEdges(work, edges, ballForm(radius, last), {
        word: 'round',
        size: Math.max(radius, last),
        field: last > radius ? 'to' : 'radius',
      }),
    ]
  },
})
