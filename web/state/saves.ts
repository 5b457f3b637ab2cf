/** Saves run one after another, also past the closing of their part. */
let last: Promise<unknown> = Promise.resolve()

/** Does some saving after all that was asked for before; a failure is nobody else's. */
export function queued(saving: () => Promise<unknown>): Promise<void> {
  last = last.then(saving).catch(() => undefined)
  return allSaved()
}

/** Resolves when everything made so far is with the server, or could not be brought there. */
export async function allSaved(): Promise<void> {
  await last
}
