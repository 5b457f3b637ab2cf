import { Chart } from '../ui/Chart.tsx'

/** Smallest gap over the travel; the dashed line is the least gap of the printer. */
export function SwingChart({
  positions,
  from,
  to,
  position,
  least,
}: {
  readonly positions: readonly { readonly position: number; readonly gap: number | undefined }[]
  readonly from: number
  readonly to: number
  readonly position: number
  readonly least: number
}) {
  const most = Math.ceil(Math.max(2 * least, ...positions.map(({ gap }) => gap ?? 0)) * 5) / 5
  return (
    <>
      <p className="mt-1 text-xs text-ink-soft">Smallest gap in mm over the travel; dashed: the printer's least gap</p>
      <Chart
        label={`Smallest gap from ${from} to ${to}`}
        height={72}
        range={{ x: [from, to], y: [0, most] }}
        lines={[
          {
            label: 'gap, mm',
            points: positions.flatMap(({ position: x, gap }) => (gap === undefined ? [] : [{ x, y: gap }])),
            colour: 'mackerel',
          },
          {
            label: "printer's least gap",
            points: [
              { x: from, y: least },
              { x: to, y: least },
            ],
            colour: 'amber',
            dashed: true,
          },
          {
            label: 'here',
            points: [
              { x: position, y: 0 },
              { x: position, y: most },
            ],
            colour: 'ink',
          },
        ]}
      />
    </>
  )
}
