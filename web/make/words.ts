import {
  allSteps,
  findStep,
  kindWord,
  type Offset,
  type Part,
  type ReadPoint,
  type Seat,
  type Step,
} from '@makrel/core/document'
import { operationOf, treatmentOf } from '@makrel/core/operations'
import type { SideNames } from '@makrel/core/place'
import { shapeOf } from '@makrel/core/shapes'
import { formatVolume, type PartUnit } from '@makrel/core/units'

/** The words of the sheet that do not belong to one shape: operations, places and repeats. */

/** How a line begins: "A plate", "Cut an upright", "Keep what lies in a plate". */
export function operationWords(operation: string, label: string): string {
  const article = /^[aeiou]/.test(label) ? 'an' : 'a'
  if (operation === 'add') return article === 'an' ? 'An' : 'A'
  if (operation === 'keep') return `Keep what lies in ${article}`
  return `${operationOf(operation)?.label ?? operation} ${article}`
}

/** "plate" or the name it was given. */
export function stepTitle(step: Step): string {
  return step.name || kindWords(step)
}

/** What a step is, whatever it is called. */
export function kindWords(step: Step): string {
  const label = step.kind === 'shape' ? shapeOf(step.shape)?.label : treatmentOf(step.operation)?.label.toLowerCase()
  return step.kind === 'bundle' || step.kind === 'same' ? kindWord(step) : (label ?? kindWord(step))
}

/** The number of a step in its piece, from 1; in a bundle, behind the bundle's: "3.2". */
export function stepNumber(part: Part, id: string): string {
  const found = findStep(part, id)
  if (!found) return '?'
  const lists = [found.piece.steps, ...found.bundles.map((bundle) => bundle.steps)]
  return [...found.bundles, found.step].map((step, depth) => lists[depth]!.indexOf(step) + 1).join('.')
}

/** A face as it is told: "top", and of one that a curve of an outline makes, "side from l1". */
export function faceWord(face: string): string {
  return face.replace(/^side (?=[a-z]+\d)/, 'side from ')
}

/** "top of 1 (base)" */
export function seatWords(part: Part, seat: Seat): string {
  if (seat.kind === 'bed') return 'the bed'
  if (seat.kind === 'held') return `where the ${faceWord(seat.was || 'face')} was`
  const found = findStep(part, seat.step)
  if (!found) return 'a step that is gone'
  const where = part.pieces.length > 1 ? ` of ${found.piece.name}` : ''
  return `${faceWord(seat.face)} of ${stepNumber(part, seat.step)}, ${stepTitle(found.step)}${where}`
}

/** "left of 1, plate", or "axis of 2, bar" */
export function pointWords(part: Part, { step, face, edge }: ReadPoint): string {
  const found = findStep(part, step)
  if (!found) return 'a step that is gone'
  if (edge !== undefined) return edgeWords(part, edge)
  return `${faceWord(face || 'axis')} of ${numberedTitle(part, found.step)}`
}

/** "edge between top of 1 plate and side of 2 boss": of a name as `SolidEdge` has it. */
export function edgeWords(part: Part, key: string): string {
  const faces = key
    .split('|')
    .slice(0, 2)
    .map((face) => {
      const [, step = '', , name = ''] = face.split('/')
      const found = findStep(part, step)
      return found ? `${faceWord(name)} of ${numberedTitle(part, found.step)}` : faceWord(name)
    })
  return faces[0] === faces[1] ? `edge in the ${faces[0]}` : `edge between ${faces.join(' and ')}`
}

/** The ways an offset is measured, as one choice: from which side, to which point of the shape. */
export type OffsetWay = 'centred' | 'middled' | 'made' | `${Offset['from']}-${Offset['to']}`

export function offsetWay(offset: Offset): OffsetWay {
  if (isCentred(offset)) return 'centred'
  if (isMiddled(offset)) return 'middled'
  return isMade(offset) ? 'made' : `${offset.from}-${offset.to}`
}

