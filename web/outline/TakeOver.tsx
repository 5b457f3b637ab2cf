import { planeOf, takenAt } from '@makrel/core/build'
import type { TakenPoint } from '@makrel/core/document'
import type { SolvedOutline } from '@makrel/core/outline'
import { dot } from '@makrel/core/place'
import { distance2, type Vec2 } from '@makrel/core/plane'
import { stepNumber } from '../make/words.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { draw, useOutline } from './state.ts'
import { toScreen } from './view.ts'

interface Offered {
  readonly label: string
  /** one point, or the two ends of an edge */
  readonly points: readonly TakenPoint[]
  readonly at: readonly Vec2[]
}

/** Corners, edges and middles of the part that can be taken over: they stay where these are. */
export function TakeOver({ solved }: { readonly solved: SolvedOutline }) {
  const part = usePart((state) => state.part!)
  const view = useOutline((state) => state.view)
  const offered = offeredBy(part, solved)
  if (offered.length === 0)
    return (
      <p className="absolute top-12 left-4 px-2 text-ink-soft">
        There is no flat face along this plane to take anything over from.
      </p>
    )
  return offered.map(({ label, points, at }) => {
    const [x, y] = toScreen(view, at.length === 1 ? at[0]! : [(at[0]![0] + at[1]![0]) / 2, (at[0]![1] + at[1]![1]) / 2])
    return (
      <button
        key={label}
        type="button"
        aria-label={`Take over ${label}`}
        title={label}
        onClick={() => takeOver(points, at, solved)}
        className={`absolute -translate-x-1/2 -translate-y-1/2 border border-mackerel bg-sheet hover:bg-mackerel ${at.length === 1 ? 'h-2.5 w-2.5 rounded-full' : 'h-2.5 w-5'}`}
        style={{ left: x, top: y }}
      />
    )
  })
}

function offeredBy(part: NonNullable<ReturnType<typeof usePart.getState>['part']>, solved: SolvedOutline): Offered[] {
  const { plan } = workedOf(part)
  const plane = planeOf(solved.outline, plan)
  if (!plane) return []
  const out: Offered[] = []
  const offer = (label: string, ...points: readonly TakenPoint[]) => {
    const at = points.map((point) => takenAt(point, plane, plan))
    // What would lie on something offered already is left out.
    if (at.includes(undefined) || out.some((other) => alike(other.at, at as Vec2[]))) return
    out.push({ label, points, at: at as Vec2[] })
  }
  for (const [step, { faces, frame }] of plan.geometry) {
    const number = stepNumber(part, step)
    for (const face of faces) {
      const n = face.frame.n
      const out3 = [0, 1, 2].map(
        (i) => frame.u[i]! * n[0] + frame.v[i]! * n[1] + frame.n[i]! * n[2],
      ) as unknown as readonly [number, number, number]
      if (face.round !== undefined || Math.abs(dot(out3, plane.n)) < 0.9999) continue
      const corner = (u: -1 | 0 | 1, v: -1 | 0 | 1): TakenPoint => ({ step, face: face.name, u, v })
      const name = (word: string) => `${word} of ${face.name} of ${number}`
      offer(name('middle'), corner(0, 0))
      for (const [u, v] of [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ] as const) {
        offer(
          name(
            `corner ${u < 0 ? face.sides.across[0] : face.sides.across[1]} ${v < 0 ? face.sides.along[0] : face.sides.along[1]}`,
          ),
          corner(u, v),
        )
      }
      offer(name(`${face.sides.along[0]} edge`), corner(-1, -1), corner(1, -1))
      offer(name(`${face.sides.along[1]} edge`), corner(-1, 1), corner(1, 1))
      offer(name(`${face.sides.across[0]} edge`), corner(-1, -1), corner(-1, 1))
      offer(name(`${face.sides.across[1]} edge`), corner(1, -1), corner(1, 1))
    }
    if (Math.abs(dot(frame.n, plane.n)) > 0.9999) offer(`axis of ${number}`, { step, face: '', u: 0, v: 0 })
  }
  return out
}

function takeOver(points: readonly TakenPoint[], at: readonly Vec2[], solved: SolvedOutline): void {
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
  })
}

/** The same point, or the same edge whichever way it is run along. */
function alike(a: readonly Vec2[], b: readonly Vec2[]): boolean {
  const meets = (order: readonly Vec2[]) =>
    a.length === order.length && a.every((p, i) => distance2(p, order[i]!) < 0.01)
  return meets(b) || meets([...b].reverse())
}
