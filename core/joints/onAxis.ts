import type { ValuesOf } from '../fields/index.ts'
import { turnedAbout, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'

const fields = {
  moves: {
    kind: 'choice',
    label: 'Moves',
    default: 'turns',
    choices: {
      turns: 'turns about',
      slides: 'slides along',
      both: 'turns about and slides along',
      screws: 'screws along',
    },
    meaning: 'What the second piece can do.',
  },
  line: {
    kind: 'choice',
    label: 'Line',
    default: 'normal',
    choices: { normal: 'the axis', across: 'the line across', along: 'the line along' },
    meaning: 'Which line of the step: its axis, or the line across or along it through its own middle.',
  },
  about: {
    kind: 'step',
    label: 'Step',
    default: '',
    rather: ['hole', 'bar', 'ring', 'cone'],
    meaning: 'The step that the line belongs to, of any piece.',
  },
  from: {
    kind: 'angle',
    label: 'Turns from',
    default: '-90',
    least: -36_000,
    most: 0,
    meaning: 'How far it turns to one side of how it is printed; above 0 is counter-clockwise, seen against the line.',
  },
  to: {
    kind: 'angle',
    label: 'Turns to',
    default: '90',
    least: 0,
    most: 36_000,
    meaning: 'How far it turns to the other side.',
  },
  back: {
    kind: 'length',
    label: 'Slides from',
    default: '0',
    least: -1000,
    most: 0,
    meaning: 'How far it slides back from where it is printed, against the line.',
  },
  forth: {
    kind: 'length',
    label: 'Slides to',
    default: '10',
    least: 0,
    most: 1000,
    meaning: 'How far it slides along the line.',
  },
  way: {
    kind: 'choice',
    label: 'Way',
    default: 'both',
    choices: { both: 'both ways', on: 'one way only' },
    meaning: 'Whether it turns both ways, or one way only, as with a ratchet.',
    rare: true,
  },
  lead: {
    kind: 'length',
    label: 'Lead',
    default: '2',
    least: -1000,
    most: 1000,
    meaning: 'How far one turn moves it along the line; negative for a left-hand thread.',
  },
} as const

type Values = ValuesOf<typeof fields>
const turns = ({ moves }: Pick<Values, 'moves'>) => moves !== 'slides'
const goingOn = ({ way }: Values) => (way === 'on' ? { oneWay: true } : {})
const slides = ({ moves }: Pick<Values, 'moves'>) => moves === 'slides' || moves === 'both'

/** What a maker built of plain steps moves too: about, or along, a line of one of them. Nothing is added. */
export const onAxis = defineJoint({
  kind: 'on-axis',
  label: 'joint on an axis',
  words: ['revolute', 'turning joint', 'cam'],
  icon: 'M16 2 V22 M10 12 A6 3 0 1 0 22 12 M22 12 L24.5 9.5 M22 12 L19 10',
  fields,
  sentence: (v) => [
    'joint on an axis',
    ': it',
    { field: 'moves' },
    { field: 'line' },
    'of',
    { field: 'about' },
    ...(turns(v) ? [', from', { field: 'from' }, 'to', { field: 'to' }] : []),
    ...(v.moves === 'screws' ? [', with a lead of', { field: 'lead' } as const] : []),
    ...(slides(v) ? [turns(v) ? 'and by' : ', from', { field: 'back' }, 'to', { field: 'forth' }] : []),
    ',',
    { field: 'way' },
  ],
  impossible(v) {
    if (turns(v) && v.from === v.to)
      return { field: 'to', detail: 'A travel of 0 moves nothing: let it turn to one side at least.' }
    if (v.moves === 'screws' && v.lead === 0)
      return { field: 'lead', detail: 'A thread without lead goes nowhere: give it one, or let it turn only.' }
    if (slides(v) && v.back === v.forth)
      return { field: 'forth', detail: 'A travel of 0 moves nothing: let it slide one way at least.' }
    return undefined
  },
  box: () => ({ min: [0, 0, 0], max: [0, 0, 0] }),
  dimensions: () => [],
  surfaces: () => surfacesOf(plainSurfaces('side')),
  solids: () => ({ cuts: [[], []], adds: [[], []] }),
  standsOn: ({ about, line }) => ({ step: about.id, line }),
  freedoms: (v) => [
    ...(turns(v)
      ? [
          {
            label: 'turning',
            unit: 'degrees',
            from: v.from,
            to: v.to,
            atRest: 0,
            told: { from: 'from', to: 'to' },
            ...goingOn(v),
          } as const,
        ]
      : []),
    ...(slides(v)
      ? [
          {
            label: 'sliding',
            unit: 'mm',
            from: v.back,
            to: v.forth,
            atRest: 0,
            told: { from: 'back', to: 'forth' },
            ...goingOn(v),
          } as const,
        ]
      : []),
  ],
  motion(v, positions) {
    const turn = turns(v) ? turnedAbout([0, 0, 0], [0, 0, 1], positions[0] ?? 0) : world
    const slid = slides(v)
      ? (positions[turns(v) ? 1 : 0] ?? 0)
      : v.moves === 'screws'
        ? (v.lead * (positions[0] ?? 0)) / 360
        : 0
    return { ...turn, origin: [0, 0, slid] }
  },
})
