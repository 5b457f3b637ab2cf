import { bar } from './bar.ts'
import type { ShapeDefinition } from './define.ts'
import { hole } from './hole.ts'
import { plate } from './plate.ts'
import { upright } from './upright.ts'
import { wedge } from './wedge.ts'

/** Every kind of shape. A new one is its file and its line here. */
export const shapes = [plate, upright, bar, hole, wedge] as const satisfies readonly ShapeDefinition[]

const byKind = new Map<string, ShapeDefinition>()
for (const shape of shapes) {
  if (byKind.has(shape.kind)) throw new Error(`two shapes are called ${shape.kind}`)
  byKind.set(shape.kind, shape)
}

export function shapeOf(kind: string): ShapeDefinition | undefined {
  return byKind.get(kind)
}
