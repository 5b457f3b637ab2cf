import { allSteps, outlinesOf, type Part } from '@makrel/core/document'
import type { SolvedOutline } from '@makrel/core/outline'
import { distance2, lengthOf, pointAt, type Vec2 } from '@makrel/core/plane'
import { drawnEdges, fieldKindOf, planeOf, type TakenOffer, takenOffers } from '@makrel/core/planning'
import { measuringFineness } from '@makrel/core/solids'
import { useEffect, useMemo, useRef, useState } from 'react'
import { stepNumber } from '../make/words.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { usePartEdges } from './partEdges.ts'
import { pathOf } from './paths.ts'
import { draw, useOutline } from './state.ts'
import { type PlaneView, toScreen } from './view.ts'

/** So many can be told apart in one view; where there are more, those nearest to its middle are shown. */
const mostMarks = 150
/** Of more than these only the ones about the pointer are seen, so near to it, pixels. */
const crowd = 30
const aboutPointer = 90

/** Where the pointer is over the drawing, in steps of some pixels. */
function usePointerOver() {
  const drawing = useRef<SVGSVGElement>(null)
  const [at, setAt] = useState<Vec2>()
  useEffect(() => {
    const follow = ({ clientX, clientY }: PointerEvent) => {
      const box = drawing.current?.getBoundingClientRect()
      if (!box) return
      const coarse = (x: number) => 12 * Math.round(x / 12)
      const next: Vec2 = [coarse(clientX - box.left), coarse(clientY - box.top)]
      setAt((before) => (before && before[0] === next[0] && before[1] === next[1] ? before : next))
    }
    window.addEventListener('pointermove', follow)
    return () => window.removeEventListener('pointermove', follow)
  }, [])
  return { drawing, at }
}

/** Points and edges of the part that can be taken over: they stay where these are. */
export function PickUp({ solved }: { readonly solved: SolvedOutline }) {
  const part = usePart((state) => state.part!)
  const view = useOutline((state) => state.view)
  const [pointed, setPointed] = useState<TakenOffer>()
  const { id, on } = solved.outline
  const edges = usePartEdges({ on })
  const offered = useMemo(() => {
    const { plan } = workedOf(part)
    const plane = planeOf({ on }, plan)
    if (!plane) return []
    const isDrawn = edges && edges.length > 0 ? drawnEdges(edges, measuringFineness) : undefined
    return takenOffers(plane, plan, { isDrawn, without: madeFrom(part, id) })
  }, [part, on, id, edges])
  const shown = useMemo(() => {
    const middle: Vec2 = [view.width / 2, view.height / 2]
    return marked(offered, view)
      .map(({ offer, at }) => ({ offer, label: labelOf(offer, part), at }))
      .filter(({ at: [x, y] }) => x > 0 && x < view.width && y > 0 && y < view.height)
      .sort((a, b) => distance2(a.at, middle) - distance2(b.at, middle))
  }, [offered, view, part])
  const { drawing, at: pointer } = usePointerOver()
  if (offered.length === 0)
    return (
      <p className="absolute top-12 left-4 px-2 text-ink-soft">
        There is no flat face along this plane to pick edges up from.
      </p>
    )
  const near = shown.slice(0, mostMarks)
  const pointing = (offer: TakenOffer) => ({
    onClick: () => pickUp(offer, solved),
    onPointerEnter: () => setPointed(offer),
    onPointerLeave: () => setPointed(undefined),
  })
  // Of a crowd only those that may be meant just now are seen; the keyboard finds them all.
  const isSeen = (at: Vec2) => near.length <= crowd || (pointer && distance2(at, pointer) < aboutPointer)
  const told = near.find(({ offer }) => offer === pointed)
  return (
    <>
      {/* An edge is pressed anywhere along it; its mark is for the keyboard. */}
      <svg
        ref={drawing}
        width={view.width}
        height={view.height}
        className="pointer-events-none absolute inset-0"
        aria-hidden="true"
      >
        {near
          .filter(({ offer }) => offer.curve)
          // The shorter of two that lie on one another is on top.
          .sort((a, b) => lengthOf(b.offer.curve!.segment) - lengthOf(a.offer.curve!.segment))
          .map(({ offer, label }) => (
            <path
              key={`${label} ${JSON.stringify(offer.points)}`}
              d={pathOf([offer.curve!.segment], view)}
              fill="none"
              stroke="transparent"
              strokeWidth="10"
              pointerEvents="stroke"
              className="cursor-pointer"
              data-overlay
              {...pointing(offer)}
            />
          ))}
        {/* A round may be there as a silhouette alone, which the part's edges do not show. */}
        {near.map(
          ({ offer, label }) =>
            offer.curve?.kind === 'circle' && (
              <path
                key={label}
                d={pathOf([offer.curve.segment], view)}
                fill="none"
                stroke="var(--color-mackerel)"
                strokeWidth="1"
                strokeDasharray="1 5"
              />
            ),
        )}
        {pointed?.curve && (
          <path
            d={pathOf([pointed.curve.segment], view)}
            fill="none"
            stroke="var(--color-mackerel)"
            strokeWidth="4"
            strokeOpacity="0.6"
          />
        )}
      </svg>
      {near.map(({ offer, label, at: [x, y] }) => (
        <button
          key={`${label} ${JSON.stringify(offer.points)}`}
          type="button"
          aria-label={`Pick up ${label}`}
          {...pointing(offer)}
          onFocus={() => setPointed(offer)}
          onBlur={() => setPointed(undefined)}
          className={`absolute -translate-x-1/2 -translate-y-1/2 border border-mackerel bg-sheet hover:z-10 hover:bg-mackerel focus-visible:z-10 focus-visible:opacity-100 ${offer.curve ? 'h-1.5 w-2.5' : 'h-2.5 w-2.5 rounded-full'} ${isSeen([x, y]) ? '' : 'opacity-0'}`}
          style={{ left: x, top: y }}
        />
      ))}
      {told && (
        <p
          className="pointer-events-none absolute z-20 whitespace-nowrap border border-line bg-sheet px-1.5 py-0.5 text-xs text-mackerel"
          style={{ left: Math.min(told.at[0] + 12, view.width - 240), top: told.at[1] + 12 }}
        >
          {told.label}
        </p>
      )}
      {shown.length > mostMarks && (
        <p className="absolute top-12 left-4 bg-sheet px-2 text-ink-soft">
          {mostMarks} of {shown.length} marks are shown; come nearer to see those of one place.
        </p>
      )}
    </>
  )
}

