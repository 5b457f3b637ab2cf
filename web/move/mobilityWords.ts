import type { Mobility } from '@makrel/core/mechanism'

/** "One free move. Its loop is held three times over: …" */
export function mobilityWords({ free, locked, overHeld }: Mobility): string {
  const moves = free === 0 ? 'Nothing can move.' : free === 1 ? 'One free move in all.' : `${free} free moves in all.`
  const stuck =
    free > 0 && locked.length > 0
      ? ` ${locked.length === 1 ? 'One joint is' : `${locked.length} of them are`} locked by a loop.`
      : ''
  const over =
    overHeld > 0
      ? ` Over-constrained by ${overHeld === 1 ? 'one' : overHeld}: what its loops share, such as parallel pins, has to be exact.`
      : ''
  return `${moves}${stuck}${over}`
}
