import { nextTask } from '../ui/waited.ts'

/** Compressed, as the browser itself does it, a piece at a time: what waits for the page's own thread goes between. */
export async function squeezed(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  let at = 0
  const pieces = new ReadableStream<Uint8Array<ArrayBuffer>>(
    {
      async pull(stream) {
        if (at >= bytes.length) return stream.close()
        await nextTask()
        stream.enqueue(bytes.subarray(at, at + pieceSize))
        at += pieceSize
      },
    },
    { highWaterMark: 0 },
  )
  return through(pieces, new CompressionStream('deflate-raw'))
}

/** So much is compressed in a few ms, bytes. */
const pieceSize = 65_536

export async function unsqueezed(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return through(new Blob([bytes]).stream(), new DecompressionStream('deflate-raw'))
}

async function through(from: ReadableStream<Uint8Array<ArrayBuffer>>, stream: CompressionStream | DecompressionStream) {
  return new Uint8Array(await new Response(from.pipeThrough(stream)).arrayBuffer())
}
