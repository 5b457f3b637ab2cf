import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compose, pointOut, turnedAbout, unit, type Vec3, world } from '../place/index.ts'
import { real, runs } from '../testing/sample.ts'
import type { Contact, Station } from './ball.ts'
import { eatenBy } from './fits.ts'

const contact = (at: Vec3, face: number): Contact => ({ at, normal: [0, 0, 1], face, bulge: 0, curve: 0, past: -1 })

/** Balls along an edge on one face: from it, `deep` mm into the face to its left. */
function strip(from: Vec3, along: Vec3, into: Vec3, long: number, deep: number, face: number) {
  const stations = Array.from({ length: 9 }, (_, i): Station => {
    const edge = [0, 1, 2].map((k) => from[k]! + (along[k]! * long * i) / 8) as unknown as Vec3
    const at = [0, 1, 2].map((k) => edge[k]! + into[k]! * deep) as unknown as Vec3
    return { edge, along, centre: at, radius: deep, left: contact(at, face), right: contact(edge, 99 + face) }
  })
  return { stations, inner: stations.slice(1, -1) }
}

describe('rounds that meet on a face', () => {
  const turn = fc.tuple(real(-1, 1), real(-1, 1), real(0.1, 1), real(-180, 180))
  it('eat each other where their strips overlap, wherever the face stands', () => {
    fc.assert(
      fc.property(turn, real(0.5, 4), real(-60, 60), (by, deep, away) => {
        const frame = compose(
          { ...world, origin: [away, 1 / 3, -away] },
          turnedAbout([15.3, -7, 2], unit([by[0], by[1], by[2]]), by[3]),
        )
        const way = (v: Vec3): Vec3 =>
          [0, 1, 2].map((k) => pointOut(frame, v)[k]! - frame.origin[k]!) as unknown as Vec3
        const pair = (apart: number) => [
          strip(pointOut(frame, [0, 0, 0]), way([1, 0, 0]), way([0, 1, 0]), 30, deep, 0),
          strip(pointOut(frame, [28, apart, 0]), way([-1, 0, 0]), way([0, -1, 0]), 26, deep, 0),
        ]
        expect([...eatenBy(pair(1.6 * deep), 0.02)].sort()).toEqual([0, 1])
        expect([...eatenBy(pair(2.1 * deep), 0.02)]).toEqual([])
        // On another face, or beyond its end, one is nothing to the other.
        const [first] = pair(1)
        const other = strip(pointOut(frame, [28, 1.6 * deep, 0]), way([-1, 0, 0]), way([0, -1, 0]), 26, deep, 1)
        expect([...eatenBy([first!, other], 0.02)]).toEqual([])
        const beyond = strip(pointOut(frame, [58, 1.6 * deep, 0]), way([-1, 0, 0]), way([0, -1, 0]), 26, deep, 0)
        expect([...eatenBy([first!, beyond], 0.02)]).toEqual([])
      }),
      { numRuns: runs(300) },
    )
  })
})
