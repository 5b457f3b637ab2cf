import type { Names } from '@makrel/core/measures'
import type { PartUnit } from '@makrel/core/units'
import { useState } from 'react'
import { wholeBox } from '../frame/whole.ts'
import { ValueField } from '../make/ValueField.tsx'
import { type DrawnPiece, useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { rem } from '../ui/rem.ts'
import {
  type DimensionTarget,
  type DrawnDimension,
  dimensionEdit,
  leaderDimension,
  overallDimensions,
  selectedDimensions,
} from './dimensionLines.ts'
import { arrow, dimensionsApart, dimensionText, type Layout, takenPlaces } from './dimensionPlaces.ts'
import type { Point } from './handlePlaces.ts'
import { useLateWorked } from './late.ts'
import { useView } from './view.ts'

/** Drafting dimensions over the drawing: lines as vectors, values as text that can be pressed and typed. */
export function Dimensions({ editable }: { readonly editable: boolean }) {
  const { part, worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const pieces = useBuild((state) => state.pieces)
  const view = useView()
  const [open, setOpen] = useState<string>()
  const box = wholeBox(pieces)
  if (!worked || !box) return null
  const chosen = editable && selection && selection.kind !== 'piece'
  const leader =
    chosen && selection.kind === 'step'
      ? leaderDimension(worked.resolved, selection.id, meshesOf(pieces), view.eye)
      : undefined
  const dimensions = chosen
    ? [...selectedDimensions(part, worked.resolved, worked.plan, selection, box), ...(leader ? [leader] : [])]
    : overallDimensions(box, view.eye)
  const placed = dimensionsApart(
    dimensions,
    view,
    part.unit,
    chosen ? takenPlaces(part, worked, selection, box, view) : [],
    rem(),
  )
  const colour = chosen ? 'var(--color-mackerel)' : 'var(--color-ink)'
  return (
    <fieldset className="pointer-events-none absolute inset-0 overflow-hidden" aria-label="Dimensions">
      <svg width={view.width} height={view.height} aria-hidden="true" stroke={colour} fill="none" strokeWidth="1">
        {placed.map(({ dimension, layout }) => (
          <Lines key={dimension.key} layout={layout} colour={colour} />
        ))}
      </svg>
      {placed.map(({ dimension, layout }) => (
        <Value
          key={dimension.key}
          dimension={dimension}
          at={layout.text}
          accent={Boolean(chosen)}
          unit={part.unit}
          names={worked.resolved.measures.names}
          open={open === dimension.key}
          onOpen={(isOpen) => setOpen(isOpen ? dimension.key : undefined)}
        />
      ))}
    </fieldset>
  )
}

const meshesOf = (pieces: readonly DrawnPiece[]) => pieces.flatMap(({ mesh }) => (mesh ? [mesh] : []))

function Lines({ layout, colour }: { readonly layout: Layout; readonly colour: string }) {
  return (
    <g>
      {layout.lines.map(([p, q]) => (
        <line key={`${p}${q}`} x1={p[0]} y1={p[1]} x2={q[0]} y2={q[1]} />
      ))}
      {layout.arrows.map(({ tip, towards }) => {
        const angle = Math.atan2(towards[1] - tip[1], towards[0] - tip[0])
        const wing = (side: 1 | -1): Point => [
          tip[0] + arrow * Math.cos(angle + side * 0.2),
          tip[1] + arrow * Math.sin(angle + side * 0.2),
        ]
        return <polygon key={`${tip}`} points={`${tip} ${wing(1)} ${wing(-1)}`} fill={colour} stroke="none" />
      })}
    </g>
  )
}

function Value({
  dimension,
  at,
  accent,
  unit,
  names,
  open,
  onOpen,
}: {
  readonly dimension: DrawnDimension
  readonly at: Point
  readonly accent: boolean
  readonly unit: PartUnit
  readonly names: Names
  readonly open: boolean
  onOpen(open: boolean): void
}) {
  const { target, label, valueKind, takes, text } = dimension
  const shown = dimensionText(dimension, unit)
  const style = { left: at[0], top: at[1] }
  const place = 'absolute -translate-x-1/2 -translate-y-1/2'
  if (!target || text === undefined)
    return (
      <span className={`figures ${place} bg-ground/90 px-1 text-[1rem] leading-5`} style={style}>
        {shown}
      </span>
    )
  if (!open)
    return (
      <button
        type="button"
        aria-label={`${label} ${shown}`}
        onClick={() => onOpen(true)}
        className={`figures pointer-events-auto ${place} border bg-sheet px-1 text-[1rem] leading-5 hover:bg-mackerel-wash ${accent ? 'border-mackerel text-mackerel' : 'border-ink'}`}
        style={style}
      >
        {shown}
      </button>
    )
  return (
    <fieldset
      aria-label={label}
      className={`pointer-events-auto ${place} z-10 border border-mackerel bg-sheet px-1.5 py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]`}
      style={style}
      onBlur={() => onOpen(false)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === 'Escape') (event.target as HTMLElement).blur()
      }}
    >
      <ValueField
        label={label}
        kind={valueKind}
        takes={takes}
        text={text}
        names={names}
        autoFocus
        onChange={(next, final) => apply(target, next, final)}
      />
    </fieldset>
  )
}

function apply(target: DimensionTarget, text: string, final: boolean): void {
  const { part, edit } = usePart.getState()
  const change = part && dimensionEdit(part, target, text)
  const of = target.kind === 'offset' ? target.axis : target.kind === 'lift' ? 'lift' : target.field
  if (change) edit(change, final ? undefined : `${target.id}.${of}`)
}
