export { type Between, defineJoint, type Fact, type JointDefinition, type JointSolids } from './define.ts'
export { jointOf, joints } from './registry.ts'
