import { pauseFor } from '@makrel/core/layers'
import { formatLength, formatLengthWithUnit } from '@makrel/core/units'
import { Fragment } from 'react'
import { itemsOf } from '../state/items.ts'
import { usePart } from '../state/part.ts'

/** The sizes of the item that a step is for, by its table, and when the print has to pause for it. */
export function ItemNote({ id }: { readonly id: string }) {
  const part = usePart((state) => state.part!)
  const held = itemsOf(part).find(({ of }) => of.id === id)
  if (!held) return null
  const { item, way, frame } = held
  const { columns, standard } = item.family
  const rows = Object.entries(item.sizes).map(([name, mm]) => ({
    label: columns[name] ?? (name === 'thread' ? 'thread' : name),
    text: formatLength(mm, part.unit),
  }))
  const pause = way === 'closed in' ? pauseFor(held, frame, part.printer) : undefined
  return (
    <dl aria-label="Item" className="mt-1 grid grid-cols-[1fr_auto] gap-x-3 text-[0.9375rem]">
      <dt className="text-ink-soft">{item.label}</dt>
      <dd className="text-ink-soft">{standard}</dd>
      {rows.map(({ label, text }) => (
        <Fragment key={label}>
          <dt className="pl-3 text-ink-soft">{label}</dt>
          <dd className="figures text-right">{text}</dd>
        </Fragment>
      ))}
      {pause && (
        <div className="col-span-2">
          <dt className="text-ink-soft">The print pauses for it, as it lies here</dt>
          <dd className="figures pl-3">
            before layer {pause.layer + 1}, at {formatLengthWithUnit(pause.height, part.unit)}
          </dd>
        </div>
      )}
    </dl>
  )
}
