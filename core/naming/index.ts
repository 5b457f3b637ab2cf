export * from './edges.ts'
export * from './faces.ts'
export * from './measure.ts'
