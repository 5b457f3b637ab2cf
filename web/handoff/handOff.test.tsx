import type { Receipt, StayedIn, UsualFineness } from '@makrel/core/exchange'
import { shippedPrinters } from '@makrel/core/fits'
import type { Finding } from '@makrel/core/proof'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import { type DrawnPiece, useBuild } from '../state/build.ts'
import { choose, shown } from '../testing/page.tsx'
import { type Choices, chosenOf, finenessOf, sizeOf } from './choices.ts'
import { HandOffChoices } from './HandOffChoices.tsx'
import { ReceiptTable } from './ReceiptTable.tsx'

const part = (unit: 'mm' | 'in' = 'mm') =>
  partOf([step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })], { unit, printer: shippedPrinters[0]! })
const plain: UsualFineness = { fineness: 0.02, for: 'nothing', off: 0 }

/** What was chosen so far. */
let now: Choices

function Held({ usual, faults }: { usual: UsualFineness; faults: { fineness?: string; size?: string } }) {
  const [choices, setChoices] = useState(() => chosenOf({ maker: {}, parts: [] }, 'p'))
  now = choices
  return <HandOffChoices {...{ choices, faults, usual }} onChange={(change) => setChoices({ ...choices, ...change })} />
}

function choosing(of = part(), { usual = plain, faults = {} }: Partial<Parameters<typeof Held>[0]> = {}) {
  const { user } = shown(<Held usual={usual} faults={faults} />, of)
  const bounds = { min: [-30.65, -18.85, 0], max: [30.65, 18.85, 8.2] }
  act(() => useBuild.setState({ pieces: [{ id: of.pieces[0]!.id, bounds }] as unknown as DrawnPiece[] }))
  return { user }
}
const labels = () => [...document.querySelectorAll('span.font-semibold')].map((each) => each.textContent)

describe('what is handed off', () => {
  it('has no variants nor poses to choose where there are none', () => {
    choosing()
    expect(labels()).toEqual(['Format', 'Pieces', 'Fineness', 'Size', 'Compensation', 'Unit'])
  })
  it('has them where there are', () => {
    const of = { ...part(), variants: [{ id: 'v', name: 'wide', values: {} }] }
    choosing(of)
    expect(labels()).toContain('Variants')
  })
  it('begins a size with the one that is drawn', async () => {
    const { user } = choosing()
    await choose(user, 'Size', 'to a width of')
    expect(screen.getByLabelText<HTMLInputElement>('Size, to a width of').value).toBe('61.3')
    expect(sizeOf(now, 'mm')).toEqual({ by: 'width', mm: 61.3 })
    await choose(user, 'Size', 'scaled to')
    expect(screen.getByLabelText<HTMLInputElement>('Per cent of the drawn size').value).toBe('100')
    expect(sizeOf(now, 'mm')).toEqual({ by: 'factor', factor: 1 })
    await choose(user, 'Size', 'as drawn')
    expect(sizeOf(now, 'mm')).toBeUndefined()
  })
  it('shows a size in the unit of the part', async () => {
    const { user } = choosing(part('in'))
    await choose(user, 'Size', 'to a height of')
    expect(screen.getByLabelText<HTMLInputElement>('Size, to a height of').value).toMatch(/^0?\.323/)
  })
  it('takes a fineness of its own, and says at its field why it cannot be used', async () => {
    const { user } = choosing(part(), { faults: { fineness: 'Fineness must be 0.001 mm or more.' } })
    await choose(user, 'Fineness', 'another')
    const field = screen.getByLabelText('Fineness in mm')
    await user.clear(field)
    await user.type(field, '0.0371')
    expect(finenessOf(now, plain)).toBeCloseTo(0.0371, 9)
    expect(field.getAttribute('aria-invalid')).toBe('true')
    expect(screen.getByRole('alert').textContent).toBe('Fineness must be 0.001 mm or more.')
  })
  it('says why a part needs a finer one', () => {
    choosing(part(), { usual: { fineness: 0.01, for: 'volume', off: 0.00451 } })
    expect(screen.getByText(/would change its volume by 0.45 %/)).toBeTruthy()
    expect(finenessOf(now, { fineness: 0.01, for: 'volume', off: 0.00451 })).toBe(0.01)
  })
  it('says whether the file tells its unit', async () => {
    const { user } = choosing()
    expect(screen.getByText('The file states it.')).toBeTruthy()
    await choose(user, 'Format', 'STL')
    expect(screen.getByText(/The file does not state it/)).toBeTruthy()
  })
})

