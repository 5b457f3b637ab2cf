import type { Family, Item } from './define.ts'

/**
 * A body of an item about the z axis: turned from a closed profile of radius and height, or straight over a closed ring. Rings and
 * profiles run counter-clockwise; mm.
 */
export type ItemBody =
  | { readonly kind: 'turned'; readonly profile: readonly (readonly [radius: number, z: number])[] }
  | {
      readonly kind: 'straight'
      readonly ring: readonly (readonly [number, number])[]
      readonly low: number
      readonly high: number
    }

export interface BodyOptions {
  /** of screws, set screws and pins, which come in many lengths; mm */
  readonly length?: number | undefined
  /** smaller all round by this, mm: to ask whether it goes in */
  readonly less?: number | undefined
}

/**
 * An item in its true sizes, its upper end at z = 0, from where it goes in downwards. Bores of nuts and bearings are left open; threads
 * are drawn at their diameter.
 */
export function itemBodies({ family, sizes }: Item, { length = 10, less = 0 }: BodyOptions = {}): readonly ItemBody[] {
  const { thread = 0, head, headHeight = 0, flats, height = 0, bore = 0, outside, diameter = 0, hole } = sizes
  const round = (across: number, low: number, high: number, inner = 0): ItemBody =>
    turned([
      [inner > 0 ? inner / 2 + less : 0, low + less],
      [across / 2 - less, low + less],
      [across / 2 - less, high - less],
      [inner > 0 ? inner / 2 + less : 0, high - less],
    ])
  switch (family.kind) {
    case 'screw': {
      if (family.isCountersunk)
        return [
          turned([
            [0, -length + less],
            [thread / 2 - less, -length + less],
            [thread / 2 - less, -headHeight],
            [head! / 2 - 1.5 * less, -less],
            [0, -less],
          ]),
        ]
      const shank = round(thread, -headHeight - length, -headHeight + 2 * less)
      return [head === undefined ? hexagon(flats!, -headHeight, 0, less) : round(head, -headHeight, 0), shank]
    }
    case 'set screw':
      return [round(thread, -length, 0)]
    case 'nut':
      return [polygon(sidesOf(family), flats!, -height, 0, less)]
    case 'pin':
      return head === undefined
        ? [round(diameter, -length, 0)]
        : [round(head, -headHeight, 0), round(diameter, -headHeight - length, -headHeight + 2 * less)]
    case 'insert':
      // It melts its way in: what has to be free is the hole that is told for it.
      return [round(less > 0 ? hole! : outside!, -height, 0, less > 0 ? 0 : thread)]
    case 'magnet':
      return [round(diameter, -height, 0, bore)]
    case 'washer':
      return [round(outside!, -height, 0, bore)]
    case 'bearing': {
      const own = round(outside!, -height, 0, bore)
      return sizes.flange ? [own, round(sizes.flange, -sizes.flangeHeight!, 0, outside)] : [own]
    }
    default:
      return []
  }
}

/** How many flats a nut has. */
export function sidesOf({ isSquare }: Family): number {
  return isSquare ? 4 : 6
}

const turned = (profile: readonly (readonly [number, number])[]): ItemBody => ({ kind: 'turned', profile })

const hexagon = (flats: number, low: number, high: number, less: number) => polygon(6, flats, low, high, less)

function polygon(sides: number, flats: number, low: number, high: number, less: number): ItemBody {
  const corner = (flats / 2 - less) / Math.cos(Math.PI / sides)
  // As pockets for nuts are: two flats run from left to right.
  const from = sides === 4 ? Math.PI / 4 : 0
  return {
    kind: 'straight',
    ring: Array.from({ length: sides }, (_, i) => {
      const at = from + (2 * Math.PI * i) / sides
      return [corner * Math.cos(at), corner * Math.sin(at)] as const
    }),
    low: low + less,
    high: high - less,
  }
}

/** How far a body reaches from its axis, mm. */
export function reachOf(body: ItemBody): number {
  return body.kind === 'turned'
    ? Math.max(...body.profile.map(([r]) => r))
    : Math.max(...body.ring.map(([x, y]) => Math.hypot(x, y)))
}

/** Room about the axis that its tool needs above it, as a diameter, mm: undefined where none is put on it. */
export function toolAcross({ family, sizes }: Item): number | undefined {
  if (family.kind === 'set screw') return sizes.key && keyAcross(sizes.key)
  if (family.kind !== 'screw') return undefined
  // A socket wrench goes over a hexagon, a key or a bit into a head.
  if (sizes.flats) return wrench * sizes.flats
  return sizes.key ? keyAcross(sizes.key) : sizes.head! / 2
}

/** A socket wrench is so many times as wide as the hexagon that it goes over: a rule of thumb. */
export const wrench = 1.5
/** Across the corners of its hexagon. */
const keyAcross = (key: number) => (2 * key) / Math.sqrt(3)
