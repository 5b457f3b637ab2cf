import { mkdtempSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { utimes } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { inflateRawSync } from 'node:zlib'
import { newPart, type Part, readPartFile } from '@makrel/core/document'
import { compileLibrary, Kernel, loadLibrary } from '@makrel/core/kernel'
import { fromBytes } from '@makrel/core/mesh'
import { upgraded } from '@makrel/core/planning'
import { Builder, drawingOf, keptDrawing, measuringFineness, type PartDrawing } from '@makrel/core/solids'
import { inTurn } from '@makrel/core/testing'
import type { FastifyInstance } from 'fastify'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { createApp } from './app.ts'
import { DrawAhead } from './drawAhead.ts'
import { contentSum, Drawings } from './drawings.ts'
import { keptPart } from './kept.ts'
import type { PartStore } from './parts.ts'
import { everyone } from './scope.ts'

const folder = () => mkdtempSync(join(tmpdir(), 'makrel-drawn-'))
const bytesOf = (letter: string, count = 100) => Buffer.alloc(count, letter)
const sum = (digit: string) => digit.repeat(64)

describe('drawings that are kept', () => {
  it('come out as they went in, by all that they are known by', async () => {
    const drawings = new Drawings(folder(), 'now')
    await drawings.keep([sum('a'), sum('b')], bytesOf('x'))
    expect(await drawings.get(sum('a'))).toEqual(bytesOf('x'))
    expect(await drawings.get(sum('b'))).toEqual(bytesOf('x'))
    expect([await drawings.has(sum('b')), await drawings.has(sum('c'))]).toEqual([true, false])
    expect(await drawings.get(sum('c'))).toBeUndefined()
  })
  it('go when there is no room: what was used least lately first', async () => {
    const at = folder()
    const drawings = new Drawings(at, 'now', 350)
    const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000)
    for (const [i, name] of ['a', 'b', 'c'].entries()) {
      await drawings.keep([sum(name)], bytesOf(name))
      await utimes(join(at, 'now', sum(name)), ago(30 - i), ago(30 - i))
    }
    // The oldest one is looked at.
    await drawings.get(sum('a'))
    await drawings.keep([sum('d')], bytesOf('d'))
    expect(readdirSync(join(at, 'now')).sort()).toEqual([sum('a'), sum('c'), sum('d')])
  })
  it('are those of this build alone', async () => {
    const at = folder()
    await new Drawings(at, 'before').keep([sum('a')], bytesOf('x'))
    const drawings = new Drawings(at, 'now')
    expect(await drawings.get(sum('a'))).toBeUndefined()
    await drawings.keep([sum('b')], bytesOf('y'))
    expect(readdirSync(at)).toEqual(['now'])
  })
})

