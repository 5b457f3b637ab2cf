import { boresField, boresSaid } from './bores.ts'
import { gapField } from './fields.ts'

/** Knuckles about a pin: what hinges are made of. */
export interface Knuckles {
  readonly length: number
  readonly knuckle: number
  readonly pin: number
  readonly made: string
  readonly seat: number
  readonly mouth: number
  readonly count: number
  readonly leaf: number
  readonly gap: number
  readonly travel: number
  readonly stop: string
  readonly feel: string
  readonly clicks: number
  readonly ridge: number
  readonly bores: string
}

/** The fields that hinges have beside how many knuckles there are. */
export const knuckleFields = {
  length: {
    kind: 'length',
    label: 'Length',
    default: '40',
    above: 0,
    most: 1000,
    meaning: 'Length of all knuckles along the pin.',
  },
  knuckle: {
    kind: 'length',
    label: 'Knuckle diameter',
    default: '9',
    above: 0,
    most: 200,
    meaning: 'Outside diameter of the knuckles.',
  },
  made: {
    kind: 'choice',
    label: 'Pin',
    default: 'printed',
    choices: { printed: 'printed', separate: 'separate', snapped: 'snap-in' },
    meaning:
      'A pin printed in place, a metal pin pushed in, or a pin that snaps into open knuckles of the second piece.',
    rare: true,
  },
  pin: { kind: 'length', label: 'Pin diameter', default: '4', above: 0, most: 180, meaning: 'Diameter of the pin.' },
  seat: {
    kind: 'length',
    label: 'Room of the pin',
    default: 'press',
    least: 0,
    most: 5,
    meaning: 'Gap between a separate pin and the outer knuckles that hold it, per side.',
    rare: true,
  },
  mouth: {
    kind: 'length',
    label: 'Mouth',
    default: '3.4',
    above: 0,
    most: 180,
    meaning: 'Width of the mouths of knuckles that snap over the pin; narrower than the pin.',
    rare: true,
  },
  leaf: {
    kind: 'length',
    label: 'Leaf thickness',
    default: '4',
    above: 0,
    most: 100,
    meaning: 'Thickness of the leaves where they meet the knuckles.',
  },
  gap: gapField('everything that moves'),
  travel: {
    kind: 'angle',
    label: 'Travel',
    default: '180',
    above: 0,
    most: 270,
    meaning: 'How far the second piece folds up from flat.',
  },
  stop: {
    kind: 'choice',
    label: 'Stop',
    default: 'none',
    choices: { none: 'no stop', end: 'a stop' },
    meaning:
      'Heels on the knuckles of the second piece that stop against the leaf of the first at the end of its travel.',
    rare: true,
  },
  feel: {
    kind: 'choice',
    label: 'Turning',
    default: 'free',
    choices: { free: 'turning freely', clicks: 'clicking' },
    meaning: 'Whether a ridge of the pin lies in a groove of the knuckles at some places, so that it clicks there.',
    rare: true,
  },
  clicks: {
    kind: 'angle',
    label: 'Clicks every',
    default: '90',
    above: 0,
    most: 270,
    meaning: 'The angle from one click to the next.',
    rare: true,
  },
  ridge: {
    kind: 'length',
    label: 'Ridge',
    default: '0.15',
    above: 0,
    most: 5,
    meaning: 'How far the ridge of the pin stands out beyond the bore of the knuckles, which bend to let it pass.',
    rare: true,
  },
  bores: boresField,
} as const

/** What a hinge reads as after its length and its knuckles. */
export const knuckleWords = ({ made, feel }: Pick<Knuckles, 'made' | 'feel'>) =>
  [
    'on a',
    { field: 'made' },
    'pin ⌀',
    { field: 'pin' },
    ...boresSaid,
    ...(made === 'separate' ? ([', held with', { field: 'seat' }, 'of room'] as const) : []),
    ...(made === 'snapped' ? ([', through mouths of', { field: 'mouth' }] as const) : []),
    ', gap',
    { field: 'gap' },
    'per side, joining leaves',
    { field: 'leaf' },
    'thick, folding',
    { field: 'travel' },
    'with',
    { field: 'stop' },
    'at its end',
    ...(made === 'separate' ? [] : ([',', { field: 'feel' }] as const)),
    ...(made !== 'separate' && feel === 'clicks'
      ? (['every', { field: 'clicks' }, 'over a ridge of', { field: 'ridge' }] as const)
      : []),
  ] as const
