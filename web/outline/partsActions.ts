import { allSteps, type Outline, outlinesOf } from '@makrel/core/document'
import { middleOf, type OutlineParts, partsOf, type Similarity, withChanged, withParts } from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import { fieldKindOf } from '@makrel/core/planning'
import { useEffect } from 'react'
import { newId } from '../ids.ts'
import { isTyping } from '../keys/keys.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { listen } from '../ui/listen.ts'
import { say } from '../ui/Notice.tsx'
import { removeParts } from './actions.ts'
import { change, settledNow, solvedNow, useOutline } from './state.ts'

/** What can be done to several curves and points at once: copied, moved, turned, scaled, mirrored. */

/** What is pasted stands aside of its original by so many pixels. */
const pastedAside = 24

function chosen(): { readonly outline: Outline; readonly parts: OutlineParts } | undefined {
  const outline = settledNow()
  if (!outline) return undefined
  const parts = partsOf(outline, new Set(useOutline.getState().selected))
  return parts.points.length > 0 ? { outline, parts } : undefined
}

/** Changes what is selected where it is, about the middle of its extents; what held it back is let go, and told. */
export function changeSelected(how: Omit<Similarity, 'about'>): void {
  const now = chosen()
  const solved = solvedNow()
  if (!now || !solved) return
  const ids = new Set(useOutline.getState().selected)
  const about = middleOf(now.parts)
  const { outline, letGo } = withChanged(now.outline, ids, { about, ...how }, solved.values)
  change(outline)
  if (letGo > 0)
    sayDone(
      `${letGo === 1 ? 'One constraint' : `${letGo} constraints`} that held it in place ${letGo === 1 ? 'was' : 'were'} removed.`,
    )
}

/** A copy beside what is selected, or changed as asked; the copy is selected. */
export function copySelected(how?: Omit<Similarity, 'about'>): void {
  const now = chosen()
  if (now) add(now.parts, { about: middleOf(now.parts), ...(how ?? { by: aside() }) })
}

function aside(): Vec2 {
  const { scale } = useOutline.getState().view
  return [pastedAside / scale, -pastedAside / scale]
}

function add(parts: OutlineParts, how: Similarity): void {
  const outline = settledNow()
  if (!outline) return
  const { outline: next, ids } = withParts(outline, parts, how)
  if (!change(next)) return
  useOutline.setState({ selected: ids })
}

const mark = 'makrel-outline-parts'

export function selectAllCurves(): void {
  useOutline.setState({ selected: settledNow()?.curves.map(({ id }) => id) ?? [] })
}

/** Copy, cut and paste of curves by the operating system's keys, in any outline of any part. */
export function useOutlineClipboard(): void {
  useEffect(() => {
    const taken = (event: ClipboardEvent): boolean => {
      const now = chosen()
      if (isTyping(event) || !now || !event.clipboardData) return false
      event.clipboardData.setData('text/plain', JSON.stringify({ format: mark, parts: now.parts }))
      event.preventDefault()
      return true
    }
    const copy = (event: ClipboardEvent) =>
      void (taken(event) && say({ text: 'What is selected is on the clipboard.' }))
    const cut = (event: ClipboardEvent) => {
      if (taken(event)) removeParts()
    }
    const paste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain') ?? ''
      if (isTyping(event) || !text.includes(mark)) return
      event.preventDefault()
      const parts = partsIn(text)
      if (parts) add(parts, { about: [0, 0], by: aside() })
      else say({ text: 'This cannot be pasted: it is not part of an outline.' })
    }
    return listen(document, { copy, cut, paste })
  }, [])
}

/** Parts of an outline from the clipboard, if the text is such, and sound. */
function partsIn(text: string): OutlineParts | undefined {
  try {
    const { format, parts } = JSON.parse(text) as { format: string; parts: OutlineParts }
    const known = new Set(parts.points.map(({ id }) => id))
    const sound =
      format === mark &&
      parts.points.every(({ at }) => at.length === 2 && at.every(Number.isFinite)) &&
      parts.curves.every(({ points }) => points.every((p) => known.has(p))) &&
      Array.isArray(parts.constraints) &&
      Array.isArray(parts.derived)
    return sound ? parts : undefined
  } catch {
    return undefined
  }
}

/** The whole outline once more, beside it in the list. */
export function copyOutline(id: string): void {
  const { part, edit } = usePart.getState()
  const outline = part?.outlines.find((each) => each.id === id)
  if (!part || !outline) return
  let number = 2
  while (part.outlines.some(({ name }) => name === `${outline.name} ${number}`)) number++
  const copy = { ...outline, id: newId(), name: `${outline.name} ${number}` }
  if (!edit({ type: 'add-outline', outline: copy })) return
  const used = allSteps(part).some((step) => outlinesOf(step, fieldKindOf).includes(id))
  sayDone(`${copy.name} is a copy${used ? '; steps stay with the first one' : ''}.`)
}
