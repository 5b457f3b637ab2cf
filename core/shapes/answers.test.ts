import { describe, it } from 'vitest'
import { defaultFields } from '../fields/index.ts'
import { ProblemError } from '../problems/index.ts'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { among } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'
import { anyValues, defaults, given, met } from '../testing/shapes.ts'
import { areasByName, endsOf, wildly } from '../testing/values.ts'
import type { Prism } from './define.ts'
import { shapes } from './index.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))

describe.each(kept.kindsOf('shapes', shapes).map((shape) => [shape.kind, shape] as const))(
  'a %s at random sizes',
  (kind, shape) => {
    const random = randomFrom(kind.length * 977 + kind.charCodeAt(0))
    const all = Array.from({ length: 8 }, () => {
      const choices = Object.entries(shape.fields).flatMap(([name, field]) =>
        field.kind === 'choice' ? [[name, among(random, ...Object.keys(field.choices))]] : [],
      )
      const values = (anyValues(kind, random, { ...given[kind], ...Object.fromEntries(choices) }) ??
        defaults(kind)) as never
      const wild = wildly(shape, defaults(kind), random) as never
      const d = [0.48, 0.6 * (random() < 0.5 ? 1 : -1), 0.64 * (random() < 0.5 ? 1 : -1)] as const
      return { values, wild, d }
    })
    it.each(sampled(8, 1, 4))('%i: is what it was', (number) => {
      const { values, wild, d } = all[number - 1]!
      const { all: surfaces, faces, at } = shape.surfaces(values)
      const context = { fineness: 0.07, cuts: false, through: 20, overlap: 0.005, up: [0, 0, 1] } as const
      const made = (cuts: boolean) =>
        kernel.scope((scope) => {
          const up = cuts ? ([0, 0.6, 0.8] as const) : ([0, 0, 1] as const)
          const context = { scope, fineness: 0.07, cuts, through: 20, overlap: 0.005, up, ...met(shape, scope) }
          try {
            const solid = shape.solid(values, context)
            const named = cuts ? [] : areasByName(solid, at)
            return [solid.volume(), solid.area(), solid.bounds(), solid.mass().first, named.filter(isNumber)]
          } catch (error) {
            if (error instanceof ProblemError) return [-1]
            throw error
          }
        })
      const onRound = (diameter: string, inside: boolean) =>
        shape.onRound?.(diameter, { across: Number(diameter), inside, chosen: false })
      kept.expectKept(`${kind} ${number}`, {
        solid: summed(shape.datum ? [] : [made(false), made(true)]),
        place: summed([shape.box(values, 17), shape.reach?.(values, d), shape.edges?.(values, [0, 0.6, 0.8])]),
        faces: summed(faces.map(({ frame, size, round }) => [frame, size, round])),
        names: worded(surfaces.map(({ name }) => name)),
        dimensions: summed(shape.dimensions(values)),
        said: worded([shape.sentence(values), shape.straddles?.(values)]),
        impossible: worded(shape.impossible?.(wild)),
        ends: summed(endsOf(shape, values)),
        acts: summed(shape.spring?.(values, { stiffness: 1730 }) ?? []),
        flat: summed([shape.sheet?.(values), flatOf(shape.prism?.(values, context))]),
        fitted: summed([shape.fitted?.(values, 17.3), shape.fitted?.(values, -9.1)]),
        onRound: worded([onRound('17.3', true), onRound('9.1', false), defaultFields(shape.fields)]),
      })
    })
  },
)

const isNumber = (each: unknown): each is number => typeof each === 'number'

function flatOf(prism: Prism | undefined) {
  return prism && [prism.low, prism.high, prism.rings()]
}
