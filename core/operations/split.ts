import { size } from '../fields/index.ts'
import { compose, type Frame, world } from '../place/index.ts'
import { dovetailsOf, farthestIn, type Keys, noKeys, pegsOf, Section, splitAt } from '../splits/index.ts'
import { defineTreatment, type TreatmentWork } from './define.ts'
import { gapField, toldHalves } from './halved.ts'

/** One piece made two at a plane, with what holds them together. */
export const split = defineTreatment({
  kind: 'split',
  label: 'Split',
  hint: 'in two, with pegs or dovetails',
  look: 'changed',
  material: 'less',
  acts: 'alone',
  words: [
    'cut in two',
    'cut in half',
    'divide',
    'halve',
    'part',
    'pegs',
    'dowels',
    'dovetail',
    'alignment pins',
    'sockets',
  ],
  quick: [],
  icon: 'M4 5H13V19H4ZM19 5H28V19H19ZM16 2V22',
  fields: {
    at: {
      kind: 'plane',
      halves: true,
      label: 'Split at',
      default: 'x, 0',
      meaning:
        'The plane between the two: square to an axis of the bed, at a distance from its middle; or parallel to a flat face or datum, at a distance beyond it.',
    },
    gap: gapField,
    keys: {
      kind: 'choice',
      label: 'Held together by',
      default: 'none',
      choices: {
        none: 'nothing',
        pegs: 'pegs and sockets',
        pins: 'sockets for loose pins',
        dovetails: 'dovetails',
      },
      meaning: 'What holds the two together again.',
    },
    count: { kind: 'count', label: 'How many', default: '2', least: 1, most: 50, meaning: 'How many of them.' },
    size: size('Size', '5', 'Diameter of a peg, or the width of a dovetail at its neck.'),
    depth: size('Depth', '6', 'How deep they go into the other piece, or loose pins into each.'),
    fit: {
      kind: 'length',
      label: 'Fit',
      default: 'snug',
      least: 0,
      most: 10,
      meaning: 'Gap round each of them, per side; a fit by name follows the printer.',
    },
    side: {
      kind: 'choice',
      label: 'They stand on',
      default: 'first',
      choices: { first: 'the first piece', second: 'the second piece' },
      meaning:
        'Which piece has the pegs or tongues. The first lies before the plane: to the left, in front, below, or inside of the face.',
      rare: true,
    },
    lean: {
      kind: 'angle',
      label: 'Flanks lean',
      default: '15',
      least: 1,
      most: 45,
      meaning: 'Angle of a dovetail’s flanks to the way it is drawn out.',
      rare: true,
    },
    slide: {
      kind: 'choice',
      label: 'They slide',
      default: 'up',
      choices: { up: 'upright', across: 'across' },
      meaning:
        'Along which of the two directions of the plane dovetails run; at a level plane, upright is to the back.',
      rare: true,
    },
  },
  sentence: ({ keys }) => [
    { field: 'at' },
    ', gap',
    { field: 'gap' },
    ', held together by',
    { field: 'keys' },
    ...(keys === 'none'
      ? []
      : [
          ',',
          { field: 'count' },
          ...(keys === 'dovetails' ? ['of', { field: 'size' }, 'wide,'] : ['of ⌀', { field: 'size' }, ',']),
          { field: 'depth' },
          'deep, fit',
          { field: 'fit' },
          ...(keys === 'pins' ? [] : [', on', { field: 'side' }]),
          ...(keys === 'dovetails' ? [', leaning', { field: 'lean' }, ', sliding', { field: 'slide' }] : []),
        ]),
  ],
  apply(values, work) {
    const { scope, solid, planes, own } = work
    const second = values.side === 'second' && (values.keys === 'pegs' || values.keys === 'dovetails')
    const at = planes.at!
    // Looked at from the other side the second one is the first.
    const plane = second ? compose(at, { ...world, u: [-1, 0, 0], n: [0, 0, -1] }) : at
    const keys = keysOf(values, plane, work)
    const halves = splitAt(scope, solid, plane, values.gap, own, keys)
    return toldHalves(work, second ? [halves[1], halves[0]] : halves)
  },
})

interface KeyValues {
  readonly gap: number
  readonly keys: 'none' | 'pegs' | 'pins' | 'dovetails'
  readonly count: number
  readonly size: number
  readonly depth: number
  readonly fit: number
  readonly lean: number
  readonly slide: 'up' | 'across'
}

/** Thinner or shorter than this nothing is offered: two lines at most, it would break off, mm. */
const leastKey = 1

/** What holds the halves together; what finds no room is told, and left out. */
function keysOf(values: KeyValues, plane: Frame, work: TreatmentWork): Keys {
  const { keys: kind, count, size: width, depth, fit: gap, lean, slide } = values
  const { scope, solid, fineness, own, advise } = work
  const bounds = solid.bounds()
  if (kind === 'none' || !bounds) return noKeys
  const turned = kind === 'dovetails' && slide === 'across'
  const frame = turned ? compose(plane, { ...world, u: [0, 1, 0], v: [-1, 0, 0] }) : plane
  const section = new Section(scope, solid, frame, values.gap)
  if (section.misses) return noKeys
  const made =
    kind === 'dovetails'
      ? dovetailsOf(scope, section, { count, width, depth, lean, gap }, farthestIn(bounds, frame) + 1, own)
      : pegsOf(scope, section, { count, diameter: width, depth, gap, loose: kind === 'pins' }, fineness, own)
  const { fault } = made
  const offered = (field: string, most: number) => {
    const value = Math.floor(most * 100) / 100
    return value >= leastKey ? { field, value } : undefined
  }
  if (fault?.what === 'fewer') advise('pegs-fewer', { found: fault.found, count })
  else if (fault?.what === 'too-deep') {
    const offer = offered('depth', fault.most)
    if (offer) advise('keys-too-deep', { most: offer.value }, offer)
    else advise('keys-no-depth', {})
  } else if (fault) {
    const offer = offered('size', fault.most)
    const [fits, none] =
      kind === 'dovetails'
        ? (['dovetails-no-room', 'dovetails-none'] as const)
        : (['pegs-no-room', 'pegs-none'] as const)
    if (offer) advise(fits, { most: offer.value }, offer)
    else advise(none, {})
  }
  return made.keys
}
