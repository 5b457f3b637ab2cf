export type { Ring } from '../plane/index.ts'
export { Kernel, type MeshRun, type Plane, type Scope, type Section, Solid, type SolidMesh } from './kernel.ts'
export { type Library, loadLibrary } from './load.ts'
export * from './round.ts'
