import { allSteps, currentVersion, type Part } from '@makrel/core/document'
import { attempt } from '@makrel/core/problems'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { checksReady } from './checks.ts'
import { allLeftBehind, type Head, type LeftBehind, leaveBehind, leftNoMore } from './leftBehind.ts'
import { furtherName, openWindows, thisWindow } from './windows.ts'

/** A part as a window has it: what it shows, the way there and back, and how far the server has it. */
export interface Trail {
  /** the revision of the server that the next save goes on from */
  readonly base: number
  readonly now: Part
  readonly past: readonly Part[]
  readonly future: readonly Part[]
  /** whether the server has not kept `now` yet */
  readonly unsent: boolean
  /** states that were sent on `base` and never answered: the server may have one of them */
  readonly asked: readonly Part[]
}

/** A trail of a window that is not open any more, or of this one before it was loaded again. */
export interface FoundTrail extends Trail {
  readonly key: string
  readonly part: string
}

/** So many states before and behind the present one are kept, and fewer where they are large. */
const [farthest, nearest, mostBytes] = [60, 5, 30_000_000]
/** What the server has is let go after so many days, and all but the latest so many parts. */
const longestDays = 30
const mostParts = 40
/** Edits that follow one another faster are written together, ms; whoever leaves the page does not wait for it. */
const together = 150

/** Until then the browser must have opened what it keeps, ms; a machine that is busy takes seconds. */
const longestWait = 15_000

interface Row extends Head {
  readonly unsent: boolean
  readonly now: number
  readonly past: readonly number[]
  readonly future: readonly number[]
  readonly asked: readonly number[]
}
interface Schema extends DBSchema {
  trails: { key: string; value: Row }
  states: { key: [string, number]; value: Part }
  /** pictures and meshes of a trail's states, by their hashes: these are written without */
  assets: { key: [string, string]; value: string }
}

/** Which states of a part are written, and under which number. */
interface Written {
  readonly numbers: Map<Part, number>
  readonly assets: Set<string>
  next: number
}

/** What the browser keeps of parts, as this window has them. */
export class Trails {
  #database: IDBPDatabase<Schema> | undefined
  #window = ''
  #opening: Promise<void> | undefined
  /** trails that are to be written */
  readonly #waiting = new Map<string, Trail>()
  readonly #written = new Map<string, Written>()
  /** those that are being written */
  readonly #underWay = new Map<string, Trail>()
  #timer: ReturnType<typeof setTimeout> | undefined

  /** Opens what the browser keeps of parts. Without it (a private window, no room) everything else goes on. */
  open(): Promise<void> {
    let late = false
    const opened = async () => {
      const name = await thisWindow
      const ready = await openDB<Schema>('makrel', 2, {
        upgrade(made, before) {
          if (before < 1) {
            made.createObjectStore('trails', { keyPath: 'key' })
            made.createObjectStore('states')
          }
          made.createObjectStore('assets')
        },
        terminated: () => this.#closed(),
      })
      // What was not read is not written over: whoever went on without it goes on as another window.
      this.#window = late ? await furtherName() : name
      this.#database = ready
      this.flush()
      await tidied(ready)
    }
    // Where it does not answer, nobody waits for it.
    const given = () =>
      new Promise<void>((go) =>
        setTimeout(() => {
          late = true
          go()
        }, longestWait),
      )
    this.#opening ??= Promise.race([opened().catch(() => undefined), given()])
    return this.#opening
  }

  /** As when the browser is closed. */
  async close(): Promise<void> {
    await this.open()
    this.flush()
    this.#database?.close()
    this.#closed()
    this.#waiting.clear()
  }

