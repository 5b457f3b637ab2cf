import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece, onBed, type Part, type ShapeStep } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { jointOf } from '../joints/index.ts'
import { type Frame, inverse, pointOut, turnedAbout, type Vec3, world } from '../place/index.ts'
import { builtTwice, partOf, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { beside } from '../testing/wheels/index.ts'
import { type PairStanding, reachOf } from './contact.ts'
import { Swing } from './swing.ts'

const kernel = await testKernel()

/** Two balls, the second one carried by a motion. */
function balls(one: Ball, two: Ball, motion: Frame): PairStanding {
  const away = pointOut(motion, two.at).map((x, k) => x - one.at[k]!)
  return {
    pieces: ['a', 'b'],
    gap: Math.min(10, Math.max(0, Math.hypot(...away) - one.radius - two.radius)),
    frame: motion,
    boxes: [boxOf(one), boxOf(two)],
  }
}
interface Ball {
  readonly at: Vec3
  readonly radius: number
}
const boxOf = ({ at, radius }: Ball) => ({
  min: at.map((x) => x - radius) as unknown as Vec3,
  max: at.map((x) => x + radius) as unknown as Vec3,
})
const turned = (degrees: number) => turnedAbout([0, 0, 0], [0, 0, 1], degrees)

describe('how far something goes before it meets something', () => {
  const number = (low: number, high: number) =>
    fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)
  it('is where two circles touch, to a hundredth of a degree, whichever of them is taken to move', async () => {
    const any = fc.record({ arm: number(8, 60), one: number(0.7, 9), two: number(0.7, 9), at: number(25, 160) })
    await fc.assert(
      fc.asyncProperty(any, fc.boolean(), async ({ arm, one, two, at }, isBack) => {
        const [fixed, carried] = [
          { at: pointOut(turned(at), [arm, 0, 0]), radius: one },
          { at: [arm, 0, 0] as Vec3, radius: two },
        ]
        // The chord between both at contact is the sum of their radii.
        const angle = at - (2 * Math.asin(Math.min(1, (one + two) / 2 / arm)) * 180) / Math.PI
        if (angle < 1) return
        const standingAt = (degrees: number) => ({
          pairs: [isBack ? balls(carried, fixed, inverse(turned(degrees))) : balls(fixed, carried, turned(degrees))],
          closes: true,
        })
        const found = (await reachOf(standingAt, 0, 180))!
        expect(Math.abs(found.position - angle)).toBeLessThan(0.011)
        expect(found.pieces).toEqual(['a', 'b'])
        // Not as far, it is free; the other way as well, until it comes round from behind.
        expect(await reachOf(standingAt, 0, angle - 0.02)).toBeUndefined()
      }),
      { numRuns: runs(60) },
    )
  })
  it('is not passed by where something turns on quickly after it has stood still', async () => {
    const any = fc.record({
      revs: number(48, 144),
      dwell: number(0.2, 0.7),
      long: number(0.001, 0.01),
      after: number(0.1, 0.9),
    })
    await fc.assert(
      fc.asyncProperty(any, async ({ revs, dwell, long, after }) => {
        // Up a screw, with a halt on the way; what stands in the way is met within a turn of that.
        const turnsAt = (t: number) => revs * (t < dwell ? t : Math.max(dwell, t - long))
        const climbs = 4 * revs
        const motion = (t: number): Frame => {
          const turn = turned(360 * turnsAt(t))
          return { ...turn, origin: [0, 0, (climbs * turnsAt(t)) / revs] }
        }
        const meets = dwell + long + after / revs
        const carried = { at: [20, 0, 0] as Vec3, radius: 0.7 }
        const fixed = { at: pointOut(motion(meets), carried.at), radius: 0.6 }
        const standingAt = (t: number) => ({ pairs: [balls(fixed, carried, motion(t))], closes: true })
        const found = await reachOf(standingAt, 0, 1)
        expect(found?.pieces).toEqual(['a', 'b'])
        expect(Math.abs(found!.position - meets)).toBeLessThan(0.02 / revs + 0.011)
      }),
      { numRuns: 40 },
    )
  })
  it('is not passed by, however short the touch is', async () => {
    await fc.assert(
      fc.asyncProperty(number(20, 60), number(0.001, 0.3), number(20, 1000), async (arm, deep, at) => {
        // A small ball beside the way of another one, which only grazes it.
        const fixed = { at: pointOut(turned(at), [arm + 3.1 - deep, 0, 0.2]), radius: 1.1 }
        const carried = { at: [arm, 0, 0.2] as Vec3, radius: 2 }
        let looked = 0
        const standingAt = (degrees: number) => {
          looked++
          return { pairs: [balls(fixed, carried, turned(degrees))], closes: true }
        }
        // Both middles are as far apart as their radii come to: law of cosines. It comes by once each turn.
        const far = arm + 3.1 - deep
        const half = (Math.acos((arm ** 2 + far ** 2 - 3.1 ** 2) / (2 * arm * far)) * 180) / Math.PI
        const first = ((at % 360) + 360 - half) % 360
        const found = await reachOf(standingAt, 0, 1080)
        // What is passed by is no deeper than a hundredth of a mm, which is more than as many degrees so far in.
        const within = 0.011 + ((0.01 / arm) * 180) / Math.PI
        expect(Math.abs(found!.position - first)).toBeLessThan(within)
        expect(looked).toBeLessThan(400)
        // What stands past where it came by last is met a turn later.
        const before = await reachOf(standingAt, first + 2 * half + 0.1, 1080)
        expect(Math.abs(before!.position - first - 360)).toBeLessThan(within)
      }),
      { numRuns: runs(60) },
    )
  })
  it('is not passed by, however often something turns over its travel', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.oneof(number(1, 41.3), number(23.93, 24.07), number(47.9, 48.1)),
        number(5, 355),
        async (ratio, at) => {
          // An arm that is turned by a worm or a train of gears: so many times as far as what is told.
          const fixed = { at: pointOut(turned(at), [30, 0, 0]), radius: 2.3 }
          const carried = { at: [30, 0, 0] as Vec3, radius: 1.7 }
          const standingAt = (degrees: number) => ({
            pairs: [balls(fixed, carried, turned(ratio * degrees))],
            closes: true,
          })
          const half = (2 * Math.asin(2 / 30) * 180) / Math.PI
          fc.pre(at > half + 1 && at < 359 - half)
          const found = await reachOf(standingAt, 0, 8640 / 24)
          if (ratio * 360 > at - half) expect(Math.abs(found!.position - (at - half) / ratio)).toBeLessThan(0.011)
          else expect(found).toBeUndefined()
        },
      ),
      { numRuns: runs(60) },
    )
  })
  it('ends where a loop cannot close, and does not look at what meets to begin with', async () => {
    const touch = balls({ at: [0, 0, 0], radius: 2 }, { at: [4, 0, 0], radius: 2 }, world)
    const locks = await reachOf((at) => ({ pairs: [touch], closes: at < 37.3 }), 0, 90)
    expect(locks!.pieces).toBeUndefined()
    expect(Math.abs(locks!.position - 37.3)).toBeLessThan(0.011)
    expect(await reachOf(() => ({ pairs: [touch], closes: true }), 0, -90)).toBeUndefined()
  })
})

