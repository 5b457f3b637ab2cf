import { type Part, patched } from '@makrel/core/document'
import type { Finding } from '@makrel/core/proof'
import { BuildAborted } from '@makrel/core/solids'
import { nextTask } from '../ui/waited.ts'
import {
  type CallName,
  type Calls,
  type Cancelling,
  type PartSent,
  type Progress,
  patient,
  type Request,
  type Response,
} from './protocol.ts'

/** What an answer is worked out with. */
export interface Turn {
  /** the part that the call is about */
  readonly part: Part | undefined
  /** whether anybody still waits for it */
  readonly signal: { readonly aborted: boolean }
  /** lets messages in, and with them what gives it up */
  pause(): Promise<void>
  /** The same, and where nothing is half done: what somebody looks at is answered before it goes on, of the same part. */
  giveWay(): Promise<void>
  progress(done: number, of: number, found?: readonly Finding[]): void
}

export type Answers<N extends CallName> = {
  readonly [K in N]: (input: Calls[K]['in'], turn: Turn) => Calls[K]['out'] | Promise<Calls[K]['out']>
}

/** A call that has not been begun. */
interface Asked<N extends CallName> extends Request<N> {
  readonly about: Part | undefined
}

/**
 * Answers calls one after the other, those that somebody looks at first (see `patient`); what is cancelled while it waits is not begun, what
 * is cancelled in the middle stops where it lets messages in. The part is kept here: calls bring what has changed of it.
 */
export function serve<N extends CallName>(ready: Promise<Answers<N>>): void {
  let part: Part | undefined
  let isBusy = false
  const waiting: Asked<N>[] = []
  const signals = new Map<number, { aborted: boolean }>()
  const nextOf = (fits: (asked: Asked<N>) => boolean): Asked<N> | undefined => {
    const at = waiting.findIndex(fits)
    return at < 0 ? undefined : waiting.splice(at, 1)[0]
  }
  const work = async ({ id, name, input, about }: Asked<N>) => {
    const signal = signals.get(id)!
    try {
      if (signal.aborted) throw new BuildAborted()
      const turn: Turn = {
        part: about,
        signal,
        pause,
        giveWay: async () => {
          await pause()
          // Of another part it would take away what this one is about.
          const fits = (asked: Asked<N>) => !patient.includes(asked.name) && asked.about === about
          while (!signal.aborted) {
            const asked = nextOf(fits)
            if (!asked) return
            await work(asked)
          }
        },
        progress: (done, of, found) => self.postMessage({ id, done, of, found } satisfies Progress),
      }
      const output = await (await ready)[name](input, turn)
      const transfer = keeping.includes(name) ? [] : buffersIn(output)
      self.postMessage({ id, ok: true, output } satisfies Response, { transfer })
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error)
      self.postMessage({ id, ok: false, message } satisfies Response)
    } finally {
      signals.delete(id)
    }
  }
  const workAll = async () => {
    if (isBusy) return
    isBusy = true
    const isLookedAt = ({ name }: Asked<N>) => !patient.includes(name)
    for (let asked = nextOf(isLookedAt) ?? waiting.shift(); asked; asked = nextOf(isLookedAt) ?? waiting.shift())
      await work(asked)
    isBusy = false
  }
  self.onmessage = ({ data }: MessageEvent<Request<N> | Cancelling>) => {
    if ('cancel' in data) {
      const signal = signals.get(data.cancel)
      if (signal) signal.aborted = true
      return
    }
    if (data.part) part = received(part, data.part)
    signals.set(data.id, { aborted: false })
    waiting.push({ ...data, about: part })
    void workAll()
  }
}

function received(before: Part | undefined, sent: PartSent): Part {
  return 'whole' in sent ? sent.whole : patched(before!, sent.patch)
}

/** Lets messages in: what they cancel is seen before the next operation starts. */
const pause = nextTask

/** Calls that keep what they answer for the next time: that is copied. */
const keeping: readonly CallName[] = ['proof', 'cures']

/** How deep in an answer large buffers lie. */
const deepest = 3

/** The buffers of an answer that is given away: nothing here needs them any more. */
function buffersIn(output: unknown, depth = 0): ArrayBuffer[] {
  if (output instanceof ArrayBuffer) return [output]
  if (ArrayBuffer.isView(output)) return [output.buffer as ArrayBuffer]
  if (typeof output !== 'object' || output === null || depth > deepest) return []
  const inner: readonly unknown[] = Array.isArray(output) ? output : Object.values(output)
  const found = inner.flatMap((each) => (typeof each === 'object' ? buffersIn(each, depth + 1) : []))
  return depth === 0 ? [...new Set(found)] : found
}
