import { checkedPart, type Part } from '@makrel/core/document'

/** A state of a part that the server has not kept yet, and the revision that it was made from. */
export interface Unsent {
  readonly base: number
  readonly document: Part
}

const keyOf = (id: string) => `makrel-unsent-${id}`

/** What this page has put there: another window's is not this one's to forget. */
const own = new Map<string, string>()

/** The browser keeps a state until the server does: at once, so that it is there however the page is left. */
export function keepUnsent(document: Part, base: number): void {
  const text = JSON.stringify({ base, document } satisfies Unsent)
  try {
    localStorage.setItem(keyOf(document.id), text)
    own.set(document.id, text)
  } catch {
    // There is no room, or no such place; the page itself still has it.
  }
}

/** What the browser keeps of a part; it is this page's from then on. */
export function unsentOf(id: string): Unsent | undefined {
  try {
    const text = localStorage.getItem(keyOf(id))
    if (text === null) return undefined
    const { base, document } = JSON.parse(text) as Unsent
    const sound = checkedPart(document)
    if (sound.id !== id || !Number.isInteger(base)) return undefined
    own.set(id, text)
    return { base, document: sound }
  } catch {
    // What cannot be read stays where it is.
    return undefined
  }
}

/** The server has what this page put there. */
export function forgetUnsent(id: string): void {
  try {
    if (own.has(id) && localStorage.getItem(keyOf(id)) === own.get(id)) localStorage.removeItem(keyOf(id))
    own.delete(id)
  } catch {
    own.delete(id)
  }
}
