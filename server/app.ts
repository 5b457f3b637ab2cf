import { once } from 'node:events'
import { existsSync } from 'node:fs'
import type { IncomingMessage } from 'node:http'
import { setTimeout } from 'node:timers/promises'
import helmet from '@fastify/helmet'
import statics from '@fastify/static'
import { documentLimits } from '@makrel/core/document'
import Fastify, { type FastifyInstance, type FastifyReply } from 'fastify'
import type { Schema } from 'joi'
import { calliperRoutes } from './calliper.ts'
import { openDatabase } from './database.ts'
import { Documents } from './documents.ts'
import { type Drawings, drawingRoutes } from './drawings.ts'
import { answersTo } from './network.ts'
import { PartStore } from './parts.ts'
import { answerFor, partRoutes } from './routes.ts'
import { WorkshopStore, workshopRoutes } from './workshop.ts'
import { Writes } from './writes.ts'

export interface AppOptions {
  readonly database: string
  /** folder of the built page; without it only the interface for programs is served */
  readonly web?: string
  /** least level of the structured log on standard output; none by default */
  readonly log?: string
  /** what reads documents; it stays open when the server closes. One of its own by default. */
  readonly documents?: Documents
  /** drawings of parts that were made ahead of whoever opens them; none by default */
  readonly drawings?: Drawings
}

/** The server, ready to listen; closing it closes its database. */
export async function createApp(options: AppOptions): Promise<{ app: FastifyInstance; store: PartStore }> {
  const database = await openDatabase(options.database)
  const writes = new Writes(database)
  const store = new PartStore(database, undefined, writes)
  const documents = options.documents ?? new Documents()
  const app = Fastify({
    logger: options.log ? { level: options.log } : false,
    bodyLimit: documentLimits.bytes + 100_000,
    routerOptions: { ignoreTrailingSlash: true },
  })
  app.addHook('onClose', async () => {
    // What is being read and written is finished first.
    if (documents !== options.documents) await documents.close()
    await store.settled()
    await database.close()
  })
  app.setValidatorCompiler<Schema>(
    ({ schema }) =>
      (data) =>
        schema.validate(data, { errors: { wrap: { label: false } } }),
  )
  app.setErrorHandler(async (error, request, reply) => {
    const { status, text } = answerFor(error)
    if (status === 413) await takenIn(request.raw)
    if (status >= 500) request.log.error(error)
    return reply.code(status).send({ error: text })
  })
  guardOrigin(app)
  // All that is sent is JSON: plain text would come to a route as what it never asks for.
  app.removeContentTypeParser('text/plain')
  await app.register(helmet, {
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        // The solid library is WebAssembly.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // Positions of overlays are written as style attributes.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        upgradeInsecureRequests: null,
      },
    },
    strictTransportSecurity: false,
  })
  await calliperRoutes(app)
  await partRoutes(app, { store, documents })
  await drawingRoutes(app, options.drawings)
  await workshopRoutes(app, new WorkshopStore(database, writes))
  if (options.web && existsSync(options.web)) await servePage(app, options.web)
  return { app, store }
}

/** Whoever still sends hears no answer: what is too large is taken in, and thrown away. */
async function takenIn(body: IncomingMessage): Promise<void> {
  if (body.complete || body.destroyed) return
  body.resume()
  await Promise.race([once(body, 'end'), once(body, 'close'), setTimeout(longestBody, undefined, { ref: false })])
}

/** ms */
const longestBody = 20_000

/** Pages of other origins, and names that merely resolve to this machine, get no answer. */
function guardOrigin(app: FastifyInstance): void {
  app.addHook('onRequest', async (request, reply) => {
    const host = request.headers.host ?? ''
    if (!answersTo(host, request.raw.socket?.localAddress, process.env.MAKREL_HOST_NAME))
      return reply.code(403).send({ error: 'This server answers to its own address only.' })
    const { origin } = request.headers
    // Some browsers leave out the origin, and tell so much instead.
    const isForeign = ['cross-site', 'same-site'].includes(String(request.headers['sec-fetch-site']))
    const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method)
    if (isForeign && changes) return reply.code(403).send({ error: 'Another site asked for this.' })
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`)
      return reply.code(403).send({ error: 'Another site asked for this.' })
  })
}

async function servePage(app: FastifyInstance, root: string): Promise<void> {
  await app.register(statics, { root, maxAge: '1y', immutable: true, index: false })
  const sendPage = (reply: FastifyReply) =>
    reply.header('cache-control', 'no-cache').sendFile('index.html', { cacheControl: false })
  app.get('/', (_, reply) => sendPage(reply))
  // Every address that is not a file or a program's is a stage of the application.
  app.setNotFoundHandler((request, reply) => {
    const page =
      request.method === 'GET' && !request.url.startsWith('/api/') && !/\.\w+$/.test(request.url.split('?')[0]!)
    if (!page) return reply.code(404).send({ error: 'There is nothing at this address.' })
    return sendPage(reply)
  })
}
