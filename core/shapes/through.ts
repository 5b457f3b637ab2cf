import type { AnyValues, SentencePart } from '../fields/index.ts'
import type { ShapeDefinition } from './define.ts'

/**
 * Shapes that stand on a face have a height. Where they cut, that is a depth, and beside it "through" is one: through
 * whatever is there, however thick that becomes. `deep` of a shape names the field; the rest is given to it here.
 */
export const cutReach = 'cutReach'

const field = {
  kind: 'choice',
  label: 'Reach of the cut',
  default: 'depth',
  choices: { depth: 'to a depth of', through: 'through' },
  meaning: 'How deep it cuts: its own depth, or through everything. No effect where the step adds.',
} as const

/** The shape with a reach for where it cuts; as it is where it has no depth to speak of. */
export function withCutReach(shape: ShapeDefinition): ShapeDefinition {
  return shape.deep ? { ...shape, fields: { ...shape.fields, [cutReach]: field } } : shape
}

/** Whether a step goes through all that is there, whatever its depth says; what adds does not. */
export function goesThrough(shape: ShapeDefinition, adds: boolean, values: AnyValues): boolean {
  return shape.deep !== undefined && !adds && values[cutReach] === 'through'
}

/** The sentence of a step that cuts or keeps: its depth as a depth, or "through" in its place. */
export function cutSentence(shape: ShapeDefinition, parts: readonly SentencePart[], through: boolean): SentencePart[] {
  return parts
    .flatMap((part, i): SentencePart[] => {
      const before = parts[i - 1]
      // "10 high, with" reads "to a depth of 10, with".
      if (typeof part === 'string' && isDepth(shape, before))
        return [part.replace(/^(high|long|thick|deep)(?=\W|$) ?/, '')]
      if (!isDepth(shape, part)) return [part]
      return through ? [{ field: cutReach }] : [{ field: cutReach }, part]
    })
    .filter((part) => part !== '')
}

function isDepth(shape: ShapeDefinition, part: SentencePart | undefined): boolean {
  return typeof part === 'object' && part.field === shape.deep
}
