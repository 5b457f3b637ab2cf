import { registered } from '../fields/index.ts'
import { ballSocket } from './ballSocket.ts'
import type { JointDefinition } from './define.ts'
import { gearMesh } from './gearMesh.ts'
import { onAxis } from './onAxis.ts'
import { pinHinge } from './pinHinge.ts'
import { planetarySet } from './planetarySet.ts'

/** Every kind of joint. A new one is its file and its line here. */
export const joints = [
  pinHinge,
  ballSocket,
  onAxis,
  gearMesh,
  planetarySet,
] as const satisfies readonly JointDefinition[]

export const jointOf = registered<JointDefinition>(joints)
