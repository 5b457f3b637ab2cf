import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import {
  assetOf,
  checkLimits,
  currentVersion,
  newPart,
  type Outline,
  type Part,
  type Step,
  shelfOrders,
  writePartFile,
} from '@makrel/core/document'
import { shippedMaterials } from '@makrel/core/fits'
import { newStep, shapeOf } from '@makrel/core/shapes'
import type { FastifyInstance } from 'fastify'
import { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp } from './app.ts'
import { backedUp, openDatabase, takenByThis } from './database.ts'
import { loadDemo } from './demo.ts'
import { Documents } from './documents.ts'
import { keptPart } from './kept.ts'
import { migrations } from './migrations.ts'
import { answersTo, networkFault, StartFault } from './network.ts'
import { PartStore, type Shelf } from './parts.ts'
import { answerFor } from './routes.ts'
import { everyone } from './scope.ts'
import { thinned } from './states.ts'
import { Writes } from './writes.ts'

const root = fileURLToPath(new URL('..', import.meta.url))
const folder = () => mkdtempSync(join(tmpdir(), 'makrel-'))
const part = (id: string, name = id): Part => newPart({ part: id, piece: 'p' }, name)
const headers = { host: '127.0.0.1:4310' }

let documents: Documents
beforeAll(() => {
  documents = new Documents()
})
afterAll(() => documents.close())

let app: FastifyInstance
let store: Shelf
let all: PartStore
let file: string
beforeEach(async () => {
  file = join(folder(), 'deep', 'parts.sqlite')
  ;({ app, store: all } = await createApp({ database: file, documents }))
  store = all.shelf(everyone)
})
afterEach(() => app.close())

const ask = (
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  url: string,
  payload?: object,
  more: Record<string, string> = {},
) => app.inject({ method, url, headers: { ...headers, ...more }, ...(payload ? { payload } : {}) })

