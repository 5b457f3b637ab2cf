import { describe, expect, it } from 'vitest'
import { turnedAbout, type Vec3 } from '../place/index.ts'
import { poseOf, workOut } from '../planning/index.ts'
import { beside, train, wheel } from '../testing/wheels/index.ts'
import { seenFrom, turnOf } from './index.ts'

const up: Vec3 = [0, 0, 1]

describe('how far a motion turns', () => {
  it.each([0, 12.5, -37.3, 91, -179.2])('is what it was turned by: %s°', (degrees) => {
    expect(turnOf(turnedAbout([3, -2, 7], up, degrees), up)).toBeCloseTo(degrees, 9)
    const aslant: Vec3 = [0.6, 0, 0.8]
    expect(turnOf(turnedAbout([0, 1, 0], aslant, degrees), aslant)).toBeCloseTo(degrees, 9)
    expect(turnOf(turnedAbout([0, 1, 0], [1, 0, 0], degrees), up)).toBeCloseTo(Math.abs(degrees), 9)
  })
})

describe('a planetary set', () => {
  // A sun of 24 teeth, a planet of 12, a ring of 48, and what carries the planet.
  const wheels = train(
    wheel('sun', 'gear', { teeth: '24' }),
    wheel('planet', 'gear', { teeth: '12', shift: '0.2' }, beside(22.86, 0)),
    wheel('ring', 'ring-gear', { teeth: '48' }),
    wheel('carrier', 'bar', { diameter: '3' }, beside(22.86, 0)),
  )
  const part = { ...wheels, joints: wheels.joints.slice(0, 2) }
  const [sun, planet, ring, carrier] = part.pieces.map(({ id }) => id) as [string, string, string, string]
  const motions = () => {
    const { resolved, plan } = workOut(part)
    const joints = part.joints.map((joint) => ({ joint, ...plan.joints.get(joint.id)! }))
    return poseOf({ resolved, joints }, { j1: [3] }).motions
  }
  const turns = (held: string | undefined) => {
    const seen = seenFrom(motions(), held)
    return Object.fromEntries([sun, planet, ring, carrier].map((piece) => [piece, turnOf(seen.get(piece)!, up) / 3]))
  }
  it('turns about fixed axes as its teeth say', () => {
    expect(turns(undefined)).toMatchObject({
      [carrier]: 0,
      [planet]: expect.closeTo(-2, 9),
      [ring]: expect.closeTo(-0.5, 9),
    })
  })
  it('with its ring held turns the carrier by Willis: one turn for three of the sun', () => {
    const seen = turns(ring)
    expect(seen[sun]! / seen[carrier]!).toBeCloseTo(1 + 48 / 24, 9)
    expect(seen[ring]).toBeCloseTo(0, 9)
  })
  it('with its sun held turns the ring once and a half for the carrier', () => {
    const seen = turns(sun)
    expect(seen[ring]! / seen[carrier]!).toBeCloseTo(1 + 24 / 48, 9)
  })
  it('takes its planet along with what is held', () => {
    const seen = seenFrom(motions(), ring)
    const at = (piece: string, [x, y, z]: Vec3) => {
      const { origin, u, v, n } = seen.get(piece)!
      return origin.map((o, k) => o + u[k]! * x + v[k]! * y + n[k]! * z)
    }
    // Its axis goes where the carrier holds it.
    for (const [k, x] of at(planet, [22.86, 0, 0]).entries()) expect(x).toBeCloseTo(at(carrier, [22.86, 0, 0])[k]!, 9)
    expect(seenFrom(motions(), 'nothing')).toEqual(motions())
  })
})
