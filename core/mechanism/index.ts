export type { Freedom, MovingJoint, Pose, Positions } from './define.ts'
export { closes, posed, residualOf } from './posed.ts'
export * from './seen.ts'
