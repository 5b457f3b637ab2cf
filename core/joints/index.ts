export { defineJoint, type JointDefinition, type JointSolids } from './define.ts'
export { jointOf, joints } from './registry.ts'
