import { withRoundBores } from './bores.ts'
import { defineJoint } from './define.ts'
import { knucklesImpossible, knucklesJudged } from './knuckleFaults.ts'
import { type Knuckles, knuckleFields, knuckleWords } from './knuckleFields.ts'
import { knuckleBends, knuckled, knuckleWidth } from './knuckles.ts'
import { shown } from './words.ts'

/** A pin hinge over a whole length: it has as many knuckles as that takes, each about as long as is said. */
export const pianoHinge = defineJoint({
  kind: 'piano-hinge',
  version: 2,
  upgrades: [withRoundBores],
  label: 'piano hinge',
  words: ['continuous hinge', 'long hinge', 'strap hinge'],
  icon: 'M2 12 H30 M3 9.5 H8 V14.5 H3 Z M13.5 9.5 H18.5 V14.5 H13.5 Z M24 9.5 H29 V14.5 H24 Z M2 4 H30 M2 20 H30',
  chains: true,
  fields: {
    ...knuckleFields,
    length: { ...knuckleFields.length, default: '120' },
    each: {
      kind: 'length',
      label: 'Knuckle length',
      default: '12',
      least: 1,
      most: 500,
      meaning: 'About how long each knuckle is; the odd number of them that comes nearest is used.',
    },
  },
  sentence: (v) => [
    'piano hinge',
    { field: 'length' },
    'long with knuckles of about',
    { field: 'each' },
    ', ⌀',
    { field: 'knuckle' },
    ...knuckleWords(v),
  ],
  impossible(v) {
    if (knuckleWidth({ ...v, count: countOf(v) }) < 1)
      return { field: 'length', detail: 'The knuckles would be thinner than 1 mm: make the hinge longer.' }
    return knucklesImpossible({ ...v, count: countOf(v) })
  },
  judged: (v, up) => {
    const { facts, faults } = knucklesJudged(v, up)
    const count = countOf(v)
    const own = { label: 'Knuckles', text: `${count}, each ${shown(knuckleWidth({ ...v, count }))} mm long` }
    return { facts: [own, ...facts], faults }
  },
  ...knuckled,
  bends: (v, context) => knuckleBends({ ...v, count: countOf(v) }, context),
  solids: (v, context) => knuckled.solids({ ...v, count: countOf(v) }, context),
})

/** The odd number of knuckles, three at least, whose length with their gaps is nearest to what is said. */
function countOf(v: Omit<Knuckles, 'count'> & { readonly each: number }): number {
  const whole = (v.length + v.gap) / (v.each + v.gap)
  return Math.max(3, 2 * Math.round((whole - 1) / 2) + 1)
}
