import type { FieldTexts, Step } from '@makrel/core/document'
import { type ShapeDefinition, shapeOf } from '@makrel/core/shapes'
import { formatLength, type PartUnit } from '@makrel/core/units'

/** What a shape begins with on a round face of this signed radius (negative in a bore), as text; nothing on a flat one. `chosen`: its item was typed. */
export function begunOn(shape: ShapeDefinition, round: number | undefined, unit: PartUnit, chosen = false): FieldTexts {
  if (round === undefined) return {}
  const across = 2 * Math.abs(round)
  return shape.onRound?.(formatLength(across, unit), { across, inside: round < 0, chosen }) ?? {}
}

/** The fields of a step that change where it goes from a flat face to a round one, or back: it is bent about that, or flat again. */
export function bentFor(step: Step, from: number | undefined, to: number | undefined, unit: PartUnit): FieldTexts {
  const shape = step.kind === 'shape' ? shapeOf(step.shape) : undefined
  if (step.kind !== 'shape' || !shape || (from === undefined) === (to === undefined)) return {}
  const wanted =
    to === undefined
      ? Object.fromEntries(Object.keys(begunOn(shape, from, unit)).map((name) => [name, shape.fields[name]!.default]))
      : begunOn(shape, to, unit)
  return Object.fromEntries(Object.entries(wanted).filter(([name, text]) => step.fields[name] !== text))
}
