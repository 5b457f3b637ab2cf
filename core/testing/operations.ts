import { size } from '../fields/index.ts'
import { defineTreatment } from '../operations/define.ts'
import { cross, scaled } from '../place/index.ts'

/** Two treatments for tests: one that makes two bodies of one, and one with a surface of its own. */

/** Parts what stands where it crosses an upright plane. */
export const parting = defineTreatment({
  kind: 'parting',
  label: 'Part',
  hint: 'into two',
  look: 'changed',
  material: 'other',
  acts: 'alone',
  words: ['saw'],
  quick: ['at'],
  icon: 'M16 4V20',
  fields: { at: { kind: 'length', label: 'Place', default: '0', meaning: 'How far to the right.' } },
  sentence: () => ['at', { field: 'at' }],
  apply: ({ at }, { scope, solid }) =>
    [scope.trimmed(solid, [-1, 0, 0], -at), scope.trimmed(solid, [1, 0, 0], at)].filter((each) => !each.isEmpty()),
})

/** Takes away all that lies higher. */
export const capping = defineTreatment({
  kind: 'capping',
  label: 'Cap',
  hint: 'at a height',
  look: 'changed',
  material: 'other',
  acts: 'alone',
  words: [],
  quick: ['high'],
  icon: 'M4 12H28',
  fields: { high: size('Height', '10', 'What stays lies below.') },
  sentence: () => ['at', { field: 'high' }],
  grown: ({ high }, { min, max }) => ({ min, max: [max[0], max[1], Math.min(max[2], high)] }),
  apply({ high }, { scope, solid, own, named, advise }) {
    const { min, max } = solid.bounds()!
    if (max[2] <= high) {
      const { edges } = named(solid)
      advise('shape-impossible', { detail: `${edges.length} edges, ${edges[0]!.key}` })
      return [solid]
    }
    const beyond = 1000
    const slab = scope.extrude(
      [
        [
          [min[0] - beyond, min[1] - beyond],
          [max[0] + beyond, min[1] - beyond],
          [max[0] + beyond, max[1] + beyond],
          [min[0] - beyond, max[1] + beyond],
        ],
      ],
      max[2] + beyond,
    )
    const up = cross([1, 0, 0], [0, 1, 0])
    const frame = { origin: scaled(up, high), u: [1, 0, 0], v: [0, 1, 0], n: up } as const
    return [scope.difference(solid, [own(scope.placed(slab, frame), () => ({ face: 'cap' }))])]
  },
})
