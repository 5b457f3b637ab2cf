import fc from 'fast-check'

/** Which random cases a run tries: all of them with `npm run test:all`, else a tenth, another one each day. */

/** The day's number, or the one that MAKREL_SEED asks for: the test runner sets it, so that all of its workers have the same. */
export const seed = Number(process.env.MAKREL_SEED ?? 1)

/** Answers are always written down whole. */
const all = process.env.MAKREL_ALL === '1' || process.env.MAKREL_RECORD === '1'

/** Of `count` cases, numbered from `first`, those that this run tries, at least one: so many days in a row try each of them once. */
export function sampled(count: number, first = 1, days = 10): number[] {
  return inTurn(
    Math.min(days, count),
    Array.from({ length: count }, (_, i) => first + i),
  )
}

/** Of these cases those that this run tries. */
export function someOf<T>(cases: readonly T[]): T[] {
  return inTurn(10, cases)
}

/** Of these cases those whose day it is: all of them come round within so many days. For what is known one by one, and takes long. */
export function inTurn<T>(days: number, cases: readonly T[]): T[] {
  return cases.filter((_, i) => isTurn(i, days))
}

/** Whether what has this number has its day. */
export function isTurn(i: number, days: number): boolean {
  return all || (i + seed) % days === 0
}

/** How many random cases of `count` this run tries; at least three, since one may be lucky. */
export function runs(count: number): number {
  return all ? count : Math.min(count, Math.max(3, Math.ceil(count / 10)))
}

/** Numbers drawn evenly between two. Doubles that are drawn by their bits, as by fast-check's own, are nearly all next to nothing where that lies among them. */
export function real(min: number, max: number): fc.Arbitrary<number> {
  const steps = 2 ** 31 - 1
  return fc.integer({ min: 0, max: steps }).map((k) => min + ((max - min) * k) / steps)
}