/** Whether a bundle is left where its steps stand. */
export function isMade({ from, to, by }: Offset): boolean {
  return from === 'centre' && to === 'own' && by.trim() === '0'
}

export function isCentred({ from, to, by }: Offset): boolean {
  return from === 'centre' && to === 'centre' && by.trim() === '0'
}

/** Whether the middle of its extents is where the seat's is. */
export function isMiddled({ from, to, by }: Offset): boolean {
  return from === 'centre' && to === 'middle' && by.trim() === '0'
}

/** The offset that is measured in this way, with the distance it had. */
export function offsetOf(way: OffsetWay, by: string): Offset {
  if (way === 'centred') return { from: 'centre', to: 'centre', by: '0' }
  if (way === 'middled') return { from: 'centre', to: 'middle', by: '0' }
  if (way === 'made') return { from: 'centre', to: 'own', by: '0' }
  const [from, to] = way.split('-') as [Offset['from'], Offset['to']]
  const fromMiddle = from === 'centre' && (to === 'centre' || to === 'own' || to === 'middle')
  // A plain 0 from the middle reads as "centred"; one that was asked for is kept as a distance to type in.
  return { from, to, by: fromMiddle && by.trim() === '0' ? '0.0' : by }
}

/** Steps that another one can be told by, or have the shape of: those above it that do not hold it, nearest first. */
export function stepsAbove(part: Part, id: string): { value: string; label: string }[] {
  const steps = allSteps(part)
  const bundles = new Set(findStep(part, id)?.bundles.map((bundle) => bundle.id))
  return steps
    .slice(
      0,
      steps.findIndex((step) => step.id === id),
    )
    .filter((step) => !bundles.has(step.id))
    .map((other) => ({ value: other.id, label: numberedTitle(part, other) }))
    .reverse()
}

/** Whether there is any step above this one that it can be told by. */
export function hasAbove(part: Part, id: string): boolean {
  const found = findStep(part, id)
  return found !== undefined && (found.index > 0 || found.piece !== part.pieces[0])
}

/** "2, peg" by its id. */
export function titleOf(part: Part, id: string): string {
  const found = findStep(part, id)
  return found ? numberedTitle(part, found.step) : 'a step that is gone'
}

/** "2, peg" */
export function numberedTitle(part: Part, step: Step): string {
  return `${stepNumber(part, step.id)}, ${stepTitle(step)}`
}

/** `options` with the one that is chosen, where that is not among them any more. */
export function withChosen(
  options: readonly { readonly value: string; readonly label: string }[],
  chosen: string,
): readonly { readonly value: string; readonly label: string }[] {
  return options.some(({ value }) => value === chosen)
    ? options
    : [{ value: chosen, label: 'a step that is gone' }, ...options]
}

/** The ways an offset is told by another step, as one choice. The first five need no distance. */
export type RelationWay =
  | 'line'
  | 'flush-low'
  | 'flush-high'
  | 'against-low'
  | 'against-high'
  | 'beside-low'
  | 'beside-high'
  | `${Offset['from']}-${Offset['to']}`

const bareRelations: Readonly<
  Record<'line' | `${'flush' | 'against'}-${'low' | 'high'}`, Pick<Offset, 'from' | 'to'>>
> = {
  line: { from: 'centre', to: 'centre' },
  'flush-low': { from: 'low', to: 'near' },
  'flush-high': { from: 'high', to: 'near' },
  'against-low': { from: 'low', to: 'far' },
  'against-high': { from: 'high', to: 'far' },
}

export function relationWay({ from, to, by }: Offset): RelationWay {
  if (by.trim() === '0')
    for (const [way, bare] of Object.entries(bareRelations))
      if (bare.from === from && bare.to === to) return way as RelationWay
  // The gap to another step's side is counted away from it.
  if (to === 'far' && (from === 'low' || from === 'high')) return `beside-${from}`
  return `${from}-${to}`
}

