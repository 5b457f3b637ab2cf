import { usePointed } from './pointed.ts'
import { project, useView } from './view.ts'

/** The edge that a sentence names, over the drawing. */
export function PointedEdge() {
  const pointed = usePointed((state) => state.pointed)
  const view = useView()
  if (pointed?.kind !== 'edge') return null
  const [from, to] = pointed.ends.map((end) => project(view, end))
  if (!from || !to) return null
  return (
    <svg
      width={view.width}
      height={view.height}
      role="img"
      aria-label="The edge that is meant"
      className="pointer-events-none absolute inset-0"
    >
      <line
        x1={from[0]}
        y1={from[1]}
        x2={to[0]}
        y2={to[1]}
        stroke="var(--color-mackerel)"
        strokeWidth="4"
        strokeLinecap="round"
      />
    </svg>
  )
}
