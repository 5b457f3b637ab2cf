import { readPartFile } from '@makrel/core/document'
import { bringIn, formats, openMesh, readDrawing } from '@makrel/core/exchange'
import { attempt } from '@makrel/core/problems'
import type { NameOf } from './protocol.ts'
import { type Answers, serve } from './serving.ts'

const answers: Answers<NameOf<'files'>> = {
  readPart: ({ text }) => attempt([], () => readPartFile(text)),
  openMesh: ({ file, bytes, bed }) => attempt([], () => openMesh(file, bytes, bed, formats)),
  bringIn: async ({ opened, unit }) => {
    const read = attempt([], () => bringIn(opened, unit))
    if (read.ok || read.problem.code !== 'mesh-overlaps') return read
    const { loadedKernel } = await import('./loadedKernel.ts')
    const kernel = await loadedKernel()
    return attempt([], () => bringIn(opened, unit, kernel))
  },
  readDrawing: ({ name, text, mmPerUnit }) => attempt([], () => readDrawing(name, text, { mmPerUnit })),
}

serve(Promise.resolve(answers))
