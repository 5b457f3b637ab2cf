import type { Part } from '@makrel/core/document'
import { ApiError, api } from '../api.ts'
import { trails } from './trail.ts'

/** So many states that were sent and not answered are remembered of each part. */
const mostUnanswered = 8

/** Brings parts to the server: knows which revision it has of each, and what was sent there without an answer. */
export class Sending {
  readonly #revisions = new Map<string, number>()
  readonly #unanswered = new Map<string, readonly Part[]>()
  /** what the server could not take as it was: that is not sent again by itself */
  readonly #refused = new Set<string>()

  /** The next save of a part goes on from this revision; without `unanswered`, what was sent of it before stays known. */
  goOnFrom(part: string, revision: number, unanswered?: readonly Part[]): void {
    this.#revisions.set(part, revision)
    if (unanswered) this.#unanswered.set(part, unanswered)
  }

  baseOf(part: string): number {
    return this.#revisions.get(part)!
  }

  /** What was sent and not answered of a part; the server may have it. */
  unansweredOf(part: string): readonly Part[] {
    return this.#unanswered.get(part) ?? []
  }

  /** Says that a part is about to be sent, so that the browser can keep that it was. */
  begin(part: Part): void {
    this.#unanswered.set(part.id, [...this.unansweredOf(part.id).slice(-mostUnanswered), part])
  }

  /** @throws ApiError where the server has not taken it */
  async send(part: Part, leaving: boolean): Promise<{ readonly revision: number; readonly updatedAt: string }> {
    const saved = await savedOnOwn(part, this.baseOf(part.id), this.unansweredOf(part.id), leaving)
    this.goOnFrom(part.id, saved.revision, [])
    return saved
  }

  /**
   * Sends what the browser has kept of parts that no window shows any more. What the server cannot take as it is waits
   * until its part is opened, and is told there.
   */
  async sendLeft(isOpen: (part: string) => boolean): Promise<void> {
    for (const trail of await trails.unsent()) {
      if (isOpen(trail.part) || this.#refused.has(`${trail.key} ${trail.base}`)) continue
      try {
        const saved = await savedOnOwn(trail.now, trail.base, trail.asked)
        await trails.sent(trail, saved.revision)
      } catch (error) {
        if (!(error instanceof ApiError) || error.status === 0) return
        this.#refused.add(`${trail.key} ${trail.base}`)
      }
    }
  }
}

/** Saves; where what the server has is a state that was sent from here and whose answer was lost, on that one. */
async function savedOnOwn(part: Part, base: number, asked: readonly Part[], leaving = false) {
  try {
    return await api.save(part, base, leaving)
  } catch (error) {
    const there = staleOf(error)
    const text = there && JSON.stringify(there.document)
    if (!there || !asked.some((state) => JSON.stringify(state) === text)) throw error
    return api.save(part, there.revision, leaving)
  }
}

/** What the server has, where a save goes on from something else. */
export function staleOf(error: unknown): { readonly revision: number; readonly document: Part } | undefined {
  if (!(error instanceof ApiError && error.status === 409)) return undefined
  return (error.body as { current: { revision: number; document: Part } }).current
}

/** A save of a part that was closed meanwhile has come through. */
export async function closedSent(part: Part, revision: number): Promise<void> {
  const found = (await trails.unsent()).find(({ now }) => JSON.stringify(now) === JSON.stringify(part))
  if (found) await trails.sent(found, revision)
}
