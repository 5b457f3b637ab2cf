import type { Ring, Scope, Solid } from '../kernel/index.ts'
import { tube } from './turned.ts'

/** A ring on a bar that it cannot leave: the head of the bar is a cone of 45°, and the hole of the ring is beveled along it. */
export interface Captive {
  readonly bar: number
  readonly outside: number
  readonly height: number
  /** how much wider the head is than the hole, per side */
  readonly hold: number
  readonly gap: number
  readonly upward: number
}

/** Radius of the hole of the ring. */
export const hole = (v: Captive) => v.bar / 2 + v.gap

/** Where the cone of the head begins: its slope keeps the gap from the bevel of the ring, square to both. */
function neck(v: Captive): number {
  return v.upward + v.height - v.hold + v.gap * (Math.SQRT2 - 1)
}

/** The top of the bar: its head is a cone as far as it holds, and then as high as half of that. */
export function top(v: Captive): number {
  return neck(v) + v.gap + v.hold + headHeight(v)
}

const headHeight = ({ hold }: Captive) => Math.max(0.6, hold / 2)

/** The bar from its foot to its head, so much wider all round. */
export function barLine(v: Captive, more: number): Ring {
  const wide = hole(v) + v.hold
  const slant = more * (Math.SQRT2 - 1)
  return [
    [v.bar / 2 + more, 0],
    [v.bar / 2 + more, neck(v) - slant],
    [wide + more, neck(v) + v.gap + v.hold - slant],
    [wide + more, top(v) + more],
  ]
}

/** The ring, the upward gap above z = 0. */
export function ringOn(scope: Scope, v: Captive, fineness: number): Solid {
  const low = v.upward
  return tube(
    scope,
    [
      [v.outside / 2, low],
      [v.outside / 2, low + v.height],
    ],
    holeLine(v),
    fineness,
  )
}

/** The hole of the ring from below to above it. */
export function holeLine(v: Captive): Ring {
  const high = v.upward + v.height
  return [
    [hole(v), v.upward - 1],
    [hole(v), high - v.hold],
    [hole(v) + v.hold + 1, high + 1],
  ]
}
