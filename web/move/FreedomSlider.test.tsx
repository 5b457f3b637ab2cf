import type { Freedom } from '@makrel/core/mechanism'
import { workOut } from '@makrel/core/planning'
import { partOf } from '@makrel/core/testing'
import { fireEvent, screen } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import { shown } from '../testing/page.tsx'
import { FreedomSlider } from './FreedomSlider.tsx'

const turning = { unit: 'degrees', from: -15.3, to: 85.1, rest: 0 } as unknown as Freedom
const whole = { ...turning, from: 0, to: 360, period: 360 } as unknown as Freedom
const sliding = { unit: 'mm', from: 0, to: 37.3, rest: 0 } as unknown as Freedom

let moves: number[] = []

function Held({ freedom, unit }: { readonly freedom: Freedom; readonly unit: 'mm' | 'in' }) {
  const [position, setPosition] = useState(0)
  return (
    <>
      <FreedomSlider
        {...{ label: 'lid', freedom, position }}
        names={workOut(partOf([], { unit })).resolved.measures.names}
        onPosition={(next) => {
          moves.push(next)
          setPosition(next)
        }}
      />
      <button type="button" onClick={() => setPosition(20)}>
        swing
      </button>
    </>
  )
}

function held(freedom: Freedom, unit: 'mm' | 'in' = 'mm') {
  moves = []
  const { user } = shown(<Held freedom={freedom} unit={unit} />, partOf([], { unit }))
  return { user, typed: screen.getByLabelText<HTMLInputElement>('lid to'), slider: screen.getByLabelText('lid') }
}

describe('a freedom', () => {
  it('goes to what is typed, and reads so as long as nothing else moves it', async () => {
    const { user, typed, slider } = held(turning)
    await user.click(typed)
    await user.keyboard('30 + 7.3{Enter}')
    expect(moves.at(-1)).toBeCloseTo(37.3, 9)
    expect(typed.value).toBe('30 + 7.3')
    expect(slider.getAttribute('aria-valuetext')).toBe('37.3°')
    await user.click(screen.getByText('swing'))
    expect(typed.value).toBe('20°')
  })
  it('does not go beyond its ends, and says where they are', async () => {
    const { user, typed } = held(turning)
    await user.click(typed)
    await user.keyboard('85.2{Enter}')
    expect(screen.getByRole('alert').textContent).toBe('It goes from -15.3° to 85.1°.')
    expect(moves.every((at) => at <= 85.1)).toBe(true)
    await user.keyboard('85.1{Enter}')
    expect(moves.at(-1)).toBeCloseTo(85.1, 9)
    expect(screen.queryByRole('alert')).toBeNull()
  })
  it('that comes round goes on over its end', async () => {
    const { user, typed } = held(whole)
    await user.click(typed)
    await user.keyboard('400{Enter}')
    expect(moves.at(-1)).toBe(400)
    expect(screen.queryByRole('alert')).toBeNull()
  })
  it('is typed in the unit of the part, and drawn in mm', async () => {
    const { user, typed, slider } = held(sliding, 'in')
    await user.click(typed)
    await user.keyboard('1/3{Enter}')
    expect(moves.at(-1)).toBeCloseTo(25.4 / 3, 9)
    fireEvent.change(slider, { target: { value: '12.7' } })
    expect(moves.at(-1)).toBeCloseTo(12.7, 1)
    expect(typed.value).toMatch(/^0\.5/)
  })
})
