import type { Part, ShelfEntry, ShelfOrder } from '@makrel/core/document'
import { formatSize } from '@makrel/core/units'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api } from '../api.ts'
import { BringIn } from '../bringIn/BringIn.tsx'
import { DropHint } from '../bringIn/DropHint.tsx'
import { useFileDrop } from '../bringIn/files.ts'
import { openMeshFile } from '../bringIn/state.ts'
import { Mark } from '../frame/Mark.tsx'
import { Working } from '../frame/Working.tsx'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice, type Option } from '../ui/Choice.tsx'
import { dayText } from '../ui/dates.ts'
import { CopyIcon, DownloadIcon, NewIcon, OpenIcon, RemoveIcon, SearchIcon } from '../ui/icons.tsx'
import { NoticeBar, say } from '../ui/Notice.tsx'
import { CardGrid } from './CardGrid.tsx'
import { useShelfList } from './list.ts'

/** What reads and writes part files is fetched when it is wanted; the shelf itself is there at once. */
const files = () => import('./files.ts')

const orders: readonly Option<ShelfOrder>[] = [
  { value: 'changed', label: 'Latest change first' },
  { value: 'name', label: 'By name' },
  { value: 'size', label: 'Largest first' },
]

/** All parts kept here. */
export function Shelf() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<ShelfOrder>('changed')
  const { total, entries, failure, show, reload, change } = useShelfList(search, order)
  const navigate = useNavigate()
  const file = useRef<HTMLInputElement>(null)
  useEffect(() => {
    document.title = 'Shelf — Makrel'
  }, [])

  // One picture after another, of what is in view, each shown as soon as it is made, and none for a shelf that was left.
  const [undrawable, setUndrawable] = useState<readonly string[]>([])
  const [view, setView] = useState({ from: 0, to: 0 })
  const inView = useCallback(
    (from: number, to: number) => {
      setView((before) => (before.from === from && before.to === to ? before : { from, to }))
      show(from, to)
    },
    [show],
  )
  const next = Array.from({ length: view.to - view.from }, (_, i) => entries.get(view.from + i)).find(
    (entry) => entry && entry.pictureRevision !== entry.revision && !undrawable.includes(state(entry)),
  )
  useEffect(() => {
    if (!next) return
    let current = true
    import('./pictures.ts')
      .then(({ refreshPicture }) => refreshPicture(next, () => current))
      .catch(() => undefined)
      .then((made) => {
        if (!current) return
        if (!made) return setUndrawable((before) => [...before, state(next)])
        change(next.id, made)
      })
    return () => {
      current = false
    }
  }, [next, change])

  const attempt = (work: () => Promise<unknown>) =>
    void work()
      .then(() => reload())
      .catch((error: Error) => say({ text: error.message, fault: true }))
  const addPart = async (part: Part) => {
    await api.create(part)
    navigate(`/part/${part.id}/${part.pieces.some((piece) => piece.steps.length > 0) ? 'make' : 'plan'}`)
  }
  const openFile = async (chosen: File) => {
    try {
      if (/\.json$/i.test(chosen.name)) await addPart(await (await files()).partOf(chosen))
      else await openMeshFile(chosen, { kind: 'shelf', made: addPart }, undefined)
    } catch (error) {
      say({ text: `${chosen.name} was not opened: ${(error as Error).message}`, fault: true })
    }
  }
  const over = useFileDrop((dropped) => void openFile(dropped))

  return (
    <div className="flex h-full flex-col">
      <header className="flex min-h-[3.25rem] shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-ink bg-sheet px-5 py-2">
        <Mark />
        <h1 className="text-base font-semibold">Makrel</h1>
        <span className="border-l border-line pl-3 text-ink-soft">Shelf</span>
        <Link to="/workshop/printers" className="ml-2 text-mackerel underline underline-offset-2">
          Printers and materials
        </Link>
        <div className="ml-auto w-44">
          <Choice<ShelfOrder> label="Order" look="box" value={order} options={orders} onChange={setOrder} />
        </div>
        <label className="flex h-8 w-64 items-center gap-2 rounded-sm border border-line bg-sheet px-2 focus-within:border-mackerel">
          <SearchIcon size={15} className="text-ink-soft" />
          <input
            type="search"
            aria-label="Search parts"
            placeholder="Search by name"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            className="w-full bg-transparent outline-none"
          />
        </label>
        <input
          ref={file}
          type="file"
          aria-label="Part file"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const chosen = event.target.files?.[0]
            event.target.value = ''
            if (chosen) void openFile(chosen)
          }}
        />
        <Button onClick={() => file.current?.click()}>
          <OpenIcon size={15} /> Open a file
        </Button>
        <Button main onClick={() => attempt(async () => addPart((await files()).emptyPart()))}>
          <NewIcon size={15} /> New part
        </Button>
      </header>
      {over && <DropHint text="Drop a part file or a mesh here to open it" />}
      <BringIn />
      <main className="min-h-0 flex-1 overflow-y-auto p-6" id="shelf">
        {failure && (
          <p role="alert" className="border-l-4 border-rust bg-rust-wash p-4">
            {failure}
          </p>
        )}
        {total === 0 && (
          <p className="text-base text-ink-soft">
            {search
              ? `No part is called “${search}”.`
              : 'The shelf is empty. Make a new part, or open a file: a part, or a mesh.'}
          </p>
        )}
        {total !== undefined && (
          <CardGrid total={total} inView={inView}>
            {(place) => {
              const entry = entries.get(place)
              return entry ? (
                <PartCard
                  key={entry.id}
                  entry={entry}
                  empty={undrawable.includes(state(entry))}
                  attempt={attempt}
                  reload={reload}
                />
              ) : (
                <div className="h-full border border-line bg-sheet" />
              )
            }}
          </CardGrid>
        )}
      </main>
      <Working />
      <NoticeBar />
    </div>
  )
}

