import { add, scaled } from '../place/index.ts'
import { length } from '../units/index.ts'
import type { ReadoutDefinition } from './define.ts'

/** How far outside and inside of its face the material is looked for, mm. */
const near = 0.02

/** Straight in from the middle of a face, to where the material ends. */
export const thickness: ReadoutDefinition = {
  kind: 'thickness',
  label: 'thickness',
  dimension: length,
  takes: 1,
  from: 'solid',
  meaning: 'Of the material behind the middle of a face, measured square to it.',
  read: ([place], solid) => {
    if (place!.kind === 'axis') return { detail: 'a thickness is taken behind a face' }
    const { origin, n } = place!.frame
    // From a little outside: the face itself must be the first that is met.
    const [first, second] = solid.crossings(add(origin, scaled(n, near)), scaled(n, -1))
    if (first === undefined || second === undefined || first > 2 * near)
      return { detail: 'there is no material at the middle of this face' }
    return { value: second - first, how: 'behind the middle of the face' }
  },
}