describe('keeping parts', () => {
  it('keeps, lists, finds and reads them', async () => {
    expect((await ask('POST', '/api/parts', { document: part('a', 'Lantern bracket') })).statusCode).toBe(201)
    await ask('POST', '/api/parts', { document: part('b', 'Oar collar') })
    expect((await ask('GET', '/api/parts')).json()).toMatchObject({ total: 2, entries: [{}, {}] })
    expect((await ask('GET', '/api/parts?search=lantern')).json()).toEqual({
      total: 1,
      entries: [expect.objectContaining({ id: 'a', unit: 'mm', revision: 1, size: null, pictureRevision: null })],
    })
    // In the unit that it has now.
    const inches: Part = { ...part('a', 'Lantern bracket'), unit: 'in' }
    expect((await ask('PUT', '/api/parts/a', { revision: 1, document: inches })).statusCode).toBe(200)
    expect((await ask('GET', '/api/parts?search=lantern')).json().entries[0].unit).toBe('in')
    expect((await ask('PUT', '/api/parts/a', { revision: 2, document: part('a', 'Lantern bracket') })).statusCode).toBe(
      200,
    )
    expect((await ask('GET', '/api/parts?search=lantern')).json().entries[0].unit).toBe('mm')
    expect((await ask('GET', '/api/parts?search=%25')).json().total).toBe(0)
    expect((await ask('GET', '/api/parts/a')).json()).toMatchObject({
      revision: 3,
      document: part('a', 'Lantern bracket'),
    })
  })
  it('is sent an asset once, and asks for one that it does not have', async () => {
    const asset = assetOf('housing.stl', `data:model/mesh;base64,${Buffer.alloc(30_000, 9).toString('base64')}`)
    const { hash, name } = asset
    const bare = { ...part('a', 'B'), assets: [{ hash, name }] }
    expect((await ask('POST', '/api/parts', { document: bare })).statusCode).toBe(422)
    expect((await ask('POST', '/api/parts', { document: { ...part('a'), assets: [asset] } })).statusCode).toBe(201)
    // By another thread too, that has never seen it.
    const others = new Documents()
    const fresh = await others.sent(Buffer.from(JSON.stringify({ revision: 1, document: bare })), false, (hashes) =>
      all.shelf(everyone).assets(hashes),
    )
    expect(fresh.part.assets.get(hash)).toBe(asset.data)
    await others.close()
    expect((await ask('PUT', '/api/parts/a', { revision: 1, document: bare })).statusCode).toBe(200)
    expect((await ask('GET', '/api/parts/a')).json().document).toMatchObject({ name: 'B', assets: [asset] })
    for (const odd of [null, 7, {}, { hash: 'x', name }, { hash: 7 }])
      expect((await ask('PUT', '/api/parts/a', { revision: 2, document: { ...bare, assets: [odd] } })).statusCode).toBe(
        400,
      )
    const forged = { ...bare, assets: [{ ...asset, data: 'data:model/mesh;base64,AAAA' }] }
    expect((await ask('PUT', '/api/parts/a', { revision: 2, document: forged })).statusCode).toBe(400)
    expect((await ask('PUT', '/api/parts/a', { revision: 2, document: bare })).statusCode).toBe(200)
  })
  it('keeps a picture of an outline once, and gives it back with every state', async () => {
    const data = `data:image/png;base64,${Buffer.alloc(30_000, 7).toString('base64')}`
    const asset = assetOf('shed.png', data)
    const picture = { asset: asset.hash, at: [0, 0] as const, width: 100, turn: 0, strength: 0.5 }
    const outline = {
      id: 'o',
      name: 'Profile',
      on: { kind: 'bed' as const },
      points: [],
      curves: [],
      constraints: [],
      derived: [],
      toggled: [],
      picture,
    }
    const drawn = { ...part('a'), assets: [asset], outlines: [outline] }
    await ask('POST', '/api/parts', { document: drawn })
    for (let revision = 1; revision <= 3; revision++)
      await ask('PUT', '/api/parts/a', { revision, document: { ...drawn, note: `state ${revision}` } })
    expect((await ask('GET', '/api/parts/a')).json().document.assets[0].data).toBe(data)
    expect((await ask('GET', '/api/parts/a/revisions/2')).json().document.assets[0].data).toBe(data)
    const stale = await ask('PUT', '/api/parts/a', { revision: 1, document: drawn })
    expect(stale.json().current.document.assets[0].data).toBe(data)
    const raw = new Sequelize({ dialect: 'sqlite', storage: file, logging: false })
    const [[kept]] = (await raw.query('SELECT count(*) AS n FROM kept_pictures')) as unknown as [[{ n: number }]]
    const [rows] = (await raw.query('SELECT length(packed) AS n FROM revisions')) as unknown as [{ n: number }[]]
    await raw.close()
    expect(kept.n).toBe(1)
    expect(rows).toHaveLength(4)
    expect(Math.max(...rows.map(({ n }) => n))).toBeLessThan(1500)
  })
  it('does not put a second part under an id', async () => {
    await ask('POST', '/api/parts', { document: part('a') })
    expect((await ask('POST', '/api/parts', { document: part('a', 'other') })).statusCode).toBe(409)
    expect((await ask('GET', '/api/parts/a')).json().document.name).toBe('a')
  })
  it('counts revisions, and refuses a save on a stale one with the current state', async () => {
    await store.create(keptPart(part('a')))
    expect((await ask('PUT', '/api/parts/a', { revision: 1, document: part('a', 'mine') })).json()).toMatchObject({
      revision: 2,
    })
    const stale = await ask('PUT', '/api/parts/a', { revision: 1, document: part('a', 'theirs') })
    expect(stale.statusCode).toBe(409)
    expect(stale.json().current).toMatchObject({ revision: 2, document: { name: 'mine' } })
    expect(JSON.parse((await store.read('a'))!.text).name).toBe('mine')
  })
  it('does a save once that is sent again, because its answer was lost', async () => {
    expect((await ask('POST', '/api/parts', { document: part('a') })).statusCode).toBe(201)
    expect((await ask('POST', '/api/parts', { document: part('a') })).statusCode).toBe(201)
    const save = { revision: 1, document: part('a', 'B') }
    const [first, again] = [await ask('PUT', '/api/parts/a', save), await ask('PUT', '/api/parts/a', save)]
    expect(first.statusCode).toBe(200)
    expect(again.json()).toEqual(first.json())
    // Anything else on that revision was changed elsewhere.
    expect((await ask('PUT', '/api/parts/a', { revision: 1, document: part('a', 'C') })).statusCode).toBe(409)
    expect((await ask('GET', '/api/parts/a')).json()).toMatchObject({ revision: 2, document: { name: 'B' } })
  })
  it('lets one of many saves at the same time through', async () => {
    await store.create(keptPart(part('a')))
    const saves = await Promise.all(
      Array.from({ length: 8 }, (_, i) => ask('PUT', '/api/parts/a', { revision: 1, document: part('a', `try ${i}`) })),
    )
    expect(saves.map(({ statusCode }) => statusCode).sort()).toEqual([200, ...Array.from({ length: 7 }, () => 409)])
  })
  it('lets one of two servers through that save on the same revision', async () => {
    await store.create(keptPart(part('a')))
    const other = await openDatabase(file)
    const theirs = new PartStore(other).shelf(everyone)
    for (let base = 1; base <= 12; base++) {
      const outcomes = await Promise.all(
        [store, theirs].map((shelf, i) => shelf.save(base, keptPart(part('a', `by ${i} on ${base}`)))),
      )
      expect(outcomes.map(({ kind }) => kind).sort()).toEqual(['saved', 'stale'])
      const winner = outcomes.findIndex(({ kind }) => kind === 'saved')
      expect(JSON.parse((await store.read('a'))!.text).name).toBe(`by ${winner} on ${base}`)
    }
    await other.close()
  })
  it('shows, changes and removes nothing of another owner', async () => {
    const [mine, theirs] = [all.shelf({ owner: 'ida' }), all.shelf({ owner: 'olaf' })]
    expect(await mine.create(keptPart(part('a', 'Mine')))).toBe(true)
    expect(await theirs.create(keptPart(part('b', 'Theirs')))).toBe(true)
    // An id is one part's, whoever has it.
    expect(await theirs.create(keptPart(part('a', 'Mine')))).toBe(false)
    expect((await theirs.list()).entries.map(({ id }) => id)).toEqual(['b'])
    expect((await store.list()).total).toBe(0)
    expect(await theirs.read('a')).toBeUndefined()
    expect(await theirs.raw('a')).toBeUndefined()
    expect(await theirs.revisions('a')).toBeUndefined()
    expect(await theirs.revision('a', 1)).toBeUndefined()
    expect(await theirs.nameRevision('a', 1, 'x')).toBe(false)
    expect(await theirs.setRemoved('a', true)).toBe(false)
    expect(await theirs.setPicture('a', { revision: 1, png: Buffer.from('x'), size: [1, 2, 3] })).toBe(false)
    expect(await theirs.save(1, keptPart(part('a', 'Taken')))).toEqual({ kind: 'missing' })
    expect(JSON.parse((await mine.read('a'))!.text).name).toBe('Mine')
  })
  it('takes off the shelf and puts back', async () => {
    await store.create(keptPart(part('a')))
    expect((await ask('DELETE', '/api/parts/a')).statusCode).toBe(204)
    expect((await ask('GET', '/api/parts/a')).statusCode).toBe(404)
    expect((await ask('PUT', '/api/parts/a', { revision: 1, document: part('a') })).statusCode).toBe(404)
    expect((await ask('DELETE', '/api/parts/a')).statusCode).toBe(404)
    expect((await ask('POST', '/api/parts/a/restore')).statusCode).toBe(204)
    expect((await ask('GET', '/api/parts/a')).statusCode).toBe(200)
  })
  it('keeps a picture and the size of a revision', async () => {
    await store.create(keptPart(part('a')))
    const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3])
    const body = { revision: 1, size: [84, 44, 62], png: png.toString('base64') }
    expect((await ask('GET', '/api/parts/a/picture')).statusCode).toBe(404)
    expect((await ask('PUT', '/api/parts/a/picture', body)).statusCode).toBe(204)
    expect((await ask('GET', '/api/parts/a/picture')).rawPayload).toEqual(png)
    expect((await ask('GET', '/api/parts')).json().entries[0]).toMatchObject({
      size: [84, 44, 62],
      pictureRevision: 1,
      revision: 1,
    })
    expect((await ask('PUT', '/api/parts/a/picture', { ...body, revision: 9, size: [1, 1, 1] })).statusCode).toBe(204)
    expect((await ask('GET', '/api/parts')).json().entries[0].size).toEqual([84, 44, 62])
    expect((await ask('PUT', '/api/parts/nobody/picture', body)).statusCode).toBe(404)
    expect(
      (await ask('PUT', '/api/parts/a/picture', { ...body, png: Buffer.from('<svg>').toString('base64') })).statusCode,
    ).toBe(400)
  })
})

