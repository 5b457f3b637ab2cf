import { findStep, type Part, type Readout, type ReadPoint, usesOfNames } from '../document/index.ts'
import { type GivenValue, unfitName, type Value } from '../measures/index.ts'
import { towards } from '../mesh/index.ts'
import { compose, type Vec3 } from '../place/index.ts'
import { guarded, type Problem, problem } from '../problems/index.ts'
import { type ReadPlace, type ReadResult, type ReadSolid, readoutOf } from '../readouts/index.ts'
import { type MadeFaces, treatmentsStoodOn } from './made.ts'
import type { TakenPoints } from './outlines.ts'
import { type Plan, planPart } from './plan.ts'
import { fieldKindOf, type ResolvedPart, resolvePart } from './resolve.ts'
import { takenAlike, takenPoints, takenProblems } from './taken.ts'
import { toldIn } from './told.ts'

/** A read-out with what it came to. */
export interface ReadRow {
  readonly readout: Readout
  /** mm, degrees or mm³; undefined where there is a problem, or the solid is not known yet */
  readonly value: number | undefined
  /** how it was taken, in words */
  readonly how: string
  /** the ends of what was measured */
  readonly between?: readonly [Vec3, Vec3] | undefined
  readonly problem: Problem | undefined
}

/** Passes after which a drawing that moves what it is taken from is left as it is. */
const mostRounds = 40

/** A part worked out by arithmetic alone: all that the page needs with a keystroke. */
export interface WorkedPart {
  readonly resolved: ResolvedPart
  readonly plan: Plan
  readonly readouts: readonly ReadRow[]
  readonly problems: readonly Problem[]
}

/** What only solids tell. */
export interface SolidReadings {
  /** of finished solids, by the read-out's id */
  readonly values: Readonly<Record<string, ReadResult>>
  /** that something stands on */
  readonly faces: MadeFaces
}
export const noReadings: SolidReadings = { values: {}, faces: {} }

/**
 * Values, places and read-outs of a part. What a read-out is taken from may itself be sized by another one: what is known
 * after one pass is used in the next, until nothing new comes. One that depends on itself never becomes known.
 */
export function workOut(part: Part, solids: SolidReadings = noReadings): WorkedPart {
  let known = new Map(part.readouts.map(({ name }): [string, GivenValue] => [name, { unknown: 'not yet' }]))
  // Not only where they are used: what is typed next may use them.
  const read = part.readouts.length > 0
  let taken: TakenPoints = new Map()
  for (let round = 1; ; round++) {
    const resolved = resolvePart(part, known, taken)
    const plan = planPart(resolved, solids.faces)
    const rows = part.readouts.map((readout) => readRow(readout, plan, solids))
    const next = new Map(rows.map(({ readout, value }) => [readout.name, given(readout, value)]))
    const stands = takenPoints(part, plan)
    const settled = (!read || count(next) === count(known)) && takenAlike(stands, taken)
    if (settled || round === mostRounds) {
      const problems = [...resolved.problems, ...plan.problems, ...rows.flatMap((row) => row.problem ?? [])]
      const more = [...nameProblems(part), ...takenProblems(part, stands)]
      return { resolved, plan, readouts: rows, problems: toldIn([...problems, ...more], part) }
    }
    known = next
    taken = stands
  }
}

/**
 * Reads off the finished solids what needs them. `solidOf` gives the solid of a piece, `coarseOf` the same at four times the
 * fineness: what is read is what both run towards.
 */
export function readSolids(
  part: Part,
  plan: Plan,
  solidOf: (piece: string) => ReadSolid | undefined,
  coarseOf: (piece: string) => ReadSolid | undefined,
): SolidReadings['values'] {
  return Object.fromEntries(
    part.readouts.flatMap((readout): [string, ReadResult][] => {
      const definition = readoutOf(readout.kind)
      if (definition?.from !== 'solid') return []
      const places = placesOf(readout, plan)
      const piece = readout.of[0] && findStep(part, readout.of[0].step)?.piece.id
      const solid = piece === undefined ? undefined : solidOf(piece)
      if (!Array.isArray(places) || piece === undefined || !solid) return []
      const read = readSafely(() => definition.read(places, solid))
      const coarse = coarseOf(piece)
      const other = coarse && 'value' in read ? readSafely(() => definition.read(places, coarse)) : read
      return [
        [
          readout.id,
          'value' in read && 'value' in other ? { ...read, value: settledBy(read.value, other.value) } : read,
        ],
      ]
    }),
  )
}

