import { newPart, type Part } from '@makrel/core/document'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Request } from './protocol.ts'
import { serve, type Turn } from './serving.ts'

/** What the worker has answered, in its order. */
let answered: { readonly id: number; readonly ok?: boolean; readonly message?: string }[] = []
const ask = (id: number, name: string, part?: Part) =>
  (globalThis.self as unknown as { onmessage(event: unknown): void }).onmessage({
    data: { id, name, input: {}, ...(part ? { part: { whole: part } } : {}) } as Request,
  })
const cancel = (id: number) =>
  (globalThis.self as unknown as { onmessage(event: unknown): void }).onmessage({ data: { cancel: id } })
const until = (id: number) => vi.waitFor(() => expect(answered.map((each) => each.id)).toContain(id))

let done: string[] = []
/** A proof of three steps, which gives way after each, and others that are done at once. */
function serving(step: (at: number, turn: Turn) => void = () => undefined): void {
  serve(
    Promise.resolve({
      proof: async (_: unknown, turn: Turn) => {
        for (const at of [1, 2, 3]) {
          done.push(`proof ${at}`)
          step(at, turn)
          await turn.giveWay()
          if (turn.signal.aborted) throw new Error('given up')
        }
      },
      swing: (_: unknown, { part }: Turn) => void done.push(`swing ${part?.name}`),
      handOff: () => void done.push('hand-off'),
    } as never),
  )
}

beforeEach(() => {
  answered = []
  done = []
  vi.stubGlobal('self', { postMessage: (message: (typeof answered)[0]) => void answered.push(message) })
})

const part = newPart({ part: 'tray', piece: 'p' }, 'Tray')
const other = newPart({ part: 'tray', piece: 'p' }, 'Other')

test('what is looked at is answered in the middle of a proof, and a hand-off after it', async () => {
  serving((at) => {
    if (at !== 1) return
    ask(2, 'handOff')
    ask(3, 'swing')
  })
  ask(1, 'proof', part)
  await until(2)
  expect(done).toEqual(['proof 1', 'swing Tray', 'proof 2', 'proof 3', 'hand-off'])
  expect(answered.map(({ id, ok }) => [id, ok])).toEqual([3, 1, 2].map((id) => [id, true]))
})

test('what is asked of another part waits: it would take away what the proof is about', async () => {
  serving((at) => {
    if (at === 1) ask(2, 'swing', other)
  })
  ask(1, 'proof', part)
  await until(2)
  expect(done).toEqual(['proof 1', 'proof 2', 'proof 3', 'swing Other'])
})

test('a proof that is given up ends before anything else is begun', async () => {
  serving((at) => {
    if (at !== 2) return
    ask(2, 'swing')
    cancel(1)
  })
  ask(1, 'proof', part)
  await until(2)
  expect(done).toEqual(['proof 1', 'proof 2', 'swing Tray'])
  expect(answered).toMatchObject([
    { id: 1, ok: false, message: 'given up' },
    { id: 2, ok: true },
  ])
})

test('of what waits, what is looked at goes first; what is given up is not begun', async () => {
  serving((at) => {
    if (at !== 3) return
    ask(2, 'handOff')
    ask(3, 'proof', other)
    ask(4, 'swing')
    cancel(2)
  })
  ask(1, 'proof', part)
  await until(3)
  expect(done.slice(3, 5)).toEqual(['swing Other', 'proof 1'])
  expect(done).not.toContain('hand-off')
  expect(answered.find(({ id }) => id === 2)?.ok).toBe(false)
})

test('what is kept for the next proof is not given away with its answer; all else is', async () => {
  const marks = [{ kind: 'triangles', points: new Float32Array(9) }]
  const given: unknown[][] = []
  vi.stubGlobal('self', {
    postMessage: (message: (typeof answered)[0], { transfer = [] }: { transfer?: ArrayBuffer[] } = {}) => {
      given.push(transfer)
      answered.push(structuredClone(message, { transfer }))
    },
  })
  serve(Promise.resolve({ proof: () => [{ marks }], fields: () => ({ points: new Float32Array(3) }) } as never))
  for (const id of [1, 2]) {
    ask(id, 'proof')
    await until(id)
    expect(answered.at(-1)).toMatchObject({ id, ok: true, output: [{ marks: [{ points: marks[0]!.points }] }] })
  }
  ask(3, 'fields')
  await until(3)
  expect(given.map(({ length }) => length)).toEqual([0, 0, 1])
})
