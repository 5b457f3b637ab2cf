import { partOf } from '@makrel/core/testing'
import { act, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { checks } from '../channel/client.ts'
import type { PieceSection } from '../channel/protocol.ts'
import { useBuild } from '../state/build.ts'
import { answering, drawnAs, partNow, shown } from '../testing/page.tsx'
import { Layers } from './Layers.tsx'

const ring = (...corners: readonly number[]) => ({
  points: new Float64Array(corners),
  ends: new Uint32Array([corners.length / 2]),
})
const section = (piece: string, area: number): PieceSection =>
  ({ piece, area, rings: ring(0, 0, 15.3, 0, 0, 8.5) }) as never
const asked = vi.fn<(name: string, input: unknown) => unknown>()

beforeEach(() => {
  asked.mockImplementation((name) => (name === 'areas' ? [65, 64] : [section('p', 65.03)]))
  answering(checks(), asked)
})
afterEach(() => {
  vi.restoreAllMocks()
  asked.mockReset()
})

function layers(change: Parameters<typeof partOf>[1] = {}, height = 8.2) {
  const { printer } = partOf([])
  const own = partOf([], { printer: { ...printer, layerHeight: 0.2, firstLayer: 0.3 }, ...change })
  const page = shown(<Layers />, own)
  act(() => useBuild.setState({ shown: partNow(), pieces: [drawnAs('p', [0, 0, 0], [15.3, 8.5, height])] }))
  return page
}
const figure = (label: string) => screen.getByText(label, { selector: 'dt, th, td' }).nextElementSibling?.textContent
const cutAt = () => asked.mock.calls.filter(([name]) => name === 'section').map(([, input]) => input)

describe('layers', () => {
  it('of a part without solids are none', () => {
    shown(<Layers />, partOf([]))
    expect(screen.getByText('There is no solid to cut into layers yet.')).toBeTruthy()
    expect(screen.queryByRole('slider')).toBeNull()
    expect(asked).not.toHaveBeenCalled()
  })
  it('are cut through their middle, the first of its own height', async () => {
    layers()
    await waitFor(() => expect(figure('Filled area')).toBe('65.03 mm²'))
    expect([figure('Layer'), figure('Cut at height'), figure('Outlines')]).toEqual(['1 of 41', '0.15 mm', '1'])
    expect(document.body.textContent).toContain('0.2 mm, the first of 0.3 mm.')
    fireEvent.change(screen.getByRole('slider', { name: 'Layer' }), { target: { value: '17' } })
    await waitFor(() => expect(figure('Cut at height')).toBe('3.4 mm'))
    expect(cutAt().at(-1)).toMatchObject({ z: expect.closeTo(3.4, 9) })
  })
  it('a figure is never that of the layer before', async () => {
    layers()
    await waitFor(() => expect(figure('Filled area')).toBe('65.03 mm²'))
    asked.mockImplementation(() => new Promise(() => undefined))
    fireEvent.change(screen.getByRole('slider', { name: 'Layer' }), { target: { value: '9' } })
    expect([figure('Layer'), figure('Filled area'), figure('Outlines')]).toEqual(['9 of 41', '…', '…'])
    // The picture stays meanwhile.
    expect(document.querySelectorAll('svg g path').length).toBeGreaterThan(0)
  })
  it('a part that became lower is cut at its last layer', async () => {
    layers()
    await waitFor(() => expect(figure('Filled area')).toBe('65.03 mm²'))
    fireEvent.change(screen.getByRole('slider', { name: 'Layer' }), { target: { value: '41' } })
    act(() => useBuild.setState({ pieces: [drawnAs('p', [0, 0, 0], [15.3, 8.5, 3.1])] }))
    expect(figure('Layer')).toBe('15 of 15')
  })
  it('of an inch part are told in inches, the chart too', async () => {
    layers({ unit: 'in' })
    await waitFor(() => expect(figure('Filled area')).toBe('0.1008 in²'))
    expect(figure('Cut at height')).toBe('0.0059 in')
    expect(document.body.textContent).toContain('Filled area by layer in²')
    expect(document.body.textContent).not.toContain('mm')
  })
  it('of several pieces each is told by its name', async () => {
    const own = partOf([])
    const pieces = [
      { ...own.pieces[0]!, name: 'base' },
      { ...own.pieces[0]!, id: 'q', name: 'lid' },
    ]
    asked.mockImplementation((name) =>
      name === 'areas' ? [] : [section(own.pieces[0]!.id, 40.25), section('q', 24.5)],
    )
    layers({ pieces })
    await waitFor(() => expect(figure('Filled area')).toBe('64.75 mm²'))
    expect(screen.getAllByRole('listitem').map((each) => each.textContent)).toEqual(['base40.25 mm²', 'lid24.5 mm²'])
  })
  it('compensated they are asked for as such', async () => {
    const { user } = layers()
    await waitFor(() => expect(figure('Filled area')).toBe('65.03 mm²'))
    expect(cutAt().at(-1)).toMatchObject({ compensated: false })
    await user.click(screen.getByRole('combobox', { name: 'Compensation' }))
    await user.click(await screen.findByRole('option', { name: 'compensated for the printer' }))
    await waitFor(() => expect(cutAt().at(-1)).toMatchObject({ compensated: true }))
  })
})
