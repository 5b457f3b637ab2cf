import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type KeptThing, type Material, type Printer, shippedMaterials, shippedPrinters } from '@makrel/core/fits'
import type { FastifyInstance } from 'fastify'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { createApp } from './app.ts'
import { openDatabase } from './database.ts'
import { everyone } from './scope.ts'
import { WorkshopStore } from './workshop.ts'
import { Writes } from './writes.ts'

let app: FastifyInstance
let file: string
beforeEach(async () => {
  file = join(mkdtempSync(join(tmpdir(), 'makrel-')), 'parts.sqlite')
  ;({ app } = await createApp({ database: file }))
})
afterEach(() => app.close())

const ask = (method: 'GET' | 'POST' | 'PUT' | 'DELETE', url: string, payload?: object) =>
  app.inject({ method, url, headers: { host: '127.0.0.1:4310' }, ...(payload ? { payload } : {}) })
const printers = async () => (await ask('GET', '/api/printers')).json() as KeptThing<Printer>[]
const [tern, dunlin] = shippedPrinters as readonly [Printer, Printer]
const skua: Printer = { ...tern, id: 'skua-300', name: 'Skua 300', bed: [300, 300, 320] }

describe('printers and materials', () => {
  it('are those that ship at first, in their order', async () => {
    expect((await printers()).map(({ thing }) => thing)).toEqual(shippedPrinters)
    const materials = (await ask('GET', '/api/materials')).json() as KeptThing<Material>[]
    expect(materials.map(({ thing, revision, formerly }) => [thing, revision, formerly])).toEqual(
      shippedMaterials.map((thing) => [thing, 1, []]),
    )
  })
  it('are added once, the last in the list, also where the answer was lost', async () => {
    for (const status of [201, 201])
      expect((await ask('POST', '/api/printers', { thing: skua })).statusCode).toBe(status)
    expect((await printers()).map(({ thing }) => thing.id)).toEqual([
      ...shippedPrinters.map(({ id }) => id),
      'skua-300',
    ])
    const other = await ask('POST', '/api/printers', { thing: { ...skua, bridge: 3 } })
    expect([other.statusCode, other.json().error]).toEqual([409, 'There is already a printer with this id here.'])
  })
  it('keep their earlier states, the latest first, each once', async () => {
    const [one, two] = [
      { ...tern, bridge: 17 },
      { ...tern, bridge: 18 },
    ]
    const put = async (base: number, thing: Printer) =>
      (await ask('PUT', '/api/printers/tern-220', { base, thing })).json().revision
    expect([await put(1, one), await put(2, two), await put(3, one)]).toEqual([2, 3, 4])
    const [kept] = await printers()
    expect([kept!.thing, kept!.revision, kept!.formerly]).toEqual([one, 4, [two, tern]])
    // What is so already is kept, whatever it was made from.
    expect(await put(1, one)).toBe(4)
  })
  it('changed from an earlier state are refused, with the latest', async () => {
    await ask('PUT', '/api/printers/tern-220', { base: 1, thing: { ...tern, bridge: 17 } })
    const late = await ask('PUT', '/api/printers/tern-220', { base: 1, thing: { ...tern, bridge: 18 } })
    expect(late.statusCode).toBe(409)
    expect(late.json()).toMatchObject({
      error: 'This printer was changed elsewhere since it was opened.',
      current: { thing: { bridge: 17 }, revision: 2 },
    })
  })
  it('are taken off the list and put back as they were', async () => {
    expect((await ask('DELETE', '/api/printers/dunlin-140')).statusCode).toBe(204)
    expect((await printers()).map(({ thing }) => thing.id)).toEqual(['tern-220', 'gannet-350'])
    expect((await ask('DELETE', '/api/printers/dunlin-140')).statusCode).toBe(404)
    expect((await ask('PUT', '/api/printers/dunlin-140', { base: 1, thing: dunlin })).statusCode).toBe(404)
    expect((await ask('POST', '/api/printers/dunlin-140/restore')).statusCode).toBe(204)
    expect((await ask('POST', '/api/printers/dunlin-140/restore')).statusCode).toBe(404)
    expect((await printers()).map(({ thing }) => thing)).toEqual(shippedPrinters)
  })
  it.each([
    [{ ...skua, lineWidth: 12 }, /lineWidth must be less than or equal to 5/],
    [{ ...skua, bed: [300, 300] }, /bed must contain 3 items/],
    [{ ...skua, fits: { ...skua.fits, slide: undefined } }, /slide is required/],
    [{ ...skua, colour: 'red' }, /colour is not allowed/],
    [{ ...skua, id: '../x' }, /id must be 1 to 64/],
    ['skua', /printer must be of type object/],
  ])('that cannot be are refused in words: %o', async (thing, text) => {
    const answer = await ask('POST', '/api/printers', { thing })
    expect(answer.statusCode).toBe(400)
    expect(answer.json().error).toMatch(text)
    expect(await printers()).toHaveLength(shippedPrinters.length)
  })
  it('at another address than their own are refused', async () => {
    const answer = await ask('PUT', '/api/printers/tern-220', { base: 1, thing: dunlin })
    expect([answer.statusCode, answer.json().error]).toEqual([400, 'The printer has another id than its address.'])
  })
  it('are there after the server was started anew', async () => {
    await ask('POST', '/api/printers', { thing: skua })
    await app.close()
    ;({ app } = await createApp({ database: file }))
    expect((await printers()).map(({ thing }) => thing.id)).toContain('skua-300')
    expect(await printers()).toHaveLength(shippedPrinters.length + 1)
  })
})

it('one owner does not see what another one has', async () => {
  const database = await openDatabase(join(mkdtempSync(join(tmpdir(), 'makrel-')), 'parts.sqlite'))
  const store = new WorkshopStore(database, new Writes(database))
  await store.add('printers', skua, { owner: 'ida' })
  expect((await store.list('printers', { owner: 'ida' })).map(({ thing }) => thing.id)).toEqual(['skua-300'])
  expect(await store.list('printers', everyone)).toHaveLength(shippedPrinters.length)
  expect(await store.setRemoved('printers', 'skua-300', true, everyone)).toBe(false)
  await database.close()
})
