import type { Part, Step } from '@makrel/core/document'
import { partOf, step } from '@makrel/core/testing'
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { checks } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { answering, choose, drawnAs, partNow, shown } from '../testing/page.tsx'
import { BoxSelect } from './BoxSelect.tsx'
import { CopyMarks } from './CopyMarks.tsx'
import { SectionSlider } from './cutaway.tsx'
import { Dimensions } from './Dimensions.tsx'
import { InspectLabel } from './inspect.tsx'
import { KeptViews } from './KeptViews.tsx'
import { Labels } from './Labels.tsx'
import { Lit } from './Lit.tsx'
import { usePointed } from './pointed.ts'
import { ReadingButton, ReadOff, takenForReading } from './reading.tsx'
import { type Pose, useView } from './view.ts'

/** From above, a mm as four pixels, the bed's origin in the middle of 800 by 600. */
const fromAbove = {
  ...{ matrix: [0.01, 0, 0, 0, 0, 4 / 300, 0, 0, 0, 0, -0.001, 0, 0, 0, 0, 1], width: 800, height: 600 },
  ...{
    pixelsPerMm: 4000,
    eye: [0, 0, 1000] as const,
    section: undefined,
    seeThrough: false,
    hardware: true,
    inspected: undefined,
  },
}
const first = useView.getState()
beforeEach(() => useView.setState({ ...first, ...fromAbove }))
afterEach(() => {
  vi.restoreAllMocks()
  act(() => {
    useView.setState(first, true)
    usePointed.setState({ pointed: undefined })
  })
})

const plate = () => step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })
const part = (steps: readonly Step[] = [plate()], change: Partial<Part> = {}) => partOf(steps, change)
const select = (id: string) => act(() => usePart.getState().select({ kind: 'step', id }))
const placeOf = (element: HTMLElement) => [Number.parseFloat(element.style.left), Number.parseFloat(element.style.top)]

describe('the numbers of copies', () => {
  const row = (omit: readonly number[] = []) => {
    const hole = step('h', 'hole', { diameter: '5.3' }, { place: { on: { kind: 'face', step: 'b', face: 'top' } } })
    return {
      ...hole,
      omit,
      repeats: [{ kind: 'row', fields: { count: '4', spacing: '13.7', direction: 'across' } }],
    } as Step
  }
  it('are there while what is repeated is selected, each where its copy is', () => {
    shown(<CopyMarks />, part([plate(), row()]))
    expect(screen.queryByRole('group', { name: 'Copies' })).toBeNull()
    select('h')
    const marks = screen.getAllByRole('button', { name: /^Leave out copy/ })
    expect(marks.map((each) => each.textContent)).toEqual(['1', '2', '3', '4'])
    const [[x2, y2], [x3, y3]] = [placeOf(marks[1]!), placeOf(marks[2]!)] as [number[], number[]]
    expect([x3! - x2!, y3! - y2!]).toEqual([expect.closeTo(4 * 13.7, 6), expect.closeTo(0, 6)])
  })
  it('leave a copy out and bring it back', async () => {
    const { user } = shown(<CopyMarks />, part([plate(), row([3])]))
    select('h')
    expect(screen.getByRole('button', { name: 'Bring back copy 3' }).getAttribute('aria-pressed')).toBe('false')
    await user.click(screen.getByRole('button', { name: 'Leave out copy 2' }))
    const omitted = () => (partNow().pieces[0]!.steps[1] as { omit: readonly number[] }).omit
    expect([...omitted()].sort()).toEqual([2, 3])
    await user.click(screen.getByRole('button', { name: 'Bring back copy 3' }))
    expect(omitted()).toEqual([2])
  })
  it('are none of one thing alone', () => {
    shown(<CopyMarks />, part())
    select('b')
    expect(screen.queryByRole('group', { name: 'Copies' })).toBeNull()
  })
})

