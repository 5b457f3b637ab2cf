import type { Part, RevisionEntry, ShelfEntry, ShelfOrder, ShelfPage } from '@makrel/core/document'
import type { KeptThing, WorkshopKind, WorkshopThings } from '@makrel/core/fits'
import { ahead } from './ahead.ts'

export class ApiError extends Error {
  readonly status: number
  readonly body: unknown
  constructor(status: number, message: string, body: unknown) {
    super(message)
    this.status = status
    this.body = body
  }
}

/** A server that has not answered by then is away, ms. */
const longestAnswer = 30_000

/** After so long a server that was too busy is asked again, ms. */
const askAgain = [500, 2000]

async function ask<T>(method: string, path: string, body?: unknown, more: RequestInit = {}): Promise<T> {
  for (const wait of askAgain) {
    try {
      return await askOnce(method, path, body, more)
    } catch (error) {
      if (!(error instanceof ApiError && error.status === tooBusy)) throw error
      await new Promise((done) => setTimeout(done, wait))
    }
  }
  return askOnce(method, path, body, more)
}

/** It changed nothing. */
const tooBusy = 503

async function askOnce<T>(method: string, path: string, body: unknown, more: RequestInit): Promise<T> {
  const early = method === 'GET' ? ahead.taken(path) : undefined
  const asked =
    early ??
    fetch(`/api${path}`, {
      method,
      ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(longestAnswer),
      ...more,
    })
  const response = await asked.catch(() => {
    throw new ApiError(0, 'The server does not answer. Is it still running?', undefined)
  })
  const data = response.status === 204 ? undefined : await response.json().catch(() => undefined)
  if (!response.ok)
    throw new ApiError(response.status, (data as { error?: string } | undefined)?.error ?? response.statusText, data)
  return data as T
}

function createApi() {
  /** Assets that the server has, by their hashes: it is sent each of them once. */
  const kept = new Set<string>()

  /** Sends a document; what the server is not known to have of it, with it. */
  const keep = async <T>(method: string, path: string, document: Part, more: object, init: RequestInit = {}) => {
    const sent = (without: ReadonlySet<string>) => ({
      ...more,
      document: {
        ...document,
        assets: document.assets.map(({ hash, name, data }) =>
          without.has(hash) ? { hash, name } : { hash, name, data },
        ),
      },
    })
    const hashes = document.assets.map(({ hash }) => hash)
    const answer = await ask<T>(method, path, sent(kept), init).catch((error: ApiError) => {
      // It has another database than it had.
      if (error.status !== 422 || !hashes.some((hash) => kept.has(hash))) throw error
      for (const hash of hashes) kept.delete(hash)
      return ask<T>(method, path, sent(new Set()), init)
    })
    for (const hash of hashes) kept.add(hash)
    return answer
  }

  return {
    list: (asked: { search: string; order: ShelfOrder; from: number; count: number }) =>
      ask<ShelfPage>(
        'GET',
        `/parts?${new URLSearchParams(Object.entries(asked).map(([key, value]) => [key, `${value}`]))}`,
      ),
    read: (id: string) => ask<{ document: Part; revision: number; updatedAt: string }>('GET', `/parts/${id}`),
    create: (document: Part) => keep<{ id: string; revision: number }>('POST', '/parts', document, {}),
    /** `keepalive` lets the last save outlive the page that sends it. */
    save: (document: Part, revision: number, keepalive = false) =>
      keep<{ revision: number; updatedAt: string }>(
        'PUT',
        `/parts/${document.id}`,
        document,
        { revision },
        { keepalive },
      ),
    revisions: (id: string) => ask<RevisionEntry[]>('GET', `/parts/${id}/revisions`),
    revision: (id: string, revision: number) => ask<{ document: Part }>('GET', `/parts/${id}/revisions/${revision}`),
    nameRevision: (id: string, revision: number, name: string) =>
      ask<void>('PUT', `/parts/${id}/revisions/${revision}`, { name }),
    things: <K extends WorkshopKind>(kind: K) => ask<KeptThing<WorkshopThings[K]>[]>('GET', `/${kind}`),
    addThing: <K extends WorkshopKind>(kind: K, thing: WorkshopThings[K]) => ask<void>('POST', `/${kind}`, { thing }),
    changeThing: <K extends WorkshopKind>(kind: K, base: number, thing: WorkshopThings[K]) =>
      ask<{ revision: number }>('PUT', `/${kind}/${thing.id}`, { base, thing }),
    removeThing: (kind: WorkshopKind, id: string) => ask<void>('DELETE', `/${kind}/${id}`),
    restoreThing: (kind: WorkshopKind, id: string) => ask<void>('POST', `/${kind}/${id}/restore`),
    remove: (id: string) => ask<void>('DELETE', `/parts/${id}`),
    restore: (id: string) => ask<void>('POST', `/parts/${id}/restore`),
    setPicture: (id: string, picture: { revision: number; size: readonly number[]; png: string }) =>
      ask<void>('PUT', `/parts/${id}/picture`, picture),
    /** A part as it is kept, whether it can be read or not. */
    rawUrl: (id: string) => `/api/parts/${id}/raw`,
    pictureUrl: ({ id, pictureRevision }: Pick<ShelfEntry, 'id' | 'pictureRevision'>) =>
      `/api/parts/${id}/picture?revision=${pictureRevision}`,
  }
}

export const api = createApi()
