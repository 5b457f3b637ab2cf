import { describe, it } from 'vitest'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { drawnOf, randomDrawing, randomFrom } from '../testing/outlines.ts'
import { sampled } from '../testing/sample.ts'
import {
  alongChain,
  arranged,
  bodiesOf,
  cubicTurn,
  curvatureAt,
  flattenedChain,
  innerPointOf,
  inset,
  isWithin,
  liesWell,
  nearestOn,
  offsetLoops,
  offsetOpen,
  outlineOf,
  parallel,
  pointInside,
  reversedChain,
  spreadReach,
  stretch,
  united,
  widened,
} from './index.ts'

const kept = keptAnswers(new URL('answers.json', import.meta.url))

describe('random drawings', () => {
  it.each(sampled(120, 1, 3))('%i: have the regions, offsets and flats that they had', (seed) => {
    const random = randomFrom(seed)
    const curves = randomDrawing(random)
    // Some are left open, so that they end nowhere or near something.
    const shown = random() < 0.4 ? curves.filter(() => random() < 0.85) : curves
    const arrangement = arranged(shown)
    const { faces, loose, crossed, open } = arrangement
    const filled = faces.filter(({ depth }) => depth % 2 === 0)
    const loops = outlineOf(arrangement, filled)
    const drawn = drawnOf(shown)
    const by = 0.2 + 2 * random()
    const offsets = ([by, -by] as const).map((each) =>
      (['round', 'sharp'] as const).map((join) => offsetLoops(loops, each, join)),
    )
    const wide = open.flatMap((chain) => widened(chain, by / 2, by, random() < 0.5 ? 'round' : 'square', 'round'))
    const rings = drawn.rings(0.05, true)
    const shrunk = rings.length > 0 ? inset(rings, random() < 0.5 ? by : -by) : undefined
    const places = Array.from({ length: 12 }, () => [40 * random(), 40 * random()] as const)
    const segments = shown.flatMap((each) => each.segments)
    kept.expectKept(`drawing ${seed}`, {
      faces: summed(faces),
      keys: worded(faces.map(({ key }) => key)),
      loose: summed(loose),
      crossed: summed(crossed),
      open: summed(open),
      loops: summed(loops),
      offsets: summed(offsets),
      widened: summed([wide, open.map((chain) => offsetOpen(chain, by, 'sharp'))]),
      united: summed(united([...loops, ...wide])),
      rings: summed(rings),
      reach: summed([drawn.reach([0.6, -0.8]), spreadReach(loops, by, [-0.28, 0.96])]),
      inset: summed([shrunk?.events, [0.3, 0.7, 1].map((share) => shrunk?.at(share * by))]),
      bodies: summed([bodiesOf(rings), pointInside(rings)]),
      well: worded([0.3, 1].map((share) => liesWell(shrunk?.at(share * by) ?? [], rings))),
      within: worded(places.map((at) => faces.map((face) => isWithin(face, at)))),
      inner: summed(faces.map(innerPointOf)),
      nearest: summed(places.map((at) => segments.map((s) => nearestOn(s, at)))),
      segments: summed(
        segments.map((s) => {
          const t = random()
          const turn = s.kind === 'cubic' ? cubicTurn(s.points) : 0
          return [curvatureAt(s, t), stretch(s, t / 2, t), parallel(s, by), turn]
        }),
      ),
      along: summed(
        [...loops, ...open].map((chain) => [alongChain(chain, 7.3), alongChain(reversedChain(chain), 15.1)]),
      ),
      flats: summed([true, false].map((grow) => loops.map((each) => flattenedChain(each.segments, true, 0.02, grow)))),
    })
  })
})