/** "wall edge of 5, copy 2" */
function labelOf({ step, copy, what }: TakenOffer, part: Part): string {
  return `${what} of ${stepNumber(part, step)}${copy > 1 ? `, copy ${copy}` : ''}`
}

/** Steps that are made from the outline itself: their edges are its own. */
function madeFrom(part: Part, outline: string): ReadonlySet<string> {
  return new Set(
    allSteps(part)
      .filter((step) => outlinesOf(step, fieldKindOf).includes(outline))
      .map(({ id }) => id),
  )
}

/**
 * Where the marks are on the screen: of a point where it lies, of an edge in its middle, of a round on its rim; of edges
 * that lie on one another at places of their own.
 */
function marked(offered: readonly TakenOffer[], view: PlaneView): { readonly offer: TakenOffer; readonly at: Vec2 }[] {
  const used = new Set<string>()
  const cell = ([x, y]: Vec2) => `${Math.round(x / 10)} ${Math.round(y / 10)}`
  return offered.map((offer) => {
    const { at, curve } = offer
    const places = (
      curve ? along.map((t) => pointAt(curve.segment, curve.kind === 'circle' ? t / 4 : t)) : [at[0]!]
    ).map((p) => toScreen(view, p))
    const place = places.find((p) => !used.has(cell(p))) ?? places[0]!
    used.add(cell(place))
    return { offer, at: place }
  })
}
const along = [0.5, 0.4, 0.6, 0.3, 0.7] as const

function pickUp({ points, at, curve }: TakenOffer, { outline }: SolvedOutline): void {
  draw((sketch) => {
    const ids = points.map((taken, i) => {
      const same = sketch.outline.points.find((point) => JSON.stringify(point.taken) === JSON.stringify(taken))
      if (same) return same.id
      const id = sketch.point({ at: at[i]! })
      sketch.outline = {
        ...sketch.outline,
        points: sketch.outline.points.map((point) => (point.id === id ? { ...point, taken } : point)),
      }
      return id
    })
    if (!curve || outline.curves.some((known) => known.kind === curve.kind && known.points.join() === ids.join()))
      return
    sketch.curve(curve.kind, ids, { helper: true, size: curve.size, taken: curve.taken })
  })
}
