import type { Vec3 } from '@makrel/core/place'
import { project, useView } from './view.ts'

/** Words at a place of the drawing. */
export interface Label {
  readonly at: Vec3
  readonly text: string
}

/** Words beside their places, which stay to be seen. */
export function Labels({ labels }: { readonly labels: readonly Label[] }) {
  const view = useView()
  return labels.map((label) => {
    const at = project(view, label.at)
    if (!at) return null
    const [x, y] = at
    return (
      <svg
        key={label.text}
        width={view.width}
        height={view.height}
        aria-hidden="true"
        className="pointer-events-none absolute inset-0"
      >
        <path d={`M${x} ${y} l14 -14`} stroke="var(--color-rust)" />
        <text
          x={x + 17}
          y={y - 15}
          className="figures text-[0.9375rem]"
          fill="var(--color-rust)"
          stroke="var(--color-sheet)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {label.text}
        </text>
      </svg>
    )
  })
}
