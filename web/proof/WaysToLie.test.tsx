import type { Judged } from '@makrel/core/lying'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { checks } from '../channel/client.ts'
import type { PicturedLying } from '../channel/protocol.ts'
import { Overtaken } from '../channel/work.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { answering, partNow, shown } from '../testing/page.tsx'
import { NoticeBar } from '../ui/Notice.tsx'
import { WaysToLie } from './WaysToLie.tsx'

const plate = (id: string) => step(id, 'plate', { width: '61.3', depth: '37.7', height: '8.2' })
const part = () => partOf([plate('b')], { name: 'Rack' })

const way = (down: Judged['down'], more: Partial<Judged> = {}): PicturedLying['ways'][number] => ({
  ...{ down, isDrawn: down === 'bottom', size: [61.3, 37.7, 8.2], fitsBed: true, contact: 2311, begins: 0, hangs: 0 },
  ...{ lines: 7300, tips: 61.2, upright: 0, rounds: 0, kept: 0, stances: 0, asked: undefined },
  ...more,
  picture: { width: 4, height: 3, dots: new Uint8ClampedArray(48) },
})
const lying = (...ways: PicturedLying['ways'][number][]): PicturedLying => ({ pieces: ['p1'], ways })

/** Ways are compared of a part that is drawn. */
function compared(answer: (name: string, input: unknown) => unknown) {
  const asked = answering(checks(), answer)
  const { user } = shown(
    <>
      <WaysToLie />
      <NoticeBar />
    </>,
    part(),
  )
  act(() => useBuild.setState({ shown: partNow() }))
  const look = () => user.click(screen.getByRole('button', { name: 'Compare ways to lie' }))
  return { asked, user, look }
}
const rows = () => screen.getAllByRole('row').slice(1)

beforeEach(() => vi.stubGlobal('ImageData', class {}))
afterEach(() => {
  vi.restoreAllMocks()
})

