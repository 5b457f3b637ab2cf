import type { Names } from '@makrel/core/measures'
import type { SolvedOutline, Spot } from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import { lengthUnits, type PartUnit } from '@makrel/core/units'
import { useEffect, useMemo, useRef, useState } from 'react'
import { rem } from '../ui/rem.ts'
import { AskedSizes } from './AskedSizes.tsx'
import { Backdrop } from './Backdrop.tsx'
import { OutlineDimensions } from './Dimensions.tsx'
import { fitAll } from './fit.ts'
import { useFreedom } from './freedom.ts'
import { labelsOf } from './labels.ts'
import { Curves, Marks, Points, Regions } from './Parts.tsx'
import { PickUp } from './PickUp.tsx'
import { pathOf } from './paths.ts'
import { dragGrip, type Grip, gripAt, inferredAt, pressTool, releaseGrip } from './press.ts'
import { SelectionHandles } from './SelectionHandles.tsx'
import { Signs } from './Signs.tsx'
import { useOutline } from './state.ts'
import { curveTools, toolOf } from './tools/registry.ts'
import { type PlaneView, roundLength, toScreen, zoomed } from './view.ts'

/** The drawing of the outline on its plane: everything that can be pressed, dragged and typed. */
export function OutlineCanvas({
  solved,
  names,
  unit,
}: {
  readonly solved: SolvedOutline
  readonly names: Names
  readonly unit: PartUnit
}) {
  const box = useRef<HTMLDivElement>(null)
  const grip = useRef<Grip>(undefined)
  const pan = useRef<Vec2>(undefined)
  const [frame, setFrame] = useState<readonly [Vec2, Vec2]>()
  const view = useOutline((state) => state.view)
  const isFitted = useOutline((state) => state.fitted)
  const tool = useOutline((state) => state.tool)
  useSize(box)
  useWheel(box)
  const freedom = useFreedom(solved)
  const labels = useMemo(() => labelsOf(solved, view, unit, rem()), [solved, view, unit])
  const placeOf = (event: React.PointerEvent): Vec2 => {
    const { left, top } = box.current!.getBoundingClientRect()
    return [event.clientX - left, event.clientY - top]
  }

  return (
    <div
      ref={box}
      className={`absolute inset-0 touch-none overflow-hidden bg-[linear-gradient(#f6f8f7,#edf1ef_45%)] ${tool === 'select' ? '' : 'cursor-crosshair'}`}
      role="application"
      aria-label="Drawing of the outline"
      data-moves={freedom.moves}
      data-view={isFitted ? `${view.centre[0]} ${view.centre[1]} ${view.scale}` : undefined}
      onContextMenu={(event) => event.preventDefault()}
      // A press must not take the keyboard from the size that it asks for.
      onMouseDown={(event) => {
        if (!(event.target as HTMLElement).closest('button, input, [data-overlay]')) event.preventDefault()
      }}
      onPointerDown={(event) => {
        if ((event.target as HTMLElement).closest('button, input, [data-overlay]')) return
        ;(document.activeElement as HTMLElement | null)?.blur()
        event.currentTarget.setPointerCapture(event.pointerId)
        const at = placeOf(event)
        if (event.button !== 0) pan.current = at
        else if (tool === 'select') grip.current = gripAt(at, event.shiftKey || event.ctrlKey || event.metaKey)
        else if (tool !== 'takeover') pressTool(at)
      }}
      onPointerMove={(event) => {
        const at = placeOf(event)
        if (pan.current) {
          const { view: now } = useOutline.getState()
          const [dx, dy] = [at[0] - pan.current[0], at[1] - pan.current[1]]
          pan.current = at
          useOutline.setState({
            view: { ...now, centre: [now.centre[0] - dx / now.scale, now.centre[1] + dy / now.scale] },
          })
        } else if (grip.current) {
          dragGrip(grip.current, at)
          setFrame(grip.current.moved && !grip.current.drag ? [grip.current.screen, at] : undefined)
        } else if (toolOf(tool)) useOutline.setState({ hover: inferredAt(solved, at) })
      }}
      onPointerUp={(event) => {
        if (grip.current) releaseGrip(grip.current, placeOf(event))
        grip.current = undefined
        pan.current = undefined
        setFrame(undefined)
      }}
      onPointerLeave={() => useOutline.setState({ hover: undefined })}
    >
      <svg width={view.width} height={view.height} className="absolute inset-0" aria-hidden="true" fill="none">
        <Lattice view={view} unit={unit} />
        <Backdrop outline={solved.outline} view={view} />
        <Regions arrangement={solved.arrangement} filled={solved.filled} view={view} />
        <Curves solved={solved} view={view} freedom={freedom} />
        <Marks arrangement={solved.arrangement} view={view} />
        <Points solved={solved} view={view} freedom={freedom} />
        <Draft solved={solved} view={view} />
        {frame && (
          <rect
            x={Math.min(frame[0][0], frame[1][0])}
            y={Math.min(frame[0][1], frame[1][1])}
            width={Math.abs(frame[1][0] - frame[0][0])}
            height={Math.abs(frame[1][1] - frame[0][1])}
            stroke="var(--color-mackerel)"
            strokeDasharray="4 3"
          />
        )}
      </svg>
      {/* A tool presses through what is written on the drawing. */}
      <div className={tool === 'select' ? '' : 'pointer-events-none [&_*]:pointer-events-none!'}>
        <Signs solved={solved} signs={labels.signs} />
        <OutlineDimensions solved={solved} names={names} placed={labels.dimensions} />
      </div>
      {tool === 'select' && <SelectionHandles solved={solved} />}
      {tool === 'takeover' && <PickUp solved={solved} />}
      <AskedSizes solved={solved} names={names} />
      <Told />
      <Scale view={view} unit={unit} />
    </div>
  )
}

