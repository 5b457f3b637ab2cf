import { usualSize } from '@makrel/core/fields'
import { ValueField } from '../make/ValueField.tsx'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { RemoveIcon } from '../ui/icons.tsx'

/** How thick the walls of the part have to be at least, where the maker asks for more than its printer does. */
export function LeastWall() {
  const leastWall = usePart((state) => state.part!.leastWall)
  const unit = usePart((state) => state.part!.unit)
  const names = useWorked()?.resolved.measures.names
  const { edit } = usePart.getState()
  const set = (text: string) => edit({ type: 'set-least-wall', leastWall: text })
  if (leastWall === '' || !names)
    return (
      <div>
        <Button onClick={() => set(usualSize(1.2, unit))}>Ask for a least wall</Button>
      </div>
    )
  return (
    <div className="relative flex items-center gap-1.5">
      <ValueField label="Least wall" kind="length" text={leastWall} names={names} onChange={set} />
      <span className="text-ink-soft">{unit}; Proof tells what is thinner</span>
      <IconButton
        label="Drop the least wall"
        onClick={() => {
          set('')
          sayDone('No least wall is asked for.')
        }}
      >
        <RemoveIcon size={14} />
      </IconButton>
    </div>
  )
}
