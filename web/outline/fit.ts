import { boxOfSegment } from '@makrel/core/plane'
import { solvedNow, useOutline } from './state.ts'
import { fitted } from './view.ts'

/** All that is drawn in view. */
export function fitAll(): void {
  const solved = solvedNow()
  const curves = [...(solved?.drawnCurves.values() ?? []), ...(solved?.curves.map(({ segments }) => segments) ?? [])]
  const boxes = curves.flat().map(boxOfSegment)
  const places = solved?.outline.points.map(({ id }) => solved.points.get(id)!) ?? []
  // What is drawn about an axis shows the axis, unless it lies far off.
  const size = Math.max(...places.map(([x, y]) => Math.hypot(x, y)), 1)
  const spread = Math.max(
    ...places.flatMap((p) => places.slice(0, 50).map((q) => Math.hypot(p[0] - q[0], p[1] - q[1]))),
    1,
  )
  if (places.length > 0 && size < 3 * spread) places.push([0, 0])
  const [xs, ys] = ([0, 1] as const).map((i) => [
    ...places.map((p) => p[i]),
    ...boxes.flatMap(({ min, max }) => [min[i], max[i]]),
  ]) as [number[], number[]]
  const box =
    xs.length === 0
      ? undefined
      : ({ min: [Math.min(...xs), Math.min(...ys)], max: [Math.max(...xs), Math.max(...ys)] } as const)
  useOutline.setState(({ view }) => ({ view: fitted(view, box) }))
}
