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
  ({ code: text, values: {}, about: [], rank, text, ...more }) as Finding
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
    expect(screen.getByRole('status').textContent).toContain('It floats')
    await user.click(line)
    expect(screen.getByRole('status').textContent).toBe('nothing')
  })
  it('cannot be clicked where it is about nothing in particular', () => {
    proved()
    expect(screen.getByRole('button', { name: /Closed/ })).toHaveProperty('disabled', true)
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
