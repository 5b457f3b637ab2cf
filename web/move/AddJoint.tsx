import { joints } from '@makrel/core/joints'
import { useState } from 'react'
import { Icon } from '../make/ShapeIcon.tsx'
import { startJoint } from '../make/startJoint.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { AddIcon } from '../ui/icons.tsx'
import { SidePopover } from '../ui/SidePopover.tsx'
import { FromAnotherPart, wheelField } from './FromAnotherPart.tsx'

/** All kinds of joint, to add one of. */
export function AddJoint() {
  const isEmpty = usePart((state) => state.part!.pieces.every(({ steps }) => steps.length === 0))
  const [open, setOpen] = useState(false)
  return (
    <div className="mt-3 flex flex-wrap gap-2 px-5">
      <SidePopover
        label="Kinds of joint"
        trigger={
          <Button disabled={isEmpty}>
            <AddIcon size={15} /> Add a joint
          </Button>
        }
        open={open}
        onOpenChange={setOpen}
        className="grid w-80 grid-cols-2 gap-px bg-line [&>*:last-child:nth-child(odd)]:col-span-2"
      >
        {joints.map((definition) => (
          <button
            type="button"
            key={definition.kind}
            aria-label={`Add a ${definition.label}`}
            onClick={() => {
              startJoint(definition)
              setOpen(false)
            }}
            className="flex items-center gap-2 bg-sheet px-2 py-2 text-left hover:bg-mackerel-wash"
          >
            <Icon path={definition.icon} className="shrink-0" />
            {definition.label}
          </button>
        ))}
      </SidePopover>
      {joints.map(
        (definition) =>
          definition.between &&
          !definition.between.fellows &&
          wheelField(definition)?.of && <FromAnotherPart key={definition.kind} definition={definition} />,
      )}
    </div>
  )
}