  #closed(): void {
    this.#database = undefined
    this.#opening = undefined
    // Where the browser took it away, what was written in it may be gone.
    this.#written.clear()
  }

  /** Keeps a part as this window has it, a moment later. */
  keep(trail: Trail): void {
    this.#waiting.set(trail.now.id, trail)
    if (!this.#database) void this.open()
    this.#timer ??= setTimeout(() => this.flush(), together)
  }

  /**
   * Writes what waits as the page is left. A tab that is closed in the same moment may take the database's work with it: what is not known
   * to be written is left where that needs no waiting.
   */
  leave(): void {
    const left = new Map([...this.#underWay, ...this.#waiting])
    this.flush()
    if (!this.#window) return
    for (const [part, { base, now, unsent }] of left)
      if (unsent)
        leaveBehind({
          ...{ key: `${part} ${this.#window}`, part, window: this.#window, version: currentVersion },
          ...{ at: Date.now(), base, now: bare(now) },
        })
  }

  /** Writes what waits, without waiting itself. */
  flush(): void {
    clearTimeout(this.#timer)
    this.#timer = undefined
    if (!this.#database) return
    for (const [part, trail] of this.#waiting) {
      try {
        this.#write(this.#database, part, trail)
      } catch {
        // There is no room, or the browser has taken its database away; the page itself still has everything.
      }
    }
    this.#waiting.clear()
  }

  #write(to: IDBPDatabase<Schema>, part: string, trail: Trail): void {
    const { base, now, past, future, unsent, asked } = trail
    const key = `${part} ${this.#window}`
    const known = this.#written.get(part) ?? {
      numbers: new Map<Part, number>(),
      assets: new Set<string>(),
      next: Date.now(),
    }
    const transaction = to.transaction(['trails', 'states', 'assets'], 'readwrite')
    // What cannot be written is told by the transaction as a whole; all is written anew next time.
    const sent = (request: Promise<unknown>) => void request.catch(() => undefined)
    this.#underWay.set(part, trail)
    transaction.done.then(
      () => {
        if (this.#underWay.get(part) !== trail) return
        this.#underWay.delete(part)
        leftNoMore(key)
      },
      () => this.#written.delete(part),
    )
    const states = transaction.objectStore('states')
    // Nothing that was written before this page was loaded is gone on with.
    const assets = transaction.objectStore('assets')
    if (!this.#written.has(part))
      for (const store of [states, assets]) sent(store.delete(IDBKeyRange.bound([key], [key, []])))
    const numbers = new Map<Part, number>()
    const numberOf = (state: Part) => {
      let number = numbers.get(state) ?? known.numbers.get(state)
      if (number === undefined) {
        number = known.next++
        sent(states.put(bare(state), [key, number]))
        for (const { hash, data } of state.assets) {
          if (known.assets.has(hash)) continue
          known.assets.add(hash)
          sent(assets.put(data, [key, hash]))
        }
      }
      numbers.set(state, number)
      return number
    }
    const far = Math.round(Math.min(farthest, Math.max(nearest, mostBytes / roughBytes(now))))
    const row: Row = {
      ...{ key, part, window: this.#window, version: currentVersion, at: Date.now(), base, unsent },
      now: numberOf(now),
      past: past.slice(-far).map(numberOf),
      future: future.slice(0, far).map(numberOf),
      asked: asked.map(numberOf),
    }
    for (const [state, number] of known.numbers) if (!numbers.has(state)) sent(states.delete([key, number]))
    known.numbers.clear()
    for (const entry of numbers) known.numbers.set(...entry)
    sent(transaction.objectStore('trails').put(row))
    this.#written.set(part, known)
    // At once: a transaction that is left open is taken back where the page is left.
    transaction.commit()
  }

  /** What the browser keeps of a part and no other open window has: this window's own first, then the latest. */
  async of(part: string): Promise<FoundTrail[]> {
    const own = (row: Row) => Number(row.window === this.#window)
    return this.#found((rows) =>
      rows
        .filter((row) => row.part === part)
        .sort((a, b) => own(b) - own(a) || Number(b.unsent) - Number(a.unsent) || b.at - a.at),
    )
  }

  /** What the server has not got yet of parts that no other window has open, the oldest first. */
  async unsent(): Promise<FoundTrail[]> {
    return this.#found((rows) => rows.filter(({ unsent }) => unsent).sort((a, b) => a.at - b.at))
  }

  async #found(pick: (rows: Row[]) => Row[]): Promise<FoundTrail[]> {
    await this.open()
    if (!this.#database) return []
    try {
      this.flush()
      const open = await openWindows()
      const isFree = ({ window }: Pick<Row, 'window'>) => window === this.#window || !open.has(window)
      const left = allLeftBehind().filter(isFree)
      const rows = new Map((await this.#database.getAll('trails')).filter(isFree).map((row) => [row.key, row]))
      // What was left behind is later than what is written, or the only thing there is.
      for (const { now: _, ...row } of left)
        if (!((rows.get(row.key)?.at ?? 0) > row.at))
          rows.set(row.key, { ...nothingWritten, ...rows.get(row.key), ...row, unsent: true })
      const all: FoundTrail[] = []
      for (const row of pick([...rows.values()])) {
        const later = left.find(({ key, at }) => key === row.key && at === row.at)
        const trail = later ? await withLeft(this.#database, row, later) : await loaded(this.#database, row)
        if (trail) all.push(trail)
      }
      return all
    } catch {
      return []
    }
  }

  /** The server has a state of it now, as `revision`. */
  async sent({ key, part }: FoundTrail, revision: number): Promise<void> {
    const own = key === `${part} ${this.#window}`
    if (!(own && this.#waiting.has(part))) leftNoMore(key)
    const row = await this.#database?.get('trails', key)
    if (row && !(own && this.#waiting.has(part)))
      await this.#database?.put('trails', { ...row, unsent: false, base: revision, asked: [] })
  }

  /** It is held by this window now, or by a part of its own. */
  async forget({ key, part }: Pick<FoundTrail, 'key' | 'part'>): Promise<void> {
    if (key === `${part} ${this.#window}`) return
    leftNoMore(key)
    if (this.#database) await removed(this.#database, key).catch(() => undefined)
  }
}

export const trails = new Trails()

/** A state without the data of its assets. */
function bare(state: Part): Part {
  if (state.assets.length === 0) return state
  return { ...state, assets: state.assets.map((asset) => ({ ...asset, data: '' })) }
}

/** About how much room a state takes. */
function roughBytes(part: Part): number {
  const drawn = part.outlines.reduce(
    (sum, { points, curves, constraints }) => sum + 150 * (points.length + curves.length + constraints.length),
    0,
  )
  return 2000 + 700 * allSteps(part).length + drawn
}

async function loaded(from: IDBPDatabase<Schema>, row: Row): Promise<FoundTrail | undefined> {
  const { key, part, base, unsent, version } = row
  const transaction = from.transaction(['states', 'assets'])
  const stored = new Map<string, Promise<string | undefined>>()
  const dataOf = (hash: string) => {
    const found = stored.get(hash) ?? transaction.objectStore('assets').get([key, hash])
    stored.set(hash, found)
    return found
  }
  const whole = async (state: Part | undefined): Promise<Part | undefined> => {
    // One of an earlier version has none.
    if (!state?.assets?.length) return state
    const assets = await Promise.all(
      state.assets.map(async (asset) => ({ ...asset, data: asset.data || ((await dataOf(asset.hash)) ?? '') })),
    )
    return { ...state, assets }
  }
  const all = (numbers: readonly number[]) =>
    Promise.all(numbers.map(async (number) => whole(await transaction.objectStore('states').get([key, number]))))
  const [[kept], past, future, asked] = await Promise.all([
    all([row.now]),
    all(row.past),
    all(row.future),
    all(row.asked),
  ])
  // Where they cannot be had, what this very version has kept is taken as it is: nothing that was not sent is lost.
  const checks = await checksReady().catch(() => undefined)
  if (!checks && (version !== currentVersion || !kept)) return undefined
  const now = attempt([], () => checks?.checkedPart(kept) ?? (kept as Part))
  if (!now.ok || now.value.id !== part) return undefined
  // What an earlier version of the program has kept is brought up to date; the way there is let go.
  const sound = (states: readonly (Part | undefined)[]) =>
    version === currentVersion && states.every((state) => state !== undefined) ? (states as Part[]) : []
  return { key, part, base, unsent, now: now.value, past: sound(past), future: sound(future), asked: sound(asked) }
}

/** Of a trail that is only left behind. */
const nothingWritten = { now: -1, past: [], future: [], asked: [] } as const

/** A trail with the state that was left behind as its last one. */
async function withLeft(from: IDBPDatabase<Schema>, row: Row, left: LeftBehind): Promise<FoundTrail | undefined> {
  const { key, part, base } = left
  const checks = await checksReady().catch(() => undefined)
  const written = row.now < 0 ? undefined : await loaded(from, row)
  const data = new Map((written?.now.assets ?? []).map((asset) => [asset.hash, asset.data]))
  const assets = left.now.assets.map((asset) => ({ ...asset, data: data.get(asset.hash) ?? '' }))
  // Without its pictures and meshes it would be another part.
  if ((!checks && left.version !== currentVersion) || assets.some((asset) => !asset.data)) return written
  const now = attempt([], () => checks?.checkedPart({ ...left.now, assets }) ?? { ...left.now, assets })
  if (!now.ok || now.value.id !== part) return written
  const own = { key, part, base, unsent: true, now: now.value }
  if (!written) return { ...own, past: [], future: [], asked: [] }
  if (JSON.stringify(written.now) === JSON.stringify(now.value)) return { ...written, unsent: true }
  return { ...own, past: [...written.past, written.now], future: [], asked: written.asked }
}

async function removed(from: IDBPDatabase<Schema>, key: string): Promise<void> {
  const transaction = from.transaction(['trails', 'states', 'assets'], 'readwrite')
  await transaction.objectStore('states').delete(IDBKeyRange.bound([key], [key, []]))
  await transaction.objectStore('assets').delete(IDBKeyRange.bound([key], [key, []]))
  await transaction.objectStore('trails').delete(key)
  await transaction.done
}

/** Lets go what the server has and nobody has looked at for long, and states that no trail leads to. */
async function tidied(of: IDBPDatabase<Schema>): Promise<void> {
  const open = await openWindows()
  const rows = (await of.getAll('trails')).filter(({ window, unsent }) => !unsent && !open.has(window))
  rows.sort((a, b) => b.at - a.at)
  const oldest = Date.now() - longestDays * 86_400_000
  for (const [i, { key, at }] of rows.entries()) if (i >= mostParts || at < oldest) await removed(of, key)
}
