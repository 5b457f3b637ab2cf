import { type Edit, type Joint, pieceOfBody } from '@makrel/core/document'
import type { Freedom } from '@makrel/core/mechanism'
import { loose, type Reach, type SwingPosition, searchWithin } from '@makrel/core/proof'
import { formatLengthWithUnit, formatNumber, formatVolume, mmPer, type PartUnit } from '@makrel/core/units'
import { useState } from 'react'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { type Pace, paces, useCycle } from './cycle.ts'
import { FreedomSlider } from './FreedomSlider.tsx'
import { SwingChart } from './SwingChart.tsx'
import type { Swing } from './swing.ts'

export function SwingBar({
  joint,
  freedoms,
  positions,
  over,
  onPosition,
  swing,
  off,
  onDrawn,
}: {
  readonly joint: Joint
  readonly freedoms: readonly Freedom[]
  readonly positions: readonly number[]
  readonly over: number
  onPosition(freedom: number, position: number): void
  readonly swing: Swing
  /** how far loops are from closing, mm */
  readonly off: number
  /** brings everything back, where something has moved */
  readonly onDrawn: (() => void) | undefined
}) {
  const part = usePart((state) => state.part!)
  const unit = usePart((state) => state.part!.unit)
  const worked = useWorked()
  const building = useBuild((state) => state.slow)
  const shown = freedoms[over] ?? freedoms[0]
  const [pace, setPace] = useState<Pace>('steadily')
  const [playing, play] = useCycle(
    shown,
    positions[freedoms.indexOf(shown!)] ?? 0,
    (at) => onPosition(freedoms.indexOf(shown!), at),
    pace,
  )
  if (!worked?.resolved.joints.get(joint.id)?.values) return <p>The joint has a problem; fix it to swing it.</p>
  if (!shown) return <p>This joint holds its pieces together; nothing of it moves.</p>
  const here = swing.here?.at
  const named = (pieces: readonly string[]) => pieces.map((id) => pieceOfBody(part, id)?.name ?? id).join(' and ')
  // What is nearest may be others than those that this joint ties.
  const isOther = here?.own !== undefined && !here.nearest?.pieces.every((id) => joint.pieces.includes(id))
  const between = here
    ? here.collisions.length > 0
      ? here.collisions.map(({ pieces }) => named(pieces))
      : here.nearest
        ? [named(here.nearest.pieces)]
        : []
    : []
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-6 gap-y-1">
      <div>
        {freedoms.map((freedom, i) => (
          <FreedomSlider
            key={`${joint.id} ${freedom.label}`}
            label={freedoms.length === 1 ? 'Swing' : freedom.label}
            freedom={freedom}
            names={worked.resolved.measures.names}
            position={positions[i]!}
            onPosition={(at) => {
              play(false)
              onPosition(i, at)
            }}
          />
        ))}
        <p className="mt-1 flex items-baseline gap-4 text-[0.9375rem]">
          <span>
            <button type="button" className="underline" aria-pressed={playing} onClick={() => play(!playing)}>
              {playing ? 'Stop playing' : 'Play its travel'}
            </button>{' '}
            <Choice<Pace>
              label="How fast it is played"
              value={pace}
              options={(Object.keys(paces) as Pace[]).map((each) => ({ value: each, label: each }))}
              onChange={setPace}
            />
          </span>
          {onDrawn && (
            <button
              type="button"
              className="underline"
              onClick={() => {
                play(false)
                onDrawn()
              }}
            >
              Reset
            </button>
          )}
          {off > loose && (
            <span role="alert" className="text-rust">
              The linkage can’t reach this: a joint is {formatLengthWithUnit(off, unit)} apart.
            </span>
          )}
        </p>
        <SwingChart
          positions={swing.sweep.map(({ position, at }) => ({ position, gap: at.gap }))}
          from={shown.from}
          to={shown.period ? shown.from + shown.period : shown.to}
          position={withinPeriod(positions[over] ?? 0, shown)}
          least={worked.resolved.printer.leastGap}
          unit={unit}
          step={shown.unit === 'mm' ? mmPer(unit) : 1}
        />
      </div>
      <dl className="w-48 self-start" aria-live="polite">
        <dt className="text-xs text-ink-soft">Smallest gap here</dt>
        <dd
          data-testid="gap-here"
          className={`figures text-[1.25rem] leading-7 ${here && (here.gap ?? 1) === 0 ? 'text-rust' : ''}`}
        >
          {building || !here
            ? '…'
            : here.gap === undefined
              ? `over ${formatLengthWithUnit(searchWithin, unit)}`
              : here.gap === 0
                ? here.collisions.length > 0
                  ? `collides, ${overlapText(sumOf(here.collisions), unit)}`
                  : 'touches'
                : formatLengthWithUnit(here.gap, unit)}
        </dd>
        {between.length > 0 && <dd className="text-sm text-ink-soft">{between.join('; ')}</dd>}
        {isOther && <dd className="figures text-sm">this joint’s pieces {formatLengthWithUnit(here.own!, unit)}</dd>}
        <dt className="mt-1 text-xs text-ink-soft">Smallest over its travel</dt>
        <dd className="figures text-[1rem]">
          {swing.smallest === undefined
            ? `measuring ${swing.sweep.length} …`
            : swing.smallest.gap === 0
              ? 'pieces meet'
              : `${formatLengthWithUnit(swing.smallest.gap, unit)} at ${positionText(swing.smallest.position, shown, unit)}`}
        </dd>
        {isOther && swing.ownSmallest && (
          <dd className="figures text-sm">
            this joint’s pieces {formatLengthWithUnit(swing.ownSmallest.gap, unit)} at{' '}
            {positionText(swing.ownSmallest.position, shown, unit)}
          </dd>
        )}
        {swing.reach && <Free joint={joint} freedom={shown} reach={swing.reach} />}
      </dl>
    </div>
  )
}