describe('bad input', () => {
  it.each<[string, 'GET' | 'POST' | 'PUT', string, object | undefined, number]>([
    ['no document', 'POST', '/api/parts', {}, 400],
    ['a foreign field', 'POST', '/api/parts', { document: part('a'), more: 1 }, 400],
    ['another format', 'POST', '/api/parts', { document: { hello: 1 } }, 400],
    ['a newer version', 'POST', '/api/parts', { document: { ...part('a'), version: currentVersion + 1 } }, 400],
    ['a broken document', 'POST', '/api/parts', { document: { ...part('a'), pieces: [] } }, 400],
    ['an unfit id', 'GET', '/api/parts/..%2F..%2Fetc', undefined, 400],
    ['no revision', 'PUT', '/api/parts/a', { document: part('a') }, 400],
    ['another id', 'PUT', '/api/parts/a', { revision: 1, document: part('b') }, 400],
    ['a part that is not there', 'GET', '/api/parts/nobody', undefined, 404],
    ['an address that is not there', 'GET', '/api/nothing', undefined, 404],
  ])('%s', async (_, method, url, payload, status) => {
    const response = await ask(method, url, payload)
    expect(response.statusCode).toBe(status)
    expect(typeof response.json().error === 'string' || response.json().message).toBeTruthy()
  })
  it('no JSON', async () => {
    const response = await app.inject({
      method: 'POST',
      url: '/api/parts',
      headers: { ...headers, 'content-type': 'application/json' },
      payload: '{',
    })
    expect(response.statusCode).toBe(400)
  })
  it('a body of 50 MB', async () => {
    const response = await ask('POST', '/api/parts', { document: { note: 'x'.repeat(50_000_000) } })
    expect(response.statusCode).toBe(413)
    expect(response.json().error).toMatch(/larger than a part file/)
    expect(await all.count()).toBe(0)
  })
  it('a body of 50 MB over a connection, which hears its answer', async () => {
    const address = await app.listen({ port: 0, host: '127.0.0.1' })
    const body = JSON.stringify({ document: { note: 'x'.repeat(50_000_000) } })
    const response = await fetch(`${address}/api/parts`, {
      ...{ method: 'POST', body, headers: { ...headers, 'content-type': 'application/json', host: undefined! } },
    })
    expect(response.status).toBe(413)
    expect(((await response.json()) as { error: string }).error).toMatch(/larger than a part file/)
  })
})

describe('a document that is hard to read', () => {
  const noAssets = async () => new Map<string, string>()
  const bytes = (thing: object) => Buffer.from(JSON.stringify(thing))
  it('is given up after its time, and the next one is read', async () => {
    const hasty = new Documents({ longest: 300, memory: 1024 })
    // Texts without end that a look at one character after the other takes long for.
    const long = { ...part('a'), pieces: Array.from({ length: 300_000 }, () => ({ steps: [{}], name: [] })) }
    await expect(hasty.sent(bytes({ document: long }), true, noAssets)).rejects.toThrow(/longer than 0\.3 seconds/)
    for (;;) {
      // A slow machine needs longer than that to start a thread.
      const read = await hasty.sent(bytes({ document: part('a') }), true, noAssets).catch(() => undefined)
      if (!read) continue
      expect(read.part).toMatchObject({ id: 'a', text: keptPart(part('a')).text })
      break
    }
    await hasty.close()
  })
  it('is given up where it takes too much memory, and the others are read', async () => {
    const small = new Documents({ longest: 60_000, memory: 40 })
    const large = { document: { ...part('a'), pieces: Array.from({ length: 1_500_000 }, (_, i) => ({ i })) } }
    const [first, second] = await Promise.allSettled([
      small.sent(bytes(large), true, noAssets),
      small.sent(bytes({ document: part('b') }), true, noAssets),
    ])
    expect(first).toMatchObject({ status: 'rejected', reason: { statusCode: 400, message: /more than 40 MB/ } })
    expect(second).toMatchObject({ status: 'fulfilled', value: { base: 0, part: { id: 'b' } } })
    await small.close()
  })
  it('keeps nobody else waiting', async () => {
    const long = { ...part('a'), pieces: Array.from({ length: 200_000 }, () => ({ steps: [{}], name: [] })) }
    let answered = 0
    const reading = ask('POST', '/api/parts', { document: long }).then(({ statusCode }) => {
      expect(statusCode).toBe(400)
      return answered
    })
    let done = false
    void reading.then(() => {
      done = true
    })
    while (!done) {
      expect((await ask('GET', '/healthz')).statusCode).toBe(200)
      answered++
      await new Promise((resolve) => setTimeout(resolve, 5))
    }
    expect(await reading).toBeGreaterThan(5)
  })
})

it('says that it is not well where it cannot write', async () => {
  const { ok } = (await ask('GET', '/healthz')).json()
  expect(ok).toBe(true)
  const database = await openDatabase(file)
  await database.query('DROP TABLE revisions')
  expect((await ask('POST', '/api/parts', { document: part('a') })).statusCode).toBe(500)
  const response = await ask('GET', '/healthz')
  expect([response.statusCode, response.json().ok]).toEqual([503, false])
  await database.close()
})

describe('the door', () => {
  it('answers to its own names only', async () => {
    expect((await app.inject({ url: '/api/parts', headers: { host: 'evil.example' } })).statusCode).toBe(403)
    expect((await app.inject({ url: '/api/parts', headers: { host: 'localhost:4310' } })).statusCode).toBe(200)
    expect(
      (await ask('POST', '/api/parts', { document: part('a') }, { origin: 'http://evil.example' })).statusCode,
    ).toBe(403)
    expect(
      (await ask('POST', '/api/parts', { document: part('a') }, { origin: 'http://127.0.0.1:4310' })).statusCode,
    ).toBe(201)
  })
  it('lets no other site change anything, also where that only tells where it asks from', async () => {
    await ask('POST', '/api/parts', { document: part('a') })
    const removed = (site: string) => ask('DELETE', '/api/parts/a', undefined, { 'sec-fetch-site': site })
    for (const site of ['cross-site', 'same-site']) expect((await removed(site)).statusCode).toBe(403)
    expect((await ask('GET', '/api/parts', undefined, { 'sec-fetch-site': 'cross-site' })).json().total).toBe(1)
    expect((await removed('same-origin')).statusCode).toBeLessThan(300)
    expect((await ask('GET', '/api/parts')).json().total).toBe(0)
  })
  it.each([
    [{ original: { code: 'SQLITE_FULL' } }, 507, /disk .* is full/],
    [{ code: 'ENOSPC' }, 507, /disk .* is full/],
    [{ original: { code: 'SQLITE_READONLY' } }, 507, /nothing may be written/],
    [{ original: { code: 'SQLITE_CORRUPT' } }, 500, /Something went wrong/],
  ])('says what a disk does not take: %j', (error, status, text) => {
    const answer = answerFor(Object.assign(new Error('x'), error))
    expect([answer.status, answer.text]).toEqual([status, expect.stringMatching(text)])
  })
  it('sends a content security policy and says it is well', async () => {
    const response = await ask('GET', '/healthz')
    expect(response.json()).toEqual({ ok: true, waiting: 0 })
    const policy = String(response.headers['content-security-policy'])
    expect(policy).toContain("default-src 'self'")
    expect(policy).not.toContain('unsafe-eval;')
    expect(policy).not.toContain('https:')
  })
})

describe('the demo', () => {
  it('fills an empty shelf once', async () => {
    expect(await loadDemo(all, join(root, 'demo'))).toBe(21)
    expect(await loadDemo(all, join(root, 'demo'))).toBe(0)
    expect((await store.list()).entries.map(({ name }) => name).sort()).toEqual([
      'Anchor-chain sample',
      'Bailing scoop',
      'Bench vice linkage',
      'Bilge-pump gear pair',
      'Boat-hook clip',
      'Cam cleat',
      'Compass housing',
      'Deck-cap spanner',
      'Deck-cap spanner (plain)',
      'Filler cap and neck',
      'Lantern bracket',
      'Locker hinge',
      'Oar collar',
      'Oar-hook rack',
      'Painter clip',
      'Rigger-bolt tray',
      'Rosette trim',
      'Rowlock ball mount',
      'Sheave carrier',
      'Shed-key float',
      'Signal-flag box',
    ])
  })
})

