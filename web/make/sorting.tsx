import {
  type CollisionDetection,
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DraggableAttributes,
  type DraggableSyntheticListeners,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { findStep, type Step } from '@makrel/core/document'
import { createContext, type ReactNode, type Ref, useContext, useMemo } from 'react'
import { usePart } from '../state/part.ts'
import { stepTitle } from './words.ts'

/** Steps are put in another order by dragging their numbers, or by the space bar and the arrow keys. */

/** Below this a press is a press, pixels. */
const dragFrom = 6

// The same objects each time: every line is drawn anew where one of them changes.
const byPointer = { activationConstraint: { distance: dragFrom } }
const byKeys = {
  coordinateGetter: sortableKeyboardCoordinates,
  // Enter selects the step.
  keyboardCodes: { start: ['Space'], cancel: ['Escape'], end: ['Space', 'Enter'] },
}

/** A sheet, or a part of it, in which steps can be dragged, each within its own list. */
export function Sorting({ children }: { readonly children: ReactNode }) {
  const sensors = useSensors(useSensor(PointerSensor, byPointer), useSensor(KeyboardSensor, byKeys))
  return (
    <DndContext sensors={sensors} collisionDetection={withinList} onDragEnd={dropped} accessibility={spoken}>
      {children}
    </DndContext>
  )
}

/** One list of steps: those of a piece, or of a bundle. */
export function SortableList({ steps, children }: { readonly steps: readonly Step[]; readonly children: ReactNode }) {
  // The same list as long as it has the same steps: every line asks it.
  const ids = steps.map(({ id }) => id)
  const all = JSON.stringify(ids)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it says of them is all that it is made of
  const items = useMemo(() => ids, [all])
  return (
    <SortableContext items={items} strategy={verticalListSortingStrategy}>
      {children}
    </SortableContext>
  )
}

/** A step changes places with its siblings only: the one whose line the pointer is on, however tall what is dragged is. */
const withinList: CollisionDetection = (args) => {
  const list = args.active.data.current?.sortable?.containerId
  const own = args.droppableContainers.filter(({ data }) => data.current?.sortable?.containerId === list)
  if (!args.pointerCoordinates) return closestCenter({ ...args, droppableContainers: own })
  const { y } = args.pointerCoordinates
  return own
    .flatMap((droppableContainer) => {
      const box = args.droppableRects.get(droppableContainer.id)
      const value = box && Math.max(box.top - y, y - box.bottom, 0)
      return value === undefined ? [] : [{ id: droppableContainer.id, data: { droppableContainer, value } }]
    })
    .sort((one, other) => one.data.value - other.data.value)
}

function dropped({ active, over }: DragEndEvent): void {
  const { part, edit } = usePart.getState()
  const place = (id: unknown) => (part ? findStep(part, String(id)) : undefined)
  const [from, to] = [place(active.id), over ? place(over.id) : undefined]
  if (from && to && from.index !== to.index) edit({ type: 'move-step', id: from.step.id, to: to.index })
}

const instructions =
  'Press the space bar to pick the step up, the arrow keys to move it, the space bar again to put it down, or Escape to leave it where it was.'

type Told = { readonly active: { readonly id: unknown }; readonly over: { readonly id: unknown } | null }
const announcements = {
  onDragStart: ({ active }: Pick<Told, 'active'>) => `${titleOf(active.id)} is picked up.`,
  onDragOver: ({ active, over }: Told) => (over ? `${titleOf(active.id)} is at ${placeOf(over.id)}.` : undefined),
  onDragEnd: ({ active, over }: Told) => `${titleOf(active.id)} is put down at ${placeOf((over ?? active).id)}.`,
  onDragCancel: ({ active }: Pick<Told, 'active'>) => `${titleOf(active.id)} stays where it was.`,
}

function titleOf(id: unknown): string {
  const { part } = usePart.getState()
  const found = part && findStep(part, String(id))
  return found ? stepTitle(found.step) : 'The step'
}

function placeOf(id: unknown): string {
  const { part } = usePart.getState()
  const found = part && findStep(part, String(id))
  return found ? `place ${found.index + 1} of ${found.siblings.length}` : 'its place'
}

const spoken = { announcements, screenReaderInstructions: { draggable: instructions } }

interface Handle {
  readonly attributes: DraggableAttributes
  readonly listeners: DraggableSyntheticListeners
  setActivatorNodeRef(node: HTMLElement | null): void
}

/** What the sensors listen to. */
interface HandleEvents {
  readonly onPointerDown?: React.PointerEventHandler
  readonly onKeyDown?: React.KeyboardEventHandler
}

const HandleContext = createContext<Handle | undefined>(undefined)

/** What makes an element the handle that its line is dragged by. */
export function useDragHandle() {
  const { setActivatorNodeRef: ref, attributes, listeners } = useContext(HandleContext) ?? {}
  return { ref, ...attributes, ...(listeners as HandleEvents | undefined) }
}

/** A line of a sortable list; what it holds has its handle. */
export function SortableLine({
  id,
  measure,
  gap = 0,
  children,
  ...rest
}: {
  readonly id: string
  /** pixels above it that stand for lines which are not there */
  readonly gap?: number | undefined
  readonly measure?: Ref<HTMLLIElement> | undefined
  readonly children: ReactNode
} & React.LiHTMLAttributes<HTMLLIElement>) {
  const { attributes, listeners, setActivatorNodeRef, setNodeRef, transform, transition, isDragging } = useSortable({
    id,
  })
  const handle = useMemo(
    () => ({ attributes, listeners, setActivatorNodeRef }),
    [attributes, listeners, setActivatorNodeRef],
  )
  const both = useMemo(
    () => (node: HTMLLIElement | null) => {
      setNodeRef(node)
      if (typeof measure === 'function') measure(node)
    },
    [setNodeRef, measure],
  )
  return (
    <li
      ref={both}
      {...rest}
      style={{ transform: CSS.Translate.toString(transform), transition, marginTop: gap || undefined }}
      className={isDragging ? 'relative z-10 bg-sheet shadow-[0_6px_18px_rgb(20_40_44/0.16)]' : undefined}
    >
      <HandleContext value={handle}>{children}</HandleContext>
    </li>
  )
}
