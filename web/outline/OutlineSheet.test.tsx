import type { Outline, Part } from '@makrel/core/document'
import { Sketch } from '@makrel/core/outline'
import { emptyOutline, partOf } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { OutlineSheet } from './OutlineSheet.tsx'
import { openOutline, selectPart, useOutline } from './state.ts'

const at = (x: number, y: number) => ({ at: [x, y] as const })

/** A rectangle with its width held, off the origin. */
function drawn(work: (sketch: Sketch) => void = () => undefined): Outline {
  const sketch = new Sketch(emptyOutline())
  const [bottom] = sketch.rectangle(at(3.1, 7.7), at(40.4, 22.9), false)
  sketch.hold('distance', [bottom!], '37.3')
  work(sketch)
  return sketch.outline
}
const part = (outline: Outline, change: Partial<Part> = {}): Part => ({ ...partOf([], change), outlines: [outline] })

function Sheet() {
  const worked = useWorked()!
  const solved = worked.resolved.outlines.get('o')!
  return <OutlineSheet solved={solved} names={worked.resolved.measures.names} problems={worked.problems} />
}
const sheet = (outline: Outline, change: Partial<Part> = {}) => shown(<Sheet />, part(outline, change))
const outlineNow = () => partNow().outlines[0]!
const section = (title: string) => screen.getByRole('heading', { name: new RegExp(`^${title}`) }).closest('section')!
const said = () => document.body.textContent

beforeEach(() => openOutline('o'))

describe('a dimension', () => {
  it('is typed in its line, and its curve follows', async () => {
    const { user } = sheet(drawn())
    const field = screen.getByLabelText(/^distance of l/i)
    await user.clear(field)
    await user.type(field, '85.1')
    expect(outlineNow().constraints.find(({ kind }) => kind === 'distance')?.value).toBe('85.1')
    expect(section('Regions').textContent).toContain('1294 mm²')
  })
  it('that cannot be read says so in its line, and the drawing stays', async () => {
    const { user } = sheet(drawn())
    const field = screen.getByLabelText(/^distance of l/i)
    await user.clear(field)
    await user.type(field, '3 + wal')
    expect(screen.getAllByRole('alert').some((each) => each.textContent?.includes('wal'))).toBe(true)
  })
  it('that is a reference only has no field', () => {
    const outline = drawn()
    const constraints = outline.constraints.map((each) => (each.kind === 'distance' ? { ...each, driven: true } : each))
    sheet({ ...outline, constraints })
    expect(screen.queryByLabelText(/^distance of l/i)).toBeNull()
    expect(within(section('Dimensions')).getByText('reference')).toBeTruthy()
  })
  it('is removed, which one undo takes back', async () => {
    const { user } = sheet(drawn())
    const before = outlineNow().constraints.length
    await user.click(within(section('Dimensions')).getByRole('button', { name: /^Remove/ }))
    expect(outlineNow().constraints).toHaveLength(before - 1)
    act(() => usePart.getState().undo())
    expect(outlineNow().constraints).toHaveLength(before)
  })
})

describe('how much of it is held', () => {
  it('is counted', () => {
    sheet(drawn())
    expect(said()).toContain('3 degrees of freedom left')
  })
  it('down to one, and to none', () => {
    const held = (more: (sketch: Sketch, sides: readonly string[]) => void) => {
      const sketch = new Sketch(emptyOutline())
      const sides = sketch.rectangle(at(3.1, 7.7), at(40.4, 22.9), false)
      sketch.hold('distance', [sides[0]!], '37.3')
      sketch.hold('distance', [sides[1]!], '15.2')
      sketch.hold('distance-x', ['origin', sketch.outline.points[0]!.id], '3.1')
      more(sketch, sides)
      return sketch.outline
    }
    const { unmount } = sheet(held(() => undefined))
    expect(said()).toContain('1 degree of freedom left')
    unmount()
    sheet(held((sketch) => sketch.hold('distance-y', ['origin', sketch.outline.points[0]!.id], '7.7')))
    expect(said()).toContain('Fully constrained.')
  })
  it('is nothing where nothing is drawn', () => {
    sheet(emptyOutline())
    expect(said()).toContain('Nothing is drawn yet.')
    expect(said()).not.toContain('Fully constrained')
  })
  it('what contradicts is named with its value, and can be taken out', async () => {
    const { user } = sheet(
      drawn((sketch) => {
        const [, , top] = sketch.outline.curves
        sketch.hold('distance', [top!.id], '40.1')
      }),
    )
    const told = screen.getByRole('alert')
    expect(told.textContent).toContain('cannot all hold')
    expect(told.textContent).toContain('37.3')
    expect(told.textContent).toContain('40.1')
    expect(screen.queryByText(/degrees? of freedom/)).toBeNull()
    const second = within(told)
      .getByText(/40\.1 of/)
      .closest('p')!
    await user.click(within(second).getByRole('button', { name: 'remove it' }))
    expect(
      outlineNow()
        .constraints.filter(({ kind }) => kind === 'distance')
        .map(({ value }) => value),
    ).toEqual(['37.3'])
    expect(screen.queryByText(/cannot all hold/)).toBeNull()
  })
})

