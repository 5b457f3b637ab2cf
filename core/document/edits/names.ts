import { mapCondition, withRenamed } from '../../measures/index.ts'
import { mapExpressions } from '../expressions.ts'
import type { FieldKindOf, Part } from '../format.ts'
import { withItemChanged } from './lists.ts'

export function withMeasureRenamed(part: Part, id: string, name: string, kindOf: FieldKindOf): Part {
  const measure = part.measures.find((other) => other.id === id)
  if (!measure || measure.name === name) return part
  const clash = part.measures.some((other) => other.name === name && other.id !== id)
  // Only a name that is in force is followed: renaming the second of two equal names must not take the first one's uses.
  const inForce = part.measures.find((other) => other.name === measure.name)?.id === id
  const followed = inForce && !clash ? withNameFollowed(part, measure.name, name, kindOf) : part
  return withItemChanged(followed, 'measures', id, (other) => ({ ...other, name }))
}

export function withReadoutRenamed(part: Part, id: string, name: string, kindOf: FieldKindOf): Part {
  const readout = part.readouts.find((other) => other.id === id)
  if (!readout || readout.name === name) return part
  const taken = [...part.measures, ...part.readouts].some((other) => other.name === name)
  // Where a measure has its name, that is what is read.
  const inForce =
    !part.measures.some((measure) => measure.name === readout.name) &&
    part.readouts.find((other) => other.name === readout.name)?.id === id
  const followed = inForce && !taken ? withNameFollowed(part, readout.name, name, kindOf) : part
  return withItemChanged(followed, 'readouts', id, (other) => ({ ...other, name }))
}

/** Every use of a name under its new name. A word of a choice that is called the same is no use of it. */
function withNameFollowed(part: Part, from: string, to: string, kindOf: FieldKindOf): Part {
  if (from === '' || to === '') return part
  const words = new Set(part.measures.flatMap(({ name, kind }) => (kind === 'choice' || kind === 'text' ? [name] : [])))
  return mapExpressions(part, kindOf, (text, kind) =>
    kind === 'switch'
      ? mapCondition(text, (value, other) =>
          other !== undefined && words.has(other) && !words.has(from) ? value : withRenamed(value, from, to),
        )
      : withRenamed(text, from, to),
  )
}