function PartCard({
  entry,
  empty,
  attempt,
  reload,
}: {
  readonly entry: ShelfEntry
  readonly empty: boolean
  attempt(work: () => Promise<unknown>): void
  reload(): Promise<void>
}) {
  const [name, setName] = useState(entry.name)
  useEffect(() => setName(entry.name), [entry.name])
  const rename = () => {
    if (!name.trim() || name === entry.name) return setName(entry.name)
    attempt(async () => {
      const { document, revision } = await api.read(entry.id)
      await api.save({ ...document, name: name.trim() }, revision)
    })
  }
  const copy = async () => {
    const { document } = await api.read(entry.id)
    await api.create((await files()).copyOf(document))
  }
  const save = async () => {
    const { document } = await api.read(entry.id)
    ;(await files()).saveAsFile(document)
  }
  const remove = async () => {
    await api.remove(entry.id)
    say({
      text: `${entry.name} was removed.`,
      action: { label: 'Undo', run: () => void api.restore(entry.id).then(reload) },
    })
  }
  return (
    <div className="group border border-line bg-sheet focus-within:border-ink-soft hover:border-ink-soft">
      <Link
        to={`/part/${entry.id}/make`}
        aria-label={`Open ${entry.name}`}
        className="block bg-[linear-gradient(#f6f8f7,#e9eeec)]"
      >
        {entry.pictureRevision ? (
          <img
            src={api.pictureUrl(entry)}
            alt={`Drawing of ${entry.name}`}
            className="aspect-[3/2] w-full object-contain"
          />
        ) : (
          <span className="flex aspect-[3/2] items-center justify-center text-ink-soft">
            {empty ? 'no solid yet' : 'being drawn …'}
          </span>
        )}
      </Link>
      <div className="border-t border-line px-3 pt-2 pb-2">
        <input
          aria-label={`Name of ${entry.name}`}
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          className="-ml-1 w-full truncate border border-transparent bg-transparent px-1 text-base font-semibold hover:border-line"
        />
        <div className="mt-0.5 flex flex-wrap items-center">
          <p className="text-xs text-ink-soft">
            <span className="figures block min-h-5 text-sm text-ink">
              {entry.size && `${entry.size.map((mm) => formatSize(mm, entry.unit)).join(' × ')} ${entry.unit}`}
            </span>
            <span className="block">{dayText(new Date(entry.updatedAt))}</span>
          </p>
          <span className="ml-auto flex">
            <IconButton label={`Copy ${entry.name}`} onClick={() => attempt(copy)}>
              <CopyIcon size={15} />
            </IconButton>
            <IconButton label={`Save ${entry.name} as a part file`} onClick={() => attempt(save)}>
              <DownloadIcon size={15} />
            </IconButton>
            <IconButton label={`Remove ${entry.name}`} onClick={() => attempt(remove)}>
              <RemoveIcon size={15} />
            </IconButton>
          </span>
        </div>
      </div>
    </div>
  )
}

/** A part as it is. */
const state = ({ id, revision }: ShelfEntry) => `${id} ${revision}`