describe('ends', () => {
  const open = (gap: number) => {
    const sketch = new Sketch(emptyOutline())
    sketch.line(at(0.3, 0.7), at(30.4, 0.7))
    sketch.line(at(30.4, 0.7 + gap), at(30.4, 20.1))
    return sketch.outline
  }
  it('that nearly meet say by how much, and one press joins them', async () => {
    const { user } = sheet(open(0.033))
    expect(said()).toContain('by 0.033 mm.')
    await user.click(screen.getAllByRole('button', { name: 'join them' })[0]!)
    expect(screen.queryByText(/misses/)).toBeNull()
    expect(outlineNow().points).toHaveLength(3)
  })
  it('in an inch part say it in inches', () => {
    sheet(open(0.0254), { unit: 'in' })
    expect(said()).toContain('by 0.001 in.')
    expect(said()).not.toContain('mm.')
  })
  it('that meet nothing are open', () => {
    sheet(open(8.3))
    expect(screen.getAllByText(/has an open end/)).toHaveLength(4)
  })
})

describe('what is listed', () => {
  it('regions are left out and taken back', async () => {
    const { user } = sheet(drawn())
    const tick = screen.getByRole<HTMLInputElement>('checkbox', { name: /^region 1/ })
    expect(tick.checked).toBe(true)
    await user.click(tick)
    expect(outlineNow().toggled).toHaveLength(1)
    expect(screen.getByRole<HTMLInputElement>('checkbox', { name: /^region 1/ }).checked).toBe(false)
    await user.click(screen.getByRole('checkbox', { name: /^region 1/ }))
    expect(outlineNow().toggled).toEqual([])
  })
  it('curves and axes are selected by their names, with Shift along', async () => {
    const { user } = sheet(drawn())
    const drawnNames = within(section('Drawn'))
    const buttons = drawnNames.getAllByRole('button')
    expect(buttons).toHaveLength(3 + 4)
    await user.click(buttons[3]!)
    await user.keyboard('{Shift>}')
    await user.click(buttons[1]!)
    await user.keyboard('{/Shift}')
    expect(useOutline.getState().selected).toEqual([outlineNow().curves[0]!.id, 'x-axis'])
    expect(drawnNames.getAllByRole('button', { pressed: true })).toHaveLength(2)
  })
  it('of many curves the first eighty, and how many more', () => {
    const sketch = new Sketch(emptyOutline())
    for (let i = 0; i < 83; i++) sketch.line(at(i, 0), at(i, 15.3))
    sheet(sketch.outline)
    expect(within(section('Drawn')).getAllByRole('button')).toHaveLength(83)
    expect(said()).toContain('and 3 more, on the drawing')
  })
  it('what was derived has its sentence, and becomes curves', async () => {
    const { user } = sheet(
      drawn((sketch) => {
        const corner = sketch.outline.curves[0]!.points[0]!
        sketch.derive('corner', [corner], { form: 'round', size: '2.5' })
      }),
    )
    await user.click(screen.getByRole('button', { name: 'make it curves' }))
    expect(outlineNow().derived).toEqual([])
    expect(outlineNow().curves.map(({ kind }) => kind)).toContain('arc')
  })
  it('the name is changed when its field is left, and never to nothing', async () => {
    const { user } = sheet(drawn())
    const name = screen.getByLabelText('Name of this outline')
    await user.clear(name)
    await user.type(name, '  ear {Enter}')
    expect(outlineNow().name).toBe('ear')
    await user.clear(screen.getByLabelText('Name of this outline'))
    await user.tab()
    expect(outlineNow().name).toBe('ear')
  })
})

