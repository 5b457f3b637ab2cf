import { expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import type { Solid } from '../kernel/index.ts'
import { meet } from '../place/index.ts'
import { planPart, resolvePart } from '../planning/index.ts'
import { partOf, seeded, step, testKernel } from '../testing/index.ts'
import { Builder } from './index.ts'
import { runsOf } from './runs.ts'

const kernel = await testKernel()

/** A sheet of blocks of all effects thrown over and beside each other, so that some meet and some do not. */
function thrown(random: () => number, keeps: boolean): Part {
  const count = 5 + Math.floor(random() * 9)
  return partOf(
    Array.from({ length: count }, (_, i) => {
      const operation = i === 0 ? 'add' : random() < 0.5 ? 'add' : keeps && random() < 0.15 ? 'keep' : 'cut'
      const size = () => String(4 + random() * 14)
      const at = () => ({ from: 'centre', to: 'centre', by: String((random() - 0.5) * 44) }) as const
      const fields = { width: size(), depth: size(), height: size() }
      return step(`s${i}`, 'plate', fields, { operation, place: { across: at(), along: at(), rest: 'on' } })
    }),
  )
}

/** One step after the other, as the sheet reads. */
async function inOrder(part: Part): Promise<number> {
  const builder = new Builder(kernel)
  const built = await builder.build(part, { fineness: 0.1 })
  const own = new Map<string, Solid>()
  for (const { step: each } of built.plan.pieces[0]!.operands)
    own.set(each.id, (await builder.ghost(built, each.id, { fineness: 0.1 }))!)
  const volume = kernel.scope((scope) => {
    let solid = scope.union([])
    for (const { step: each } of built.plan.pieces[0]!.operands) {
      const shape = own.get(each.id)!
      solid =
        each.operation === 'add'
          ? scope.union([solid, shape])
          : each.operation === 'cut'
            ? scope.difference(solid, [shape])
            : scope.intersection([solid, shape])
    }
    return solid.volume()
  })
  builder.clear()
  return volume
}

it.each([
  [21, false],
  [22, true],
] as const)('whatever is edited last, the solid is the one that the sheet reads (seed %d)', async (seed, keeps) => {
  const random = seeded(seed)
  for (let i = 0; i < 30; i++) {
    const part = thrown(random, keeps)
    const expected = await inOrder(part)
    const builder = new Builder(kernel)
    for (let k = 0; k < 3; k++) {
      const ids = part.pieces[0]!.steps.map(({ id }) => id).filter(() => random() < 0.25)
      const { pieces } = await builder.prepare(part, ids, { fineness: 0.1 })
      expect(pieces[0]!.solid?.volume() ?? 0).toBeCloseTo(expected, 4)
    }
    builder.clear()
  }
})

it('falls into few runs, each step once, the edited ones last', () => {
  const random = seeded(4)
  for (let i = 0; i < 50; i++) {
    const { operands } = planPart(resolvePart(thrown(random, false))).pieces[0]!
    const recentlyEdited = new Set([operands[1]!.step.id])
    const runs = runsOf(operands, recentlyEdited)
    const order = runs.flatMap((run) => run.operands.map((operand) => operand.step.id))
    expect([...order].sort()).toEqual(operands.map((operand) => operand.step.id).sort())
    expect(runs.every((run) => run.operands.every((operand) => operand.operation === run.operation))).toBe(true)
    // What has just been edited, and what may not go before it, is behind all that has nothing to do with it.
    const first = runs.findIndex((run) => run.operands.some(({ step: { id } }) => recentlyEdited.has(id)))
    const late = new Set(runs.slice(first).flatMap((run) => run.operands))
    for (const operand of late) {
      const before = operands.slice(0, operands.indexOf(operand)).filter((each) => late.has(each))
      const isHeld = before.some((each) => each.operation !== operand.operation && meet(each.box!, operand.box!, 0.1))
      expect(isHeld || recentlyEdited.has(operand.step.id)).toBe(true)
    }
  }
})

it('takes as few runs as there are operations where nothing meets, and one more for what is edited', () => {
  const apart = Array.from({ length: 12 }, (_, i) =>
    step(
      `s${i}`,
      'plate',
      { width: '15.3' },
      {
        operation: i % 3 === 2 ? 'cut' : 'add',
        place: { across: { from: 'centre', to: 'centre', by: String(85.1 * i) }, rest: 'on' },
      },
    ),
  )
  const { operands } = planPart(resolvePart(partOf(apart))).pieces[0]!
  const kinds = (edited: readonly string[]) =>
    runsOf(operands, new Set(edited)).map(({ operation, operands: own }) => `${operation.kind} ${own.length}`)
  expect(kinds([])).toEqual(['add 8', 'cut 4'])
  expect(kinds(['s4'])).toEqual(['add 7', 'cut 4', 'add 1'])
  expect(kinds(['s5', 's9'])).toEqual(['add 7', 'cut 3', 'cut 1', 'add 1'])
})
