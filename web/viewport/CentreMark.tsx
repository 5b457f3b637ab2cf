import { useFigures } from '../state/built.ts'
import { project, useView } from './view.ts'

/** Radius of the mark, pixels. */
const radius = 9

/** The centre of mass of all pieces, as drawings mark it: a quartered disc. Shown and hidden from the title block. */
export function CentreMark() {
  const shown = useView((state) => state.centreMark)
  const view = useView()
  const centre = useFigures()?.centre
  const at = shown && centre ? project(view, centre) : undefined
  if (!at) return null
  const [x, y] = at
  const quarter = (a: number, b: number) => `M${x} ${y}h${a * radius}A${radius} ${radius} 0 0 1 ${x} ${y + b * radius}Z`
  return (
    <svg
      width={view.width}
      height={view.height}
      role="img"
      aria-label="Centre of mass"
      className="pointer-events-none absolute inset-0"
    >
      <circle cx={x} cy={y} r={radius} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="1.3" />
      <path d={quarter(1, 1) + quarter(-1, -1)} fill="var(--color-ink)" />
    </svg>
  )
}
