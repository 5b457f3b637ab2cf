import type { Part } from '@makrel/core/document'
import { built, contentSum } from './kept.ts'

/** Longer than this a drawing is not waited for, ms: the part is being built meanwhile. */
const longest = 5000

/** Drawings that the server has made of parts. Each is asked for once, however many want it. */
function createServed() {
  let asked: { readonly sum: string; readonly answer: Promise<Uint8Array<ArrayBuffer> | undefined> } | undefined

  async function drawing(part: Part): Promise<Uint8Array<ArrayBuffer> | undefined> {
    const sum = await contentSum(part).catch(() => undefined)
    if (sum === undefined) return undefined
    if (asked?.sum !== sum) asked = { sum, answer: answered(sum) }
    return asked.answer
  }

  return { drawing }
}

/** Undefined where the server has none, or is not there. */
async function answered(sum: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
  try {
    const response = await fetch(`/api/drawings/${built}/${sum}`, { signal: AbortSignal.timeout(longest) })
    return response.status === 200 ? new Uint8Array(await response.arrayBuffer()) : undefined
  } catch {
    return undefined
  }
}

export const served = createServed()
