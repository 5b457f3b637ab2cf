export * from './frames.ts'
export * from './place.ts'
export * from './vectors.ts'