describe('a shelf of many parts', () => {
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  const filled = async () => {
    for (let i = 0; i < 23; i++) {
      const id = `p${String(i).padStart(2, '0')}`
      // Names go the other way round, and by no case.
      await store.create(keptPart(part(id, `${i % 2 ? 'shelf' : 'Shelf'} hook ${String(99 - i)}`)))
      if (i % 5 === 0) await store.setPicture(id, { revision: 1, png, size: [1 + i / 3, 15.3, i * 7.1] })
    }
  }
  const places = async (query: string) => {
    const { total, entries } = (await ask('GET', `/api/parts?${query}`)).json()
    return [total, ...entries.map(({ id }: { id: string }) => Number(id.slice(1)))]
  }
  it('is given out in pages, in each order, without a gap and without a repeat', async () => {
    await filled()
    for (const order of shelfOrders) {
      const pages = await Promise.all([0, 10, 20].map((from) => places(`order=${order}&from=${from}&count=10`)))
      expect(pages.map((page) => page.length)).toEqual([11, 11, 4])
      expect(pages.flatMap((page) => page.slice(1)).sort((a, b) => a - b)).toEqual(
        Array.from({ length: 23 }, (_, i) => i),
      )
    }
    expect(await places('order=name&count=3')).toEqual([23, 22, 21, 20])
    expect(await places('order=changed&count=1')).toEqual([23, 22])
    expect(await places('order=size&count=6')).toEqual([23, 20, 15, 10, 5, 0, 1])
    expect(await places('search=HOOK%209&order=name')).toEqual([10, 9, 8, 7, 6, 5, 4, 3, 2, 1, 0])
    expect(await places('from=40')).toEqual([23])
  })
  it.each(['order=colour', 'from=-1', 'count=0', 'count=5000', 'more=1'])('%s is refused', async (query) => {
    expect((await ask('GET', `/api/parts?${query}`)).statusCode).toBe(400)
  })
})

describe('old states', () => {
  const [minute, hour, day] = [60_000, 3_600_000, 86_400_000]
  const now = Date.UTC(2026, 10, 26, 12)
  /** Ages of what is left of states, the latest first. */
  const left = (ages: readonly number[], most = 500, named: readonly number[] = []) => {
    const states = ages.map((age, i) => ({
      revision: ages.length - i,
      at: now - age,
      name: named.includes(i) ? 'x' : null,
    }))
    const gone = new Set(thinned(states, now, most))
    return states.filter(({ revision }) => !gone.has(revision)).map(({ at }) => now - at)
  }
  it('are all kept while they are new or few, and at wider distances the older they are', () => {
    const lately = Array.from({ length: 300 }, (_, i) => i * 10_000)
    expect(left(lately)).toEqual(lately)
    expect(left(Array.from({ length: 40 }, (_, i) => 400 * day + i))).toHaveLength(40)
    const long = [...lately, ...Array.from({ length: 5000 }, (_, i) => hour + i * 20 * minute)]
    const kept = left(long)
    expect(kept.slice(0, 300)).toEqual(lately)
    const within = (from: number, to: number) => kept.filter((age) => age > from && age <= to).length
    // One in twenty minutes there is, and one in an hour is kept; then one in a day.
    expect(within(hour, day)).toBeGreaterThan(60)
    expect(within(day, 30 * day)).toBeLessThanOrEqual(29 * 24 + 1)
    expect(within(5 * day, 6 * day)).toBe(0)
  })
  it('are at most as many as is promised, but for those with a name', () => {
    const many = Array.from({ length: 900 }, (_, i) => i * 1000)
    expect(left(many, 500)).toEqual(many.slice(0, 500))
    expect(left(many, 500, [700, 899])).toEqual([...many.slice(0, 500), 700_000, 899_000])
  })
})

/** A database as an earlier version made it. */
async function madeUpTo(path: string, to: string): Promise<Sequelize> {
  const old = new Sequelize({ dialect: 'sqlite', storage: path, logging: false })
  const umzug = new Umzug({
    migrations: [...migrations],
    context: old.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: old }),
    logger: undefined,
  })
  await umzug.up({ to })
  return old
}

it('tells of the materials of an earlier version what holds between their layers, as of those in its parts', async () => {
  const path = join(folder(), 'seven.sqlite')
  const old = await madeUpTo(path, '007-printers-and-materials')
  const asa = shippedMaterials.find(({ id }) => id === 'asa')!
  const { acrossLayers: _, ...before } = asa
  const kept = JSON.stringify({ ...before, price: 31.7 })
  const set = "UPDATE workshop_things SET thing = ?, formerly = ? WHERE kind = 'materials' AND id = ?"
  await old.query(set, { replacements: [kept, JSON.stringify([before]), 'asa'] })
  const mine = JSON.stringify({ ...before, id: 'mine' })
  const insert =
    "INSERT INTO workshop_things (kind, id, owner, name, revision, thing, formerly, createdAt, updatedAt) VALUES ('materials', 'mine', '', 'Mine', 1, ?, '[]', ?, ?)"
  await old.query(insert, { replacements: [mine, new Date().toISOString(), new Date().toISOString()] })
  await old.close()
  const database = await openDatabase(path)
  const rows = (await database.query(
    "SELECT thing, formerly FROM workshop_things WHERE id IN ('asa', 'mine') ORDER BY id",
  )) as unknown as [{ thing: string; formerly: string }[]]
  expect(rows[0].map(({ thing, formerly }) => [JSON.parse(thing), JSON.parse(formerly)])).toEqual([
    [{ ...asa, price: 31.7 }, [asa]],
    // Nobody knows it of a maker's own.
    [JSON.parse(mine), []],
  ])
  await database.close()
})

