import { describe, it } from 'vitest'
import type { Outline, Part } from '../document/index.ts'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { comesTo, keptKinds, randomPart } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'
import { heldPlaces, movedBetween, type Plan, planeOf, takenOffers, workOut } from './index.ts'
import { takenPoints } from './taken.ts'

const kept = keptAnswers(new URL('answers.json', import.meta.url))
const kinds = keptKinds(kept)

function offersOn(outline: Outline, plan: Plan) {
  const plane = planeOf(outline, plan)
  return plane ? takenOffers(plane, plan) : []
}

/** Its first outline with a point of everything that could be taken over on it. */
function withTaken(part: Part, plan: Plan): Part {
  const [outline, ...others] = part.outlines
  const taken = offersOn(outline!, plan)
    .slice(0, 60)
    .flatMap(({ points, at }, i) =>
      points.map((from, k) => ({ id: `t${i}-${k}`, at: [at[k]![0], at[k]![1]] as const, taken: from })),
    )
  return { ...part, outlines: [{ ...outline!, points: [...outline!.points, ...taken] }, ...others] }
}

describe('random parts', () => {
  it.each(sampled(80))('%i: are planned as they were', (seed) => {
    const part = randomPart(seed, kinds)
    const worked = workOut(part)
    const { plan, problems } = worked
    const bodies = [...plan.operands.values()]
    const [piece] = part.pieces
    const without = { ...part, pieces: [{ ...piece!, steps: piece!.steps.slice(1) }, ...part.pieces.slice(1)] }
    const taking = { ...withTaken(part, plan), variant: 'v1' }
    kept.expectKept(`part ${seed}`, {
      values: summed(comesTo(worked)),
      problems: worded(problems.map(({ code, path }) => [code, path])),
      geometry: summed([...plan.geometry.values()]),
      names: worded([...plan.geometry].map(([id, { faces }]) => [id, faces.map(({ name }) => name)])),
      bodies: summed(bodies.map(({ through, overlap, copies, box }) => [through, overlap, copies, box])),
      ways: worded(bodies.map(({ cuts, flush }) => [cuts, flush.top, flush.bottom])),
      held: summed(heldPlaces(part, new Set(['base', 's1']))),
      moved: worded(movedBetween(part, without)),
      offers: summed(part.outlines.map((outline) => offersOn(outline, plan))),
      taken: summed(takenPoints(taking, workOut(taking).plan)),
    })
  })
})
