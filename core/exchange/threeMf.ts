import { XMLBuilder, XMLParser } from 'fast-xml-parser'
import { strFromU8, strToU8, unzipSync } from 'fflate'
import { ProblemError } from '../problems/index.ts'
import { archived } from './archive.ts'
import {
  coordinateFault,
  type MeshFormat,
  mostMeshBytes,
  mostMeshTriangles,
  type ReadPiece,
  type WrittenPiece,
} from './define.ts'

const modelPath = '3D/3dmodel.model'
const namespace = 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02'
const modelRelation = 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel'

/** Millimetres per unit a 3MF model may state (3MF Core Specification 1.3, §3.4). */
const unitScale: Readonly<Record<string, number>> = {
  micron: 0.001,
  millimeter: 1,
  centimeter: 10,
  inch: 25.4,
  foot: 304.8,
  meter: 1000,
}

const xml = { ignoreAttributes: false, attributeNamePrefix: '@_' } as const

/** 3MF (Core Specification 1.3): a zip with one model; each piece is an object with its name, the unit is stated. */
export const threeMf: MeshFormat = {
  id: '3mf',
  label: '3MF',
  extension: '3mf',
  mediaType: 'model/3mf',
  unit: 'mm, stated in the file',
  write(pieces, title) {
    const builder = new XMLBuilder({ ...xml, suppressEmptyNode: true, suppressBooleanAttributes: false })
    const document = (root: unknown) => strToU8(`<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(root)}`)
    const files = {
      '[Content_Types].xml': document({
        Types: {
          '@_xmlns': 'http://schemas.openxmlformats.org/package/2006/content-types',
          Default: [
            { '@_Extension': 'rels', '@_ContentType': 'application/vnd.openxmlformats-package.relationships+xml' },
            { '@_Extension': 'model', '@_ContentType': 'application/vnd.ms-package.3dmanufacturing-3dmodel+xml' },
          ],
        },
      }),
      '_rels/.rels': document({
        Relationships: {
          '@_xmlns': 'http://schemas.openxmlformats.org/package/2006/relationships',
          Relationship: { '@_Target': `/${modelPath}`, '@_Id': 'rel0', '@_Type': modelRelation },
        },
      }),
      [modelPath]: document({
        model: {
          '@_unit': 'millimeter',
          '@_xml:lang': 'en',
          '@_xmlns': namespace,
          metadata: [
            { '@_name': 'Title', '#text': title },
            { '@_name': 'Application', '#text': 'Makrel' },
          ],
          resources: {
            // Each piece has its colour as a material of its name (§5.1 of the specification).
            ...(pieces.some(({ colour }) => colour)
              ? {
                  basematerials: {
                    '@_id': pieces.length + 1,
                    base: pieces.map(({ name, colour }) => ({
                      '@_name': name,
                      '@_displaycolor': (colour ?? '#c7d0d3').toUpperCase(),
                    })),
                  },
                }
              : {}),
            object: pieces.map((piece, i) => objectOf(piece, i, piece.colour ? pieces.length + 1 : undefined)),
          },
          build: { item: pieces.map((_, i) => ({ '@_objectid': i + 1 })) },
        },
      }),
    }
    return archived(files)
  },
  read(bytes) {
    const root = modelOf(bytes)
    const scale = unitScale[String(root['@_unit'] ?? 'millimeter')]
    if (scale === undefined) throw unreadable(`its unit “${root['@_unit']}” is not known`)
    const objects = new Map(asList(child(root, 'resources')?.object).map((object) => [String(object['@_id']), object]))
    const placed = asList(child(root, 'build')?.item).map((item) => {
      const object = objects.get(String(item['@_objectid']))
      if (!object) throw unreadable(`its build names an object ${item['@_objectid']} that is not there`)
      return { item, object }
    })
    const triangles = placed.reduce(
      (sum, { object }) => sum + 1 + asList(child(child(object, 'mesh') ?? {}, 'triangles')?.triangle).length,
      0,
    )
    if (triangles > mostMeshTriangles)
      throw new ProblemError('file-too-large', { limit: `${mostMeshTriangles / 1e6} million triangles` })
    const pieces = placed.map(({ item, object }) => pieceOf(object, transformOf(item['@_transform']), scale))
    if (pieces.every(({ mesh }) => mesh.triangles.length === 0)) throw new ProblemError('mesh-empty', { format: '3MF' })
    return pieces
  },
}

type Element = Record<string, unknown>

function objectOf({ name, mesh }: WrittenPiece, index: number, materials: number | undefined): Element {
  const { positions, triangles } = mesh
  return {
    '@_id': index + 1,
    '@_type': 'model',
    '@_name': name,
    ...(materials === undefined ? {} : { '@_pid': materials, '@_pindex': index }),
    mesh: {
      vertices: {
        vertex: Array.from({ length: positions.length / 3 }, (_, v) => ({
          '@_x': decimal(positions[3 * v]!),
          '@_y': decimal(positions[3 * v + 1]!),
          '@_z': decimal(positions[3 * v + 2]!),
        })),
      },
      triangles: {
        triangle: Array.from({ length: triangles.length / 3 }, (_, t) => ({
          '@_v1': triangles[3 * t]!,
          '@_v2': triangles[3 * t + 1]!,
          '@_v3': triangles[3 * t + 2]!,
        })),
      },
    },
  }
}

