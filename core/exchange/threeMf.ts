import { strToU8, unzipSync } from 'fflate'
import { SaxesParser } from 'saxes'
import { ProblemError } from '../problems/index.ts'
import { archived } from './archive.ts'
import {
  coordinateFault,
  decimal,
  type MeshFormat,
  mostMeshBytes,
  mostMeshTriangles,
  type ReadPiece,
  type WrittenPiece,
} from './define.ts'
import type { FileUnit } from './fileUnits.ts'
import { element, escaped, xmlDocument } from './xml.ts'

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

const unitWord: Readonly<Record<FileUnit, string>> = {
  ...{ mm: 'millimeter', cm: 'centimeter', m: 'meter', in: 'inch', ft: 'foot' },
}

const packages = {
  package: 'application/vnd.openxmlformats-package',
  types: 'http://schemas.openxmlformats.org/package/2006/content-types',
  relations: 'http://schemas.openxmlformats.org/package/2006/relationships',
} as const

/** 3MF (Core Specification 1.3): a zip with one model; each piece is an object with its name, the unit is stated. */
export const threeMf: MeshFormat = {
  id: '3mf',
  label: '3MF',
  extension: '3mf',
  mediaType: 'model/3mf',
  statesUnit: true,
  apart: true,
  write(pieces, title, unit = 'mm') {
    const document = (root: string) => strToU8(xmlDocument(root))
    const { package: packageSpace, types, relations } = packages
    // Each piece has its colour as a material of its name (§5.1 of the specification).
    const materials = pieces.some(({ colour }) => colour) ? pieces.length + 1 : undefined
    const bases = pieces.map(({ name, colour }) =>
      element('base', { name, displaycolor: (colour ?? '#c7d0d3').toUpperCase() }),
    )
    const objects = pieces.map(({ name, colour, mesh }, i) => {
      const made = colour ? { pid: materials, pindex: i } : {}
      return element('object', { id: i + 1, type: 'model', name, ...made }, meshText(mesh))
    })
    const files = {
      '[Content_Types].xml': document(
        element('Types', { xmlns: types }, [
          element('Default', { Extension: 'rels', ContentType: `${packageSpace}.relationships+xml` }),
          element('Default', {
            Extension: 'model',
            ContentType: 'application/vnd.ms-package.3dmanufacturing-3dmodel+xml',
          }),
        ]),
      ),
      '_rels/.rels': document(
        element('Relationships', { xmlns: relations }, [
          element('Relationship', { Target: `/${modelPath}`, Id: 'rel0', Type: modelRelation }),
        ]),
      ),
      [modelPath]: document(
        element('model', { unit: unitWord[unit], 'xml:lang': 'en', xmlns: namespace }, [
          element('metadata', { name: 'Title' }, escaped(title)),
          element('metadata', { name: 'Application' }, 'Makrel'),
          element('resources', {}, [
            ...(materials === undefined ? [] : [element('basematerials', { id: materials }, bases)]),
            ...objects,
          ]),
          element(
            'build',
            {},
            pieces.map((_, i) => element('item', { objectid: i + 1 })),
          ),
        ]),
      ),
    }
    return archived(files)
  },
  read(bytes) {
    const { unit, objects, items } = modelOf(bytes)
    const scale = unitScale[unit]
    if (scale === undefined) throw unreadable(`its unit “${unit}” is not known`)
    const placed = items.map(({ objectid, transform }) => {
      const object = objects.get(objectid)
      if (!object) throw unreadable(`its build names an object “${objectid}” that is not there`)
      if (object.corners.count === 0 && object.components)
        throw unreadable(`its object “${objectid}” is made of components, which are not read yet`)
      return { transform, object }
    })
    const triangles = placed.reduce((sum, { object }) => sum + 1 + object.corners.count / 3, 0)
    if (triangles > mostMeshTriangles) throw tooMany()
    const pieces = placed.map(({ object, transform }) => pieceOf(object, transformOf(transform), scale))
    if (pieces.every(({ mesh }) => mesh.triangles.length === 0)) throw new ProblemError('mesh-empty', { format: '3MF' })
    return pieces
  },
}

/** A mesh as it stands in a model. By hand: an object for each of a million corners takes twenty times as long. */
function meshText({ positions, triangles }: WrittenPiece['mesh']): string {
  const out: string[] = []
  for (let at = 0; at < positions.length; at += 3) {
    const [x, y, z] = [decimal(positions[at]!), decimal(positions[at + 1]!), decimal(positions[at + 2]!)]
    out.push(`<vertex x="${x}" y="${y}" z="${z}"/>`)
  }
  const vertices = out.join('')
  out.length = 0
  for (let at = 0; at < triangles.length; at += 3)
    out.push(`<triangle v1="${triangles[at]}" v2="${triangles[at + 1]}" v3="${triangles[at + 2]}"/>`)
  return `<mesh><vertices>${vertices}</vertices><triangles>${out.join('')}</triangles></mesh>`
}

