import type { MeshFormat } from './define.ts'
import { obj } from './obj.ts'
import { stl } from './stl.ts'
import { threeMf } from './threeMf.ts'

/** Every mesh format. A new one is its file and its line here. */
export const formats = [stl, threeMf, obj] as const satisfies readonly MeshFormat[]

export function formatOf(id: string): MeshFormat | undefined {
  return formats.find((format) => format.id === id)
}
