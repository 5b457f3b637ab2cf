import { createHash } from 'node:crypto'
import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Part } from '@makrel/core/document'
import { contentText } from '@makrel/core/document/content'
import type { FastifyInstance } from 'fastify'
import Joi from 'joi'

/** What all that is drawn of a part follows from, in a few letters. */
export function contentSum(part: Part): string {
  return createHash('sha256').update(contentText(part)).digest('hex')
}

/** So much is kept, bytes; what was used least lately goes first. */
const mostBytes = 100_000_000

/** Drawings of parts as pages take them, by what they are of: each a file, which may be thrown away at any time. */
export class Drawings {
  /** which build of the application made them: another one may draw otherwise */
  readonly built: string
  readonly #all: string
  readonly #folder: string
  readonly #most: number

  constructor(folder: string, built: string, most = mostBytes) {
    this.built = built
    this.#all = folder
    this.#folder = join(folder, built)
    this.#most = most
  }

  async get(sum: string): Promise<Buffer | undefined> {
    const path = join(this.#folder, sum)
    const bytes = await readFile(path).catch(() => undefined)
    const now = new Date()
    if (bytes) await utimes(path, now, now).catch(() => undefined)
    return bytes
  }

  async has(sum: string): Promise<boolean> {
    return stat(join(this.#folder, sum)).then(
      () => true,
      () => false,
    )
  }

  /** Keeps the drawing of all these, and lets go what there is no room for. */
  async keep(sums: readonly string[], bytes: Uint8Array): Promise<void> {
    await mkdir(this.#folder, { recursive: true })
    for (const sum of sums) {
      // Whoever asks meanwhile gets all of it, or none.
      const path = join(this.#folder, sum)
      await writeFile(`${path}.new`, bytes)
      await rename(`${path}.new`, path)
    }
    await this.makeRoom()
  }

  private async makeRoom(): Promise<void> {
    for (const other of await readdir(this.#all))
      if (other !== this.built) await rm(join(this.#all, other), { recursive: true, force: true })
    const files = await Promise.all(
      (await readdir(this.#folder)).map(async (name) => {
        const path = join(this.#folder, name)
        const { size, mtimeMs } = await stat(path)
        return { path, size, at: mtimeMs }
      }),
    )
    let left = files.reduce((sum, { size }) => sum + size, 0)
    for (const { path, size } of files.sort((a, b) => a.at - b.at)) {
      if (left <= this.#most) break
      await rm(path, { force: true })
      left -= size
    }
  }
}

const params = Joi.object({
  built: Joi.string()
    .pattern(/^[a-z0-9]{1,32}$/)
    .required(),
  sum: Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .required(),
})

/** Where there is no drawing, the answer is empty: a page draws the part itself. */
export async function drawingRoutes(app: FastifyInstance, drawings: Drawings | undefined): Promise<void> {
  app.get<{ Params: { built: string; sum: string } }>(
    '/api/drawings/:built/:sum',
    { schema: { params } },
    async ({ params: { built, sum } }, reply) => {
      const bytes = built === drawings?.built ? await drawings.get(sum) : undefined
      if (!bytes) return reply.code(204).send()
      return reply.type('application/octet-stream').header('cache-control', 'no-store').send(bytes)
    },
  )
}
