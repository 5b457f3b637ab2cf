import { useDndContext } from '@dnd-kit/core'
import { contentOf, findStep, isBundle, type Part, type Step } from '@makrel/core/document'
import type { Plan, ResolvedPart } from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import { defaultRangeExtractor, type Range, useVirtualizer } from '@tanstack/react-virtual'
import {
  type ComponentProps,
  memo,
  type ReactNode,
  type Ref,
  type RefObject,
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from 'react'
import { usePart } from '../state/part.ts'
import { ErrorBoundary } from '../ui/ErrorBoundary.tsx'
import { FoldedLine, mainSizes } from './FoldedLine.tsx'
import { StepLine } from './StepLine.tsx'
import { SortableLine, SortableList } from './sorting.tsx'
import { stepTitle } from './words.ts'

interface Props {
  readonly part: Part
  readonly steps: readonly Step[]
  readonly resolved: ResolvedPart
  readonly plan: Plan
  readonly problems: readonly Problem[]
  /** in a long sheet, lines that are not selected fold to one row */
  readonly folds: boolean
  /** what scrolls the sheet */
  readonly scroller: RefObject<HTMLElement | null>
  /** the number of the bundle, with its point */
  readonly lead?: string
  readonly depth?: number
}

const none: readonly Problem[] = []

/** From so many steps on, only the lines in view are there. */
const virtualFrom = 60
/** Height of a folded line, pixels; the true heights are measured. */
const foldedHeight = 32

/** The steps of a piece or of a bundle, and below each open bundle what it holds. */
export function StepList(props: Props) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set())
  const toggle = (id: string) => {
    const next = new Set(opened)
    if (!next.delete(id)) next.add(id)
    setOpened(next)
  }
  const rows = { ...props, opened, onToggle: toggle }
  const long = props.steps.length >= virtualFrom && !props.depth
  return (
    <SortableList steps={props.steps}>
      {long ? (
        <LongList {...rows} />
      ) : (
        <ol>
          {props.steps.map((step, index) => (
            <Row key={step.id} {...rows} step={step} index={index} />
          ))}
        </ol>
      )}
    </SortableList>
  )
}

interface RowsProps extends Props {
  readonly opened: ReadonlySet<string>
  onToggle(id: string): void
}

/** The lines in view, between two gaps that stand for the others. */
function LongList(props: RowsProps) {
  const { part, steps, scroller } = props
  const list = useRef<HTMLOListElement>(null)
  const selected = usePart((state) => (state.selection?.kind === 'step' ? state.selection.id : undefined))
  const [above, setAbove] = useState(0)
  // What the list scrolls in is there once all of it is.
  const [outer, setOuter] = useState<HTMLElement | null>(null)
  useEffect(() => setOuter(scroller.current), [scroller])
  // What is dragged stays there, however far the sheet is scrolled meanwhile.
  const { active } = useDndContext()
  const dragged = active ? steps.findIndex(({ id }) => id === active.id) : -1
  const rangeExtractor = useCallback(
    (range: Range) => {
      const shown = defaultRangeExtractor(range)
      return dragged < 0 || shown.includes(dragged) ? shown : [...shown, dragged].sort((a, b) => a - b)
    },
    [dragged],
  )
  const rows = useVirtualizer({
    rangeExtractor,
    count: steps.length,
    getScrollElement: () => outer,
    estimateSize: () => foldedHeight,
    getItemKey: (index) => steps[index]!.id,
    overscan: 12,
    scrollMargin: above,
  })
  useLayoutEffect(() => {
    const own = list.current
    if (own && outer) setAbove(own.getBoundingClientRect().top - outer.getBoundingClientRect().top + outer.scrollTop)
  }, [outer])
  // What is selected on the drawing comes into view, though its line was not there.
  const at = useRef(-1)
  at.current = selected === undefined ? -1 : lineOf(part, steps, selected)
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another selection moves the sheet
  useEffect(() => {
    const index = at.current
    if (index >= 0 && !rows.getVirtualItems().some((row) => row.index === index)) rows.scrollToIndex(index)
  }, [selected])
  const shown = rows.getVirtualItems()
  return (
    <ol
      ref={list}
      className="flow-root"
      style={{ paddingBottom: rows.getTotalSize() - ((shown.at(-1)?.end ?? above) - above) }}
    >
      {shown.map(({ index, key, start }, i) => (
        <Row
          key={key}
          {...props}
          step={steps[index]!}
          index={index}
          measure={rows.measureElement}
          gap={start - (shown[i - 1]?.end ?? above)}
        />
      ))}
    </ol>
  )
}