function useSize(box: React.RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const element = box.current!
    const watch = new ResizeObserver(() => {
      const { clientWidth: width, clientHeight: height } = element
      useOutline.setState(({ view }) => ({ view: { ...view, width, height } }))
      if (!useOutline.getState().fitted) fitAll()
    })
    watch.observe(element)
    return () => watch.disconnect()
  }, [box])
}

/** React listens to the wheel passively; the page must not scroll here. */
function useWheel(box: React.RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const element = box.current!
    const turned = (event: WheelEvent) => {
      event.preventDefault()
      const { left, top } = element.getBoundingClientRect()
      useOutline.setState(({ view }) => ({
        view: zoomed(view, Math.exp(-event.deltaY / 400), [event.clientX - left, event.clientY - top]),
      }))
    }
    element.addEventListener('wheel', turned, { passive: false })
    return () => element.removeEventListener('wheel', turned)
  }, [box])
}

/** Thin rules at round distances, and the two axes. */
function Lattice({ view, unit }: { readonly view: PlaneView; readonly unit: PartUnit }) {
  const step = roundLength(view, 70, unit)
  const [x0, y0] = [view.centre[0] - view.width / 2 / view.scale, view.centre[1] - view.height / 2 / view.scale]
  const lines = (from: number, span: number) =>
    Array.from({ length: Math.ceil(span / view.scale / step) + 2 }, (_, i) => (Math.floor(from / step) + i) * step)
  const [ox, oy] = toScreen(view, [0, 0])
  return (
    <g stroke="var(--color-line)" strokeWidth="0.5">
      {lines(x0, view.width).map((x) => (
        <line key={`x${x}`} x1={toScreen(view, [x, 0])[0]} x2={toScreen(view, [x, 0])[0]} y1={0} y2={view.height} />
      ))}
      {lines(y0, view.height).map((y) => (
        <line key={`y${y}`} y1={toScreen(view, [0, y])[1]} y2={toScreen(view, [0, y])[1]} x1={0} x2={view.width} />
      ))}
      <g stroke="var(--color-ink-soft)" strokeWidth="1" strokeDasharray="14 4 3 4">
        <line x1={0} x2={view.width} y1={oy} y2={oy} />
        <line x1={ox} x2={ox} y1={0} y2={view.height} />
      </g>
      <circle cx={ox} cy={oy} r="3.5" stroke="var(--color-ink-soft)" strokeWidth="1" fill="var(--color-ground)" />
    </g>
  )
}

