import 'fake-indexeddb/auto'
import {
  checkedPart,
  checkKeepable,
  checkLimits,
  documentLimits,
  type Edit,
  newPart,
  type Part,
  type ShapeStep,
  type Step,
} from '@makrel/core/document'
import { attempt } from '@makrel/core/problems'
import { newStep, shapeOf } from '@makrel/core/shapes'
import { deleteDB, openDB } from 'idb'
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { checksReady } from './checks.ts'
import { openedPart, otherVersion } from './opening.ts'
import { sendUnsent, usePart } from './part.ts'
import { saves } from './saves.ts'
import { trails } from './trail.ts'

const part: Part = newPart({ part: 'a', piece: 'p' }, 'A')
const theirs: Part = { ...part, name: 'Theirs' }
const state = () => usePart.getState()
const name = () => state().part?.name
const rename = (to: string, merge?: string) => state().edit({ type: 'rename', name: to }, merge)

/** Answers of the server, in order. */
function answers(...list: ({ status: number; body: unknown } | 'away')[]) {
  const sent: { revision: number; name: string }[] = []
  vi.stubGlobal('fetch', async (_: string, init: { body?: string }) => {
    const { revision, document } = JSON.parse(init.body ?? '{}')
    if (document) sent.push({ revision, name: document.name })
    const next = list.shift() ?? { status: 200, body: { revision: revision + 1, updatedAt: new Date(0).toISOString() } }
    if (next === 'away') throw new TypeError('no connection')
    return new Response(JSON.stringify(next.body), { status: next.status })
  })
  return sent
}

/** A store as browsers have it. */
function kept() {
  const all = new Map<string, string>()
  return {
    all,
    get length() {
      return all.size
    },
    key: (i: number) => [...all.keys()][i] ?? null,
    getItem: (key: string) => all.get(key) ?? null,
    setItem: (key: string, value: string) => void all.set(key, value),
    removeItem: (key: string) => void all.delete(key),
  }
}

/** As with a browser that has kept nothing. */
async function forgotten(): Promise<void> {
  await trails.close()
  await deleteDB('makrel')
}

beforeAll(checksReady)

beforeEach(async () => {
  // What the browser keeps is opened in real time, and goes on in it: it must not be late by a clock that is put forward.
  await trails.open()
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
  state().open(part, 1, new Date(0))
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('undo and redo', () => {
  beforeEach(() => answers())
  it('go through every edit and back', () => {
    for (const to of ['B', 'C', 'D']) rename(to)
    state().undo()
    state().undo()
    expect(name()).toBe('B')
    state().redo()
    expect(name()).toBe('C')
    rename('E')
    state().redo()
    expect(name()).toBe('E')
    for (let i = 0; i < 9; i++) state().undo()
    expect(name()).toBe('A')
  })
  it('go back before another state that took the place of this one', () => {
    rename('B')
    state().replace({ ...part, name: 'Earlier' })
    expect(name()).toBe('Earlier')
    state().undo()
    expect(name()).toBe('B')
    state().replace({ ...part, id: 'another' })
    expect(name()).toBe('B')
  })
  it('take one act of typing as one', () => {
    for (const to of ['B', 'Bo', 'Bow']) rename(to, 'typing')
    state().undo()
    expect(name()).toBe('A')
    state().redo()
    rename('Bo', 'typing')
    expect(state().past).toHaveLength(2)
  })
  it('know nothing of edits that change nothing, but these end an act of typing', () => {
    rename('B', 'typing')
    rename('B')
    expect(state().past).toHaveLength(1)
    rename('C', 'typing')
    expect(state().past).toHaveLength(2)
  })
})

describe('keeping', () => {
  it('sends the latest state a moment after the last edit, on the revision it has', async () => {
    const sent = answers()
    rename('B')
    rename('C')
    expect(state().save.kind).toBe('saving')
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent).toEqual([{ revision: 1, name: 'C' }])
    expect(state()).toMatchObject({ revision: 2, save: { kind: 'kept' } })
  })
  it('keeps the last edit also when the part is closed while an earlier one is on its way', async () => {
    const sent = answers()
    rename('B')
    await vi.advanceTimersByTimeAsync(390)
    const slow = state().saveNow()
    rename('C')
    state().close()
    await slow
    await saves.all()
    expect(sent).toEqual([
      { revision: 1, name: 'B' },
      { revision: 2, name: 'C' },
    ])
  })
  it('asks again while the server is away', async () => {
    const sent = answers('away', 'away')
    rename('B')
    await vi.advanceTimersByTimeAsync(600)
    expect(state().save.kind).toBe('failed')
    await vi.advanceTimersByTimeAsync(7000)
    expect(sent).toHaveLength(3)
    expect(state().save.kind).toBe('kept')
  })
  it('overwrites nothing: a stale save is offered, and mine is an undo away from theirs', async () => {
    const sent = answers({ status: 409, body: { error: 'stale', current: { revision: 5, document: theirs } } })
    rename('Mine')
    await vi.advanceTimersByTimeAsync(1000)
    expect(state().save.kind).toBe('stale')
    rename('Mine, more')
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent).toHaveLength(1)
    state().takeTheirs()
    expect(name()).toBe('Theirs')
    state().undo()
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent.at(-1)).toEqual({ revision: 5, name: 'Mine, more' })
  })
  it('keeps mine over theirs when it is told to', async () => {
    const sent = answers({ status: 409, body: { error: 'stale', current: { revision: 5, document: theirs } } })
    rename('Mine')
    await vi.advanceTimersByTimeAsync(1000)
    state().keepMine()
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent.at(-1)).toEqual({ revision: 5, name: 'Mine' })
    expect(state().save.kind).toBe('kept')
  })
})

