import { expect, it } from 'vitest'
import { newPiece, type Part, type Place, type Step } from '../document/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()

const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
const block = (id: string, [width, depth, height]: readonly number[], place: Partial<Place> = {}, operation?: string) =>
  step(
    id,
    'plate',
    { width: `${width}`, depth: `${depth}`, height: `${height}` },
    operation ? { place, operation } : { place },
  )
function pieces(...all: readonly (readonly Step[])[]): Part {
  const part = partOf(all[0]!)
  const more = all.slice(1).map((steps, i) => ({ ...newPiece(`p${i + 2}`, `Piece ${i + 2}`, 'sand'), steps }))
  const printer = {
    ...part.printer,
    firstLayer: 0.2,
    layerHeight: 0.2,
    leastLayers: 1,
    leastGap: 0.25,
    lineWidth: 0.44,
  }
  return { ...part, printer, pieces: [...part.pieces, ...more] }
}
async function codes(part: Part, check: string): Promise<readonly string[]> {
  const own = (await proofOf(kernel, await built(kernel, part, 0.02), { only: [check] })).map(({ code }) => code)
  return own.length > 0 ? own : ['nothing']
}

/** A bar of 9.3 × 6.1 in a slot that is so much wider on either side, open at both ends only. */
const inSlot = (play: number) =>
  pieces(
    [
      block('body', [21.3, 15.7, 12.1], { across: at(3.3) }),
      block(
        'slot',
        [9.3 + 2 * play, 6.1 + 2 * play, 40],
        { ...onFace('body', 'front'), across: at(0), along: at(0) },
        'cut',
      ),
    ],
    [block('bar', [9.3, 11.3, 6.1], { across: at(3.3), lift: '3' })],
  )

/** A block with a fin on it, so thick. */
const finned = (thick: number, more: Partial<Place> = {}) =>
  pieces([
    block('a', [21.3, 15.7, 3.1], { across: at(3.3) }),
    block('b', [12.3, thick, 7.1], { ...onFace('a', 'top'), across: at(1.3), along: at(-2.1), turn: '37.3', ...more }),
  ])
/** A block with a pocket that leaves so much of its floor. */
const floored = (floor: number) =>
  pieces([
    block('a', [21.3, 15.7, 6.1]),
    block('c', [15.1, 9.3, 9], { across: at(1.3), lift: `${floor}`, rest: 'on' }, 'cut'),
  ])
/** A block cut off along a plane, so that an upright edge of so many degrees is left. */
const wedged = (angle: number) => {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)]
  const cut = { across: at(-15 - 20 * s), along: at(-10 + 20 * c), turn: `${angle}`, lift: '-2', rest: 'on' } as const
  return pieces([block('a', [30, 20, 8]), block('c', [90, 40, 20], cut, 'cut')])
}
/** A block that is cut into from its front, by a slot so wide and high. */
const slotted = (wide: number, high: number) =>
  pieces([
    block('a', [21.3, 15.7, 12.1]),
    block('c', [wide, 15.7, high], { across: at(1.3), along: at(-5.3), lift: '3.7', rest: 'on' }, 'cut'),
  ])

type Side = readonly [number, string]
type Limit = readonly [what: string, check: string, part: (x: number) => Part, below: Side, above: Side]

/** Each number that decides, with what is said a little below it and a little above. */
const limits: readonly Limit[] = [
  [
    'what is a thousandth above the bed stands on it',
    'stands',
    (lift) => pieces([block('a', [15.3, 8.1, 3.7], { lift: `${lift}` })]),
    [0.00093, 'stands-on-bed'],
    [0.00107, 'stands-floats'],
  ],
  [
    'what lies no more than 1 mm below a piece carries it',
    'stands',
    (gap) =>
      pieces([block('a', [15.3, 8.1, 3.7])], [block('b', [10.1, 8.1, 3.7], { across: at(2.3), lift: `${3.7 + gap}` })]),
    [0.97, 'stands-carried'],
    [1.03, 'stands-floats'],
  ],
  [
    'pieces right above each other over less than 2 mm² break loose',
    'fused',
    (area) =>
      pieces(
        [block('a', [15.3, 8.1, 3.6])],
        [block('b', [Math.sqrt(area), Math.sqrt(area), 3.7], { across: at(2.3), lift: '3.65' })],
      ),
    [1.93, 'fused-loose'],
    [2.07, 'fused-right'],
  ],
  [
    'a gap that lacks a ten-thousandth is as wide as it is needed',
    'gap',
    (lacks) => pieces([block('a', [10, 8.1, 3.7])], [block('b', [10, 8.1, 3.7], { across: at(10.25 - lacks) })]),
    [0.00007, 'gap-wide'],
    [0.00013, 'gap-narrow'],
  ],
  [
    'what has two hundredths of play all round comes out; of what has less nothing is told, as its gap is a fault',
    'leaves',
    (play) => inSlot(play),
    [0.017, 'nothing'],
    [0.024, 'leaves-comes-off'],
  ],
  [
    'a wall of 98 % of a line is laid',
    'walls',
    (thick) => finned(thick),
    [0.4305, 'walls-not-laid'],
    [0.4319, 'walls-one-line'],
  ],
  [
    'a wall of 98 % of two lines is laid in two',
    'walls',
    (thick) => finned(thick),
    [0.8617, 'walls-one-line'],
    [0.8631, 'walls-wide'],
  ],
  [
    'a wall that leans is as wide as its layers cut it',
    'walls',
    // 0.98 × 0.44 mm × cos 40°
    (thick) => finned(thick, { tilt: '40', lift: '-1.5' }),
    [0.3295, 'walls-not-laid'],
    [0.3311, 'walls-one-line'],
  ],
  [
    'what is thinner than half a layer comes between two',
    'walls',
    (floor) => floored(floor),
    [0.0975, 'walls-film'],
    [0.0985, 'walls-one-layer'],
  ],
  [
    'what is thinner than two layers is laid in one',
    'walls',
    (floor) => floored(floor),
    [0.391, 'walls-one-layer'],
    [0.393, 'walls-wide'],
  ],
  [
    'what tapers to a sharp edge of more than some degrees is no thin wall',
    'walls',
    (angle) => wedged(angle),
    [8.1, 'walls-not-laid'],
    [24.3, 'walls-wide'],
  ],
  [
    'a slot of less than the least gap closes',
    'slots',
    (wide) => slotted(wide, 20),
    [0.2484, 'slots-close'],
    [0.2496, 'slots-wide'],
  ],
  [
    'a slit of less than the least layers closes',
    'slots',
    (high) => slotted(50, high),
    [0.1984, 'slots-close'],
    [0.1996, 'slots-wide'],
  ],
  [
    'a hole that prints tighter than the least gap closes',
    'slots',
    // 0.25 mm and 0.08 on either side
    (diameter) =>
      pieces([
        block('a', [21.3, 15.7, 12.1]),
        step(
          'c',
          'bar',
          { diameter: `${diameter}`, height: '20' },
          { operation: 'cut', place: { across: at(1.3), lift: '-2', rest: 'on' } },
        ),
      ]),
    [0.405, 'slots-hole'],
    [0.412, 'slots-wide'],
  ],
]

it.each(limits)('%s', async (_, check, part, ...sides) => {
  for (const [x, code] of sides) expect([x, await codes(part(x), check)]).toEqual([x, expect.arrayContaining([code])])
})
