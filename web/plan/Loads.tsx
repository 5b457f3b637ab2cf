import type { KeptLoad, LoadWay } from '@makrel/core/document'
import { useMemo } from 'react'
import { newId } from '../ids.ts'
import { ValueField } from '../make/ValueField.tsx'
import { pointWords } from '../make/words.ts'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon, RemoveIcon } from '../ui/icons.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { keyOf, type PointOption, pointOptions } from './points.ts'
import { NameCell } from './rows.tsx'

const ways: readonly { readonly value: LoadWay; readonly label: string; readonly hint?: string }[] = [
  { value: 'down', label: 'down', hint: 'as it is drawn' },
  { value: 'up', label: 'up' },
  { value: 'left', label: 'to the left' },
  { value: 'right', label: 'to the right' },
  { value: 'front', label: 'to the front' },
  { value: 'back', label: 'to the back' },
  { value: 'out', label: 'away from the face', hint: 'square to it, as something that pulls' },
  { value: 'in', label: 'into the face', hint: 'square to it, as something that presses' },
]

/** What the part has to bear: where it is held, and what pulls or presses where. */
export function Loads() {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const { edit } = usePart.getState()
  const faces = useMemo(
    () => pointOptions(part, worked?.plan.geometry).filter(({ point }) => point.face !== ''),
    [part, worked],
  )
  const add = () => {
    const held = faces.find(({ point }) => point.face === 'bottom') ?? faces[0]!
    const at = faces.findLast(({ point }) => point.face === 'top') ?? faces.at(-1)!
    const load: KeptLoad = {
      ...{ id: newId(), name: freeName(part.loads), held: held.point, at: at.point },
      ...{ way: 'down', force: '10' },
    }
    edit({ type: 'keep-load', load })
  }
  return (
    <section aria-label="Loads" className="mt-8">
      <div className="mb-3 flex items-baseline gap-3">
        <h2 className="text-lg font-semibold">Loads</h2>
        <p className="text-ink-soft">
          What it has to bear in use. Proof reckons whether it does, and where it would break.
        </p>
      </div>
      {part.loads.length > 0 && (
        <table className="w-full table-fixed border-collapse border border-ink bg-sheet text-left">
          <thead>
            <tr className="border-b border-ink text-xs text-ink-soft [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-medium">
              <th className="w-28">Name</th>
              <th>Load</th>
              <th className="w-10">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {part.loads.map((load) => (
              <Row key={load.id} load={load} points={faces} />
            ))}
          </tbody>
        </table>
      )}
      {faces.length > 0 ? (
        <Button className="mt-3" onClick={add}>
          <AddIcon size={15} /> Add a load
        </Button>
      ) : (
        <p className="text-ink-soft">There is nothing yet that could bear one: add a solid first.</p>
      )}
    </section>
  )
}

function freeName(loads: readonly KeptLoad[]): string {
  let number = loads.length + 1
  while (loads.some(({ name }) => name === `Load ${number}`)) number++
  return `Load ${number}`
}

function Row({ load, points }: { readonly load: KeptLoad; readonly points: readonly PointOption[] }) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const { edit } = usePart.getState()
  const names = worked?.resolved.measures.names
  if (!names) return null
  const set = (change: Partial<KeptLoad>) => edit({ type: 'keep-load', load: { ...load, ...change } })
  const place = (which: 'held' | 'at', label: string) => {
    const at = load[which]
    const known = points.some(({ key }) => key === keyOf(at))
    return (
      <Choice
        label={`${label} of ${load.name}`}
        value={keyOf(at)}
        options={[
          ...(known ? [] : [{ value: keyOf(at), label: pointWords(part, at) }]),
          ...points.map(({ key: value, label: words }) => ({ value, label: words })),
        ]}
        onChange={(next) => {
          const point = points.find(({ key }) => key === next)?.point
          if (point) set({ [which]: point })
        }}
      />
    )
  }
  return (
    <tr className="border-t border-line align-top">
      <NameCell name={load.name} invalid={false} onRename={(name) => name && set({ name })} />
      <td className="relative px-2 py-1.5 text-base leading-[1.75rem]">
        held at the {place('held', 'Held place')}, with{' '}
        <ValueField
          label={`Force of ${load.name}`}
          kind="ratio"
          text={load.force}
          names={names}
          onChange={(force) => set({ force })}
        />{' '}
        N on the {place('at', 'Loaded place')},{' '}
        <Choice label={`Way of ${load.name}`} value={load.way} options={ways} onChange={(way) => set({ way })} />
        <Answer name={load.name} />
      </td>
      <td className="py-1">
        <IconButton
          label={`Remove ${load.name}`}
          onClick={() => {
            edit({ type: 'drop-load', id: load.id })
            sayDone(`${load.name} was removed.`)
          }}
        >
          <RemoveIcon size={14} />
        </IconButton>
      </td>
    </tr>
  )
}

/** What the proof says of a load, as long as it is of the part as it is. */
function Answer({ name }: { readonly name: string }) {
  const part = usePart((state) => state.part)
  const proving = useBuild((state) => state.proving)
  if (!proving || proving.of !== part) return null
  const own = proving.findings.filter(({ check, values }) => check === 'loads' && values.load === name)
  return own.map((finding) => (
    <p key={finding.text} className="mb-1 flex items-start gap-2 text-[0.9375rem] leading-snug text-ink-soft">
      <span className="mt-0.5">
        <RankMark rank={finding.rank} />
      </span>
      {finding.text}
    </p>
  ))
}