/** What the tool in hand would draw. */
function Draft({ solved, view }: { readonly solved: SolvedOutline; readonly view: PlaneView }) {
  const { tool: kind, spots, hover, sides, helper } = useOutline()
  const tool = toolOf(kind)
  if (kind === 'picture') return <PressedPlaces spots={spots} view={view} />
  if (!tool || !hover) return null
  const segments = tool.preview([...spots, hover.spot], { solved, wishes: hover.wishes, sides })
  const [x, y] = toScreen(view, hover.spot.at)
  return (
    <g stroke="var(--color-mackerel)">
      {hover.guides.map(([from, to]) => {
        const [a, b] = [toScreen(view, from), toScreen(view, to)]
        return <line key={`${from}`} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} strokeWidth="1" strokeDasharray="2 4" />
      })}
      <path d={pathOf(segments, view)} strokeWidth="1.8" strokeDasharray={helper ? '6 4' : undefined} />
      {spots.map(({ at }) => {
        const [sx, sy] = toScreen(view, at)
        return <circle key={`${at}`} cx={sx} cy={sy} r="3" fill="var(--color-mackerel)" />
      })}
      <circle cx={x} cy={y} r="4" strokeWidth="1.5" fill="none" />
    </g>
  )
}

/** The places on a picture that it is scaled by. */
function PressedPlaces({ spots, view }: { readonly spots: readonly Spot[]; readonly view: PlaneView }) {
  const places = spots.map(({ at }) => toScreen(view, at))
  return (
    <g stroke="var(--color-mackerel)" strokeWidth="1.5">
      {places.length === 2 && <path d={`M${places[0]!.join(' ')}L${places[1]!.join(' ')}`} strokeDasharray="5 3" />}
      {places.map(([x, y]) => (
        <path key={`${x} ${y}`} d={`M${x - 8} ${y}H${x + 8}M${x} ${y - 8}V${y + 8}`} />
      ))}
    </g>
  )
}

/** What the tool waits for, and at the pointer what a press would be taken for. */
function Told() {
  const { tool, spots, hover, view, refused, told, sides } = useOutline()
  const drawing = toolOf(tool)
  const other = curveTools.find(({ kind }) => kind === tool)
  const says = drawing
    ? `${drawing.label}: ${drawing.say(spots.length)}`
    : other?.says
      ? `${other.label}: ${other.says}`
      : tool === 'picture'
        ? 'picture: click two places on it whose distance you have measured, then type that distance on the sheet'
        : ''
  const at = hover && toScreen(view, hover.spot.at)
  return (
    <>
      {says && (
        <p role="status" className="pointer-events-none absolute top-3 left-4 bg-[#f6f8f7]/85 px-2 py-1 text-base">
          {says}
          {tool === 'polygon' && <span className="figures text-ink-soft"> · {sides} sides</span>}
          {told && <span className="text-ink-soft"> · {told}</span>}
        </p>
      )}
      {drawing && hover && at && (hover.told.length > 0 || refused) && (
        <p
          className="pointer-events-none absolute whitespace-nowrap bg-sheet/90 px-1.5 py-0.5 text-xs text-mackerel"
          style={{ left: at[0] + 14, top: at[1] + 12 }}
        >
          {refused ? 'nothing is inferred · N infers again' : `${hover.told.join(' · ')} · N refuses`}
        </p>
      )}
    </>
  )
}

/** "1/16", "2": a round length of inches. */
function onRule(inches: number): string {
  return inches < 0.75 ? `1/${Math.round(1 / inches)}` : `${Math.round(inches)}`
}

function Scale({ view, unit }: { readonly view: PlaneView; readonly unit: PartUnit }) {
  const long = roundLength(view, 90, unit)
  return (
    <p className="figures pointer-events-none absolute bottom-2 left-3 flex items-center gap-2 bg-ground/85 px-1 py-0.5 text-ink-soft">
      <span className="inline-block h-1.5 border-x border-b border-ink-soft" style={{ width: long * view.scale }} />
      {unit === 'mm' ? `${long} mm` : `${onRule(long / lengthUnits.in)} in`}
    </p>
  )
}