/** An object of a model: its corners and triangles as they stand in the file. */
interface FoundObject {
  readonly name: string
  readonly positions: Numbers
  readonly corners: Numbers
  /** whether it is put together of others */
  components: boolean
}

interface FoundModel {
  readonly unit: string
  readonly objects: ReadonlyMap<string, FoundObject>
  readonly items: readonly { readonly objectid: string; readonly transform: string | undefined }[]
}

/** A list of numbers that grows, without an object for each. */
class Numbers {
  #held = new Float64Array(96)
  count = 0

  push(value: number): void {
    if (this.count === this.#held.length) {
      const more = new Float64Array(2 * this.count)
      more.set(this.#held)
      this.#held = more
    }
    this.#held[this.count++] = value
  }
  get all(): Float64Array {
    return this.#held.subarray(0, this.count)
  }
}

/** Bytes of a model that are read at a time. */
const together = 1 << 16

/** Reads a model piece by piece: neither its text nor its elements are ever held as a whole. */
function modelOf(bytes: Uint8Array): FoundModel {
  const model = unpackedModel(bytes)
  if (!model) throw unreadable('it holds no model')
  const objects = new Map<string, FoundObject>()
  const items: { objectid: string; transform: string | undefined }[] = []
  let unit: string | undefined
  let object: FoundObject | undefined
  let triangles = 0
  const parser = new SaxesParser({ xmlns: false, position: false })
  parser.on('error', (error) => {
    throw unreadable(`its model is not valid XML (${error.message.replace(/\.$/, '')})`)
  })
  // A model needs none, and a chain of entities can grow without bound.
  parser.on('doctype', () => {
    throw unreadable('it declares entities of its own')
  })
  parser.on('opentag', ({ name, attributes }) => {
    switch (name) {
      case 'model':
        unit ??= attributes.unit ?? 'millimeter'
        break
      case 'object':
        object = {
          ...{ name: attributes.name ?? '', components: false },
          ...{ positions: new Numbers(), corners: new Numbers() },
        }
        objects.set(attributes.id ?? '', object)
        break
      case 'component':
        if (object) object.components = true
        break
      case 'vertex':
        for (const axis of ['x', 'y', 'z']) object?.positions.push(number(attributes[axis], 'coordinate'))
        break
      case 'triangle':
        if (++triangles > mostMeshTriangles) throw tooMany()
        for (const corner of ['v1', 'v2', 'v3'])
          object?.corners.push(number(attributes[corner], 'corner of a triangle'))
        break
      case 'item':
        items.push({ objectid: attributes.objectid ?? '', transform: attributes.transform })
        break
    }
  })
  parser.on('closetag', ({ name }) => {
    if (name === 'object') object = undefined
  })
  const decoder = new TextDecoder()
  for (let from = 0; from < model.length; from += together)
    parser.write(decoder.decode(model.subarray(from, from + together), { stream: true }))
  parser.close()
  if (unit === undefined) throw unreadable('its model is empty')
  return { unit, objects, items }
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

function pieceOf(
  { name, positions: found, corners }: FoundObject,
  transform: readonly number[] | undefined,
  scale: number,
): ReadPiece {
  const positions = Float64Array.from(found.all)
  for (let at = 0; at < positions.length; at += 3) {
    const p = [positions[at]!, positions[at + 1]!, positions[at + 2]!] as const
    const q = transform ? transformed(transform, p) : p
    for (const i of [0, 1, 2] as const) positions[at + i] = q[i] * scale
  }
  const fault = coordinateFault(positions)
  if (fault) throw unreadable(fault)
  for (const v of corners.all)
    if (!Number.isInteger(v) || v < 0 || v >= positions.length / 3)
      throw unreadable(`a triangle names a corner ${v} that is not there`)
  return { name, mesh: { positions, triangles: Uint32Array.from(corners.all) }, count: corners.count / 3 }
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

function number(text: string | undefined, what: string): number {
  if (text === undefined) throw unreadable(`a ${what} in it is missing`)
  const read = text.trim() === '' ? Number.NaN : Number(text)
  if (!Number.isFinite(read)) throw unreadable(`“${text.slice(0, 40)}” in it is not a number`)
  return read
}

function tooMany(): ProblemError {
  return new ProblemError('file-too-large', { limit: `${mostMeshTriangles / 1e6} million triangles` })
}

function unreadable(detail: string): ProblemError {
  return new ProblemError('mesh-unreadable', { format: '3MF', detail })
}
