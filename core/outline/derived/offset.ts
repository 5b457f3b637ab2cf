import { arranged, type Chain, type DrawnCurve, offsetLoops, offsetOpen, outlineOf } from '../../plane/index.ts'
import { defineDerived, named } from './define.ts'

/** Parallel curves at a distance, round what is closed or beside what is open. */
export const offset = defineDerived({
  kind: 'offset',
  label: 'offset',
  meaning:
    'Draws curves at an even distance: outside or inside of what is closed, to the left or right of what is open.',
  icon: 'M2 2 H14 V14 H2 Z M5 5 H11 V11 H5 Z',
  takes: 'curves',
  fits: ({ points, curves }) => curves > 0 && points === 0,
  fields: {
    by: {
      kind: 'length',
      label: 'Distance',
      default: '2',
      above: 0,
      most: 10_000,
      meaning: 'How far off the new curves lie.',
    },
    side: {
      kind: 'choice',
      label: 'Side',
      default: 'outside',
      choices: { outside: 'outside', inside: 'inside', both: 'on both sides' },
      meaning: 'Outside of what is closed is left of what is open, seen the way it was drawn.',
    },
    corners: {
      kind: 'choice',
      label: 'Corners',
      default: 'sharp',
      choices: { sharp: 'sharp', round: 'rounded' },
      meaning: 'How the curves go round an outer corner.',
    },
  },
  sentence: () => ['offset by', { field: 'by' }, { field: 'side' }, ', corners', { field: 'corners' }],
  apply({ by, side, corners }, context) {
    const own = named(context)
    if (own.length === 0) return { detail: 'its curves are gone' }
    const arrangement = arranged(own)
    const loops = outlineOf(
      arrangement,
      arrangement.faces.filter(({ depth }) => depth % 2 === 0),
    )
    const ways = side === 'both' ? [1, -1] : [side === 'outside' ? 1 : -1]
    const made: Chain[] = ways.flatMap((way) => [
      ...(loops.length > 0 ? offsetLoops(loops, way * by, corners) : []),
      ...arrangement.open.map((chain) => offsetOpen(chain, way * by, corners)),
    ])
    if (made.length === 0) return { detail: `nothing is left at ${Math.round(by * 1000) / 1000} mm inside` }
    return [
      ...context.curves,
      ...made.map(({ segments }, i): DrawnCurve => ({ id: `${context.id}.${i + 1}`, segments })),
    ]
  },
})
