import { strFromU8, strToU8 } from 'fflate'
import { welded } from '../mesh/index.ts'
import { ProblemError } from '../problems/index.ts'
import { coordinateFault, type MeshFormat, mostMeshBytes, type ReadPiece, type WrittenPiece } from './define.ts'
import { unitNamed } from './fileUnits.ts'

const headerBytes = 80
const facetBytes = 50

/**
 * STL: binary is written, binary and text are read. Binary layout, little-endian:
 *
 *     80 bytes header | uint32 count | count × ( normal 3 × f32 | corners 9 × f32 | uint16 0 )
 *
 * The format knows no unit and no pieces: all of them become one list of triangles.
 */
export const stl: MeshFormat = {
  id: 'stl',
  label: 'STL (binary)',
  extension: 'stl',
  mediaType: 'model/stl',
  statesUnit: false,
  apart: false,
  write(pieces, title, unit = 'mm') {
    const count = pieces.reduce((sum, { mesh }) => sum + mesh.triangles.length / 3, 0)
    const bytes = new Uint8Array(headerBytes + 4 + facetBytes * count)
    // The header must not begin with "solid", which marks the text form.
    bytes.set(
      strToU8(`Makrel, unit ${unitNamed(unit).label}: ${title}`.replace(/[^\x20-\x7e]/g, '?')).subarray(0, headerBytes),
    )
    const view = new DataView(bytes.buffer)
    view.setUint32(headerBytes, count, true)
    let at = headerBytes + 4
    for (const { mesh } of pieces)
      for (let t = 0; t < mesh.triangles.length; t += 3) {
        writeFacet(view, at, mesh, t)
        at += facetBytes
      }
    return bytes
  },
  read(bytes) {
    if (bytes.length > mostMeshBytes) throw new ProblemError('file-too-large', { limit: `${mostMeshBytes / 1e6} MB` })
    const corners = isText(bytes) ? textCorners(strFromU8(bytes)) : binaryCorners(bytes)
    if (corners.length === 0) throw new ProblemError('mesh-empty', { format: 'STL' })
    const fault = coordinateFault(corners)
    if (fault) throw unreadable(fault)
    const triangles = Uint32Array.from({ length: corners.length / 3 }, (_, i) => i)
    const mesh = welded({ positions: corners, triangles })
    const piece: ReadPiece = { name: '', mesh, count: corners.length / 9 }
    return [piece]
  },
}

function writeFacet(view: DataView, at: number, { positions, triangles }: WrittenPiece['mesh'], t: number): void {
  const corner = (i: number, axis: number) => positions[3 * triangles[t + i]! + axis]!
  const u = [0, 1, 2].map((axis) => corner(1, axis) - corner(0, axis)) as [number, number, number]
  const v = [0, 1, 2].map((axis) => corner(2, axis) - corner(0, axis)) as [number, number, number]
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  const size = Math.hypot(...n) || 1
  for (let axis = 0; axis < 3; axis++) {
    view.setFloat32(at + 4 * axis, n[axis]! / size, true)
    for (let i = 0; i < 3; i++) view.setFloat32(at + 12 + 12 * i + 4 * axis, corner(i, axis), true)
  }
}

/** Some binary files begin with "solid" too, so the size decides first. */
function isText(bytes: Uint8Array): boolean {
  if (bytes.length >= headerBytes + 4) {
    const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(headerBytes, true)
    if (bytes.length === headerBytes + 4 + facetBytes * count) return false
  }
  return strFromU8(bytes.subarray(0, 5)) === 'solid'
}

function binaryCorners(bytes: Uint8Array): Float64Array {
  if (bytes.length < headerBytes + 4) throw unreadable('it is shorter than the header')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const count = view.getUint32(headerBytes, true)
  const there = Math.floor((bytes.length - headerBytes - 4) / facetBytes)
  if (there < count) throw unreadable(`its header says ${count} triangles, and it ends after ${there}`)
  const corners = new Float64Array(count * 9)
  for (let t = 0; t < count; t++)
    for (let i = 0; i < 9; i++)
      corners[9 * t + i] = view.getFloat32(headerBytes + 4 + facetBytes * t + 12 + 4 * i, true)
  return corners
}

function textCorners(text: string): Float64Array {
  const numbers = [...text.matchAll(/\bvertex\s+(\S+)\s+(\S+)\s+(\S+)/g)].flatMap((match) =>
    match.slice(1, 4).map(Number),
  )
  if (numbers.length % 9 !== 0) throw unreadable('a triangle in it does not have three corners')
  return new Float64Array(numbers)
}

function unreadable(detail: string): ProblemError {
  return new ProblemError('mesh-unreadable', { format: 'STL', detail })
}
