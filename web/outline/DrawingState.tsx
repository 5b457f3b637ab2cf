import { constraintOf, type SolvedOutline } from '@makrel/core/outline'
import type { Problem } from '@makrel/core/problems'
import { formatArea, formatLength, mmPer, type PartUnit } from '@makrel/core/units'
import { usePart } from '../state/part.ts'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { closeGap, removeParts, toggleRegion } from './actions.ts'
import { useFreedom } from './freedom.ts'
import { SheetSection } from './SheetSection.tsx'
import { selectPart } from './state.ts'

/** How much of the drawing is held, and what contradicts or says the same twice. */
export function StateLine({
  solved,
  problems,
}: {
  readonly solved: SolvedOutline
  readonly problems: readonly Problem[]
}) {
  const { moves, redundant } = useFreedom(solved)
  if (solved.conflicts.length > 0) return <Contradiction solved={solved} />
  const words =
    solved.outline.points.length === 0
      ? 'Nothing is drawn yet.'
      : moves === 0
        ? 'Fully constrained.'
        : `${moves} ${moves === 1 ? 'degree' : 'degrees'} of freedom left: drag hollow points along their arms.`
  return (
    <div className="mt-1">
      <p className="flex items-center gap-1.5" data-free-moves={moves}>
        {moves === 0 && solved.outline.points.length > 0 && <RankMark rank="pass" />} {words}
      </p>
      <ProblemLines problems={problems} />
      {[...redundant].map(([id, others]) => (
        <p key={id} className="flex items-start gap-1.5">
          <span className="mt-0.5">
            <RankMark rank="advice" />
          </span>
          <span>
            {told(solved, id)} is redundant with{' '}
            {others.length > 0 ? others.map((other) => told(solved, other)).join(', ') : 'how the curves are made'}.{' '}
            <RemoveWord id={id} />
          </span>
        </p>
      ))}
    </div>
  )
}

/** What cannot all hold, each with the way to take it out. */
function Contradiction({ solved }: { readonly solved: SolvedOutline }) {
  return (
    <div role="alert" className="mt-1 border-l-2 border-rust pl-2">
      <p className="flex items-center gap-1.5">
        <RankMark rank="fault" /> These cannot all hold, so nothing can be made of the drawing:
      </p>
      {solved.conflicts.map((id) => (
        <p key={id} className="pl-5">
          <button type="button" className="hover:text-mackerel" onClick={() => selectPart(id, false)}>
            {told(solved, id)}
          </button>{' '}
          <RemoveWord id={id} />
        </p>
      ))}
    </div>
  )
}

function RemoveWord({ id }: { readonly id: string }) {
  return (
    <button type="button" className="text-mackerel underline" onClick={() => removeParts([id])}>
      remove it
    </button>
  )
}

function told({ outline }: SolvedOutline, id: string): string {
  const constraint = outline.constraints.find((each) => each.id === id)
  if (!constraint) return id
  const label = constraintOf(constraint.kind)?.label ?? constraint.kind
  return constraint.value === undefined
    ? `${label} ${constraint.of.join(', ')}`
    : `${label} ${constraint.value} of ${constraint.of.join(', ')}`
}

export function Regions({ solved }: { readonly solved: SolvedOutline }) {
  const unit = usePart((state) => state.part!.unit)
  const { faces } = solved.arrangement
  const taken = new Set(solved.filled.map(({ key }) => key))
  if (faces.length === 0) return null
  const area = solved.drawn?.area()
  return (
    <SheetSection title={`Regions${area === undefined ? '' : ` · ${formatArea(area, unit)}`}`}>
      {faces.slice(0, 40).map((face, i) => (
        <label key={face.key} className="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            checked={taken.has(face.key)}
            onChange={() => toggleRegion(face.key)}
            className="accent-mackerel"
          />
          region {i + 1} <span className="figures text-ink-soft">{formatArea(face.area, unit)}</span>
        </label>
      ))}
      {faces.length > 40 && <p className="text-ink-soft">and {faces.length - 40} more; click them on the drawing</p>}
    </SheetSection>
  )
}

/** Ends that meet nothing, near misses with their cure, and crossings. */
export function Ends({ solved }: { readonly solved: SolvedOutline }) {
  const { loose, crossed } = solved.arrangement
  const unit = usePart((state) => state.part!.unit)
  if (loose.length === 0 && crossed.length === 0) return null
  return (
    <SheetSection title="Ends and crossings">
      {loose.slice(0, 20).map(({ at, curve, near }) => (
        <p key={`${curve}${at}`} className="flex items-start gap-1.5 py-0.5">
          <span className="mt-0.5">
            <RankMark rank={near ? 'warning' : 'advice'} />
          </span>
          <span>
            {near ? (
              <>
                {curve} misses {near.curve} by <span className="figures">{gapText(near.distance, unit)}</span> {unit}.{' '}
                <button
                  type="button"
                  className="text-mackerel underline"
                  onClick={() => closeGap(at, near.curve, near.at)}
                >
                  join them
                </button>
              </>
            ) : (
              `${curve} has an open end.`
            )}
          </span>
        </p>
      ))}
      {crossed.slice(0, 10).map(({ at, curves }) => (
        <p key={`${at}`} className="flex items-start gap-1.5 py-0.5">
          <span className="mt-0.5">
            <RankMark rank="advice" />
          </span>
          {curves[0] === curves[1] ? `${curves[0]} crosses itself` : `${curves[0]} and ${curves[1]} cross`}
        </p>
      ))}
      {loose.length + crossed.length > 30 && <p className="text-ink-soft">and more, marked on the drawing</p>}
    </SheetSection>
  )
}

/** A gap in the part's unit, however small: where its last place shows nothing, by its power of ten. */
function gapText(mm: number, unit: PartUnit): string {
  const shown = formatLength(mm, unit)
  return Number(shown) === 0 ? (mm / mmPer(unit)).toExponential(1) : shown
}
