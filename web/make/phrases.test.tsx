import type { BodyStep, Part, Step, TreatmentStep } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { operationOf, type Treatment } from '@makrel/core/operations'
import { Sketch } from '@makrel/core/outline'
import { emptyOutline, partOf, step, treatment } from '@makrel/core/testing'
import { act, screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { workedOf } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { StepLine } from './StepLine.tsx'
import { treat } from './treat.ts'

function Line({ id }: { readonly id: string }) {
  const part = usePart((state) => state.part!)
  const worked = useWorked()!
  const list = part.pieces[0]!.steps
  const index = list.findIndex((each) => each.id === id)
  return (
    <StepLine
      {...{ part, index, open: true, selected: true, chosen: true, depth: 0, number: `${index + 1}` }}
      step={list[index]!}
      last={index === list.length - 1}
      resolved={worked.resolved}
      plan={worked.plan}
      problems={worked.problems.filter(({ path }) => path[1] === id)}
      onOpen={() => undefined}
    />
  )
}
const plate = (more: Partial<Step> = {}) =>
  ({ ...step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' }), ...more }) as Step
const stepNow = (i = 0) => partNow().pieces[0]!.steps[i]!

describe('the plane of a split', () => {
  const split = (plane: string): Part => partOf([plate(), treatment('split', { at: plane })])
  const texts = () => (stepNow(1) as TreatmentStep).fields.at
  it('keeps its distance across another direction, and begins at a face', async () => {
    const { user } = shown(<Line id="t" />, split('x, 12.7'))
    const label = screen.getAllByRole('combobox').find((each) => each.textContent?.startsWith('across x'))!
    await choose(user, label.getAttribute('aria-label')!, 'across y')
    expect(texts()).toMatch(/^y.*12\.7/)
    await choose(user, label.getAttribute('aria-label')!, 'along top of')
    expect(texts()).toContain('top')
    expect(texts()).not.toContain('12.7')
    expect(document.body.textContent).toContain('beyond')
  })
  it.each([
    ['mm', '17.5', 'x, 17.5'],
    ['mm', '-31.77', 'x, -31.8'],
    ['in', '1 1/4', 'x, 1 1/4'],
    ['in', '-1/2', 'x, -(1/2)'],
  ] as const)('that is new halves the piece where it stands, in %s at %s: %s', (unit, by, plane) => {
    const across = { from: 'centre', to: 'centre', by } as const
    const sizes = unit === 'mm' ? ['61.3', '37.7', '8.2'] : ['3', '2', '1/4']
    const [width, depth, height] = sizes as [string, string, string]
    const own = step('b', 'plate', { width, depth, height }, { place: { across } })
    const treatment = operationOf('split') as Treatment
    shown(<output />, partOf([own], { unit }))
    act(() => treat(partNow().pieces[0]!.id, { treatment, fields: defaultFields(treatment.fields, unit) }))
    expect(texts()).toBe(plane)
    expect(workedOf(partNow()).problems).toEqual([])
  })
})

describe('repeats', () => {
  const row = { kind: 'row', fields: { count: '4', spacing: '13.7', direction: 'across' } }
  it('are typed, and taken away', async () => {
    const { user } = shown(<Line id="b" />, partOf([plate({ repeats: [row], omit: [] } as never)]))
    const count = screen.getByLabelText('Copies')
    await user.clear(count)
    await user.type(count, '7')
    expect((stepNow() as BodyStep).repeats[0]!.fields.count).toBe('7')
    await user.click(screen.getByRole('button', { name: /^No longer/ }))
    expect((stepNow() as BodyStep).repeats).toEqual([])
    act(() => usePart.getState().undo())
    expect((stepNow() as BodyStep).repeats).toHaveLength(1)
  })
  it('copies that are left out are named, and brought back', async () => {
    const { user } = shown(<Line id="b" />, partOf([plate({ repeats: [row], omit: [2, 3] } as never)]))
    expect(document.body.textContent).toContain('without copies 2, 3')
    await user.click(screen.getByRole('button', { name: 'Bring back copy 3' }))
    expect((stepNow() as BodyStep).omit).toEqual([2])
    expect(document.body.textContent).toContain('without copy 2')
  })
  it('of a kind that is not known say so, and can be taken away', async () => {
    const { user } = shown(
      <Line id="b" />,
      partOf([plate({ repeats: [{ kind: 'spiral', fields: {} }], omit: [] } as never)]),
    )
    expect(document.body.textContent).toContain('repeated in a way of kind “spiral”')
    await user.click(screen.getByRole('button', { name: 'No longer repeated' }))
    expect((stepNow() as BodyStep).repeats).toEqual([])
  })
})

describe('the regions of a step', () => {
  const at = (x: number, y: number) => ({ at: [x, y] as const })
  const two = (): Part => {
    const sketch = new Sketch(emptyOutline())
    sketch.rectangle(at(3.1, 7.7), at(40.4, 22.9), false)
    sketch.rectangle(at(50.3, 7.7), at(61.7, 22.9), false)
    return { ...partOf([step('e', 'extrude', { outline: 'o', height: '3.1' })]), outlines: [sketch.outline] }
  }
  it('are those that are filled, until some are chosen', async () => {
    const { user } = shown(<Line id="e" />, two())
    const open = screen.getByRole('button', { name: /region/i })
    await user.click(open)
    const regions = await screen.findAllByRole('checkbox', { name: /^Region of/ })
    expect(regions.map((each) => each.getAttribute('aria-checked'))).toEqual(['true', 'true'])
    await user.click(regions[1]!)
    expect(
      screen.getAllByRole('checkbox', { name: /^Region of/ }).map((each) => each.getAttribute('aria-checked')),
    ).toEqual(['true', 'false'])
    await user.click(screen.getByRole('button', { name: 'as filled in the drawing' }))
    expect(
      screen.getAllByRole('checkbox', { name: /^Region of/ }).map((each) => each.getAttribute('aria-checked')),
    ).toEqual(['true', 'true'])
  })
})
