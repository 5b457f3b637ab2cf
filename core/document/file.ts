import { ProblemError } from '../problems/index.ts'
import { bytesOf, documentLimits } from './limits.ts'
import { migrations } from './migrations.ts'
import { partSchema } from './schema.ts'
import { currentVersion, type Part, type Step } from './types.ts'

/** The part file: JSON, two spaces, keys in the order of the types, ending in a newline. */
export function writePartFile(part: Part): string {
  return `${JSON.stringify(part, null, 2)}\n`
}

/**
 * Reads a part file of this or an earlier version.
 * @throws ProblemError file-too-large, file-not-json, file-not-part, file-newer, file-invalid
 */
export function readPartFile(text: string): Part {
  checkSize(text)
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    throw new ProblemError('file-not-json', { detail: (error as Error).message })
  }
  return checkedPart(raw)
}

/**
 * A document as it came from a file or over the wire, checked and brought to the current version.
 * @throws ProblemError file-not-part, file-newer, file-invalid
 */
export function checkedPart(raw: unknown): Part {
  if (typeof raw !== 'object' || raw === null || (raw as { format?: unknown }).format !== 'makrel-part')
    throw new ProblemError('file-not-part')
  const version = (raw as { version?: unknown }).version
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new ProblemError('file-invalid', { place: 'version', detail: 'it must be a whole number from 1' })
  if (version > currentVersion) throw new ProblemError('file-newer', { version, known: currentVersion })
  const migrated = migrations.slice(version - 1).reduce<unknown>((document, migrate) => migrate(document), raw)
  const { error, value } = partSchema.validate(migrated)
  if (error) {
    const detail = error.details[0]!
    throw new ProblemError('file-invalid', { place: detail.path.join('.') || 'the top', detail: detail.message })
  }
  const part = value as Part
  const ids = new Set<string>()
  let count = 0
  const look = (steps: readonly Step[], depth: number): void => {
    if (depth > documentLimits.nesting)
      throw new ProblemError('file-invalid', {
        place: 'pieces',
        detail: `bundles are nested deeper than ${documentLimits.nesting}`,
      })
    for (const step of steps) {
      if (ids.has(step.id))
        throw new ProblemError('file-invalid', { place: 'pieces', detail: `two steps have the id ${step.id}` })
      ids.add(step.id)
      if (++count > documentLimits.allSteps)
        throw new ProblemError('file-invalid', {
          place: 'pieces',
          detail: `there are more than ${documentLimits.allSteps} steps`,
        })
      look(step.steps ?? [], depth + 1)
    }
  }
  for (const piece of part.pieces) look(piece.steps, 1)
  return part
}

/** @throws ProblemError file-too-large */
function checkSize(text: string): void {
  // No text has more characters than bytes.
  if (text.length > documentLimits.bytes || bytesOf(text) > documentLimits.bytes)
    throw new ProblemError('file-too-large', { limit: `${documentLimits.bytes / 1e6} MB` })
}

/**
 * A part as it is kept: what is acknowledged can be opened again.
 * @throws ProblemError file-too-large
 */
export function keptText(part: Part): string {
  const text = writePartFile(part)
  checkSize(text)
  return text
}
