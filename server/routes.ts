import { currentVersion, type ShelfOrder, shelfOrders } from '@makrel/core/document'
import { ProblemError, problemText } from '@makrel/core/problems'
import { Busy } from '@makrel/threads'
import type { FastifyInstance } from 'fastify'
import Joi from 'joi'
import type { Documents } from './documents.ts'
import type { PartStore, Shelf } from './parts.ts'
import { scopeOf } from './scope.ts'

declare module 'fastify' {
  interface FastifyRequest {
    /** what whoever asks has */
    shelf: Shelf
  }
}

const id = Joi.string().pattern(/^[A-Za-z0-9_-]{1,64}$/)
const params = Joi.object({ id: id.required() })
const revisionParams = params.keys({ revision: Joi.number().integer().min(1).required() })
const size = Joi.array().items(Joi.number().min(0)).length(3)
const pngStart = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])

/** Everything the page asks of the server. Documents are checked by the same reader as part files, in threads of their own. */
export async function partRoutes(
  app: FastifyInstance,
  { store, documents }: { readonly store: PartStore; readonly documents: Documents },
): Promise<void> {
  app.decorateRequest('shelf')
  app.addHook('onRequest', async (request) => {
    request.shelf = store.shelf(scopeOf(request))
  })
  app.get<{ Querystring: { search?: string; order?: ShelfOrder; from?: number; count?: number } }>(
    '/api/parts',
    {
      schema: {
        querystring: Joi.object({
          search: Joi.string().allow('').max(120),
          order: Joi.string().valid(...shelfOrders),
          from: Joi.number().integer().min(0),
          count: Joi.number().integer().min(1).max(500),
        }),
      },
    },
    async ({ query, shelf }) => shelf.list(query),
  )

  await app.register(async (keeping) => {
    // Documents go to their reader as they come.
    keeping.removeContentTypeParser('application/json')
    keeping.addContentTypeParser('application/json', { parseAs: 'buffer' }, (_, body, done) => done(null, body))

    keeping.post<{ Body: Buffer }>('/api/parts', async ({ body, shelf }, reply) => {
      const { part } = await documents.sent(body, true, (hashes) => shelf.assets(hashes))
      if (!(await shelf.create(part)))
        return reply.code(409).send({ error: 'There is already a part with this id here.' })
      return reply.code(201).send({ id: part.id, revision: 1 })
    })

    keeping.put<{ Params: { id: string }; Body: Buffer }>(
      '/api/parts/:id',
      { schema: { params } },
      async ({ params: { id }, body, shelf }, reply) => {
        const { base, part } = await documents.sent(body, false, (hashes) => shelf.assets(hashes))
        if (part.id !== id) return reply.code(400).send({ error: 'The document has another id than its address.' })
        const outcome = await shelf.save(base, part)
        switch (outcome.kind) {
          case 'saved':
            return { revision: outcome.revision, updatedAt: outcome.updatedAt }
          case 'newer':
            return reply
              .code(400)
              .send({ error: problemText('file-newer', { version: outcome.version, known: currentVersion }) })
          case 'missing':
            return reply.code(404).send({ error: 'There is no such part on the shelf.' })
          case 'stale': {
            const document = await documents.current(outcome.text)
            return reply
              .code(409)
              .type('application/json')
              .send(
                `{"error":"This part was changed elsewhere since it was opened.","current":${withDocument(document, { revision: outcome.revision })}}`,
              )
          }
        }
      },
    )
  })

  app.get<{ Params: { id: string } }>(
    '/api/parts/:id',
    { schema: { params } },
    async ({ params: { id }, shelf }, reply) => {
      const found = await shelf.read(id)
      if (!found) return reply.code(404).send({ error: 'There is no such part on the shelf.' })
      const { text, ...rest } = found
      return reply.type('application/json').send(withDocument(await documents.current(text), rest))
    },
  )

  app.get<{ Params: { id: string } }>(
    '/api/parts/:id/raw',
    { schema: { params } },
    async ({ params: { id }, shelf }, reply) => {
      const text = await shelf.raw(id)
      if (text === undefined) return reply.code(404).send({ error: 'There is no such part on the shelf.' })
      return reply
        .type('application/json')
        .header('content-disposition', `attachment; filename="${id}.makrel.json"`)
        .send(text)
    },
  )

  app.delete<{ Params: { id: string } }>(
    '/api/parts/:id',
    { schema: { params } },
    async ({ params: { id }, shelf }, reply) => {
      if (!(await shelf.setRemoved(id, true)))
        return reply.code(404).send({ error: 'There is no such part on the shelf.' })
      return reply.code(204).send()
    },
  )

  app.post<{ Params: { id: string } }>(
    '/api/parts/:id/restore',
    { schema: { params } },
    async ({ params: { id }, shelf }, reply) => {
      if (!(await shelf.setRemoved(id, false))) return reply.code(404).send({ error: 'There is no such removed part.' })
      return reply.code(204).send()
    },
  )

  app.get<{ Params: { id: string } }>(
    '/api/parts/:id/revisions',
    { schema: { params } },
    async ({ params: { id }, shelf }, reply) =>
      (await shelf.revisions(id)) ?? reply.code(404).send({ error: 'There is no such part on the shelf.' }),
  )

  app.get<{ Params: { id: string; revision: number } }>(
    '/api/parts/:id/revisions/:revision',
    { schema: { params: revisionParams } },
    async ({ params: { id, revision }, shelf }, reply) => {
      const text = await shelf.revision(id, revision)
      if (text === undefined) return reply.code(404).send({ error: 'This state of the part is not kept.' })
      return reply.type('application/json').send(withDocument(await documents.current(text)))
    },
  )

  app.put<{ Params: { id: string; revision: number }; Body: { name: string } }>(
    '/api/parts/:id/revisions/:revision',
    { schema: { params: revisionParams, body: Joi.object({ name: Joi.string().allow('').max(120).required() }) } },
    async ({ params: { id, revision }, body, shelf }, reply) => {
      if (!(await shelf.nameRevision(id, revision, body.name)))
        return reply.code(404).send({ error: 'This state of the part is not kept.' })
      return reply.code(204).send()
    },
  )

  app.get<{ Params: { id: string } }>(
    '/api/parts/:id/picture',
    { schema: { params } },
    async ({ params: { id }, shelf }, reply) => {
      const png = await shelf.picture(id)
      if (!png) return reply.code(404).send({ error: 'This part has no picture yet.' })
      return reply.type('image/png').header('cache-control', 'private, max-age=31536000').send(png)
    },
  )

  app.put<{ Params: { id: string }; Body: { revision: number; size: number[]; png: string } }>(
    '/api/parts/:id/picture',
    {
      schema: {
        params,
        body: Joi.object({
          revision: Joi.number().integer().min(1).required(),
          size: size.required(),
          png: Joi.string().base64().max(1_000_000).required(),
        }),
      },
    },
    async ({ params: { id }, body, shelf }, reply) => {
      const png = Buffer.from(body.png, 'base64')
      if (!png.subarray(0, pngStart.length).equals(pngStart))
        return reply.code(400).send({ error: 'The picture is not a PNG.' })
      if (!(await shelf.setPicture(id, { ...body, png })))
        return reply.code(404).send({ error: 'There is no such part on the shelf.' })
      return reply.code(204).send()
    },
  )

  app.get('/healthz', (_, reply) => {
    const health = store.health()
    return reply.code(health.ok ? 200 : 503).send(health)
  })
}

