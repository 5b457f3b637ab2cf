import type { JointDefinition } from './define.ts'
import { pinHinge } from './pinHinge.ts'

/** Every kind of joint. A new one is its file and its line here. */
export const joints = [pinHinge] as const satisfies readonly JointDefinition[]

const byKind = new Map<string, JointDefinition>()
for (const joint of joints) {
  if (byKind.has(joint.kind)) throw new Error(`two joints are called ${joint.kind}`)
  byKind.set(joint.kind, joint)
}

export function jointOf(kind: string): JointDefinition | undefined {
  return byKind.get(kind)
}
