import { newPiece, onBed, type Part } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { jointOf } from '@makrel/core/joints'
import type { Freedom } from '@makrel/core/mechanism'
import type { SwingPosition } from '@makrel/core/proof'
import { partOf, step } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { SwingBar } from './SwingBar.tsx'
import type { Swing } from './swing.ts'

const part = (kind: string, change: Partial<Part> = {}): Part => {
  const base = partOf([step('b', 'plate', { width: '61.9', depth: '53', height: '6.35' })], change)
  const lid = { ...newPiece('p2', 'Lid', 'sand'), steps: [step('l', 'plate', { width: '20' })] }
  const post = { ...newPiece('p3', 'Post', 'sand'), steps: [step('q', 'plate', { width: '20' })] }
  const joint = {
    ...{ id: 'j', name: '', kind, pieces: ['p1', 'p2'] as const, place: onBed },
    fields: defaultFields(jointOf(kind)!.fields, change.unit),
  }
  return {
    ...base,
    pieces: [{ ...base.pieces[0]!, name: 'Box' }, lid, post],
    joints: [joint as Part['joints'][number]],
  }
}
const turning: Freedom = { label: 'folding', unit: 'degrees', from: 0, to: 180, atRest: 0, told: { to: 'opens' } }
const sliding: Freedom = { label: 'sliding', unit: 'mm', from: 0, to: 50.8, atRest: 0 }

const at = (change: Partial<SwingPosition> = {}): SwingPosition => ({
  ...{ positions: {}, gap: 0.254, collisions: [], off: 0 },
  nearest: { pieces: ['p1', 'p2'], from: [0, 0, 0], to: [0, 0, 0.254] },
  ...change,
})
const swing = (here: SwingPosition | undefined, change: Partial<Swing> = {}): Swing => ({
  ...{ here: here && { at: here, motions: {} }, sweep: [], smallest: undefined, ownSmallest: undefined },
  ...{ reach: undefined, failure: undefined },
  ...change,
})

function Bar(props: { readonly of: Swing; readonly freedoms: readonly Freedom[]; readonly off?: number }) {
  const joint = usePart((state) => state.part!.joints[0]!)
  return (
    <SwingBar
      joint={joint}
      freedoms={props.freedoms}
      positions={props.freedoms.map(({ atRest }) => atRest)}
      over={0}
      onPosition={() => undefined}
      swing={props.of}
      off={props.off ?? 0}
      onDrawn={undefined}
    />
  )
}
const bar = (of: Swing, freedoms: readonly Freedom[] = [turning], own = part('pin-hinge'), off?: number) =>
  shown(<Bar of={of} freedoms={freedoms} {...(off === undefined ? {} : { off })} />, own)
const gap = () => screen.getByTestId('gap-here').textContent
const said = () => document.body.textContent

describe('the gap where a joint stands', () => {
  it.each([
    [at(), '0.254 mm', '0.01 in'],
    [at({ gap: undefined, nearest: undefined }), 'over 10 mm', 'over 0.3937 in'],
    [at({ gap: 0, nearest: undefined }), 'touches', 'touches'],
    [
      at({ gap: 0, collisions: [{ pieces: ['p1', 'p2'], volume: 249.3 }] }),
      'collides, 249.3 mm³',
      'collides, 0.01521 in³',
    ],
  ])('%o: %s, in inches %s', (position, mm, inches) => {
    const { unmount } = bar(swing(position))
    expect(gap()).toBe(mm)
    unmount()
    bar(swing(position), [turning], part('pin-hinge', { unit: 'in' }))
    expect(gap()).toBe(inches)
  })
  it('is not known before it was measured', () => {
    bar(swing(undefined))
    expect(gap()).toBe('…')
  })
  it('says between which pieces, and what this joint’s own are where others are nearer', () => {
    bar(swing(at({ gap: 0.11, own: 0.4, nearest: { pieces: ['p2', 'p3'], from: [0, 0, 0], to: [0, 0, 1] } })))
    expect(said()).toContain('Lid and Post')
    expect(said()).toContain('this joint’s pieces 0.4 mm')
  })
  it('is not told twice where this joint’s own pieces are nearest', () => {
    bar(swing(at({ own: 0.254 })))
    expect(said()).toContain('Box and Lid')
    expect(said()).not.toContain('this joint’s pieces')
  })
})

describe('over its travel', () => {
  const measured = swing(at(), {
    smallest: { position: 25.4, gap: 0.127 },
    sweep: [{ position: 25.4, at: at({ gap: 0.127 }) }],
  })
  it('the smallest gap is told with where it is, in degrees or in the part’s unit', () => {
    const { unmount } = bar(measured)
    expect(said()).toContain('0.127 mm at 25.4°')
    unmount()
    const inches = bar(measured, [sliding], part('pin-hinge', { unit: 'in' }))
    expect(said()).toContain('0.005 in at 1 in')
    expect(said()).toContain('Smallest gap over the travel, in;')
    inches.unmount()
    bar(measured, [sliding])
    expect(said()).toContain('0.127 mm at 25.4 mm')
  })
  it('it is counted while it is measured, and pieces that meet have none', () => {
    const { unmount } = bar(swing(at(), { sweep: [{ position: 0, at: at() }] }))
    expect(said()).toContain('measuring 1 …')
    unmount()
    bar(swing(at(), { smallest: { position: 25.4, gap: 0 } }))
    expect(said()).toContain('pieces meet')
  })
  it('says where pieces meet, and ends its travel there by one press', async () => {
    const reach = [undefined, { position: 91.37, pieces: ['p2', 'p3'] }] as unknown as Swing['reach']
    const { user } = bar(swing(at(), { reach }))
    expect(said()).toContain('Beyond 91.37° Lid and Post meet.')
    await user.click(screen.getByRole('button', { name: 'End its travel there' }))
    expect(partNow().joints[0]!.fields).toMatchObject({ opens: '91.37' })
  })
  it('a travel that no field tells is only said', () => {
    const reach = [{ position: 12.7, pieces: undefined }, undefined] as unknown as Swing['reach']
    bar(swing(at(), { reach }), [sliding], part('pin-hinge', { unit: 'in' }))
    expect(said()).toContain('Beyond 0.5 in its loop locks.')
    expect(screen.queryByRole('button', { name: 'End its travel there' })).toBeNull()
  })
})

describe('the bar', () => {
  it('says that nothing moves, or that the linkage cannot be there', () => {
    const { unmount } = bar(swing(at()), [])
    expect(said()).toBe('This joint holds its pieces together; nothing of it moves.')
    unmount()
    bar(swing(at()), [turning], part('pin-hinge'), 1.27)
    expect(screen.getByRole('alert').textContent).toContain('a joint is 1.27 mm apart')
  })
  it('plays and stops', async () => {
    const frames = vi.spyOn(window, 'requestAnimationFrame').mockReturnValue(1)
    const { user } = bar(swing(at()))
    await user.click(screen.getByRole('button', { name: 'Play its travel' }))
    expect(screen.getByRole('button', { name: 'Stop playing' }).getAttribute('aria-pressed')).toBe('true')
    await user.click(screen.getByRole('button', { name: 'Stop playing' }))
    expect(screen.getByRole('button', { name: 'Play its travel' })).toBeTruthy()
    frames.mockRestore()
  })
})