/** The distance as it reads and is typed: a gap beside another step is no negative number. */
export function relationText(way: RelationWay, by: string): string {
  return way.startsWith('beside-') ? negated(by) : by
}

/** The expression with the other sign: "-3" for "3", "wall" for "-wall", "-(a + b)" for "a + b". */
export function negated(text: string): string {
  const plain = text.trim()
  const whole = /^[-−]\((.*)\)$/.exec(plain)?.[1]
  if (whole !== undefined && isBalanced(whole)) return whole.trim()
  if (/^[-−][^-−+(]*$/.test(plain)) return plain.slice(1).trim()
  if (/^0(\.0*)?$/.test(plain)) return plain
  return /^[^-−+]*$/.test(plain) ? `-${plain}` : `-(${plain})`
}

function isBalanced(text: string): boolean {
  let depth = 0
  for (const c of text) {
    depth += c === '(' ? 1 : c === ')' ? -1 : 0
    if (depth < 0) return false
  }
  return depth === 0
}

export function isBareRelation(way: RelationWay): boolean {
  return Object.hasOwn(bareRelations, way)
}

/** The offset that is told in this way by the step that it is told by already. */
export function relationOf(way: RelationWay, by: string): Pick<Offset, 'from' | 'to' | 'by'> {
  const bare = bareRelations[way as keyof typeof bareRelations]
  if (bare) return { ...bare, by: '0' }
  if (way === 'beside-low' || way === 'beside-high') {
    const from = way === 'beside-low' ? 'low' : 'high'
    return { from, to: 'far', by: by.trim() === '0' ? '0.0' : by }
  }
  const [from, to] = way.split('-') as [Offset['from'], Offset['to']]
  return { from, to, by: by.trim() === '0' ? '0.0' : by }
}

/** What each of them reads in the sentence, in front of the step. */
export function relationWays(
  [low, high]: readonly [string, string],
  present?: RelationWay,
  leans = false,
): { value: RelationWay; label: string }[] {
  const point = { near: 'near edge', centre: 'centre' } as const
  const ways: { value: RelationWay; label: string }[] = [
    { value: 'line', label: `${leans ? 'its foot in line' : 'in line'} ${low} to ${high} with` },
    ...(leans
      ? [{ value: 'centre-middle' as const, label: `${low} to ${high} from the middle to its middle, of` }]
      : []),
    { value: 'flush-low', label: `flush with the ${low} of` },
    { value: 'flush-high', label: `flush with the ${high} of` },
    { value: 'against-low', label: `against the ${low} of` },
    { value: 'against-high', label: `against the ${high} of` },
    { value: 'beside-low', label: `beside the ${low} of` },
    { value: 'beside-high', label: `beside the ${high} of` },
    { value: 'axis-own', label: `from axis to axis, ${low} to ${high}, of` },
    { value: 'centre-centre', label: `${low} to ${high} from the middle to its centre, of` },
    ...(['centre', 'near'] as const).flatMap((to) => [
      { value: `low-${to}` as RelationWay, label: `in from the ${low} edge to its ${point[to]}, of` },
      { value: `high-${to}` as RelationWay, label: `in from the ${high} edge to its ${point[to]}, of` },
    ]),
  ]
  // Some come about by what is done on the drawing or on Move, and are not offered: they read as what they are.
  const isOffered = present === undefined || ways.some(({ value }) => value === present)
  return isOffered ? ways : [...ways, { value: present, label: toldRelation(present, low, high) }]
}

function toldRelation(way: RelationWay, low: string, high: string): string {
  const { from, to } = relationOf(way, '0')
  const start = { low: `the ${low} edge`, high: `the ${high} edge`, centre: 'the middle', axis: 'the axis' }[from]
  const end = { near: 'near edge', far: 'far edge', centre: 'centre', own: 'axis', middle: 'middle' }[to]
  return `from ${start} to its ${end}, ${low} to ${high}, of`
}

/** What each way reads in the sentence, behind its distance. `sides` are the seat's names of low and high. */
/** What a step is placed by that is not placed by its extents: where it was made or drawn, or its axis. */
export type OwnPlace = 'made' | 'drawn' | 'axis'

export function offsetWays(
  sides: readonly [string, string],
  onBed: boolean,
  /** what has a place of its own, where it was made or drawn, or its axis, says so */
  place: OwnPlace | undefined = undefined,
  /** its foot is not in the middle of it, as it is tilted: which of them is meant is said */
  leans = false,
): { value: OffsetWay; label: string }[] {
  const [low, high] = sides
  const point = { near: 'near edge', centre: leans ? 'foot' : 'centre', far: 'far edge' } as const
  const centred: OffsetWay = 'centred'
  const middle = onBed ? 'the datum' : 'the middle'
  const ways = (['centre', 'near', 'far'] as const).flatMap((to) => [
    ...(onBed
      ? []
      : [
          { value: `low-${to}` as OffsetWay, label: `from the ${low} edge to its ${point[to]}` },
          { value: `high-${to}` as OffsetWay, label: `from the ${high} edge to its ${point[to]}` },
        ]),
    {
      // Counted towards the high side: a negative distance goes to the other one.
      value: `centre-${to}` as OffsetWay,
      label: `from ${middle} to its ${to === 'centre' ? point.centre : `${to === 'near' ? low : high} edge`}, ${low} to ${high}`,
    },
  ])
  const own: { value: OffsetWay; label: string }[] =
    place === 'axis'
      ? [
          { value: 'made', label: `axis on ${middle}, ${low} to ${high}` },
          { value: 'centre-own', label: `from ${middle} to its axis, ${low} to ${high}` },
          ...(onBed
            ? []
            : (['low', 'high'] as const).map((from) => ({
                value: `${from}-own` as OffsetWay,
                label: `from the ${from === 'low' ? low : high} edge to its axis`,
              }))),
        ]
      : [
          { value: 'made', label: `as ${place}, ${low} to ${high}` },
          { value: 'centre-own', label: `from where it was ${place}, ${low} to ${high}` },
        ]
  const whole: { value: OffsetWay; label: string }[] = leans
    ? [
        { value: 'middled', label: `its middle centred ${low} to ${high}` },
        { value: 'centre-middle', label: `from ${middle} to its middle, ${low} to ${high}` },
        ...(onBed
          ? []
          : (['low', 'high'] as const).map((from) => ({
              value: `${from}-middle` as OffsetWay,
              label: `from the ${from === 'low' ? low : high} edge to its middle`,
            }))),
      ]
    : []
  const foot = leans ? 'its foot centred' : 'centred'
  return [{ value: centred, label: `${foot} ${low} to ${high}` }, ...whole, ...(place ? own : []), ...ways]
}

/** A choice's label with the names of the seat's sides in it. */
export function withSides(label: string, { across, along }: SideNames): string {
  const names: Readonly<Record<string, string>> = { left: across[0], right: across[1], front: along[0], back: along[1] }
  return label.replace(/\{(\w+)\}/g, (whole, side: string) => names[side] ?? whole)
}

/** Less than this a step has not changed, mm³: what rounding leaves where its faces lie in others. */
const leastEffect = 0.05

/** "adds 4.189 cm³"; a cut that has more because of it, by a rounding, removes nothing. */
export function effectText(mm3: number, cuts: boolean, unit: PartUnit): string {
  if (cuts && mm3 > -leastEffect) return 'removes nothing'
  if (Math.abs(mm3) < leastEffect) return 'changes nothing'
  return `${mm3 > 0 ? 'adds' : 'removes'} ${formatVolume(Math.abs(mm3), unit)}`
}
