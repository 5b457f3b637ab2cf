import type { Names } from '@makrel/core/measures'
import { constraintOf, derivedOf, holdsFor, type SolvedOutline } from '@makrel/core/outline'
import type { Problem } from '@makrel/core/problems'
import { Button } from '../ui/Button.tsx'
import { RemoveIcon } from '../ui/icons.tsx'
import {
  changeConstraint,
  derive,
  derivedOffers,
  hold,
  joinEnds,
  letGo,
  removeParts,
  setHelper,
  setSharp,
} from './actions.ts'
import { ChangeSelected } from './ChangeSelected.tsx'
import { useOutline } from './state.ts'

/** What can be done with what is selected: how it can be held, measured, and what can follow from it. */
export function SelectionPanel({
  solved,
  names,
}: {
  readonly solved: SolvedOutline
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const selected = useOutline((state) => state.selected)
  if (selected.length === 0) return null
  const { outline } = solved
  const curves = outline.curves.filter(({ id }) => selected.includes(id))
  const points = outline.points.filter(({ id }) => selected.includes(id))
  const own = new Set(curves.flatMap((curve) => curve.points))
  const taken = [...curves, ...points, ...outline.points.filter(({ id }) => own.has(id))].some((each) => each.taken)
  const dimension = outline.constraints.find(
    ({ id, kind }) => selected.length === 1 && id === selected[0] && constraintOf(kind)?.value,
  )
  const holds = holdsFor(solved, selected)
  const follow = derivedOffers(solved, selected)
  return (
    <section aria-label="Selection" className="mt-3 border-y border-mackerel bg-mackerel-wash px-3 py-2">
      <p className="font-semibold">{selected.map((id) => titleOf(solved, id)).join(', ')}</p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {holds.map(({ definition, each }) => (
          <Offered
            key={definition.kind}
            {...definition}
            icon={definition.sign}
            box={12}
            onTake={() => hold({ definition, each })}
          />
        ))}
        {follow.map((definition) => (
          <Offered key={definition.kind} {...definition} box={16} onTake={() => derive(definition)} />
        ))}
      </div>
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        {dimension && (
          <Tick
            words="reference: shows its value only"
            checked={dimension.driven === true}
            onChange={(driven) => changeConstraint(dimension.id, { driven })}
          />
        )}
        {curves.length > 0 && (
          <Tick
            words="construction line, bounds nothing"
            checked={curves.every(({ helper }) => helper)}
            onChange={setHelper}
          />
        )}
        {taken && <Tick words="stays with the part" checked onChange={letGo} />}
        {points.length > 0 && (
          <Tick
            words="stays sharp where it is smoothed"
            checked={points.every(({ sharp }) => sharp)}
            onChange={setSharp}
          />
        )}
        {points.length === 2 && selected.length === 2 && (
          <Button className="h-7" onClick={() => joinEnds(points[0]!.id, points[1]!.id)}>
            join into one point
          </Button>
        )}
        <Button className="ml-auto h-7" onClick={() => removeParts()}>
          <RemoveIcon size={13} /> remove
        </Button>
      </div>
      {(curves.length > 0 || points.length > 0) && <ChangeSelected names={names} several={selected.length > 1} />}
    </section>
  )
}

function Tick({
  words,
  checked,
  onChange,
}: {
  readonly words: string
  readonly checked: boolean
  onChange(checked: boolean): void
}) {
  return (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        className="accent-mackerel"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {words}
    </label>
  )
}

/** One thing that can be done with the selection, with its sign. */
function Offered({
  label,
  meaning,
  icon,
  box,
  onTake,
}: {
  readonly label: string
  readonly meaning: string
  /** path data in a square of `box` */
  readonly icon: string
  readonly box: number
  onTake(): void
}) {
  return (
    <button
      type="button"
      title={meaning}
      onClick={onTake}
      className="inline-flex items-center gap-1.5 rounded-sm border border-line bg-sheet px-2 py-0.5 hover:border-ink-soft"
    >
      <svg
        viewBox={`0 0 ${box} ${box}`}
        width="0.75rem"
        height="0.75rem"
        fill="none"
        stroke="currentColor"
        strokeWidth={box / 10}
        aria-hidden="true"
      >
        <path d={icon} />
      </svg>
      {label}
    </button>
  )
}

/** Points and curves by their id, constraints in words. */
function titleOf({ outline }: SolvedOutline, id: string): string {
  const constraint = outline.constraints.find((each) => each.id === id)
  if (constraint) return `${constraintOf(constraint.kind)?.label ?? constraint.kind} of ${constraint.of.join(', ')}`
  const derived = outline.derived.find((each) => each.id === id)
  return derived ? (derivedOf(derived.kind)?.label ?? derived.kind) : id
}
