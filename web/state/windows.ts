import { newId } from '../ids.ts'

/**
 * This window's own name. It outlives a reload; a window that was copied from another one gets a name of its own. As long
 * as the window is open it holds a lock of that name, so that others can tell whether it still is.
 */
export const thisWindow: Promise<string> = Promise.resolve().then(named)

const kept = 'makrel-window'
const lockOf = (name: string) => `${kept}-${name}`

/** How long the page before a reload may take to let go of its name, on a machine that is busy, ms. */
const lettingGo = 3000

async function named(): Promise<string> {
  const before = stored()
  const name = before !== undefined && (await locked(before, lettingGo)) ? before : newId()
  if (name !== before) {
    await locked(name)
    store(name)
  }
  return name
}

/** Away from this machine, and without encryption, a browser has no locks. */
const locks = globalThis.navigator?.locks as LockManager | undefined

/** A name that this window has beside its own from now on. */
export async function furtherName(): Promise<string> {
  const name = newId()
  await locked(name)
  return name
}

/** Takes the lock for as long as the window is open; false where another window has it, and keeps it for so long, ms. */
function locked(name: string, patience = 0): Promise<boolean> {
  if (!locks) return Promise.resolve(true)
  const late = new AbortController()
  const options = patience > 0 ? { signal: late.signal } : { ifAvailable: true }
  return new Promise((done) => {
    locks
      .request(lockOf(name), options, (lock) => {
        done(lock !== null)
        return lock ? new Promise(() => undefined) : undefined
      })
      .catch(() => done(false))
    // A page that was busy all the while may have been given it without knowing yet: it hears of that before it is answered.
    const giveUp = () => late.abort()
    if (patience > 0) setTimeout(() => void locks.query().then(giveUp, giveUp), patience)
  })
}

/** The names of all windows that are open. */
export async function openWindows(): Promise<ReadonlySet<string>> {
  const own = await thisWindow
  if (!locks) return new Set([own])
  const { held: all = [] } = await locks.query()
  const prefix = lockOf('')
  return new Set([own, ...all.flatMap(({ name }) => (name?.startsWith(prefix) ? [name.slice(prefix.length)] : []))])
}

function stored(): string | undefined {
  try {
    return sessionStorage.getItem(kept) ?? undefined
  } catch {
    return undefined
  }
}
function store(name: string): void {
  try {
    sessionStorage.setItem(kept, name)
  } catch {
    // Without it, a reload counts as another window.
  }
}
