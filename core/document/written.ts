import type { Part } from './format.ts'

/** The part file: JSON, two spaces, keys in the order of the types, ending in a newline. */
export function writePartFile(part: Part): string {
  return `${JSON.stringify(part, null, 2)}\n`
}