/** What a reading comes to; one that fails, or gives no finite number, says so. */
function readSafely(read: () => ReadResult): ReadResult {
  const faults: Problem[] = []
  const result = guarded([], faults, read)
  if (!result) return { detail: faults[0]!.text }
  return 'value' in result && !Number.isFinite(result.value)
    ? { detail: 'it does not come to a finite number' }
    : result
}

/** To a millionth: the last digits come of the flats. */
function settledBy(fine: number, coarse: number): number {
  return fine === coarse ? fine : Number(towards(fine, coarse).toPrecision(9))
}

/** Whether anything is read off the solids. */
export function readsSolids(part: Part): boolean {
  return part.readouts.some(({ kind }) => readoutOf(kind)?.from === 'solid')
}

/** Whether an expression or a place is told by something that was read off the solids. */
export function usesSolids(part: Part): boolean {
  if (treatmentsStoodOn(part).size > 0) return true
  const names = part.readouts.filter(({ kind }) => readoutOf(kind)?.from === 'solid').map(({ name }) => name)
  return names.length > 0 && usesAny(part, names)
}

function usesAny(part: Part, names = part.readouts.map(({ name }) => name)): boolean {
  const uses = usesOfNames(part, fieldKindOf)
  return names.some((name) => uses.has(name))
}

function count(known: ReadonlyMap<string, GivenValue>): number {
  return [...known.values()].filter((value) => !('unknown' in value)).length
}

function given({ kind }: Readout, value: number | undefined): GivenValue {
  const definition = readoutOf(kind)
  if (value === undefined || !definition) return { unknown: 'broken' }
  return { number: value, dimension: definition.dimension, bare: false } satisfies Value
}

/** What one read-out comes to on a part that is worked out. */
export function readRow(readout: Readout, plan: Plan, solids: SolidReadings): ReadRow {
  const path = ['readouts', readout.id]
  const failed = (detail: string): ReadRow => {
    return { readout, value: undefined, how: '', problem: problem('readout-failed', path, { detail }) }
  }
  const definition = readoutOf(readout.kind)
  if (!definition) return failed(`this version does not know the kind “${readout.kind}”`)
  const places = placesOf(readout, plan)
  if (!Array.isArray(places)) return failed(places as string)
  const result = definition.from === 'faces' ? readSafely(() => definition.read(places)) : solids.values[readout.id]
  if (!result) return { readout, value: undefined, how: 'once the solid is built', problem: undefined }
  return 'detail' in result ? failed(result.detail) : { readout, ...result, problem: undefined }
}

/** Where the faces of a read-out are now, or why they are not to be found. */
function placesOf({ of, kind }: Readout, plan: Plan): ReadPlace[] | string {
  const takes = readoutOf(kind)?.takes ?? 1
  const edge = readoutOf(kind)?.of === 'edge'
  if (edge && of[0]?.edge === undefined) return 'choose an edge: click it on the drawing while reading sizes off'
  if (of.length !== takes) return takes === 1 ? 'choose one face' : 'choose two faces'
  const places: ReadPlace[] = []
  for (const point of of) {
    const place = placeOf(edge ? point : { step: point.step, face: point.face }, plan)
    if (typeof place === 'string') return place
    places.push(place)
  }
  return places
}

function placeOf({ step, face, edge }: ReadPoint, plan: Plan): ReadPlace | string {
  const known = plan.geometry.get(step)
  if (!known) return 'a step that it is taken from is gone, or cannot be built'
  if (edge !== undefined) return { frame: known.frame, kind: 'edge', edge }
  if (face === '') return { frame: known.frame, kind: 'axis', step: shapeOfStep(step, plan) }
  const named = known.faces.find(({ name }) => name === face)
  if (!named) return `the face “${face}” that it is taken from is gone`
  const frame = compose(known.frame, named.frame)
  return named.round === undefined ? { frame, kind: 'flat' } : { frame, round: named.round, kind: 'round' }
}

function shapeOfStep(id: string, { operands }: Plan): ReadPlace['step'] {
  const operand = operands.get(id)
  const values = operand?.copies[0]?.values
  if (operand?.body.kind !== 'shape' || !values) return undefined
  return { shape: operand.body.shape.kind, adds: operand.operation.material === 'more', values }
}

/** A read-out is called as no measure and no other read-out is. */
function nameProblems(part: Part): Problem[] {
  return part.readouts.flatMap(({ id, name }, i) => {
    const taken =
      part.measures.some((measure) => measure.name === name) ||
      part.readouts.slice(0, i).some((other) => other.name === name)
    const path = ['readouts', id, 'name']
    const detail = unfitName(name)
    if (detail) return [problem('name-unfit', path, { name, detail })]
    return taken ? [problem('name-taken', path, { name })] : []
  })
}
