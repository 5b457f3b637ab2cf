export * from './define.ts'
export * from './registry.ts'
