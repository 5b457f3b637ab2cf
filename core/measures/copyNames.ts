import { plain } from '../units/index.ts'
import type { Names, Value } from './evaluate.ts'

/**
 * The names by which the fields of a repeated step know which copy they are of: `copy` counts all copies from 1, `copies`
 * is how many there are; `copy1` is the number within the first repeat, `copy2` within the second, and so on.
 */
export function copyNumbers(counts: readonly number[], index: number): Readonly<Record<string, number>> {
  const numbers: Record<string, number> = { copy: index + 1, copies: counts.reduce((a, b) => a * b, 1) }
  let rest = index
  counts.forEach((count, i) => {
    numbers[`copy${i + 1}`] = (rest % count) + 1
    rest = Math.floor(rest / count)
  })
  return numbers
}

/** `names` with the numbers of a copy behind them; a measure of the same name goes first. `onUse` hears of each use. */
export function withCopyNumbers(
  names: Names,
  numbers: Readonly<Record<string, number>>,
  onUse: () => void = () => undefined,
): Names {
  return {
    unit: names.unit,
    resolve(name, at): Value {
      const number = Object.hasOwn(numbers, name) && !names.has(name) ? numbers[name] : undefined
      if (number === undefined) return names.resolve(name, at)
      onUse()
      // As a number that was typed: it may be a length where one is needed.
      return { number, dimension: plain, bare: true }
    },
    has: (name) => names.has(name) || Object.hasOwn(numbers, name),
  }
}