describe('a part', () => {
  const long = (turn: string): ShapeStep =>
    step(
      'arm',
      'plate',
      { width: '61.3', depth: '5.4', height: '4' },
      { place: { ...onBed, ...beside(0, 0), turn } },
    ) as ShapeStep
  const post = step(
    'post',
    'bar',
    { diameter: '7.3', height: '9' },
    { place: { ...onBed, ...beside(20.7, 0) } },
  ) as ShapeStep
  const pin = step(
    'pin',
    'bar',
    { diameter: '2', height: '1' },
    { place: { ...onBed, ...beside(0, 0), lift: '-3' } },
  ) as ShapeStep
  function withArm(turn: string): Part {
    const part = partOf([post, pin])
    return {
      ...part,
      pieces: [part.pieces[0]!, { ...newPiece('p2', 'Arm', 'sand'), steps: [long(turn)] }],
      joints: [
        {
          ...{ id: 'j', name: '', kind: 'on-axis', pieces: ['p1', 'p2'] as const, place: onBed },
          fields: { ...defaultFields(jointOf('on-axis')!.fields), about: 'pin', from: '-180', to: '180' },
        },
      ],
    }
  }
  it('goes as far both ways as its arm is from a post, told as from the printed place', async () => {
    const twice = await builtTwice(kernel, withArm('85.1'))
    const swing = new Swing(kernel)
    // The side of the arm is half its width from its middle line; the post touches it at the sum of both.
    const half = (Math.asin((5.4 / 2 + 7.3 / 2) / 20.7) * 180) / Math.PI
    for (const [to, angle] of [
      [-180, half - 85.1],
      [180, 180 - 85.1 - half],
    ] as const) {
      const found = (await swing.reach(twice, (at) => ({ j: [at] }), { from: 0, to }))!
      // The post is as many flats as the fineness of measuring asks for.
      expect(Math.abs(found.position - angle)).toBeLessThan(0.05)
      expect(found.pieces).toEqual(['p1', 'p2'])
      const [before, behind] = [found.position, found.position + Math.sign(to) * 0.3].map((at) =>
        swing.at(twice, { j: [at] }),
      )
      expect(before!.collisions).toEqual([])
      expect(behind!.collisions.map(({ pieces }) => pieces)).toEqual([['p1', 'p2']])
    }
  })
  it('that lies all within the material of another one is in it, though no surfaces cross', async () => {
    const block = step('post', 'plate', { width: '40', depth: '40', height: '30' }, { place: onBed }) as ShapeStep
    const part = withArm('0')
    const ball = step('arm', 'ball', { diameter: '5' }, { place: { ...onBed, lift: '10' } }) as ShapeStep
    const inside = {
      ...part,
      pieces: [
        { ...part.pieces[0]!, steps: [block, pin] },
        { ...part.pieces[1]!, steps: [ball] },
      ],
    }
    const twice = await builtTwice(kernel, inside)
    const at = new Swing(kernel).at(twice, { j: [0] })
    expect(at.gap).toBe(0)
    expect(at.collisions).toHaveLength(1)
    expect(at.collisions[0]!.volume / ((Math.PI / 6) * 125)).toBeCloseTo(1, 1)
  })
})
