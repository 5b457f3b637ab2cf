import { useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react'

/** A card is so wide at least, and so far from the next, px. */
const narrowest = 270
const between = 20

const columnsIn = (width: number) => Math.max(1, Math.floor((width + between) / (narrowest + between)))

/** Cards in rows as wide as the window; of thousands only those in view are on the page. */
export function CardGrid({
  total,
  inView,
  children,
}: {
  readonly total: number
  /** told which places are in view, the second one past the last */
  inView(from: number, to: number): void
  children(place: number): ReactNode
}) {
  const list = useRef<HTMLDivElement>(null)
  const [columns, setColumns] = useState(() => columnsIn(window.innerWidth))
  useLayoutEffect(() => {
    const measured = () => setColumns(columnsIn(list.current!.clientWidth))
    const observer = new ResizeObserver(measured)
    observer.observe(list.current!)
    measured()
    return () => observer.disconnect()
  }, [])
  const rows = useVirtualizer({
    count: Math.ceil(total / columns),
    getScrollElement: () => list.current?.parentElement ?? null,
    estimateSize: () => 290,
    gap: between,
    overscan: 1,
  })
  const shown = rows.getVirtualItems()
  const from = (shown[0]?.index ?? 0) * columns
  const to = Math.min(total, ((shown.at(-1)?.index ?? -1) + 1) * columns)
  const placesOf = (row: number) =>
    Array.from({ length: Math.min(columns, total - row * columns) }, (_, i) => row * columns + i)
  useEffect(() => inView(from, to), [inView, from, to])
  return (
    // biome-ignore lint/a11y/useSemanticElements: rows that come and go lie between the list and its items
    <div ref={list} role="list" className="relative" style={{ height: rows.getTotalSize() }}>
      {shown.map(({ index, start, key }) => (
        <div
          key={key}
          ref={rows.measureElement}
          data-index={index}
          role="presentation"
          className="absolute top-0 left-0 grid w-full"
          style={{
            transform: `translateY(${start}px)`,
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            gap: between,
          }}
        >
          {placesOf(index).map((place) => (
            // biome-ignore lint/a11y/useSemanticElements: as the list
            <div key={place} role="listitem" aria-setsize={total} aria-posinset={place + 1} className="min-h-64">
              {children(place)}
            </div>
          ))}
        </div>
      ))}
    </div>
  )
}
