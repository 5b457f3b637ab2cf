import { strFromU8, strToU8 } from 'fflate'
import { polygonTriangles, welded } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { ProblemError } from '../problems/index.ts'
import {
  coordinateFault,
  decimal,
  type MeshFormat,
  mostMeshBytes,
  mostMeshTriangles,
  type ReadPiece,
  type WrittenPiece,
} from './define.ts'
import { unitNamed } from './fileUnits.ts'

/**
 * OBJ, the text form of meshes (Wavefront, "Object Files", 1992): corners as `v x y z`, polygons as `f 1 2 3` with the numbers of
 * corners from 1, or from the last one back where they are negative; `o` begins an object. The format knows no unit.
 */
export const obj: MeshFormat = {
  id: 'obj',
  label: 'OBJ',
  extension: 'obj',
  mediaType: 'model/obj',
  statesUnit: false,
  apart: true,
  write(pieces, title, unit = 'mm') {
    const lines = [`# Makrel, unit ${unitNamed(unit).label}: ${title.replace(/\s+/g, ' ')}`]
    let before = 1
    for (const { name, mesh } of pieces) {
      lines.push(`o ${name.replace(/\s+/g, ' ').trim() || 'piece'}`)
      const { positions, triangles } = mesh
      for (let i = 0; i < positions.length; i += 3)
        lines.push(`v ${[0, 1, 2].map((axis) => decimal(positions[i + axis]!)).join(' ')}`)
      for (let i = 0; i < triangles.length; i += 3)
        lines.push(`f ${triangles[i]! + before} ${triangles[i + 1]! + before} ${triangles[i + 2]! + before}`)
      before += positions.length / 3
    }
    return strToU8(`${lines.join('\n')}\n`)
  },
  read(bytes) {
    if (bytes.length > mostMeshBytes) throw new ProblemError('file-too-large', { limit: `${mostMeshBytes / 1e6} MB` })
    const { corners, objects } = parsed(strFromU8(bytes))
    if (corners.length === 0) throw unreadable('it holds no corners')
    const fault = coordinateFault(corners)
    if (fault) throw unreadable(fault)
    const pieces = objects.filter(({ triangles }) => triangles.length > 0).map((each) => pieceOf(each, corners))
    if (pieces.length === 0) throw new ProblemError('mesh-empty', { format: 'OBJ' })
    return pieces
  },
}

interface ReadObject {
  readonly name: string
  readonly triangles: number[]
}

function parsed(text: string): { readonly corners: readonly number[]; readonly objects: readonly ReadObject[] } {
  const corners: number[] = []
  const objects: ReadObject[] = [{ name: '', triangles: [] }]
  let count = 0
  // A backslash at the end of a line goes on in the next one.
  for (const line of text.replace(/\\\r?\n/g, ' ').split(/\r?\n|\r/)) {
    const [word, ...rest] = line.trim().split(/\s+/)
    if (word === 'v') corners.push(...coordinates(rest))
    else if (word === 'o') objects.push({ name: rest.join(' ').slice(0, 120), triangles: [] })
    else if (word === 'f') {
      const polygon = rest.map((corner) => place(corner, corners.length / 3))
      if (polygon.length < 3) throw unreadable('it holds a face of fewer than three corners')
      count += polygon.length - 2
      if (count > mostMeshTriangles) throw unreadable(`it has more than ${mostMeshTriangles / 1e6} million triangles`)
      objects.at(-1)!.triangles.push(...trianglesOf(polygon, corners))
    }
  }
  return { corners, objects }
}

function coordinates(words: readonly string[]): readonly [number, number, number] {
  const [x, y, z] = words.slice(0, 3).map((word) => (word.trim() === '' ? Number.NaN : Number(word)))
  if (x === undefined || y === undefined || z === undefined)
    throw unreadable('it holds a corner of fewer than three numbers')
  return [x, y, z]
}

/** "3", "3/1", "3//2" or "-1": the place of a corner, from 0. */
function place(corner: string, known: number): number {
  const number = /^-?\d+(?=\/|$)/.test(corner) ? Number.parseInt(corner, 10) : 0
  const at = number < 0 ? known + number : number - 1
  if (number === 0 || at < 0 || at >= known)
    throw unreadable(`a face names a corner “${corner.slice(0, 20)}” that is not there`)
  return at
}

function trianglesOf(polygon: readonly number[], corners: readonly number[]): readonly number[] {
  if (polygon.length === 3) return polygon
  const at = polygon.map((i): Vec3 => [corners[3 * i]!, corners[3 * i + 1]!, corners[3 * i + 2]!])
  const fault = coordinateFault(at.flat())
  if (fault) throw unreadable(fault)
  const found = polygonTriangles(at)
  if (!found) throw unreadable(`a face of ${polygon.length} corners crosses itself, near ${at[0]!.join(', ')}`)
  return found.map((i) => polygon[i]!)
}

function pieceOf({ name, triangles }: ReadObject, corners: readonly number[]): ReadPiece {
  // Only the corners that this object uses.
  const places = new Map<number, number>()
  const positions: number[] = []
  const own = triangles.map((corner) => {
    const before = places.get(corner)
    if (before !== undefined) return before
    places.set(corner, places.size)
    positions.push(corners[3 * corner]!, corners[3 * corner + 1]!, corners[3 * corner + 2]!)
    return places.size - 1
  })
  const mesh: WrittenPiece['mesh'] = { positions: Float64Array.from(positions), triangles: Uint32Array.from(own) }
  return { name, mesh: welded(mesh), count: triangles.length / 3 }
}

function unreadable(detail: string): ProblemError {
  return new ProblemError('mesh-unreadable', { format: 'OBJ', detail })
}
