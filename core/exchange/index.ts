import type { MeshFormat } from './define.ts'
import { obj } from './obj.ts'
import { stl } from './stl.ts'
import { threeMf } from './threeMf.ts'

export {
  type BroughtIn,
  bringIn,
  type FileUnit,
  fileUnits,
  mostBroughtIn,
  type OpenedMesh,
  openMesh,
} from './bringIn.ts'
export { type MeshFormat, mostMeshBytes, type ReadPiece, type WrittenPiece } from './define.ts'
export * from './drawings/index.ts'
export { differs, fileName, type HandOff, handOff, handOffTolerance, type Receipt } from './handOff.ts'
export { archiveOf, handOffVariants, inVariant } from './variants.ts'

/** Every mesh format. A new one is its file and its line here. */
export const formats = [stl, threeMf, obj] as const satisfies readonly MeshFormat[]

export function formatOf(id: string): MeshFormat | undefined {
  return formats.find((format) => format.id === id)
}