describe('what is selected', () => {
  const panel = () => screen.getByRole('region', { name: 'Selection' })
  const curve = (i: number) => outlineNow().curves[i]!.id
  it('is not offered anything where there is nothing', () => {
    sheet(drawn())
    expect(screen.queryByRole('region', { name: 'Selection' })).toBeNull()
  })
  it('a line is held by its length, with the value that it has', async () => {
    const { user } = sheet(drawn())
    act(() => selectPart(curve(1), false))
    await user.click(within(panel()).getByRole('button', { name: 'distance' }))
    const made = outlineNow().constraints.at(-1)!
    expect([made.kind, made.of, Number(made.value)]).toEqual(['distance', [curve(1)], expect.closeTo(15.2, 2)])
    expect(useOutline.getState().openDimension).toBe(made.id)
  })
  it('a dimension becomes a reference, and a value again', async () => {
    const { user } = sheet(drawn())
    const { id } = outlineNow().constraints.find(({ kind }) => kind === 'distance')!
    act(() => selectPart(id, false))
    expect(within(panel()).getByText(/^distance of l/i)).toBeTruthy()
    const tick = () => within(panel()).getByLabelText<HTMLInputElement>('reference: shows its value only')
    await user.click(tick())
    expect(outlineNow().constraints.find((each) => each.id === id)?.driven).toBe(true)
    expect(said()).toContain('4 degrees of freedom left')
    await user.click(tick())
    expect(outlineNow().constraints.find((each) => each.id === id)?.driven).toBe(false)
  })
  it('curves become construction lines: then nothing is closed', async () => {
    const { user } = sheet(drawn())
    act(() => selectPart(curve(2), false))
    await user.click(within(panel()).getByLabelText('construction line, bounds nothing'))
    expect(outlineNow().curves[2]!.helper).toBe(true)
    expect(screen.queryByRole('heading', { name: /^Regions/ })).toBeNull()
  })
  it('two points become one', async () => {
    const sketch = new Sketch(emptyOutline())
    sketch.line(at(0.3, 0.7), at(30.4, 0.7))
    sketch.line(at(33.1, 2.2), at(30.4, 20.1))
    const { user } = sheet(sketch.outline)
    const points = outlineNow().points.map(({ id }) => id)
    act(() => selectPart(points[1], false))
    expect(within(panel()).queryByRole('button', { name: 'join into one point' })).toBeNull()
    act(() => selectPart(points[2], true))
    await user.click(within(panel()).getByRole('button', { name: 'join into one point' }))
    expect(outlineNow().points).toHaveLength(3)
    expect(outlineNow().curves[1]!.points).toContain(outlineNow().curves[0]!.points[1])
  })
  it('is removed, and what hung on it', async () => {
    const { user } = sheet(drawn())
    act(() => selectPart(curve(0), false))
    await user.click(within(panel()).getByRole('button', { name: 'remove' }))
    expect(outlineNow().curves).toHaveLength(3)
    expect(outlineNow().constraints.some(({ kind }) => kind === 'distance')).toBe(false)
    expect(screen.queryByRole('region', { name: 'Selection' })).toBeNull()
  })
  it('is moved, turned and scaled by what is typed, or a copy of it is', async () => {
    const sketch = new Sketch(emptyOutline())
    sketch.circle(at(10.3, 5.1), 4.4)
    const { user } = sheet(sketch.outline)
    act(() => selectPart(curve(0), false))
    const go = () => screen.getByRole('button', { name: 'do it', hidden: true })
    const fields = within(panel())
    expect(go()).toHaveProperty('disabled', true)
    const type = async (label: string, text: string) => {
      const field = fields.getByLabelText(label)
      await user.clear(field)
      await user.type(field, text)
    }
    await type('move to the right', '12.7 - ')
    expect(fields.getByLabelText('move to the right').getAttribute('aria-invalid')).toBe('true')
    expect(go()).toHaveProperty('disabled', true)
    await type('move to the right', '12.7 / 2')
    await type('scale', '1.5')
    await user.click(go())
    expect(outlineNow().points[0]!.at[0]).toBeCloseTo(16.65, 6)
    expect(outlineNow().curves[0]!.size).toBeCloseTo(6.6, 6)
    await user.click(fields.getByLabelText('to a copy'))
    await user.click(go())
    expect(outlineNow().curves).toHaveLength(2)
    expect(outlineNow().curves[1]!.size).toBeCloseTo(9.9, 6)
  })
  it('scaled by nothing or less is refused', async () => {
    const { user } = sheet(drawn())
    act(() => selectPart(curve(0), false))
    const scale = within(panel()).getByLabelText('scale')
    for (const text of ['0', '-2', 'x']) {
      await user.clear(scale)
      await user.type(scale, text)
      expect(scale.getAttribute('aria-invalid')).toBe('true')
      expect(screen.getByRole('button', { name: 'do it', hidden: true })).toHaveProperty('disabled', true)
    }
  })
})
