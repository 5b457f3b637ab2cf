import { checkedPart, readPartFile, SoundThings } from '@makrel/core/document'
import { ProblemError } from '@makrel/core/problems'
import { type Answer, answer } from '@makrel/threads'
import Joi from 'joi'
import { type KeptPart, keptPart } from './kept.ts'

/** What a request to keep a part holds. */
export interface Sent {
  /** the revision that it was made from; 0 for a new part */
  readonly base: number
  readonly part: KeptPart
}

const fresh = Joi.object({ document: Joi.object().required() })
const saved = fresh.keys({ revision: Joi.number().integer().min(1).required() })
const sound = new SoundThings()

/** The body of a request that keeps a part. */
export function sent(input: { bytes: Uint8Array; fresh: boolean }): Answer<Sent> {
  const raw = answer(() => parsed(new TextDecoder().decode(input.bytes)))
  if ('fault' in raw) return raw
  const { error, value } = (input.fresh ? fresh : saved).validate(raw.value, { errors: { wrap: { label: false } } })
  if (error) return { fault: error.message }
  const { revision = 0, document } = value as { revision?: number; document: unknown }
  return answer(() => ({ base: revision, part: keptPart(checkedPart(document, sound)) }))
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
