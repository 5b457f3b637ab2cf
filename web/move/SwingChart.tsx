import { formatNumber, mmPer, type PartUnit } from '@makrel/core/units'
import { Chart } from '../ui/Chart.tsx'

/** Smallest gap over the travel, in the part's unit; the dashed line is the least gap of the printer. */
export function SwingChart({
  positions,
  from,
  to,
  position,
  least: leastGap,
  unit,
  step,
}: {
  readonly positions: readonly { readonly position: number; readonly gap: number | undefined }[]
  readonly from: number
  readonly to: number
  readonly position: number
  /** mm, as gaps are */
  readonly least: number
  readonly unit: PartUnit
  /** mm or degrees that the axis counts as one */
  readonly step: number
}) {
  const per = mmPer(unit)
  const least = leastGap / per
  const fine = unit === 'mm' ? 5 : 100
  const most = Math.ceil(Math.max(2 * least, ...positions.map(({ gap }) => (gap ?? 0) / per)) * fine) / fine
  return (
    <>
      <p className="mt-1 text-xs text-ink-soft">
        Smallest gap over the travel, {unit}; dashed: the printer's least gap
      </p>
      <Chart
        label={`Smallest gap from ${formatNumber(from / step)} to ${formatNumber(to / step)}`}
        height={72}
        range={{ x: [from / step, to / step], y: [0, most] }}
        lines={[
          {
            label: `gap, ${unit}`,
            points: positions.flatMap(({ position: x, gap }) =>
              gap === undefined ? [] : [{ x: x / step, y: gap / per }],
            ),
            colour: 'mackerel',
          },
          {
            label: "printer's least gap",
            points: [
              { x: from / step, y: least },
              { x: to / step, y: least },
            ],
            colour: 'amber',
            dashed: true,
          },
          {
            label: 'here',
            points: [
              { x: position / step, y: 0 },
              { x: position / step, y: most },
            ],
            colour: 'ink',
          },
        ]}
      />
    </>
  )
}
