import { readPartFile } from '@makrel/core/document'
import { bringIn, formats, openMesh, readDrawing } from '@makrel/core/exchange'
import { attempt } from '@makrel/core/problems'
import type { Calls, ReadName, Request, Response } from './protocol.ts'

const reads: { readonly [N in ReadName]: (input: Calls[N]['in']) => Calls[N]['out'] } = {
  readPart: ({ text }) => attempt([], () => readPartFile(text)),
  openMesh: ({ file, bytes, bed }) => attempt([], () => openMesh(file, bytes, bed, formats)),
  bringIn: ({ opened, unit }) => attempt([], () => bringIn(opened, unit)),
  readDrawing: ({ name, text, mmPerUnit }) => attempt([], () => readDrawing(name, text, { mmPerUnit })),
}

self.onmessage = ({ data: { id, name, input } }: MessageEvent<Request<ReadName>>) => {
  let response: Response
  try {
    response = { id, ok: true, output: reads[name](input as never) }
  } catch (error) {
    response = { id, ok: false, message: error instanceof Error ? error.message : String(error) }
  }
  self.postMessage(response)
}
