import { checkLimits, type Part } from '@makrel/core/document'

/** Checks of what part files may hold: 170 kB of script that no picture waits for. */
type Checks = typeof import('@makrel/core/document/checked')

let loaded: Checks | undefined
let loading: Promise<Checks> | undefined

/** Asks for them; they are there soon. Where the server is away they are asked for again the next time. */
export function checksReady(): Promise<Checks> {
  loading ??= import('@makrel/core/document/checked').then(
    (checks) => {
      loaded = checks
      return checks
    },
    (error: unknown) => {
      loading = undefined
      throw error
    },
  )
  return loading
}

/** Says that a part was looked at by whoever kept it: only what is edited of it is looked at from here on. */
export function takeForChecked(part: Part): void {
  if (loaded) loaded.takeForKeepable(part)
  else unchecked.add(part)
}
const unchecked = new Set<Part>()

/**
 * Refuses a part that could not be opened again. Until all checks are there, only what is too large for it: false says so.
 * @throws ProblemError over-limit, cannot-keep
 */
export function checkedNow(part: Part): boolean {
  if (!loaded) {
    checkLimits(part)
    return false
  }
  for (const each of unchecked) loaded.takeForKeepable(each)
  unchecked.clear()
  loaded.checkKeepable(part)
  return true
}