describe('dimensions on the drawing', () => {
  const drawn = (own: Part, editable = true) => {
    const page = shown(<Dimensions editable={editable} />, own)
    act(() => useBuild.setState({ pieces: [drawnAs(own.pieces[0]!.id, [-30.65, -18.85, 0], [30.65, 18.85, 8.2])] }))
    return page
  }
  it('say how large it is overall while nothing is selected, in the part’s unit', () => {
    const { unmount } = drawn(part())
    const all = screen.getByRole('group', { name: 'Dimensions' })
    expect(all.textContent).toContain('61.3')
    expect(all.textContent).toContain('37.7')
    expect(within(all).queryAllByRole('button')).toEqual([])
    unmount()
    drawn(part([plate()], { unit: 'in' }))
    expect(screen.getByRole('group', { name: 'Dimensions' }).textContent).toContain('2.413')
  })
  it('of the selected step are typed, which is one step of the way back', async () => {
    const { user } = drawn(part())
    select('b')
    await user.click(screen.getByRole('button', { name: /^width 61\.3$/i }))
    const field = screen.getByLabelText(/^width$/i, { selector: 'input' })
    await user.clear(field)
    await user.type(field, '85.1{Enter}')
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { width: '85.1' } })
    expect(screen.queryByLabelText(/^width$/i, { selector: 'input' })).toBeNull()
    act(() => usePart.getState().undo())
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { width: '61.3' } })
  })
  it('are not typed where nothing may be changed', () => {
    drawn(part(), false)
    select('b')
    expect(screen.queryAllByRole('button')).toEqual([])
  })
  it('are none before there is a solid', () => {
    shown(<Dimensions editable />, part())
    expect(screen.queryByRole('group', { name: 'Dimensions' })).toBeNull()
  })
})

describe('reading sizes off the drawing', () => {
  const reading = (own = part()) =>
    shown(
      <>
        <ReadingButton />
        <ReadOff />
      </>,
      own,
    )
  const press = (face: string) => act(() => void takenForReading({ kind: 'step', id: 'b', face }))
  it('takes presses only while it is on', async () => {
    const { user } = reading()
    expect(takenForReading({ kind: 'step', id: 'b', face: 'top' })).toBe(false)
    await user.click(screen.getByRole('button', { name: 'Read sizes off the drawing' }))
    expect(screen.getByRole('region', { name: 'Read off' }).textContent).toContain('Click an edge or a face')
    press('top')
    press('bottom')
    expect(screen.getAllByRole('listitem')).toHaveLength(2)
    // A third press begins anew.
    press('left')
    expect(screen.getAllByRole('listitem')).toHaveLength(1)
  })
  it('gives the distance between two faces, which is kept under a free name', async () => {
    const { user } = reading()
    await user.click(screen.getByRole('button', { name: 'Read sizes off the drawing' }))
    press('top')
    press('bottom')
    expect(screen.getByRole('region', { name: 'Read off' }).textContent).toContain('8.2 mm')
    await user.click(screen.getByRole('button', { name: /^Keep the distance/i }))
    expect(partNow().readouts).toMatchObject([{ name: 'read1', kind: 'distance' }])
  })
  it('asks the solids for what only they tell', async () => {
    const asked = answering(checks(), () => ({}))
    const { user } = reading()
    act(() => useBuild.setState({ shown: partNow() }))
    await user.click(screen.getByRole('button', { name: 'Read sizes off the drawing' }))
    press('top')
    await waitFor(() => expect(asked).toHaveBeenCalledWith('read', expect.anything(), partNow()))
  })
  it('ends by Escape: what was pressed first, then all of it', async () => {
    const { user } = reading()
    await user.click(screen.getByRole('button', { name: 'Read sizes off the drawing' }))
    press('top')
    await user.keyboard('{Escape}')
    expect(screen.queryAllByRole('listitem')).toEqual([])
    expect(screen.getByRole('region', { name: 'Read off' })).toBeTruthy()
    await user.keyboard('{Escape}')
    expect(screen.queryByRole('region', { name: 'Read off' })).toBeNull()
  })
})

describe('looking at one step', () => {
  const look = (show: 'alone' | 'without' | 'with' | 'until', own = part()) => {
    const page = shown(<InspectLabel />, own)
    select('b')
    act(() => useView.setState({ inspected: { step: 'b', show } }))
    return page
  }
  it('says which, and goes from before to after', async () => {
    const { user } = look('without')
    expect(screen.getByRole('status').textContent).toMatch(/^1, plate/)
    expect(screen.getByRole('button', { pressed: true }).textContent).toBe('before')
    await user.click(screen.getByRole('button', { name: 'after' }))
    expect(useView.getState().inspected).toEqual({ step: 'b', show: 'with' })
    await user.click(screen.getByRole('button', { name: 'Stop looking at one step' }))
    expect(screen.queryByRole('status')).toBeNull()
  })
  it('ends when another one is selected, and when its stage is left', () => {
    const { unmount } = look('alone', part([plate(), step('h', 'hole', { diameter: '5.3' })]))
    select('h')
    expect(useView.getState().inspected).toBeUndefined()
    act(() => useView.setState({ inspected: { step: 'h', show: 'alone' } }))
    unmount()
    expect(useView.getState().inspected).toBeUndefined()
  })
})

