import { say } from '../ui/Notice.tsx'
import { usePart } from './part.ts'

/** Says what was done to the part, with a way back, until something else is done to it: then undo would take back that. */
export function sayDone(text: string): void {
  const { part, undo } = usePart.getState()
  const close = say({ text, action: { label: 'Undo', run: undo } })
  const stop = usePart.subscribe((state) => {
    if (state.part === part) return
    stop()
    close()
  })
}
