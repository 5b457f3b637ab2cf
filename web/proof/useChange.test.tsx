import type { Edit } from '@makrel/core/document'
import type { Mark } from '@makrel/core/proof'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, waitFor } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { checks } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'
import { answering, partNow, shown } from '../testing/page.tsx'
import { useChange } from './useChange.ts'

const wider = (text: string): readonly Edit[] => [{ type: 'set-field', id: 'b', field: 'width', text }]
const [some, more] = [wider('15.3'), wider('85.1')]

function Change({ edits }: { readonly edits: readonly Edit[] | undefined }) {
  const marks = useChange(edits)
  return <output>{marks ? JSON.stringify(marks) : 'nothing'}</output>
}
const said = () => screen.getByRole('status').textContent
const marked = (input: unknown): Mark[] => [{ kind: 'changes', of: (input as { edits: Edit[] }).edits } as never]

function offered(answer: (name: string, input: unknown) => unknown) {
  const asked = answering(checks(), answer)
  const { rerender } = shown(<Change edits={undefined} />, partOf([step('b', 'plate')]))
  act(() => useBuild.setState({ shown: partNow() }))
  return { asked, offer: (edits: readonly Edit[] | undefined) => rerender(<Change edits={edits} />) }
}
afterEach(() => {
  vi.restoreAllMocks()
})

describe('what edits would change', () => {
  it('is asked for only while they are offered', async () => {
    const { asked, offer } = offered((_, input) => marked(input))
    expect(asked).not.toHaveBeenCalled()
    offer(some)
    await waitFor(() => expect(said()).toBe(JSON.stringify(marked({ edits: some }))))
    expect(asked).toHaveBeenCalledWith('change', { edits: some }, partNow())
    offer(undefined)
    await waitFor(() => expect(said()).toBe('nothing'))
  })

  it('is that of what is offered now, though what was offered before is answered later', async () => {
    const waiting: (() => void)[] = []
    const { offer } = offered((_, input) => new Promise((done) => waiting.push(() => done(marked(input)))))
    offer(some)
    offer(more)
    await waitFor(() => expect(waiting).toHaveLength(2))
    await act(async () => waiting[1]!())
    await act(async () => waiting[0]!())
    expect(said()).toBe(JSON.stringify(marked({ edits: more })))
  })

  it('is nothing where it cannot be built', async () => {
    const { asked, offer } = offered(() => {
      throw new Error('it leaves nothing')
    })
    offer(some)
    await waitFor(() => expect(asked).toHaveBeenCalledTimes(1))
    expect(said()).toBe('nothing')
  })
})
