import { middleOf, partsOf, type SolvedOutline } from '@makrel/core/outline'
import { boxAround, boxOfSegment, type Segment, type Vec2 } from '@makrel/core/plane'
import { useEffect, useState } from 'react'
import { changeSelected } from './partsActions.ts'
import { pathOf } from './paths.ts'
import { scaleBetween, turnBetween } from './selectionMath.ts'
import { useOutline } from './state.ts'
import { toPlane, toScreen } from './view.ts'

/** How far the handles stand off what is selected, pixels. */
const aside = 26

interface Grip {
  readonly way: 'turn' | 'scale'
  readonly from: Vec2
  /** degrees, or a factor */
  readonly value: number
}

/** Handles that turn and scale what is selected about its middle; a ghost goes along until it is let go. */
export function SelectionHandles({ solved }: { readonly solved: SolvedOutline }) {
  const selected = useOutline((state) => state.selected)
  const view = useOutline((state) => state.view)
  const free = useOutline((state) => state.refused)
  const [grip, setGrip] = useState<Grip>()
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== 'Escape') return
      setGrip(undefined)
      event.stopPropagation()
    }
    if (grip) window.addEventListener('keydown', pressed, { capture: true })
    return () => window.removeEventListener('keydown', pressed, { capture: true })
  }, [grip])
  if (selected.length < 2) return null
  const { outline } = solved
  const parts = partsOf(outline, new Set(selected))
  const points = parts.points.map((point) => ({ ...point, at: solved.points.get(point.id) ?? point.at }))
  const segments: readonly Segment[] = parts.curves.flatMap(({ id }) => solved.drawnCurves.get(id) ?? [])
  const box = boxAround([...segments.map(boxOfSegment), ...points.map(({ at }) => ({ min: at, max: at }))])
  if (points.length < 2 || !box) return null
  const about = middleOf({ ...parts, points })
  const [low, high] = [toScreen(view, box.min), toScreen(view, box.max)]
  const places = {
    turn: [(low[0] + high[0]) / 2, high[1] - aside],
    scale: [high[0] + aside / 2, high[1] - aside / 2],
  } as const
  const valueAt = (way: Grip['way'], from: Vec2, to: Vec2) =>
    way === 'turn' ? turnBetween(about, from, to, free) : scaleBetween(about, from, to, free)
  const letGo = () => {
    setGrip(undefined)
    if (grip && grip.value !== (grip.way === 'turn' ? 0 : 1)) changeSelected({ [grip.way]: grip.value })
  }
  const handle = (way: Grip['way'], label: string, icon: string) => (
    <button
      type="button"
      tabIndex={-1}
      aria-label={label}
      title={label}
      className="-translate-x-1/2 -translate-y-1/2 absolute grid h-6 w-6 cursor-grab place-items-center rounded-full border border-mackerel bg-sheet text-mackerel"
      style={{ left: places[way][0], top: places[way][1] }}
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        setGrip({ way, from: toPlane(view, placeOf(event)), value: way === 'turn' ? 0 : 1 })
      }}
      onPointerMove={(event) => {
        if (grip?.way === way) setGrip({ ...grip, value: valueAt(way, grip.from, toPlane(view, placeOf(event))) })
      }}
      onPointerUp={letGo}
      onPointerCancel={() => setGrip(undefined)}
    >
      <svg
        width="14"
        height="14"
        viewBox="0 0 16 16"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.5"
        aria-hidden="true"
      >
        <path d={icon} />
      </svg>
    </button>
  )
  const [x, y] = toScreen(view, about)
  return (
    <>
      {grip && (
        <svg
          width={view.width}
          height={view.height}
          className="pointer-events-none absolute inset-0"
          aria-hidden="true"
        >
          <g
            transform={
              grip.way === 'turn'
                ? `rotate(${-grip.value} ${x} ${y})`
                : `translate(${x} ${y}) scale(${grip.value}) translate(${-x} ${-y})`
            }
            fill="none"
            stroke="var(--color-mackerel)"
            strokeDasharray="4 3"
          >
            <path d={pathOf(segments, view)} vectorEffect="non-scaling-stroke" />
          </g>
          <path d={`M${x - 6} ${y}h12M${x} ${y - 6}v12`} stroke="var(--color-mackerel)" />
        </svg>
      )}
      {handle('turn', 'Turn what is selected', 'M13 8 A5 5 0 1 1 8 3 H12 M10 1 L12 3 L10 5')}
      {handle('scale', 'Scale what is selected', 'M4 12 L12 4 M8 4 H12 V8 M4 8 V12 H8')}
      {grip && (
        <p
          className="figures pointer-events-none absolute bg-sheet/90 px-1.5 py-0.5 text-mackerel"
          style={{ left: x + 12, top: y + 8 }}
        >
          {grip.way === 'turn' ? `${grip.value}°` : `× ${grip.value}`}
        </p>
      )}
    </>
  )
}

/** Where the pointer is on the drawing, pixels. */
function placeOf(event: React.PointerEvent): Vec2 {
  const { left, top } = event.currentTarget.closest('[role=application]')!.getBoundingClientRect()
  return [event.clientX - left, event.clientY - top]
}
