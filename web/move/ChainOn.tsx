import { documentLimits, type Joint } from '@makrel/core/document'
import { evaluate } from '@makrel/core/measures'
import { tried } from '@makrel/core/problems'
import { formatNumber, mmPer } from '@makrel/core/units'
import { useState } from 'react'
import { ValueField } from '../make/ValueField.tsx'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { say } from '../ui/Notice.tsx'
import { NumberInput } from '../ui/NumberInput.tsx'
import { SidePopover } from '../ui/SidePopover.tsx'
import { type ChainWay, chainEdits, chainWays } from './chain.ts'

const ways = (Object.keys(chainWays) as ChainWay[]).map((value) => ({ value, label: chainWays[value].said }))

/** More links after the second piece of a joint, each tied to the one before it as that is. */
export function ChainOn({ joint }: { readonly joint: Joint }) {
  const [open, setOpen] = useState(false)
  return (
    <SidePopover
      label="More links"
      trigger={<Button className="mt-2">Go on with more links …</Button>}
      open={open}
      onOpenChange={setOpen}
      className="w-72 bg-sheet p-3"
    >
      <Links joint={joint} onDone={() => setOpen(false)} />
    </SidePopover>
  )
}

function Links({ joint, onDone }: { readonly joint: Joint; onDone(): void }) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const most = documentLimits.pieces - part.pieces.length
  const [count, setCount] = useState(`${Math.min(3, most)}`)
  const [atMost, setAtMost] = useState<number>()
  const apart = worked && lastApart(worked, joint)
  const [pitch, setPitch] = useState(apart ? formatNumber(Math.abs(apart.by) / mmPer(part.unit), 3) : '30')
  const [way, setWay] = useState<ChainWay>(apart?.way ?? 'right')
  const names = worked?.resolved.measures.names
  const sound = names && tried(() => evaluate(pitch, 'length', names).value)
  const wanted = names && tried(() => evaluate(count, 'count', names).value)
  // Told by a measure it changes later: there are pieces for as many as there may be.
  const isPlain = /^\s*\d+\s*$/.test(count)
  const held = Math.min(most, Math.max(1, isPlain ? (wanted ?? 1) : (atMost ?? 2 * (wanted ?? 3))))
  const name = part.pieces.find(({ id }) => id === joint.pieces[1])?.name
  if (!names) return null
  if (most < 1) return <p>There is no room for more pieces in this part.</p>
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        // What cannot be read is mended first: what was there before is not what is meant.
        const unread = event.currentTarget.querySelector<HTMLElement>('[aria-invalid="true"]')
        if (unread) return unread.focus()
        const shown = isPlain ? undefined : count
        const edits = chainEdits(part, joint, { count: held, pitch, way, shown })
        if (!edits)
          say({ text: `${name} begins with nothing that could be had again: give it a shape that adds first.` })
        else if (usePart.getState().editAll(edits))
          sayDone(`${wanted} more ${wanted === 1 ? 'link hangs' : 'links hang'} on ${name}.`)
        onDone()
      }}
    >
      <p>
        <ValueField label="How many" kind="count" text={count} names={names} onChange={(text) => setCount(text)} /> more
      </p>
      {!isPlain && (
        <NumberInput
          label="At most"
          value={held}
          least={1}
          most={most}
          onChange={(value) => setAtMost(Math.round(value))}
        />
      )}
      <p className="mt-2">
        each <ValueField label="Pitch" kind="length" text={pitch} names={names} onChange={(text) => setPitch(text)} />{' '}
        further <Choice<ChainWay> label="Which way" value={way} options={ways} onChange={setWay} />, with the shape of{' '}
        {name} and a joint like this one.
      </p>
      <Button
        type="submit"
        className="mt-3"
        disabled={!sound || sound <= 0 || wanted === undefined || wanted < 1 || wanted > held}
      >
        Add them
      </Button>
    </form>
  )
}

type Worked = NonNullable<ReturnType<typeof useWorked>>

/** How far the shapes of both pieces of a joint are apart, mm, and which way: links are likely to go on so. */
function lastApart(
  { plan, resolved }: Worked,
  joint: Joint,
): { readonly by: number; readonly way: ChainWay } | undefined {
  const [one, two] = joint.pieces.map((id) => {
    const piece = resolved.part.pieces.find((each) => each.id === id)
    return piece?.steps[0] && plan.geometry.get(piece.steps[0].id)?.frame.origin
  })
  if (!one || !two) return undefined
  const [x, y] = [two[0] - one[0], two[1] - one[1]]
  const [by, way]: [number, ChainWay] =
    Math.abs(x) >= Math.abs(y) ? [x, x < 0 ? 'left' : 'right'] : [y, y < 0 ? 'front' : 'back']
  return Math.abs(by) > 1e-6 ? { by, way } : undefined
}
