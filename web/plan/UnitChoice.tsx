import { inUnitOf, type UnitFault } from '@makrel/core/document'
import { fieldKindOf } from '@makrel/core/planning'
import type { PartUnit } from '@makrel/core/units'
import { useEffect, useState } from 'react'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { Users } from './Users.tsx'

/** What a number without a unit is in. Where a size cannot be kept, nothing changes, and what stands in the way is named. */
export function UnitChoice() {
  const part = usePart((state) => state.part!)
  const [faults, setFaults] = useState<readonly UnitFault[]>([])
  // biome-ignore lint/correctness/useExhaustiveDependencies: with the next edit, of whatever, they are no longer known
  useEffect(() => setFaults([]), [part])
  const change = (unit: PartUnit) => {
    const { faults: found } = inUnitOf(part, unit, fieldKindOf)
    setFaults(found)
    if (found.length === 0) usePart.getState().edit({ type: 'set-unit', unit })
  }
  return (
    <>
      <Choice<PartUnit>
        look="box"
        label="Units"
        value={part.unit}
        options={[
          { value: 'mm', label: 'millimetres (mm)' },
          { value: 'in', label: 'inches (in)' },
        ]}
        onChange={change}
      />
      {faults.length === 0 ? (
        <p className="mt-1 text-xs text-ink-soft">
          A number without a unit is in this one. Changing it changes no size.
        </p>
      ) : (
        <div role="alert" className="mt-1 border-l-2 border-rust pl-2">
          <p className="flex items-center gap-1.5">
            <RankMark rank="fault" /> Not changed: a value that cannot be read cannot keep its size. Fix it first.
          </p>
          {faults.slice(0, 8).map(({ owner, text, detail }, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: they are told in the order of the part
            <p key={i} className="mt-1">
              <Users ids={[owner]} />: “{text}”. {detail}
            </p>
          ))}
          {faults.length > 8 && <p className="mt-1">and {faults.length - 8} more</p>}
        </div>
      )}
    </>
  )
}