/** How far it goes freely, what stops it there, and a press that ends its travel before that. */
function Free({
  joint,
  freedom,
  reach,
}: {
  readonly joint: Joint
  readonly freedom: Freedom
  readonly reach: readonly (Reach | undefined)[]
}) {
  const part = usePart((state) => state.part!)
  const [low, high] = reach
  if (!low && !high) return null
  const said = (position: number) => positionText(position, freedom, part.unit, 2)
  const why = reach.flatMap((end) =>
    end
      ? [
          end.pieces
            ? `Beyond ${said(end.position)} ${end.pieces.map((id) => pieceOfBody(part, id)?.name ?? id).join(' and ')} meet.`
            : `Beyond ${said(end.position)} its loop locks.`,
        ]
      : [],
  )
  const { told = {} } = freedom
  const edits = (
    [
      ['from', low],
      ['to', high],
    ] as const
  ).flatMap(([side, end]): Edit[] => {
    const field = told[side]
    if (!end || !field) return []
    const text = formatNumber(end.position / (freedom.unit === 'mm' ? mmPer(part.unit) : 1), 2)
    return [{ type: 'set-field', id: joint.id, field, text }]
  })
  return (
    <dd className="mt-1 text-sm text-rust">
      {why.join(' ')}
      {edits.length > 0 && (
        <Button
          className="mt-1"
          onClick={() => {
            usePart.getState().editAll(edits)
            sayDone('Its travel ends before anything meets.')
          }}
        >
          End its travel there
        </Button>
      )}
    </dd>
  )
}

function sumOf(collisions: SwingPosition['collisions']): number {
  return collisions.reduce((sum, { volume }) => sum + volume, 0)
}

/** Where a position comes again within what is measured. */
function withinPeriod(at: number, { from, period }: Freedom): number {
  return period ? from + ((((at - from) % period) + period) % period) : at
}

/** Where on its way something stands. */
function positionText(position: number, freedom: Freedom, unit: PartUnit, places = 1): string {
  return freedom.unit === 'mm' ? formatLengthWithUnit(position, unit) : `${formatNumber(position, places)}°`
}

/** How much of two pieces is in one place, mm³. */
function overlapText(mm3: number, unit: PartUnit): string {
  return unit === 'mm' ? `${formatNumber(mm3, 2)} mm³` : formatVolume(mm3, unit)
}
