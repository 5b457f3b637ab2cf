import type { Freedom } from '@makrel/core/mechanism'
import { useEffect, useRef, useState } from 'react'

/** How long a travel is played from one end to the other, or a period once through, s. */
const once = 3
/** How fast it is played, by the word that says so. */
export const paces = { slowly: 0.25, steadily: 1, fast: 3 } as const
export type Pace = keyof typeof paces

/** Where motion is not wanted it goes by leaps, one after so long, s. */
const leap = 0.75

/** Where a freedom stands so many seconds after it was at `start`: to and fro within its travel, or on and on where it comes back. */
export function cycleAt({ from, to, period, oneWay }: Freedom, start: number, seconds: number): number {
  if (period && !oneWay) {
    const within = (((start - from + (period * seconds) / once) % period) + period) % period
    return from + within
  }
  const long = to - from
  if (!(long > 0)) return from
  // What goes one way begins anew.
  if (oneWay) return from + ((((start - from + (long * seconds) / once) % long) + long) % long)
  const gone = (((start - from + (long * seconds) / once) % (2 * long)) + 2 * long) % (2 * long)
  return from + (gone <= long ? gone : 2 * long - gone)
}

/** Plays a freedom from where it stands, until it is stopped or another one is meant; whether it is playing, and what changes that. */
export function useCycle(
  freedom: Freedom | undefined,
  position: number,
  onPosition: (position: number) => void,
  pace: Pace,
): readonly [playing: boolean, play: (on: boolean) => void] {
  const [playing, play] = useState(false)
  const latest = useRef({ freedom, position, onPosition })
  latest.current = { freedom, position, onPosition }
  const meant = JSON.stringify(freedom)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another freedom stops it, the same one moving does not
  useEffect(() => play(false), [meant])
  useEffect(() => {
    if (!playing) return
    const start = latest.current.position
    const began = performance.now()
    const calm = window.matchMedia('(prefers-reduced-motion: reduce)').matches
    let next = 0
    let told = -1
    const step = () => {
      const seconds = (performance.now() - began) / 1000
      const at = calm ? Math.floor(seconds / leap) * leap : seconds
      const { freedom: of } = latest.current
      if (of && at !== told) latest.current.onPosition(cycleAt(of, start, paces[pace] * at))
      told = at
      next = requestAnimationFrame(step)
    }
    next = requestAnimationFrame(step)
    return () => cancelAnimationFrame(next)
  }, [playing, pace])
  return [playing, play]
}
