import { planeOf, type TakenOffer, takenOffers } from '@makrel/core/build'
import type { SolvedOutline } from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import { stepNumber } from '../make/words.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { draw, useOutline } from './state.ts'
import { toScreen } from './view.ts'

/** Corners, edges and middles of the part that can be taken over: they stay where these are. */
export function TakeOver({ solved }: { readonly solved: SolvedOutline }) {
  const part = usePart((state) => state.part!)
  const view = useOutline((state) => state.view)
  const { plan } = workedOf(part)
  const plane = planeOf(solved.outline, plan)
  const offered = plane ? takenOffers(plane, plan) : []
  if (offered.length === 0)
    return (
      <p className="absolute top-12 left-4 px-2 text-ink-soft">
        There is no flat face along this plane to take anything over from.
      </p>
    )
  return offered.map((offer) => {
    const { step, what, at, radius } = offer
    const label = `${what} of ${stepNumber(part, step)}`
    const [x, y] = toScreen(view, markOf(offer))
    return (
      <button
        key={label}
        type="button"
        aria-label={`Take over ${label}`}
        title={label}
        onClick={() => takeOver(offer, solved)}
        className={`absolute -translate-x-1/2 -translate-y-1/2 border border-mackerel bg-sheet hover:bg-mackerel ${at.length > 1 || radius !== undefined ? 'h-2.5 w-5' : 'h-2.5 w-2.5'} ${at.length > 1 ? '' : 'rounded-full'}`}
        style={{ left: x, top: y }}
      />
    )
  })
}

/** A point is marked where it lies, an edge in its middle, a round on its rim. */
function markOf({ at, radius }: TakenOffer): Vec2 {
  const [a, b = a] = at as readonly [Vec2, Vec2?]
  return radius === undefined
    ? [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
    : [a[0] + radius * Math.SQRT1_2, a[1] + radius * Math.SQRT1_2]
}

function takeOver({ points, at, round, radius }: TakenOffer, solved: SolvedOutline): void {
  draw((sketch) => {
    const ids = points.map((taken, i) => {
      const same = sketch.outline.points.find((point) => JSON.stringify(point.taken) === JSON.stringify(taken))
      if (same) return same.id
      const id = sketch.point({ at: at[i]! })
      sketch.outline = {
        ...sketch.outline,
        points: sketch.outline.points.map((point) => (point.id === id ? { ...point, taken } : point)),
      }
      return id
    })
    if (ids.length === 2 && !solved.outline.curves.some(({ points: own }) => own[0] === ids[0] && own[1] === ids[1]))
      sketch.curve('line', ids, { helper: true })
    if (round && radius !== undefined) sketch.curve('circle', ids, { helper: true, size: radius, taken: round })
  })
}