const receipt: Receipt = {
  ...{ format: '3mf', file: 'hook.3mf', variant: '', pose: '', unit: 'mm, stated', scale: 1, size: undefined },
  ...{ bytes: 12345, fineness: 0.02, pieces: ['hook'], piecesRead: 1, closed: true, oriented: true },
  ...{ triangles: 1234, solids: 1, cavities: [], volume: 9469.2141, solidVolume: 9469.2142, trueVolume: 9470.1 },
  ...{ trueWay: 'extrapolated', trueError: 0.02, warnings: [], area: 1000, compensation: undefined, muted: [] },
  ...{ hardware: [], pauses: [] },
  ...{ min: [0, 0, 0], max: [61.3, 37.7, 8.2], drawn: { min: [0, 0, 0], max: [61.3, 37.7, 8.2], volume: 9469.2142 } },
}
const pass = [{ code: 'closed', values: {}, about: [], rank: 'pass', text: 'Closed.' }] as unknown as Finding[]

describe('a receipt', () => {
  const told = (change: Partial<Receipt> = {}, findings: readonly Finding[] = pass, current = true) => {
    shown(
      <ReceiptTable
        {...{ receipt: { ...receipt, ...change }, findings, current, shown: undefined }}
        onShow={() => undefined}
      />,
      part(),
    )
    const row = (label: string) => screen.queryByText(label, { selector: 'dt' })?.parentElement
    return {
      text: (label: string) => row(label)?.querySelector('dd')?.textContent,
      passed: (label: string) => within(row(label)!).queryAllByRole('img').length > 0,
    }
  }
  it('says what was measured, and marks what agrees', () => {
    const { text, passed } = told()
    expect(text('Size')).toBe('61.3 × 37.7 × 8.2 mm')
    expect(text('Volume, solid')).toMatch(/^9469.214 mm³: off by 0.000001 %/)
    expect(text('Faceting error')).toBe('− 0.009 %')
    expect(text('Compensation')).toBe('none: as drawn')
    expect(['Surface', 'Triangles', 'Volume, solid', 'Proof, again'].map(passed)).toEqual([true, true, true, true])
    expect(text('Scaled')).toBeUndefined()
  })
  it('marks nothing as right that is not', () => {
    const fault = [{ ...pass[0]!, rank: 'fault' as const, text: 'It floats.' }]
    const { text, passed } = told({ closed: false, oriented: false, volume: 9460, warnings: ['coarse'] }, fault)
    expect(text('Surface')).toBe('open')
    const all = ['Surface', 'Triangles', 'Volume, solid', 'Faceting error', 'Proof, again']
    expect(all.map(passed)).toEqual([false, false, false, false, false])
    expect(text('Proof, again')).toBe('1 fault')
  })
  it('of a file without any finding does not say that it was proved', () => {
    const { text, passed } = told({}, [])
    expect(text('Proof, again')).toBe('not proved')
    expect(passed('Proof, again')).toBe(false)
  })
  it('tells the error where it counts, and how large it was made', () => {
    const { text } = told({ trueError: 3.1, scale: 1.6129, size: { by: 'height', mm: 120 } })
    expect(text('Volume, true rounds')).toBe('9470.100 mm³ ± 3.1, extrapolated')
    expect(text('Scaled')).toBe('to 161.29 %, for a height of 120 mm')
    expect([text('Size, file'), text('Size, drawn')]).toEqual(['61.3 × 37.7 × 8.2 mm', '61.3 × 37.7 × 8.2 mm'])
    expect(text('Proof, as drawn')).toBe('passed')
  })
  it('counts closed cavities', () => {
    expect(told({ cavities: [4190, 21.3] }).text('Solids')).toMatch(/^1, with closed cavities of 4.19 cm³, /)
  })
  it('is of the part before once that was changed', () => {
    told({}, pass, false)
    expect(screen.getByRole('heading').textContent).toBe('Receipt — the part has changed since')
  })
})

it('what stays as it is drawn can be shown on the drawing, while the part is the same', async () => {
  const stayed = { piece: 'hook', warning: 'A wall stays as drawn.', area: 3, at: [0, 0, 0] } as unknown as StayedIn
  const compensation = {
    ...{ printer: 'Tern 220', material: 'PLA', shrinkage: 0, flare: 0, firstLayer: 0.2, origins: [], stayed: [stayed] },
    ...{ walls: 0.04, holes: 0.1, rounds: 0.1, outer: 0.04, inner: 0.04 },
  } as unknown as NonNullable<Receipt['compensation']>
  const asked: (StayedIn | undefined)[] = []
  const table = (current: boolean, showing: StayedIn | undefined) => (
    <ReceiptTable
      receipt={{ ...receipt, compensation, warnings: ['A wall stays as drawn.', 'Coarse.'] }}
      {...{ findings: pass, current, shown: showing }}
      onShow={(each) => asked.push(each)}
    />
  )
  const { user, rerender } = shown(table(true, undefined), part())
  await user.click(screen.getByRole('button', { name: 'Show it' }))
  expect(asked).toEqual([stayed])
  rerender(table(true, stayed))
  await user.click(screen.getByRole('button', { name: 'Hide it' }))
  expect(asked).toEqual([stayed, undefined])
  rerender(table(false, undefined))
  expect(screen.queryByRole('button')).toBeNull()
})
