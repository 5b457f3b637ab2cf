import { documentLimits, newPart, type Part, writePartFile } from '@makrel/core/document'
import { fileName } from '@makrel/core/exchange'
import { reader } from '../channel/client.ts'
import { newId } from '../ids.ts'
import { saveBytes } from '../ui/saveBytes.ts'

/** A part with nothing in it yet. */
export function emptyPart(): Part {
  return newPart({ part: newId(), piece: newId() }, 'New part')
}

/**
 * What a part file holds, under a new id, so that opening a file never replaces a part that is kept here.
 * @throws Error with a text to show
 */
export async function partOf(file: File): Promise<Part> {
  if (file.size > documentLimits.bytes)
    throw new Error(`it is larger than a part file may be (${documentLimits.bytes / 1e6} MB)`)
  const found = await reader().call('readPart', { text: await file.text() })
  if (!found.ok) throw new Error(found.problem.text)
  return { ...found.value, id: newId() }
}

export function copyOf(part: Part): Part {
  return { ...part, id: newId(), name: `${part.name} copy`.slice(0, documentLimits.name) }
}

export function saveAsFile(part: Part): void {
  saveBytes(`${fileName(part.name)}.makrel.json`, 'application/json', new TextEncoder().encode(writePartFile(part)))
}
