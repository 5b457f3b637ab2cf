import { registered } from '../fields/index.ts'
import { anyMotion } from './anyMotion.ts'
import { ballSocket } from './ballSocket.ts'
import { bayonet } from './bayonet.ts'
import { belt } from './belt.ts'
import { bolted } from './bolted.ts'
import { captiveRing } from './captiveRing.ts'
import type { JointDefinition } from './define.ts'
import { detent } from './detent.ts'
import { flexure } from './flexure.ts'
import { gearMesh } from './gearMesh.ts'
import { link } from './link.ts'
import { onAxis } from './onAxis.ts'
import { pianoHinge } from './pianoHinge.ts'
import { pinHinge } from './pinHinge.ts'
import { planetarySet } from './planetarySet.ts'
import { ratchet } from './ratchet.ts'
import { slide } from './slide.ts'
import { telescope } from './telescope.ts'
import { twistLock } from './twistLock.ts'

/** Every kind of joint. A new one is its file and its line here. */
export const joints = [
  pinHinge,
  pianoHinge,
  link,
  ballSocket,
  captiveRing,
  slide,
  telescope,
  bayonet,
  twistLock,
  detent,
  ratchet,
  flexure,
  bolted,
  onAxis,
  anyMotion,
  gearMesh,
  planetarySet,
  belt,
] as const satisfies readonly JointDefinition[]

export const jointOf = registered<JointDefinition>(joints)
