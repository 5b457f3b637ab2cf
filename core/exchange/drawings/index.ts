import type { DrawingFormat } from './define.ts'
import { dxf } from './dxf.ts'
import { svg } from './svg.ts'

export { type DrawingFormat, drawingLimits, type ReadDrawing } from './define.ts'
export { drawnInto } from './into.ts'

/** Every format of flat drawings. A new one is its file and its line here. */
export const drawingFormats = [svg, dxf] as const satisfies readonly DrawingFormat[]
