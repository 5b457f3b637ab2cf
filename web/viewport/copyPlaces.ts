import type { BodyStep } from '@makrel/core/document'
import { compose, inverse } from '@makrel/core/place'
import type { StepGeometry } from '@makrel/core/planning'
import type { Point } from './handlePlaces.ts'
import { type Projection, project } from './view.ts'

/** Of more copies than this, marks would only cover the part. */
const mostMarks = 200

/** Marks nearer than this lie on one another, pixels. */
export const markSize = 20

/** Places of marks, those that would lie on an earlier one moved aside: each can be pressed. */
export function apart(places: readonly (Point | undefined)[]): (Point | undefined)[] {
  const taken: Point[] = []
  const free = ([x, y]: Point) => taken.every(([a, b]) => Math.abs(a - x) >= markSize || Math.abs(b - y) >= markSize)
  return places.map((place) => {
    if (!place) return undefined
    // Round about it, ring by ring.
    for (let ring = 0; ring < 20; ring++)
      for (let k = 0; k < Math.max(1, 8 * ring); k++) {
        const rad = ring === 0 ? 0 : (2 * Math.PI * k) / (8 * ring)
        const at: Point = [place[0] + ring * markSize * Math.cos(rad), place[1] + ring * markSize * Math.sin(rad)]
        if (!free(at)) continue
        taken.push(at)
        return at
      }
    return place
  })
}

/** Where the number of each copy stands on the screen; none where there are too many, or it is one alone. */
export function copyPlaces(
  { repeats }: BodyStep,
  { frames, frame }: StepGeometry,
  view: Projection,
): readonly (Point | undefined)[] {
  if (repeats.length === 0 || frames.length > mostMarks) return []
  // A bundle's copies are told by how its first one moves to them.
  const back = compose(inverse(frames[0]!), frame)
  return apart(
    frames.map((each, i) => {
      const at = project(view, compose(each, back).origin)
      // The original has its handle on its middle.
      return at && ([at[0], at[1] - (i === 0 ? 20 : 0)] as const)
    }),
  )
}
