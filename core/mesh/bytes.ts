/** Data with typed arrays anywhere in it, as one run of bytes: its text first, then all arrays one behind the other. */

const kinds = { Float32Array, Float64Array, Uint32Array, Uint16Array, Uint8Array, Int32Array, Int8Array } as const
type Kind = keyof typeof kinds

/** Where an array lies: its kind, the first byte behind the text, and how many numbers. */
type Place = readonly [kind: Kind, from: number, count: number]

/** Arrays begin at a multiple of the longest number. */
const wide = 8
const upTo = (bytes: number) => Math.ceil(bytes / wide) * wide

/** What `fromBytes` gives again: values as JSON has them, undefined in objects left out, typed arrays, maps as none. */
export function toBytes(value: unknown): Uint8Array<ArrayBuffer> {
  const arrays: ArrayBufferView[] = []
  let size = 0
  const text = JSON.stringify(value, (_, each: unknown) => {
    if (!ArrayBuffer.isView(each)) return each
    const kind = each.constructor.name as Kind
    const place: Place = [kind, size, (each as Uint8Array).length]
    arrays.push(each)
    size = upTo(size + each.byteLength)
    return { $array: place }
  })
  const head = new TextEncoder().encode(text)
  const start = wide + upTo(head.length)
  const bytes = new Uint8Array(start + size)
  new DataView(bytes.buffer).setUint32(0, head.length)
  bytes.set(head, wide)
  let at = start
  for (const { buffer, byteOffset, byteLength } of arrays) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at)
    at = upTo(at + byteLength)
  }
  return bytes
}

/** @throws SyntaxError, RangeError, TypeError of bytes that nothing was packed into */
export function fromBytes(bytes: Uint8Array<ArrayBuffer>): unknown {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0)
  const start = bytes.byteOffset + wide + upTo(length)
  return JSON.parse(new TextDecoder().decode(bytes.subarray(wide, wide + length)), (_, each: unknown) => {
    const place = (each as { $array?: Place } | null)?.$array
    if (!place) return each
    const [kind, from, count] = place
    return new kinds[kind](bytes.buffer, start + from, count)
  })
}
