import { Popover } from 'radix-ui'
import { useState } from 'react'
import { newId } from '../ids.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { CloseIcon } from '../ui/icons.tsx'
import { savePicture } from './savePicture.ts'
import { useView } from './view.ts'

/** Ways of looking at the part that are kept by name, and the drawing as it is seen now, as a picture. */
export function KeptViews() {
  const part = usePart((state) => state.part!)
  const { edit } = usePart.getState()
  const [name, setName] = useState('')
  const keep = () => {
    const pose = useView.getState().pose()
    if (!pose) return
    edit({ type: 'keep-view', view: { id: newId(), name: name.trim() || `View ${part.views.length + 1}`, ...pose } })
    setName('')
  }
  return (
    <Popover.Root>
      <Popover.Trigger className="choice text-ink-soft">views</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          aria-label="Kept views"
          className="z-50 w-64 rounded-sm border border-ink-soft bg-sheet p-3 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          {part.views.length === 0 && (
            <p className="text-ink-soft">No view is kept yet. Turn the part, and keep what you see.</p>
          )}
          <ul>
            {part.views.map((view) => (
              <li key={view.id} className="flex items-center">
                <button
                  type="button"
                  onClick={() => useView.getState().take(view)}
                  className="min-w-0 flex-1 truncate py-1 text-left text-base hover:text-mackerel"
                >
                  {view.name}
                </button>
                <IconButton label={`Drop ${view.name}`} onClick={() => edit({ type: 'drop-view', id: view.id })}>
                  <CloseIcon size={13} />
                </IconButton>
              </li>
            ))}
          </ul>
          <form
            className="mt-2 flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault()
              keep()
            }}
          >
            <input
              aria-label="Name of the view"
              placeholder={`View ${part.views.length + 1}`}
              value={name}
              maxLength={120}
              onChange={(event) => setName(event.target.value)}
              className="h-7 min-w-0 flex-1 rounded-sm border border-line px-2"
            />
            <Button type="submit" className="h-7">
              keep it
            </Button>
          </form>
          <Button className="mt-2 h-7 w-full justify-center" onClick={() => void savePicture(part.name)}>
            Save a picture (PNG)
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