describe('ways to lie', () => {
  it('are told with what each comes to, the best first', async () => {
    const { look } = compared(() => [
      lying(
        way('left', { begins: 1, hangs: 0.4, size: [8.2, 37.7, 61.3], contact: 309.1, tips: 3.84, asked: 0.374 }),
        way('bottom', { lines: 10_440, begins: 3, hangs: 153.7, stances: 3, kept: 2, rounds: 5, upright: 4 }),
        way('top', { tips: -2, fitsBed: false, stances: 2, kept: 2 }),
      ),
    ])
    await look()
    const [first, second, third] = await screen.findAllByRole('row').then(rows)
    expect(first!.textContent).toContain('The best of them')
    expect(first!.textContent).toContain('begins in mid-air at one place, nothing hangs, 61.3 mm high')
    expect(first!.textContent).toContain('loads take 37 %, toppled by 3.8°')
    expect(first!.textContent).not.toContain('as long')
    expect(second!.textContent).toContain('takes 1.4 × as long')
    expect(second!.textContent).toContain('As it is printed now')
    expect(second!.textContent).toMatch(
      /begins in mid-air at 3 places, 150 mm² hangs.*2 of 3 held, 4 of 5 rounds upright/,
    )
    expect(third!.textContent).toMatch(/all that is held lies so, falls over, too large for the bed/)
    // What it lies in now needs no press.
    expect(rows().map((row) => within(row).queryAllByRole('button').length)).toEqual([1, 0, 1])
  })

  it('are printed by one press and left by one undo, in a pose of its own', async () => {
    const { look, user } = compared(() => [lying(way('left'), way('bottom'))])
    await look()
    await user.click(await screen.findByRole('button', { name: /^Print .* so: / }))
    expect(partNow().poses).toMatchObject([{ name: 'As laid', laid: [{ piece: 'p1', down: 'left', turn: 0 }] }])
    expect(partNow().printPose).toBe(partNow().poses[0]!.id)
    // What was compared holds for it as well, and says which of them it is now.
    expect(rows().map((row) => row.textContent?.includes('As it is printed now'))).toEqual([true, false])
    await user.click(screen.getByRole('button', { name: /^Print .* so: / }))
    expect(partNow().poses).toMatchObject([{ name: 'As laid', laid: [{ down: 'bottom' }] }])
    act(() => usePart.getState().undo())
    expect(partNow().poses).toMatchObject([{ laid: [{ down: 'left' }] }])
    act(() => usePart.getState().undo())
    expect(partNow()).toMatchObject({ poses: [], printPose: '' })
  })

  it('keep a pose that was made for something else as it is', async () => {
    const { look, user } = compared(() => [lying(way('left'), way('bottom'))])
    const open = { id: 'o', name: 'Open', set: [], laid: [] }
    act(
      () =>
        void usePart.getState().editAll([
          { type: 'keep-pose', pose: open },
          { type: 'print-pose', id: 'o' },
        ]),
    )
    act(() => useBuild.setState({ shown: partNow() }))
    await look()
    await user.click(await screen.findByRole('button', { name: /^Print .* so: / }))
    expect(partNow().poses.map(({ name }) => name)).toEqual(['Open', 'As laid'])
    expect(partNow().poses[0]).toEqual(open)
  })

  it('are no more told once the part has changed', async () => {
    const { look } = compared(() => [lying(way('left'), way('bottom'))])
    await look()
    await screen.findByRole('table')
    act(() => void usePart.getState().edit({ type: 'set-field', id: 'b', field: 'width', text: '85.1' }))
    expect(screen.queryByRole('table')).toBeNull()
    expect(document.body.textContent).toContain('The part has changed since they were compared.')
  })

  it('are asked for again where a proof took their turn', async () => {
    let turns = 0
    const { look, asked } = compared(() => {
      if (turns++ === 0) throw new Overtaken()
      return [lying(way('left'), way('bottom'))]
    })
    await look()
    await screen.findByRole('table')
    expect(asked).toHaveBeenCalledTimes(2)
  })

  it('are not asked for again of what has changed meanwhile', async () => {
    const { look, asked } = compared(() => {
      act(() => useBuild.setState({ shown: { ...partNow() } }))
      throw new Overtaken()
    })
    await look()
    await screen.findByRole('button', { name: 'Compare ways to lie' })
    expect(asked).toHaveBeenCalledTimes(1)
    expect(screen.queryByRole('table')).toBeNull()
  })

  it('say why they could not be compared, and can be asked again', async () => {
    let isBroken = true
    const { look } = compared(() => {
      if (isBroken) throw new Error('there is no memory left')
      return [lying(way('left'), way('bottom'))]
    })
    await look()
    await waitFor(() => expect(document.body.textContent).toContain('there is no memory left'))
    isBroken = false
    await look()
    await screen.findByRole('table')
  })

  it('are laid side by side where pieces lie by themselves', async () => {
    const two = partOf([plate('b')])
    const spread = [
      { piece: 'p1', down: 'left', turn: 0, at: [-40, 0] },
      { piece: 'p2', down: 'bottom', turn: 0, at: [40, 0] },
    ]
    const asked = answering(checks(), (name) =>
      name === 'spread' ? spread : [lying(way('left'), way('bottom')), { pieces: ['p2'], ways: [way('bottom')] }],
    )
    const { user } = shown(<WaysToLie />, {
      ...two,
      pieces: [...two.pieces, { ...two.pieces[0]!, id: 'p2', name: 'Lid', steps: [plate('c')] }],
    })
    act(() => useBuild.setState({ shown: partNow() }))
    await user.click(screen.getByRole('button', { name: 'Compare ways to lie' }))
    expect((await screen.findAllByRole('table')).map((table) => table.querySelector('caption')?.textContent)).toEqual([
      two.pieces[0]!.name,
      'Lid',
    ])
    await user.click(screen.getByRole('button', { name: /^Print .* so: / }))
    await waitFor(() => expect(partNow().poses).toMatchObject([{ laid: spread }]))
    expect(asked).toHaveBeenLastCalledWith(
      'spread',
      { pose: expect.objectContaining({ name: 'As laid' }) },
      expect.anything(),
    )
  })
})
