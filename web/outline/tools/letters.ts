import { defaultFields } from '@makrel/core/fields'
import { curveOf } from '@makrel/core/outline'
import type { Tool } from './define.ts'

export const letters: Tool = {
  kind: 'letters',
  label: 'letters',
  shelf: 'figures',
  icon: 'M3 14 L8 2 L13 14 M5 10 H11',
  key: 't',
  say: () => 'click where the words are centred; type them in the sheet',
  spots: 1,
  preview: () => [],
  draw(sketch, [at]) {
    if (!at) return undefined
    sketch.letters(at, defaultFields(curveOf('letters')!.fields!))
    return {}
  },
}