describe('what the server has not kept', () => {
  afterEach(() => forgotten())

  /** The page is left as it is, and the browser opened again; the server then has `kept`, or is away. */
  const openedAgain = async (
    kept: { document: Part; revision: number } | 'away',
    ...more: Parameters<typeof answers>
  ) => {
    void state().saveNow(true)
    await trails.close()
    answers(
      kept === 'away' ? 'away' : { status: 200, body: { ...kept, updatedAt: new Date(0).toISOString() } },
      ...more,
    )
    await trails.open()
    await openedPart('a', () => true)
    return answers(...more)
  }

  it('is there again when the page was left before it was sent, and is sent then; all of it can be undone', async () => {
    answers('away')
    for (const to of ['B', 'C', 'D']) rename(to)
    state().undo()
    const sent = await openedAgain({ document: part, revision: 1 })
    expect(name()).toBe('C')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent.at(-1)).toEqual({ revision: 1, name: 'C' })
    expect(state().save.kind).toBe('kept')
    state().redo()
    expect(name()).toBe('D')
    for (let i = 0; i < 3; i++) state().undo()
    expect(name()).toBe('A')
    expect(state().past).toHaveLength(0)
  })
  it('is there again where the tab took what was being written with it', async () => {
    answers('away')
    rename('B')
    await vi.advanceTimersByTimeAsync(200)
    await trails.of('a')
    rename('C')
    const left = kept()
    vi.stubGlobal('localStorage', left)
    // The database never comes to write the last one.
    const write = vi.spyOn(IDBDatabase.prototype, 'transaction').mockImplementation(() => {
      throw new Error('closing')
    })
    void state().saveNow(true)
    write.mockRestore()
    expect([...left.all.keys()]).toEqual([expect.stringMatching(/^makrel-left a /)])
    await saves.all()
    await trails.close()
    answers({ status: 200, body: { document: part, revision: 1, updatedAt: new Date(0).toISOString() } })
    await trails.open()
    await openedPart('a', () => true)
    const sent = answers()
    expect(name()).toBe('C')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent.at(-1)).toEqual({ revision: 1, name: 'C' })
    state().undo()
    expect(name()).toBe('B')
    await vi.advanceTimersByTimeAsync(10_000)
    await trails.of('a')
    expect(left.all.size).toBe(0)
  })
  it('is shown and gone on with while the server is away, and sent when it is back', async () => {
    answers('away')
    rename('B')
    const sent = await openedAgain('away', 'away')
    expect(name()).toBe('B')
    rename('C')
    await vi.advanceTimersByTimeAsync(450)
    expect(state().save.kind).toBe('failed')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent.at(-1)).toEqual({ revision: 1, name: 'C' })
    expect(state().save.kind).toBe('kept')
  })
  it('is sent by itself where its part is not opened again, and once only', async () => {
    answers('away', 'away')
    rename('B')
    state().close()
    await saves.all()
    const sent = answers()
    await sendUnsent()
    await sendUnsent()
    expect(sent).toEqual([{ revision: 1, name: 'B' }])
    expect(await trails.unsent()).toHaveLength(0)
  })
  it('is not sent again and again where the server does not take it', async () => {
    answers('away')
    rename('B')
    state().close()
    await saves.all()
    const sent = answers({ status: 409, body: { error: 'stale', current: { revision: 5, document: theirs } } })
    await sendUnsent()
    await sendUnsent()
    expect(sent).toHaveLength(1)
    expect(await trails.unsent()).toHaveLength(1)
  })
  it('is known as sent where the server has it after all', async () => {
    answers('away')
    rename('B')
    await openedAgain({ document: { ...part, name: 'B' }, revision: 2 })
    expect(name()).toBe('B')
    expect(state().save.kind).toBe('kept')
    await vi.advanceTimersByTimeAsync(1000)
    expect(await trails.unsent()).toHaveLength(0)
    state().undo()
    expect(name()).toBe('A')
  })
  it('goes on from a state of its own that the server has, though the answer was lost', async () => {
    const mine = { status: 409, body: { error: 'stale', current: { revision: 2, document: { ...part, name: 'B' } } } }
    // In one window …
    let sent = answers('away', mine)
    rename('B')
    await vi.advanceTimersByTimeAsync(450)
    rename('C')
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent.at(-1)).toEqual({ revision: 2, name: 'C' })
    expect(state().save.kind).toBe('kept')
    // … and in the next one, of a state that came after.
    answers('away', 'away')
    rename('D')
    await vi.advanceTimersByTimeAsync(450)
    rename('E')
    const stale = { status: 409, body: { error: 'stale', current: { revision: 4, document: { ...part, name: 'D' } } } }
    sent = await openedAgain({ document: { ...part, name: 'D' }, revision: 4 }, stale)
    expect(name()).toBe('E')
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent.at(-1)).toEqual({ revision: 4, name: 'E' })
    expect(state().save.kind).toBe('kept')
  })
  it('is offered beside what was made elsewhere meanwhile, also after both were left', async () => {
    const stale = { status: 409, body: { error: 'stale', current: { revision: 5, document: theirs } } }
    answers(stale)
    rename('Mine')
    await vi.advanceTimersByTimeAsync(1000)
    expect(state().save.kind).toBe('stale')
    await openedAgain({ document: theirs, revision: 5 }, stale)
    expect(name()).toBe('Mine')
    await vi.advanceTimersByTimeAsync(1000)
    expect(state().save).toMatchObject({ kind: 'stale', revision: 5 })
    state().takeTheirs()
    expect(name()).toBe('Theirs')
    await vi.advanceTimersByTimeAsync(1000)
    expect(await trails.unsent()).toHaveLength(0)
  })
  it('of a window that is gone comes to stand on the shelf, as soon as the server can take it', async () => {
    answers('away')
    rename('Mine')
    void state().saveNow(true)
    await trails.close()
    // The same once more, as a window by another name has left it.
    const kept = await openDB('makrel')
    const row = await kept.get('trails', (await kept.getAllKeys('trails'))[0]!)
    const theirs = { ...(await kept.get('states', [row.key, row.now])), name: 'Theirs, unsent' }
    await kept.put('states', theirs, ['a gone', 1])
    await kept.put('trails', { ...row, key: 'a gone', window: 'gone', now: 1, past: [], future: [], asked: [] })
    kept.close()
    const read = { status: 200, body: { document: part, revision: 1, updatedAt: new Date(0).toISOString() } }
    const opened = async (...then: Parameters<typeof answers>) => {
      const sent = answers(read, ...then)
      await trails.open()
      await openedPart('a', () => true)
      await trails.close()
      return sent.map((each) => each.name)
    }
    expect(await opened('away')).toEqual(['Theirs, unsent (other version)'])
    expect(name()).toBe('Mine')
    expect(await opened({ status: 201, body: { id: 'x', revision: 1 } })).toEqual(['Theirs, unsent (other version)'])
    expect(await opened()).toEqual([])
    expect(name()).toBe('Mine')
  })
  it('leaves the way back to what was kept, also past a change made elsewhere', async () => {
    answers()
    rename('B')
    await vi.advanceTimersByTimeAsync(1000)
    await openedAgain({ document: theirs, revision: 7 })
    expect(name()).toBe('Theirs')
    state().undo()
    expect(name()).toBe('B')
    state().undo()
    expect(name()).toBe('A')
  })
})

