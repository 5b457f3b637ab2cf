import { type Asset, assetOf, documentLimits } from '../document/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { meshFigures, packedMesh, type TriangleMesh } from '../mesh/index.ts'
import { ProblemError } from '../problems/index.ts'
import { trianglesWithArea } from './area.ts'
import type { MeshFormat } from './define.ts'
import { type FileUnit, fileUnits, likelyUnit } from './fileUnits.ts'
import { soundMesh, tooLarge } from './soundMesh.ts'

/** A mesh file as it was read, before it is known what its numbers mean. */
export interface OpenedMesh {
  readonly file: string
  readonly pieces: readonly { readonly name: string; readonly mesh: TriangleMesh }[]
  /** of all pieces together, in the file's own numbers */
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
  /** whether the file says what they mean; they are mm then */
  readonly stated: boolean
  /** what they most likely mean */
  readonly unit: FileUnit
}

/**
 * Reads a mesh file; `bed`, the printer's in mm, tells which unit is likely.
 * @throws ProblemError mesh-kind, mesh-unreadable, mesh-empty, file-too-large
 */
export function openMesh(
  file: string,
  bytes: Uint8Array,
  bed: readonly [number, number, number],
  formats: readonly MeshFormat[],
): OpenedMesh {
  const format = formats.find(({ extension }) => file.toLowerCase().endsWith(`.${extension}`))
  if (!format)
    throw new ProblemError('mesh-kind', { known: formats.map(({ extension }) => `.${extension}`).join(', ') })
  const plain = file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '')
  const read = format.read(bytes).filter(({ mesh }) => mesh.triangles.length > 0)
  const pieces = read.map(({ name, mesh }, i) => ({ name: name || (i === 0 ? plain : `${plain} ${i + 1}`), mesh }))
  const { min, max } = boundsOf(pieces.map(({ mesh }) => mesh))
  if (min[0] > max[0]) throw new ProblemError('mesh-empty', { format: format.label })
  const stated = format.statesUnit
  const size = [max[0] - min[0], max[1] - min[1], max[2] - min[2]] as const
  return { file, pieces, min, max, stated, unit: stated ? 'mm' : likelyUnit(size, bed) }
}

/** Of all triangles that have an area. */
function boundsOf(meshes: readonly TriangleMesh[]) {
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  for (const mesh of meshes) {
    const { positions, triangles } = mesh
    const withArea = trianglesWithArea(mesh)
    for (const [i, v] of triangles.entries()) {
      if (!withArea[Math.floor(i / 3)]) continue
      for (const k of [0, 1, 2] as const) {
        min[k] = Math.min(min[k], positions[3 * v + k]!)
        max[k] = Math.max(max[k], positions[3 * v + k]!)
      }
    }
  }
  return { min, max }
}

/** A piece of a file as it comes into a part. */
export interface BroughtIn {
  readonly name: string
  readonly asset: Asset
  /** from the middle of all pieces on the bed to the middle of this one, and how high it stands over the lowest, mm */
  readonly at: readonly [number, number, number]
  /** how many bodies ran into one another and are one now; 0 where none did */
  readonly united: number
  /** triangles that were there twice, and lone ones without area */
  readonly leftOut: number
}

/**
 * The pieces of a file, each about its own middle and on its lowest point; in mm. `kernel` unites bodies that run into one another.
 * @throws ProblemError mesh-open, mesh-flipped, mesh-large, mesh-crosses; mesh-overlaps without a kernel
 */
export function bringIn({ file, pieces, min, max }: OpenedMesh, unit: FileUnit, kernel?: Kernel): readonly BroughtIn[] {
  const { mm } = fileUnits.find(({ id }) => id === unit)!
  const middle = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, min[2]] as const
  return pieces.map(({ name, mesh }) => {
    const { mesh: sound, united, leftOut } = soundMesh(name, mesh, kernel)
    const figures = meshFigures(sound)
    const own = [(figures.min[0] + figures.max[0]) / 2, (figures.min[1] + figures.max[1]) / 2, figures.min[2]] as const
    const positions = Float32Array.from(sound.positions, (x, i) => (x - own[i % 3]!) * mm)
    const data = packedMesh({ positions, triangles: sound.triangles })
    if (data.length > documentLimits.asset) throw tooLarge(name, sound)
    const at = own.map((x, i) => (x - middle[i]!) * mm) as unknown as BroughtIn['at']
    return { name, asset: assetOf(fileNameOf(file), data), at, united, leftOut }
  })
}

function fileNameOf(file: string): string {
  return file.replace(/^.*[\\/]/, '')
}
