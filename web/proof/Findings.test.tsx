import type { Finding } from '@makrel/core/proof'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import type { Proving } from '../state/proving.ts'
import { partNow, shown } from '../testing/page.tsx'
import { Findings } from './Findings.tsx'

const part = () => partOf([step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })])

const finding = (rank: Finding['rank'], text: string, more: Partial<Finding> = {}): Finding =>
  ({ check: 'walls', code: text.replace(/\W/g, ''), values: {}, about: [], rank, text, ...more }) as Finding
const lower = finding('fault', 'It floats 3.1 mm above the bed.', {
  about: [{ kind: 'step', id: 'b' }],
  cures: [
    {
      label: 'Lower it',
      before: 'it floats',
      after: 'it stands on the bed',
      edits: [
        { type: 'set-field', id: 'b', field: 'height', text: '9.3' },
        { type: 'set-field', id: 'b', field: 'width', text: '15.3' },
      ],
    },
  ],
})

function Panel() {
  const [chosen, setChosen] = useState<string>()
  return (
    <>
      <Findings chosen={chosen} onChoose={setChosen} />
      <output>{chosen ?? 'nothing'}</output>
    </>
  )
}

function proved(change: Partial<Proving> = {}) {
  const { user } = shown(<Panel />, part())
  const proving = (): Proving => ({
    ...{ of: partNow(), state: 'done', done: 11, total: 11 },
    findings: [finding('pass', 'Closed.'), lower, finding('warning', 'Thin.')],
    ...change,
  })
  act(() => useBuild.setState({ proving: proving() }))
  return { user }
}
const said = () => document.body.textContent

describe('what the proof found', () => {
  it('is told by rank, the gravest first, with how many there are', () => {
    proved()
    const sections = screen.getAllByRole('region').map((each) => each.getAttribute('aria-label'))
    expect(sections).toEqual(['Faults', 'Warnings', 'Passed'])
    expect(within(screen.getByRole('region', { name: 'Faults' })).getByRole('heading').textContent).toBe('Faults 1')
    expect(said()).not.toContain('Inspecting')
  })
  it('is of the part before, and cures nothing, once that was changed', async () => {
    const { user } = proved()
    act(() => void usePart.getState().edit({ type: 'set-field', id: 'b', field: 'depth', text: '30' }))
    expect(said()).toContain('These findings are from before the last change.')
    const cure = screen.getByRole('button', { name: 'Lower it' })
    expect(cure).toHaveProperty('disabled', true)
    await user.click(cure)
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { height: '8.2', depth: '30' } })
  })
  it('is cured by all its edits at once, which one undo takes back', async () => {
    const { user } = proved()
    await user.click(screen.getByRole('button', { name: 'Lower it' }))
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { height: '9.3', width: '15.3' } })
    act(() => usePart.getState().undo())
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { height: '8.2', width: '61.3' } })
  })
  it('selects what it is about, and is looked at until it is clicked again', async () => {
    const { user } = proved()
    const line = screen.getByRole('button', { name: /It floats/ })
    await user.click(line)
    expect(usePart.getState().selection).toMatchObject({ kind: 'step', id: 'b' })
    expect(line.getAttribute('aria-pressed')).toBe('true')
    expect(screen.getByRole('status').textContent).toContain('Itfloats')
    await user.click(line)
    expect(screen.getByRole('status').textContent).toBe('nothing')
  })
  it('cannot be clicked where it is about nothing in particular', () => {
    proved()
    expect(screen.getByRole('button', { name: /Closed/ })).toHaveProperty('disabled', true)
  })
})

describe('what is meant to be so', () => {
  const thin = () => screen.getByRole('region', { name: 'Warnings' })
  it('is set aside with a reason, which has to be given', async () => {
    const { user } = proved()
    await user.click(within(thin()).getByRole('button', { name: 'Set aside …' }))
    await user.click(within(thin()).getByRole('button', { name: 'Set it aside' }))
    expect(within(thin()).getByRole('alert').textContent).toContain('Say why')
    expect(partNow().setAside).toEqual([])
    await user.type(within(thin()).getByRole('textbox', { name: 'Why it may stay' }), ' A label only {Enter}')
    expect(partNow().setAside).toMatchObject([{ code: 'Thin', reason: 'A label only', said: 'Thin.' }])
    act(() => usePart.getState().undo())
    expect(partNow().setAside).toEqual([])
  })
  it('is left as it was by Escape', async () => {
    const { user } = proved()
    await user.click(within(thin()).getByRole('button', { name: 'Set aside …' }))
    await user.type(within(thin()).getByRole('textbox'), 'A la{Escape}')
    expect(within(thin()).queryByRole('textbox')).toBeNull()
    expect(partNow().setAside).toEqual([])
  })
  it('is told by itself, with its reason, and taken up again', async () => {
    const aside = { id: 'x1', check: 'walls', code: 'c', about: [], reason: 'A shim', said: 'Thin.' }
    const { user } = proved({ findings: [finding('pass', 'Closed.'), finding('warning', 'Thin.', { aside })] })
    act(() => void usePart.getState().edit({ type: 'set-aside', aside }))
    act(() => useBuild.setState(({ proving }) => ({ proving: { ...proving!, of: partNow() } })))
    expect(screen.queryByRole('region', { name: 'Warnings' })).toBeNull()
    const region = screen.getByRole('region', { name: 'Set aside' })
    expect(region.textContent).toContain('A shim')
    await user.click(within(region).getByRole('button', { name: 'Take it up again' }))
    expect(partNow().setAside).toEqual([])
  })
  it('is never what passes, nor what is not closed', () => {
    proved({ findings: [finding('pass', 'Closed.'), finding('fault', 'Open.', { check: 'closed' })] })
    expect(screen.queryByRole('button', { name: 'Set aside …' })).toBeNull()
  })
})

describe('a proof that is not done', () => {
  it('says how far it is', () => {
    proved({ state: 'running', done: 3, total: 14 })
    expect(said()).toContain('Inspecting … 3 of 14 checks done')
  })
  it('has begun only', () => {
    shown(<Panel />, part())
    expect(said()).toContain('Inspecting …')
  })
  it.each([
    ['stopped', 'The proof was stopped. What it had found by then:'],
    ['failed', 'The proof failed: no memory was left'],
  ] as const)('%s, says so and can be begun again', (state, text) => {
    proved({ state, why: 'no memory was left' })
    expect(screen.getByRole('alert').textContent).toContain(text)
    expect(screen.getByRole('button', { name: 'Prove again' })).toBeTruthy()
  })
})
