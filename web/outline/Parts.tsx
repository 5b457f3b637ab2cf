import type { Freedom, SolvedOutline } from '@makrel/core/outline'
import type { Segment, Vec2 } from '@makrel/core/plane'
import { memo } from 'react'
import { pathOf } from './paths.ts'
import { useOutline } from './state.ts'
import { type PlaneView, toScreen } from './view.ts'

/** What is drawn, and the view of it: each of these is drawn anew only where one of both changed. */
interface Shown {
  readonly solved: SolvedOutline
  readonly view: PlaneView
}

export const Regions = memo(function Regions({
  arrangement,
  filled,
  view,
}: Pick<SolvedOutline, 'arrangement' | 'filled'> & Pick<Shown, 'view'>) {
  const taken = new Set(filled.map(({ key }) => key))
  return arrangement.faces.map((face) => (
    <path
      key={face.key}
      d={[face.outer, ...face.holes].map((chain) => pathOf(chain.segments, view, true)).join('')}
      fillRule="evenodd"
      fill={taken.has(face.key) ? 'var(--color-belly)' : 'transparent'}
      fillOpacity={0.55}
      data-region={face.key}
      data-taken={taken.has(face.key)}
    />
  ))
})

export const Curves = memo(function Curves({ solved, view, freedom }: Shown & { readonly freedom: Freedom }) {
  const selected = useOutline((state) => state.selected)
  const chosen = new Set(selected)
  const drawn = new Set(solved.outline.curves.map(({ id }) => id))
  const cut = new Map(solved.curves.map(({ id, segments }) => [id, segments]))
  const [ox, oy] = toScreen(view, [0, 0])
  return (
    <g strokeLinecap="round">
      {chosen.has('x-axis') && <path d={`M0 ${oy}H${view.width}`} stroke="var(--color-mackerel)" strokeWidth="2" />}
      {chosen.has('y-axis') && <path d={`M${ox} 0V${view.height}`} stroke="var(--color-mackerel)" strokeWidth="2" />}
      {/* What was derived, over what it was derived from. */}
      {solved.curves
        .filter(({ id }) => !drawn.has(id))
        .map(({ id, segments }) => (
          <path
            key={id}
            d={pathOf(segments, view)}
            stroke={chosen.has(id.split('.')[0]!) ? 'var(--color-mackerel)' : 'var(--color-ink)'}
            strokeWidth="1.6"
          />
        ))}
      {solved.outline.curves.map(({ id, helper, points }) => (
        <OneCurve
          key={id}
          id={id}
          segments={solved.drawnCurves.get(id)!}
          left={helper ? undefined : cut.get(id)}
          view={view}
          helper={helper}
          free={freedom.sizes.has(id) || points.some((p) => freedom.points.has(p))}
          chosen={chosen.has(id)}
        />
      ))}
    </g>
  )
})

/** `left`: what is left of it where corners were cut off. Of many curves few change while one is dragged. */
const OneCurve = memo(function OneCurve({
  id,
  segments,
  left,
  view,
  helper,
  free,
  chosen,
}: {
  readonly id: string
  readonly segments: readonly Segment[]
  readonly left: readonly Segment[] | undefined
  readonly view: PlaneView
  readonly helper: boolean
  readonly free: boolean
  readonly chosen: boolean
}) {
  const stroke = chosen ? 'var(--color-mackerel)' : helper || free ? 'var(--color-ink-soft)' : 'var(--color-ink)'
  return (
    <g data-curve={id}>
      {/* A corner that is cut off is still there to measure to. */}
      {!helper && left !== segments && <path d={pathOf(segments, view)} stroke="var(--color-line)" strokeWidth="1" />}
      <path
        d={pathOf(left ?? segments, view)}
        stroke={stroke}
        strokeWidth={chosen ? 2.4 : helper ? 1 : 1.8}
        strokeDasharray={helper ? '6 4' : undefined}
      />
    </g>
  )
})

/** With more points than this in view none of them can be told apart: they are dots, until one comes nearer. */
const mostPoints = 400

