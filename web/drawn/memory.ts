import type { Part } from '@makrel/core/document'
import type { SolidReadings } from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import type { DrawnPiece, KnownFigures } from '../state/build.ts'
import type { Proving } from '../state/proving.ts'
import { useView } from '../viewport/view.ts'
import { contentKey, keptDrawings, windowNow } from './kept.ts'
import { packed, squeezed, unpacked, unsqueezed } from './packed.ts'

/** All that a state of a part came to. */
export interface Remembered {
  readonly pieces: readonly DrawnPiece[]
  readonly problems: readonly Problem[]
  readonly readings: SolidReadings
  readonly findings: Proving['findings']
  readonly figures: Readonly<Record<string, KnownFigures>>
}

/** Larger drawings take longer to keep than to draw. */
const mostTriangles = 150_000

/** What was drawn of parts, kept by their content; a state is kept once, when it has come to rest. */
function createMemory() {
  /** how a part was opened, where it was brought up to what this version knows */
  const openedAs = new WeakMap<Part, Part>()

  async function recalled(part: Part): Promise<Remembered | undefined> {
    const bytes = await keptDrawings.drawing(await contentKey(part))
    try {
      return bytes && (unpacked(await unsqueezed(bytes)) as Remembered)
    } catch {
      // What cannot be read is drawn anew.
      return undefined
    }
  }

  async function keep(part: Part, what: Remembered, isStill: () => boolean): Promise<void> {
    if (what.pieces.reduce((sum, { triangles }) => sum + triangles, 0) > mostTriangles) return
    const before = openedAs.get(part)
    const keys = await Promise.all([part, ...(before ? [before] : [])].map(contentKey))
    const known = await Promise.all(keys.map((key) => keptDrawings.has(key)))
    if (known.every(Boolean) || !isStill()) return
    const { parallel, asOpened } = useView.getState()
    // Parts open with the usual lens.
    const seen = parallel === useView.getInitialState().parallel ? await asOpened().catch(() => undefined) : undefined
    const bytes = await squeezed(packed(what))
    for (const key of keys) await keptDrawings.keep(part.id, key, bytes, seen && { ...seen, window: windowNow() })
  }

  return { openedAs, recalled, keep }
}

export const memory = createMemory()