/** The shortest decimal that is the same number in single precision: 4.9, not 4.9000001. Nine digits always tell. */
function decimal(value: number): string {
  for (let digits = 6; digits < 9; digits++) {
    const short = Number(value.toPrecision(digits))
    if (Math.fround(short) === Math.fround(value)) return String(short)
  }
  return String(Number(value.toPrecision(9)))
}

function modelOf(bytes: Uint8Array): Element {
  const model = unpackedModel(bytes)
  if (!model) throw unreadable('it holds no model')
  // Blanks mean nothing between and within elements, and each would be kept.
  const text = strFromU8(model)
    .replace(/\s{2,}/g, ' ')
    .replaceAll('> <', '><')
  // A model needs none, and a chain of them can grow without bound.
  if (text.includes('<!DOCTYPE')) throw unreadable('it declares entities of its own')
  try {
    const root = child(new XMLParser(xml).parse(text, true) as Element, 'model')
    if (root) return root
  } catch (error) {
    throw unreadable(error instanceof Error ? error.message : 'its model is not XML')
  }
  throw unreadable('its model is empty')
}

/** The model, and nothing else of the archive. */
function unpackedModel(bytes: Uint8Array): Uint8Array | undefined {
  const unpacked = (wanted: (name: string) => boolean) =>
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!wanted(name)) return false
        if (originalSize > mostMeshBytes)
          throw new ProblemError('file-too-large', { limit: `${mostMeshBytes / 1e6} MB unpacked` })
        return true
      },
    })
  try {
    const names: string[] = []
    unpacked((name) => {
      names.push(name)
      return false
    })
    const chosen = names.includes(modelPath) ? modelPath : names.find((name) => name.endsWith('.model'))
    return chosen === undefined ? undefined : unpacked((name) => name === chosen)[chosen]
  } catch (error) {
    if (error instanceof ProblemError) throw error
    throw unreadable('it is not a zip archive')
  }
}

function pieceOf(object: Element, transform: readonly number[] | undefined, scale: number): ReadPiece {
  const mesh = child(object, 'mesh')
  if (!mesh) throw unreadable(`its object ${object['@_id']} is made of components, which are not read yet`)
  const vertices = asList(child(mesh, 'vertices')?.vertex)
  const positions = new Float64Array(vertices.length * 3)
  vertices.forEach((vertex, v) => {
    const p = ['@_x', '@_y', '@_z'].map((key) => number(vertex[key])) as [number, number, number]
    const q = transform ? transformed(transform, p) : p
    for (let i = 0; i < 3; i++) positions[3 * v + i] = q[i]! * scale
  })
  const fault = coordinateFault(positions)
  if (fault) throw unreadable(fault)
  const faces = asList(child(mesh, 'triangles')?.triangle)
  const triangles = new Uint32Array(faces.length * 3)
  faces.forEach((face, t) => {
    for (const [i, key] of ['@_v1', '@_v2', '@_v3'].entries()) {
      const v = number(face[key])
      if (!Number.isInteger(v) || v < 0 || v >= vertices.length)
        throw unreadable(`a triangle names a corner ${face[key]} that is not there`)
      triangles[3 * t + i] = v
    }
  })
  return { name: String(object['@_name'] ?? ''), mesh: { positions, triangles }, count: faces.length }
}

/** The twelve numbers of a 3MF transform, row vectors: p' = p · M (§3.3). */
function transformOf(text: unknown): number[] | undefined {
  if (text === undefined) return undefined
  const numbers = String(text).trim().split(/\s+/).map(Number)
  if (numbers.length !== 12 || !numbers.every(Number.isFinite))
    throw unreadable('a transform in it has not twelve numbers')
  return numbers
}

function transformed(m: readonly number[], p: readonly [number, number, number]): [number, number, number] {
  return [0, 1, 2].map((i) => p[0] * m[i]! + p[1] * m[3 + i]! + p[2] * m[6 + i]! + m[9 + i]!) as [
    number,
    number,
    number,
  ]
}

function number(value: unknown): number {
  const read = Number(value)
  if (value === undefined || !Number.isFinite(read)) throw unreadable(`“${value}” in it is not a number`)
  return read
}

function child(element: Element, name: string): Element | undefined {
  const value = element[name]
  return typeof value === 'object' && value !== null ? (value as Element) : undefined
}

function asList(value: unknown): Element[] {
  return value === undefined || value === '' ? [] : ((Array.isArray(value) ? value : [value]) as Element[])
}

function unreadable(detail: string): ProblemError {
  return new ProblemError('mesh-unreadable', { format: '3MF', detail })
}
