import { boxAround, boxOfSegment, distance2 } from '@makrel/core/plane'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { edgesOn } from './partEdges.ts'
import { solvedNow, useOutline } from './state.ts'
import { fitted } from './view.ts'

/** All that is drawn in view; while that is nothing, the part on whose plane it will be. */
export function fitAll(): void {
  const solved = solvedNow()
  const curves = [...(solved?.drawnCurves.values() ?? []), ...(solved?.curves.map(({ segments }) => segments) ?? [])]
  const boxes = curves.flat().map(boxOfSegment)
  const places = solved?.outline.points.map(({ id }) => solved.points.get(id)!) ?? []
  // What is drawn about an axis shows the axis, unless it lies far off.
  const drawn = boxAround(places.map((p) => ({ min: p, max: p })))
  if (drawn) {
    const { min, max } = drawn
    const far = Math.max(Math.hypot(...min), Math.hypot(...max), 1)
    if (far < 3 * Math.max(distance2(min, max), 1)) places.push([0, 0])
  }
  const { part } = usePart.getState()
  if (places.length + boxes.length === 0 && part && solved && solved.outline.on.kind !== 'bed')
    places.push(...(edgesOn(part, solved.outline.on, useBuild.getState().pieces) ?? []).flat())
  const box = boxAround([...boxes, ...places.map((p) => ({ min: p, max: p }))])
  useOutline.setState(({ view }) => ({ view: fitted(view, box), fitted: true }))
}
