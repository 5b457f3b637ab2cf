import { checkedPart, readPartFile, SoundThings } from '@makrel/core/document'
import { ProblemError } from '@makrel/core/problems'
import { type Answer, answer } from '@makrel/threads'
import Joi from 'joi'
import { type KeptPart, keptPart } from './kept.ts'

/** Assets that a document names by their hashes, without what they are. */
export interface Needing {
  readonly needs: readonly string[]
}

/** What a request to keep a part holds. */
export interface Sent {
  /** the revision that it was made from; 0 for a new part */
  readonly base: number
  readonly part: KeptPart
}

const fresh = Joi.object({ document: Joi.object().required() })
const saved = fresh.keys({ revision: Joi.number().integer().min(1).required() })
const sound = new SoundThings()

/** Data of assets that came with documents, the latest last: who saves again and again sends them once. */
const assets = new Map<string, string>()
const mostCharacters = 60_000_000

/** The body of a request that keeps a part. `known`: data of assets that it has without. */
export function sent(input: {
  bytes: Uint8Array
  fresh: boolean
  known: Readonly<Record<string, string>>
}): Answer<Sent | Needing> {
  const raw = answer(() => parsed(new TextDecoder().decode(input.bytes)))
  if ('fault' in raw) return raw
  const { error, value } = (input.fresh ? fresh : saved).validate(raw.value, { errors: { wrap: { label: false } } })
  if (error) return { fault: error.message }
  const { revision = 0, document } = value as { revision?: number; document: unknown }
  const needs = filled(document, input.known)
  if (needs.length > 0) return { value: { needs } }
  return answer(() => {
    const part = checkedPart(document, sound)
    // Only now it is known that each is what its hash says.
    for (const { hash, data } of part.assets) remember(hash, data)
    return { base: revision, part: keptPart(part) }
  })
}

/** Puts data to assets that came without; those that are not known. */
function filled(document: unknown, known: Readonly<Record<string, string>>): string[] {
  const list = (document as { assets?: unknown }).assets
  if (!Array.isArray(list)) return []
  return list.flatMap((asset: unknown) => {
    if (typeof asset !== 'object' || asset === null) return []
    const own = asset as { hash?: unknown; data?: unknown }
    if (typeof own.hash !== 'string' || !/^[0-9a-f]{64}$/.test(own.hash)) return []
    if (own.data === undefined) own.data = known[own.hash] ?? assets.get(own.hash)
    return own.data === undefined ? [own.hash] : []
  })
}

function remember(hash: string, data: string): void {
  assets.delete(hash)
  assets.set(hash, data)
  let size = 0
  for (const [other, { length }] of [...assets].reverse()) {
    size += length
    if (size > mostCharacters) assets.delete(other)
  }
}

/** A kept document as JSON in the current version. */
export function current({ text }: { text: string }): Answer<string> {
  return answer(() => JSON.stringify(readPartFile(text)))
}

/** @throws ProblemError file-not-json */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new ProblemError('file-not-json', { detail: (error as Error).message })
  }
}
