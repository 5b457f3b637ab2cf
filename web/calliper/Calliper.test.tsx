import { act, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { shown } from '../testing/page.tsx'
import { Calliper } from './Calliper.tsx'

/** A line whose other end is the test. */
class Line {
  static readonly OPEN = 1
  static last: Line | undefined
  readyState = 0
  readonly sent: unknown[] = []
  onopen: () => void = () => undefined
  onclose: () => void = () => undefined
  onmessage: (event: { data: string }) => void = () => undefined
  constructor() {
    Line.last = this
  }
  send(text: string): void {
    this.sent.push(JSON.parse(text))
  }
  close(): void {
    this.readyState = 3
  }
}
const line = () => Line.last!
const connect = () =>
  act(() => {
    line().readyState = Line.OPEN
    line().onopen()
  })
const hears = (message: object) => act(() => line().onmessage({ data: JSON.stringify(message) }))

const real = globalThis.WebSocket
beforeEach(() => vi.stubGlobal('WebSocket', Line))
afterEach(() => {
  vi.stubGlobal('WebSocket', real)
  vi.restoreAllMocks()
})

const jaw = () => screen.getByRole('slider', { name: 'Jaw' })
const reading = () => jaw().getAttribute('aria-valuetext')
const status = () => screen.getAllByRole('status').map((each) => each.textContent)
function opened() {
  const page = shown(<Calliper />)
  jaw().focus()
  return page
}

describe('the calliper', () => {
  it('is moved by the arrow keys, a hundredth or a whole mm, and never past its ends', async () => {
    const { user } = opened()
    await user.keyboard('{ArrowRight}{ArrowUp}{Shift>}{ArrowRight}{/Shift}')
    expect(reading()).toBe('1.02 mm')
    await user.keyboard('{ArrowDown}{Shift>}{ArrowLeft}{ArrowLeft}{/Shift}')
    expect(reading()).toBe('0 mm')
  })
  it('reads in inches, and from where it was zeroed', async () => {
    const { user } = opened()
    await user.keyboard('{Shift>}{ArrowRight}{ArrowRight}{/Shift}')
    await user.click(screen.getByRole('button', { name: 'to inches' }))
    expect(reading()).toBe('0.0787 in')
    await user.click(screen.getByRole('button', { name: 'to mm' }))
    await user.click(screen.getByRole('button', { name: 'Zero here' }))
    expect(reading()).toBe('0 mm')
    jaw().focus()
    await user.keyboard('{Shift>}{ArrowLeft}{/Shift}')
    expect(reading()).toBe('-1 mm')
    await user.click(screen.getByRole('button', { name: 'True zero' }))
    expect(reading()).toBe('1 mm')
  })
  it('scatters about the true size of what is between its jaws', async () => {
    const { user } = opened()
    vi.spyOn(Math, 'random').mockReturnValue(0.25)
    await user.click(screen.getByRole('button', { name: 'lantern rod' }))
    // cos(2π · 0.25) = 0
    expect(reading()).toBe('22.03 mm')
    vi.spyOn(Math, 'random').mockReturnValue(0.5)
    await user.click(screen.getByRole('button', { name: 'lantern rod' }))
    // √(−2 ln 0.5) · cos π = −1.1774; 22.03 − 0.015 · 1.1774
    expect(reading()).toBe('22.01 mm')
  })
  it('sends what it shows, in its unit, and says how many parts took it', async () => {
    const { user } = opened()
    expect(status()).toContain('no connection; trying again')
    connect()
    expect(status()).toContain('connected')
    await user.keyboard('{Shift>}{ArrowRight}{ArrowRight}{/Shift} ')
    await user.click(screen.getByRole('button', { name: 'to inches' }))
    await user.click(screen.getByRole('button', { name: 'Send the reading' }))
    expect(line().sent).toEqual([
      { type: 'reading', value: 2, unit: 'mm' },
      { type: 'reading', value: 0.0787, unit: 'in' },
    ])
    hears({ type: 'taken', pages: 0 })
    expect(status()).toContain('No part is open to take it.')
    hears({ type: 'taken', pages: 1 })
    expect(status()).toContain('Sent to 1 open part.')
    hears({ type: 'taken', pages: 2 })
    expect(status()).toContain('Sent to 2 open parts.')
    hears({ type: 'refused', reason: 'too long' })
    expect(status()).toContain('The reading was refused: too long.')
  })
  it('says that a reading did not go out where there is no connection', async () => {
    const { user } = opened()
    await user.click(screen.getByRole('button', { name: 'Send the reading' }))
    expect(status()).toContain('There is no connection to Makrel; the reading was not sent.')
    expect(line().sent).toEqual([])
  })
  it('tries again after a loss, and does not once it is closed', () => {
    vi.useFakeTimers()
    try {
      const { unmount } = opened()
      connect()
      const first = line()
      act(() => first.onclose())
      expect(status()).toContain('no connection; trying again')
      act(() => void vi.advanceTimersByTime(1100))
      expect(line()).not.toBe(first)
      const second = line()
      unmount()
      second.onclose()
      vi.advanceTimersByTime(60_000)
      expect(line()).toBe(second)
    } finally {
      vi.useRealTimers()
    }
  })
})
