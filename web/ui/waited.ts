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