/** The place in its piece's list of a step, or of the outermost bundle that holds it. */
function lineOf(part: Part, steps: readonly Step[], id: string): number {
  const found = findStep(part, id)
  return found ? steps.indexOf(found.bundles[0] ?? found.step) : -1
}

function Row({
  step,
  index,
  opened,
  onToggle,
  measure,
  gap,
  ...props
}: RowsProps & {
  readonly step: Step
  readonly index: number
  readonly measure?: Ref<HTMLLIElement> | undefined
  readonly gap?: number | undefined
}) {
  const { part, steps, resolved, plan, problems, folds, lead = '', depth = 0 } = props
  const selection = usePart((state) => state.selection)
  const others = usePart((state) => state.others)
  const selected = selection?.kind === 'step' && selection.id === step.id
  const chosen = selected || others.includes(step.id)
  const number = `${lead}${index + 1}`
  const open = isBundle(step) && (opened.has(step.id) || holds(part, step, selection?.id))
  const own = problemsOf(problems, step.id)
  const place = { id: step.id, index, count: steps.length, measure, gap }
  if (folds && !selected && !isBundle(step))
    return (
      <FoldedRow
        {...place}
        number={number}
        depth={depth}
        operation={step.operation}
        title={stepTitle(step)}
        sizes={mainSizes(step, resolved)}
        mute={!(resolved.steps.get(step.id)?.present ?? true)}
        chosen={chosen}
        problems={own.length > 0 ? own : none}
      />
    )
  return (
    <PlacedLine {...place} selected={selected}>
      <ErrorBoundary what={`line of step ${number}`} anew={step}>
        <StepLine
          part={part}
          step={step}
          number={number}
          index={index}
          last={index === steps.length - 1}
          depth={depth}
          resolved={resolved}
          plan={plan}
          problems={own}
          selected={selected}
          chosen={chosen}
          open={open}
          onOpen={() => onToggle(step.id)}
        />
      </ErrorBoundary>
      {open && <StepList {...props} steps={contentOf(step)} lead={`${number}.`} depth={depth + 1} />}
    </PlacedLine>
  )
}

/** Where a line stands in its list. */
interface Place {
  readonly id: string
  readonly index: number
  readonly count: number
  readonly measure: Ref<HTMLLIElement> | undefined
  readonly gap: number | undefined
}

/** A folded line in its place: as it was, as long as nothing that it says has changed. */
const FoldedRow = memo(function FoldedRow({
  id,
  index,
  count,
  measure,
  gap,
  ...line
}: Place & ComponentProps<typeof FoldedLine>) {
  return (
    <PlacedLine {...{ id, index, count, measure, gap }} selected={false}>
      <FoldedLine id={id} {...line} />
    </PlacedLine>
  )
})

function PlacedLine({
  id,
  index,
  count,
  selected,
  children,
  ...rest
}: Place & { readonly selected: boolean; readonly children: ReactNode }) {
  return (
    <SortableLine
      id={id}
      {...rest}
      data-index={index}
      data-step={id}
      aria-current={selected}
      aria-posinset={index + 1}
      aria-setsize={count}
    >
      {children}
    </SortableLine>
  )
}

/** The problems of one step. */
function problemsOf(problems: readonly Problem[], id: string): readonly Problem[] {
  return problems.filter(({ path }) => path[0] === 'steps' && path[1] === id)
}

/** Whether a selected step lies somewhere in this bundle. */
function holds(part: Part, bundle: Step, id: string | undefined): boolean {
  return id !== undefined && (findStep(part, id)?.bundles.some((other) => other.id === bundle.id) ?? false)
}
