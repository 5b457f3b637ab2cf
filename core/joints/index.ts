export {
  type Beside,
  type Between,
  defineJoint,
  type Fact,
  type JointDefinition,
  type JointSolids,
  type Judged,
  type WantedSteps,
} from './define.ts'
export { jointOf, joints } from './registry.ts'