const dotsTogether = 100

/** A filled point is held; a hollow one can move, and its arms show which ways. */
export const Points = memo(function Points({ solved, view, freedom }: Shown & { readonly freedom: Freedom }) {
  const selected = useOutline((state) => state.selected)
  const chosen = new Set(selected)
  const inView = solved.outline.points.flatMap((point) => {
    const [x, y] = toScreen(view, solved.points.get(point.id)!)
    return x > -10 && y > -10 && x < view.width + 10 && y < view.height + 10 ? [{ point, x, y }] : []
  })
  const dense = inView.length > mostPoints
  const whole = dense ? inView.filter(({ point }) => chosen.has(point.id)) : inView
  return (
    <g>
      {/* In several paths, so that where a few points are dragged the others need not be painted anew. */}
      {dense &&
        Array.from({ length: Math.ceil(inView.length / dotsTogether) }, (_, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: dots are told apart by their place alone
            key={i}
            d={inView
              .slice(i * dotsTogether, (i + 1) * dotsTogether)
              .map(({ x, y }) => `M${x.toFixed(1)} ${y.toFixed(1)}h0`)
              .join('')}
            stroke="var(--color-ink-soft)"
            strokeWidth="2.5"
            strokeLinecap="round"
            data-points
          />
        ))}
      {whole.map(({ point: { id, sharp, taken }, x, y }) => (
        <OnePoint
          key={id}
          id={id}
          x={x}
          y={y}
          square={taken !== undefined || sharp === true}
          way={freedom.points.get(id)}
          chosen={chosen.has(id)}
        />
      ))}
    </g>
  )
})

const OnePoint = memo(function OnePoint({
  id,
  x,
  y,
  square,
  way,
  chosen,
}: {
  readonly id: string
  readonly x: number
  readonly y: number
  readonly square: boolean
  readonly way: 'any' | Vec2 | undefined
  readonly chosen: boolean
}) {
  const colour = chosen ? 'var(--color-mackerel)' : 'var(--color-ink)'
  const arms: readonly Vec2[] =
    way === undefined
      ? []
      : way === 'any'
        ? [
            [1, 0],
            [0, 1],
          ]
        : [[way[0], -way[1]]]
  const fill = way ? 'var(--color-sheet)' : colour
  return (
    <g stroke={colour} data-point={id} data-way={way === undefined ? 'held' : way === 'any' ? 'any' : 'one'}>
      {arms.map(([dx, dy]) => (
        <line key={`${dx} ${dy}`} x1={x - 8 * dx} y1={y - 8 * dy} x2={x + 8 * dx} y2={y + 8 * dy} strokeWidth="1" />
      ))}
      {square ? (
        <rect x={x - 3.5} y={y - 3.5} width="7" height="7" strokeWidth="1.3" fill={fill} />
      ) : (
        <circle cx={x} cy={y} r="3.5" strokeWidth="1.3" fill={fill} />
      )}
    </g>
  )
})

/** Ends that meet nothing, and places where curves cross. */
export const Marks = memo(function Marks({
  arrangement,
  view,
}: Pick<SolvedOutline, 'arrangement'> & Pick<Shown, 'view'>) {
  return (
    <g strokeWidth="1.5">
      {arrangement.loose.map(({ at, near }) => {
        const [x, y] = toScreen(view, at)
        return (
          <circle
            key={`${at}`}
            cx={x}
            cy={y}
            r="8"
            stroke={near ? 'var(--color-rust)' : 'var(--color-amber)'}
            strokeDasharray="3 2"
          />
        )
      })}
      {arrangement.crossed.map(({ at }) => {
        const [x, y] = toScreen(view, at)
        return (
          <path
            key={`${at}`}
            d={`M${x - 6} ${y - 6}L${x + 6} ${y + 6}M${x + 6} ${y - 6}L${x - 6} ${y + 6}`}
            stroke="var(--color-amber)"
          />
        )
      })}
    </g>
  )
})
