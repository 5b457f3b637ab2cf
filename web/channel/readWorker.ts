import { readDrawing } from '@makrel/core/exchange'
import { attempt } from '@makrel/core/problems'
import type { Calls, Request, Response } from './protocol.ts'

self.onmessage = ({ data: { id, input } }: MessageEvent<Request<'readDrawing'>>) => {
  let response: Response
  try {
    const { name, text, mmPerUnit } = input
    const output: Calls['readDrawing']['out'] = attempt([], () => readDrawing(name, text, { mmPerUnit }))
    response = { id, ok: true, output }
  } catch (error) {
    response = { id, ok: false, message: error instanceof Error ? error.message : String(error) }
  }
  self.postMessage(response)
}
