import { allSteps, onBed, type Part, type ShapeStep } from '../document/index.ts'
import { isNumberField } from '../fields/index.ts'
import { shapeOf } from '../shapes/index.ts'
import { workOut } from './readings.ts'

/**
 * A shape of a part as it comes out there, to be taken into another part under a new id: its sizes written as numbers, whatever they
 * were told by, alone on the bed. Undefined where there is no such shape, or it has a problem.
 */
export function aloneStep(part: Part, id: string, newId: string): ShapeStep | undefined {
  const step = allSteps(part).find((each) => each.id === id)
  if (step?.kind !== 'shape') return undefined
  const values = workOut(part).resolved.steps.get(id)?.values
  const shape = shapeOf(step.shape)
  if (!values || !shape) return undefined
  const fields = Object.entries(step.fields).map(([name, text]) => {
    const field = shape.fields[name]
    const value = values[name]
    return [name, field && isNumberField(field) && typeof value === 'number' ? writtenAs(field.kind, value) : text]
  })
  const own = (offset: ShapeStep['place']['across']) => ({ ...offset, to: 'own' as const })
  return {
    ...step,
    ...{ id: newId, mute: false, when: '', fields: Object.fromEntries(fields), repeats: [], omit: [] },
    place: { ...onBed, across: own(onBed.across), along: own(onBed.along), rest: step.place.rest },
  }
}

/** With its unit, whatever that of the part is. */
function writtenAs(kind: string, value: number): string {
  const text = `${Number(value.toFixed(10))}`
  return kind === 'length' ? `${text} mm` : kind === 'angle' ? `${text} deg` : text
}
