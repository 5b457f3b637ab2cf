import type { ShelfEntry, ShelfOrder } from '@makrel/core/document'
import { useCallback, useEffect, useRef, useState } from 'react'
import { api } from '../api.ts'
import { saves } from '../state/saves.ts'

/** Parts that are asked for at once. */
const together = 60
/** A server that is away is asked again after so long, ms. */
const again = 3000

const pageOf = (search: string, order: ShelfOrder, page: number) =>
  api.list({ search, order, from: page * together, count: together })

/** Where the shelf is what is opened, its first page is asked for before anything is drawn, and given to who asks first. */
function createPages(early = globalThis.location?.pathname === '/' ? pageOf('', 'changed', 0) : undefined) {
  early?.catch(() => undefined)
  let first = early
  return (search: string, order: ShelfOrder, page: number) => {
    const asked = search === '' && order === 'changed' && page === 0 ? first : undefined
    first = undefined
    return asked ?? pageOf(search, order, page)
  }
}
const listed = createPages()

interface Listed {
  readonly total: number
  /** by their places in the list, as far as they have been asked for */
  readonly entries: ReadonlyMap<number, ShelfEntry>
}

export interface ShelfList {
  /** undefined until the server has told it */
  readonly total: number | undefined
  readonly failure: string | undefined
  readonly entries: ReadonlyMap<number, ShelfEntry>
  /** Sees to it that the parts at these places are there. */
  show(from: number, to: number): void
  /** Asks anew for all that is shown. */
  reload(): Promise<void>
  /** What is known anew of a part. */
  change(id: string, more: Partial<ShelfEntry>): void
}

/** The parts of the shelf, asked for as they come into view. */
export function useShelfList(search: string, order: ShelfOrder): ShelfList {
  const [shelf, setShelf] = useState<Listed>()
  const [failure, setFailure] = useState<string>()
  const shown = useRef({ from: 0, to: together })
  /** pages that were asked for, of the list as it is now */
  const asked = useRef(new Set<number>())
  const current = useRef(0)

  /** Whether the server told. */
  const ask = useCallback(
    async (page: number, turn: number, anew: boolean): Promise<boolean> => {
      asked.current.add(page)
      try {
        const { total, entries } = await listed(search, order, page)
        if (current.current !== turn) return false
        setFailure(undefined)
        setShelf((before) => ({
          total,
          entries: new Map([
            ...(anew ? [] : (before?.entries ?? [])),
            ...entries.map((entry, i) => [page * together + i, entry] as const),
          ]),
        }))
        return true
      } catch (error) {
        if (current.current !== turn) return false
        asked.current.delete(page)
        setFailure((error as Error).message)
        return false
      }
    },
    [search, order],
  )
  const show = useCallback(
    (from: number, to: number) => {
      shown.current = { from, to }
      for (let page = Math.floor(from / together); page * together < to; page++)
        if (!asked.current.has(page)) void ask(page, current.current, false)
    },
    [ask],
  )
  const reload = useCallback(async () => {
    await saves.all()
    const turn = ++current.current
    asked.current.clear()
    const first = Math.floor(shown.current.from / together)
    if (await ask(first, turn, true)) show(shown.current.from, shown.current.to)
  }, [ask, show])

  useEffect(() => {
    shown.current = { from: 0, to: together }
    void reload()
  }, [reload])
  useEffect(() => {
    if (failure === undefined) return
    const timer = setInterval(() => void reload(), again)
    return () => clearInterval(timer)
  }, [failure, reload])

  const change = useCallback((id: string, more: Partial<ShelfEntry>) => {
    setShelf(
      (before) =>
        before && {
          ...before,
          entries: new Map(
            [...before.entries].map(([place, entry]) => [place, entry.id === id ? { ...entry, ...more } : entry]),
          ),
        },
    )
  }, [])
  return { total: shelf?.total, entries: shelf?.entries ?? none, failure, show, reload, change }
}

const none: ReadonlyMap<number, ShelfEntry> = new Map()
