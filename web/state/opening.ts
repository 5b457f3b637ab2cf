import { documentLimits, type Part } from '@makrel/core/document'
import { ahead } from '../ahead.ts'
import { ApiError, api } from '../api.ts'
import { newId } from '../ids.ts'
import { say } from '../ui/Notice.tsx'
import { usePart } from './part.ts'
import { type FoundTrail, trails } from './trail.ts'

/**
 * Opens a part as the server has it, with what the browser has kept of it. A server that is away keeps nobody from going
 * on with what is in the browser.
 *
 * @throws ApiError where neither has it
 */
export async function openedPart(id: string, wanted: () => boolean): Promise<void> {
  const [found, ...others] = await trails.of(id)
  // What was asked for when the page began may be older than what this browser has sent since.
  if (found?.unsent) ahead.forget()
  const kept = await api.read(id).catch((error: unknown) => {
    const away = error instanceof ApiError && error.status === 0
    if (!(found && away)) throw error
  })
  if (!wanted()) return
  const { document, revision, updatedAt } = kept ?? {
    document: found!.now,
    revision: found!.base,
    updatedAt: new Date().toISOString(),
  }
  // The server has it after all: its answer was lost on its way.
  const there = kept && JSON.stringify(found?.now) === JSON.stringify(document)
  const trail = found && there ? { ...found, now: document, unsent: false } : found
  usePart.getState().open(document, revision, new Date(updatedAt), trail)
  if (trail) {
    trails.flush()
    await trails.forget(trail)
  }
  await asParts(others, [document, trail?.now])
}

/** What further windows have left unsent comes to stand on the shelf by itself, unless it is known already. */
async function asParts(left: readonly FoundTrail[], known: readonly (Part | undefined)[]): Promise<void> {
  const texts = new Set(known.map((part) => JSON.stringify(part)))
  for (const trail of left) {
    const copied = trail.unsent && !texts.has(JSON.stringify(trail.now))
    if (copied) {
      const part = otherVersion(trail.now)
      const created = await api.create(part).catch(() => undefined)
      // It waits where it is until the server can take it.
      if (!created) continue
      say({ text: `Unsaved changes from another window are on the shelf as “${part.name}”.` })
    }
    await trails.forget(trail)
  }
}

/** The same part as another one, by a name that tells so and is no longer than a name may be. */
export function otherVersion(part: Part): Part {
  const more = ' (other version)'
  return { ...part, id: newId(), name: `${part.name.slice(0, documentLimits.name - more.length)}${more}` }
}
