/** The middle of several times, ms. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  const middle = Math.floor(sorted.length / 2)
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2
}

export async function timed(work: () => unknown): Promise<number> {
  const started = performance.now()
  await work()
  return performance.now() - started
}

/** Medians of two kinds of work done in turns, so that a slow moment of the machine falls on both. */
export async function inTurns(times: number, a: () => unknown, b: () => unknown): Promise<[number, number]> {
  const [one, two]: [number[], number[]] = [[], []]
  for (let i = 0; i < times; i++) {
    one.push(await timed(a))
    two.push(await timed(b))
  }
  return [median(one), median(two)]
}

export function report(name: string, text: string, held?: boolean): void {
  console.log(`${held === undefined ? '   ' : held ? 'ok ' : 'NOT'} ${name}: ${text}`)
}
