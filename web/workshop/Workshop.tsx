import { readThingFile, writeThingFile } from '@makrel/core/document'
import { fileName } from '@makrel/core/exchange'
import type { KeptThing, WorkshopKind, WorkshopThings } from '@makrel/core/fits'
import { useEffect, useRef } from 'react'
import { Link, NavLink, useNavigate, useParams } from 'react-router'
import { PlainHeader } from '../frame/PlainHeader.tsx'
import { newId } from '../ids.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { CopyIcon, DownloadIcon, OpenIcon, RemoveIcon } from '../ui/icons.tsx'
import { NoticeBar, say } from '../ui/Notice.tsx'
import { saveBytes } from '../ui/saveBytes.ts'
import { addThing, bringBackShipped, copyOf, loadWorkshop, removeThing, useWorkshop, wordOf } from './state.ts'
import { ThingForm } from './ThingForm.tsx'

const titles = { printers: 'Printers', materials: 'Materials' } as const

/** What can be printed with, and from what: one list each, and the values of the one that is chosen. */
export function Workshop() {
  const { kind: asked, id } = useParams()
  return <WorkshopOf kind={asked === 'materials' ? 'materials' : 'printers'} id={id} />
}

function WorkshopOf<K extends WorkshopKind>({ kind, id }: { readonly kind: K; readonly id: string | undefined }) {
  type Thing = WorkshopThings[K]
  const { lists, failure } = useWorkshop()
  const navigate = useNavigate()
  const file = useRef<HTMLInputElement>(null)
  useEffect(() => {
    document.title = `${titles[kind]} — Makrel`
    void loadWorkshop()
  }, [kind])
  const list = (lists?.[kind] ?? []) as readonly KeptThing<Thing>[]
  const chosen = list.find(({ thing }) => thing.id === id) ?? list[0]

  const add = async (thing: Thing) => {
    if (await addThing(kind, thing)) navigate(`/workshop/${kind}/${thing.id}`)
  }
  const openFile = async (from: File) => {
    try {
      const { thing, faults } = readThingFile(kind, await from.text())
      const own = { ...thing, id: list.some((each) => each.thing.id === thing.id) ? newId() : thing.id }
      if (faults.length === 0) return await add(own)
      say({
        text: `${from.name}: ${faults.map(({ place, text }) => `${place} ${text}`).join('; ')}.`,
        fault: true,
        action: { label: 'Open it with what can be', run: () => void add(own) },
      })
    } catch (error) {
      say({ text: `${from.name} was not opened: ${(error as Error).message}`, fault: true })
    }
  }
  const saveFile = (thing: Thing) => {
    const bytes = new TextEncoder().encode(writeThingFile(kind, thing))
    saveBytes(`${fileName(thing.name)}.makrel-${wordOf[kind]}.json`, 'application/json', bytes)
  }
  const copy = (thing: Thing) =>
    add(
      copyOf(
        thing,
        list.map((each) => each.thing),
      ),
    )

  return (
    <div className="flex h-full flex-col">
      <PlainHeader title="Workshop">
        <nav aria-label="Workshop" className="ml-4 flex gap-5">
          {(['printers', 'materials'] as const).map((each) => (
            <NavLink
              key={each}
              to={`/workshop/${each}`}
              className={`border-b-2 py-1 font-medium ${each === kind ? 'border-mackerel text-mackerel' : 'border-transparent'}`}
            >
              {titles[each]}
            </NavLink>
          ))}
        </nav>
        <input
          ref={file}
          type="file"
          accept=".json"
          aria-label={`File of a ${wordOf[kind]}`}
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const opened = event.target.files?.[0]
            event.target.value = ''
            if (opened) void openFile(opened)
          }}
        />
        <Button className="ml-auto" onClick={() => file.current?.click()}>
          <OpenIcon size={15} /> Open a file
        </Button>
      </PlainHeader>
      <main className="min-h-0 flex-1 overflow-y-auto bg-ground">
        {failure && (
          <p role="alert" className="m-6 border-l-4 border-rust bg-rust-wash p-4">
            {failure}
          </p>
        )}
        <div className="mx-auto grid max-w-[73.75rem] grid-cols-[300px_1fr] gap-8 px-6 py-6 max-[56.25rem]:grid-cols-1">
          <section aria-label={titles[kind]}>
            <ul className="flex flex-col gap-2">
              {list.map(({ thing }) => (
                <li
                  key={thing.id}
                  className={`flex items-center border bg-sheet ${thing === chosen?.thing ? 'border-mackerel' : 'border-line'}`}
                >
                  <Link
                    to={`/workshop/${kind}/${thing.id}`}
                    aria-current={thing === chosen?.thing}
                    className="min-w-0 flex-1 px-3 py-2"
                  >
                    <span className="block truncate font-semibold">{thing.name}</span>
                    <span className="figures block text-sm text-ink-soft">{aboutThing(thing)}</span>
                  </Link>
                  <IconButton label={`Copy ${thing.name}`} onClick={() => void copy(thing)}>
                    <CopyIcon size={15} />
                  </IconButton>
                  <IconButton label={`Save ${thing.name} as a file`} onClick={() => saveFile(thing)}>
                    <DownloadIcon size={15} />
                  </IconButton>
                  <IconButton
                    label={`Remove ${thing.name}`}
                    onClick={() => void removeThing(kind, thing)}
                    className="mr-1"
                  >
                    <RemoveIcon size={15} />
                  </IconButton>
                </li>
              ))}
            </ul>
            {lists && list.length === 0 && (
              <div className="text-ink-soft">
                <p className="mb-2">There is no {wordOf[kind]} here. Open one from a file, or take those that ship.</p>
                <Button onClick={() => void bringBackShipped(kind)}>Bring back those that ship</Button>
              </div>
            )}
          </section>
          {chosen && <ThingForm key={`${kind} ${chosen.thing.id}`} kind={kind} kept={chosen} />}
        </div>
      </main>
      <NoticeBar />
    </div>
  )
}

function aboutThing(thing: WorkshopThings[WorkshopKind]): string {
  return 'bed' in thing ? `${thing.bed.join(' × ')} mm, layers of ${thing.layerHeight}` : `${thing.density} g/cm³`
}
