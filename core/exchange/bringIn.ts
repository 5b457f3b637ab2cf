import { type Asset, assetOf, documentLimits } from '../document/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { meshFigures, packedMesh, type TriangleMesh } from '../mesh/index.ts'
import { ProblemError } from '../problems/index.ts'
import type { MeshFormat } from './define.ts'
import { soundMesh, tooLarge } from './soundMesh.ts'

/** What the numbers of a file may mean, with how many mm each is. */
export const fileUnits = [
  { id: 'mm', label: 'mm', mm: 1 },
  { id: 'cm', label: 'cm', mm: 10 },
  { id: 'in', label: 'inches', mm: 25.4 },
  { id: 'm', label: 'm', mm: 1000 },
  { id: 'ft', label: 'feet', mm: 304.8 },
] as const
export type FileUnit = (typeof fileUnits)[number]['id']

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

/** Smaller than this hardly anything is printed, mm. */
const smallest = 3

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
  const figures = pieces.map(({ mesh }) => meshFigures(mesh))
  const bound = (pick: (...values: number[]) => number, which: 'min' | 'max') =>
    [0, 1, 2].map((i) => pick(...figures.map((each) => each[which][i]!))) as [number, number, number]
  const [min, max] = [bound(Math.min, 'min'), bound(Math.max, 'max')]
  const stated = format.unit === 'mm, stated in the file'
  const size = Math.max(...max.map((high, i) => high - min[i]!))
  return { file, pieces, min, max, stated, unit: stated ? 'mm' : likelyUnit(size, Math.max(...bed)) }
}

/** mm where something of that size could be meant, else the first unit in which it could. */
function likelyUnit(size: number, bed: number): FileUnit {
  const fits = ({ mm }: { readonly mm: number }) => size * mm >= smallest && size * mm <= 2 * bed
  return (fileUnits.find(fits) ?? fileUnits[0]).id
}

/** A piece of a file as it comes into a part. */
export interface BroughtIn {
  readonly name: string
  readonly asset: Asset
  /** from the middle of all pieces on the bed to the middle of this one, and how high it stands over the lowest, mm */
  readonly at: readonly [number, number, number]
  /** how many bodies ran into one another and are one now; 0 where none did */
  readonly united: number
}

/**
 * The pieces of a file, each about its own middle and on its lowest point; in mm. `kernel` unites bodies that run into one another.
 * @throws ProblemError mesh-open, mesh-flipped, mesh-large, mesh-crosses; mesh-overlaps without a kernel
 */
export function bringIn({ file, pieces, min, max }: OpenedMesh, unit: FileUnit, kernel?: Kernel): readonly BroughtIn[] {
  const { mm } = fileUnits.find(({ id }) => id === unit)!
  const middle = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, min[2]] as const
  return pieces.map(({ name, mesh }) => {
    const { mesh: sound, united } = soundMesh(name, mesh, kernel)
    const figures = meshFigures(sound)
    const own = [(figures.min[0] + figures.max[0]) / 2, (figures.min[1] + figures.max[1]) / 2, figures.min[2]] as const
    const positions = Float32Array.from(sound.positions, (x, i) => (x - own[i % 3]!) * mm)
    const data = packedMesh({ positions, triangles: sound.triangles })
    if (data.length > documentLimits.asset) throw tooLarge(name, sound)
    const at = own.map((x, i) => (x - middle[i]!) * mm) as unknown as BroughtIn['at']
    return { name, asset: assetOf(fileNameOf(file), data), at, united }
  })
}

function fileNameOf(file: string): string {
  return file.replace(/^.*[\\/]/, '')
}