it('packs the states of an earlier version, and points to pictures by a kind of their own', async () => {
  const path = join(folder(), 'three.sqlite')
  const old = await madeUpTo(path, '003-pictures-of-outlines')
  const hash = 'ab'.repeat(32)
  const data = 'data:image/png;base64,AAAA'
  const picture = { data, at: [0, 0] as const, width: 85.1, turn: 37.3, strength: 0.5 }
  const empty = { points: [], curves: [], constraints: [], derived: [], toggled: [] }
  const outline = { id: 'o', name: 'Profile', on: { kind: 'bed' as const }, ...empty }
  const { assets: _, ...before } = part('a')
  const earlier = { ...before, version: 6, outlines: [{ ...outline, picture }] }
  const asset = assetOf('', data)
  const { data: __, ...lies } = picture
  const drawn: Part = {
    ...part('a'),
    assets: [asset],
    outlines: [{ ...outline, picture: { asset: asset.hash, ...lies } }],
  }
  const texts = [writePartFile(part('a', 'before')), JSON.stringify(earlier, null, 2).replace(data, `picture:${hash}`)]
  const at = '2026-01-01 00:00:00.000 +00:00'
  const insert = (sql: string, replacements: unknown[]) => old.query(sql, { replacements })
  await insert('INSERT INTO kept_pictures (hash, data) VALUES (?, ?)', [hash, data])
  await insert(
    'INSERT INTO parts (id, name, revision, document, size, createdAt, updatedAt) VALUES (?, ?, 2, ?, ?, ?, ?)',
    ['a', 'a', texts[1], '[1,22.5,3]', at, at],
  )
  for (const [i, text] of texts.entries())
    await insert('INSERT INTO revisions (partId, revision, document, name, createdAt) VALUES (?, ?, ?, ?, ?)', [
      ...['a', i + 1, text],
      ...[i ? null : 'first', at],
    ])
  const inches = { ...part('b', 'before "unit": "mm"'), version: 6, unit: 'in' }
  await insert(
    'INSERT INTO parts (id, name, revision, document, size, createdAt, updatedAt) VALUES (?, ?, 1, ?, NULL, ?, ?)',
    ['b', 'b', JSON.stringify(inches, null, 2), at, at],
  )
  await old.close()

  const database = await openDatabase(path)
  const kept = new PartStore(database).shelf(everyone)
  const { entries } = await kept.list({ order: 'name' })
  expect(entries.map(({ id, unit }) => [id, unit])).toEqual([
    ['a', 'mm'],
    ['b', 'in'],
  ])
  const now = async (text: string | undefined) => JSON.parse(await documents.current(text!))
  expect(await now((await kept.read('a'))!.text)).toEqual(drawn)
  expect(await now(await kept.revision('a', 1))).toEqual(part('a', 'before'))
  expect(await now(await kept.revision('a', 2))).toEqual(drawn)
  expect(await kept.revisions('a')).toEqual([
    { revision: 2, createdAt: '2026-01-01T00:00:00.000Z', name: '' },
    { revision: 1, createdAt: '2026-01-01T00:00:00.000Z', name: 'first' },
  ])
  expect(await kept.save(2, keptPart({ ...drawn, name: 'again' }))).toMatchObject({ kind: 'saved', revision: 3 })
  const [[{ longest, text }]] = (await database.query(
    "SELECT longest, document AS text FROM parts WHERE id = 'a'",
  )) as unknown as [[{ longest: number; text: string }]]
  expect(longest).toBe(22.5)
  expect(text).toContain(`{ "asset": "${asset.hash}" }`)
  // Killed before it was noted that all this is done: the next start finds it done.
  await database.query("DELETE FROM SequelizeMeta WHERE name LIKE '004%'")
  await database.close()
  const again = await openDatabase(path)
  expect(await now(await new PartStore(again).shelf(everyone).revision('a', 1))).toEqual(part('a', 'before'))
  await again.close()
})

