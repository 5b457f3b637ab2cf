/** Work that yields where others may have a turn; what it comes to is returned. */
export type Paced<T> = Generator<void, T, void>

/** Work of less than this is not worth a turn of others, ms. */
const worthATurn = 10

/** All of it in one go. */
export function atOnce<T>(work: Paced<T>): T {
  for (;;) {
    const { done, value } = work.next()
    if (done) return value as T
  }
}

/**
 * With turns of others in between: `pause` is waited for where it yields, once some time has passed since.
 * @throws what `pause` does: the work is left there
 */
export async function withTurns<T>(work: Paced<T>, pause: () => Promise<void>): Promise<T> {
  for (let since = performance.now(); ; ) {
    const { done, value } = work.next()
    if (done) return value as T
    if (performance.now() - since < worthATurn) continue
    await pause()
    since = performance.now()
  }
}