describe('parts that nobody has opened', () => {
  let app: FastifyInstance
  let store: PartStore
  let kept: string
  let ahead: DrawAhead
  beforeEach(async () => {
    const at = folder()
    kept = join(at, 'drawn', 'now')
    const drawings = new Drawings(join(at, 'drawn'), 'now')
    ;({ app, store } = await createApp({ database: join(at, 'parts.sqlite'), drawings }))
    ahead = new DrawAhead(store, drawings)
  })
  afterEach(async () => {
    await ahead.close()
    await app.close()
  })

  const ask = (url: string) => app.inject({ method: 'GET', url, headers: { host: '127.0.0.1:4310' } })
  /** What a page is given that opens the part, as it asks for it. */
  const asPageAsks = async (id: string) => {
    const { document } = (await ask(`/api/parts/${id}`)).json() as { document: Part }
    return ask(`/api/drawings/now/${contentSum(document)}`)
  }
  const demo = (name: string) =>
    readPartFile(readFileSync(fileURLToPath(new URL(`../demo/${name}.makrel.json`, import.meta.url)), 'utf8'))
  const put = (part: Part) => store.shelf(everyone).create(keptPart(part))

  let builder: Builder
  beforeAll(async () => {
    const wasm = readFileSync(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm'))
    builder = new Builder(new Kernel(await loadLibrary(await compileLibrary(wasm))))
  })
  afterAll(() => builder.clear())
  /** As the page draws it itself. */
  const drawnHere = async (part: Part) => {
    const drawing = drawingOf(await builder.build(upgraded(part), { fineness: measuringFineness }))
    // Fields that are not there are left out of what is sent.
    return unnamed(keptDrawing({ ...drawing, readings: JSON.parse(JSON.stringify(drawing.readings)) }))
  }
  /** Who draws gives names of its own to solids. */
  const unnamed = (drawing: PartDrawing) => {
    expect(drawing.pieces.every(({ key }) => key.startsWith('kept '))).toBe(true)
    return { ...drawing, pieces: drawing.pieces.map(({ key: _, ...piece }) => piece) }
  }

  it('are drawn as the page draws them, an imported mesh and read-outs among them', { timeout: 240_000 }, async () => {
    const names = ['compass-housing', ...inTurn(2, ['lantern-bracket', 'rigger-bolt-tray'])]
    for (const name of names) await put(demo(name))
    expect((await asPageAsks('compass-housing')).statusCode).toBe(204)
    await ahead.drawAll(0)
    for (const name of names) {
      const answer = await asPageAsks(demo(name).id)
      expect(answer.statusCode, name).toBe(200)
      const sent = fromBytes(new Uint8Array(inflateRawSync(answer.rawPayload))) as PartDrawing
      const own = await drawnHere(demo(name))
      expect(own.pieces.some(({ mesh }) => mesh && mesh.positions.length > 1000)).toBe(true)
      expect(unnamed(sent)).toEqual(own)
    }
  })
  it('are drawn once, and again when they were changed and left alone', { timeout: 240_000 }, async () => {
    const part = newPart({ part: 'a', piece: 'p' }, 'A')
    await put(part)
    await ahead.drawAll(0)
    const [name] = readdirSync(kept)
    const { mtimeMs } = statSync(join(kept, name!))
    await ahead.drawAll(0)
    expect(readdirSync(kept)).toEqual([name])
    expect(statSync(join(kept, name!)).mtimeMs).toBe(mtimeMs)
    await store.shelf(everyone).save(1, keptPart({ ...part, name: 'B' }))
    await ahead.drawAll(60_000)
    expect((await asPageAsks('a')).statusCode).toBe(204)
    await ahead.drawAll(0)
    expect((await asPageAsks('a')).statusCode).toBe(200)
  })
  it('are known as they are kept, and as a page brings them up to what it knows', { timeout: 240_000 }, async () => {
    const old = demo('compass-housing')
    const older: Part = {
      ...old,
      id: 'older',
      pieces: old.pieces.map((piece) => ({
        ...piece,
        steps: piece.steps.map((step) => ({ ...step, version: undefined }) as typeof step),
      })),
    }
    expect(contentSum(upgraded(older))).not.toBe(contentSum(older))
    await put(older)
    await ahead.drawAll(0)
    for (const part of [readPartFile(JSON.stringify(older)), upgraded(readPartFile(JSON.stringify(older)))])
      expect((await ask(`/api/drawings/now/${contentSum(part)}`)).statusCode).toBe(200)
  })
  it('are drawn, though one before them cannot be read', { timeout: 240_000 }, async () => {
    await put(newPart({ part: 'a', piece: 'p' }, 'A'))
    await store.shelf(everyone).create({ ...keptPart(newPart({ part: 'b', piece: 'p' }, 'B')), text: '{"version":1}' })
    await ahead.drawAll(0)
    expect((await asPageAsks('a')).statusCode).toBe(200)
  })
  it('are not drawn once this is closed, and what is being drawn keeps nothing from closing', async () => {
    await put(demo('rigger-bolt-tray'))
    ahead.start()
    await new Promise((resolve) => setTimeout(resolve, 50))
    const began = performance.now()
    await ahead.close()
    expect(performance.now() - began).toBeLessThan(10_000)
    await ahead.drawAll(0)
    expect((await asPageAsks('rigger-bolt-tray')).statusCode).toBe(204)
  })
  it('are asked for by their build and their sum alone', async () => {
    expect((await ask(`/api/drawings/before/${sum('a')}`)).statusCode).toBe(204)
    expect((await ask('/api/drawings/now/..%2f..%2fparts.sqlite')).statusCode).toBe(400)
    expect((await ask(`/api/drawings/%2e%2e/${sum('a')}`)).statusCode).toBe(404)
  })
})
