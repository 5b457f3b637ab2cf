import type { MeshFormat } from './define.ts'
import { stl } from './stl.ts'
import { threeMf } from './threeMf.ts'

export { type MeshFormat, mostMeshBytes, type ReadPiece, type WrittenPiece } from './define.ts'
export * from './drawings/index.ts'
export { differs, fileName, type HandOff, handOff, handOffTolerance, type Receipt } from './handOff.ts'
export { archiveOf, handOffVariants, inVariant } from './variants.ts'

/** Every mesh format. A new one is its file and its line here. */
export const formats = [stl, threeMf] as const satisfies readonly MeshFormat[]

export function formatOf(id: string): MeshFormat | undefined {
  return formats.find((format) => format.id === id)
}
