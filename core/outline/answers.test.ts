import { describe, it } from 'vitest'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { randomFrom } from '../testing/outlines.ts'
import { among } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'
import { randomSketch, valuesOf } from '../testing/sketches.ts'
import {
  constraints,
  derivedAt,
  derivedKinds,
  extended,
  freedomOf,
  goingOn,
  grownAlone,
  infer,
  madeOwn,
  measuredPlace,
  middleOf,
  partsOf,
  solved,
  solveOutline,
  split,
  trimmed,
  withChanged,
} from './index.ts'

const kept = keptAnswers(new URL('answers.json', import.meta.url))
const kinds = {
  derived: kept.kindsOf('derived', derivedKinds),
  constraints: kept.kindsOf('constraints', constraints),
}

describe('random drawings', () => {
  it.each(sampled(150, 1, 3))('%i: are solved, read, cut and changed as they were', (seed) => {
    const random = randomFrom(seed)
    const shown = randomSketch(random, kinds)
    const { outline, system, solution, curves, arrangement, filled, problems, conflicts } = shown
    const values = valuesOf(shown)
    const anywhere = () => [60 * random() - 30, 60 * random() - 30] as const
    /** Near a point or anywhere. */
    const near = () => {
      const [x, y] = random() < 0.5 ? among(random, ...shown.points.values()) : anywhere()
      return [x + random() - 0.5, y + random() - 0.5] as const
    }
    const ends = [...shown.points].map(([point, at]) => ({ point, at }))
    const meant = Array.from({ length: 20 }, () =>
      infer(shown, near(), {
        within: 1,
        line: random() < 0.5,
        from: random() < 0.5 ? among(random, ...ends) : undefined,
      }),
    )
    const cuts = outline.curves.flatMap(({ id }) => {
      const at = near()
      return [trimmed(shown, id, at), extended(shown, id, at), split(shown, id, at)]
    })
    const ids = new Set(outline.curves.filter(() => random() < 0.5).map(({ id }) => id))
    const change = {
      about: middleOf(partsOf(outline, ids)),
      by: anywhere(),
      turn: 37.3,
      scale: 1.3,
      mirrored: seed % 2 > 0,
    }
    const pulled = solved(system, solution.x, { p: 0, to: anywhere() })
    kept.expectKept(`drawing ${seed}`, {
      solution: summed([solution.x, solution.solved ? 1 : 0]),
      freedom: summed(freedomOf(system, solution.x)),
      told: worded([
        problems.map(({ code, path }) => [code, path]),
        conflicts,
        freedomOf(system, solution.x).redundant,
      ]),
      curves: summed(curves),
      regions: summed([
        arrangement.faces.map(({ area, depth }) => [area, depth]),
        filled.length,
        arrangement.crossed,
        arrangement.loose,
      ]),
      keys: worded(arrangement.faces.map(({ key }) => key)),
      measured: summed(outline.constraints.map((each) => measuredPlace(shown, each))),
      meant: summed(meant),
      words: worded([
        meant.map(({ told, wishes }) => [told, wishes]),
        ends.map(({ point }) => goingOn(shown, point)?.curve),
      ]),
      cuts: summed(cuts),
      pieces: worded(cuts),
      changed: summed(withChanged(outline, ids, change, values)),
      pulled: summed(pulled.x),
      own: summed(outline.derived.map(({ id }) => madeOwn(shown, id))),
      derived: worded(Array.from({ length: 10 }, () => derivedAt(shown, near(), 3))),
      grown: summed(grownAlone(outline, [...outline.points.map(({ id }) => id)].slice(0, 2), values)),
      again: summed(solveOutline(outline, values).drawn),
    })
  })
})
