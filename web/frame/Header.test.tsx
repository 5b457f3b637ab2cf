import type { Part } from '@makrel/core/document'
import type { Finding } from '@makrel/core/proof'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import type { Proving } from '../state/proving.ts'
import { drawnAs, partNow, shown } from '../testing/page.tsx'
import { Header } from './Header.tsx'

const plate = step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })
const finding = (rank: Finding['rank']) =>
  ({ code: rank, values: {}, about: [], rank, text: rank }) as unknown as Finding

function header(change: Partial<Part> = {}, steps = [plate]) {
  return shown(<Header />, { ...partOf(steps), name: 'Bracket', ...change })
}
const said = (stage: string) => {
  const link = within(screen.getByRole('navigation', { name: 'Stages' }))
    .getByText(stage)
    .closest('a')!
  return link.textContent!.slice(stage.length)
}
const proved = (change: Partial<Proving>) =>
  act(() =>
    useBuild.setState({
      proving: { of: partNow(), state: 'done', findings: [], done: 11, total: 11, ...change },
    }),
  )

describe('the stages say how far they are', () => {
  it('by what there is, one of it or several', () => {
    header()
    expect([said('Plan'), said('Make'), said('Move'), said('Layers')]).toEqual([
      'no measures',
      '1 step',
      'one piece',
      'no layers',
    ])
  })
  it('layers are counted to the top of the part, the first of its own height', () => {
    const { printer } = partOf([])
    header({ printer: { ...printer, layerHeight: 0.2, firstLayer: 0.3 } })
    act(() => useBuild.setState({ pieces: [drawnAs('p', [0, 0, 0], [61.3, 37.7, 8.2])] }))
    // 0.3, and forty more of 0.2 whose middle is under 8.2.
    expect(said('Layers')).toBe('41 layers')
  })
  it('nothing is handed off of a part without steps', () => {
    header({}, [])
    expect([said('Make'), said('Hand off')]).toEqual(['no steps', 'nothing yet'])
  })
  it.each([
    ['done', [finding('pass'), finding('pass')], 'passed', 'ready'],
    ['done', [finding('pass'), finding('warning')], '1 warning', 'ready'],
    ['done', [finding('fault'), finding('warning'), finding('fault')], '2 faults', 'has faults'],
    ['done', [], 'not proved', 'not proved'],
    ['stopped', [finding('pass')], 'not proved', 'not proved'],
    ['failed', [finding('pass')], 'failed', 'not proved'],
    ['running', [finding('pass')], '…', '…'],
  ] as const)('a proof that is %s with %s: %s, %s', (state, findings, proof, handOff) => {
    header()
    proved({ state, findings })
    expect([said('Proof'), said('Hand off')]).toEqual([proof, handOff])
  })
  it('the proof of an earlier state is none of this one', () => {
    header()
    proved({ findings: [finding('pass')] })
    expect(said('Proof')).toBe('passed')
    act(() => void usePart.getState().edit({ type: 'set-field', id: 'b', field: 'width', text: '15.3' }))
    expect([said('Proof'), said('Hand off')]).toEqual(['…', '…'])
  })
  it('while a build takes long they are marked as old', () => {
    header()
    const stages = screen.getByRole('navigation', { name: 'Stages' })
    expect(stages.getAttribute('aria-busy')).toBe('false')
    act(() => useBuild.setState({ slow: true }))
    expect(stages.getAttribute('aria-busy')).toBe('true')
  })
})

describe('the name of the part', () => {
  const field = () => screen.getByLabelText<HTMLInputElement>('Part name')
  it('is changed by Enter, and undone', async () => {
    const { user } = header()
    expect(screen.getByRole('button', { name: /^Undo/ })).toHaveProperty('disabled', true)
    await user.clear(field())
    await user.type(field(), '  Rail bracket {Enter}')
    expect(partNow().name).toBe('Rail bracket')
    await user.click(screen.getByRole('button', { name: /^Undo/ }))
    expect([partNow().name, field().value]).toEqual(['Bracket', 'Bracket'])
    await user.click(screen.getByRole('button', { name: /^Redo/ }))
    expect(partNow().name).toBe('Rail bracket')
  })
  it('stays where nothing is typed, or Escape takes it back', async () => {
    const { user } = header()
    await user.clear(field())
    await user.tab()
    expect([partNow().name, field().value]).toEqual(['Bracket', 'Bracket'])
    await user.type(field(), ' two{Escape}')
    await user.tab()
    expect([partNow().name, field().value]).toEqual(['Bracket', 'Bracket'])
  })
})

describe('saving', () => {
  it.each([
    [{ kind: 'saving' }, 'saving …'],
    [{ kind: 'failed', message: 'The server does not answer.' }, 'not saved yet'],
    [{ kind: 'stale' }, 'two versions'],
  ] as const)('%s', (save, words) => {
    header()
    act(() => usePart.setState({ save } as never))
    expect(screen.getByRole('button', { name: 'History' }).textContent).toBe(words)
  })
})
