import type { RevisionEntry } from '@makrel/core/document'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { type ApiError, api } from '../api.ts'
import { Button } from '../ui/Button.tsx'
import { momentText } from '../ui/dates.ts'
import { NoticeBar, say } from '../ui/Notice.tsx'

/** Shown instead of a part that cannot be opened: why, and how to get at what is kept of it. */
export function Unopened({ id, failure, again }: { readonly id: string; readonly failure: ApiError; again(): void }) {
  const [states, setStates] = useState<readonly RevisionEntry[]>([])
  const isThere = failure.status === 400
  useEffect(() => {
    if (isThere) api.revisions(id).then(setStates, () => undefined)
  }, [id, isThere])

  const attempt = (work: () => Promise<unknown>) =>
    void work().then(again, (error: Error) => say({ text: error.message, fault: true }))
  const backTo = (revision: number) =>
    attempt(async () => {
      const { document } = await api.revision(id, revision)
      await api.save(document, states[0]!.revision)
    })
  return (
    <main className="flex h-full flex-col items-center overflow-y-auto p-6">
      <div className="my-auto flex w-full max-w-xl flex-col gap-4 border border-line bg-sheet p-6">
        <div role="alert" className="flex flex-col gap-1">
          <h1 className="text-base font-semibold">This part cannot be opened.</h1>
          <p>{failure.message}</p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button main onClick={again}>
            Try again
          </Button>
          {isThere && (
            <a
              href={api.rawUrl(id)}
              download
              className="inline-flex h-8 items-center rounded-sm border border-line px-3 hover:border-ink-soft"
            >
              Save the file as it stands
            </a>
          )}
          {failure.status === 404 && (
            <Button onClick={() => attempt(() => api.restore(id))}>Put it back on the shelf</Button>
          )}
          <Link to="/" className="inline-flex h-8 items-center px-3 font-semibold text-mackerel underline">
            To the shelf
          </Link>
        </div>
        {states.length > 1 && (
          <section aria-labelledby="earlier">
            <h2 id="earlier" className="border-b border-line pb-1 font-semibold">
              Earlier versions
            </h2>
            <ul className="max-h-72 overflow-y-auto">
              {states.slice(1).map(({ revision, createdAt, name }) => (
                <li key={revision} className="flex items-center gap-3 border-b border-line py-1">
                  <span className="figures w-12 text-ink-soft">{revision}</span>
                  <span className="mr-auto">{name || momentText(new Date(createdAt))}</span>
                  <Button onClick={() => backTo(revision)}>Return to this</Button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
      <NoticeBar />
    </main>
  )
}
