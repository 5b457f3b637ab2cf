import { add, cross, dot, norm, scaled, subtract } from '../place/index.ts'
import {
  closed,
  contactOf,
  crossing,
  type EdgeForm,
  type EdgePlace,
  far,
  noEdge,
  type Sense,
  type Station,
  startAt,
  type Way,
  wayFrom,
} from './ball.ts'
import type { Surface } from './surface.ts'

/** A bevel by a distance along each face, mm, or by one and the angle from that face, degrees. */
export type BevelSizes =
  | { readonly first: number; readonly second: number }
  | { readonly first: number; readonly angle: number }

/** A bevel along edges; its first size is meant of the more level face, or of the steeper one. */
export function bevelForm(sizes: BevelSizes, steepFirst = false): EdgeForm {
  return {
    corners: 'mitre',
    flats: () => 1,
    // Of two sizes it would have to be told which is meant of the face.
    level: (scale) =>
      'second' in sizes && sizes.first === sizes.second
        ? [
            { in: scale * sizes.first, under: 0 },
            { in: 0, under: scale * sizes.first },
          ]
        : undefined,
    at: (surface, place, sense, { scale, firstLeft }) =>
      bevelAt(surface, place, sense, scaledSizes(sizes, scale), firstLeft !== steepFirst),
  }
}

function scaledSizes(sizes: BevelSizes, scale: number): BevelSizes {
  return 'second' in sizes
    ? { first: sizes.first * scale, second: sizes.second * scale }
    : { first: sizes.first * scale, angle: sizes.angle }
}

/** The bevel at a place of an edge, measured along both surfaces across it. */
function bevelAt(
  surface: Surface,
  place: EdgePlace,
  sense: Sense,
  sizes: BevelSizes,
  firstLeft: boolean,
): Station | undefined {
  const starts = { left: startAt(surface, place, 'left'), right: startAt(surface, place, 'right') }
  const across = scaled(cross(starts.left.normal, starts.right.normal), sense)
  const turn = norm(across)
  if (turn < noEdge || dot(across, place.direction) <= 0)
    return closed(starts.left, starts.right, surface, place, sizes.first)
  const along = scaled(across, 1 / turn)
  const way = (side: 'left' | 'right', reach: number) =>
    wayFrom(surface, place, side, starts[side], { along, offset: 0, turn: side }, reach)
  const [first, second] = firstLeft ? (['left', 'right'] as const) : (['right', 'left'] as const)
  const one = way(first, sizes.first)
  const onOne = contactOf(one, placeAtLength(one, sizes.first), sense)
  let other: Way
  let at: number | undefined
  if ('second' in sizes) {
    other = way(second, sizes.second)
    at = placeAtLength(other, sizes.second)
  } else {
    const rad = (sizes.angle * Math.PI) / 180
    const back = first === 'left' ? cross(along, onOne.normal) : cross(onOne.normal, along)
    const down = add(scaled(back, Math.cos(rad)), scaled(onOne.normal, -sense * Math.sin(rad)))
    const line: Way = {
      walk: { steps: [{ on: onOne.at, under: onOne.at, normal: onOne.normal }], end: 0 },
      onwards: down,
      face: -1,
    }
    // As far as a bevel of this angle can go at all.
    other = way(second, 20 * sizes.first)
    at = crossing(line, other, along)?.second
  }
  if (at === undefined) return undefined
  const onOther = contactOf(other, at, sense)
  const [left, right] = firstLeft ? [onOne, onOther] : [onOther, onOne]
  const centre = scaled(add(left.at, right.at), 1 / 2)
  return { edge: starts.left.edge, along, centre, radius: norm(subtract(left.at, right.at)) / 2, left, right }
}

/** The place on a way that is so far along it: the number of its step, and the share of the next one. */
function placeAtLength({ walk: { steps, end } }: Way, length: number): number {
  let rest = length
  for (let i = 0; i + 1 < steps.length; i++) {
    const size = norm(subtract(steps[i + 1]!.under, steps[i]!.under))
    if (rest <= size) return i + rest / size
    rest -= size
  }
  return steps.length - 1 + (end < 0 ? 0 : rest / far)
}
