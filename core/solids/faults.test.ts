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

/** What building can do without, and what only the proof asks for and tells. */
const toldElsewhere = ['prism', 'spring', 'sheet']

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
  return step('x', definition.kind, fields, { operation: definition.operation, place: onFace('base', 'top') })
}

/** `under`: what it stands on, which must not be what is injected into. */
function partWith(steps: readonly Step[], change: Partial<Part> = {}, under = 'plate'): Part {
  const base = step(
    'base',
    under,
    under === 'plate' ? { width: '60', depth: '40', height: '8' } : { diameter: '50', height: '8' },
  )
  const far = step('far', under, {}, { place: { lift: '40' } })
  return partOf([base, ...steps, far], { outlines: outlines(), ...change })
}

/** All that a page asks of a part. What must stand stands, and every problem is told where it belongs. */
async function used(part: Part): Promise<{ told: string[]; stands: string[] }> {
  const builder = new Builder(kernel)
  try {
    const worked = workOut(part)
    const built = await builder.build(part, { fineness: 0.1 })
    for (const piece of built.pieces) if (piece.solid) renderMeshOf(built, piece)
    for (const joint of part.joints) poseOf(built, { [joint.id]: [30] })
    expect((await proofOf(kernel, built)).length).toBeGreaterThan(0)
    expect(built.pieces[0]!.solid?.volume() ?? 0).toBeGreaterThan(1000)
    return {
      told: [...worked.problems, ...built.problems].map(({ path, code }) => `${path.slice(0, 2).join('/')} ${code}`),
      stands: [...worked.plan.geometry.keys()],
    }
  } finally {
    builder.clear()
  }
}

describe.each(Object.entries(ways))('a function that %s', (_, way) => {
  const inject = (owner: Record<string, unknown>, name: string) => {
    const original = owner[name] as (...args: unknown[]) => unknown
    const replaced = way === ways.throws ? way : (way as (typeof ways)['gives no number'])(original)
    return vi.spyOn(owner as Record<string, () => unknown>, name).mockImplementation(replaced as () => unknown)
  }

  it.each(shapes.map((shape) => [shape.kind, shape] as const))(
    'of the shape %s leaves the rest of the part',
    async (_, shape) => {
      for (const { owner, name } of functionsOf(shape as unknown as Definition)) {
        // What only the page asks for, and what makes solids, whose numbers are none of ours.
        if (['sentence', 'dimensions', 'onRound'].includes(name)) continue
        if (way !== ways.throws && ['solid', 'prism'].includes(name)) continue
        const spy = inject(owner, name)
        const { told, stands } = await used(partWith([stepOf(shape)], {}, shape.kind === 'plate' ? 'bar' : 'plate'))
        const asked = spy.mock.calls.length > 0
        spy.mockRestore()
        expect(stands, name).toEqual(expect.arrayContaining(['base', 'far']))
        if (asked && way === ways.throws && !toldElsewhere.includes(name))
          expect(told.join(), name).toContain('steps/x')
      }
    },
  )

  it.each(repeats.map((each) => [each.kind, each] as const))(
    'of the repeat %s leaves the rest of the part',
    async (kind, definition) => {
      const fields = Object.fromEntries(
        Object.entries(definition.fields).flatMap(([name, field]) =>
          isNumberField(field) ? [] : field.kind === 'outline' ? [[name, 'open']] : [],
        ),
      )
      for (const { owner, name } of functionsOf(definition as unknown as Definition)) {
        if (name === 'sentence') continue
        const spy = inject(owner, name)
        const repeated = step('x', 'bar', {}, { place: onFace('base', 'top'), repeats: [repeat(kind, fields)] })
        const { told, stands } = await used(partWith([repeated]))
        const asked = spy.mock.calls.length > 0
        spy.mockRestore()
        expect(stands, name).toEqual(expect.arrayContaining(['base', 'far']))
        if (asked && name !== 'impossible') expect(told.join(), name).toContain('steps/x')
      }
    },
  )

  it.each(joints.map((each) => [each.kind, each] as const))(
    'of the joint %s leaves the pieces',
    async (kind, definition) => {
      for (const { owner, name } of functionsOf(definition as unknown as Definition)) {
        if (['sentence', 'dimensions'].includes(name) || (way !== ways.throws && name === 'solids')) continue
        const part = partWith([])
        const { place } = step('p', 'plate')
        const fields = Object.fromEntries(
          Object.entries(definition.fields).map(([field, { default: text }]) => [field, text]),
        )
        const joint = { id: 'j', name: 'Joint', kind, pieces: ['p1', 'p2'], fields, place } as const
        const second = {
          ...part.pieces[0]!,
          id: 'p2',
          name: 'Two',
          steps: [step('y', 'plate', {}, { place: { lift: '100' } })],
        }
        const spy = inject(owner, name)
        const { told, stands } = await used({ ...part, pieces: [part.pieces[0]!, second], joints: [joint] })
        const asked = spy.mock.calls.length > 0
        spy.mockRestore()
        expect(stands, name).toEqual(expect.arrayContaining(['base', 'far', 'y']))
        const fails = way === ways.throws ? ['impossible', 'box', 'solids'] : ['box']
        if (asked && fails.includes(name)) expect(told.join(), name).toContain('joints/j')
      }
    },
  )

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
