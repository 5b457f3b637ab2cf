import { solvedNow, useOutline } from './state.ts'
import { fitted } from './view.ts'

/** All that is drawn in view. */
export function fitAll(): void {
  const solved = solvedNow()
  const places = [...(solved?.points ?? [])].flatMap(([id, at]) => (id === 'x-end' || id === 'y-end' ? [] : [at]))
  const rounds =
    solved?.outline.curves.flatMap(({ id, points, size }) =>
      size === undefined
        ? []
        : [{ at: solved.points.get(points[0]!)!, r: solved.solution.x[solved.system.sizes.get(id)!] ?? size }],
    ) ?? []
  const xs = [...places.map(([x]) => x), ...rounds.flatMap(({ at, r }) => [at[0] - r, at[0] + r])]
  const ys = [...places.map(([, y]) => y), ...rounds.flatMap(({ at, r }) => [at[1] - r, at[1] + r])]
  const drawn = solved && solved.outline.points.length > 0
  const box = drawn
    ? ({ min: [Math.min(...xs), Math.min(...ys)], max: [Math.max(...xs), Math.max(...ys)] } as const)
    : undefined
  useOutline.setState(({ view }) => ({ view: fitted(view, box) }))
}
