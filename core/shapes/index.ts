export * from './define.ts'
export type { ShapeEdge } from './edges.ts'
export { shapeOf, shapes } from './registry.ts'
export { type Found, findShapes, newStep } from './search.ts'
