import type { Part } from '@makrel/core/document'
import { fromBytes, toBytes } from '@makrel/core/mesh'
import { keptDrawing, keptKey, mostTrianglesKept, type PartDrawing } from '@makrel/core/solids'
import type { DrawnPiece, KnownFigures } from '../state/build.ts'
import type { Proving } from '../state/proving.ts'
import { useView } from '../viewport/view.ts'
import { contentKey, keptDrawings, windowNow } from './kept.ts'
import { served } from './served.ts'
import { squeezed, unsqueezed } from './squeezed.ts'

/** All that a state of a part came to. Whoever has only drawn it has found and measured nothing. */
export interface Remembered extends PartDrawing {
  readonly pieces: readonly DrawnPiece[]
  readonly findings?: Proving['findings']
  readonly figures?: Readonly<Record<string, KnownFigures>>
}

/** What was drawn of parts, kept by their content; a state is kept once, when it has come to rest. */
function createMemory() {
  /** how a part was opened, where it was brought up to what this version knows */
  const openedAs = new WeakMap<Part, Part>()

  async function recalled(part: Part): Promise<Remembered | undefined> {
    try {
      const bytes = (await keptDrawings.drawing(await contentKey(part))) ?? (await served.drawing(part))
      return bytes && (fromBytes(await unsqueezed(bytes)) as Remembered)
    } catch {
      // What cannot be asked for, or read, is drawn anew.
      return undefined
    }
  }

  async function keep(part: Part, what: Remembered, isStill: () => boolean): Promise<void> {
    if (what.pieces.reduce((sum, { triangles }) => sum + triangles, 0) > mostTrianglesKept) return
    const before = openedAs.get(part)
    const keys = await Promise.all([part, ...(before ? [before] : [])].map(contentKey)).catch(() => undefined)
    if (!keys) return
    const known = await Promise.all(keys.map((key) => keptDrawings.has(key)))
    if (known.every(Boolean) || !isStill()) return
    const { parallel, asOpened } = useView.getState()
    // Parts open with the usual lens.
    const seen = parallel === useView.getInitialState().parallel ? await asOpened().catch(() => undefined) : undefined
    const bytes = await squeezed(toBytes(asKept(what)))
    for (const key of keys) await keptDrawings.keep(part.id, key, bytes, seen && { ...seen, window: windowNow() })
  }

  return { openedAs, recalled, keep }
}

function asKept({ figures = {}, ...drawing }: Remembered): Remembered {
  const measured = Object.entries(figures).map(([id, of]): [string, KnownFigures] => [
    id,
    { ...of, key: keptKey(of.key) },
  ])
  return { ...keptDrawing(drawing), figures: Object.fromEntries(measured) }
}

export const memory = createMemory()
