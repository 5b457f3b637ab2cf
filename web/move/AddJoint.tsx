import { joints } from '@makrel/core/joints'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { newId } from '../ids.ts'
import { Icon } from '../make/ShapeIcon.tsx'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { AddIcon } from '../ui/icons.tsx'
import { FromAnotherPart } from './FromAnotherPart.tsx'
import { newJoint } from './newJoint.ts'

/** All kinds of joint, to add one of. */
export function AddJoint() {
  const part = usePart((state) => state.part)!
  const { edit, select } = usePart.getState()
  const [open, setOpen] = useState(false)
  return (
    <div className="mt-3 flex flex-wrap gap-2 px-5">
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <Button disabled={part.pieces.length < 2}>
            <AddIcon size={15} /> Add a joint
          </Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="left"
            align="start"
            sideOffset={6}
            collisionPadding={8}
            aria-label="Kinds of joint"
            className="z-50 grid w-80 grid-cols-2 gap-px rounded-sm border border-ink-soft bg-line shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
          >
            {joints.map((definition) => (
              <button
                type="button"
                key={definition.kind}
                aria-label={`Add a ${definition.label}`}
                onClick={() => {
                  const id = newId()
                  edit({ type: 'add-joint', joint: newJoint(part, definition, id) })
                  select({ kind: 'joint', id })
                  setOpen(false)
                }}
                className="flex items-center gap-2 bg-sheet px-2 py-2 text-left hover:bg-mackerel-wash"
              >
                <Icon path={definition.icon} className="shrink-0" />
                {definition.label}
              </button>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {joints.map(
        (definition) =>
          definition.between &&
          !definition.between.fellows && <FromAnotherPart key={definition.kind} definition={definition} />,
      )}
    </div>
  )
}
