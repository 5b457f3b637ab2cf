import type { Part } from '@makrel/core/document'

/** Whose state of which part something is, when it was written, and by which version of the program. */
export interface Head {
  readonly key: string
  readonly part: string
  readonly window: string
  readonly version: number
  readonly at: number
  readonly base: number
}

/** A part as it was when its page was left, where what writes it may not have come to its end. */
export interface LeftBehind extends Head {
  /** without the data of its assets */
  readonly now: Part
}

const named = 'makrel-left '

/** The browser's store that is written without waiting, where it has one. */
function store(): Storage | undefined {
  try {
    return globalThis.localStorage
  } catch {
    return undefined
  }
}

/** Puts a state where it is found at the next start, in this very moment; where there is no room for it, it is not. */
export function leaveBehind(left: LeftBehind): void {
  try {
    store()?.setItem(named + left.key, JSON.stringify(left))
  } catch {
    // The database may still have it.
  }
}

export function allLeftBehind(): LeftBehind[] {
  const own = store()
  if (!own) return []
  const keys = Array.from({ length: own.length }, (_, i) => own.key(i)).filter((key) => key?.startsWith(named))
  return keys.flatMap((key): LeftBehind[] => {
    try {
      const left: Partial<LeftBehind> | null = JSON.parse(own.getItem(key!)!)
      return left && typeof left.part === 'string' && left.now?.id === left.part ? [left as LeftBehind] : []
    } catch {
      return []
    }
  })
}

/** It has been written, or was taken over. */
export function leftNoMore(key: string): void {
  try {
    store()?.removeItem(named + key)
  } catch {
    // Nothing was there to be removed.
  }
}