it('both versions are kept, however long the name is', () => {
  for (const long of ['Oar', 'x'.repeat(documentLimits.name), 'Ölzeug '.repeat(20).slice(0, documentLimits.name)]) {
    const other = otherVersion({ ...part, name: long })
    expect(other.id).not.toBe(part.id)
    expect(other.name.startsWith(long.slice(0, 100))).toBe(true)
    expect(other.name.endsWith(' (other version)')).toBe(true)
    expect(() => checkedPart(other)).not.toThrow()
  }
})

describe('an edit that goes over a limit', () => {
  beforeEach(() => answers())
  const plate = (id: string) => newStep(id, { shape: shapeOf('plate')!, fields: {} })
  const adds = (from: number, count: number): Edit[] =>
    Array.from({ length: count }, (_, i) => ({ type: 'add-step', piece: 'p', step: plate(`s${from + i}`) }))

  it('is not done, and others are', () => {
    expect(state().editAll(adds(0, documentLimits.steps))).toBe(true)
    const { part: full, past } = state()
    expect(state().edit(adds(5000, 1)[0]!)).toBe(false)
    expect(state().part).toBe(full)
    expect(state().past).toBe(past)
    expect(rename('B')).toBe(true)
    expect(name()).toBe('B')
  })
  it('is told where the reader would not take it back, whatever it is', () => {
    state().edit({ type: 'add-step', piece: 'p', step: plate('s1') })
    const { part: before } = state()
    const measure = { ...{ id: 'm1', name: 'wide', kind: 'length' as const, expression: '60', note: '' } }
    const outline = {
      ...{
        id: 'o',
        name: 'Drawn',
        on: { kind: 'bed' as const },
        points: [{ id: 'p', at: [1, 2] as const }],
        curves: [],
      },
      ...{ constraints: [], derived: [], toggled: [] },
    }
    const step = before!.pieces[0]!.steps[0]! as ShapeStep
    const withStep = (change: Partial<ShapeStep>) => ({
      ...before!,
      pieces: [{ ...before!.pieces[0]!, steps: [{ ...step, ...change }] }],
    })
    const long = (count: number) => 'x'.repeat(count)
    const refused: readonly Part[] = [
      { ...before!, name: '' },
      { ...before!, note: long(2001) },
      { ...before!, measures: [{ ...measure, note: long(2001) }] },
      { ...before!, measures: [{ ...measure, expression: long(401) }] },
      { ...before!, variants: [{ id: 'v', name: 'V', values: { m1: long(401) } }] },
      { ...before!, outlines: [{ ...outline, points: [{ id: 'p', at: [Number.NaN, 2] }] }] },
      { ...before!, outlines: [{ ...outline, points: [{ id: 'p', at: [1, 2e6] }] }] },
      { ...before!, outlines: [{ ...outline, name: long(121) }] },
      {
        ...before!,
        outlines: [{ ...outline, curves: [{ id: 'c', kind: 'near', points: Array(202).fill('p'), helper: false }] }],
      },
      withStep({ when: long(401) }),
      withStep({ repeats: [{ kind: 'row', fields: { count: long(20_001) } }] }),
      withStep({ omit: [0] }),
    ]
    for (const [i, document] of refused.entries()) {
      expect(attempt([], () => checkKeepable(document)).ok, `${i}`).toBe(false)
      expect(attempt([], () => checkedPart(document)).ok, `${i}`).toBe(false)
    }
    const kept: readonly Part[] = [
      { ...before!, note: long(2000), measures: [{ ...measure, note: long(2000), expression: long(400) }] },
      { ...before!, outlines: [{ ...outline, points: [{ id: 'p', at: [1, 1e6] }] }] },
      withStep({ when: long(400) }),
    ]
    for (const document of kept) {
      expect(() => checkKeepable(document)).not.toThrow()
      expect(() => checkedPart(document)).not.toThrow()
    }
    expect(state().edit({ type: 'rename', name: long(121) })).toBe(false)
    expect(state().part).toBe(before)
  })
  it('tells how far it may go and what else can be done', () => {
    const long = { ...plate('a'), name: 'x'.repeat(documentLimits.name + 1) }
    expect(() => checkLimits({ ...part, pieces: [{ ...part.pieces[0]!, steps: [long] }] })).toThrow(/at most 120/)
    const measures = Array.from({ length: documentLimits.measures + 1 }, (_, i) => ({
      ...{ id: `m${i}`, name: `m${i}`, kind: 'length' as const, expression: '1', note: '' },
    }))
    expect(() => checkLimits({ ...part, measures })).toThrow(/501 measures.*at most 500.*remove some/)
    const nested = (depth: number): Step => {
      const { kind: _, shape: __, ...acting } = plate(`b${depth}`)
      return { ...acting, kind: 'bundle', fields: {}, steps: depth === 0 ? [] : [nested(depth - 1)] }
    }
    const within = (depth: number): Part => ({ ...part, pieces: [{ ...part.pieces[0]!, steps: [nested(depth)] }] })
    for (const depth of [3, 9, 10, 11, 12]) {
      const allowed = (check: (of: Part) => unknown) => attempt([], () => check(within(depth))).ok
      expect(allowed(checkLimits), `${depth}`).toBe(allowed(checkedPart))
    }
    expect(() => checkLimits(within(20))).toThrow(/bundles within bundles/)
    // What is refused here is refused by the reader too, and nothing else.
    expect(() => checkedPart({ ...part, measures })).toThrow()
    expect(() => checkedPart({ ...part, measures: measures.slice(1) })).not.toThrow()
    expect(() => checkLimits({ ...part, measures: measures.slice(1) })).not.toThrow()
  })
})
