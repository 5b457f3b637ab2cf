import { length } from '../units/index.ts'
import type { ReadoutDefinition } from './define.ts'

export const diameter: ReadoutDefinition = {
  kind: 'diameter',
  label: 'diameter',
  dimension: length,
  takes: 1,
  from: 'faces',
  meaning: 'Of a round face: of a bar, a bore or a hole.',
  read: ([place]) =>
    place!.round === undefined
      ? { detail: 'a diameter is taken of a round face' }
      : { value: 2 * Math.abs(place!.round), how: 'across the round' },
}
