export const waited = (ms: number) => new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), ms))

/** A window that is not seen paints nothing, ms. */
const longestUnseen = 300

/** Resolves when what has changed by now is on the screen. */
export function painted(): Promise<undefined> {
  const frame = () => new Promise<unknown>((resolve) => requestAnimationFrame(resolve))
  return Promise.race([
    frame()
      .then(frame)
      .then(() => waited(0)),
    waited(longestUnseen),
  ])
}

/** Lets what waits for its turn go first, without the delay that browsers give to timers. */
export function nextTask(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      resolve()
    }
    port2.postMessage(0)
  })
}
