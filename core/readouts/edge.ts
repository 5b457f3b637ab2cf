import { angle as angleDimension, length } from '../units/index.ts'
import type { ReadEdge, ReadoutDefinition, ReadResult, ReadSolid } from './define.ts'

const gone = { detail: 'the edge is not there any more, or cannot be told from others; choose it again on the drawing' }

function taken(key: string | undefined, solid: ReadSolid, read: (edge: ReadEdge) => ReadResult): ReadResult {
  const edge = key === undefined ? undefined : solid.edge(key)
  return edge ? read(edge) : gone
}

export const edgeLength: ReadoutDefinition = {
  kind: 'edge-length',
  label: 'length of an edge',
  dimension: length,
  takes: 1,
  of: 'edge',
  from: 'solid',
  meaning: 'Along an edge of the finished solid, from corner to corner or all round.',
  read: ([place], solid) => taken(place!.edge, solid, (edge) => ({ value: edge.length, how: 'along the edge' })),
}

export const edgeRadius: ReadoutDefinition = {
  kind: 'edge-radius',
  label: 'radius of an edge',
  dimension: length,
  takes: 1,
  of: 'edge',
  from: 'solid',
  meaning: 'Of an edge that runs along a circle.',
  read: ([place], solid) =>
    taken(place!.edge, solid, ({ radius }) =>
      radius === undefined ? { detail: 'this edge is not part of a circle' } : { value: radius, how: 'of its circle' },
    ),
}

export const edgeAngle: ReadoutDefinition = {
  kind: 'edge-angle',
  label: 'angle at an edge',
  dimension: angleDimension,
  takes: 1,
  of: 'edge',
  from: 'solid',
  meaning:
    'Through the material between the two faces that meet: 90° at the edge of a block, 270° at the foot of an upright.',
  read: ([place], solid) => taken(place!.edge, solid, (edge) => ({ value: edge.angle, how: 'through the material' })),
}
