import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Part, Step } from '../document/index.ts'
import { isNumberField } from '../fields/index.ts'
import { joints } from '../joints/index.ts'
import { Sketch } from '../outline/index.ts'
import { poseOf, workOut } from '../planning/index.ts'
import { proofOf } from '../proof/index.ts'
import { readouts } from '../readouts/index.ts'
import { repeats } from '../repeats/index.ts'
import { shapes } from '../shapes/index.ts'
import { onFace, partOf, repeat, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { inTurn } from '../testing/sample.ts'
import { Builder, renderMeshOf } from './index.ts'

const kernel = await testKernel()
afterEach(() => {
  vi.restoreAllMocks()
  expect(kernel.live).toBe(0)
})

type Definition = Record<string, unknown> & { readonly kind: string }

/** What a definition can be asked, also within what it holds. */
function functionsOf(definition: Definition): { readonly owner: Record<string, unknown>; readonly name: string }[] {
  return Object.entries(definition).flatMap(([name, value]) => {
    if (typeof value === 'function') return [{ owner: definition as Record<string, unknown>, name }]
    return name === 'upTo' && value ? functionsOf(value as Definition) : []
  })
}

/** The same value with every number in it none. */
function withoutNumbers(value: unknown): unknown {
  if (typeof value === 'number') return Number.NaN
  if (Array.isArray(value)) return value.map(withoutNumbers)
  if (value && typeof value === 'object' && Object.getPrototypeOf(value) === Object.prototype)
    return Object.fromEntries(Object.entries(value).map(([key, own]) => [key, withoutNumbers(own)]))
  return value
}

const ways = {
  throws: () => {
    throw new TypeError("Cannot destructure property 'min' of 'undefined'")
  },
  'gives no number': (original: (...args: unknown[]) => unknown) =>
    function (this: unknown, ...args: unknown[]) {
      return withoutNumbers(original.apply(this, args))
    },
}

function outlines() {
  const at = (x: number, y: number) => ({ at: [x, y] as const })
  const closed = new Sketch(emptyOutline('closed'))
  closed.rectangle(at(5, 1), at(9.3, 6), false)
  const small = new Sketch(emptyOutline('small'))
  small.circle(at(0, 0), 1.5)
  const open = new Sketch(emptyOutline('open'))
  open.line(at(0, 12), at(10, 0))
  return [closed.outline, small.outline, open.outline]
}

/** What can be done without: many cuts at once in a plane, a flex test that nobody asked for, and which fields are in use, of what has a fit. */
const doneWithout = ['prism', 'sheet', 'sentence']

/** A step of a shape on a plate, with outlines for fields that want one. */
function stepOf(definition: (typeof shapes)[number]): Step {
  const fields = Object.fromEntries(
    Object.entries(definition.fields).flatMap(([name, field]) => {
      if (field.kind === 'sections') return [[name, 'closed, 0; small, 20']]
      if (field.kind !== 'outline') return []
      if (name === 'path' || definition.kind === 'rib') return [[name, 'open']]
      return [[name, ['sweep', 'helix'].includes(definition.kind) ? 'small' : 'closed']]
    }),
  )
  const on = onFace('base', definition.roundOnly ? 'side' : definition.kind === 'plate' ? 'end' : 'top')
  // As few links as there can be: all of it is proved for each function.
  const few: Record<string, string> = definition.kind === 'chain-mail' ? { across: '2', along: '2' } : {}
  return step('x', definition.kind, { ...fields, ...few }, { operation: definition.operation, place: on })
}

/** `under`: what it stands on, which must not be what is injected into; `diameter`: of a bar. */
function partWith(steps: readonly Step[], change: Partial<Part> = {}, under = 'plate', diameter = '50'): Part {
  const base = step(
    'base',
    under,
    under === 'plate'
      ? { width: '60', depth: '40', height: '8' }
      : { diameter, height: diameter === '50' ? '8' : '60' },
  )
  const far = step('far', under, {}, { place: { lift: '40' } })
  return partOf([base, ...steps, far], { outlines: outlines(), ...change })
}

/** All that a page asks of a part; the proof only where that is wanted. What must stand stands, and every problem is told where it belongs. */
async function used(part: Part, proves: boolean): Promise<{ told: string[]; stands: string[] }> {
  const builder = new Builder(kernel)
  try {
    // What is known of a part is found again by its objects: each time it is another one.
    const fresh = structuredClone(part)
    const worked = workOut(fresh)
    const built = await builder.build(fresh, { fineness: 0.1 })
    for (const piece of built.pieces) if (piece.solid) renderMeshOf(built, piece)
    for (const joint of part.joints) poseOf(built, { [joint.id]: [30] })
    const findings = proves ? await proofOf(kernel, built) : []
    if (proves) expect(findings.length).toBeGreaterThan(0)
    expect(built.pieces[0]!.solid?.volume() ?? 0).toBeGreaterThan(1000)
    const told = [...worked.problems, ...built.problems].map(
      ({ path, code }) => `${path.slice(0, 2).join('/')} ${code}`,
    )
    const found = findings.flatMap(({ rank, about, check }) =>
      rank === 'pass' ? [] : about.map(({ kind, id }) => `${kind}s/${id} ${check}`),
    )
    return { told: [...told, ...found], stands: [...worked.plan.geometry.keys()] }
  } finally {
    builder.clear()
  }
}

type Asked = 'by the build' | 'by the proof' | 'by neither'

/** Which of a definition's functions a part asks for: proofs are tried only with those that they ask for themselves. */
async function askedOf(definition: Definition, part: Part): Promise<(owner: object, name: string) => Asked> {
  const functions = functionsOf(definition)
  const asked = async (proves: boolean) => {
    const spies = functions.map(({ owner, name }) => vi.spyOn(owner as Record<string, () => unknown>, name))
    await used(part, proves)
    const counts = spies.map((spy) => spy.mock.calls.length)
    for (const spy of spies) spy.mockRestore()
    return counts
  }
  const [built, proved] = [await asked(false), await asked(true)]
  return (owner, name) => {
    const i = functions.findIndex((each) => each.owner === owner && each.name === name)
    return proved[i]! > built[i]! ? 'by the proof' : built[i]! > 0 ? 'by the build' : 'by neither'
  }
}

/** What only the page asks for, when a line is made, chosen or drawn; or what these parts have none of: many cuts, round seats, flex tests. */
const askedElsewhere = ['sentence', 'cutting', 'dimensions', 'onRound', 'fitted', 'to', 'prism', 'sheet', 'isUneven']
/** A datum has no solid, what moves on an axis or anyhow adds nothing, and what makes one body of two is asked where that leaves. */
const askedOfNone = ['datum solid', 'any-motion surfaces', 'on-axis box', 'on-axis surfaces', 'flexure joins']
/** A joint between two steps adds nothing, and moves by what it says of both. */
const askedOfNoneBetween = ['box', 'surfaces', 'solids', 'motion']

function expectAsked({ kind, ...definition }: Definition, unasked: readonly string[]): void {
  // A mesh is nothing without what it was read from.
  if (kind === 'mesh') return
  const elsewhere = [...askedElsewhere, ...(definition.between ? askedOfNoneBetween : [])]
  const others = unasked.filter((name) => !elsewhere.includes(name)).map((name) => `${kind} ${name}`)
  expect(others.filter((name) => !askedOfNone.includes(name))).toEqual([])
}

describe.each(Object.entries(ways))('a function that %s', (_, way) => {
  const inject = (owner: Record<string, unknown>, name: string) => {
    const original = owner[name] as (...args: unknown[]) => unknown
    const replaced = way === ways.throws ? way : (way as (typeof ways)['gives no number'])(original)
    return vi.spyOn(owner as Record<string, () => unknown>, name).mockImplementation(replaced as () => unknown)
  }

  it.each(
    inTurn(
      10,
      shapes.map((shape) => [shape.kind, shape] as const),
    ),
  )('of the shape %s leaves the rest of the part', async (_, shape) => {
    const { round } = shape.fields
    // What is for rounds stands on a bar of the diameter that it is for.
    const across = shape.roundOnly && round && 'default' in round ? String(round.default) : undefined
    const part = partWith([stepOf(shape)], {}, shape.kind === 'plate' || across ? 'bar' : 'plate', across)
    const asked = await askedOf(shape as unknown as Definition, part)
    const unasked: string[] = []
    for (const { owner, name } of functionsOf(shape as unknown as Definition)) {
      const by = asked(owner, name)
      if (by === 'by neither') unasked.push(name)
      // Whatever makes solids makes them of its own numbers.
      if (by === 'by neither' || (way !== ways.throws && ['solid', 'prism'].includes(name))) continue
      const spy = inject(owner, name)
      const { told, stands } = await used(part, by === 'by the proof')
      expect(spy, name).toHaveBeenCalled()
      spy.mockRestore()
      expect(stands, name).toEqual(expect.arrayContaining(['base', 'far']))
      if (way === ways.throws && !doneWithout.includes(name)) expect(told.join(), name).toContain('steps/x')
    }
    expectAsked(shape as unknown as Definition, unasked)
  })

  it.each(
    inTurn(
      10,
      repeats.map((each) => [each.kind, each] as const),
    ),
  )('of the repeat %s leaves the rest of the part', async (kind, definition) => {
    const fields = Object.fromEntries(
      Object.entries(definition.fields).flatMap(([name, field]) =>
        isNumberField(field) ? [] : field.kind === 'outline' ? [[name, 'open']] : [],
      ),
    )
    const repeated = step('x', 'bar', {}, { place: onFace('base', 'top'), repeats: [repeat(kind, fields)] })
    const part = partWith([repeated])
    const asked = await askedOf(definition as unknown as Definition, part)
    const unasked: string[] = []
    for (const { owner, name } of functionsOf(definition as unknown as Definition)) {
      const by = asked(owner, name)
      if (by === 'by neither') unasked.push(name)
      if (by === 'by neither') continue
      const spy = inject(owner, name)
      const { told, stands } = await used(part, by === 'by the proof')
      expect(spy, name).toHaveBeenCalled()
      spy.mockRestore()
      expect(stands, name).toEqual(expect.arrayContaining(['base', 'far']))
      if (name !== 'impossible') expect(told.join(), name).toContain('steps/x')
    }
    expectAsked(definition as unknown as Definition, unasked)
  })

  it.each(
    inTurn(
      10,
      joints.map((each) => [each.kind, each] as const),
    ),
  )('of the joint %s leaves the pieces', async (kind, definition) => {
    const plain = partWith([])
    const { place } = step('p', 'plate')
    const fields = Object.fromEntries(
      Object.entries(definition.fields).map(([field, { default: text }]) => [field, text]),
    )
    // What a joint ties together: a step of a shape that it takes in each piece, beside each other.
    const tied: [Step[], Step[]] = [[], []]
    for (const [i, [name, field]] of Object.entries(definition.fields).entries()) {
      if (field.kind !== 'step') continue
      fields[name] = `tied ${i}`
      const across = { from: 'centre', to: 'own', by: `${40 * i}` } as const
      const own = step(`tied ${i}`, field.of?.[0] ?? 'bar', {}, { place: { lift: '60', across } })
      tied[field.side ?? 0].push(own)
    }
    const joint = { id: 'j', name: 'Joint', kind, pieces: ['p1', 'p2'], fields, place } as const
    const [one] = plain.pieces
    const first = { ...one!, steps: [...one!.steps, ...tied[0]] }
    const beside = step('y', 'plate', {}, { place: { lift: '100' } })
    const second = { ...one!, id: 'p2', name: 'Two', steps: [beside, ...tied[1]] }
    const part = { ...plain, pieces: [first, second], joints: [joint] }
    const asked = await askedOf(definition as unknown as Definition, part)
    const unasked: string[] = []
    for (const { owner, name } of functionsOf(definition as unknown as Definition)) {
      const by = asked(owner, name)
      if (by === 'by neither') unasked.push(name)
      if (by === 'by neither' || (way !== ways.throws && name === 'solids')) continue
      const spy = inject(owner, name)
      const { told, stands } = await used(part, by === 'by the proof')
      expect(spy, name).toHaveBeenCalled()
      spy.mockRestore()
      expect(stands, name).toEqual(expect.arrayContaining(['base', 'far', 'y']))
      const fails = way === ways.throws ? ['impossible', 'box', 'solids'] : ['box']
      if (fails.includes(name)) expect(told.join(), name).toContain('joints/j')
    }
    expectAsked(definition as unknown as Definition, unasked)
  })

  it.each(readouts.map((each) => [each.kind, each] as const))(
    'of the read-out %s is told on it',
    async (kind, definition) => {
      const edge = definition.of === 'edge' ? { edge: 'step/base/1/back|step/base/1/top||1' } : {}
      const of = [
        { step: 'base', face: 'top', ...edge },
        { step: 'base', face: 'bottom' },
      ].slice(0, definition.takes)
      const spy = inject(definition as never, 'read')
      const part = partWith([], { readouts: [{ id: 'r', name: 'read', kind, of, note: '' }] })
      const builder = new Builder(kernel)
      const built = await builder.build(part, { fineness: 0.1 })
      builder.clear()
      expect(spy).toHaveBeenCalled()
      spy.mockRestore()
      expect(built.readouts.map(({ problem }) => problem?.code)).toEqual(['readout-failed'])
    },
  )
})
