import { type ShapeDefinition, type Shelf, shapeOf, shapes, shelves } from '@makrel/core/shapes'
import { Popover } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import { useLately } from '../state/lately.ts'
import { PictureCanvas } from '../ui/PictureCanvas.tsx'
import { ShapeIcon } from './ShapeIcon.tsx'
import { pictureSize, useShapePictures } from './shapePictures.ts'

/** What the shapes of a shelf are for. */
const purposes: Readonly<Record<Shelf, string>> = {
  solids: 'Bodies to begin with and to add',
  holes: 'What screws, pins and cables go through',
  machine: 'What runs and turns',
  outlines: 'Made from what is drawn',
  labels: 'Letters and marks',
  datums: 'Places to measure from and stand on',
  imported: 'From files',
}

/**
 * All kinds of shapes in groups, with pictures of their solids, behind the words of the groups; those used lately come first.
 * Arrow keys go from one to the next, typing goes on in the field.
 */
export function Catalogue({ field, onAdd }: { readonly field: React.ReactNode; onAdd(shape: ShapeDefinition): void }) {
  const [shelf, setShelf] = useState<Shelf>()
  const words = useRef<HTMLDivElement>(null)
  return (
    <Popover.Root open={shelf !== undefined} onOpenChange={(open) => !open && setShelf(undefined)}>
      <Popover.Anchor asChild>
        <div ref={words}>
          {field}
          <div className="mt-2 -ml-1.5 flex flex-wrap gap-x-3">
            {shelves.map((each) => (
              <button
                key={each}
                type="button"
                aria-haspopup="dialog"
                aria-expanded={shelf === each}
                onClick={() => setShelf(shelf === each ? undefined : each)}
                className="rounded-sm px-1.5 py-0.5 capitalize text-ink-soft hover:bg-mackerel-wash hover:text-mackerel aria-expanded:bg-mackerel-wash aria-expanded:text-mackerel"
              >
                {each}
              </button>
            ))}
          </div>
        </div>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="end"
          sideOffset={6}
          aria-label="Catalogue"
          // The new step's first value takes the keyboard; the words open another group.
          onCloseAutoFocus={(event) => event.preventDefault()}
          onInteractOutside={(event) => words.current?.contains(event.target as Node) && event.preventDefault()}
          className="z-50 max-h-[min(34rem,var(--radix-popover-content-available-height))] w-[38rem] overflow-y-auto rounded-sm border border-ink-soft bg-sheet px-3 pb-3 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          {shelf && (
            <Shelves
              shelf={shelf}
              onType={() => setShelf(undefined)}
              onAdd={(shape) => {
                setShelf(undefined)
                onAdd(shape)
              }}
            />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Shelves({
  shelf,
  onAdd,
  onType,
}: {
  readonly shelf: Shelf
  onAdd(shape: ShapeDefinition): void
  onType(): void
}) {
  const lately = useLately((state) => state.kinds).flatMap((kind) => shapeOf(kind) ?? [])
  const ask = useShapePictures((state) => state.ask)
  const groups = useRef<HTMLFieldSetElement>(null)
  useEffect(ask, [ask])
  useEffect(() => {
    // Once the popover has its size.
    const timer = requestAnimationFrame(() => {
      const group = groups.current?.querySelector<HTMLElement>(`[data-shelf="${shelf}"]`)
      if (shelf === shelves[0]) group?.parentElement?.parentElement?.scrollTo({ top: 0 })
      else group?.scrollIntoView({ block: 'start' })
      group?.querySelector<HTMLElement>('button')?.focus({ preventScroll: true })
    })
    return () => cancelAnimationFrame(timer)
  }, [shelf])
  return (
    <fieldset ref={groups} aria-label="Shapes" onKeyDown={(event) => moved(event, onType)}>
      {lately.length > 0 && <Group title="Lately used" shapes={lately} onAdd={onAdd} />}
      {shelves.map((each) => (
        <Group
          key={each}
          shelf={each}
          title={each}
          about={purposes[each]}
          shapes={shapes.filter((shape) => shape.shelf === each)}
          onAdd={onAdd}
        />
      ))}
    </fieldset>
  )
}

function Group({
  shelf,
  title,
  about,
  shapes: own,
  onAdd,
}: {
  readonly shelf?: Shelf
  readonly title: string
  readonly about?: string
  readonly shapes: readonly ShapeDefinition[]
  onAdd(shape: ShapeDefinition): void
}) {
  return (
    <section aria-label={title} data-shelf={shelf} className="scroll-mt-0">
      <h3 className="sticky top-0 z-10 flex items-baseline gap-2 bg-sheet pt-2.5 pb-1">
        <span className="font-semibold first-letter:uppercase">{title}</span>
        {about && <span className="text-xs text-ink-soft">{about}</span>}
      </h3>
      <div className="grid grid-cols-6 gap-1">
        {own.map((shape) => (
          <button
            key={shape.kind}
            type="button"
            data-card
            aria-label={`Add: ${shape.label}`}
            onClick={() => onAdd(shape)}
            className="flex flex-col items-center gap-0.5 rounded-sm border border-transparent px-1 py-1 hover:border-line hover:bg-mackerel-wash focus-visible:bg-mackerel-wash"
          >
            <ShapePicture shape={shape} />
            <span className="text-center text-xs">{shape.label}</span>
          </button>
        ))}
      </div>
    </section>
  )
}

function ShapePicture({ shape }: { readonly shape: ShapeDefinition }) {
  const picture = useShapePictures((state) => state.pictures.get(shape.kind))
  if (!picture)
    return (
      <span className="flex items-center justify-center" style={pictureSize}>
        <ShapeIcon shape={shape} />
      </span>
    )
  return <PictureCanvas picture={picture} style={pictureSize} />
}

/** Arrow keys move on; what is typed goes to the field above. */
function moved(event: React.KeyboardEvent<HTMLElement>, onType: () => void): void {
  const isTyped = /^[\p{L}\d]$/u.test(event.key) && !event.ctrlKey && !event.metaKey
  if (!isTyped) {
    moveFocus(event)
    return
  }
  document.getElementById('add-step')?.focus()
  onType()
}

/** Arrow keys go to the next card to that side, by where they lie. */
function moveFocus(event: React.KeyboardEvent<HTMLElement>): void {
  const ways: Readonly<Record<string, readonly [number, number]>> = {
    ...{ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] },
  }
  const way = ways[event.key]
  if (!way) return
  event.preventDefault()
  const cards = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-card]')]
  const here = cards.find((card) => card === document.activeElement)?.getBoundingClientRect()
  if (!here) {
    cards[0]?.focus()
    return
  }
  const middle = ({ left, right, top, bottom }: DOMRect) => [(left + right) / 2, (top + bottom) / 2] as const
  const [x, y] = middle(here)
  let best: { card: HTMLElement; far: number } | undefined
  for (const card of cards) {
    const [cx, cy] = middle(card.getBoundingClientRect())
    const [along, across] = way[0] !== 0 ? [(cx - x) * way[0], Math.abs(cy - y)] : [(cy - y) * way[1], Math.abs(cx - x)]
    // Sideways only within a row.
    if (along < 4 || (way[0] !== 0 && across > 4)) continue
    const far = along + 2 * across
    if (!best || far < best.far) best = { card, far }
  }
  best?.card.focus()
  best?.card.scrollIntoView({ block: 'nearest' })
}
