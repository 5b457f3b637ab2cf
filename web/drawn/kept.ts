import type { Part } from '@makrel/core/document'
import { contentText } from '@makrel/core/document/content'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'

/** A picture of a drawing as it is when its part is opened, and where on the page it was. */
export interface KeptPicture {
  readonly image: Blob
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
  /** of the whole window, and of its pixels: another one shows it elsewhere */
  readonly window: string
}

interface Row {
  readonly key: string
  /** when it was used last, ms */
  readonly at: number
  readonly bytes: number
}
interface Schema extends DBSchema {
  rows: { key: string; value: Row; indexes: { at: number } }
  pictures: { key: string; value: KeptPicture }
  drawings: { key: string; value: Uint8Array<ArrayBuffer> }
}

/** So much is kept, bytes; what was used least lately goes first. */
const mostBytes = 80_000_000

/** Set when the application is built: what another version has drawn is not shown as if this one had. */
declare const __VERSION_BUILT__: string | undefined
export const built = typeof __VERSION_BUILT__ === 'string' ? __VERSION_BUILT__ : 'not built'

/**
 * What all that is drawn of a part follows from, in a few letters.
 * @throws TypeError where the browser sums nothing up, as on a page that came over the network without encryption
 */
export async function contentSum(part: Part): Promise<string> {
  const bytes = new TextEncoder().encode(contentText(part))
  const sum = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))
  return Array.from(sum, (each) => each.toString(16).padStart(2, '0')).join('')
}

/** The same, as this version draws it. */
export async function contentKey(part: Part): Promise<string> {
  return `${built} ${await contentSum(part)}`
}

/** How large the window is: a picture fits there only. */
export function windowNow(): string {
  return `${innerWidth} ${innerHeight} ${devicePixelRatio}`
}

/** Which parts were drawn lately, by their ids: known at once, before the browser has opened anything. */
const drawnName = 'makrel drawn'
const mostNames = 200
const names = (): string[] => {
  try {
    return JSON.parse(localStorage.getItem(drawnName) ?? '[]') as string[]
  } catch {
    return []
  }
}
export const wasDrawnHere = (part: string) => names().includes(part)
function noteDrawn(part: string): void {
  try {
    localStorage.setItem(
      drawnName,
      JSON.stringify([part, ...names().filter((other) => other !== part)].slice(0, mostNames)),
    )
  } catch {
    // Without room for it, the part is opened as if for the first time.
  }
}

/** What was drawn last of parts, kept in the browser by their content. Without room for it everything else goes on. */
export class KeptDrawings {
  #opening: Promise<IDBPDatabase<Schema> | undefined> | undefined

  picture(key: string): Promise<KeptPicture | undefined> {
    return this.with((database) => database.get('pictures', key))
  }

  async drawing(key: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return this.with(async (database) => {
      const row = await database.get('rows', key)
      if (row) await database.put('rows', { ...row, at: Date.now() })
      return database.get('drawings', key)
    })
  }

  async has(key: string): Promise<boolean> {
    return (await this.with((database) => database.getKey('rows', key))) !== undefined
  }

  async keep(
    part: string,
    key: string,
    drawing: Uint8Array<ArrayBuffer>,
    picture: KeptPicture | undefined,
  ): Promise<void> {
    noteDrawn(part)
    const bytes = drawing.length + (picture?.image.size ?? 0)
    await this.with(async (database) => {
      const writing = database.transaction(['rows', 'pictures', 'drawings'], 'readwrite')
      const rows = writing.objectStore('rows')
      await rows.put({ key, at: Date.now(), bytes })
      await writing.objectStore('drawings').put(drawing, key)
      if (picture) await writing.objectStore('pictures').put(picture, key)
      let left = (await rows.getAll()).reduce((sum, row) => sum + row.bytes, 0)
      for (let row = await rows.index('at').openCursor(); row && left > mostBytes; row = await row.continue()) {
        left -= row.value.bytes
        for (const store of ['pictures', 'drawings'] as const) await writing.objectStore(store).delete(row.value.key)
        await row.delete()
      }
      await writing.done
    })
  }

  /** Undefined where the browser keeps nothing, or is out of room. */
  private async with<T>(work: (database: IDBPDatabase<Schema>) => Promise<T>): Promise<T | undefined> {
    this.#opening ??= opened().catch(() => undefined)
    const database = await this.#opening
    return database && work(database).catch(() => undefined)
  }
}

/** A browser that keeps nothing at all says so at once. */
async function opened(): Promise<IDBPDatabase<Schema>> {
  return openDB<Schema>('makrel-drawn', 1, {
    upgrade(made) {
      made.createObjectStore('rows', { keyPath: 'key' }).createIndex('at', 'at')
      made.createObjectStore('pictures')
      made.createObjectStore('drawings')
    },
  })
}

export const keptDrawings = new KeptDrawings()
