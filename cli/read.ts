import { readFile, stat } from 'node:fs/promises'
import { fileURLToPath } from 'node:url'
import { documentLimits, type Part } from '@makrel/core/document'
import { type MeshFormat, mostMeshBytes } from '@makrel/core/exchange'
import { ProblemError } from '@makrel/core/problems'
import { Readers } from '@makrel/threads'
import { InputError } from './input.ts'
import type { MeasuredPiece } from './readWorker.ts'

const worker = fileURLToPath(new URL('./readWorker.js', import.meta.url))
/** A million triangles take 4 s and 350 MB. */
const limits = { longest: 120_000, memory: 4096 }

/** @throws InputError, ProblemError, Unreadable */
export async function readPart(file: string): Promise<Part> {
  const text = (await bytesOf(file, documentLimits.bytes)).toString('utf8')
  return inThread((readers) => readers.run('part', { text }))
}

/**
 * The pieces of a mesh from anywhere.
 * @throws InputError, ProblemError, Unreadable
 */
export async function measuredMesh(file: string, format: MeshFormat): Promise<readonly MeasuredPiece[]> {
  const bytes = await bytesOf(file, mostMeshBytes)
  return inThread((readers) => readers.run('mesh', { format: format.id, bytes }))
}

async function inThread<T>(read: (readers: Readers) => Promise<T>): Promise<T> {
  const readers = new Readers({ worker, ...limits })
  try {
    return await read(readers)
  } finally {
    await readers.close()
  }
}

async function bytesOf(file: string, most: number): Promise<Buffer> {
  try {
    const { size } = await stat(file)
    if (size > most) throw new ProblemError('file-too-large', { limit: `${most / 1e6} MB` })
    return await readFile(file)
  } catch (error) {
    if (error instanceof ProblemError) throw error
    throw new InputError(`cannot read ${file}: ${(error as Error).message}`)
  }
}
