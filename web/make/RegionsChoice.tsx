import type { Outline } from '@makrel/core/document'
import type { SolvedOutline } from '@makrel/core/outline'
import { boxAround, boxOfSegment } from '@makrel/core/plane'
import { formatArea } from '@makrel/core/units'
import { Popover } from 'radix-ui'
import { pathOf } from '../outline/paths.ts'
import type { PlaneView } from '../outline/view.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'

/**
 * Which regions of an outline a step takes: those that are filled in the drawing, or some of its own. Without a word where
 * there is nothing to choose.
 */
export function RegionsChoice({
  outline,
  regions,
  onChange,
}: {
  readonly outline: Outline
  /** keys; undefined: as the drawing is filled */
  readonly regions: readonly string[] | undefined
  onChange(regions: readonly string[] | undefined): void
}) {
  const part = usePart((state) => state.part!)
  const solved = workedOf(part).resolved.outlines.get(outline.id)
  const faces = solved?.arrangement.faces ?? []
  if (!solved || (faces.length < 2 && !regions)) return null
  const filled = solved.filled.map(({ key }) => key)
  const taken = new Set(regions ?? filled)
  const there = faces.filter(({ key }) => taken.has(key))
  const toggle = (key: string) => {
    const next = faces.map((face) => face.key).filter((each) => taken.has(each) !== (each === key))
    // What the drawing fills goes on as the drawing goes.
    onChange(next.length === filled.length && next.every((each) => filled.includes(each)) ? undefined : next)
  }
  const area = formatArea(
    there.reduce((sum, face) => sum + face.area, 0),
    part.unit,
  )
  const words = `${there.length} of ${faces.length} regions`
  return (
    <Popover.Root>
      <Popover.Trigger
        className="ml-1.5 text-sm text-mackerel underline"
        aria-label={`Regions of ${outline.name}: ${words}`}
      >
        {regions ? words : 'regions'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          collisionPadding={8}
          aria-label={`Regions of ${outline.name}`}
          className="z-50 w-72 rounded-sm border border-ink-soft bg-sheet p-3 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          <p className="mb-2">Click the regions that this step takes.</p>
          <RegionsDrawing solved={solved} taken={taken} onToggle={toggle} />
          <p className="mt-2 flex flex-wrap items-baseline justify-between gap-x-2">
            <span className="whitespace-nowrap text-ink-soft">
              {words}, <span className="figures">{area}</span>
            </span>
            <button
              type="button"
              className="whitespace-nowrap text-mackerel underline disabled:text-ink-soft disabled:no-underline"
              disabled={!regions}
              onClick={() => onChange(undefined)}
            >
              as filled in the drawing
            </button>
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

const size = { width: 262, height: 190 }

function RegionsDrawing({
  solved: { arrangement, curves },
  taken,
  onToggle,
}: {
  readonly solved: SolvedOutline
  readonly taken: ReadonlySet<string>
  onToggle(key: string): void
}) {
  const unit = usePart((state) => state.part!.unit)
  const box = boxAround(arrangement.edges.map(({ segment }) => boxOfSegment(segment)))
  if (!box) return <p className="text-ink-soft">There is no region in the drawing.</p>
  const { min, max } = box
  const room = 12
  const view: PlaneView = {
    ...size,
    centre: [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2],
    scale: Math.min((size.width - room) / (max[0] - min[0]), (size.height - room) / (max[1] - min[1])),
  }
  return (
    <svg viewBox={`0 0 ${size.width} ${size.height}`} className="w-full border border-line bg-ground">
      <title>Regions</title>
      {/* Small ones lie over what they lie in, so that each can be pressed. */}
      {[...arrangement.faces]
        .sort((a, b) => b.area - a.area)
        .map((face) => (
          // biome-ignore lint/a11y/useSemanticElements: a region of a drawing can be no input
          <path
            key={face.key}
            role="checkbox"
            aria-checked={taken.has(face.key)}
            aria-label={`Region of ${formatArea(face.area, unit)}`}
            tabIndex={0}
            d={[face.outer, ...face.holes].map((chain) => pathOf(chain.segments, view, true)).join('')}
            fillRule="evenodd"
            fill={taken.has(face.key) ? 'var(--color-belly)' : 'var(--color-sheet)'}
            className="cursor-pointer outline-none hover:stroke-mackerel hover:stroke-2 focus-visible:stroke-mackerel focus-visible:stroke-[3]"
            data-region={face.key}
            onClick={() => onToggle(face.key)}
            onKeyDown={(event) => {
              if (event.key !== ' ' && event.key !== 'Enter') return
              event.preventDefault()
              onToggle(face.key)
            }}
          />
        ))}
      <g fill="none" stroke="var(--color-ink)" strokeWidth="1.2" pointerEvents="none">
        {curves.map(({ id, segments }) => (
          <path key={id} d={pathOf(segments, view)} />
        ))}
      </g>
    </svg>
  )
}
