import { readPartFile } from '@makrel/core/document'
import { bringIn, formats, openMesh, readDrawing } from '@makrel/core/exchange'
import { attempt } from '@makrel/core/problems'
import type { NameOf } from './protocol.ts'
import { type Answers, serve } from './serving.ts'

const answers: Answers<NameOf<'files'>> = {
  readPart: ({ text }) => attempt([], () => readPartFile(text)),
  openMesh: ({ file, bytes, bed }) => attempt([], () => openMesh(file, bytes, bed, formats)),
  bringIn: ({ opened, unit }) => attempt([], () => bringIn(opened, unit)),
  readDrawing: ({ name, text, mmPerUnit }) => attempt([], () => readDrawing(name, text, { mmPerUnit })),
}

serve(Promise.resolve(answers))
