import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { constants, setPriority } from 'node:os'
import { deflateRawSync } from 'node:zlib'
import { readPartFile } from '@makrel/core/document'
import { compileLibrary, Kernel, loadLibrary } from '@makrel/core/kernel'
import { toBytes } from '@makrel/core/mesh'
import { upgraded } from '@makrel/core/planning'
import { Builder, drawingOf, keptDrawing, measuringFineness, mostTrianglesKept } from '@makrel/core/solids'
import type { Answer } from '@makrel/threads'
import { contentSum } from './drawings.ts'

// Whoever works at this machine goes first. Of the whole process this would be the thread alone only where the system tells threads apart.
if (process.platform === 'linux') setPriority(0, constants.priority.PRIORITY_LOW)

const compiled = readFile(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm')).then(compileLibrary)
const kernel = compiled.then(loadLibrary).then((library) => new Kernel(library))

/** A part as pages ask for it: as it is kept, and as they bring it up to what they know. */
function asked(text: string) {
  const kept = readPartFile(text)
  const part = upgraded(kept)
  return { part, sums: [...new Set([kept, part].map(contentSum))] }
}

/** What the drawing of a kept part is known by. */
export function sums({ text }: { text: string }): Answer<readonly string[]> {
  return { value: asked(text).sums }
}

/** The drawing of a kept part; undefined of one that is too large to keep it. */
export async function draw({ text }: { text: string }): Promise<Answer<Uint8Array | undefined>> {
  const builder = new Builder(await kernel)
  try {
    const drawing = drawingOf(await builder.build(asked(text).part, { fineness: measuringFineness }))
    if (drawing.pieces.reduce((sum, { triangles }) => sum + triangles, 0) > mostTrianglesKept)
      return { value: undefined }
    return { value: deflateRawSync(toBytes(keptDrawing(drawing))) }
  } finally {
    builder.clear()
  }
}
