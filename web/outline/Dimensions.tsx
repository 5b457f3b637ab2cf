import type { OutlineConstraint } from '@makrel/core/document'
import type { Names } from '@makrel/core/measures'
import { constraintOf, type SolvedOutline } from '@makrel/core/outline'
import { minus, plus, type Vec2 } from '@makrel/core/plane'
import { useRef } from 'react'
import { ValueField } from '../make/ValueField.tsx'
import { changeConstraint, typeDimension } from './actions.ts'
import type { DimensionLayout } from './dimensionLayout.ts'
import type { Labels } from './labels.ts'
import { selectPart, useOutline } from './state.ts'
import { toPlane } from './view.ts'

const arrow = 8

/** The dimensions of the drawing: pressed, they are typed; dragged, they are put elsewhere. */
export function OutlineDimensions({
  solved,
  names,
  placed,
}: {
  readonly solved: SolvedOutline
  readonly names: Names
  readonly placed: Labels['dimensions']
}) {
  const view = useOutline((state) => state.view)
  const selected = useOutline((state) => state.selected)
  const open = useOutline((state) => state.openDimension)
  const tone = ({ id, driven }: OutlineConstraint) =>
    solved.conflicts.includes(id)
      ? 'var(--color-rust)'
      : selected.includes(id)
        ? 'var(--color-mackerel)'
        : driven
          ? 'var(--color-ink-soft)'
          : 'var(--color-ink)'
  return (
    <>
      <svg
        width={view.width}
        height={view.height}
        className="pointer-events-none absolute inset-0"
        aria-hidden="true"
        fill="none"
      >
        {placed.map(({ constraint, layout }) => (
          <DimensionLines key={constraint.id} layout={layout} colour={tone(constraint)} />
        ))}
      </svg>
      {placed.map(({ constraint, layout, shown }) => (
        <DimensionValue
          key={constraint.id}
          {...{ constraint, layout, shown, names }}
          colour={tone(constraint)}
          open={open === constraint.id}
        />
      ))}
    </>
  )
}

function DimensionLines({ layout, colour }: { readonly layout: DimensionLayout; readonly colour: string }) {
  return (
    <g stroke={colour} strokeWidth="1">
      {layout.lines.map(([p, q], i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the lines of one dimension are in a fixed order
        <line key={i} x1={p[0]} y1={p[1]} x2={q[0]} y2={q[1]} />
      ))}
      {layout.arc && <path d={layout.arc} />}
      {layout.arrows.map(({ tip, towards }, i) => {
        const rad = Math.atan2(towards[1] - tip[1], towards[0] - tip[0])
        const wing = (side: 1 | -1) =>
          `${tip[0] + arrow * Math.cos(rad + side * 0.2)},${tip[1] + arrow * Math.sin(rad + side * 0.2)}`
        // biome-ignore lint/suspicious/noArrayIndexKey: the arrows of one dimension are in a fixed order
        return <polygon key={i} points={`${tip[0]},${tip[1]} ${wing(1)} ${wing(-1)}`} fill={colour} stroke="none" />
      })}
    </g>
  )
}

function DimensionValue({
  constraint,
  layout,
  shown,
  names,
  colour,
  open,
}: {
  readonly constraint: OutlineConstraint
  readonly layout: DimensionLayout
  readonly shown: string
  readonly names: Names
  readonly colour: string
  readonly open: boolean
}) {
  const { label, value: kind } = constraintOf(constraint.kind)!
  const drag = useRef<{ from: Vec2; moved: boolean }>(undefined)
  const style = { left: layout.text[0], top: layout.text[1] }
  const place = 'absolute -translate-x-1/2 -translate-y-1/2'
  if (open && !constraint.driven)
    return (
      <fieldset
        aria-label={label}
        className={`${place} z-20 border border-mackerel bg-sheet px-1.5 py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]`}
        style={style}
        onBlur={() => useOutline.setState({ openDimension: undefined, openAlong: [] })}
        onKeyDown={(event) => {
          if (event.key === 'Enter' || event.key === 'Escape') (event.target as HTMLElement).blur()
          event.stopPropagation()
        }}
      >
        <ValueField
          label={label}
          kind={kind!}
          text={constraint.value ?? ''}
          names={names}
          autoFocus
          onChange={(text, final) => typeDimension(constraint.id, text, final)}
        />
      </fieldset>
    )
  return (
    <button
      type="button"
      aria-label={`${label} ${shown.replace(/[()]/g, '')}${constraint.driven ? ', reference' : ''}`}
      className={`figures ${place} bg-ground/90 px-1 text-[1rem] leading-5 hover:bg-mackerel-wash`}
      style={{ ...style, color: colour }}
      onPointerDown={(event) => {
        if (event.button !== 0) return
        event.currentTarget.setPointerCapture(event.pointerId)
        drag.current = { from: [event.clientX, event.clientY], moved: false }
      }}
      onPointerMove={(event) => {
        const now = drag.current
        if (!now) return
        if (!now.moved && Math.hypot(event.clientX - now.from[0], event.clientY - now.from[1]) < 4) return
        now.moved = true
        const box = event.currentTarget.offsetParent!.getBoundingClientRect()
        const at = toPlane(useOutline.getState().view, [event.clientX - box.left, event.clientY - box.top])
        const label = minus(at, layout.middle).map((v) => Math.round(v * 100) / 100) as unknown as Vec2
        changeConstraint(constraint.id, { label: plus(label, [0, 0]) }, `${constraint.id}.label`)
      }}
      onPointerUp={(event) => {
        const { moved } = drag.current ?? { moved: false }
        drag.current = undefined
        if (moved) return
        selectPart(constraint.id, event.shiftKey)
        if (!event.shiftKey) useOutline.setState({ openDimension: constraint.id })
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') useOutline.setState({ openDimension: constraint.id, selected: [constraint.id] })
      }}
    >
      {shown}
    </button>
  )
}
