import { assetOf, type Outline, type Part } from '@makrel/core/document'
import { readDrawing } from '@makrel/core/exchange'
import { Sketch } from '@makrel/core/outline'
import { attempt } from '@makrel/core/problems'
import { emptyOutline, partOf, step } from '@makrel/core/testing'
import { act, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { reader } from '../channel/client.ts'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { answering, partNow, shown } from '../testing/page.tsx'
import { AskedSizes } from './AskedSizes.tsx'
import { Files } from './Files.tsx'
import { MakeFrom } from './MakeFrom.tsx'
import { PictureTools } from './PictureTools.tsx'
import { openOutline, setTool, useOutline } from './state.ts'

const at = (x: number, y: number) => ({ at: [x, y] as const })
const outlineNow = () => partNow().outlines[0]!
const part = (outline: Outline, change: Partial<Part> = {}, steps: Parameters<typeof partOf>[0] = []): Part => ({
  ...partOf(steps, change),
  outlines: [outline],
})
/** What is drawn, worked out, given to what is tested. */
function Solved({ of }: { readonly of: 'sizes' | 'files' | 'make' | 'picture' }) {
  const worked = useWorked()!
  const solved = worked.resolved.outlines.get('o')!
  const outline = usePart((state) => state.part!.outlines[0]!)
  if (of === 'sizes') return <AskedSizes solved={solved} names={worked.resolved.measures.names} />
  if (of === 'files') return <Files solved={solved} />
  return of === 'make' ? <MakeFrom outline={outline} /> : <PictureTools outline={outline} />
}

beforeEach(() => openOutline('o'))
afterEach(() => void vi.restoreAllMocks())

describe('sizes asked for right after something was drawn', () => {
  function asked(change: Partial<Part> = {}) {
    const sketch = new Sketch(emptyOutline())
    const [bottom, right] = sketch.rectangle(at(3.1, 7.7), at(40.4, 22.9), false)
    const page = shown(<Solved of="sizes" />, part(sketch.outline, change))
    const sizes = [
      { label: 'width', kind: 'distance', of: [bottom!] },
      { label: 'height', kind: 'distance', of: [right!] },
    ]
    act(() => useOutline.setState({ asked: sizes, askedAt: [40.4, 22.9], justDrawn: [] }))
    return page
  }
  const values = () => outlineNow().constraints.flatMap(({ value }) => (value === undefined ? [] : [value]))
  it('show what they are, have the keyboard, and are typed one after another', async () => {
    const { user } = asked()
    const width = screen.getByLabelText<HTMLInputElement>('width')
    expect([width.placeholder, document.activeElement]).toEqual(['37.3', width])
    await user.keyboard('85.1{Tab}')
    expect(values()).toEqual(['85.1'])
    expect(document.activeElement).toBe(screen.getByLabelText('height'))
    await user.keyboard('15.3{Enter}')
    expect(values()).toEqual(['85.1', '15.3'])
    expect(useOutline.getState().asked).toEqual([])
  })
  it('pressed on leave it as it was drawn', async () => {
    const { user } = asked()
    await user.keyboard('{Enter}{Enter}')
    expect(values()).toEqual([])
    expect(screen.queryByLabelText('height')).toBeNull()
  })
  it('that cannot be read say why, and stay', async () => {
    const { user } = asked()
    await user.keyboard('3 * (4{Enter}')
    expect(screen.getByRole('alert').textContent).not.toBe('')
    expect(screen.getByLabelText<HTMLInputElement>('width').value).toBe('3 * (4')
    await user.keyboard(')')
    expect(screen.queryByRole('alert')).toBeNull()
    await user.keyboard('{Enter}')
    expect(values()).toEqual(['3 * (4)'])
  })
  it('end by Escape, and by the key of a tool that begins no measure’s name', async () => {
    const pressed: string[] = []
    const hear = ({ key }: KeyboardEvent) => void pressed.push(key)
    const { user, unmount } = asked()
    await user.keyboard('{Escape}')
    expect(screen.queryByLabelText('width')).toBeNull()
    unmount()
    const wall = { id: 'w', name: 'wall', kind: 'length', expression: '2.3', note: '' } as const
    const again = asked({ measures: [wall] })
    await again.user.keyboard('w')
    expect(screen.getByLabelText<HTMLInputElement>('width').value).toBe('w')
    await again.user.clear(screen.getByLabelText('width'))
    window.addEventListener('keydown', hear)
    await again.user.keyboard('c')
    window.removeEventListener('keydown', hear)
    expect(screen.queryByLabelText('width')).toBeNull()
    expect(pressed).toContain('c')
  })
})

describe('a picture under the drawing', () => {
  const asset = assetOf('ear.png', 'iVBORw0KGgo=')
  const picture = { asset: asset.hash, at: [12.7, -25.4], width: 101.6, turn: 15.3, strength: 0.5 } as const
  const pictured = (change: Partial<Part> = {}) =>
    shown(<Solved of="picture" />, part({ ...emptyOutline(), picture }, { assets: [asset], ...change }))
  it('is moved, turned and made larger by numbers', async () => {
    const { user } = pictured()
    const wide = screen.getByLabelText('wide, mm')
    await user.clear(wide)
    await user.type(wide, '85,1{Enter}')
    await user.clear(screen.getByLabelText('up'))
    await user.type(screen.getByLabelText('up'), '-3.3{Enter}')
    expect(outlineNow().picture).toEqual({ ...picture, width: 85.1, at: [12.7, -3.3] })
    await user.clear(screen.getByLabelText('turned, °'))
    await user.type(screen.getByLabelText('turned, °'), '400{Enter}')
    expect(screen.getByLabelText('turned, °').getAttribute('aria-invalid')).toBe('true')
    expect(outlineNow().picture?.turn).toBe(15.3)
  })
  it('of an inch part has its numbers in inches', async () => {
    const { user } = pictured({ unit: 'in' })
    const numbers = ['wide, in', 'right', 'up'].map((label) => screen.getByLabelText<HTMLInputElement>(label).value)
    expect(numbers).toEqual(['4', '0.5', '-1'])
    await user.clear(screen.getByLabelText('wide, in'))
    await user.type(screen.getByLabelText('wide, in'), '2.5{Enter}')
    expect(outlineNow().picture?.width).toBeCloseTo(63.5, 9)
  })
  it.each([
    ['mm', '25', 50.8],
    ['in', '1', 51.6128],
  ] as const)('is scaled by two places that are measured, in %s', async (unit, typed, width) => {
    const { user } = pictured({ unit })
    act(() => {
      setTool('picture')
      useOutline.setState({ spots: [{ at: [0, 0] }, { at: [30, 40] }] as never })
    })
    const field = screen.getByLabelText(`Measured distance, ${unit}`)
    await user.type(field, '0')
    expect(screen.getByText('scale')).toHaveProperty('disabled', true)
    await user.clear(field)
    await user.type(field, `${typed}{Enter}`)
    expect(outlineNow().picture?.width).toBeCloseTo(width, 9)
    expect(useOutline.getState().tool).toBe('select')
  })
  it('is removed, which one undo takes back', async () => {
    const { user } = pictured()
    await user.click(screen.getByRole('button', { name: 'Remove the picture' }))
    expect(outlineNow().picture).toBeUndefined()
    act(() => usePart.getState().undo())
    expect(outlineNow().picture).toEqual(picture)
  })
})

describe('what is made of an outline', () => {
  it('stands where it was drawn, in the piece of what it was drawn on', async () => {
    const on = { kind: 'face', step: 'b', face: 'top' } as const
    const { user } = shown(<Solved of="make" />, part(emptyOutline('o', on), {}, [step('b', 'plate')]))
    await user.click(screen.getByRole('button', { name: 'extrude' }))
    const [, made] = partNow().pieces[0]!.steps
    expect(made).toMatchObject({ kind: 'shape', fields: { outline: 'o' }, place: { on } })
    expect(usePart.getState().selection).toMatchObject({ kind: 'step', id: made!.id })
  })
  it('a loft begins with it as its first section', async () => {
    const { user } = shown(<Solved of="make" />, part(emptyOutline()))
    await user.click(screen.getByRole('button', { name: 'loft' }))
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { sections: 'o, 0' } })
  })
})

