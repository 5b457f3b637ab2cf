import { readFileSync } from 'node:fs'
import { readPartFile } from '@makrel/core/document'
import { seenFrom, type Wanted } from '@makrel/core/mechanism'
import { norm, pointOut, subtract, type Vec3, world } from '@makrel/core/place'
import { upgraded, workOut } from '@makrel/core/planning'
import { expect, it } from 'vitest'
import { grabbed } from './grab.ts'
import { poseIn } from './swing.ts'

const file = new URL('../../demo/bench-vice-linkage.makrel.json', import.meta.url)
const part = upgraded(readPartFile(readFileSync(file, 'utf8')))
const worked = workOut(part)
const own = (id: string) => worked.plan.geometry.get(id)!.frame.origin
const down: Vec3 = [0, 0, -1]
const above = ([x, y]: Vec3) => ({ from: [x, y, 200] as Vec3, direction: down })
/** Where a place of a piece is with what is wanted, as it is seen. */
const seen = (piece: string, at: Vec3, wanted: Wanted, held?: string) =>
  pointOut(seenFrom(poseIn(worked, wanted).motions, held).get(piece) ?? world, at)

it('moves the joint that carries what is dragged, so that the place stays under the pointer', () => {
  for (const turned of [-9, 3.7, 25]) {
    const at = own('crank-grip')
    const goal = seen('handle', at, { crank: [turned] })
    const take = grabbed(worked, { piece: 'handle', point: at, wanted: {}, held: undefined })!
    const { grip, wanted } = take(above(goal))
    expect(grip.joint.id).toBe('crank')
    expect(wanted.crank![0]).toBeCloseTo(turned, 2)
    expect(norm(subtract(seen('handle', at, wanted), goal))).toBeLessThan(0.01)
  }
})
it('drives a whole linkage by any of its links, from where that stands', () => {
  const before: Wanted = { crank: [8] }
  const at = own('arm-body')
  const point = seen('jaw-arm', at, before)
  const goal = seen('jaw-arm', at, { crank: [15] })
  const take = grabbed(worked, { piece: 'jaw-arm', point, wanted: before, held: undefined })!
  // In small steps, as a pointer goes.
  let now: ReturnType<typeof take> | undefined
  for (let i = 1; i <= 5; i++) now = take(above(point.map((x, k) => x + ((goal[k]! - x) * i) / 5) as unknown as Vec3))
  expect(norm(subtract(seen('jaw-arm', at, now!.wanted), goal))).toBeLessThan(0.05)
  expect(poseIn(worked, now!.wanted).positions.crank![0]).toBeCloseTo(15, 1)
})
it('is seen from a piece that is held, which itself cannot be dragged', () => {
  const at = own('bed-jaw')
  expect(grabbed(worked, { piece: 'bed-link', point: at, wanted: {}, held: undefined })).toBeUndefined()
  const goal = seen('bed-link', at, { crank: [12] }, 'handle')
  const { wanted } = grabbed(worked, { piece: 'bed-link', point: at, wanted: {}, held: 'handle' })!(above(goal))
  expect(norm(subtract(seen('bed-link', at, wanted, 'handle'), goal))).toBeLessThan(0.05)
})