/** JSON of a document, that is JSON already, and what is told beside it. */
function withDocument(document: string, beside: object = {}): string {
  const rest = JSON.stringify(beside).slice(1, -1)
  return `{"document":${document}${rest ? `,${rest}` : ''}}`
}

/** What a disk will not take, by the codes of SQLite (sqlite.org/rescode.html) and of the system. */
const diskProblems: ReadonlyMap<string | undefined, string> = new Map([
  ['SQLITE_FULL', 'The disk that parts are kept on is full.'],
  ['ENOSPC', 'The disk that parts are kept on is full.'],
  ['SQLITE_READONLY', 'Parts are kept where nothing may be written.'],
  ['EROFS', 'Parts are kept where nothing may be written.'],
])

/** Status and text for an error; what is not the caller's doing is told without its inner detail. */
export function answerFor(error: unknown): { status: number; text: string } {
  if (error instanceof ProblemError) return { status: 400, text: error.message }
  const { statusCode = 500, message = '', code } = error as { statusCode?: number; message?: string; code?: string }
  if (code === 'FST_ERR_CTP_BODY_TOO_LARGE') return { status: 413, text: 'This is larger than a part file may be.' }
  // What the database says comes inside of what the driver and the mapper make of it.
  const { original } = error as { original?: { code?: string } }
  const room = diskProblems.get(original?.code ?? code)
  if (room) return { status: 507, text: `${room} Nothing was changed.` }
  if (code === 'FST_ERR_CTP_INVALID_MEDIA_TYPE') return { status: 415, text: 'Send this as JSON (application/json).' }
  // Only what is told by this program itself is one of these.
  return statusCode < 500 || error instanceof Busy
    ? { status: statusCode, text: message }
    : { status: 500, text: 'Something went wrong on the server; nothing was changed.' }
}
