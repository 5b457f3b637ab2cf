import { it } from 'vitest'
import { isTurn } from './sample.ts'

/** A test that takes seconds, which comes round within so many days, by its name. */
export function itInTurn(days: number, name: string, run: () => unknown): void {
  const at = [...name].reduce((sum, letter) => sum + letter.codePointAt(0)!, 0)
  it.skipIf(!isTurn(at, days))(name, run)
}