it('writes what waits together at once, and takes back only what fails', async () => {
  const database = await openDatabase(join(folder(), 'together.sqlite'))
  const writes = new Writes(database)
  const begun = vi.spyOn(database, 'transaction')
  const put = (name: string) =>
    writes.write(async (transaction) => {
      await database.query('INSERT INTO kept_pictures (hash, data) VALUES (?, ?)', {
        replacements: [name, name],
        transaction,
      })
      if (name === 'bad') throw new Error('no')
      return name
    })
  const names = Array.from({ length: 30 }, (_, i) => `n${i}`)
  expect(await Promise.all(names.map(put))).toEqual(names)
  // The first is on its way by itself.
  expect(begun.mock.calls.length).toBe(2)
  const mixed = await Promise.allSettled(['x', 'bad', 'y', 'x'].map(put))
  expect(mixed.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled', 'rejected'])
  const [rows] = await database.query("SELECT hash FROM kept_pictures WHERE hash IN ('x', 'y', 'bad')")
  expect(rows).toEqual([{ hash: 'x' }, { hash: 'y' }])
  await database.close()
})

describe('a copy of all parts', () => {
  it('is whole, also while others are written, and nothing is written over', async () => {
    const path = join(folder(), 'kept.sqlite')
    const to = join(folder(), "Anna's copy.sqlite")
    const database = await openDatabase(path)
    const kept = new PartStore(database).shelf(everyone)
    for (let i = 0; i < 5; i++) await kept.create(keptPart(part(`p${i}`)))
    await kept.save(1, keptPart(part('p1', 'later')))
    await kept.setRemoved('p0', true)
    const more = Array.from({ length: 30 }, (_, i) => kept.create(keptPart(part(`more${i}`))))
    const count = await backedUp(path, to)
    await Promise.all(more)
    expect(count).toBeGreaterThanOrEqual(4)
    await expect(backedUp(path, to)).rejects.toThrow(/exists already/)
    await database.close()
    const copied = new PartStore(await openDatabase(to))
    const copy = copied.shelf(everyone)
    expect(await copied.count()).toBeGreaterThanOrEqual(5)
    expect(JSON.parse((await copy.read('p1'))!.text).name).toBe('later')
    expect(JSON.parse((await copy.revision('p1', 1))!).name).toBe('p1')
  })
  it('is not made of what is none, nor where it cannot be written', async () => {
    const path = join(folder(), 'kept.sqlite')
    await expect(backedUp(path, join(folder(), 'a'))).rejects.toThrow(/does not exist/)
    writeFileSync(path, 'no database at all, but long enough to be looked at as one'.repeat(40))
    await expect(backedUp(path, join(folder(), 'a'))).rejects.toThrow(/damaged/)
    const sound = join(folder(), 'sound.sqlite')
    await (await openDatabase(sound)).close()
    await expect(backedUp(sound, join(folder(), 'no', 'such', 'folder'))).rejects.toThrow(StartFault)
  })
})

it('gives out a part as it is kept, also where it cannot be read', async () => {
  await ask('POST', '/api/parts', { document: part('a') })
  expect((await ask('GET', '/api/parts/a/raw')).json()).toEqual(part('a'))
  const database = await openDatabase(file)
  await database.query('UPDATE parts SET document = ?', { replacements: ['{ "format": "makrel-part", "vers'] })
  expect((await ask('GET', '/api/parts/a')).statusCode).toBe(400)
  const raw = await ask('GET', '/api/parts/a/raw')
  expect(raw.payload).toBe('{ "format": "makrel-part", "vers')
  expect(raw.headers['content-disposition']).toMatch(/attachment; filename="a\.makrel\.json"/)
  // What it was before is there, and can take its place.
  expect((await ask('GET', '/api/parts/a/revisions/1')).json().document).toEqual(part('a'))
  expect((await ask('PUT', '/api/parts/a', { revision: 1, document: part('a', 'again') })).statusCode).toBe(200)
  expect((await ask('GET', '/api/parts/a')).json().document.name).toBe('again')
  expect((await ask('GET', '/api/parts/nobody/raw')).statusCode).toBe(404)
  await database.close()
})

describe('history', () => {
  const saved = async (names: readonly string[]) => {
    await store.create(keptPart(part('a', names[0])))
    for (const [i, name] of names.slice(1).entries()) await store.save(i + 1, keptPart(part('a', name)))
  }
  it('lists the kept states, the latest first, and gives each one out', async () => {
    await saved(['one', 'two', 'three'])
    const list = (await ask('GET', '/api/parts/a/revisions')).json() as { revision: number; name: string }[]
    expect(list.map(({ revision, name }) => [revision, name])).toEqual([
      [3, ''],
      [2, ''],
      [1, ''],
    ])
    expect((await ask('GET', '/api/parts/a/revisions/2')).json().document.name).toBe('two')
  })
  it('names states, and takes a name away', async () => {
    await saved(['one', 'two'])
    expect((await ask('PUT', '/api/parts/a/revisions/1', { name: ' before the cut ' })).statusCode).toBe(204)
    expect((await store.revisions('a'))!.at(-1)!.name).toBe('before the cut')
    await ask('PUT', '/api/parts/a/revisions/1', { name: '' })
    expect((await store.revisions('a'))!.at(-1)!.name).toBe('')
  })
  it('keeps as many states as it promises, and a named one past all others', async () => {
    const database = await openDatabase(join(folder(), 'history.sqlite'))
    const short = new PartStore(database, 6).shelf(everyone)
    await short.create(keptPart(part('a', 'one')))
    await short.create(keptPart(part('b', 'one')))
    const left = async (id: string) => (await short.revisions(id))!.map(({ revision }) => revision)
    for (let i = 1; i < 6; i++) await short.save(i, keptPart(part('a', `${i + 1}`)))
    expect(await left('a')).toEqual([6, 5, 4, 3, 2, 1])
    await short.nameRevision('a', 2, 'first')
    for (let i = 6; i < 12; i++) await short.save(i, keptPart(part('a', `${i + 1}`)))
    expect(await left('a')).toEqual([12, 11, 10, 9, 8, 7, 2])
    // What another part keeps is its own.
    expect(await left('b')).toEqual([1])
    await database.close()
  })
  it.each([
    ['GET', '/api/parts/nobody/revisions', undefined, 404],
    ['GET', '/api/parts/a/revisions/99', undefined, 404],
    ['GET', '/api/parts/a/revisions/none', undefined, 400],
    ['PUT', '/api/parts/a/revisions/99', { name: 'x' }, 404],
    ['PUT', '/api/parts/a/revisions/1', { name: 'x'.repeat(121) }, 400],
  ] as const)('%s %s: told', async (method, url, payload, status) => {
    await saved(['one'])
    expect((await ask(method, url, payload)).statusCode).toBe(status)
  })
})

it('brings a database up to date once, and opens it again', async () => {
  const path = join(folder(), 'again.sqlite')
  const first = await openDatabase(path)
  await new PartStore(first).shelf(everyone).create(keptPart(part('a')))
  await first.close()
  const second = await openDatabase(path)
  expect(await new PartStore(second).count()).toBe(1)
  await second.close()
})

it('finishes what it is writing before it closes', async () => {
  const path = join(folder(), 'closing.sqlite')
  const opened = await createApp({ database: path, documents })
  const writes = Array.from({ length: 20 }, (_, i) => opened.store.shelf(everyone).create(keptPart(part(`p${i}`))))
  await opened.app.close()
  expect(await Promise.all(writes)).toEqual(writes.map(() => true))
  const database = await openDatabase(path)
  expect(await new PartStore(database).count()).toBe(20)
  await database.close()
})

it('gives out what was kept in an earlier version in the current one', async () => {
  const path = join(folder(), 'earlier.sqlite')
  const database = await openDatabase(path)
  const { variants: _, variant: __, ...before } = part('a')
  const earlier = { ...before, version: 1 }
  const at = '2026-01-01 00:00:00.000 +00:00'
  await database.query(
    'INSERT INTO parts (id, name, revision, document, createdAt, updatedAt) VALUES (?, ?, 1, ?, ?, ?)',
    { replacements: ['a', 'a', JSON.stringify(earlier), at, at] },
  )
  await database.close()
  const opened = await createApp({ database: path, documents })
  const response = await opened.app.inject({ url: '/api/parts/a', headers })
  expect(response.json().document).toEqual(part('a'))
  await opened.app.close()
})

it('leaves alone what a newer version has kept', async () => {
  await ask('POST', '/api/parts', { document: part('a') })
  const database = await openDatabase(file)
  const newer = JSON.stringify({ ...part('a'), version: currentVersion + 1, spring: 'coiled' }, null, 2)
  await database.query('UPDATE parts SET document = ?, version = ? WHERE id = ?', {
    replacements: [newer, currentVersion + 1, 'a'],
  })
  const response = await ask('PUT', '/api/parts/a', { revision: 1, document: part('a', 'Mine') })
  expect(response.statusCode).toBe(400)
  expect(response.json().error).toMatch(/version/)
  const [[row]] = (await database.query('SELECT document FROM parts')) as [{ document: string }[], unknown]
  expect(row!.document).toBe(newer)
  await database.close()
})

describe('what is acknowledged', () => {
  const plate = (id: string): Step => newStep(id, { shape: shapeOf('plate')!, fields: {} })
  const large: Readonly<Record<string, (plain: Part) => Part>> = {
    '4,000 steps': (plain) => ({
      ...plain,
      pieces: [0, 1, 2, 3].map((k) => ({
        ...plain.pieces[0]!,
        id: `p${k}`,
        steps: Array.from({ length: 1000 }, (_, i) => plate(`s${k}-${i}`)),
      })),
    }),
    'five outlines of 2,900 lines': (plain) => ({
      ...plain,
      outlines: [1, 2, 3, 4, 5].map((k): Outline => {
        const points = Array.from({ length: 2900 }, (_, i) => ({ id: `p${i}`, at: [i / 7, (i % 13) / 3] as const }))
        const curves = points.map(({ id }, i) => ({
          id: `l${i}`,
          kind: 'line',
          points: [id, points[(i + 1) % points.length]!.id],
          helper: false,
        }))
        const empty = { constraints: [], derived: [], toggled: [] }
        return { id: `o${k}`, name: `Outline ${k}`, on: { kind: 'bed' }, points, curves, ...empty }
      }),
    }),
    'four photographs': (plain) => ({
      ...plain,
      assets: [1, 2, 3, 4].map((k) => assetOf(`${k}.png`, `data:image/png;base64,${`AAA${k}`.repeat(222_000)}`)),
    }),
  }
  it.each(Object.entries(large))('can be opened again: %s', async (_, make) => {
    const document = make(part('a'))
    expect(() => checkLimits(document)).not.toThrow()
    expect((await ask('POST', '/api/parts', { document })).statusCode).toBe(201)
    const saved = await ask('PUT', '/api/parts/a', { revision: 1, document: { ...document, name: 'B' } })
    expect(saved.statusCode).toBe(200)
    const opened = await ask('GET', '/api/parts/a')
    expect(opened.statusCode).toBe(200)
    expect(opened.json().document).toEqual({ ...document, name: 'B' })
  })
  it('is nothing that could not be', async () => {
    const photographs = large['four photographs']!(part('a'))
    const many = Array.from({ length: 20 }, (_, i) => ({ ...photographs.assets[0]!, hash: `${i}`.padStart(64, '0') }))
    const document = { ...photographs, assets: many }
    expect(() => checkLimits(document)).toThrow(/16 MB/)
    expect((await ask('POST', '/api/parts', { document })).statusCode).toBeGreaterThanOrEqual(400)
    expect(await all.count()).toBe(0)
  })
})

it('a search finds names however they are written, and those from before the search could', async () => {
  for (const [i, name] of ['ÅRA collar', 'åra lock', 'ﬁtting', 'Oar'].entries())
    await store.create(keptPart(part(`p${i}`, name)))
  const names = async (search: string) => (await store.list({ search, order: 'name' })).entries.map(({ name }) => name)
  expect(await names('åRa')).toEqual(['ÅRA collar', 'åra lock'])
  expect(await names('FIT')).toEqual(['ﬁtting'])
  // No sign stands for others.
  for (const [i, name] of ['Shim 10%', 'Shim_2', "Mate's \\ cleat"].entries())
    await store.create(keptPart(part(`q${i}`, name)))
  for (const [search, found] of [
    ['%', 'Shim 10%'],
    ['m_', 'Shim_2'],
    ['\\', "Mate's \\ cleat"],
    ["e's", "Mate's \\ cleat"],
  ] as const)
    expect(await names(search)).toEqual([found])
  const path = join(folder(), 'before.sqlite')
  const database = await openDatabase(path)
  await new PartStore(database).shelf(everyone).create(keptPart(part('a', 'ÅRA collar')))
  await database.query('DROP INDEX shelf')
  for (const column of ['owner', 'version', 'nameKey']) await database.query(`ALTER TABLE parts DROP COLUMN ${column}`)
  await database.query('CREATE INDEX shelf ON parts (removedAt, updatedAt, name, longest, id)')
  await database.query("DELETE FROM SequelizeMeta WHERE name = '005-owners-and-names-to-search'")
  await database.close()
  const again = await openDatabase(path)
  const shelf = new PartStore(again).shelf(everyone)
  expect((await shelf.list({ search: 'åra' })).total).toBe(1)
  expect(await shelf.save(1, keptPart(part('a', 'Oar collar')))).toMatchObject({ kind: 'saved', revision: 2 })
  await again.close()
})

it('what is sent as another kind of content is refused as that, and nothing is changed', async () => {
  const body = JSON.stringify({ document: part('a') })
  const sent = await app.inject({
    ...{ method: 'POST', url: '/api/parts', payload: body },
    headers: { ...headers, 'content-type': 'text/plain' },
  })
  expect([sent.statusCode, sent.json().error]).toEqual([415, expect.stringContaining('JSON')])
  expect((await store.list()).total).toBe(0)
})

it('a search for what no name can hold finds nothing', async () => {
  await ask('POST', '/api/parts', { document: part('a') })
  const response = await ask('GET', '/api/parts?search=%00b')
  expect(response.statusCode).toBe(200)
  expect(response.json()).toEqual({ total: 0, entries: [] })
})

describe('the network', () => {
  it.each([
    ['localhost:4310', '127.0.0.1', undefined, true],
    ['127.0.0.1:4310', '::ffff:127.0.0.1', undefined, true],
    ['[::1]:4310', '::1', undefined, true],
    ['evil.example', '127.0.0.1', undefined, false],
    ['localhost:4310', '192.168.4.7', undefined, false],
    ['127.0.0.1', '::ffff:192.168.4.7', undefined, false],
    ['192.168.4.7:4310', '::ffff:192.168.4.7', undefined, true],
    ['evil.example', '192.168.4.7', 'boathouse', false],
    ['boathouse:4310', '192.168.4.7', 'boathouse', true],
  ] as const)('a request for %s over %s is answered: %s %s', (host, over, name, answered) => {
    expect(answersTo(host, over, name)).toBe(answered)
  })
  it('is not listened to unasked', () => {
    expect(networkFault('127.0.0.1', undefined)).toBeUndefined()
    expect(networkFault('0.0.0.0', undefined)).toMatch(/MAKREL_ALLOW_NETWORK=1/)
    expect(networkFault('0.0.0.0', '1')).toBeUndefined()
  })
})

describe('a database that cannot be used', () => {
  const fault = async (path: string) => {
    const before = readFileSync(path)
    const error = await openDatabase(path).then(
      (database) => database.close().then(() => undefined),
      (reason: unknown) => reason,
    )
    expect(error).toBeInstanceOf(StartFault)
    // Untouched, and nothing left beside it.
    expect(readFileSync(path).equals(before)).toBe(true)
    return (error as Error).message
  }
  const made = async () => {
    const path = join(folder(), 'parts.sqlite')
    const database = await openDatabase(path)
    for (let i = 0; i < 40; i++) await new PartStore(database).shelf(everyone).create(keptPart(part(`p${i}`)))
    await database.query('PRAGMA wal_checkpoint(TRUNCATE)')
    return { path, database }
  }
  it('lies where nothing can be made', async () => {
    // A folder that leads to one that is gone, as on a disk that is not there.
    const gone = join(folder(), 'gone')
    symlinkSync(join(folder(), 'nowhere', 'at', 'all'), gone)
    const reason = await openDatabase(join(gone, 'parts.sqlite')).catch((error: unknown) => error)
    expect(reason).toBeInstanceOf(StartFault)
    expect((reason as Error).message).toMatch(/cannot be opened for writing; .* MAKREL_DATABASE/)
  })
  it('is no database', async () => {
    const path = join(folder(), 'no.sqlite')
    writeFileSync(path, 'These are notes, and no database at all. '.repeat(200))
    expect(await fault(path)).toMatch(/damaged or not a database/)
  })
  it('is cut off', async () => {
    const { path, database } = await made()
    await database.close()
    truncateSync(path, 12_288)
    expect(await fault(path)).toMatch(/damaged/)
  })
  it('is another program’s', async () => {
    const path = join(folder(), 'other.sqlite')
    const other = new Sequelize({ dialect: 'sqlite', storage: path, logging: false })
    await other.query('CREATE TABLE recipes (name TEXT)')
    await other.close()
    expect(await fault(path)).toMatch(/another program/)
  })
  it('has a name among its tables’ changes that no version gives', async () => {
    const { path, database } = await made()
    await database.query("INSERT INTO SequelizeMeta (name) VALUES ('0\u00010-sprin')")
    await database.query('PRAGMA wal_checkpoint(TRUNCATE)')
    await database.close()
    expect(await fault(path)).toMatch(/damaged/)
  })
  it('is a newer version’s', async () => {
    const { path, database } = await made()
    await database.query("INSERT INTO SequelizeMeta (name) VALUES ('099-springs')")
    await database.query('PRAGMA wal_checkpoint(TRUNCATE)')
    await database.close()
    expect(await fault(path)).toMatch(/newer version \(099-springs\)/)
  })
  it('is a folder', async () => {
    await expect(openDatabase(folder())).rejects.toThrow(StartFault)
  })
  it('is copied before its tables are changed', async () => {
    const { path, database } = await made()
    await database.query("DELETE FROM SequelizeMeta WHERE name = '003-pictures-of-outlines'")
    await database.query('DROP TABLE kept_pictures')
    await database.close()
    const again = await openDatabase(path)
    await again.close()
    const copy = new Sequelize({
      dialect: 'sqlite',
      storage: `${path}.before-003-pictures-of-outlines`,
      logging: false,
    })
    const [rows] = await copy.query('SELECT COUNT(*) AS parts FROM parts')
    expect(rows).toEqual([{ parts: 40 }])
    await copy.close()
  })
  it('is had by one server at a time', () => {
    const path = join(folder(), 'one.sqlite')
    const letGo = takenByThis(path)
    const own = readFileSync(`${path}.lock`, 'utf8')
    expect(own).toMatch(new RegExp(`^${process.pid}( \\d+)?$`))
    letGo()
    expect(existsSync(`${path}.lock`)).toBe(false)
    // One that runs has it, one that does not has not.
    writeFileSync(`${path}.lock`, String(process.ppid))
    expect(() => takenByThis(path)).toThrow(/in use by another server .* remove .*one\.sqlite\.lock/)
    // A process of that number runs, but began at another time than the one that wrote it.
    writeFileSync(`${path}.lock`, `${process.ppid} 1`)
    takenByThis(path)()
    writeFileSync(`${path}.lock`, '999999999')
    takenByThis(path)()
  })
})

describe('a server killed at any moment', () => {
  it('has every save that it answered', async () => {
    const path = join(folder(), 'killed.sqlite')
    const port = 4500 + (process.pid % 400)
    const script = join(folder(), 'serve.mjs')
    writeFileSync(
      script,
      `import { createServer } from ${JSON.stringify(`${root}node_modules/vite/dist/node/index.js`)}
       const vite = await createServer({ root: ${JSON.stringify(root)}, configFile: false, server: { middlewareMode: true, ws: false }, appType: 'custom', logLevel: 'error', optimizeDeps: { noDiscovery: true } })
       const { createApp } = await vite.ssrLoadModule('/server/app.ts')
       const { app } = await createApp({ database: ${JSON.stringify(path)} })
       await app.listen({ host: '127.0.0.1', port: ${port} })
       console.log('ready')`,
    )
    const server: ChildProcess = spawn(process.execPath, [script], { stdio: ['ignore', 'pipe', 'inherit'] })
    await new Promise<void>((resolve) =>
      server.stdout!.on('data', (data) => String(data).includes('ready') && resolve()),
    )
    const send = (method: string, url: string, body: object) =>
      fetch(`http://127.0.0.1:${port}${url}`, {
        method,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      })
    expect((await send('POST', '/api/parts', { document: part('a') })).status).toBe(201)
    let answered = 1
    const gone = new Promise((resolve) => server.on('exit', resolve))
    let dying = false
    try {
      for (;;) {
        // However slow the machine: some saves were answered, and the next ones are under way when it is killed.
        if (answered > 5 && !dying) {
          dying = true
          setTimeout(() => server.kill('SIGKILL'), 100)
        }
        const response = await send('PUT', '/api/parts/a', {
          revision: answered,
          document: part('a', `revision ${answered + 1}`),
        })
        answered = ((await response.json()) as { revision: number }).revision
      }
    } catch {
      await gone
    }
    const database = await openDatabase(path)
    const kept = (await new PartStore(database).shelf(everyone).read('a'))!
    // The answer to the very last save may have been cut off on its way; none that arrived may be missing.
    expect(kept.revision === answered || kept.revision === answered + 1).toBe(true)
    expect(JSON.parse(kept.text).name).toBe(kept.revision === 1 ? 'a' : `revision ${kept.revision}`)
    expect(answered).toBeGreaterThan(5)
    await database.close()
  })
})

describe('callipers', () => {
  /** The next message that comes in, as an object. */
  const next = (socket: { once(event: 'message', hear: (data: unknown) => void): void }) =>
    new Promise<unknown>((resolve) => socket.once('message', (data) => resolve(JSON.parse(String(data)))))
  const open = async (as: string, more: Record<string, string> = {}) => {
    const inbox: unknown[] = []
    const socket = await app.injectWS(
      `/api/calliper?as=${as}`,
      { headers: { ...headers, ...more } },
      {
        onInit: (line) => void line.on('message', (data: unknown) => inbox.push(JSON.parse(String(data)))),
      },
    )
    return { socket, inbox }
  }
  const until = (holds: () => boolean) => vi.waitFor(() => expect(holds()).toBe(true), 30_000)
  it('hand each reading to every page, and tell how many there are', async () => {
    await app.ready()
    const [one, two] = [await open('page'), await open('page')]
    const instrument = await open('instrument')
    await until(() => one.inbox.length === 2 && two.inbox.length === 2)
    expect(one.inbox).toEqual([
      { type: 'instruments', count: 0 },
      { type: 'instruments', count: 1 },
    ])
    const answered = next(instrument.socket)
    instrument.socket.send(JSON.stringify({ type: 'reading', value: 12.43, unit: 'mm' }))
    expect(await answered).toEqual({ type: 'taken', pages: 2 })
    await until(() => two.inbox.length === 3)
    expect(two.inbox[2]).toEqual({ type: 'reading', value: 12.43, unit: 'mm' })
    instrument.socket.terminate()
    await until(() => one.inbox.length === 4)
    expect(one.inbox[3]).toEqual({ type: 'instruments', count: 0 })
  })
  it.each([
    ['no JSON', 'twelve', 'this is not JSON'],
    ['no number', JSON.stringify({ type: 'reading', value: '12', unit: 'mm' }), 'value must be a number'],
    ['another unit', JSON.stringify({ type: 'reading', value: 1, unit: 'ell' }), 'unit must be one of [mm, in]'],
    ['more than a reading', JSON.stringify({ type: 'reading', value: 1, unit: 'mm', x: 1 }), 'x is not allowed'],
  ])('refuse %s and go on', async (_, text, reason) => {
    await app.ready()
    const page = await open('page')
    const instrument = await open('instrument')
    const refused = next(instrument.socket)
    instrument.socket.send(text)
    expect(await refused).toEqual({ type: 'refused', reason })
    const taken = next(instrument.socket)
    instrument.socket.send(JSON.stringify({ type: 'reading', value: 3, unit: 'in' }))
    expect(await taken).toEqual({ type: 'taken', pages: 1 })
    await until(() => page.inbox.length === 3)
  })
  it('are asked by their own origin only, as one of two', async () => {
    await app.ready()
    await expect(open('page', { origin: 'http://elsewhere.example' })).rejects.toThrow()
    await expect(open('spy')).rejects.toThrow()
  })
})
