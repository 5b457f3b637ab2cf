import type { KeptThing, WorkshopKind, WorkshopThings } from '@makrel/core/fits'
import { Link } from 'react-router'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { carriedBy, choose, standingIn } from './choose.ts'
import { addThing, useWorkshop, wordOf } from './state.ts'

const labels = { printers: 'Printer', materials: 'Material' } as const

/** The printer or material of the open part, one of those of the workshop. */
export function ThingChoice<K extends WorkshopKind>({ kind }: { readonly kind: K }) {
  const part = usePart((state) => state.part)!
  const list = useWorkshop((state) => state.lists?.[kind]) as readonly KeptThing<WorkshopThings[K]>[] | undefined
  const carried = carriedBy(part, kind)
  const things = (list ?? []).map(({ thing }) => thing)
  const isOwn = list !== undefined && standingIn(part, kind, list).kind === 'gone'
  const shown = isOwn || things.length === 0 ? [carried, ...things] : things
  return (
    <div>
      <p className="mb-1 flex items-baseline font-semibold">
        {labels[kind]}
        <Link
          to={`/workshop/${kind}/${isOwn ? '' : carried.id}`}
          className="ml-auto font-normal text-mackerel underline underline-offset-2"
        >
          {kind}
        </Link>
      </p>
      <Choice
        look="box"
        label={labels[kind]}
        value={carried.id}
        shown={carried.name}
        options={shown.map((thing) => ({ value: thing.id, label: thing.name, hint: hintOf(thing) }))}
        onChange={(id) => {
          const next = shown.find((thing) => thing.id === id)
          if (next) choose(kind, next)
        }}
      />
      {isOwn && (
        <p className="mt-1 text-xs text-ink-soft">
          This {wordOf[kind]} is the part’s own.{' '}
          <button
            type="button"
            className="text-mackerel underline underline-offset-2"
            onClick={() => void addThing(kind, carried)}
          >
            Add it to the workshop
          </button>
        </p>
      )}
    </div>
  )
}

function hintOf(thing: WorkshopThings[WorkshopKind]): string {
  return 'bed' in thing ? thing.bed.join(' × ') : `${thing.density} g/cm³`
}
