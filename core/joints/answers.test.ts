import { describe, it } from 'vitest'
import { type AnyValues, defaultFields, isNumberField } from '../fields/index.ts'
import { itemOf } from '../hardware/index.ts'
import type { Solid } from '../kernel/index.ts'
import { ProblemError } from '../problems/index.ts'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { among } from '../testing/parts.ts'
import { areasByName, endsOf, nearly, wildly } from '../testing/values.ts'
import { type JointDefinition, joints } from './index.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))

/** What runs together of two steps adds nothing by itself: it has tests of its own. */
const alone = kept.kindsOf('joints', joints).filter(({ fields }) => Object.values(fields).every(isPlain))
function isPlain({ kind }: { readonly kind: string }): boolean {
  return kind !== 'step'
}

const defaultsOf = ({ fields }: JointDefinition): AnyValues =>
  Object.fromEntries(
    Object.entries(fields).map(([name, field]) => [
      name,
      isNumberField(field) ? sizeOf(field.default) : field.kind === 'item' ? itemOf(field.default)! : field.default,
    ]),
  )
/** A gap is told by the name of its fit. */
const sizeOf = (text: string) => (Number.isFinite(Number(text)) ? Number(text) : 0.35)

const stuff = { stiffness: 1730 }

describe.each(alone.map((joint) => [joint.kind, joint] as const))('a %s at random sizes', (kind, joint) => {
  const random = randomFrom(kind.length * 977 + kind.charCodeAt(0))
  it.each(Array.from({ length: 8 }, (_, i) => i + 1))('%i: is what it was', (number) => {
    const choices = Object.entries(joint.fields).flatMap(([name, field]) =>
      field.kind === 'choice' ? [[name, among(random, ...Object.keys(field.choices))]] : [],
    )
    const plain = defaultsOf(joint)
    const values = (nearly(joint, plain, random, Object.fromEntries(choices)) ?? plain) as never
    const wild = wildly(joint, plain, random) as never
    const up = number % 2 === 0 ? ([0, 0, 1] as const) : ([0, 0.6, 0.8] as const)
    const freedoms = joint.freedoms(values)
    const positions = freedoms.map(({ from, to }) => from + (to - from) * random())
    const told = ({ facts, faults }: NonNullable<ReturnType<NonNullable<typeof joint.judged>>>) => [facts, faults]
    const surfaces = ([0, 1] as const).map((side) => joint.surfaces(values, side))
    const sizes = (solids: readonly (readonly Solid[])[]) =>
      solids.map((side, i) =>
        side.map((solid) => [
          ...[solid.volume(), solid.area(), solid.bounds(), solid.mass().first],
          areasByName(solid, surfaces[i]!.at).filter((each) => typeof each === 'number'),
        ]),
      )
    const made = kernel.scope((scope) => {
      const context = { scope, fineness: 0.07, up }
      try {
        const { cuts, adds } = joint.solids(values, context)
        return [sizes(cuts), sizes(adds), sizes(joint.bends?.(values, context) ?? [])]
      } catch (error) {
        if (error instanceof ProblemError) return [-1]
        throw error
      }
    })
    kept.expectKept(`${kind} ${number}`, {
      solid: summed(made),
      place: summed(joint.box(values)),
      faces: summed(surfaces.map(({ faces }) => faces.map(({ frame, size, round }) => [frame, size, round]))),
      names: worded(surfaces.map(({ all }) => all.map(({ name }) => name))),
      dimensions: summed(joint.dimensions(values)),
      said: worded([joint.sentence(values), joint.comesApart?.(texts(joint)), joint.joins?.(texts(joint))]),
      moves: summed([freedoms, joint.motion(values, positions)]),
      judged: worded(joint.judged ? [told(joint.judged(values, up)), told(joint.judged(wild, up))] : []),
      spring: summed(joint.spring?.(values, stuff) ?? []),
      acts: worded(joint.spring?.(values, stuff)),
      impossible: worded(joint.impossible?.(wild)),
      ends: summed(endsOf(joint, values)),
    })
  })
})

function texts({ fields }: JointDefinition) {
  return defaultFields(fields)
}
