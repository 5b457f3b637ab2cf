import { partOf, step } from '@makrel/core/testing'
import { act, screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { type DrawnPiece, type KnownFigures, useBuild } from '../state/build.ts'
import type { Proving } from '../state/proving.ts'
import { partNow, shown } from '../testing/page.tsx'
import { useView } from '../viewport/view.ts'
import { TitleBlock } from './TitleBlock.tsx'

const part = (unit: 'mm' | 'in' = 'mm') => {
  const block = step('b', 'plate', { width: '61.3 mm', depth: '37.7 mm', height: '8.2 mm' })
  return partOf([block, { ...step('h', 'hole', { diameter: '5.3 mm' }), mute: true }], { unit })
}

const volume = 61.3 * 37.7 * 8.2
const piece = (key: string) =>
  ({ id: 'p', key, volume, bounds: { min: [0, 0, 0], max: [61.3, 37.7, 8.2] } }) as unknown as DrawnPiece
const figures = (key: string, off: number) =>
  ({
    ...{ key, way: 'exact', faceted: volume, error: { volume: off, area: 0 } },
    mass: { volume, area: 1, first: [volume * 30.65, volume * 18.85, volume * 4.1], second: [1, 1, 1, 0, 0, 0] },
  }) as unknown as KnownFigures

function foot(change: Partial<ReturnType<typeof useBuild.getState>> = {}, of = part()) {
  const { user } = shown(<TitleBlock />, of)
  act(() => useBuild.setState({ pieces: [piece('k')], figures: { p: figures('k', 0) }, ...change }))
  const read = (label: string) =>
    screen.queryByText(label, { selector: 'dt' })?.parentElement?.querySelector('dd')?.textContent
  return { user, read }
}

describe('the foot of the drawing', () => {
  it('says what the part comes to', () => {
    const { read } = foot()
    expect(read('Overall')).toBe('61.3 × 37.7 × 8.2 mm')
    expect(read('Volume')).toBe('18.95 cm³')
    expect(read('Left out')).toBe('1')
    expect(screen.getByText('30.65, 18.85, 4.1')).toBeTruthy()
  })
  it('speaks the unit of the part', () => {
    expect(foot({}, part('in')).read('Overall')).toMatch(/^2\.413 × 1\.484 × 0?\.323 in$/)
  })
  it('gives a volume of before as about so much while it is measured', () => {
    const { read } = foot({ figures: { p: figures('of before', 0) } })
    expect(read('Volume')).toMatch(/^≈ 18.95/)
    expect(screen.queryByText('30.65, 18.85, 4.1')).toBeNull()
  })
  it('gives none where nothing is known yet, and says where it could not be measured', () => {
    const { read } = foot({ figures: {} })
    expect(read('Volume')).toBe('…')
    act(() => useBuild.setState({ answered: partNow(), unmeasured: { of: partNow(), why: 'a step failed' } }))
    expect(read('Volume')).toBe('not measured')
  })
  it('gives no figures of a part without material', () => {
    const { read } = foot({ pieces: [], figures: {} })
    expect([read('Overall'), read('Volume')]).toEqual(['—', '—'])
  })
  it('is marked as old while something long is built', () => {
    foot({ slow: true })
    expect(document.querySelector('dl')?.getAttribute('aria-busy')).toBe('true')
  })
  it('has no word of a proof but that of this very part', () => {
    const { read } = foot()
    const proving = (change: Partial<Proving>): Proving => ({
      ...{ of: partNow(), state: 'done', done: 1, total: 1 },
      findings: [{ code: 'c', values: {}, about: [], rank: 'pass', text: 'Closed.' }] as never,
      ...change,
    })
    const word = (change: Partial<Proving>) => {
      act(() => useBuild.setState({ proving: proving(change) }))
      return read('Proof')
    }
    expect(word({})).toBe('passed')
    expect(word({ of: part() })).toBe('…')
    expect(word({ state: 'running' })).toBe('…')
    expect(word({ state: 'stopped' })).toBe('not proved')
    expect(word({ state: 'failed' })).toBe('failed')
    expect(word({ findings: [] })).toBe('not proved')
  })
  it('marks the centre of mass on the drawing, and takes the mark away', async () => {
    const { user } = foot()
    const centre = screen.getByRole('button', { name: /Centre of mass/ })
    await user.click(centre)
    expect(useView.getState().centreMark).toBe(true)
    await user.click(centre)
    expect(useView.getState().centreMark).toBe(false)
  })
})
