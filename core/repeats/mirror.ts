import { add, mirroredAbout, scaled, world } from '../place/index.ts'
import { defineRepeat, directionOf } from './define.ts'

/** Mirrored in a plane that stands across one of the seat's directions. */
export const mirror = defineRepeat({
  kind: 'mirror',
  label: 'mirrored',
  fields: {
    direction: {
      kind: 'choice',
      label: 'Mirrored',
      default: 'across',
      choices: { across: '{left} to {right}', along: '{front} to {back}', up: 'above to below' },
      meaning: 'Which sides are swapped.',
    },
    at: {
      kind: 'length',
      label: 'Distance of the mirror',
      default: '0',
      meaning: 'How far the mirror stands from the middle of the face, or above it.',
    },
    keep: {
      kind: 'choice',
      label: 'Original',
      default: 'both',
      choices: { both: 'both are there', mirrored: 'only the mirrored one is there' },
      meaning: 'Whether the original stays beside its mirror image.',
    },
  },
  first: 'at',
  sentence: () => [
    'mirrored',
    { field: 'direction' },
    'in a plane',
    { field: 'at' },
    'from the middle;',
    { field: 'keep' },
  ],
  count: (v) => (v.keep === 'both' ? 2 : 1),
  motions: (v, seat) => {
    const normal = directionOf(seat, v.direction)
    const image = mirroredAbout(add(seat.frame.origin, scaled(normal, v.at)), normal)
    return v.keep === 'both' ? [world, image] : [image]
  },
})
