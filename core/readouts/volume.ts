import type { ReadoutDefinition } from './define.ts'

export const volume: ReadoutDefinition = {
  kind: 'volume',
  label: 'volume',
  dimension: { length: 3, angle: 0 },
  takes: 1,
  from: 'solid',
  meaning: 'Of the whole piece that a step belongs to.',
  read: (_, solid) => ({ value: solid.mass().volume, how: 'of the whole piece' }),
}
