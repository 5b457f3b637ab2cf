import type { DrawingFormat, ReadDrawing, ReadOptions } from './define.ts'
import { dxf } from './dxf.ts'
import { svg } from './svg.ts'

export { type DrawingFormat, drawingLimits, type ReadDrawing } from './define.ts'
export { drawnInto } from './into.ts'

/** Every format of flat drawings. A new one is its file and its line here. */
export const drawingFormats = [svg, dxf] as const satisfies readonly DrawingFormat[]

/**
 * Reads a drawing by its file's name or, where that does not say, by how it begins.
 * @throws ProblemError drawing-unreadable, drawing-empty, drawing-too-much, file-too-large
 */
export function readDrawing(name: string, text: string, options?: ReadOptions): ReadDrawing {
  const known = drawingFormats.find(({ extension }) => name.toLowerCase().endsWith(`.${extension}`))
  return (known ?? (text.trimStart().startsWith('<') ? svg : dxf)).read(text, options)
}
