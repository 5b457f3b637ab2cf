import { withRoundBores } from './bores.ts'
import { defineJoint } from './define.ts'
import { knucklesImpossible, knucklesJudged } from './knuckleFaults.ts'
import { knuckleFields, knuckleWords } from './knuckleFields.ts'
import { knuckleBends, knuckled, knuckleWidth } from './knuckles.ts'

/**
 * Two leaves turning about a pin that is printed in place. The axis runs along y at half the knuckle's height; the first
 * piece lies at x < 0 and carries the outer knuckles and the pin, the second one at x > 0 has the bored ones between.
 *
 *      y
 *      ^   A ─┤▓▓▓├        knuckles alternate along the axis, one gap apart;
 *      |      ├░░░┤─ B     the pin (ø pin) is one with A's,
 *      |   A ─┤▓▓▓├        B's are bored to ø pin + 2 gap.
 *                          Leaves begin at x = ±(knuckle / 2 + gap).
 */
export const pinHinge = defineJoint({
  kind: 'pin-hinge',
  version: 2,
  upgrades: [withRoundBores],
  label: 'pin hinge',
  words: ['hinge', 'barrel hinge', 'pivot', 'knuckle hinge', 'print-in-place hinge'],
  icon: 'M3 15 H13 M19 15 H29 M13 9 H19 V21 H13 Z M16 5 V24',
  chains: true,
  fields: {
    ...knuckleFields,
    count: {
      kind: 'count',
      label: 'Knuckles',
      default: '5',
      least: 3,
      most: 31,
      meaning: 'Number of knuckles; odd, so that both ends belong to the first piece.',
    },
  },
  sentence: (v) => [
    'pin hinge',
    { field: 'length' },
    'long with',
    { field: 'count' },
    'knuckles ⌀',
    { field: 'knuckle' },
    ...knuckleWords(v),
  ],
  impossible(v) {
    if (v.count % 2 === 0)
      return { field: 'count', detail: 'The number of knuckles must be odd, so that the pin is held at both ends.' }
    if (knuckleWidth(v) < 1)
      return { field: 'count', detail: 'The knuckles would be thinner than 1 mm; use fewer, or a longer hinge.' }
    return knucklesImpossible(v)
  },
  ...knuckled,
  judged: knucklesJudged,
  bends: (v, context) => knuckleBends(v, context),
})
