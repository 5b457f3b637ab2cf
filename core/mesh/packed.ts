import { strFromU8, strToU8, unzlibSync, zlibSync } from 'fflate'
import { ProblemError } from '../problems/index.ts'
import type { TriangleMesh } from './define.ts'

const begins = 'data:model/mesh;base64,'

/**
 * A mesh as text, to be kept in a part: deflated (RFC 1950) and in base64, of
 *
 *     uint32 vertices | uint32 triangles | vertices × 3 × float32, mm | triangles × 3 × uint32
 *
 * little-endian. Coordinates are rounded to single precision.
 */
export function packedMesh({ positions, triangles }: TriangleMesh): string {
  const bytes = new Uint8Array(8 + 4 * positions.length + 4 * triangles.length)
  const view = new DataView(bytes.buffer)
  view.setUint32(0, positions.length / 3, true)
  view.setUint32(4, triangles.length / 3, true)
  positions.forEach((value, i) => void view.setFloat32(8 + 4 * i, value, true))
  const at = 8 + 4 * positions.length
  triangles.forEach((corner, i) => void view.setUint32(at + 4 * i, corner, true))
  return begins + btoa(strFromU8(zlibSync(bytes, { level: 6 }), true))
}

/**
 * The mesh that a text holds.
 * @throws ProblemError asset-broken
 */
export function unpackedMesh(text: string): { readonly positions: Float32Array; readonly triangles: Uint32Array } {
  try {
    if (!text.startsWith(begins)) throw new Error('it is of another kind')
    const bytes = unzlibSync(strToU8(atob(text.slice(begins.length)), true))
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    const [vertices, count] = [view.getUint32(0, true), view.getUint32(4, true)]
    if (bytes.length !== 8 + 12 * vertices + 12 * count) throw new Error('it is not as long as it says')
    const positions = Float32Array.from({ length: 3 * vertices }, (_, i) => view.getFloat32(8 + 4 * i, true))
    const at = 8 + 12 * vertices
    const triangles = Uint32Array.from({ length: 3 * count }, (_, i) => view.getUint32(at + 4 * i, true))
    if (!positions.every(Number.isFinite)) throw new Error('it holds coordinates that are not numbers')
    if (!triangles.every((corner) => corner < vertices)) throw new Error('it names corners that are not there')
    return { positions, triangles }
  } catch (error) {
    throw new ProblemError('asset-broken', { detail: error instanceof Error ? error.message : String(error) })
  }
}
