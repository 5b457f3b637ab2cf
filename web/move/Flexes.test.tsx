import type { KeptFlex, Part } from '@makrel/core/document'
import { type FlexResult, flexTesting } from '@makrel/core/flex'
import { atOnce } from '@makrel/core/pacing'
import { partOf, step } from '@makrel/core/testing'
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { bender } from '../channel/client.ts'
import { useBuild, workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { answering, choose, partNow, shown } from '../testing/page.tsx'
import { Flexes } from './Flexes.tsx'
import { FlexView } from './FlexView.tsx'

const flat = () => step('b', 'plate', { width: '61.3', depth: '8.2', height: '3.1' })
const flex = (change: Partial<KeptFlex> = {}): KeptFlex => ({
  ...{ id: 'f', name: 'Arm', of: 'b', held: [], pushed: [] },
  ...{ way: '270', by: 'distance', distance: '1', force: '5', finer: 0 },
  ...change,
})
const part = (change: Partial<Part> = {}) => partOf([flat()], change)
const flexNow = () => partNow().flexes[0]!

/** The panel, and the drawing of the test that is shown. */
function Page() {
  const [id, setId] = useState<string | undefined>('f')
  const test = usePart((state) => state.part!.flexes.find((each) => each.id === id))
  return (
    <>
      <Flexes shown={id} onShow={setId} />
      {test && <FlexView flex={test} />}
    </>
  )
}

/** As the worker answers, or as the test says instead. */
let result: ((test: KeptFlex) => FlexResult) | undefined
beforeEach(() => {
  result = undefined
  answering(bender(), (_, input) => {
    const { flex: test } = input as { flex: KeptFlex }
    return result?.(test) ?? atOnce(flexTesting(workedOf(partNow()).resolved, test))
  })
})
afterEach(() => {
  vi.restoreAllMocks()
})

function page(own: Part) {
  const made = shown(<Page />, own)
  act(() => useBuild.setState({ shown: partNow() }))
  return made
}
const figure = (label: string) => screen.getByText(label, { selector: 'dt, th, td' }).nextElementSibling?.textContent
const edge = (name: RegExp) => screen.getByRole('button', { name })

describe('flex tests', () => {
  it('can be of a whole piece where no step is flat', () => {
    shown(<Flexes shown={undefined} onShow={() => undefined} />, partOf([]))
    expect(screen.getByRole('button', { name: /Add a flex test/ })).toBeTruthy()
  })
  it('are added of the first thing that is flat, a millimetre along', async () => {
    const onShow = vi.fn()
    const { user } = shown(<Flexes shown={undefined} onShow={onShow} />, part())
    await user.click(screen.getByRole('button', { name: /Add a flex test/ }))
    expect(flexNow()).toMatchObject({ name: 'Flex 1', of: 'b', distance: '1', held: [], pushed: [] })
    expect(onShow).toHaveBeenCalledWith(flexNow().id)
  })
  it('of an inch part begin with a size in inches', async () => {
    const { user } = shown(<Flexes shown={undefined} onShow={() => undefined} />, part({ unit: 'in' }))
    await user.click(screen.getByRole('button', { name: /Add a flex test/ }))
    expect(flexNow().distance).toBe('3/64')
  })
  it('push by a distance or by a force', async () => {
    const { user } = page(part({ flexes: [flex()] }))
    expect(screen.queryByLabelText('Force')).toBeNull()
    await choose(user, 'Pushed by', 'a force of')
    await user.clear(screen.getByLabelText('Force'))
    await user.type(screen.getByLabelText('Force'), '15.3')
    expect(flexNow()).toMatchObject({ by: 'force', force: '15.3' })
    expect(screen.queryByLabelText('Distance')).toBeNull()
  })
  it('of a step that is gone say so, and take another one', async () => {
    const { user } = page(part({ flexes: [flex({ of: 'gone' })] }))
    expect(screen.getByRole('combobox', { name: 'What bends' }).textContent).toBe('a step that cannot be tested')
    expect(document.body.textContent).toContain('The step that it tests is gone: choose another one.')
    await choose(user, 'What bends', '1')
    expect(flexNow().of).toBe('b')
  })
  it('are dropped, which one undo takes back', async () => {
    const { user } = page(part({ flexes: [flex()] }))
    await user.click(screen.getByRole('button', { name: 'Drop Arm' }))
    expect(partNow().flexes).toEqual([])
    act(() => usePart.getState().undo())
    expect(flexNow().name).toBe('Arm')
  })
})

describe('what is flexed', () => {
  it('is held and pushed at edges that are clicked, never both', async () => {
    const { user } = page(part({ flexes: [flex()] }))
    expect(screen.getAllByRole('button', { name: /^Edge \d/ })).toHaveLength(4)
    await user.click(edge(/^Edge 2/))
    expect(flexNow().held).toHaveLength(1)
    await choose(user, 'Click an edge to', 'push it')
    await user.click(edge(/^Edge 4/))
    expect(document.body.textContent).toContain('held at one edge and pushed at one edge')
    expect(edge(/^Edge 4, pushed/)).toBeTruthy()
    await user.click(edge(/^Edge 2, held/))
    expect([flexNow().held.length, flexNow().pushed.length]).toEqual([0, 2])
    expect(document.body.textContent).toContain('held at no edge and pushed at 2 edges')
    edge(/^Edge 2/).focus()
    await user.keyboard('{Enter}')
    expect(flexNow().pushed).toHaveLength(1)
  })
  it('comes to a force and a stiffness, as far as it is bent', async () => {
    const { user } = page(part({ flexes: [flex()] }))
    await waitFor(() => expect(within(screen.getByText(/held at/).closest('li')!)).toBeTruthy())
    const bent = () => screen.getByRole<HTMLInputElement>('slider', { name: 'Bent' })
    expect(bent().disabled).toBe(true)
    await user.click(edge(/^Edge 2/))
    await choose(user, 'Click an edge to', 'push it')
    await user.click(edge(/^Edge 4/))
    await waitFor(() => expect(screen.getByTestId('flex-result')).toBeTruthy())
    expect(figure('Travel')).toBe('1 mm')
    expect(figure('Force')).toMatch(/^[\d.]+ N$/)
    expect(bent().disabled).toBe(false)
    fireEvent.change(bent(), { target: { value: '0.5' } })
    expect(screen.getByText('50 %')).toBeTruthy()
  })
  it.each([
    [{ contact: 3.04 }, 'It touches itself at 3 N.'],
    [{ reached: 0.62 }, 'It gives way at 62 % of that.'],
    [{ reached: 0.62, contact: 3 }, 'It goes no farther than 62 % of that.'],
    [{ touches: true }, 'It runs into itself there: results beyond that are not valid.'],
    [{ coarser: { force: 12.3, travel: 1, strain: -0.0203 } }, 'In coarser triangles: 12.3 N, 2.03 %.'],
  ])('says what stops it: %o', async (change, words) => {
    const sound = {
      ...{ mesh: { nodes: new Float64Array(), elements: new Uint32Array() }, moved: new Float64Array() },
      ...{ reached: 1, force: 13, travel: 1, stiffness: 13, strains: new Float64Array(), strain: -0.021, worst: 0 },
      ...{ contact: 0, touches: false, size: 1 },
    }
    result = () => ({ ...sound, ...change }) as unknown as FlexResult
    page(part({ flexes: [flex()] }))
    await waitFor(() => expect(screen.getByTestId('flex-result').textContent).toContain(words))
    expect(figure('Largest strain')).toMatch(/^2\.1 % of /)
  })
  it('that could not be bent says why, and has no figures', async () => {
    result = () => {
      throw new Error('It took longer than 60 seconds.')
    }
    page(part({ flexes: [flex()] }))
    expect(await screen.findByText('It took longer than 60 seconds.')).toBeTruthy()
    expect(screen.queryByTestId('flex-result')).toBeNull()
  })
  it('what it came to is not taken for what it comes to after a change', async () => {
    const { user } = page(part({ flexes: [flex({ held: [], pushed: [] })] }))
    await user.click(edge(/^Edge 2/))
    await choose(user, 'Click an edge to', 'push it')
    await user.click(edge(/^Edge 4/))
    await waitFor(() => expect(screen.getByTestId('flex-result')).toBeTruthy())
    vi.spyOn(bender(), 'call').mockImplementation((() => new Promise(() => undefined)) as never)
    await user.clear(screen.getByLabelText('Distance'))
    await user.type(screen.getByLabelText('Distance'), '2.3')
    expect(screen.queryByTestId('flex-result')).toBeNull()
    expect(screen.getByText('Bending …')).toBeTruthy()
  })
})
