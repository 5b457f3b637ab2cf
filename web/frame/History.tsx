import type { RevisionEntry } from '@makrel/core/document'
import { type ReactNode, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { api } from '../api.ts'
import { newId } from '../ids.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { DialogPanel } from '../ui/DialogPanel.tsx'
import { momentText } from '../ui/dates.ts'

/** The earlier versions of the part, with pictures and names: any of them can be returned to, or copied. */
export function History({ trigger }: { readonly trigger: ReactNode }) {
  const [open, setOpen] = useState(false)
  return (
    <DialogPanel
      title="History"
      open={open}
      onOpenChange={setOpen}
      className="flex h-[35rem] max-h-[92vh] w-[53.75rem] flex-col"
      trigger={trigger}
    >
      <States onDone={() => setOpen(false)} />
    </DialogPanel>
  )
}

function States({ onDone }: { onDone(): void }) {
  const { id } = usePart((state) => state.part)!
  const [entries, setEntries] = useState<readonly RevisionEntry[]>()
  const [failure, setFailure] = useState('')
  const [chosen, setChosen] = useState<number>()
  useEffect(() => {
    let current = true
    // What is being kept at this moment belongs to it.
    void usePart
      .getState()
      .saveNow()
      .then(() => api.revisions(id))
      .then(
        (list) => {
          if (!current) return
          setEntries(list)
          setChosen((before) => before ?? list[0]?.revision)
        },
        (error: Error) => current && setFailure(error.message),
      )
    return () => {
      current = false
    }
  }, [id])
  if (failure)
    return (
      <p role="alert" className="mt-4">
        {failure}
      </p>
    )
  const entry = entries?.find(({ revision }) => revision === chosen)
  return (
    <div className="mt-3 flex min-h-0 flex-1 gap-5">
      <ul aria-label="Versions" className="w-[18.75rem] shrink-0 overflow-y-auto border border-line">
        {entries?.map(({ revision, createdAt, name }, i) => (
          <li key={revision} className="border-t border-line first:border-t-0">
            <button
              type="button"
              aria-pressed={revision === chosen}
              onClick={() => setChosen(revision)}
              className="flex w-full items-baseline gap-2 px-3 py-1.5 text-left hover:bg-mackerel-wash aria-pressed:bg-mackerel-wash"
            >
              <span className="figures w-9 shrink-0 text-ink-soft">{revision}</span>
              <span className="min-w-0 flex-1 truncate font-medium">{name || (i === 0 ? 'now' : '')}</span>
              <span className="figures shrink-0 text-ink-soft">{momentText(new Date(createdAt))}</span>
            </button>
          </li>
        ))}
      </ul>
      {entry && (
        <State
          key={entry.revision}
          partId={id}
          entry={entry}
          latest={entry.revision === entries![0]!.revision}
          onNamed={(name) =>
            setEntries(entries!.map((each) => (each.revision === entry.revision ? { ...each, name } : each)))
          }
          onDone={onDone}
        />
      )}
    </div>
  )
}

function State({
  partId,
  entry,
  latest,
  onNamed,
  onDone,
}: {
  readonly partId: string
  readonly entry: RevisionEntry
  readonly latest: boolean
  onNamed(name: string): void
  onDone(): void
}) {
  const navigate = useNavigate()
  const [picture, setPicture] = useState<string | null>()
  const [name, setName] = useState(entry.name)
  const [failure, setFailure] = useState('')
  const { revision } = entry
  const told = (error: Error) => setFailure(error.message)
  useEffect(() => {
    let current = true
    api
      .revision(partId, revision)
      .then(async ({ document }) => (await import('../shelf/pictures.ts')).pictureOf(document))
      .then(
        (url) => current && setPicture(url ?? null),
        (error: Error) => current && setFailure(error.message),
      )
    return () => {
      current = false
    }
  }, [partId, revision])
  const back = async () => {
    const { document } = await api.revision(partId, revision)
    usePart.getState().replace(document)
    sayDone(`Returned to version ${revision}.`)
    onDone()
  }
  const copy = async () => {
    const { document } = await api.revision(partId, revision)
    const id = newId()
    await api.create({ ...document, id, name: `${document.name}, version ${revision}`.slice(0, 120) })
    onDone()
    navigate(`/part/${id}/make`)
  }
  const commit = () => {
    if (name.trim() === entry.name) return
    api.nameRevision(partId, revision, name.trim()).then(() => onNamed(name.trim()), told)
  }
  return (
    <section aria-label={`Version ${revision}`} className="flex min-w-0 flex-1 flex-col gap-3">
      <div className="flex h-[18.75rem] items-center justify-center border border-line bg-ground">
        {picture ? (
          <img src={picture} alt={`Drawing of version ${revision}`} className="max-h-full max-w-full" />
        ) : (
          <p className="text-ink-soft">{picture === null ? 'Nothing was built yet.' : 'drawing …'}</p>
        )}
      </div>
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Name</span>
        <input
          value={name}
          maxLength={120}
          placeholder="a name keeps it"
          onChange={(event) => setName(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === 'Enter' && commit()}
          className="h-8 min-w-0 flex-1 border border-line bg-sheet px-2"
        />
      </label>
      {failure && <p role="alert">{failure}</p>}
      <div className="mt-auto flex flex-wrap gap-2">
        <Button main disabled={latest} onClick={() => void back().catch(told)}>
          Return to this
        </Button>
        <Button onClick={() => void copy().catch(told)}>Copy as a new part</Button>
      </div>
    </section>
  )
}
