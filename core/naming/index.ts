export * from './edges.ts'
export * from './faces.ts'