describe('kept views', () => {
  const pose = { from: [0, -1, 0], target: [0, 0, 4.1], tall: 85.1, parallel: true } as const
  it('are kept as they are seen, by a name or a number, and looked at again', async () => {
    const take = vi.fn()
    useView.setState({ pose: (): Pose => pose, take })
    const { user } = shown(<KeptViews />, part())
    await user.click(screen.getByRole('button', { name: 'views' }))
    expect(document.body.textContent).toContain('No view is kept yet.')
    await user.click(screen.getByRole('button', { name: 'keep it' }))
    await user.type(screen.getByLabelText('Name of the view'), ' under the rail {Enter}')
    expect(partNow().views.map(({ name }) => name)).toEqual(['View 1', 'under the rail'])
    await user.click(screen.getByRole('button', { name: 'under the rail' }))
    expect(take).toHaveBeenCalledWith(partNow().views[1])
    await user.click(screen.getByRole('button', { name: 'Drop View 1' }))
    expect(partNow().views.map(({ name }) => name)).toEqual(['under the rail'])
  })
  it('are none before anything is drawn', async () => {
    const { user } = shown(<KeptViews />, part())
    await user.click(screen.getByRole('button', { name: 'views' }))
    await user.click(screen.getByRole('button', { name: 'keep it' }))
    expect(partNow().views).toEqual([])
  })
})

describe('the section', () => {
  it('is cut in one of three directions, moved, and closed', async () => {
    const { user } = shown(<SectionSlider />, part())
    expect(screen.queryByRole('slider')).toBeNull()
    await choose(user, 'Section', 'cut from the front')
    expect(useView.getState().section).toEqual({ across: 'y', at: 0.5 })
    fireEvent.change(screen.getByRole('slider'), { target: { value: '0.321' } })
    expect(useView.getState().section).toEqual({ across: 'y', at: 0.321 })
    await choose(user, 'Section', 'whole')
    expect(useView.getState().section).toBeUndefined()
    await user.click(screen.getByRole('button', { name: 'See through the part' }))
    expect(useView.getState().seeThrough).toBe(true)
  })
})

describe('a rectangle drawn with Shift', () => {
  const drag = (from: readonly [number, number], to: readonly [number, number], shift = true) => {
    const canvas = document.querySelector('canvas')!
    const at = ([clientX, clientY]: readonly [number, number]) => ({ clientX, clientY, shiftKey: shift, button: 0 })
    act(() => {
      fireEvent.pointerDown(canvas, at(from))
      fireEvent.pointerMove(window, at(to))
      fireEvent.pointerUp(window, at(to))
    })
  }
  const page = () => {
    const post = step('p', 'bar', { diameter: '6.2', height: '20' })
    const far = { from: 'centre', to: 'centre', by: '60' } as const
    const page = shown(
      <div>
        <canvas />
        <BoxSelect />
      </div>,
      part([plate(), { ...post, place: { ...post.place, across: far } }]),
    )
    return page
  }
  const chosen = () => {
    const { selection, others } = usePart.getState()
    return [selection?.id, ...others]
  }
  it('selects what lies wholly in it, whichever way it is drawn', () => {
    page()
    drag([260, 210], [540, 390])
    expect(chosen()[0]).toBe('b')
    drag([700, 400], [600, 250])
    expect(chosen()[0]).toBe('p')
    // Half of the plate.
    drag([400, 210], [540, 390])
    expect(chosen()[0]).toBeUndefined()
  })
  it('is nothing without Shift, and no press', () => {
    page()
    select('b')
    drag([600, 250], [700, 400], false)
    expect(chosen()[0]).toBe('b')
    drag([600, 250], [602, 252])
    expect(chosen()[0]).toBe('b')
    expect(useView.getState().held).toBe(false)
  })
})

describe('words that name something', () => {
  it('light it up while the pointer is on them, and no longer than they are there', async () => {
    const { user, unmount } = shown(<Lit of={{ kind: 'step', id: 'b', face: 'top' }}>its top</Lit>, part())
    await user.hover(screen.getByText('its top'))
    expect(usePointed.getState().pointed).toEqual({ kind: 'step', id: 'b', face: 'top' })
    await user.unhover(screen.getByText('its top'))
    expect(usePointed.getState().pointed).toBeUndefined()
    await user.hover(screen.getByText('its top'))
    unmount()
    expect(usePointed.getState().pointed).toBeUndefined()
  })
})

describe('labels', () => {
  it('stand beside their places, and not behind the eye', () => {
    useView.setState({ matrix: [0.01, 0, 0, 0, 0, 4 / 300, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0] })
    shown(
      <Labels
        labels={[
          { at: [0, 0, 1], text: '0.3 mm' },
          { at: [0, 0, -1], text: 'behind' },
        ]}
      />,
    )
    expect(screen.getByText('0.3 mm').getAttribute('x')).toBe('417')
    expect(screen.queryByText('behind')).toBeNull()
  })
})