describe('drawings from files', () => {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><rect x="3" y="4" width="15.3" height="8.5"/></svg>'
  const file = (text: string, name = 'ear.svg') => new File([text], name)
  const opened = () => {
    answering(reader(), (_, input) => {
      const { name, text, mmPerUnit } = input as { name: string; text: string; mmPerUnit: number | undefined }
      return attempt([], () => readDrawing(name, text, mmPerUnit === undefined ? {} : { mmPerUnit }))
    })
    return shown(<Solved of="files" />, part(emptyOutline()))
  }
  const chooser = () => screen.getByLabelText('SVG or DXF file to import')
  it('are drawn into it, and again in another unit', async () => {
    const { user } = opened()
    expect(screen.getByRole('button', { name: 'SVG' })).toHaveProperty('disabled', true)
    await user.upload(chooser(), file(svg))
    await waitFor(() => expect(outlineNow().curves).toHaveLength(4))
    const wide = () =>
      Math.max(...outlineNow().points.map(({ at: [x] }) => x)) -
      Math.min(...outlineNow().points.map(({ at: [x] }) => x))
    expect(wide()).toBeCloseTo(15.3, 6)
    expect(screen.getByRole('button', { name: 'SVG' })).toHaveProperty('disabled', false)
    await user.click(screen.getByRole('button', { name: 'an inch' }))
    await waitFor(() => expect(wide()).toBeCloseTo(15.3 * 25.4, 4))
    expect(outlineNow().curves).toHaveLength(4)
  })
  it('that hold nothing say so, and nothing is lost', async () => {
    const { user } = opened()
    await user.upload(chooser(), file(svg))
    await waitFor(() => expect(outlineNow().curves).toHaveLength(4))
    await user.upload(chooser(), file('no drawing at all', 'nothing.svg'))
    await waitFor(() => expect(screen.getAllByRole('alert').length).toBeGreaterThan(0))
    expect(outlineNow().curves).toHaveLength(4)
  })
})
