import { api } from '../api.ts'
import { saveAsFile } from '../shelf/files.ts'
import { otherVersion } from '../state/opening.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { say } from '../ui/Notice.tsx'
import { History } from './History.tsx'

/** Offered when the part was changed elsewhere: nothing is overwritten unasked, and either version can be had. */
export function Conflict() {
  const save = usePart((state) => state.save)
  const { keepMine, takeTheirs } = usePart.getState()
  if (save.kind !== 'stale') return null
  const both = async () => {
    const { part } = usePart.getState()
    if (!part) return
    const mine = otherVersion(part)
    await api.create(mine)
    takeTheirs()
    say({ text: `Your version is on the shelf as “${mine.name}”.` })
  }
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 border-b border-amber bg-[#faf3e4] px-5 py-2">
      <span className="mr-auto">
        <strong>This part was changed in another window or by another person.</strong> Your changes are here and not
        saved yet.
      </span>
      <Button onClick={keepMine}>Keep mine</Button>
      <Button onClick={takeTheirs}>Take the other one</Button>
      <Button main onClick={() => void both()}>
        Keep both
      </Button>
    </div>
  )
}

/** Said while the server has not kept what is here: why, and what can be done about it. It is asked again by itself. */
export function Unkept() {
  const save = usePart((state) => state.save)
  const { saveNow } = usePart.getState()
  if (save.kind !== 'failed') return null
  const asFile = () => {
    const { part } = usePart.getState()
    if (part) saveAsFile(part)
  }
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 border-b border-rust bg-rust-wash px-5 py-2">
      <span className="mr-auto">
        <strong>Your changes are safe here, but not saved on the server:</strong> {save.message}
      </span>
      <Button onClick={() => void saveNow()}>Try again</Button>
      <Button onClick={asFile}>Save as a file</Button>
      <History trigger={<Button>Earlier versions</Button>} />
    </div>
  )
}
